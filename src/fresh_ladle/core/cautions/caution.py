"""Cautions as data: what sets one off, what it says, and whose word decides."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.cautions.allergens import is_or_brings
from fresh_ladle.core.foods.food import Grade

STANDING_NOTE = "Figures are estimates from food composition tables. Local food codes and licensed practice decide."


@dataclass(frozen=True, slots=True)
class Trigger:
    """Lines that set a caution off: any of the named foods, groups, forms, flags, allergens or preparations.

    `forms`, when given with others, narrows them: raw sprouts, not cooked ones.
    """

    foods: frozenset[str] = frozenset()
    groups: frozenset[str] = frozenset()
    forms: frozenset[str] = frozenset()
    flags: frozenset[str] = frozenset()
    allergens: frozenset[str] = frozenset()
    preparations: frozenset[str] = frozenset()
    without_preparations: frozenset[str] = frozenset()

    def met_by(self, portion: Portion) -> bool:
        food = portion.food
        if food is None or portion.counted.value <= 0:
            return False
        done = set(portion.line.preparations)
        if self.without_preparations & done:
            return False
        # What was raw and is now roasted counts as both: the rule for either applies somewhere on its way.
        if self.forms and not self.forms & {food.form, *(p.form_after for p in portion.preparations)}:
            return False
        named = (self.foods, self.groups, self.flags, self.allergens, self.preparations)
        if not any(named):
            return True
        return (
            food.key in self.foods
            or food.group in self.groups
            or bool(self.flags & food.traits.flags)
            or any(is_or_brings(food, allergen) for allergen in self.allergens)
            or bool(self.preparations & done)
        )


@dataclass(frozen=True, slots=True)
class Limit:
    """A figure per serving that sets a caution off when it is at least, or at most, so much."""

    nutrient: str
    at_least: float | None = None
    at_most: float | None = None

    def met_by(self, figures: Mapping[str, float]) -> bool:
        value = figures.get(self.nutrient, 0.0)
        return (self.at_least is None or value >= self.at_least) and (self.at_most is None or value <= self.at_most)


@dataclass(frozen=True, slots=True)
class Caution:
    """One caution: every trigger must be met by some line, and every limit by the serving."""

    id: str
    text: str
    who: str
    defer_to: str
    source: str
    grade: Grade
    triggers: tuple[Trigger, ...]
    limits: tuple[Limit, ...] = ()
    on_card: bool = True


@dataclass(frozen=True, slots=True)
class RaisedCaution:
    """A caution that applies to a recipe, with the foods that raised it."""

    caution: Caution
    foods: tuple[str, ...]


def raised(
    cautions: Sequence[Caution], portions: Sequence[Portion], per_serving: Mapping[str, float]
) -> list[RaisedCaution]:
    """The cautions that apply, in the order of the table."""
    found = []
    for caution in cautions:
        causes = [[p for p in portions if trigger.met_by(p)] for trigger in caution.triggers]
        if all(causes) and all(limit.met_by(per_serving) for limit in caution.limits):
            names = dict.fromkeys(p.food.name for lines in causes for p in lines if p.food is not None)
            found.append(RaisedCaution(caution, tuple(names)))
    return found
