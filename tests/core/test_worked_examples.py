"""Three dishes worked by hand from the table rows, every intermediate figure written out."""

from __future__ import annotations

from dataclasses import dataclass

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.appraisal import Knowledge, appraise
from fresh_ladle.core.recipe_text import read_recipe


@dataclass(frozen=True)
class Hand:
    """One line by hand: grams the figures apply to, grams in the bowl, and kcal, sodium, fat, fiber, protein per 100 g."""

    food: str
    counted: float
    in_bowl: float
    per_100_g: tuple[float, float, float, float, float]


VINAIGRETTE = (
    "Sherry vinaigrette\nServes 8\n6 Tbsp extra-virgin olive oil\n2 Tbsp sherry vinegar\n1 tsp Dijon mustard\n1/4 tsp salt",
    8,
    [
        # 6 x 13.6 g
        Hand("olive-oil-extra-virgin", 81.6, 81.6, (884, 2, 100, 0, 0)),
        Hand("vinegar-sherry", 29.8, 29.8, (19, 8, 0, 0, 0.04)),
        # 1 tsp = 5.2 g, label-type estimate
        Hand("mustard-dijon", 5.2, 5.2, (143, 2350, 10, 4, 6.8)),
        # a quarter of 6 g
        Hand("table-salt", 1.5, 1.5, (0, 38758, 0, 0, 0)),
    ],
)
BEAN_DIP = (
    "Bean dip\nServes 6\n1 (15 oz) can cannellini beans, drained and rinsed\n2 Tbsp tahini\njuice of 1 lemon\n1 clove garlic\n1/2 tsp salt",
    6,
    [
        Hand("cannellini-beans-canned-rinsed", 260, 260, (105, 201, 0.352, 4.94, 7.78)),
        Hand("tahini", 30, 30, (697, 64, 62.4, 8.4, 19.71)),
        Hand("lemon-juice-fresh", 47, 47, (22, 1, 0.24, 0.3, 0.35)),
        Hand("garlic", 3.5, 3.5, (149, 17, 0.5, 2.1, 6.36)),
        Hand("table-salt", 3, 3, (0, 38758, 0, 0, 0)),
    ],
)
GRAIN_SALAD = (
    "Quinoa salad\nServes 4\n1 cup dry quinoa, boiled\n1 cucumber, diced\n3 oz feta, crumbled\n2 Tbsp olive oil",
    4,
    [
        # 170 g dry takes up water to 2.8 times its weight; the figures stay those of 170 g dry
        Hand("quinoa-dry", 170, 476, (368, 5, 6.07, 7, 14.12)),
        Hand("cucumber", 301, 301, (16, 2, 0.11, 0.5, 0.65)),
        # 3 x 28.35 g
        Hand("feta", 85.05, 85.05, (265, 1139, 21.49, 0, 14.21)),
        Hand("olive-oil-refined", 27.2, 27.2, (884, 2, 100, 0, 0)),
    ],
)


@pytest.mark.parametrize(
    "example", [VINAIGRETTE, BEAN_DIP, GRAIN_SALAD], ids=["vinaigrette", "bean dip", "grain salad"]
)
def test_worked_by_hand(example: tuple[str, float, list[Hand]], reader: Reader, knowledge: Knowledge) -> None:
    text, servings, lines = example
    reading = read_recipe(text, reader)
    appraisal = appraise(reading.recipe, knowledge)
    assert appraisal.totals.servings == servings
    sums = [0.0] * 5
    for hand, portion in zip(lines, appraisal.portions, strict=True):
        assert portion.line.food == hand.food
        assert portion.counted.value == pytest.approx(hand.counted, rel=1e-3)
        assert portion.in_bowl.value == pytest.approx(hand.in_bowl, rel=1e-3)
        figures = appraisal.totals.per_line[portion.line.id]
        for place, nutrient in enumerate(("energy_kcal", "sodium_mg", "fat_g", "fiber_g", "protein_g")):
            by_hand = hand.counted / 100 * hand.per_100_g[place]
            assert figures[nutrient] == pytest.approx(by_hand, rel=5e-3, abs=0.02), f"{hand.food}, {nutrient}"
            sums[place] += by_hand
    for place, nutrient in enumerate(("energy_kcal", "sodium_mg", "fat_g", "fiber_g", "protein_g")):
        assert appraisal.totals.serving[nutrient].value == pytest.approx(sums[place] / servings, rel=5e-3, abs=0.01)
