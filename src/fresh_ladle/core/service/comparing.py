"""What an adaptation costs or saves, food by food, and a dish against one that is bought."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.totals import figure_per_100_g
from fresh_ladle.core.service.buying import PackPrice, as_bought
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.costs import FREE

LEAST_CHANGE = 0.005
"""Of the practice's money a serving: less is not shown."""


@dataclass(frozen=True, slots=True)
class CostChange:
    """How much more a serving costs by one food; None where it has no price."""

    food: str
    more: float | None


def cost_changes(
    original: Appraisal, now: Appraisal, prices: Mapping[str, PackPrice]
) -> tuple[float | None, list[CostChange]]:
    """How much more a serving costs than that of the original, and by which foods, the largest
    first. The whole is None where a food that changed has no price."""
    foods: dict[str, Food] = {}
    more: dict[str, float] = {}
    for sign, version in ((-1, original), (1, now)):
        for portion in version.portions:
            food = portion.food
            if food is not None and food.key not in FREE:
                foods[food.key] = food
                grams = as_bought(portion).value / version.totals.servings
                more[food.key] = more.get(food.key, 0.0) + sign * grams
    changes = []
    for key, grams in more.items():
        if abs(grams) < 1e-6:
            continue
        price = prices.get(key)
        change = None if price is None else grams * price.price / price.grams
        if change is None or abs(change) >= LEAST_CHANGE:
            changes.append(CostChange(foods[key].kitchen_name, change))
    changes.sort(key=lambda c: -abs(c.more) if c.more is not None else 0.0)
    known = [c.more for c in changes if c.more is not None]
    return (sum(known) if len(known) == len(changes) else None), changes


@dataclass(frozen=True, slots=True)
class PerHundred:
    """100 g of a dish or of a bought one: its cost, None without a price, and the five figures,
    None where unknown."""

    name: str
    cost: float | None
    figures: Mapping[str, float | None]


def made_per_100_g(dish: Appraisal, cost_per_serving: float | None) -> PerHundred:
    """The dish as it is eaten."""
    figures: dict[str, float | None] = {}
    for nutrient in HEADLINE:
        figure = figure_per_100_g(dish.recipe, dish.portions, dish.totals, nutrient)
        figures[nutrient] = figure.value if figure.complete else None
    cost = None if cost_per_serving is None else cost_per_serving / dish.totals.serving_grams * 100
    return PerHundred(dish.recipe.title, cost, figures)


def bought_per_100_g(food: Food, price: PackPrice | None) -> PerHundred:
    """A bought one, as its label and its price say."""
    cost = None if price is None else price.price / price.grams * 100
    return PerHundred(
        food.name, cost, {nutrient: food.per_100_g[nutrient] for nutrient in HEADLINE}
    )
