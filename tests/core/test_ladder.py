"""The ladder of amounts: whatever a plan asks for can be measured, and weighs what the plan thinks
it does."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.weigh import weigh
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.plans.ladder import nearest_rungs, rungs_of_food, rungs_of_line
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.data.foods import load_pantry

FOODS = (
    "table-salt",
    "olive-oil-refined",
    "parsley",
    "feta",
    "lemon-zest",
    "chickpeas-cooked",
    "garlic",
    "romaine",
)
A_SPOON = r"(?:⅛|¼|½|¾|1|1½|2) tsp|(?:1|1½|2|2½|3) Tbsp"
A_CUP = r"(?:¼|⅓|½|⅔|¾) cup|\d+(?:¼|⅓|½|⅔|¾)? cups?"
MEASURES = re.compile(
    rf"^(?:{A_SPOON}|{A_CUP}|1 Tbsp plus 1 tsp|(?:¼|½) cup plus [12] Tbsp|(?:½|\d+) cloves?)$"
)


def texts(
    amount: str, key: str, pantry: Pantry, region: Region = Region.US, by_weight: bool = False
) -> list[str]:
    line = Line("l1", f"{amount} {key}", amount, key)
    return [r.text for r in rungs_of_line(line, pantry[key], region, by_weight)]


@pytest.mark.parametrize("key", FOODS)
def test_a_food_comes_in_by_single_measures_or_two_that_nest(key: str, pantry: Pantry) -> None:
    for rung in rungs_of_food(pantry[key]):
        assert MEASURES.match(rung.text) or re.match(r"^\d+ cups$", rung.text), rung.text


@given(st.sampled_from(FOODS), st.floats(0.7, 400), st.booleans())
def test_the_words_weigh_what_the_rung_says(key: str, grams: float, by_weight: bool) -> None:
    food = load_pantry()[key]
    for rung in nearest_rungs(rungs_of_food(food, by_weight=by_weight), grams):
        assert weigh(parse_amount(rung.text), food).grams.value == pytest.approx(
            rung.grams, rel=0.001
        )


@given(
    st.sampled_from(("olive-oil-refined", "parsley", "feta", "chickpeas-cooked", "romaine")),
    st.floats(4, 300),
)
def test_some_rung_lies_within_a_fifth_of_any_amount(key: str, grams: float) -> None:
    found = nearest_rungs(rungs_of_food(load_pantry()[key]), grams)
    assert abs(found[0].grams / grams - 1) <= 0.2
    assert len(found) == 1 or (found[0].grams > grams) != (found[1].grams > grams)


@pytest.mark.parametrize(
    ("amount", "key", "among", "never"),
    [
        (
            "1/4 cup",
            "olive-oil-refined",
            ["1 Tbsp", "1 Tbsp plus 1 tsp", "3 Tbsp"],
            ["3½ Tbsp", "¼ cup plus ½ Tbsp"],
        ),
        ("1/2 tsp", "table-salt", ["⅛ tsp", "¼ tsp", "¼ tsp plus ⅛ tsp", "½ tsp"], ["⅜ tsp"]),
        ("4 cloves", "garlic", ["2 cloves", "3 cloves"], ["2¾ cloves"]),
        (
            "1 (15 oz) can",
            "chickpeas-canned-drained",
            ["½ can (15 oz)", "1½ cans (15 oz)"],
            ["¾ can (15 oz)"],
        ),
        ("juice of 2", "lemon-juice-fresh", ["juice of 1", "juice of 1½"], ["juice of ¾"]),
        ("1 large", "cucumber", ["½ large", "1½ large"], ["⅔ large"]),
        ("850 g", "cabbage-green", ["600 g", "800 g"], ["825 g", "613 g"]),
        ("1 1/2 lb", "beet-raw", ["1 lb", "1¼ lb"], ["13 oz", "15 oz"]),
        ("3 oz", "feta", ["1 oz", "2½ oz"], ["2.7 oz"]),
        ("100 ml", "olive-oil-refined", ["50 ml", "75 ml"], ["73 ml"]),
        ("2 pinches", "table-salt", ["1 pinch"], ["½ pinch"]),
    ],
)
def test_a_line_keeps_to_its_own_kind_of_measure(
    amount: str, key: str, among: list[str], never: list[str], pantry: Pantry
) -> None:
    found = texts(amount, key, pantry)
    assert set(among) <= set(found)
    assert not set(never) & set(found)


def test_who_would_rather_weigh_gets_grams(pantry: Pantry) -> None:
    assert {"1 g", "2 g"} <= set(texts("1/2 tsp", "table-salt", pantry, by_weight=True))
    assert all(
        text.endswith(" g")
        for text in texts("1/4 cup", "olive-oil-refined", pantry, by_weight=True)
    )


def test_an_amount_that_cannot_be_weighed_has_no_rungs(pantry: Pantry) -> None:
    assert texts("", "feta", pantry) == []
    assert texts("3 sprays", "feta", pantry) == []


def test_spoons_are_those_of_the_region(pantry: Pantry) -> None:
    line = Line("l1", "1 cup olive oil", "1 cup", "olive-oil-refined")
    cups = {
        region: next(
            r for r in rungs_of_line(line, pantry["olive-oil-refined"], region) if r.text == "½ cup"
        ).grams
        for region in (Region.US, Region.IMPERIAL)
    }
    assert cups[Region.IMPERIAL] > 1.15 * cups[Region.US]
