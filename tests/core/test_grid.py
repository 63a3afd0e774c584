"""The kitchen grid: whatever a plan asks for can be measured, and weighs what the plan thinks it does."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.weigh import weigh
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.plans.grid import EIGHTH, Grid, grid_near, grid_of_line
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.data.load import load_pantry

FOODS = (
    "table-salt",
    "olive-oil-refined",
    "lemon-juice-fresh",
    "parsley",
    "feta",
    "tahini",
    "lemon-zest",
    "chickpeas-cooked",
    "water",
    "garlic",
)
TBSP, TSP = Grid("tbsp", Fraction(1, 2), 6.8, in_cups=True), Grid("tsp", Fraction(1, 4), 1.5)


@pytest.mark.parametrize(
    ("grid", "steps", "said"),
    [
        (TSP, 1, "¼ tsp"),
        (TSP, 3, "¾ tsp"),
        (TSP, 6, "1½ tsp"),
        (TSP, 12, "1 Tbsp"),
        (TSP, 13, "1 Tbsp plus ¼ tsp"),
        (TSP, 18, "1½ Tbsp"),
        (TBSP, 3, "1½ Tbsp"),
        (TBSP, 8, "¼ cup"),
        (TBSP, 9, "¼ cup plus ½ Tbsp"),
        (TBSP, 32, "1 cup"),
        (Grid("tbsp", Fraction(1, 2), 6.8), 9, "4½ Tbsp"),
        (Grid("tsp", EIGHTH, 0.7), 1, "⅛ tsp"),
        (Grid("tsp", EIGHTH, 0.7), 2, "¼ tsp"),
        (Grid("tsp", EIGHTH, 0.7), 3, "¼ tsp plus ⅛ tsp"),
        (Grid("tsp", EIGHTH, 0.7), 7, "¾ tsp plus ⅛ tsp"),
        (Grid("clove", Fraction(1), 3.5), 2, "2 cloves"),
        (Grid(None, Fraction(1, 2), 60), 3, "1½"),
        (Grid("g", Fraction(5), 5), 7, "35 g"),
    ],
)
def test_amounts_are_worded_as_spoons_are_made(grid: Grid, steps: int, said: str) -> None:
    assert grid.text(steps) == said


@given(st.sampled_from(FOODS), st.floats(0.4, 400), st.integers(1, 24))
def test_the_words_weigh_what_the_steps_do(key: str, grams: float, steps: int) -> None:
    food = load_pantry()[key]
    grid = grid_near(food, grams)
    weighed = weigh(parse_amount(grid.text(steps)), food).grams.value
    assert weighed == pytest.approx(grid.grams * steps, rel=0.035)


@given(st.sampled_from(FOODS), st.floats(2, 400))
def test_a_step_is_fine_enough_for_the_amount(key: str, grams: float) -> None:
    grid = grid_near(load_pantry()[key], grams)
    assert grid.grams <= max(0.26 * grams, 1.1)
    assert abs(grid.steps(grams) * grid.grams - grams) <= grid.grams / 2 + 1e-9


def test_a_line_keeps_its_own_unit_when_that_is_fine_enough(pantry: Pantry) -> None:
    def grid(amount: str, key: str) -> Grid:
        food = pantry[key]
        line = Line("l1", f"{amount} {key}", amount, key)
        return grid_of_line(line, food, weigh(parse_amount(amount), food).grams.value, Region.US)

    assert grid("3 cup", "chickpeas-cooked").unit == "cup"
    assert grid("1/2 cup", "olive-oil-refined").unit == "tbsp", "a quarter cup is half of it"
    assert grid("4 clove", "garlic").unit == "clove"
    assert grid("1/2 tsp", "table-salt") == Grid("tsp", EIGHTH, pytest.approx(0.75))
    assert grid("200 g", "feta").unit == "g"
    assert grid("1 (15 oz) can", "chickpeas-canned-drained").unit == "cup", "nobody opens a can to take a sixth of it"
