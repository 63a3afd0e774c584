"""A service on paper: tables of the day, of amounts, of what is bought."""

from __future__ import annotations

from datetime import datetime

from fresh_ladle.core.hold.temperature import Entry
from fresh_ladle.core.service.day import Service
from fresh_ladle.core.service.schedule import Awaited, Impossible, Schedule
from fresh_ladle.core.service.words import impossible_words
from fresh_ladle.formats.paper import PaperTable
from fresh_ladle.store.services.services import KeptService
from fresh_ladle.web.places.service.view import base_views, day_view, dish_view, shopping_sections

BOX = "\u2610"


def service_tables(found: Service, kept: KeptService) -> list[PaperTable]:
    """The day, the amounts of each dish, the shopping list."""
    order = found.order
    tables = _refused(found) if found.refused else []
    tables += _days(found, kept) if isinstance(order, Schedule) else [_no_day(order)]
    for title, why, lines in base_views(found):
        tables.append(_amounts(f"{title}: {why}", [line.text for line in lines]))
    for plan in found.plans:
        dish = dish_view(found, plan, "")
        tables.append(
            _amounts(
                f"{dish.title}: {dish.made}; keeps {dish.keeps}", [line.text for line in plan.lines]
            )
        )
        if dish.starts_with_less:
            less = f"Begin with {', '.join(dish.starts_with_less)}; the rest goes in by taste."
            tables.append(PaperTable("Strong things", ("",), ((less,),), (1,)))
        tables += [
            _amounts(f"{what}, in each, liquid first", list(lines)) for what, lines in dish.batches
        ]
    if found.beside is not None:
        tables.append(_amounts("What it comes with", [line.text for line in found.beside.lines]))
    for section, purchases in shopping_sections(found.shopping):
        rows = tuple(
            (
                BOX,
                p.words,
                p.food.kitchen_name,
                f"{p.left_over:.0f} g over" if p.left_over >= 1 else "",
            )
            for p in purchases
            if p.grams.value > 0
        )
        if rows:
            tables.append(PaperTable(f"Shopping: {section}", ("", "", "", ""), rows, (0, 1, 2, 0)))
    return tables


def _amounts(heading: str, lines: list[str]) -> PaperTable:
    return PaperTable(heading, ("", ""), tuple((BOX, line) for line in lines), (0, 1))


def _refused(found: Service) -> list[PaperTable]:
    return [
        PaperTable("Not for guests at risk", ("",), tuple((why,) for why in found.refused), (1,))
    ]


def _no_day(order: Impossible | Awaited) -> PaperTable:
    return PaperTable("No order of work", ("",), ((impossible_words(order),),), (1,))


def _days(found: Service, kept: KeptService) -> list[PaperTable]:
    day = day_view(found, kept, found.ask.eaten)
    return [
        PaperTable(
            date,
            ("", "from", "to", "cook", "what", "dish"),
            tuple(
                (BOX, x.start, x.end, x.cook, x.text + "".join(f"; {n}" for n in x.notes), x.dish)
                for x in steps
            ),
            (0, 0, 0, 0, 4, 2),
        )
        for date, steps in day.steps
    ]


def record_table(entries: list[tuple[datetime, Entry]]) -> PaperTable:
    """A record of temperatures, each moment in the time of the place."""
    rows = tuple(
        (
            f"{at:%d %b %H:%M}",
            "" if e.celsius is None else f"{e.celsius:.1f} °C",
            e.what + (" (added after it was closed)" if e.after_closing else ""),
        )
        for at, e in entries
    )
    return PaperTable("Entries", ("moment", "reading", "what"), rows, (0, 0, 1))
