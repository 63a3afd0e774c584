"""A dish of each kind worked by hand from the table rows, every intermediate figure written out."""

from __future__ import annotations

from dataclasses import dataclass

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import appraise


@dataclass(frozen=True)
class Hand:
    """One line by hand: grams the figures apply to, grams in the bowl, and kcal, sodium, fat,
    fiber, protein per 100 g."""

    food: str
    counted: float
    in_bowl: float
    per_100_g: tuple[float, float, float, float, float]


VINAIGRETTE = (
    (
        "Sherry vinaigrette\nServes 8\n6 Tbsp extra-virgin olive oil\n2 Tbsp sherry vinegar\n1 tsp"
        " Dijon mustard\n1/4 tsp salt"
    ),
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
    (
        "Bean dip\nServes 6\n1 (15 oz) can cannellini beans, drained and rinsed\n2 Tbsp"
        " tahini\njuice of 1 lemon\n1 clove garlic\n1/2 tsp salt"
    ),
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
    (
        "Quinoa salad\nServes 4\n1 cup dry quinoa, boiled\n1 cucumber, diced\n3 oz feta,"
        " crumbled\n2 Tbsp olive oil"
    ),
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

SALT_HALF_TSP = Hand("table-salt", 3, 3, (0, 38758, 0, 0, 0))
SALT_QUARTER_TSP = Hand("table-salt", 1.5, 1.5, (0, 38758, 0, 0, 0))
LEMON = (22, 1, 0.24, 0.3, 0.35)
OLIVE_OIL = (884, 2, 100, 0, 0)
BUTTERMILK_DRESSING = (
    (
        "Buttermilk dressing\nServes 10\n3/4 cup low-fat buttermilk\n1/4 cup mayonnaise\n1 Tbsp"
        " lemon juice\n1/4 tsp garlic powder\n1/4 tsp salt"
    ),
    10,
    [
        # three quarters of 244 g, a quarter of 220 g, a quarter of 3.1 g
        Hand("buttermilk-low-fat", 183, 183, (40, 148, 1.07, 0, 3.31)),
        Hand("mayonnaise", 55, 55, (680, 635, 74.85, 0, 0.96)),
        Hand("lemon-juice-fresh", 15.2, 15.2, LEMON),
        Hand("garlic-powder", 0.775, 0.775, (331, 60, 0.73, 9, 16.55)),
        SALT_QUARTER_TSP,
    ],
)
ALMOND_DRESSING = (
    (
        "Almond dressing\nServes 8\n1/3 cup almond butter\n3 Tbsp lemon juice\n1/4 cup water\n1"
        " Tbsp maple syrup\n1/4 tsp salt"
    ),
    8,
    [
        # a third of 256 g, 3 x 15.2 g, a quarter of 237 g
        Hand("almond-butter-unsalted", 85.333, 85.333, (645, 1, 53.04, 9.7, 20.79)),
        Hand("lemon-juice-fresh", 45.6, 45.6, LEMON),
        Hand("water", 59.25, 59.25, (0, 3, 0, 0, 0)),
        Hand("maple-syrup", 20, 20, (260, 12, 0.06, 0, 0.04)),
        SALT_QUARTER_TSP,
    ],
)
ORANGE_DRESSING = (
    (
        "Orange juice dressing\nServes 8\n3/4 cup fresh orange juice\n2 Tbsp rice vinegar\n1 tsp"
        " honey\n1/8 tsp xanthan gum"
    ),
    8,
    [
        Hand("orange-juice-fresh", 183, 183, (47, 0, 0.36, 0.3, 0.81)),
        Hand("vinegar-rice", 29.8, 29.8, (20, 4, 0, 0, 0.1)),
        Hand("honey", 7.1, 7.1, (304, 4, 0, 0.2, 0.3)),
        # an eighth of 2.8 g
        Hand("xanthan-gum", 0.35, 0.35, (175, 3000, 0, 78, 5)),
    ],
)
CARROT_DIP = (
    (
        "Roasted carrot dip\nServes 8\n1 lb carrots, roasted\n2 Tbsp olive oil\n2 Tbsp tahini\n1/2"
        " tsp salt"
    ),
    8,
    [
        # 453.59 g raw; roasting takes water alone, down to seven tenths of the weight
        Hand("carrot", 453.592, 317.515, (41, 69, 0.24, 2.8, 0.93)),
        Hand("olive-oil-refined", 27.2, 27.2, OLIVE_OIL),
        Hand("tahini", 30, 30, (697, 64, 62.4, 8.4, 19.71)),
        SALT_HALF_TSP,
    ],
)
AVOCADO_DIP = (
    (
        "Avocado dip\nServes 6\n2 avocados\n2 Tbsp lime juice\n1/4 cup red onion, chopped\n1/4 tsp"
        " salt"
    ),
    6,
    [
        # 2 x 136 g of flesh, 2 x 15.2 g, a quarter of 160 g
        Hand("avocado", 272, 272, (167, 8, 15.41, 6.8, 1.96)),
        Hand("lime-juice-fresh", 30.4, 30.4, (25, 2, 0.07, 0.4, 0.42)),
        Hand("onion-red", 40, 40, (44, 1, 0.1, 2.2, 0.94)),
        SALT_QUARTER_TSP,
    ],
)
HERB_PASTE = (
    (
        "Basil paste\nServes 8\n2 cups packed basil leaves\n1/3 cup pine nuts\n1/2 cup Parmesan,"
        " grated\n1/3 cup extra-virgin olive oil\n1 clove garlic"
    ),
    8,
    [
        # packed leaves: 2 x 35 g; a third of 135 g; half of 90 g; a third of 218 g
        Hand("basil", 70, 70, (22, 4, 0.64, 1.6, 3.15)),
        Hand("pine-nuts", 45, 45, (673, 2, 68.37, 3.7, 13.69)),
        Hand("parmesan", 45, 45, (392, 1175, 25, 0, 35.75)),
        Hand("olive-oil-extra-virgin", 72.667, 72.667, OLIVE_OIL),
        Hand("garlic", 3.5, 3.5, (149, 17, 0.5, 2.1, 6.36)),
    ],
)
SPINACH_SALAD = (
    (
        "Spinach salad\nServes 4\n6 cups raw spinach\n1 cup strawberries, sliced\n1/4 cup"
        " walnuts\n2 Tbsp extra-virgin olive oil\n1 Tbsp balsamic vinegar"
    ),
    4,
    [
        Hand("spinach-raw", 180, 180, (23, 79, 0.39, 2.2, 2.86)),
        Hand("strawberry", 166, 166, (32, 1, 0.3, 2, 0.67)),
        Hand("walnuts", 25, 25, (654, 2, 65.21, 6.7, 15.23)),
        Hand("olive-oil-extra-virgin", 27.2, 27.2, OLIVE_OIL),
        Hand("vinegar-balsamic", 16, 16, (88, 23, 0, 0, 0.49)),
    ],
)
SLAW = (
    (
        "Apple slaw\nServes 6\n4 cups green cabbage, shredded\n1 apple\n1/3 cup mayonnaise\n1 Tbsp"
        " cider vinegar\n1/4 tsp salt"
    ),
    6,
    [
        Hand("cabbage-green", 280, 280, (25, 18, 0.1, 2.5, 1.28)),
        Hand("apple", 182, 182, (61, 0, 0.15, 2.1, 0.17)),
        Hand("mayonnaise", 73.333, 73.333, (680, 635, 74.85, 0, 0.96)),
        Hand("vinegar-cider", 14.9, 14.9, (22, 5, 0, 0, 0)),
        SALT_QUARTER_TSP,
    ],
)
LENTIL_SALAD = (
    (
        "Lentil salad\nServes 4\n1 cup dry French green lentils, boiled\n1/4 cup red onion,"
        " chopped\n2 Tbsp olive oil\n1 Tbsp red wine vinegar\n1/2 tsp salt"
    ),
    4,
    [
        # 195 g dry, 2.3 times that when boiled
        Hand("lentils-green-french-dry", 195, 448.5, (352, 6, 1.06, 10.7, 24.63)),
        Hand("onion-red", 40, 40, (44, 1, 0.1, 2.2, 0.94)),
        Hand("olive-oil-refined", 27.2, 27.2, OLIVE_OIL),
        Hand("vinegar-red-wine", 14.9, 14.9, (19, 8, 0, 0, 0.04)),
        SALT_HALF_TSP,
    ],
)
POTATO_SALAD = (
    (
        "Potato salad\nServes 6\n2 lb boiled potatoes\n1/2 cup nonfat Greek yogurt\n2 tsp"
        " whole-grain mustard\n2 Tbsp chives, chopped\n1/2 tsp salt"
    ),
    6,
    [
        Hand("potato-boiled", 907.185, 907.185, (81, 3, 0.3, 2.2, 2.13)),
        Hand("greek-yogurt-nonfat", 125, 125, (59, 36, 0.37, 0, 10.3)),
        Hand("mustard-wholegrain", 10.4, 10.4, (160, 1700, 11, 6, 8)),
        Hand("chives", 6, 6, (30, 3, 0.73, 2.5, 3.27)),
        SALT_HALF_TSP,
    ],
)
DISHES = [
    VINAIGRETTE,
    BEAN_DIP,
    GRAIN_SALAD,
    BUTTERMILK_DRESSING,
    ALMOND_DRESSING,
    ORANGE_DRESSING,
    CARROT_DIP,
    AVOCADO_DIP,
    HERB_PASTE,
    SPINACH_SALAD,
    SLAW,
    LENTIL_SALAD,
    POTATO_SALAD,
]


def test_there_is_a_dish_of_nearly_every_kind(reader: Reader) -> None:
    kinds = {read_recipe(text, reader).recipe.kind for text, _, _ in DISHES}
    assert len(kinds) >= 12


@pytest.mark.parametrize("example", DISHES, ids=lambda e: e[0].partition("\n")[0])
def test_worked_by_hand(
    example: tuple[str, float, list[Hand]], reader: Reader, knowledge: Knowledge
) -> None:
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
        for place, nutrient in enumerate(
            ("energy_kcal", "sodium_mg", "fat_g", "fiber_g", "protein_g")
        ):
            by_hand = hand.counted / 100 * hand.per_100_g[place]
            assert figures[nutrient] == pytest.approx(by_hand, rel=5e-3, abs=0.02), (
                f"{hand.food}, {nutrient}"
            )
            sums[place] += by_hand
    for place, nutrient in enumerate(("energy_kcal", "sodium_mg", "fat_g", "fiber_g", "protein_g")):
        assert appraisal.totals.serving[nutrient].value == pytest.approx(
            sums[place] / servings, rel=5e-3, abs=0.01
        )
