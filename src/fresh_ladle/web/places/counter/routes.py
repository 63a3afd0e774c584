"""The Counter: edits in place, undo, where a number comes from, keeping a version."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import BaseModel, ConfigDict, Field

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.batches import batch_line, share_of, with_batch
from fresh_ladle.core.amounts.kitchen import nudged
from fresh_ladle.core.amounts.weigh import weigh
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.edits import Edit, EditKind, edits_words
from fresh_ladle.core.recipes.merge import merge
from fresh_ladle.core.recipes.ordering import moved, placed
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import check_known
from fresh_ladle.store.recipes.drafts import (
    StaleEdit,
    draft,
    edits_since_version,
    redo,
    save_version,
    undo,
)
from fresh_ladle.store.recipes.profiles import profile
from fresh_ladle.store.recipes.recipes import versions
from fresh_ladle.store.recipes.shelf import ShelfQuery, shelf_page
from fresh_ladle.store.recipes.waiting_edits import end_waiting, waiting_edit
from fresh_ladle.store.settings import set_tour
from fresh_ladle.web.door.guarded import guarded_router, require
from fresh_ladle.web.places.counter.account_view import axis_account, figure_account
from fresh_ladle.web.places.counter.response import Revision, counter_response, edit_response
from fresh_ladle.web.shared.page import lens_of, load_work, page, tour_of_draft
from fresh_ladle.web.shared.questions import open_questions
from fresh_ladle.web.shared.typed import optional_number, row_id
from fresh_ladle.web.state import workbench_of

MAX_OFFERED, MOST_TOUR_STEPS = 30, 20
"""Recipes offered to use a part of; more are found by name."""
LineId = Annotated[str, Form(max_length=12)]

router = guarded_router("/recipes/{recipe_id}")


@router.get("", response_class=HTMLResponse)
def counter(request: Request, recipe_id: int) -> HTMLResponse:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    return counter_response(request, workbench, work)


@router.post("/lines/{line_id}/amount", response_class=HTMLResponse)
def set_amount(
    request: Request,
    recipe_id: int,
    line_id: str,
    revision: Revision,
    amount: Annotated[str, Form(max_length=80)] = "",
) -> Response:
    workbench = workbench_of(request)

    def change(recipe: Recipe) -> Recipe:
        line = recipe.line(line_id)
        if line.batch is not None:
            grams = workbench.appraise(line.batch.recipe).totals.batch_grams.value
            return recipe.with_line(
                batch_line(line_id, replace(line.batch, share=share_of(amount, grams)))
            )
        food = workbench.knowledge.pantry.get(line.food)
        read = parse_amount(amount)
        if food is not None:
            weigh(read, food, (line.text, *line.remarks), recipe.region)
        return recipe.with_line(
            replace(line, amount=amount.strip(), settled=line.settled | {"amount"})
        )

    return edit_response(request, recipe_id, revision, change)


@router.post("/lines/{line_id}/nudge", response_class=HTMLResponse)
def nudge(
    request: Request,
    recipe_id: int,
    line_id: str,
    steps: Annotated[int, Form(ge=-20, le=20)],
    revision: Revision,
) -> Response:
    def change(recipe: Recipe) -> Recipe:
        line = recipe.line(line_id)
        if line.batch is not None:
            share = max(0.25, line.batch.share + 0.25 * steps)
            return recipe.with_line(batch_line(line_id, replace(line.batch, share=share)))
        if not line.amount:
            raise RecipeError("this line has no amount to nudge yet: type one first")
        return recipe.with_line(replace(line, amount=nudged(line.amount, steps)))

    return edit_response(request, recipe_id, revision, change)


@router.post("/lines/{line_id}/answer", response_class=HTMLResponse)
def answer_question(
    request: Request,
    recipe_id: int,
    line_id: str,
    revision: Revision,
    about: Annotated[Literal["food", "amount", "eaten"], Form()],
    answer: Annotated[str, Form(max_length=80)] = "",
) -> Response:
    """Takes an answer to a question about a line; an empty one sets the question aside and keeps
    the doubt."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    targets = work.profile.targets if work.profile else ()

    def change(recipe: Recipe) -> Recipe:
        line = recipe.line(line_id)
        if not answer:
            return recipe.with_line(replace(line, settled=line.settled | {f"{about} skipped"}))
        now = workbench.appraise(recipe)
        open_ones = open_questions(workbench, now, lens_of(request), targets)
        for question in open_ones:
            if (question.line_id, question.about) == (line_id, about):
                for offered in question.answers:
                    if offered.label == answer:
                        return recipe.with_line(offered.line)
        raise RecipeError("that question is no longer open")

    return edit_response(
        request,
        recipe_id,
        revision,
        change,
        Edit(EditKind.ANSWER, {"answer": answer}) if answer else Edit(EditKind.SET_ASIDE),
    )


@router.post("/lines/{line_id}/remove", response_class=HTMLResponse)
def remove(request: Request, recipe_id: int, line_id: str, revision: Revision) -> Response:
    return edit_response(request, recipe_id, revision, lambda recipe: recipe.without_line(line_id))


@router.post("/lines/{line_id}/mend", response_class=HTMLResponse)
def mend(
    request: Request,
    recipe_id: int,
    line_id: str,
    text: Annotated[str, Form(max_length=400)],
    revision: Revision,
) -> Response:
    """Reads a line again from new wording; more than one food makes more than one line."""
    workbench = workbench_of(request)

    def change(recipe: Recipe) -> Recipe:
        line = recipe.line(line_id)
        readings = workbench.reader.read_line(text, line.component, recipe.region)
        if not readings:
            raise RecipeError("the line is empty: type what goes in, or remove it")
        first, rest = readings[0], readings[1:]
        if not first.understood:
            raise RecipeError(first.problem or "the line was not understood")
        mended = recipe.with_line(replace(first.line, id=line_id))
        more = [
            replace(r.line, id=i) for r, i in zip(rest, mended.fresh_ids(len(rest)), strict=True)
        ]
        return mended.with_added(more, after=line_id) if more else mended

    return edit_response(request, recipe_id, revision, change)


@router.post("/lines/{line_id}/food", response_class=HTMLResponse)
def choose_food(
    request: Request,
    recipe_id: int,
    line_id: str,
    food: Annotated[str, Form(max_length=120)],
    revision: Revision,
) -> Response:
    """Counts a line as another food; its amount and what was done to it stay."""
    workbench = workbench_of(request)

    def change(recipe: Recipe) -> Recipe:
        line = recipe.line(line_id)
        if food not in workbench.knowledge.pantry:
            raise RecipeError("choose a food from the list")
        read = workbench.reader.read_as(line.text, food, line.component, recipe.region)
        if not read.understood:
            raise RecipeError(read.problem or "the line does not fit this food")
        return recipe.with_line(
            replace(
                read.line,
                id=line_id,
                amount=line.amount or read.line.amount,
                eaten=line.eaten,
                preparations=line.preparations or read.line.preparations,
                settled=line.settled | {"food"},
            )
        )

    return edit_response(request, recipe_id, revision, change)


@router.post("/lines/{line_id}/preparation", response_class=HTMLResponse)
def toggle_preparation(
    request: Request,
    recipe_id: int,
    line_id: str,
    preparation: Annotated[str, Form(max_length=40)],
    revision: Revision,
) -> Response:
    workbench = workbench_of(request)

    def change(recipe: Recipe) -> Recipe:
        if preparation not in workbench.knowledge.preparations.labels:
            raise RecipeError(f"no preparation is called {preparation!r}")
        line = recipe.line(line_id)
        kept = tuple(p for p in line.preparations if p != preparation)
        return recipe.with_line(
            replace(
                line,
                preparations=kept if preparation in line.preparations else (*kept, preparation),
            )
        )

    return edit_response(request, recipe_id, revision, change)


@router.post("/lines/{line_id}/eaten", response_class=HTMLResponse)
def set_eaten(
    request: Request,
    recipe_id: int,
    line_id: str,
    revision: Revision,
    percent: Annotated[str, Form(max_length=6)] = "",
) -> Response:
    """How much of what is in the bowl is eaten: less for a marinade or an oil that stays behind.
    Without a number it is what the method makes of it."""

    def change(recipe: Recipe) -> Recipe:
        share = optional_number(percent.replace("%", ""), "the share that is eaten")
        line = recipe.line(line_id)
        if share is None:
            return recipe.with_line(replace(line, eaten=1.0, settled=line.settled - {"eaten"}))
        if not 0 <= share <= 100:
            raise RecipeError("the share that is eaten lies between 0 and 100%")
        return recipe.with_line(replace(line, eaten=share / 100, settled=line.settled | {"eaten"}))

    return edit_response(request, recipe_id, revision, change)


@router.post("/lines/{line_id}/move", response_class=HTMLResponse)
def move(
    request: Request,
    recipe_id: int,
    line_id: str,
    by: Annotated[int, Form(ge=-1, le=1)],
    revision: Revision,
) -> Response:
    """One place up or down, past the edge of a component into the next."""
    return edit_response(request, recipe_id, revision, lambda recipe: moved(recipe, line_id, by))


@router.post("/lines/{line_id}/place", response_class=HTMLResponse)
def place(
    request: Request,
    recipe_id: int,
    line_id: str,
    revision: Revision,
    component: Annotated[str, Form(max_length=60)] = "",
    before: LineId = "",
) -> Response:
    """Into a component, before another line of it or at its end."""
    return edit_response(
        request,
        recipe_id,
        revision,
        lambda recipe: placed(recipe, line_id, component.strip(), before),
    )


@router.post("/lines", response_class=HTMLResponse)
def add_line(
    request: Request, recipe_id: int, text: Annotated[str, Form(max_length=400)], revision: Revision
) -> Response:
    workbench = workbench_of(request)

    def change(recipe: Recipe) -> Recipe:
        component = recipe.components[-1] if recipe.components else ""
        readings = workbench.reader.read_line(text, component, recipe.region)
        if not readings:
            raise RecipeError("the line is empty: type what goes in, such as 1 tbsp tahini")
        lines: list[Line] = [
            replace(r.line, id=i)
            for r, i in zip(readings, recipe.fresh_ids(len(readings)), strict=True)
        ]
        return recipe.with_added(lines)

    return edit_response(request, recipe_id, revision, change)


@router.post("/serving", response_class=HTMLResponse)
def set_serving(
    request: Request,
    recipe_id: int,
    revision: Revision,
    size: Annotated[float, Form()],
    by: Annotated[Literal["count", "grams", "ml"], Form()],
    kind: Annotated[str, Form(max_length=40)],
    batch_yield: Annotated[str, Form(max_length=12)] = "",
    served_celsius: Annotated[str, Form(max_length=6)] = "",
    profile_id: Annotated[str | None, Form(max_length=10)] = None,
) -> Response:
    """What a serving is (a count, a weight or a volume), the weighed yield, how cold it is served,
    the kind, which targets. A cook's form sends no targets, and leaves them as they are; `none`
    takes them away."""
    if profile_id is not None:
        require(request, Role.DIETITIAN)

    def change(recipe: Recipe) -> Recipe:
        if kind not in dishes.BY_ID:
            raise RecipeError(f"no kind of dish is called {kind!r}")
        return replace(
            recipe,
            kind=kind,
            yield_grams=optional_number(batch_yield, "weight of the batch"),
            served_celsius=optional_number(served_celsius, "temperature"),
            servings=size if by == "count" else recipe.servings,
            serving_grams=size if by == "grams" else None,
            serving_ml=size if by == "ml" else None,
            servings_range=(
                recipe.servings_range if by == "count" and size == recipe.servings else None
            ),
        )

    chosen: tuple[int | None, ...] = ()
    if profile_id is not None:
        with workbench_of(request).store() as connection:
            found = profile(connection, row_id(profile_id))
        chosen = (found.id if found else None,)
    return edit_response(request, recipe_id, revision, change, profile=chosen)


@router.post("/batches", response_class=HTMLResponse)
def use_batch(
    request: Request,
    recipe_id: int,
    revision: Revision,
    source: Annotated[int, Form()],
    part: Annotated[str, Form(max_length=40)],
) -> Response:
    """Puts part of a batch of another recipe in, as its newest version stands."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        newest = versions(connection, source)

    def change(recipe: Recipe) -> Recipe:
        if not newest:
            raise RecipeError("choose a recipe from the list")
        grams = workbench.appraise(newest[-1].recipe).totals.batch_grams.value
        batch = Batch(f"{source}@{newest[-1].number}", share_of(part, grams), newest[-1].recipe)
        return with_batch(recipe, str(recipe_id), batch)

    return edit_response(request, recipe_id, revision, change)


@router.post("/undo", response_class=HTMLResponse)
def undo_edit(request: Request, recipe_id: int, revision: Revision) -> HTMLResponse:
    return _gone(request, recipe_id, revision, -1)


@router.post("/redo", response_class=HTMLResponse)
def redo_edit(request: Request, recipe_id: int, revision: Revision) -> HTMLResponse:
    return _gone(request, recipe_id, revision, 1)


def _gone(request: Request, recipe_id: int, revision: int, by: int) -> HTMLResponse:
    """One edit back or forth, unless another tab has changed the recipe since this page was
    drawn."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        before, error = draft(connection, recipe_id), ""
        try:
            (undo if by < 0 else redo)(connection, recipe_id, revision)
        except StaleEdit as meanwhile:
            error = (
                f"Another tab has changed this recipe meanwhile ({meanwhile}). It is shown as it is"
                f" now; nothing was {'undone' if by < 0 else 'done again'}."
            )
        work = load_work(workbench, connection, recipe_id)
    said = (
        ""
        if error
        else (
            f"undone: {edits_words(before.undo or ())}"
            if by < 0
            else f"done again: {edits_words(before.redo or ())}"
        )
    )
    return counter_response(request, workbench, work, said, error)


class MergeForm(BaseModel):
    """What was decided of an edit that waits, with a field `choose-<line>` for each clash."""

    model_config = ConfigDict(extra="allow")
    waiting: int = Field(ge=1, le=2**62)
    decided: Literal["put", "left"] = "put"

    @property
    def chosen(self) -> dict[str, bool]:
        """By line, or the dish: whether the wording of the edit that waits is taken."""
        fields = self.model_extra or {}
        return {
            name.removeprefix("choose-"): value == "mine"
            for name, value in fields.items()
            if name.startswith("choose-")
        }


@router.post("/merge", response_class=HTMLResponse)
def merge_edits(request: Request, recipe_id: int, form: Annotated[MergeForm, Form()]) -> Response:
    """Puts an edit that waits together with what came between, as somebody has decided, or leaves
    it out."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        if form.decided == "left":
            end_waiting(connection, recipe_id, form.waiting)
            work = load_work(workbench, connection, recipe_id)
            return counter_response(request, workbench, work, "left out: the edit that waited")
        late, now = waiting_edit(connection, recipe_id, form.waiting), draft(connection, recipe_id)

    def change(recipe: Recipe) -> Recipe:
        check_known(late.mine, workbench.knowledge)
        merged = merge(
            late.base or recipe, late.mine, recipe, [i for i, mine in form.chosen.items() if mine]
        )
        if not {clash.id for clash in merged.conflicts} <= form.chosen.keys():
            raise RecipeError(
                "this was changed again meanwhile: choose once more, the edit still waits"
            )
        return merged.recipe

    return edit_response(
        request,
        recipe_id,
        now.revision,
        change,
        profile=late.profile,
        also=lambda connection: end_waiting(connection, recipe_id, late.id),
    )


@router.get("/batch", response_class=HTMLResponse)
def offer_batch(
    request: Request, recipe_id: int, q: Annotated[str, Query(max_length=80)] = ""
) -> HTMLResponse:
    """The recipes of which a part can be put in: those called so, or those worked on last."""
    workbench = workbench_of(request)
    workbench.refresh_shelf()
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        answer = shelf_page(connection, ShelfQuery(text=q), 0, MAX_OFFERED)
    others = [(row.recipe_id, row.title) for row in answer.rows if row.recipe_id != recipe_id]
    return page(
        request,
        "places/counter/drawers/batch.html",
        others=others,
        recipe_id=recipe_id,
        revision=work.draft.revision,
    )


@router.get("/figures/{nutrient}", response_class=HTMLResponse)
def explain_figure(request: Request, recipe_id: int, nutrient: str) -> HTMLResponse:
    workbench = workbench_of(request)
    if nutrient not in NUTRIENT and nutrient not in AXIS_IDS:
        raise RecipeError(f"no figure is called {nutrient!r}")
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    account = (
        figure_account(now, nutrient)
        if nutrient in NUTRIENT
        else axis_account(now, work.original, nutrient, workbench.knowledge)
    )
    return page(request, "places/counter/drawers/account.html", a=account, recipe_id=recipe_id)


@router.post("/keep", response_class=HTMLResponse)
def save_draft_as_version(
    request: Request,
    recipe_id: int,
    revision: Revision,
    name: Annotated[str, Form(max_length=80)] = "",
    note: Annotated[str, Form(max_length=500)] = "",
) -> Response:
    """Keeps the draft as a version; a draft that another tab has changed meanwhile is shown
    first."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        pinned = workbench.pin(draft(connection, recipe_id).recipe)
        try:
            kept = save_version(connection, recipe_id, revision, name.strip(), note.strip(), pinned)
        except StaleEdit as meanwhile:
            error = (
                f"Another tab has changed this recipe meanwhile ({meanwhile}). Look at it as it is"
                " now, then keep it; your words are still here."
            )
            work = load_work(workbench, connection, recipe_id)
            return counter_response(
                request, workbench, work, "", error, 409, keeping={"name": name, "note": note}
            )
    return RedirectResponse(
        f"/recipes/{recipe_id}/compare?x={recipe_id}.1&x={recipe_id}.{kept.number}", status_code=303
    )


@router.post("/tour/over")
def leave_tour(request: Request, recipe_id: int) -> Response:
    with workbench_of(request).store() as connection:
        set_tour(connection, "over")
    return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)


@router.post("/tour/left")
def leave_tour_step(
    request: Request, recipe_id: int, step: Annotated[int, Form(ge=1, le=MOST_TOUR_STEPS)]
) -> Response:
    """Leaves one step of the tour, done or not, for the next; where no tour goes on, there is none
    to leave."""
    with workbench_of(request).store() as connection:
        work, lens, edits = (
            draft(connection, recipe_id),
            lens_of(request),
            edits_since_version(connection, recipe_id),
        )
        if tour_of_draft(connection, work, lens, edits) is None:
            return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)
        set_tour(connection, f"{recipe_id}:{step}")
        tour = tour_of_draft(connection, work, lens, edits)
    tail = tour.steps[tour.number - 1].tail if tour else ""
    return RedirectResponse(f"/recipes/{recipe_id}{tail}", status_code=303)
