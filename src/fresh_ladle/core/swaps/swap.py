"""A substitution as data: what goes out, what comes in for it, where it fits, and how far it can go."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry

COURSE_OF_KIND = {
    "vinaigrette": "dressing", "creamy-dressing": "dressing", "nut-dressing": "dressing", "juice-dressing": "dressing",
    "legume-dip": "dip", "vegetable-dip": "dip", "dairy-dip": "dip", "avocado-dip": "dip", "herb-nut-paste": "dip",
    "leafy-salad": "salad", "grain-salad": "salad", "slaw": "salad", "bean-salad": "salad", "pasta-potato-salad": "salad",
}  # fmt: skip
NO_SALT_FORM, RINSED_FORM = "@no-salt", "@rinsed"
"""Incoming foods that are another form of the one going out."""
_FORMS = {NO_SALT_FORM: "canned-no-salt", RINSED_FORM: "canned-rinsed"}


@dataclass(frozen=True, slots=True)
class Incoming:
    """A food that comes in: grams for each gram taken out, and how it is prepared."""

    food: str
    per_gram: float
    how: str = ""

    def resolved(self, out: Food, pantry: Pantry) -> Food | None:
        """The food meant, which may be another form of the one going out."""
        if self.food in _FORMS:
            return pantry.form_of(out, _FORMS[self.food])
        return pantry.get(self.food)


@dataclass(frozen=True, slots=True)
class Swap:
    """One substitution. Shares are of the line that goes out, 0 to 1; limits are a cook's judgement (grade C)."""

    id: str
    title: str
    goal: str
    out: frozenset[str]
    incoming: tuple[Incoming, ...]
    share: float
    courses: frozenset[str]
    schools: tuple[str, ...]
    noticed_at: float
    fails_at: float
    repairs: tuple[str, ...]
    reason: str

    def fits(self, food: Food, kind: str, pantry: Pantry) -> bool:
        """Whether the swap can be made for a line of this food in this kind of dish."""
        course = COURSE_OF_KIND.get(kind)
        if food.key not in self.out or (course is not None and course not in self.courses):
            return False
        return all(incoming.resolved(food, pantry) is not None for incoming in self.incoming)
