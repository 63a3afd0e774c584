"""Targets: limits for one use, what is left out, and schools of the practice's own."""

from __future__ import annotations

import sqlite3
from typing import Annotated, Any

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from starlette.datastructures import FormData

from fresh_ladle.core.cautions.allergens import allergen_name
from fresh_ladle.core.nutrients.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.targets import Basis, Firmness, Side, Target
from fresh_ladle.core.plans.wanted import ALLERGENS, exclusion_of
from fresh_ladle.core.recipe import RecipeError
from fresh_ladle.data.load import load_starting_points
from fresh_ladle.store.own_schools import save_school
from fresh_ladle.store.profiles import Profile, all_profiles, delete_profile, profile, save_profile
from fresh_ladle.store.standing import TARGETED
from fresh_ladle.web.routes.common import number_typed, page
from fresh_ladle.web.state import Workbench, workbench
from fresh_ladle.web.wording import target_text

router = APIRouter()
EATEN_AS = ("dressing", "dip", "spread", "side", "main", "snack")


@router.get("/targets", response_class=HTMLResponse)
def targets(request: Request, like: str = "", edit: str = "") -> HTMLResponse:
    """All profiles beside an empty form, or one filled with a profile to change or with a starting point."""
    bench = workbench(request)
    point = next((p for p in load_starting_points() if p.name == like), None)
    filled = (
        Profile(0, point.name, point.eaten_as, "", f"General guidance: {point.source}.", point.targets)
        if point
        else None
    )
    if edit.isdigit():
        with bench.store() as connection:
            filled = profile(connection, int(edit))
    return _targets_page(request, bench, _form_of(filled, bench) if filled else {})


def _targets_page(
    request: Request, bench: Workbench, filled: dict[str, Any], error: str = "", status: int = 200
) -> HTMLResponse:
    with bench.store() as connection:
        profiles = all_profiles(connection)
    names = {s.id: s.name for s in bench.schools.values()}
    told = [
        (p, [_limit_words(t) for t in p.targets], [_left_out(e, bench) for e in sorted(p.exclusions)]) for p in profiles
    ]
    return page(
        request,
        "targets.html",
        status,
        profiles=told,
        starting=[(p, [_limit_words(t) for t in p.targets]) for p in load_starting_points()],
        names=NUTRIENT,
        school_names=names,
        schools=list(bench.schools.values()),
        eaten_as=EATEN_AS,
        limited=[NUTRIENT[n] for n in TARGETED],
        allergens=sorted((a, allergen_name(a)) for a in ALLERGENS),
        filled=filled,
        error=error,
        place="targets",
    )


def _limit_words(target: Target) -> str:
    return f"{NUTRIENT[target.nutrient].name.lower()} {target_text(target)}"


def _left_out(what: str, bench: Workbench) -> str:
    food = bench.knowledge.pantry.get(what)
    return food.kitchen_name if food else allergen_name(what)


def _form_of(filled: Profile, bench: Workbench) -> dict[str, Any]:
    """The fields of the form as a profile fills them."""
    fields: dict[str, Any] = {
        "id": filled.id,
        "name": filled.name,
        "eaten_as": filled.eaten_as,
        "school": filled.school,
        "note": filled.note,
        "out": [e for e in filled.exclusions if e in ALLERGENS],
        "foods_out": ", ".join(_left_out(e, bench) for e in sorted(filled.exclusions) if e not in ALLERGENS),
    }
    for target in filled.targets:
        key = f"{target.nutrient}_{'most' if target.side is Side.AT_MOST else 'least'}"
        fields |= {
            key: f"{target.limit:g}",
            f"{target.nutrient}_basis": target.basis.value,
            f"{target.nutrient}_firmness": target.firmness.value,
        }
    return fields


@router.post("/targets", response_class=HTMLResponse)
async def keep_targets(request: Request) -> Response:
    """Adds a profile or changes one. A limit left empty is no limit; what was typed stays when something is wrong."""
    bench, sent = workbench(request), await request.form()
    name, number = str(sent.get("name", "")).strip()[:80], str(sent.get("id", ""))
    try:
        school, eaten = str(sent.get("school", "")), str(sent.get("eaten_as", ""))
        if not name:
            raise ValueError("give the profile a name, such as “side dish, heart program”")
        if school not in bench.schools or eaten not in EATEN_AS:
            raise ValueError("choose a school and a use from the lists")
        limits = _limits(sent)
        out = _exclusions(sent, bench)
        if not limits and not out:
            raise ValueError("set at least one limit, or something to leave out")
        note = str(sent.get("note", "")).strip()[:200]
        with bench.store() as connection:
            save_profile(
                connection,
                name,
                eaten,
                school,
                limits,
                note,
                int(number) if number.isdigit() and number != "0" else None,
                out,
            )
    except sqlite3.IntegrityError:
        return _again(request, bench, sent, f"A profile called “{name}” is there already: choose another name.")
    except ValueError as error:
        return _again(request, bench, sent, f"Nothing was saved: {error}.")
    return RedirectResponse("/targets", status_code=303)


def _again(request: Request, bench: Workbench, sent: FormData, error: str) -> HTMLResponse:
    """The page once more with everything as it was typed."""
    filled = {key: str(value) for key, value in sent.items() if key != "out"}
    return _targets_page(request, bench, {**filled, "out": [str(v) for v in sent.getlist("out")]}, error, 422)


def _limits(sent: FormData) -> tuple[Target, ...]:
    """Lower and upper limits as typed. Raises ValueError naming the figure."""
    limits = []
    for nutrient in TARGETED:
        basis = Basis(str(sent.get(f"{nutrient}_basis") or "serving"))
        firmness = Firmness(str(sent.get(f"{nutrient}_firmness") or "hard"))
        found = {}
        for side, word in ((Side.AT_LEAST, "least"), (Side.AT_MOST, "most")):
            if typed := str(sent.get(f"{nutrient}_{word}", "")).strip():
                found[side] = _limit(typed, NUTRIENT[nutrient].name)
                limits.append(Target(nutrient, side, found[side], basis, firmness))
        if len(found) == 2 and found[Side.AT_LEAST] > found[Side.AT_MOST]:
            raise ValueError(
                f"{NUTRIENT[nutrient].name.lower()} cannot be at least {found[Side.AT_LEAST]:g} and at most"
                f" {found[Side.AT_MOST]:g}"
            )
    return tuple(limits)


def _limit(typed: str, name: str) -> float:
    value = number_typed(typed, name)
    if not 0 <= value <= 100_000:
        raise ValueError(f"{name.lower()}: {typed[:20]} is not a limit a serving can have")
    return value


def _exclusions(sent: FormData, bench: Workbench) -> frozenset[str]:
    """Ticked allergens and typed foods. Raises ValueError for a food nobody knows."""
    typed = [part.strip() for part in str(sent.get("foods_out", ""))[:400].split(",") if part.strip()]
    ticked = {str(v) for v in sent.getlist("out")} & ALLERGENS
    try:
        return frozenset(ticked).union(*(exclusion_of(part, bench.knowledge.pantry) for part in typed))
    except RecipeError as error:
        raise ValueError(str(error)) from None


@router.post("/targets/{profile_id}/delete", response_class=HTMLResponse)
def drop_targets(request: Request, profile_id: int) -> Response:
    with workbench(request).store() as connection:
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
    bench, kinds = workbench(request), set(refuses or [])
    try:
        with bench.store() as connection:
            save_school(
                connection,
                name.strip(),
                creed.strip(),
                "oil" in kinds,
                "salt" in kinds,
                "sugar" in kinds,
                "full-fat-dairy" in kinds,
            )
            bench.learn_own_schools(connection)
    except sqlite3.IntegrityError:
        return _targets_page(
            request, bench, {}, f"A school called “{name}” is there already: choose another name.", 422
        )
    except ValueError as error:
        return _targets_page(request, bench, {}, f"Nothing was saved: {error}.", 422)
    return RedirectResponse("/targets", status_code=303)
