"""Records of temperatures: cooling from 57 to 21 °C in two hours and to 5 °C within six in all;
holding cold or hot.

The limits are those of published food codes (grade A); local food codes decide.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from enum import StrEnum

from fresh_ladle.core.recipes.recipe import RecipeError

HOT, WARM, COLD = 57.0, 21.0, 5.0
FIRST_LIMIT, SECOND_LIMIT = timedelta(hours=2), timedelta(hours=6)
BETWEEN, BEFORE_LIMIT = timedelta(minutes=30), timedelta(minutes=10)
"""How long after a reading the next is due, and how long before a limit one must be."""
HOLDING_BETWEEN = timedelta(hours=2)
COLDEST, HOTTEST = -40.0, 120.0


class RecordKind(StrEnum):
    COOLING = "cooling"
    COLD = "cold holding"
    HOT = "hot holding"


class Remedy(StrEnum):
    """What is done when a limit was missed."""

    RAPID = "chilled rapidly"
    REHEATED = "reheated to 74 °C and cooled again"
    DISCARDED = "discarded"


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry: a reading in °C, or what was done, in words; `after_closing` where it was added to
    a closed record."""

    at: datetime
    celsius: float | None
    what: str = ""
    after_closing: bool = False


@dataclass(frozen=True, slots=True)
class RecordState:
    """Where a record stands: what is said of it, when the next reading is due, what failed and is
    not answered yet, and whether it may be closed."""

    sentence: str
    due: datetime | None
    failed: str
    may_close: bool


def checked_celsius(celsius: float) -> float:
    """A reading as it was typed. Raises RecipeError for what no food has."""
    if not COLDEST <= celsius <= HOTTEST:
        raise RecipeError(
            f"{celsius:g} °C is no temperature of a dish: look at the thermometer again"
        )
    return celsius


def record_state(kind: RecordKind, entries: Sequence[Entry], now: datetime) -> RecordState:
    """Where a record stands at a moment. Entries are in the order of time."""
    if any(e.what == Remedy.DISCARDED for e in entries):
        return RecordState("Discarded.", None, "", True)
    if kind is RecordKind.COOLING:
        return _cooling(entries, now)
    return _holding(kind, entries, now)


def _cooling(entries: Sequence[Entry], now: datetime) -> RecordState:
    again = [n for n, e in enumerate(entries) if e.what == Remedy.REHEATED]
    if len(again) > 1:
        return RecordState(
            "Reheated twice.", None, "a dish is reheated once only: it is discarded now", False
        )
    since = entries[again[-1] :] if again else entries
    readings = [(e.at, e.celsius) for e in since if e.celsius is not None]
    if not readings:
        return RecordState("Take the first reading as it leaves the heat.", now, "", False)
    hot = [at for at, celsius in readings if celsius >= HOT]
    start = hot[-1] if hot else readings[0][0]
    cooling = [(at, celsius) for at, celsius in readings if at >= start]
    rapid = [e.at for e in since if e.what == Remedy.RAPID]
    answered = ""
    for limit, target in ((start + FIRST_LIMIT, WARM), (start + SECOND_LIMIT, COLD)):
        failed = _missed(cooling, limit, target, now)
        if failed and not any(at >= limit for at in rapid):
            return RecordState("A limit was missed.", None, failed, False)
        if failed:
            answered = f" {failed[:1].upper()}{failed[1:]}; then chilled rapidly. {FOR_OTHERS}"
    if (cold := next((at for at, celsius in cooling if celsius <= COLD), None)) is not None:
        return RecordState(
            f"Cold: {COLD:.0f} °C after {_passed(start, cold)}.{answered}", None, "", True
        )
    on_its_way = _on_its_way(cooling, start, hot != [])
    return replace(on_its_way, sentence=on_its_way.sentence + answered)


FOR_OTHERS = "Whether it may be eaten is for whoever is in charge, by the local food code."


def _missed(
    cooling: Sequence[tuple[datetime, float]], limit: datetime, target: float, now: datetime
) -> str:
    """What is said where no reading shows the target by its limit; empty while there is time, or
    where one does."""
    if any(celsius <= target and at <= limit for at, celsius in cooling) or now <= limit:
        return ""
    hours = "two hours" if target == WARM else "six hours"
    late = next(((at, celsius) for at, celsius in cooling if at > limit), None)
    if late is not None and late[1] > target:
        return f"still {late[1]:.1f} °C after {hours}: {target:.0f} °C was the limit"
    return f"no reading shows {target:.0f} °C within {hours}"


def _on_its_way(
    cooling: Sequence[tuple[datetime, float]], start: datetime, seen_hot: bool
) -> RecordState:
    last_at, last = cooling[-1]
    if last >= HOT:
        return RecordState(
            f"Still at {last:.0f} °C: the two hours run from 57 °C down.",
            last_at + BETWEEN,
            "",
            False,
        )
    target, limit = (WARM, start + FIRST_LIMIT) if last > WARM else (COLD, start + SECOND_LIMIT)
    due = min(last_at + BETWEEN, max(last_at, limit - BEFORE_LIMIT))
    from_first = "" if seen_hot else " (counted from the first reading, since none shows 57 °C)"
    return RecordState(
        f"{last:.1f} °C; {target:.0f} °C by {limit:%H:%M}{from_first}.", due, "", False
    )


def _passed(start: datetime, end: datetime) -> str:
    minutes = round((end - start).total_seconds() / 60)
    return f"{minutes // 60} h {minutes % 60:02} min"


def _holding(kind: RecordKind, entries: Sequence[Entry], now: datetime) -> RecordState:
    """Every reading at 5 °C or below, or at 57 °C or above; one that is not asks what was done."""
    readings = [(n, e) for n, e in enumerate(entries) if e.celsius is not None]
    if not readings:
        return RecordState("Take the first reading.", now, "", False)
    number, last = readings[-1]
    assert last.celsius is not None
    cold = kind is RecordKind.COLD
    good = last.celsius <= COLD if cold else last.celsius >= HOT
    side = f"{COLD:.0f} °C or below" if cold else f"{HOT:.0f} °C or above"
    answered = any(e.what in set(Remedy) for e in entries[number + 1 :])
    if not good and not answered:
        return RecordState(
            "Out of its range.", None, f"{last.celsius:.1f} °C: it is held at {side}", False
        )
    if not good:
        return RecordState("Read again.", now, "", False)
    return RecordState(
        f"{last.celsius:.1f} °C: held at {side}.", last.at + HOLDING_BETWEEN, "", True
    )
