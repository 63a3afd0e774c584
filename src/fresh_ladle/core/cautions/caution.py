"""Cautions as data: what sets one off, what answers it, what it says, and whose word decides."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.cautions.allergens import is_or_brings
from fresh_ladle.core.cautions.situations import SITUATIONS
from fresh_ladle.core.foods.food import Food, Grade
from fresh_ladle.core.method.process import Process
from fresh_ladle.core.recipes.recipe import Recipe

STANDING_NOTE = (
    "Figures are estimates from food composition tables. Local food codes and licensed practice"
    " decide."
)


class Tier(StrEnum):
    """How soon a caution matters, in the order they are shown."""

    DO_NOW = "do now"
    WHO_EATS = "ask who eats"
    BACKGROUND = "background"


@lru_cache(maxsize=256)
def _pattern(said: frozenset[str]) -> re.Pattern[str]:
    return re.compile("|".join(rf"\b(?:{word})" for word in sorted(said)), re.I)


def _says(text: str, said: frozenset[str]) -> bool:
    """Whether a text holds a word that begins like any of these; they may be regular
    expressions."""
    return bool(said) and _pattern(said).search(text) is not None


@dataclass(frozen=True, slots=True)
class Trigger:
    """Lines that set a caution off: any of the named foods, groups, flags, allergens or
    preparations.

    `forms`, `within_groups` and `said`, when given, narrow the lines: raw sprouts, not cooked ones;
    only leaves; only a line that says "unpasteurized". `prepared`, when given, wants one of these
    preparations, by the line's words or by the method, and `done` one of these verbs by the method.
    A line whose words hold any of `not_said`, or that has gone through any of `not_prepared`, or
    had any of `not_done` done to it, is left aside. The lines that are left must weigh at least
    `grams_per_serving` together, in the bowl."""

    foods: frozenset[str] = frozenset()
    groups: frozenset[str] = frozenset()
    forms: frozenset[str] = frozenset()
    within_groups: frozenset[str] = frozenset()
    flags: frozenset[str] = frozenset()
    allergens: frozenset[str] = frozenset()
    preparations: frozenset[str] = frozenset()
    said: frozenset[str] = frozenset()
    not_said: frozenset[str] = frozenset()
    prepared: frozenset[str] = frozenset()
    not_prepared: frozenset[str] = frozenset()
    done: frozenset[str] = frozenset()
    not_done: frozenset[str] = frozenset()
    grams_per_serving: float = 0.0

    def met_by(self, portion: Portion) -> bool:
        food = portion.food
        if food is None or (portion.counted.value <= 0 and portion.problem is None):
            return False  # nothing of it is eaten; what could not be weighed is
        return self._names(portion, food) and self._not_left_aside(portion, food)

    def _not_left_aside(self, portion: Portion, food: Food) -> bool:
        words = " ".join((portion.line.text, *portion.line.remarks))
        # What was raw and is now roasted counts as both: the rule for either applies somewhere on
        # its way.
        forms = {food.form, *(p.form_after for p in portion.preparations)}
        prepared = {p.id for p in portion.preparations}
        done = set(portion.line.reached.done) if portion.line.reached is not None else set()
        return (
            (not self.forms or bool(self.forms & forms))
            and (not self.within_groups or food.group in self.within_groups)
            and (not self.said or _says(words, self.said))
            and not _says(words, self.not_said)
            and (not self.prepared or bool(self.prepared & prepared))
            and not self.not_prepared & prepared
            and (not self.done or bool(self.done & done))
            and not self.not_done & done
        )

    def _names(self, portion: Portion, food: Food) -> bool:
        named = (self.foods, self.groups, self.flags, self.allergens, self.preparations)
        return not any(named) or (
            food.key in self.foods
            or food.group in self.groups
            or bool(self.flags & food.traits.flags)
            or any(is_or_brings(food, allergen) for allergen in self.allergens)
            or bool(self.preparations & set(portion.line.preparations))
        )

    def causes(self, portions: Iterable[Portion], servings: float) -> list[Portion]:
        """The lines that set it off; none when together they weigh too little."""
        found = [p for p in portions if self.met_by(p)]
        grams = sum(p.in_bowl.value for p in found)
        return found if grams >= self.grams_per_serving * servings else []


@dataclass(frozen=True, slots=True)
class Limit:
    """A figure per serving that sets a caution off when it is at least, or at most, so much."""

    nutrient: str
    at_least: float | None = None
    at_most: float | None = None

    def met_by(self, figures: Mapping[str, float]) -> bool:
        return _between(figures.get(self.nutrient, 0.0), self.at_least, self.at_most)


@dataclass(frozen=True, slots=True)
class Share:
    """What part of a component's weight some foods must make up, 0 to 1, for a caution to apply
    there."""

    foods: frozenset[str] = frozenset()
    groups: frozenset[str] = frozenset()
    at_least: float | None = None
    at_most: float | None = None

    def met_by(self, component: Sequence[Portion]) -> bool:
        whole = sum(p.in_bowl.value for p in component)
        part = sum(
            p.in_bowl.value
            for p in component
            if p.food is not None and (p.food.key in self.foods or p.food.group in self.groups)
        )
        return whole > 0 and _between(part / whole, self.at_least, self.at_most)


def _between(value: float, at_least: float | None, at_most: float | None) -> bool:
    return (at_least is None or value >= at_least) and (at_most is None or value <= at_most)


@dataclass(frozen=True, slots=True)
class Caution:
    """One caution: every trigger must be met by some line, or with `any_trigger` one of them, and
    every limit by the serving.

    With `shares` it applies within one component of the recipe that holds them all. With `method`,
    the title or the method must say one of its words. With `situation` the lines of a trigger must
    be in that situation on their way through the method (`situations.py`); with both shares and a
    situation, either will do. It is dropped where the method says any of `answered_by`."""

    id: str
    text: str
    tier: Tier
    who: str
    defer_to: str
    source: str
    grade: Grade
    triggers: tuple[Trigger, ...]
    any_trigger: bool = False
    limits: tuple[Limit, ...] = ()
    shares: tuple[Share, ...] = ()
    method: frozenset[str] = frozenset()
    situation: str = ""
    answered_by: frozenset[str] = frozenset()
    on_card: bool = True
    at_risk: str = ""
    """What makes a dish possible for guests at risk to whom it is refused as it is; empty where it
    is not refused."""


@dataclass(frozen=True, slots=True)
class RaisedCaution:
    """A caution that applies to a recipe, with the foods that raised it; none when the figures of
    all of it did."""

    caution: Caution
    foods: tuple[str, ...]


def raised(
    cautions: Sequence[Caution],
    recipe: Recipe,
    portions: Sequence[Portion],
    per_serving: Mapping[str, float],
    servings: float,
    process: Process,
) -> list[RaisedCaution]:
    """The cautions that apply, what to do now first, within a tier in the order of the table."""
    method = "\n".join((recipe.title, *recipe.method))
    found = []
    for caution in cautions:
        if caution.method and not _says(method, caution.method):
            continue
        if _says(method, caution.answered_by) or not all(
            limit.met_by(per_serving) for limit in caution.limits
        ):
            continue
        causes = (
            _causes(caution, portions, servings)
            if caution.shares or not caution.situation
            else None
        )
        if causes is None and caution.situation:
            inside = SITUATIONS[caution.situation](process, recipe)
            there = [p for p in portions if (p.batch_line or p.line.id) in inside]
            causes = _causes(replace(caution, shares=()), there, servings)
        if causes is not None:
            names = dict.fromkeys(p.food.kitchen_name for p in causes if p.food is not None)
            found.append(RaisedCaution(caution, tuple(names)))
    tiers = list(Tier)
    return sorted(found, key=lambda r: tiers.index(r.caution.tier))


def _causes(caution: Caution, portions: Sequence[Portion], servings: float) -> list[Portion] | None:
    """The lines that set a caution off; None when it does not apply."""
    for place in _components(portions) if caution.shares else [list(portions)]:
        lines = [trigger.causes(place, servings) for trigger in caution.triggers]
        if (any if caution.any_trigger else all)(lines) and all(
            share.met_by(place) for share in caution.shares
        ):
            named = zip(caution.triggers, lines, strict=True)
            return [p for trigger, found in named if trigger != Trigger() for p in found]
    return None


def _components(portions: Sequence[Portion]) -> list[list[Portion]]:
    places: dict[tuple[str, str | None], list[Portion]] = {}
    for portion in portions:
        places.setdefault((portion.line.component, portion.batch_line), []).append(portion)
    return list(places.values())
