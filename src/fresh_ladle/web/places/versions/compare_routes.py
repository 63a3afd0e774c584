"""Side by side: any two or three versions or recipes against the first of them."""

from __future__ import annotations

import sqlite3
from typing import Annotated

from fastapi import Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.cautions.caution import STANDING_NOTE
from fresh_ladle.core.nutrients.targets import Basis
from fresh_ladle.core.nutrients.wording import story
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.store.foods.own_foods import prices_per_100_g
from fresh_ladle.store.recipes.drafts import draft, edits_since_version
from fresh_ladle.store.recipes.profiles import all_profiles, profile
from fresh_ladle.store.recipes.recipes import Version, version, versions
from fresh_ladle.store.recipes.shelf import recipes_called
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.versions.comparison_view import ComparedVersion, comparison_view
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import row_id
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()
MAX_COMPARED = 3


@router.get("/recipes/{recipe_id}/compare")
def of_recipe(request: Request, recipe_id: int) -> Response:
    """The original beside the draft while that differs, else beside the newest version."""
    with workbench_of(request).store() as connection:
        work, kept = draft(connection, recipe_id), versions(connection, recipe_id)
    other = "draft" if work.changed or len(kept) == 1 else str(kept[-1].number)
    return RedirectResponse(f"/compare?x={recipe_id}.1&x={recipe_id}.{other}", status_code=303)


@router.get("/compare", response_class=HTMLResponse)
def compare(
    request: Request,
    x: Annotated[list[str] | None, Query(max_length=8)] = None,
    per: str = "serving",
    against: str = "",
) -> HTMLResponse:
    """`x` names two or three, as 4.1 for a version of a recipe and 4.draft for its draft."""
    workbench = workbench_of(request)
    basis = Basis.HUNDRED_GRAMS if per == "100 g" else Basis.SERVING
    refs = [ref for ref in dict.fromkeys(x or []) if ref][:MAX_COMPARED]
    with workbench.store() as connection:
        placed = [_placed(workbench, connection, ref) for ref in refs]
        if not placed:
            return page(request, "places/versions/empty.html", place="compare")
        first = draft(connection, placed[0].recipe_id)
        chosen = profile(
            connection, first.profile_id if row_id(against) is None else row_id(against)
        )
        profiles, prices, weights = (
            all_profiles(connection),
            prices_per_100_g(connection),
            settings(connection).weights,
        )
        choices = {p.recipe_id: _choices(connection, p.recipe_id) for p in placed}
        kept = [v for ref in refs if (v := _version(connection, ref)) is not None]
    view = comparison_view(placed, chosen.targets if chosen else (), basis, prices, weights)
    return page(
        request,
        "places/versions/page.html",
        v=view,
        placed=placed,
        choices=choices,
        profiles=profiles,
        profile=chosen,
        basis=basis.value,
        refs=refs,
        newer=list(dict.fromkeys(f.name for v in kept for f in workbench.newer_figures(v))),
        place="compare",
        recipe_id=placed[0].recipe_id,
        note=STANDING_NOTE,
        most=MAX_COMPARED,
    )


@router.get("/compare/find", response_class=HTMLResponse)
def find(
    request: Request,
    q: Annotated[str, Query(max_length=80)] = "",
    x: Annotated[list[str] | None, Query(max_length=8)] = None,
) -> HTMLResponse:
    """Other recipes by name, to be set beside what is there."""
    workbench = workbench_of(request)
    workbench.refresh_shelf()
    with workbench.store() as connection:
        found = recipes_called(connection, q, 8)
    return page(
        request, "places/versions/found.html", found=found, refs=(x or [])[: MAX_COMPARED - 1], q=q
    )


def _parts(ref: str) -> tuple[int, int | None]:
    """Recipe and version of a reference; None for the draft. Raises RecipeError."""
    recipe, _, number = ref.partition(".")
    recipe_id, version_number = row_id(recipe), row_id(number)
    if recipe_id is None or (version_number is None and number != "draft"):
        raise RecipeError(
            f"{ref[:20]!r} names no version to compare: write 4.1 for version 1 of recipe 4"
        )
    return recipe_id, version_number


def _version(connection: sqlite3.Connection, ref: str) -> Version | None:
    recipe_id, number = _parts(ref)
    return None if number is None else version(connection, recipe_id, number)


def _placed(workbench: Workbench, connection: sqlite3.Connection, ref: str) -> ComparedVersion:
    recipe_id, _ = _parts(ref)
    kept = _version(connection, ref)
    if kept is None:
        work = draft(connection, recipe_id)
        edits = edits_since_version(connection, recipe_id)
        return ComparedVersion(
            ref,
            recipe_id,
            work.recipe.title,
            "the draft",
            story(edits),
            "",
            workbench.appraise(work.recipe),
        )
    label = (
        kept.name
        if kept.name == f"version {kept.number}"
        else f"version {kept.number}, {kept.name}"
    )
    return ComparedVersion(
        ref,
        recipe_id,
        kept.recipe.title,
        label,
        story(kept.edits),
        kept.note,
        workbench.appraise_version(kept),
    )


def _choices(connection: sqlite3.Connection, recipe_id: int) -> list[tuple[str, str]]:
    """The versions of a recipe and its draft, to choose from."""
    kept = [
        (f"{recipe_id}.{v.number}", f"{v.number} · {v.name}")
        for v in versions(connection, recipe_id)
    ]
    return [*kept, (f"{recipe_id}.draft", "the draft")]
