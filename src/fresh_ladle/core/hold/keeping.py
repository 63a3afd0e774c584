"""How long a dish keeps: every part has its own time, the dish the shortest; whoever is at risk
shortens it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, timedelta

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.kitchen_work import KeepRule, KitchenWork, is_fresh_aromatic
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.hold.stated_keeping import shortest, stated_keeping
from fresh_ladle.core.recipes.dishes import SALADS
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal

FALLBACK_DAYS = 2
"""Days for a dish no rule speaks of (grade C)."""


@dataclass(frozen=True, slots=True)
class PartKeeping:
    """One part of a dish, or the dish as a whole, with the days it keeps; `foods` are those it was
    told by."""

    rule: KeepRule
    foods: tuple[str, ...]
    days: int


@dataclass(frozen=True, slots=True)
class Keeping:
    """How long a dish keeps at 5 °C. The day of making is day 1; 0 days is the same meal. `parts`
    are in the order of how soon they are over; `never_for_at_risk` names what guests at risk are
    not given at all."""

    days: int
    parts: tuple[PartKeeping, ...]
    out_minutes: int
    never_for_at_risk: tuple[str, ...]
    as_stated: bool = False
    """Whether the recipe itself says fewer days than the rule."""

    def keep_by(self, made: date) -> date:
        """The last day it is eaten."""
        return made + timedelta(days=max(0, self.days - 1))

    @property
    def decided_by(self) -> str:
        """What is over first, or that the recipe itself says so."""
        if self.as_stated:
            return "as the recipe says"
        return self.parts[0].rule.component if self.parts else "a dish no rule speaks of"


def _foods(appraisal: Appraisal) -> list[Food]:
    """What is eaten, as it is when it is kept: an egg that was cooked is no raw one."""
    return [
        _as_kept(p, p.food)
        for p in appraisal.portions
        if p.food is not None and p.line.eaten > 0 and p.known
    ]


def _as_kept(portion: Portion, food: Food) -> Food:
    if "heated-through" not in {p.id for p in portion.preparations}:
        return food
    return replace(food, traits=replace(food.traits, flags=food.traits.flags - {"raw-egg"}))


def dish_rules(appraisal: Appraisal, work: KitchenWork) -> list[KeepRule]:
    """The rules that speak of the dish as a whole."""
    foods = _foods(appraisal)
    return [
        rule
        for rule in work.keeping
        if not rule.part and _speaks(rule, appraisal.recipe.kind, foods)
    ]


def _speaks(rule: KeepRule, kind: str, foods: Iterable[Food]) -> bool:
    all_foods = list(foods)
    if rule.kinds and kind not in rule.kinds:
        return False
    if rule.fresh_only and not any(is_fresh_aromatic(food) for food in all_foods):
        return False
    if rule.foods.is_empty:
        return not any(rule.without.holds(food) for food in all_foods)
    return any(rule.foods.holds(food) and not rule.without.holds(food) for food in all_foods)


def part_rules(food: Food, appraisal: Appraisal, work: KitchenWork) -> list[KeepRule]:
    """The rules that speak of one food as a part of this dish; none in a dip or dressing, where all
    is one."""
    kind = appraisal.recipe.kind
    if kind not in SALADS:
        return []
    return [
        rule
        for rule in work.keeping
        if rule.part
        and (not rule.kinds or kind in rule.kinds)
        and rule.foods.holds(food)
        and not rule.without.holds(food)
    ]


def keeping(appraisal: Appraisal, work: KitchenWork, at_risk: bool = False) -> Keeping:
    """How long the dish keeps. For guests at risk a day less, and never less than the day of making
    (grade C)."""
    foods = _foods(appraisal)
    fresh = any(is_fresh_aromatic(food) for food in foods)
    parts = [
        PartKeeping(rule, (), rule.days_fresh if fresh else rule.days)
        for rule in dish_rules(appraisal, work)
    ]
    by_rule: dict[str, tuple[KeepRule, list[str]]] = {}
    for food in foods:
        for rule in part_rules(food, appraisal, work):
            by_rule.setdefault(rule.id, (rule, []))[1].append(food.kitchen_name)
    parts += [PartKeeping(rule, tuple(names), rule.days) for rule, names in by_rule.values()]
    parts.sort(
        key=lambda part: (part.days, part.rule.part, part.rule.without.is_empty, part.rule.id)
    )
    days = parts[0].days if parts else FALLBACK_DAYS
    stated = shortest(stated_keeping(appraisal.process), days)
    as_stated, days = stated < days, stated
    if at_risk and days > 1:
        days -= 1
    never = tuple(part.rule.component for part in parts if not part.rule.for_at_risk)
    out = min((part.rule.out_minutes for part in parts), default=120)
    return Keeping(days, tuple(parts), out, never if at_risk else (), as_stated)


def checked_days(typed: int, rule: Keeping) -> int:
    """A keep time a person typed. Raises RecipeError with the reason where it is longer than the
    rule."""
    if typed < 0:
        raise RecipeError("a dish keeps no fewer than 0 days: 0 is the same meal")
    if typed > rule.days:
        first = rule.parts[0].rule if rule.parts else None
        why = f": {first.why}" if first is not None and first.why else ""
        unit = "day" if rule.days == 1 else "days"
        raise RecipeError(
            f"{typed} days is longer than the {rule.days} {unit} of {rule.decided_by}{why}. Local"
            " food codes decide; a shorter time can be typed"
        )
    return typed
