"""A substitution as data: what goes out, what comes in for it, where it fits, and how far it can
go."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.catalogue.incoming import Placement
from fresh_ladle.core.catalogue.roles import roles_of
from fresh_ladle.core.catalogue.school import BY_ID as SHIPPED_SCHOOLS
from fresh_ladle.core.catalogue.school import School, allows
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.recipe import Line

COURSE_OF_KIND = {
    "vinaigrette": "dressing",
    "creamy-dressing": "dressing",
    "nut-dressing": "dressing",
    "juice-dressing": "dressing",
    "legume-dip": "dip",
    "vegetable-dip": "dip",
    "dairy-dip": "dip",
    "avocado-dip": "dip",
    "herb-nut-paste": "dip",
    "leafy-salad": "salad",
    "grain-salad": "salad",
    "slaw": "salad",
    "bean-salad": "salad",
    "pasta-potato-salad": "salad",
}
NO_SALT_FORM, RINSED_FORM, SAME = "@no-salt", "@rinsed", "@same"
"""Incoming foods that are another form of the one going out, or that food itself, treated
otherwise."""
GOALS: dict[str, str] = {
    "oil": "less fat",
    "saturated": "less saturated fat",
    "salt": "less sodium",
    "sugar": "less sugar",
    "fiber": "more fiber",
    "protein": "more protein",
    "volume": "fewer calories",
    "allergen": "for an allergy",
    "taste": "for the taste",
}
_FORMS = {NO_SALT_FORM: "canned-no-salt", RINSED_FORM: "canned-rinsed"}


@dataclass(frozen=True, slots=True)
class Incoming:
    """A food that comes in: grams for each gram taken out, how it is treated, and the preparation
    that counts for it."""

    food: str
    per_gram: float
    how: str = ""
    preparation: str = ""
    placement: Placement = Placement.MIXED_IN

    def resolved(self, out: Food, pantry: Pantry) -> Food | None:
        """The food meant, which may be another form of the one going out."""
        if self.food == SAME:
            return out
        if self.food in _FORMS:
            return pantry.form_of(out, _FORMS[self.food])
        return pantry.get(self.food)


@dataclass(frozen=True, slots=True)
class Swap:
    """One substitution. Shares are of the line that goes out, 0 to 1; limits are a cook's judgement
    (grade C).

    `lowers` and `raises` name the figures and tastes it is said to move; `roles`, when any are
    given, are those the line that goes out must play one of. With nothing incoming it is a plain
    cut. `ask_first` swaps are taken by hand only, never by a plan."""

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
    lowers: tuple[str, ...] = ()
    raises: tuple[str, ...] = ()
    roles: frozenset[str] = frozenset()
    ask_first: bool = False

    def fits(self, line: Line, food: Food, kind: str, pantry: Pantry) -> bool:
        """Whether the swap can be made for a line of this food in this kind of dish."""
        course = COURSE_OF_KIND.get(kind)
        if food.key not in self.out or (course is not None and course not in self.courses):
            return False
        if self.roles and not self.roles & roles_of(line, food, kind):
            return False
        return all(incoming.resolved(food, pantry) is not None for incoming in self.incoming)

    def keeps(self, school: School, food: Food, pantry: Pantry) -> bool:
        """Whether the moves of a school include this one: shipped schools are named, another goes
        by what it refuses."""
        if school.id in SHIPPED_SCHOOLS:
            return school.id in self.schools
        incoming = (i.resolved(food, pantry) for i in self.incoming)
        return all(new is not None and allows(school, new) for new in incoming)
