"""One base, several dishes: it is edited once, its variants are seen with it side by side and
brought up to it."""

from __future__ import annotations

import sqlite3
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.amounts.batches import share_of
from fresh_ladle.core.amounts.variants import behind, variant_of, with_base
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.drafts import StaleEdit, create_recipe, draft, edit, save_version
from fresh_ladle.store.recipes.recipes import recipes_holding
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.compose.variants_view import base_view, variant_views
from fresh_ladle.web.places.counter.response import Revision
from fresh_ladle.web.shared.page import Work, load_work, page
from fresh_ladle.web.shared.typed import number_typed
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router("/recipes/{recipe_id}/variants")
KEPT_FOR = "for its variants"


@router.get("", response_class=HTMLResponse)
def side_by_side(request: Request, recipe_id: int) -> HTMLResponse:
    """The base beside all that is made from it."""
    return _page(request, workbench_of(request), recipe_id)


def _page(
    request: Request,
    workbench: Workbench,
    recipe_id: int,
    error: str = "",
    typed: dict[str, str] | None = None,
) -> HTMLResponse:
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        drafts = [draft(connection, found) for found in recipes_holding(connection, recipe_id)]
    rows = variant_views(workbench, drafts, work.draft)
    return page(
        request,
        "places/compose/variants.html",
        422 if error else 200,
        recipe=work.draft.recipe,
        recipe_id=recipe_id,
        revision=work.draft.revision,
        base=base_view(workbench, work.draft),
        rows=rows,
        behind=sum(row.behind for row in rows),
        names=[BY_ID[n].name for n in HEADLINE],
        error=error,
        typed=typed
        or {
            "title": "",
            "part": "1/2",
            "servings": f"{work.draft.recipe.servings / 2:g}",
            "adds": "",
        },
        place="variants",
    )


@router.post("")
def add(
    request: Request,
    recipe_id: int,
    revision: Revision,
    title: Annotated[str, Form(max_length=120)] = "",
    part: Annotated[str, Form(max_length=40)] = "",
    servings: Annotated[str, Form(max_length=20)] = "",
    adds: Annotated[str, Form(max_length=20_000)] = "",
) -> Response:
    """A new dish from part of the base and what is typed; kept as a recipe of its own, whole or not
    at all."""
    workbench = workbench_of(request)
    typed = {"title": title, "part": part, "servings": servings, "adds": adds}
    try:
        count = number_typed(servings, "servings")
        added = (
            read_recipe(f"{title.strip() or 'Variant'}\n{adds}", workbench.reader).recipe
            if adds.strip()
            else None
        )
        with workbench.store() as connection, writing(connection):
            work = load_work(workbench, connection, recipe_id)
            share = share_of(part, workbench.appraise(work.draft.recipe).totals.batch_grams.value)
            base, ref = _kept_base(workbench, connection, work, revision)
            recipe = variant_of(base, ref, title, share, added, count)
            targets = work.profile.id if work.profile else None
            create_recipe(connection, recipe, targets, f"from {base.title}", workbench.pin(recipe))
    except StaleEdit:
        return _page(
            request,
            workbench,
            recipe_id,
            "another tab has changed this recipe: look at it, then go on",
            typed,
        )
    except Refused as error:
        return _page(request, workbench, recipe_id, str(error), typed)
    return RedirectResponse(f"/recipes/{recipe_id}/variants", status_code=303)


def _kept_base(
    workbench: Workbench, connection: sqlite3.Connection, work: Work, revision: int
) -> tuple[Recipe, str]:
    """The base as it stands, as a version that variants can name; kept now, in the caller's
    transaction, where the draft has moved on. Raises StaleEdit."""
    recipe_id = work.draft.recipe_id
    if not work.draft.changed and work.draft.based_on is not None:
        return work.draft.recipe, f"{recipe_id}@{work.draft.based_on.number}"
    pinned = workbench.pin(work.draft.recipe)
    kept = save_version(
        connection, recipe_id, revision, KEPT_FOR, "the base as its variants hold it", pinned
    )
    return kept.recipe, f"{recipe_id}@{kept.number}"


@router.post("/bring")
def bring_up(request: Request, recipe_id: int, revision: Revision) -> Response:
    """Every variant holds the base as it stands from now on: an edit in each that can be undone
    there."""
    workbench = workbench_of(request)
    not_brought: list[str] = []
    try:
        with workbench.store() as connection, writing(connection):
            work = load_work(workbench, connection, recipe_id)
            base, ref = _kept_base(workbench, connection, work, revision)
            for found in recipes_holding(connection, recipe_id):
                variant = draft(connection, found)
                if not behind(variant.recipe, recipe_id, base):
                    continue
                try:
                    edit(
                        connection,
                        found,
                        variant.revision,
                        lambda recipe: with_base(recipe, recipe_id, base, ref),
                    )
                except RecipeError:
                    not_brought.append(variant.recipe.title)
    except StaleEdit:
        return _page(
            request,
            workbench,
            recipe_id,
            "another tab has changed this recipe: look at it, then go on",
        )
    if not_brought:
        return _page(
            request,
            workbench,
            recipe_id,
            f"not brought up: {', '.join(not_brought)}. Open it and look",
        )
    return RedirectResponse(f"/recipes/{recipe_id}/variants", status_code=303)
