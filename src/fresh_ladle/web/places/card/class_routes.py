"""A class from a recipe: its run sheet on screen and on paper, and a page for the wall."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, timedelta
from typing import Annotated
from zoneinfo import ZoneInfo

from fastapi import Depends, Query, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.clock import AHEAD, moment_of, zone_named
from fresh_ladle.core.teaching.lesson import ClassAsk, Lesson, lesson
from fresh_ladle.data.foods import slug
from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.formats.paper import paper_pdf
from fresh_ladle.store import clock
from fresh_ladle.store.foods.own_foods import pack_prices
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.card.class_view import lesson_tables, lesson_view, wall_view
from fresh_ladle.web.places.card.made_card import MadeCard, made_card
from fresh_ladle.web.shared.gate import gate_of, let_through
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import whole_number
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.work.papers import pdf_of

router = guarded_router("/recipes/{recipe_id}")
Short = Annotated[str, Query(max_length=20)]
FOOT = "Minutes and figures are estimates. Local food codes and licensed practice decide."


@dataclass(frozen=True, slots=True)
class _Asked:
    """What was typed for a class, as text."""

    at: str
    minutes: str
    tables: str
    at_table: str


def _asked(
    at: Short = "", minutes: Short = "45", tables: Short = "6", at_table: Short = "4"
) -> _Asked:
    tomorrow = clock.now().astimezone(ZoneInfo(local_zone())) + timedelta(days=1)
    return _Asked(at or f"{tomorrow:%Y-%m-%d}T15:00", minutes, tables, at_table)


Typed = Annotated[_Asked, Depends(_asked)]


def _lesson(request: Request, made: MadeCard, asked: _Asked) -> Lesson:
    """Raises RecipeError for a class that cannot be."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        prices = pack_prices(connection)
    begins = moment_of(asked.at, zone_named(local_zone()))
    if begins <= clock.now():
        raise RecipeError(f"{begins:%d %B %Y, %H:%M} is over: a class lies ahead")
    ask = ClassAsk(
        begins,
        whole_number(asked.minutes, "minutes", 1, 1000),
        whole_number(asked.tables, "tables", 1, 1000),
        whole_number(asked.at_table, "people at a table", 1, 1000),
    )
    now = begins.astimezone(UTC) - AHEAD - timedelta(hours=1)
    blocks, work = workbench.knowledge.handouts.class_blocks, workbench.knowledge.work
    return lesson(made.dish, made.usual, ask, work, blocks, now, prices)


def _made(request: Request, recipe_id: int, version_number: int | None) -> MadeCard:
    with workbench_of(request).store() as connection:
        made = made_card(workbench_of(request), connection, recipe_id, version_number)
        let_through(gate_of(connection, recipe_id, made.version.number, made.dish))
    return made


@router.get("/class", response_class=HTMLResponse)
def class_page(
    request: Request, recipe_id: int, asked: Typed, version_number: int | None = None
) -> HTMLResponse:
    """The run sheet of a class, planned anew for what is typed."""
    made = _made(request, recipe_id, version_number)
    error, shown = "", None
    with workbench_of(request).store() as connection:
        currency = settings(connection).currency
    try:
        shown = lesson_view(_lesson(request, made, asked), made, currency)
    except RecipeError as problem:
        error = str(problem)
    return page(
        request,
        "places/card/class.html",
        422 if error else 200,
        card=made.card,
        version=made.version,
        asked=asked,
        lesson=shown,
        error=error,
        place="card",
        recipe_id=recipe_id,
    )


@router.get("/class.pdf")
def class_sheet(
    request: Request, recipe_id: int, asked: Typed, version_number: int | None = None
) -> Response:
    """The run sheet on paper."""
    made = _made(request, recipe_id, version_number)
    found = _lesson(request, made, asked)
    with workbench_of(request).store() as connection:
        currency = settings(connection).currency
    shown = lesson_view(found, made, currency)
    paper = "us-letter" if made.dish.recipe.region is Region.US else "a4"
    sheet = pdf_of(
        workbench_of(request),
        paper_pdf,
        f"A class: {made.card.title}",
        shown.under,
        lesson_tables(shown),
        FOOT,
        paper,
    )
    name = f"class-{slug(made.card.title)}.pdf"
    return Response(
        sheet,
        media_type="application/pdf",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


@router.get("/class/wall", response_class=HTMLResponse)
def wall(
    request: Request, recipe_id: int, version_number: int | None = None, figure: Short = "sodium_mg"
) -> HTMLResponse:
    """A page for the wall: the dish as usual and now, through one lens, to be read from the back
    row."""
    made = _made(request, recipe_id, version_number)
    return page(
        request,
        "places/card/wall.html",
        wall=wall_view(made, figure),
        recipe_id=recipe_id,
        version=made.version,
    )
