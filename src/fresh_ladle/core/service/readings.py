"""Readings of temperature that a day asks for: when something must have been reached, by the steps
that do it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.hold.temperature import COLD, FIRST_LIMIT, SECOND_LIMIT, WARM, RecordKind
from fresh_ladle.core.service.schedule import Placed

COOLING = "cooling"
"""The id of what is cooled in two stages (`data/method/reach.csv`)."""


@dataclass(frozen=True, slots=True)
class ReadingDue:
    """One reading: the minute it is due on the line of the day, of which dish, what it must show,
    and the kind of record it belongs to; None where it is read at the stove."""

    minute: int
    dish: str
    words: str
    kind: RecordKind | None


def readings_due(placed: Sequence[Placed], eaten: int) -> list[ReadingDue]:
    """The readings of a day in their order; none after the dish is eaten."""
    found = []
    for one in placed:
        for reach in one.task.reach:
            if reach.id == COOLING:
                found += _of_cooling(one)
            else:
                found.append(
                    ReadingDue(one.end, one.task.dish, f"{one.task.text}: {reach.words}", None)
                )
    return sorted((r for r in found if r.minute <= eaten), key=lambda r: (r.minute, r.dish))


def _of_cooling(one: Placed) -> list[ReadingDue]:
    """Both stages, counted from where the cooling begins."""
    stages = ((FIRST_LIMIT, WARM), (SECOND_LIMIT, COLD))
    return [
        ReadingDue(
            one.start + round(limit.total_seconds() / 60),
            one.task.dish,
            f"{one.task.text}: {celsius:g} °C or below by then",
            RecordKind.COOLING,
        )
        for limit, celsius in stages
    ]
