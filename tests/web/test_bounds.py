"""Bounds of what is typed, on both sides of each."""

from __future__ import annotations

from contextlib import nullcontext

import pytest

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.nutrients.targets import Side
from fresh_ladle.core.people.password import LONGEST, SHORTEST, why_refused
from fresh_ladle.core.practice.exercise import Exercise
from fresh_ladle.core.ranges import Range
from fresh_ladle.store.settings import MAX_CURRENCY, MAX_NAME, Settings
from fresh_ladle.web.places.practice.form import given_by
from fresh_ladle.web.places.read_in.form import MAX_NOTES, PreviewForm
from fresh_ladle.web.shared.limits import MAX_LIMIT, LimitRow
from fresh_ladle.web.shared.typed import (
    MAX_ROW_DIGITS,
    number_typed,
    optional_number,
    row_id,
    whole_number,
)


def words(letters: int) -> str:
    return ("plum kettle orbit walrus " * 20)[:letters]


def test_passwords_are_as_long_as_they_may_be() -> None:
    assert [why_refused(words(n), "xx") == "" for n in (SHORTEST - 1, SHORTEST, LONGEST,
        LONGEST + 1)] == [
        False, True, True, False,
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("changed", "holds"),
    [
        ({"opens": "06:00", "closes": "06:01"}, True),
        ({"opens": "06:00", "closes": "06:00"}, False),
        ({"opens": "00:00", "closes": "23:59"}, True),
        ({"opens": "noon", "closes": "20:00"}, False),
        ({"opens": "06:00", "closes": "late"}, False),
        ({"weights_from": "1"}, True),
        ({"weights_from": "0"}, False),
        ({"weights_from": "5000"}, True),
        ({"weights_from": "5001"}, False),
        ({"practice": "x" * MAX_NAME}, True),
        ({"practice": "x" * (MAX_NAME + 1)}, False),
        ({"currency": "x" * MAX_CURRENCY}, True),
        ({"currency": "x" * (MAX_CURRENCY + 1)}, False),
        ({"label": "moon"}, False),
    ],
)
def test_settings_hold_what_they_may(changed: dict[str, str], holds: bool) -> None:
    with nullcontext() if holds else pytest.raises(Refused):
        Settings(**changed)


def test_numbers_as_they_are_typed() -> None:
    assert [number_typed(text, "x") for text in ("1,5", "1.5", "-2", " 7 ")] == [
        1.5,
        1.5,
        -2.0,
        7.0,
    ]
    assert [optional_number(text, "x") for text in ("", "  ", "3")] == [None, None, 3.0]
    assert [whole_number(text, "x", 2, 5) for text in ("2", "5", "3,0")] == [2, 5, 3]
    for wrong in ("1", "6", "2.5", "two", "inf"):
        with pytest.raises(Refused, match="x"):
            whole_number(wrong, "x", 2, 5)
    assert row_id("7" * MAX_ROW_DIGITS) == int("7" * MAX_ROW_DIGITS)
    assert [row_id(text) for text in ("7" * (MAX_ROW_DIGITS + 1), "", "-1", "1.0", "²")] == [
        None
    ] * 5


def test_limits_between_nothing_and_the_most_a_serving_can_have() -> None:
    for typed, holds in (
        ("0", True),
        (f"{MAX_LIMIT}", True),
        ("-0.1", False),
        (f"{MAX_LIMIT + 1}", False),
        ("x", False),
    ):
        with nullcontext() if holds else pytest.raises(ValueError, match=r"odium"):
            assert LimitRow("sodium_mg", most=typed).targets()[0].side is Side.AT_MOST
    assert len(LimitRow("sodium_mg", "5", "5").targets()) == 2
    with pytest.raises(Refused, match="at least 6 and at most 5"):
        LimitRow("sodium_mg", "6", "5").targets()


def test_the_title_and_the_notes_of_a_page_are_cut(reader) -> None:  # type: ignore[no-untyped-def]
    form = PreviewForm(
        title="t" * 121,
        kind="slaw",
        servings="4",
        line=["1 cup tahini", "n" * 500],
        sort=["item", "note"],
    )
    page = form.page(reader)
    assert form.reading(page, reader).recipe.title == "t" * 120
    assert form.notes(page) == "n" * MAX_NOTES


def test_an_answer_of_practice_is_a_choice_or_a_range() -> None:
    any_figure = Range(5.0, 4.0, 6.0)
    ranged = Exercise("weigh", "?", "g", any_figure, (), "a", "nuts")
    asked = Exercise("carries", "?", "", any_figure, (), "a", "", ("one", "two", "three"), 1)
    assert given_by(asked, "", "", 0).choice == 0
    assert given_by(asked, "", "", len(asked.choices) - 1).choice == len(asked.choices) - 1
    for choice in (None, len(asked.choices)):
        with pytest.raises(Refused):
            given_by(asked, "", "", choice)
    assert given_by(ranged, "0", "0", None).answered is not None
    for low, high in (("-0.1", "3"), ("4", "3")):
        with pytest.raises(Refused, match="not below 0"):
            given_by(ranged, low, high, None)
