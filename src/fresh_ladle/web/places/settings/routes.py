"""Settings of the practice, and the first tour of an empty one."""

from __future__ import annotations

import sqlite3
from typing import Annotated, Literal

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.words.spelling import US
from fresh_ladle.devices.pattern import USUAL_PATTERN, compiled
from fresh_ladle.devices.port import checked_address
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.drafts import create_recipe
from fresh_ladle.store.recipes.profiles import all_profiles, save_profile
from fresh_ladle.store.settings import Settings, save_settings, set_tour, settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.shared.page import LENS_COOKIE, LOOK_COOKIE, page
from fresh_ladle.web.shared.sample import SAMPLE
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()
TOUR_PROFILE = "Sample limits for a dip"
REGIONS = (
    (Region.US, "US (cup 237 ml, tablespoon 14.8 ml)"),
    (Region.METRIC, "metric (cup 250 ml, tablespoon 15 ml)"),
    (Region.IMPERIAL, "British (cup 284 ml, tablespoon 15 ml)"),
)


@router.get("/settings", response_class=HTMLResponse)
def show(request: Request, saved: bool = False) -> HTMLResponse:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        now = settings(connection)
    return page(
        request,
        "places/settings/page.html",
        s=now,
        saved=saved,
        error="",
        regions=REGIONS,
        schools=workbench.schools.values(),
        usual_pattern=USUAL_PATTERN,
        place="settings",
    )


@router.post("/settings", response_class=HTMLResponse)
def save(
    request: Request,
    region: Annotated[Region, Form()],
    weights: Annotated[str, Form(max_length=10)],
    label: Annotated[str, Form(max_length=4)],
    rounding: Annotated[str, Form(max_length=8)],
    school: Annotated[str, Form(max_length=60)] = "",
    practice: Annotated[str, Form(max_length=200)] = "",
    scale: Annotated[str, Form(max_length=80)] = "",
    scale_pattern: Annotated[str, Form(max_length=100)] = "",
    currency: Annotated[str, Form(max_length=20)] = "",
    thermometer: Annotated[str, Form(max_length=80)] = "",
    opens: Annotated[str, Form(max_length=5)] = "06:00",
    closes: Annotated[str, Form(max_length=5)] = "20:00",
    weights_from: Annotated[str, Form(max_length=5)] = "250",
    spelling: Annotated[str, Form(max_length=10)] = US,
) -> Response:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        now = settings(connection)
    try:
        if scale.strip():
            checked_address(scale)
            compiled(scale_pattern.strip() or USUAL_PATTERN)
        if thermometer.strip():
            checked_address(thermometer, "thermometer")
        chosen = Settings(
            region, weights, label, rounding, school if school in workbench.schools else "",
            practice.strip(),
            scale.strip(), scale_pattern.strip(), now.eaters, currency.strip(), now.label_grid,
            thermometer.strip(), opens, closes, weights_from.strip(), spelling,
        )  # fmt: skip
    except ValueError as error:
        return page(
            request,
            "places/settings/page.html",
            422,
            s=now,
            saved=False,
            error=f"Nothing was saved: {error}.",
            regions=REGIONS,
            schools=workbench.schools.values(),
            usual_pattern=USUAL_PATTERN,
            place="settings",
        )
    with workbench.store() as connection:
        save_settings(connection, chosen)
    workbench.spelling = chosen.spelling
    return RedirectResponse("/settings?saved=1", status_code=303)


@router.post("/look")
def choose_look(look: Annotated[Literal["", "dark"], Form()] = "") -> Response:
    """How this screen is lit: remembered by the browser."""
    answer = RedirectResponse("/settings", status_code=303)
    answer.set_cookie(LOOK_COOKIE, look, max_age=31_536_000, httponly=True, samesite="strict")
    return answer


@router.get("/first", response_class=HTMLResponse)
def first(request: Request) -> HTMLResponse:
    """What an empty practice opens on."""
    return page(request, "places/settings/first.html", place="")


@router.post("/first/begin")
def begin(request: Request) -> Response:
    """Puts the sample on the shelf with limits of its own and starts the tour at the Counter."""
    workbench = workbench_of(request)
    reading = read_recipe(SAMPLE, workbench.reader)
    with workbench.store() as connection, writing(connection):
        profile_id = _tour_profile(connection, workbench)
        recipe_id = create_recipe(
            connection,
            reading.recipe,
            profile_id,
            "the sample of the tour",
            workbench.pin(reading.recipe),
        )
        set_tour(connection, str(recipe_id))
    answer = RedirectResponse(f"/recipes/{recipe_id}", status_code=303)
    # The tour begins by choosing the sodium lens, so it must not be chosen already.
    answer.set_cookie(LENS_COOKIE, "energy_kcal", httponly=True, samesite="strict")
    return answer


def _tour_profile(connection: sqlite3.Connection, workbench: Workbench) -> int:
    known = next((p.id for p in all_profiles(connection) if p.name == TOUR_PROFILE), None)
    if known is not None:
        return known
    limits = (
        Target("sodium_mg", Side.AT_MOST, 140),
        Target("fat_g", Side.AT_MOST, 5),
        Target("fiber_g", Side.AT_LEAST, 2),
    )
    note = "Made-up limits for the tour; set your own under Targets."
    return save_profile(
        connection, TOUR_PROFILE, "dip", next(iter(workbench.schools)), limits, note
    )


@router.post("/first/skip")
def skip(request: Request) -> Response:
    with workbench_of(request).store() as connection:
        set_tour(connection, "over")
    return RedirectResponse("/", status_code=303)
