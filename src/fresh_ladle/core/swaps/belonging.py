"""What may come into a dish without being a stranger in it: it is at home there, keeps its diet,
brings no allergen."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.sense import Diet, Sense
from fresh_ladle.core.cautions.allergens import allergen_group
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.whole.appraisal import Appraisal

OF_FRUIT = frozenset({"fruit", "dried-fruit"})
SAVORY = frozenset(
    ("allium", "bread-chip", "cheese", "egg", "fungus-sea", "grain-pasta", "leafy", "legume",
    "pickle-olive", "protein",
     "root-tuber", "salt-salty", "soy", "tomato", "vegetable")
)  # fmt: skip
"""Groups of foods that make a dish savory; a bowl of fruit with none of them takes none of them."""
MOSTLY = 0.5


@dataclass(frozen=True, slots=True)
class Belonging:
    """Of one dish: what is in it, in any form, the diet it keeps, where it is at home, what
    allergens it holds, and whether it is fruit and nothing savory."""

    sense: Sense
    there: frozenset[str]
    diet: Diet
    cuisines: frozenset[str]
    allergens: frozenset[str]
    only_fruit: bool = False

    def takes(self, food: Food, new_allergens: bool = False) -> bool:
        """Whether a food may come in; with `new_allergens` whatever allergen it brings."""
        brought = {allergen_group(a) for a in food.traits.allergens} - self.allergens
        if brought and not new_allergens:
            return False
        if self.only_fruit and food.group in SAVORY:
            return False
        return self.sense.keeps(self.diet, food) and (
            food.key in self.there or self.sense.belongs(food, self.cuisines)
        )


def belonging_of(dish: Appraisal, knowledge: Knowledge) -> Belonging:
    """What belongs in a dish, told by what is eaten of it."""
    held = [p.food for p in dish.portions if p.food is not None and p.line.eaten > 0]
    there = {f.key for f in held} | {r.key for f in held for r in knowledge.pantry.relatives(f)}
    return Belonging(
        knowledge.sense,
        frozenset(there),
        knowledge.sense.diet_of(held),
        knowledge.sense.cuisines_of(held),
        frozenset(allergen_group(a.id) for a in dish.allergens),
        _is_only_fruit(dish),
    )


def _is_only_fruit(dish: Appraisal) -> bool:
    """Whether most of a bowl is fruit and none of it savory."""
    grams = dict.fromkeys((*OF_FRUIT, *SAVORY), 0.0)
    for portion in dish.portions:
        if portion.food is not None and portion.food.group in grams:
            grams[portion.food.group] += portion.in_bowl.value
    fruit = sum(grams[group] for group in OF_FRUIT)
    return fruit > MOSTLY * dish.totals.batch_grams.value and not any(
        grams[group] for group in SAVORY
    )
