"""Moves on a recipe: swaps of a line or for a goal, compared before they are taken, repairs, and
cuts spread over dates."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core.catalogue.roles import role_sentence, roles_of
from fresh_ladle.core.catalogue.swap import Swap
from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.core.recipes.edits import Edit, EditKind
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.swaps.apply import applied_swap, with_swap
from fresh_ladle.core.swaps.goals import MORE, Goal, goals_of
from fresh_ladle.core.swaps.gradual_reduction import gradual_reduction
from fresh_ladle.core.swaps.repairs import with_repair
from fresh_ladle.store import clock
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.counter.response import Revision, edit_response
from fresh_ladle.web.places.counter.swaps_view import (
    SHARES,
    goal_views,
    line_swaps,
    repair_views,
    swap_view,
)
from fresh_ladle.web.shared.page import lens_of, load_work, page
from fresh_ladle.web.shared.questions import lens_figure
from fresh_ladle.web.shared.typed import optional_number
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router("/recipes/{recipe_id}")
MAX_COMPARED = 3


def _swap_called(workbench: Workbench, swap_id: str) -> Swap:
    swap = next((s for s in workbench.knowledge.swaps if s.id == swap_id), None)
    if swap is None:
        raise RecipeError(f"no swap is called {swap_id!r}")
    return swap


@router.get("/lines/{line_id}/swaps", response_class=HTMLResponse)
def swaps(
    request: Request, recipe_id: int, line_id: str, share: float | None = None
) -> HTMLResponse:
    """A line's drawer: mending it, its swaps, and a cut spread over dates."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    portion = now.portion(work.draft.recipe.line(line_id).id)
    part = share if share is not None and 0 < share <= 1 else None
    views = None
    if portion.known:
        views = line_swaps(
            workbench, now, work.original, line_id, work.profile, part, lens_of(request)
        )
    role = ""
    if portion.food is not None:
        plain = "salt" if portion.food.group == "salt-salty" else "oil"
        role = role_sentence(plain, roles_of(portion.line, portion.food, work.draft.recipe.kind))
    return page(
        request,
        "places/counter/drawers/swaps.html",
        swaps=views,
        line=portion.line,
        name=portion.food.name if portion.food else portion.line.text,
        portion=portion,
        labels=workbench.knowledge.preparations.labels,
        shares=SHARES,
        share=part,
        recipe_id=recipe_id,
        revision=work.draft.revision,
        profile=work.profile,
        role=role,
        today=clock.now().astimezone().date().isoformat(),
    )


@router.get("/lines/{line_id}/swaps/{swap_id}", response_class=HTMLResponse)
def one_swap(
    request: Request,
    recipe_id: int,
    line_id: str,
    swap_id: str,
    share: Annotated[float, Query(gt=0, le=1)],
) -> HTMLResponse:
    """The card of one swap, opened from its line in the list."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    made = applied_swap(
        now, line_id, _swap_called(workbench, swap_id), workbench.knowledge, work.original, share
    )
    return page(
        request,
        "places/counter/move.html",
        m=swap_view(made, work.original, work.profile, workbench),
        recipe_id=recipe_id,
        revision=work.draft.revision,
        profile=work.profile,
    )


@router.post("/lines/{line_id}/swaps/{swap_id}", response_class=HTMLResponse)
def take_swap(
    request: Request,
    recipe_id: int,
    line_id: str,
    swap_id: str,
    revision: Revision,
    share: Annotated[str, Form(max_length=8)] = "",
) -> Response:
    workbench = workbench_of(request)
    swap = _swap_called(workbench, swap_id)

    def change(recipe: Recipe) -> Recipe:
        part = optional_number(share, "the share")
        return with_swap(
            workbench.appraise(recipe), line_id, swap, workbench.knowledge.pantry, part
        )

    return edit_response(
        request, recipe_id, revision, change, Edit(EditKind.SWAP, {"title": swap.title})
    )


@router.get("/moves", response_class=HTMLResponse)
def moves(request: Request, recipe_id: int, goal: str = "") -> HTMLResponse:
    """Swaps of any line for one goal; without a goal, the one under the lens."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    figure = lens_figure(lens_of(request))
    chosen = Goal.parsed(goal or f"{'more' if figure in MORE else 'less'}:{figure}")
    choices = [(str(g), g.in_words(workbench.knowledge)) for g in goals_of(now)]
    foods = [
        (f"without:{p.line.food}", p.line.named or p.line.text)
        for p in now.portions
        if p.known and not p.batch_line
    ]
    return page(
        request,
        "places/counter/drawers/goal.html",
        moves=goal_views(workbench, now, work.original, chosen, work.profile),
        goal=str(chosen),
        words=chosen.in_words(workbench.knowledge),
        choices=choices,
        foods=foods,
        recipe_id=recipe_id,
        revision=work.draft.revision,
        profile=work.profile,
    )


@router.get("/moves/compare", response_class=HTMLResponse)
def compare(
    request: Request, recipe_id: int, pick: Annotated[list[str] | None, Query()] = None
) -> HTMLResponse:
    """Two or three swaps beside each other, each worked out on the draft as it stands."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    picks = (pick or [])[:MAX_COMPARED]
    if len(picks) < 2:
        raise RecipeError("tick two or three swaps to compare them")
    views = []
    for one in picks:
        line_id, _, rest = one.partition(":")
        swap_id, _, share = rest.partition(":")
        try:
            part = float(share)
        except ValueError:
            raise RecipeError(f"{one!r} is not a swap to compare") from None
        made = applied_swap(
            now, line_id, _swap_called(workbench, swap_id), workbench.knowledge, work.original, part
        )
        views.append(swap_view(made, work.original, work.profile, workbench))
    return page(
        request,
        "places/counter/drawers/swap_comparison.html",
        moves=views,
        recipe_id=recipe_id,
        revision=work.draft.revision,
        profile=work.profile,
    )


@router.get("/repairs", response_class=HTMLResponse)
def repairs(request: Request, recipe_id: int) -> HTMLResponse:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    found, ways = repair_views(workbench, now, work.original, work.profile)
    return page(
        request,
        "places/counter/drawers/repairs.html",
        moves=found,
        ways=ways,
        recipe_id=recipe_id,
        revision=work.draft.revision,
        profile=work.profile,
    )


@router.post("/repairs/{repair_id}", response_class=HTMLResponse)
def take_repair(
    request: Request,
    recipe_id: int,
    repair_id: str,
    revision: Revision,
    dose: Annotated[float, Form(gt=0, le=2)],
) -> Response:
    workbench = workbench_of(request)
    repair = next(
        (r for r in workbench.knowledge.repairs if r.id == repair_id and r.computed), None
    )
    if repair is None:
        raise RecipeError(f"no repair is called {repair_id!r}")

    def change(recipe: Recipe) -> Recipe:
        return with_repair(workbench.appraise(recipe), repair, dose, workbench.knowledge.pantry)

    return edit_response(
        request, recipe_id, revision, change, Edit(EditKind.REPAIR, {"title": repair.title})
    )


@router.get("/lines/{line_id}/reduction", response_class=HTMLResponse)
def reduce_gradually(
    request: Request,
    recipe_id: int,
    line_id: str,
    first: date,
    cut: Annotated[float, Query(gt=0, le=0.9)] = 0.3,
    days: Annotated[int, Query(ge=1, le=180)] = 14,
) -> HTMLResponse:
    """A cut of one line spread over serving dates, so that no step is noticed."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    nutrient = lens_figure(lens_of(request))
    now = workbench.appraise(work.draft.recipe)
    reduction = gradual_reduction(now, line_id, cut, first, days, nutrient, workbench.knowledge)
    line = work.draft.recipe.line(line_id)
    rows = [
        (
            r.on.strftime("%a %d %b %Y"),
            r.amount,
            f"{nutrient_amount(nutrient, r.figure)} {NUTRIENT[nutrient].unit}",
            f"{abs(r.step):.1f}",
        )
        for r in reduction
    ]
    return page(
        request,
        "places/counter/gradual_reduction.html",
        rows=rows,
        line=line,
        figure=NUTRIENT[nutrient].said,
        recipe_id=recipe_id,
        revision=work.draft.revision,
        amounts=[r.amount for r in reduction],
        start=(
            f"{nutrient_amount(nutrient, now.totals.serving[nutrient].value)}"
            f" {NUTRIENT[nutrient].unit}"
        ),
    )
