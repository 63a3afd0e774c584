"""The plainest stand-ins, which need no swap: water for part of what is wet, more of a salad's own
greens for part of what is heavy."""

from __future__ import annotations

from collections.abc import Collection

from fresh_ladle.core.flavor.stimuli import water_share
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.plans.move import Part, Slot, Way
from fresh_ladle.core.recipes.dishes import DIPS, SALADS
from fresh_ladle.core.whole.appraisal import Appraisal

WETTING = frozenset({"fat-oil", "acid", "salt-salty", "sweetener", "liquid"})
"""Groups of which part may be water in a dip or dressing; in a dressing part of its dairy as
well."""
WET = 0.4
"""Share of water from which a thing is wet."""
HEAVY = frozenset(
    {"grain-pasta", "root-tuber", "legume", "cheese", "nut-seed", "bread-chip", "dried-fruit"}
)
LIGHT = frozenset({"vegetable", "leafy", "tomato", "fruit"})
"""Groups of which part of a salad may be, and what may be there for it."""
GREEN = "green:"
NOTICED_AT, FAILS_AT = 0.34, 0.67
"""Shares of a line from which such a stand-in is noticed, and from which it does not do any
more."""


def greens_for(slot: Slot, food: Food, now: Appraisal, locked: Collection[str]) -> list[Way]:
    """In a salad part of what is heavy may be more of its own vegetables or fruit, gram for gram in
    the bowl."""
    if now.recipe.kind not in SALADS or food.group not in HEAVY or slot.must_go:
        return []
    light = [
        p
        for p in now.portions
        if p.food is not None and p.food.group in LIGHT and p.food.form in ("raw", "")
    ]
    most = max(light, key=lambda p: p.in_bowl.value, default=None)
    if most is None or most.food is None or most.line.id in locked:
        return []
    reason = "As much on the plate, more of it from what is light."
    part = Part(most.food, slot.portion.in_bowl.value / slot.grams)
    return [Way(f"{GREEN}{slot.id}", "swap", reason, slot.id, (part,), NOTICED_AT, FAILS_AT)]


def water_for(slot: Slot, food: Food, kind: str, water: Food) -> list[Way]:
    """In a dip or dressing part of what is wet may be water: the plainest thing that cooks do."""
    wetting = WETTING if kind in DIPS else WETTING | {"dairy"}
    if kind in SALADS or food.group not in wetting or food.key == water.key or slot.must_go:
        return []
    if water_share(food) < WET and food.group != "fat-oil":
        return []
    reason = "The rest water: as much in the bowl, with less in it."
    return [
        Way(f"water:{slot.id}", "swap", reason, slot.id, (Part(water, 1.0),), NOTICED_AT, FAILS_AT)
    ]
