"""Thickness at the bench: readings in, water out, and the ringed sheet to print."""

from __future__ import annotations

from secrets import token_hex
from typing import Annotated

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse

from fresh_ladle.core.bench.thickness import How, Reading, checked_reading, water_and_blend
from fresh_ladle.core.errors import Refused
from fresh_ladle.store.recipes.bench import open_bench
from fresh_ladle.store.recipes.recipes import RecipeMissing
from fresh_ladle.store.recipes.thickness import add_reading, readings_of, strike_reading
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.bench.ring_sheet import ring_sheet
from fresh_ladle.web.places.bench.thickness_view import thickness_view
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import number_typed, optional_number
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()
Typed = Annotated[str, Form(max_length=20)]


@router.get("/ring-sheet", response_class=HTMLResponse)
def sheet(request: Request) -> HTMLResponse:
    """The sheet that a line spread is read on, at its true size."""
    return page(request, "places/bench/ring_sheet.html", sheet=ring_sheet())


@router.get("/recipes/{recipe_id}/bench/thickness", response_class=HTMLResponse)
def thickness(
    request: Request, recipe_id: int, wanted: Annotated[float | None, Query(ge=0.1, le=14)] = None
) -> HTMLResponse:
    """How thick the open bowl is, and what more water would do."""
    return _answer(request, workbench_of(request), recipe_id, wanted)


def _answer(
    request: Request,
    workbench: Workbench,
    recipe_id: int,
    wanted: float | None = None,
    error: str = "",
) -> HTMLResponse:
    with workbench.store() as connection:
        bowl, kept = open_bench(connection, recipe_id), readings_of(connection, recipe_id)
    if bowl is None:
        raise RecipeMissing("no bowl is open here: begin one")
    view = thickness_view(workbench, bowl, kept, wanted)
    return page(
        request,
        "places/bench/thickness.html",
        t=view,
        recipe_id=recipe_id,
        thick_token=token_hex(8),
        thick_error=error,
    )


@router.post("/recipes/{recipe_id}/bench/thickness", response_class=HTMLResponse)
def take(
    request: Request,
    recipe_id: int,
    token: Annotated[str, Form(max_length=40)],
    how: Annotated[str, Form(max_length=10)] = "SPREAD",
    value: Typed = "",
    words: Typed = "",
    minutes: Typed = "",
    celsius: Typed = "",
) -> HTMLResponse:
    """Keeps a reading, with the water that is in by now."""
    workbench = workbench_of(request)
    try:
        chosen = How[how] if how in How.__members__ else How.SPREAD
        read = number_typed(words if chosen is How.WORDS else value, "the reading")
        after, warm = optional_number(minutes, "minutes") or 0.0, optional_number(celsius, "°C")
        checked_reading(chosen, read, after, warm)
        with workbench.store() as connection:
            if (bowl := open_bench(connection, recipe_id)) is None:
                raise RecipeMissing("no bowl is open here: begin one")
            water, blend = water_and_blend(bowl.log, workbench.knowledge)
            if blend <= 0:
                raise Refused("the bowl is empty: nothing to read yet")
            add_reading(
                connection, bowl.id, Reading(chosen, read, water / blend, after / 60, warm), token
            )
    except ValueError as error:
        return _answer(request, workbench, recipe_id, error=str(error))
    return _answer(request, workbench, recipe_id)


@router.post(
    "/recipes/{recipe_id}/bench/thickness/{reading_id}/strike", response_class=HTMLResponse
)
def strike(
    request: Request, recipe_id: int, reading_id: int, struck: Annotated[bool, Form()] = True
) -> HTMLResponse:
    """A reading that was a mistake teaches nothing any more; it stays readable."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        if (bowl := open_bench(connection, recipe_id)) is not None:
            strike_reading(connection, bowl.id, reading_id, struck)
    return _answer(request, workbench, recipe_id)
