"""What parts from what when something is drained, lifted out, squeezed or fried: shares by what was
done before."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from fnmatch import fnmatchcase

from fresh_ladle.core.foods.food import Food, Grade
from fresh_ladle.core.ranges import Range


@dataclass(frozen=True, slots=True)
class ShareRule:
    """The share of what is called `what` (salt, sugar, acid, oil, liquid, aromatic) that stays with
    foods of `foods` (groups or key patterns, empty for any) after a `treatment`. `of_food` rules
    give grams of it for each gram of the food instead."""

    treatment: str
    what: str
    foods: tuple[str, ...]
    share: Range
    of_food: bool
    grade: Grade
    source: str

    def fits(self, food: Food) -> bool:
        return not self.foods or any(
            f == food.group or fnmatchcase(food.key, f) for f in self.foods
        )


@dataclass(frozen=True, eq=False)
class ShareTable:
    """All rules, in the order they are tried: by food first."""

    rules: tuple[ShareRule, ...] = ()
    _by: Mapping[tuple[str, str], tuple[ShareRule, ...]] = field(
        init=False, repr=False, compare=False
    )

    def __post_init__(self) -> None:
        found: dict[tuple[str, str], list[ShareRule]] = {}
        for rule in self.rules:
            found.setdefault((rule.treatment, rule.what), []).append(rule)
        object.__setattr__(self, "_by", {key: tuple(rules) for key, rules in found.items()})

    def rule(self, treatment: str, what: str, foods: Iterable[Food]) -> ShareRule | None:
        """The rule of the food that most stays with, before the one for any food; None for none."""
        rules = self._by.get((treatment, what), ())
        own = [next((r for r in rules if r.foods and r.fits(food)), None) for food in foods]
        known = [rule for rule in own if rule is not None]
        if known:
            return max(known, key=lambda rule: rule.share.value)
        return next((r for r in rules if not r.foods), None)


_WHAT = {
    "salt-salty": "salt",
    "sweetener": "sugar",
    "acid": "acid",
    "fat-oil": "oil",
    "liquid": "liquid",
}


def what_of(food: Food) -> str:
    """What a food is where things part: salt, sugar, acid, oil, liquid; empty for what is solid."""
    if food.group == "salt-salty" and food.form in ("brined", "rinsed"):
        return ""
    return "salt" if food.key == "baking-soda" else _WHAT.get(food.group, "")


def is_aromatic(food: Food) -> bool:
    return food.group in ("herb", "spice", "allium") or food.key in (
        "lemon-zest",
        "orange-zest",
        "ginger-fresh",
    )
