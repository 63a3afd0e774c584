"""Targets: limits per serving for one use, and schools of the practice's own."""

from __future__ import annotations

import sqlite3
from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.nutrients.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.nutrient import HEADLINE, NUTRIENTS
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.store.own_schools import save_school
from fresh_ladle.store.profiles import all_profiles, save_profile
from fresh_ladle.web.routes.common import number_typed, page
from fresh_ladle.web.state import workbench

router = APIRouter()
EATEN_AS = ("dressing", "dip", "spread", "side", "main", "snack")


@router.get("/targets", response_class=HTMLResponse)
def targets(request: Request, error: str = "") -> HTMLResponse:
    bench = workbench(request)
    with bench.store() as connection:
        profiles = all_profiles(connection)
    return page(
        request,
        "targets.html",
        profiles=profiles,
        names=NUTRIENT,
        school_names={s.id: s.name for s in bench.schools.values()},
        schools=list(bench.schools.values()),
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
        if school not in workbench(request).schools or eaten not in EATEN_AS:
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
    value = number_typed(typed, "limit")
    if not 0 <= value <= 100_000:
        raise ValueError(f"{typed[:20]} is not a limit a serving can have")
    return value


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
                connection, name.strip(), creed.strip(), "oil" in kinds, "salt" in kinds, "sugar" in kinds, "full-fat-dairy" in kinds,
            )  # fmt: skip
            bench.learn_own_schools(connection)
    except sqlite3.IntegrityError:
        return targets(request, f"A school called “{name}” is there already: choose another name.")
    except ValueError as error:
        return targets(request, f"Nothing was saved: {error}.")
    return RedirectResponse("/targets", status_code=303)
