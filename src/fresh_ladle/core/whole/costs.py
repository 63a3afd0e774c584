"""What a serving costs by the practice's own prices. Water is free; what has no price is named,
never counted as 0."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.whole.appraisal import Appraisal

FREE = frozenset({"water"})
SAME_GRAMS = 0.05
"""Grams by which a food may differ between two versions and still count as unchanged."""

Prices = Mapping[str, float]
"""Price of 100 g by food key, in the practice's own money."""


@dataclass(frozen=True, slots=True)
class Cost:
    """The cost of a serving of what has a price; `unpriced` are kitchen names of foods that have
    none."""

    value: float
    unpriced: tuple[str, ...]


def cost_of_serving(version: Appraisal, prices: Prices) -> Cost:
    """What the foods of a version cost as measured, shared out over its servings."""
    cost, unpriced = 0.0, dict[str, None]()
    for portion in version.portions:
        food = portion.food
        if food is None or food.key in FREE or portion.measured.value <= 0:
            continue
        if food.key in prices:
            cost += prices[food.key] * portion.measured.value / 100
        else:
            unpriced[food.kitchen_name] = None
    return Cost(cost / version.totals.servings, tuple(unpriced))


def change_of_cost(before: Appraisal, after: Appraisal, prices: Prices) -> float | None:
    """How much more a serving costs; None when a food whose amount changes has no price."""
    grams: dict[str, float] = {}
    for sign, version in ((-1, before), (1, after)):
        for portion in version.portions:
            if portion.food is not None:
                grams[portion.food.key] = (
                    grams.get(portion.food.key, 0.0) + sign * portion.measured.value
                )
    changed = {key: g for key, g in grams.items() if abs(g) > SAME_GRAMS and key not in FREE}
    if any(key not in prices for key in changed):
        return None
    return sum(prices[key] * g / 100 for key, g in changed.items()) / after.totals.servings
