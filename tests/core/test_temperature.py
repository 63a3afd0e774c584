"""Cooling and holding on both sides of every limit."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from fresh_ladle.core.hold.temperature import (
    Entry,
    RecordKind,
    Remedy,
    checked_celsius,
    record_state,
)
from fresh_ladle.core.recipes.recipe import RecipeError

START = datetime(2027, 3, 4, 9, 0, tzinfo=UTC)


def at(hours: float) -> datetime:
    return START + timedelta(hours=hours)


def read(*readings: tuple[float, float]) -> list[Entry]:
    return [Entry(at(hours), celsius) for hours, celsius in readings]


def cooling(entries: list[Entry], hours: float):  # type: ignore[no-untyped-def]
    return record_state(RecordKind.COOLING, entries, at(hours))


def test_a_good_curve_may_be_closed() -> None:
    state = cooling(read((0, 60), (0.5, 45), (1.5, 20), (4, 4.5)), 4.1)
    assert state.may_close
    assert state.failed == ""
    assert state.sentence == "Cold: 5 °C after 4 h 00 min."


@pytest.mark.parametrize(
    ("entries", "hours", "failed"),
    [
        (read((0, 60), (1.9, 22)), 1.99, ""),
        (read((0, 60), (1.9, 22)), 2.01, "no reading shows 21 °C within two hours"),
        (read((0, 60), (2.0, 21)), 2.5, ""),
        (read((0, 60), (2.1, 24)), 2.1, "still 24.0 °C after two hours: 21 °C was the limit"),
        (read((0, 60), (2.0, 20), (6.0, 5.0)), 9, ""),
        (read((0, 60), (2.0, 20), (6.1, 5.0)), 9, "no reading shows 5 °C within six hours"),
        (
            read((0, 60), (2.0, 20), (6.1, 8.0)),
            9,
            "still 8.0 °C after six hours: 5 °C was the limit",
        ),
        (read((0, 60)), 2.01, "no reading shows 21 °C within two hours"),
        (read((0, 80), (1.5, 58), (3.4, 20)), 3.5, ""),
    ],
)
def test_each_limit_on_both_sides(entries: list[Entry], hours: float, failed: str) -> None:
    assert cooling(entries, hours).failed == failed


def test_the_next_reading_is_due_before_the_limit() -> None:
    assert cooling(read((0, 80)), 0.1).due == at(0.5)
    assert cooling(read((0, 57), (1.7, 30)), 1.75).due == at(2) - timedelta(minutes=10)
    late = cooling(read((0, 40)), 0.1)
    assert "counted from the first reading" in late.sentence
    assert cooling([], 0).due == at(0)


def test_what_was_done_is_kept_and_answers() -> None:
    missed = read((0, 60), (2.1, 30))
    assert not cooling(missed, 2.2).may_close
    rapid = [*missed, Entry(at(2.2), None, Remedy.RAPID), Entry(at(2.6), 4.0)]
    state = cooling(rapid, 2.7)
    assert state.may_close
    assert "Still 30.0 °C after two hours" in state.sentence
    assert "for whoever is in charge, by the local food code" in state.sentence
    reheated = [*missed, Entry(at(2.2), None, Remedy.REHEATED)]
    assert cooling(reheated, 2.3).failed == ""
    again = [*reheated, *read((2.5, 75), (4.6, 30))]
    assert cooling(again, 4.7).failed == "still 30.0 °C after two hours: 21 °C was the limit"
    twice = [*again, Entry(at(4.8), None, Remedy.REHEATED)]
    assert "once only" in cooling(twice, 4.9).failed
    gone = [*missed, Entry(at(2.2), None, Remedy.DISCARDED)]
    assert cooling(gone, 9).sentence == "Discarded."
    assert cooling(gone, 9).may_close


def test_a_rapid_chill_before_the_limit_does_not_answer_for_it() -> None:
    early = [*read((0, 60)), Entry(at(0.5), None, Remedy.RAPID)]
    assert cooling(early, 2.1).failed == "no reading shows 21 °C within two hours"


@pytest.mark.parametrize(
    ("kind", "celsius", "good"),
    [
        (RecordKind.COLD, 5.0, True),
        (RecordKind.COLD, 5.1, False),
        (RecordKind.HOT, 57.0, True),
        (RecordKind.HOT, 56.9, False),
    ],
)
def test_holding(kind: RecordKind, celsius: float, good: bool) -> None:
    state = record_state(kind, read((0, celsius)), at(0.1))
    assert state.may_close is good
    assert bool(state.failed) is not good
    answered = record_state(
        kind, [*read((0, celsius)), Entry(at(0.2), None, Remedy.RAPID)], at(0.3)
    )
    assert answered.failed == ""
    assert answered.may_close is good


@pytest.mark.parametrize("celsius", [-60, 400])
def test_what_no_food_has(celsius: float) -> None:
    with pytest.raises(RecipeError):
        checked_celsius(celsius)
