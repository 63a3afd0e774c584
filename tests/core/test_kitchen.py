"""Kitchen steps: what a cook can measure."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.kitchen import kitchen_amount, nudged, scaled, written
from fresh_ladle.core.amounts.weigh import weigh
from fresh_ladle.core.foods.pantry import Pantry


@pytest.mark.parametrize(
    ("text", "steps", "after"),
    [
        ("1 tsp", 1, "1¼ tsp"),
        ("1 tsp", -1, "¾ tsp"),
        ("1/4 tsp", -1, "¼ tsp"),
        ("⅓ cup", 1, "½ cup"),
        ("⅓ cup", -1, "¼ cup"),
        ("2 cloves", 1, "3 cloves"),
        ("250 g", -2, "240 g"),
        ("juice of 1", 1, "juice of 1½"),
        ("1 (15 oz) can", -1, "¾ can (15 oz)"),
        ("3-4 cloves", 1, "4 cloves"),
    ],
)
def test_nudging_goes_to_the_next_whole_step(text: str, steps: int, after: str) -> None:
    assert nudged(text, steps) == after


def test_scaling_keeps_spoons_measurable() -> None:
    assert scaled("1/2 tsp", 0.5) == "¼ tsp"
    assert scaled("1/4 tsp", 0.5) == "⅛ tsp"
    assert scaled("3 oz", 0.5) == "1½ oz"
    assert scaled("1 (15 oz) can", 0.5) == "½ can (15 oz)"


@given(st.integers(1, 400), st.sampled_from([1, 2, 4, 8]))
def test_a_written_number_reads_back(top: int, bottom: int) -> None:
    number = Fraction(top, bottom)
    amount = parse_amount(f"{written(number)} cup")
    assert amount.count is not None
    assert amount.count.count.value == pytest.approx(float(number), abs=0.02)


@given(
    st.sampled_from(
        [
            "tahini",
            "lemon-juice-fresh",
            "garlic",
            "table-salt",
            "cannellini-beans-canned-no-salt",
            "parsley",
            "water",
        ]
    ),
    st.floats(0.8, 400),
)
def test_a_kitchen_amount_weighs_about_what_was_wanted(key: str, grams: float) -> None:
    from fresh_ladle.data.foods import load_pantry

    food = load_pantry()[key]
    got = weigh(parse_amount(kitchen_amount(food, grams)), food).grams.value
    assert got == pytest.approx(grams, rel=0.36)


def test_a_trace_is_a_pinch(pantry: Pantry) -> None:
    assert kitchen_amount(pantry["cinnamon"], 0.08) == "1 pinch"


@pytest.mark.parametrize(
    ("text", "doubled"),
    [
        ("a little", "2 × a little"),
        ("2 × a little", "4 × a little"),
        ("some", "2 × some"),
        ("a good glug", "2 good glugs"),
        ("a generous pour", "2 large pours"),
        ("1 heaped Tbsp", "2 heaping Tbsp"),
        ("1 small can", "2 small cans"),
        ("2 large", "4 large"),
    ],
)
def test_an_amount_doubled_keeps_its_words_and_can_be_read_again(text: str, doubled: str) -> None:
    assert scaled(text, 2) == doubled
    was, now = parse_amount(text), parse_amount(doubled)
    assert was.count is not None
    assert now.count is not None
    assert now.count.count.value == pytest.approx(2 * was.count.count.value)
    assert (now.unit, now.size, now.fill) == (was.unit, was.size, was.fill)
    assert scaled(doubled, 0.5) in (
        text,
        text.replace("a good", "1 good")
        .replace("heaped", "heaping")
        .replace("a generous", "1 large"),
    )
