"""The forms of one food: by salt, packing, fat, sweetening and state, and how much of one stands
for another."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.ranges import Range

SALTS = ("", "none added", "unsalted", "reduced", "regular", "brined", "soaked")
PACKINGS = (
    "",
    "fresh",
    "frozen",
    "dry",
    "in water",
    "in oil",
    "canned drained",
    "canned rinsed",
    "canned with liquid",
)
FATS = ("", "full", "reduced", "low", "nonfat")
SUGARS = ("", "unsweetened", "sweetened")
STATES = ("", "raw", "sprouted", "cooked", "steamed", "roasted", "puréed")


@dataclass(frozen=True, slots=True)
class Form:
    """One form of a food. `food` is its key, `family` the name of the food whatever its form.

    `grams` is what of it stands for one gram of the family's usual form, as both end in the bowl.
    """

    family: str
    food: str
    salt: str
    packing: str
    fat: str
    sugar: str
    state: str
    grams: Range
    grade: Grade
    note: str

    def per_gram_of(self, other: Form) -> float:
        """Grams of this form that stand for one gram of another of the same family."""
        return self.grams.value / other.grams.value


class FormTable:
    """All forms, by family."""

    def __init__(self, forms: Iterable[Form]) -> None:
        self._by_food = {form.food: form for form in forms}
        self._families: dict[str, list[Form]] = {}
        for form in self._by_food.values():
            self._families.setdefault(form.family, []).append(form)

    def __getitem__(self, food_key: str) -> Form:
        """Raises KeyError for a food that has no other form."""
        return self._by_food[food_key]

    def __contains__(self, food_key: object) -> bool:
        return food_key in self._by_food

    @property
    def families(self) -> dict[str, list[Form]]:
        return self._families

    def family_of(self, food_key: str) -> str:
        """The family of a food; its own key when it has no other form."""
        return self._by_food[food_key].family if food_key in self._by_food else food_key
