"""Targets: limits for one use, what is left out, and schools of the practice's own."""

from __future__ import annotations

import sqlite3
from typing import Annotated, get_args

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_name
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.nutrients.wording import target_text
from fresh_ladle.data.load import load_starting_points
from fresh_ladle.store.database import writing
from fresh_ladle.store.foods.own_schools import save_school
from fresh_ladle.store.recipes.profiles import (
    Profile,
    all_profiles,
    delete_profile,
    profile,
    save_profile,
)
from fresh_ladle.store.recipes.recipes import set_profile, titles
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.targets.profile_form import (
    EatenAs,
    ProfileFields,
    ProfileForm,
    fields_of,
)
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import row_id
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()


@router.get("/targets", response_class=HTMLResponse)
def targets(request: Request, like: str = "", edit: str = "", recipe: str = "") -> HTMLResponse:
    """All profiles beside an empty form, or one filled with a profile to change or with a starting
    point. `recipe` is the one that is to have the new profile."""
    workbench = workbench_of(request)
    filled = None
    if point := next((p for p in load_starting_points() if p.name == like), None):
        filled = Profile(
            0, point.name, point.eaten_as, "", f"General guidance: {point.source}.", point.targets
        )
    with workbench.store() as connection:
        filled = profile(connection, row_id(edit)) or filled
    shown = fields_of(filled, workbench.knowledge.pantry) if filled else ProfileFields()
    return _targets_page(request, workbench, shown, recipe)


def _targets_page(
    request: Request,
    workbench: Workbench,
    filled: ProfileFields,
    recipe: str = "",
    error: str = "",
    status: int = 200,
) -> HTMLResponse:
    with workbench.store() as connection:
        profiles, wanting = all_profiles(connection), titles(connection, [row_id(recipe) or 0])
    told = [
        (
            p,
            [_limit_words(t) for t in p.targets],
            [_left_out(e, workbench) for e in sorted(p.exclusions)],
        )
        for p in profiles
    ]
    return page(
        request,
        "places/targets/page.html",
        status,
        profiles=told,
        starting=[(p, [_limit_words(t) for t in p.targets]) for p in load_starting_points()],
        school_names={s.id: s.name for s in workbench.schools.values()},
        schools=list(workbench.schools.values()),
        eaten_as=get_args(EatenAs),
        allergens=sorted((a, allergen_name(a)) for a in ALLERGENS),
        filled=filled,
        wanting=next(iter(wanting.items()), None),
        error=error,
        place="targets",
    )


def _limit_words(target: Target) -> str:
    return f"{NUTRIENT[target.nutrient].said} {target_text(target)}"


def _left_out(what: str, workbench: Workbench) -> str:
    food = workbench.knowledge.pantry.get(what)
    return food.kitchen_name if food else allergen_name(what)


@router.post("/targets", response_class=HTMLResponse)
def save_targets(request: Request, form: Annotated[ProfileForm, Form()]) -> Response:
    """Adds a profile or changes one. A limit left empty is no limit; what was typed stays when
    something is wrong."""
    workbench = workbench_of(request)
    name = form.name.strip()
    try:
        if not name:
            raise Refused("give the profile a name, such as “side dish, heart program”")
        if form.school not in workbench.schools:
            raise Refused("choose a school from the list")
        limits, out = form.targets(), form.exclusions(workbench.knowledge.pantry)
        if not limits and not out:
            raise Refused("set at least one limit, or something to leave out")
        with workbench.store() as connection, writing(connection):
            note, number = form.note.strip(), row_id(form.id)
            saved = save_profile(
                connection, name, form.eaten_as, form.school, limits, note, number, out
            )
            if wanting := titles(connection, [row_id(form.recipe) or 0]):
                set_profile(connection, next(iter(wanting)), saved)
    except sqlite3.IntegrityError:
        error = f"A profile called “{name}” is there already: choose another name."
        return _targets_page(request, workbench, form.shown(), form.recipe, error, 422)
    except ValueError as problem:
        return _targets_page(
            request, workbench, form.shown(), form.recipe, f"Nothing was saved: {problem}.", 422
        )
    return RedirectResponse(
        f"/recipes/{next(iter(wanting))}" if wanting else "/targets", status_code=303
    )


@router.post("/targets/{profile_id}/delete", response_class=HTMLResponse)
def drop_targets(request: Request, profile_id: int) -> Response:
    with workbench_of(request).store() as connection:
        delete_profile(connection, profile_id)
    return RedirectResponse("/targets", status_code=303)


@router.post("/schools", response_class=HTMLResponse)
def add_school(
    request: Request,
    name: Annotated[str, Form(max_length=60)] = "",
    creed: Annotated[str, Form(max_length=200)] = "",
    refuses: Annotated[list[str] | None, Form()] = None,
) -> Response:
    """Adds a school of the practice's own: what a suggestion of it never brings in."""
    workbench, kinds = workbench_of(request), set(refuses or [])
    try:
        with workbench.store() as connection:
            save_school(
                connection,
                name.strip(),
                creed.strip(),
                "oil" in kinds,
                "salt" in kinds,
                "sugar" in kinds,
                "full-fat-dairy" in kinds,
            )
            workbench.learn_own_schools(connection)
    except sqlite3.IntegrityError:
        return _targets_page(
            request,
            workbench,
            ProfileFields(),
            "",
            f"A school called “{name}” is there already: choose another name.",
            422,
        )
    except ValueError as error:
        return _targets_page(
            request, workbench, ProfileFields(), "", f"Nothing was saved: {error}.", 422
        )
    return RedirectResponse("/targets", status_code=303)
