"""A ratio explored: two lines or components of a recipe held together, or one line alone, a kitchen
step at a time."""

from __future__ import annotations

from typing import Annotated

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.compose.ratio import Ratio, RatioSide, ratio, side_called, side_words
from fresh_ladle.core.recipes.changes import changes_between
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.store.foods.own_foods import prices_per_100_g
from fresh_ladle.store.recipes.drafts import StaleEdit, keep_beside
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.compose.ratio_view import ratio_view
from fresh_ladle.web.places.counter.response import Revision, edit_response
from fresh_ladle.web.shared.page import Work, load_work, page
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router("/recipes/{recipe_id}/ratio")
CHANCE = 0.8
FEWEST_KEPT, MOST_KEPT = 2, 3
Side = Annotated[str, Form(max_length=120)]
AskedSide = Annotated[str, Query(max_length=120)]


@router.get("", response_class=HTMLResponse)
def walk(
    request: Request,
    recipe_id: int,
    first: AskedSide = "",
    second: AskedSide = "",
    other: AskedSide = "",
) -> HTMLResponse:
    """The drawing for two sides; `other` names a food that is not in the recipe, in place of the
    second."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        prices = prices_per_100_g(connection)
    error, found = "", None
    try:
        if first:
            found = _ratio(workbench, work, first, other.strip() or second, prices)
    except RecipeError as problem:
        error = str(problem)
    return _walk_page(request, work, found, error, first, second, other)


def _ratio(
    workbench: Workbench, work: Work, first: str, second: str, prices: dict[str, float]
) -> Ratio:
    now = workbench.appraise(work.draft.recipe)
    one = side_called(first, now, workbench.reader)
    two = side_called(second, now, workbench.reader) if second else None
    targets = work.profile.targets if work.profile else ()
    return ratio(now, one, two, workbench.knowledge, targets, prices)


def _walk_page(
    request: Request,
    work: Work,
    found: Ratio | None,
    error: str,
    first: str,
    second: str,
    other: str,
) -> HTMLResponse:
    targets = work.profile.targets if work.profile else ()
    recipe = work.draft.recipe
    return page(
        request,
        "places/compose/ratio.html",
        422 if error else 200,
        recipe=recipe,
        recipe_id=work.draft.recipe_id,
        revision=work.draft.revision,
        sides=_sides(recipe),
        first=first,
        second=second,
        other=other,
        error=error,
        profile=work.profile,
        walk=ratio_view(found, targets, CHANCE) if found else None,
        place="ratio",
    )


def _sides(recipe: Recipe) -> list[tuple[str, str]]:
    """What can be chosen: components by their names, and lines by their ids."""
    components = (
        [(c, f"all of: {c}") for c in recipe.components if c] if len(recipe.components) > 1 else []
    )
    return [*components, *((x.id, x.text) for x in recipe.lines if x.food is not None and x.amount)]


@router.post("/take")
def take(
    request: Request,
    recipe_id: int,
    revision: Revision,
    point: Annotated[int, Form()],
    first: Side,
    second: Side = "",
    other: Side = "",
) -> Response:
    """One step becomes the draft, as an edit that can be undone."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)

    def change(recipe: Recipe) -> Recipe:
        if recipe != work.draft.recipe:
            raise RecipeError("the recipe has changed meanwhile: look at the ratio again")
        return _point_of(_ratio(workbench, work, first, other.strip() or second, {}), point)

    return edit_response(request, recipe_id, revision, change)


@router.post("/keep")
def keep(
    request: Request,
    recipe_id: int,
    revision: Revision,
    first: Side,
    second: Side = "",
    other: Side = "",
    point: Annotated[list[int] | None, Form(max_length=20)] = None,
    then: Annotated[str, Form(max_length=10)] = "",
) -> Response:
    """Two or three steps are kept as versions beside the draft, and shown side by side or put
    before a panel: to be tasted against each other."""
    workbench = workbench_of(request)
    chosen = sorted(set(point or ()))
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        try:
            if not FEWEST_KEPT <= len(chosen) <= MOST_KEPT:
                raise RecipeError("mark two or three steps to taste against each other")
            if work.draft.revision != revision:
                raise RecipeError("the recipe has changed meanwhile: look at the ratio again")
            found = _ratio(workbench, work, first, other.strip() or second, {})
            recipes = [(_name(found, place), _point_of(found, place)) for place in chosen]
            kept = keep_beside(
                connection,
                recipe_id,
                revision,
                [
                    (
                        name,
                        recipe,
                        workbench.pin(recipe),
                        changes_between(work.draft.recipe, recipe),
                    )
                    for name, recipe in recipes
                ],
            )
        except (RecipeError, StaleEdit) as problem:
            return _walk_page(request, work, None, str(problem), first, second, other)
    if then == "tasting":
        chosen_versions = "&".join(
            f"{letter}={number}" for letter, number in zip("abc", kept, strict=False)
        )
        return RedirectResponse(
            f"/recipes/{recipe_id}/tastings?{chosen_versions}&question=LIKING", status_code=303
        )
    asked = "&".join(f"x={recipe_id}.{number}" for number in kept)
    return RedirectResponse(f"/compare?{asked}", status_code=303)


def _point_of(found: Ratio, place: int) -> Recipe:
    if not 0 <= place < len(found.points):
        raise RecipeError("there is no such step: look at the ratio again")
    return found.points[place].recipe


def _name(found: Ratio, place: int) -> str:
    point = found.points[place]
    sides: list[RatioSide] = [s for s in (found.first, found.second) if s is not None]
    return ", ".join(side_words(side, point) for side in sides)[:80]
