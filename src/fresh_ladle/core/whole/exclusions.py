"""What must not be in a dish for whom it is made, and is: for certain, perhaps, or where nobody has
read the pack."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.cautions.allergens import (
    ALLERGENS,
    allergen_group,
    allergen_name,
    is_or_brings,
    may_bring,
)
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import listed


@dataclass(frozen=True, slots=True)
class Broken:
    """One exclusion that a dish does not keep. Not `sure` where only a pack can tell. `name` is
    what was to stay out, `foods` what brings it, `line_ids` their lines."""

    name: str
    foods: tuple[str, ...]
    line_ids: frozenset[str]
    sure: bool = True

    @property
    def said(self) -> str:
        """`sesame (tahini)`, `perhaps milk (bread): read the pack`, `parsley`."""
        foods = "" if self.foods == (self.name,) else f" ({listed(list(self.foods))})"
        return f"{self.name}{foods}" if self.sure else f"perhaps {self.name}{foods}: read the pack"


def broken_exclusions(dish: Appraisal, exclusions: Collection[str]) -> list[Broken]:
    """Every exclusion that is broken, what is certain first. `exclusions` are allergens and keys of
    foods. Lines whose food nobody knows may bring any allergen."""
    eaten = [p for p in dish.portions if p.line.eaten > 0]
    found = []
    for what in sorted(exclusions):
        holding = [p for p in eaten if p.food is not None and is_or_brings(p.food, what)]
        perhaps = [p for p in eaten if p.food is not None and may_bring(p.food, what)]
        if holding or perhaps:
            found.append(
                _broken(_name(what, holding or perhaps), holding or perhaps, sure=bool(holding))
            )
    unread = [p for p in eaten if p.food is None or not p.food.in_pantry]
    asked = [
        allergen_name(what) for what in sorted(exclusions) if allergen_group(what) in ALLERGENS
    ]
    if unread and asked:
        found.append(_broken(" or ".join(asked), unread, sure=False))
    return sorted(found, key=lambda one: not one.sure)


def _name(what: str, holding: list[Portion]) -> str:
    if allergen_group(what) in ALLERGENS:
        return allergen_name(what)
    food = holding[0].food
    return food.kitchen_name if food is not None else what


def _broken(name: str, portions: list[Portion], sure: bool) -> Broken:
    foods = dict.fromkeys(p.food.kitchen_name if p.food else p.line.text for p in portions)
    return Broken(name, tuple(foods), frozenset(p.line.id for p in portions), sure)
