"""Stores: foods, their figures and where those come from. Targets: limits per serving for one use."""

from __future__ import annotations

import sqlite3

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.core.nutrients.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.nutrient import HEADLINE, NUTRIENTS
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.school import SCHOOLS
from fresh_ladle.store.foods import FoundFood, search_foods
from fresh_ladle.store.profiles import all_profiles, save_profile
from fresh_ladle.web.routes.common import page
from fresh_ladle.web.state import workbench
from fresh_ladle.web.wording import amount_of

router = APIRouter()
EATEN_AS = ("dressing", "dip", "spread", "side", "main", "snack")


@router.get("/foods", response_class=HTMLResponse)
def foods(request: Request, q: str = "") -> HTMLResponse:
    bench = workbench(request)
    with bench.store() as connection:
        found = search_foods(connection, q, 40)
    if q and not found:
        near = bench.reader.find(q, 12)
        found = [FoundFood(c.food.key, c.food.name, c.food.group, c.food.in_pantry, "nearest spelling") for c in near]
    name = "foods_found.html" if request.headers.get("HX-Request") else "foods.html"
    return page(request, name, q=q, found=found, total=len(bench.knowledge.pantry), place="stores")


@router.get("/foods/{key}", response_class=HTMLResponse)
def food_page(request: Request, key: str) -> HTMLResponse:
    food = workbench(request).knowledge.pantry[key]
    figures = [
        (
            n,
            "not determined"
            if food.per_100_g[n.id] is None
            else f"{amount_of(n.id, food.per_100_g[n.id] or 0.0)} {n.unit}",
            food.figure_source(n.id),
        )
        for n in NUTRIENTS
    ]
    return page(
        request, "food.html", food=food, figures=figures, disagreement=energy_disagreement(food), place="stores"
    )


@router.get("/targets", response_class=HTMLResponse)
def targets(request: Request, error: str = "") -> HTMLResponse:
    with workbench(request).store() as connection:
        profiles = all_profiles(connection)
    return page(
        request,
        "targets.html",
        profiles=profiles,
        names=NUTRIENT,
        school_names={s.id: s.name for s in SCHOOLS},
        schools=SCHOOLS,
        eaten_as=EATEN_AS,
        headline=[n for n in NUTRIENTS if n.id in HEADLINE],
        error=error,
        place="targets",
    )


@router.post("/targets", response_class=HTMLResponse)
async def add_targets(request: Request) -> Response:
    """Adds a profile. A limit left empty is no limit; anything else must be a number."""
    sent = await request.form()
    name = str(sent.get("name", "")).strip()[:80]
    school, eaten = str(sent.get("school", "")), str(sent.get("eaten_as", ""))
    limits: list[Target] = []
    try:
        if not name:
            raise ValueError("give the profile a name, such as “side dish, heart program”")
        if school not in {s.id for s in SCHOOLS} or eaten not in EATEN_AS:
            raise ValueError("choose a school and a use from the lists")
        for nutrient in HEADLINE:
            typed = str(sent.get(nutrient, "")).strip().replace(",", ".")
            if typed:
                limits.append(Target(nutrient, Side(str(sent.get(f"{nutrient}_side", ""))), _limit(typed)))
        if not limits:
            raise ValueError("set at least one limit")
        with workbench(request).store() as connection:
            save_profile(connection, name, eaten, school, tuple(limits))
    except sqlite3.IntegrityError:
        return targets(request, f"A profile called “{name}” is there already: choose another name.")
    except ValueError as error:
        return targets(request, f"Nothing was saved: {error}.")
    return RedirectResponse("/targets", status_code=303)


def _limit(typed: str) -> float:
    try:
        value = float(typed)
    except ValueError:
        raise ValueError(f"“{typed[:20]}” is not a number") from None
    if not 0 <= value <= 100_000:
        raise ValueError(f"{typed[:20]} is not a limit a serving can have")
    return value
