"""Which allergens a recipe holds, named as the US nine and the EU/UK fourteen name them."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food

ALLERGENS = (
    "celery",
    "crustacean",
    "egg",
    "fish",
    "gluten",
    "lupin",
    "milk",
    "mollusc",
    "mustard",
    "peanut",
    "sesame",
    "soy",
    "sulphite",
    "tree-nut",
    "wheat",
)
"""What can be left out of a dish: the groups of the US nine and of the EU/UK fourteen. A food may
name the very nut, as `tree-nut:walnut`; wheat stands beside gluten because the US list names wheat
alone."""
US_NINE = frozenset(
    {"milk", "egg", "fish", "crustacean", "tree-nut", "wheat", "peanut", "soy", "sesame"}
)
_NAMES = {
    "soy": "soybean",
    "crustacean": "crustacean shellfish",
    "gluten": "gluten (cereals)",
    "sulphite": "sulphites",
    "mollusc": "molluscs",
}


@dataclass(frozen=True, slots=True)
class Allergen:
    """One allergen in plain words, with the foods that bring it. `us` is True for the US nine; all
    are EU/UK listed.

    Not `sure` when only some makers' packs of those foods hold it.
    """

    id: str
    name: str
    us: bool
    foods: tuple[str, ...]
    sure: bool = True

    @property
    def said(self) -> str:
        """Its name, or that it is there perhaps."""
        return self.name if self.sure else f"perhaps {self.name}"


def allergen_group(allergen_id: str) -> str:
    """The group an allergen belongs to: `tree-nut` for `tree-nut:walnut`, itself for any other."""
    return allergen_id.partition(":")[0]


def is_or_brings(food: Food, what: str) -> bool:
    """Whether a food is what is named, by its key, or brings it: an allergen group such as
    `tree-nut`, or one nut of it such as `tree-nut:walnut`. A food whose allergens nobody knows
    brings none; ask `Food.in_pantry` as well."""
    return food.key == what or any(what in (a, allergen_group(a)) for a in food.traits.allergens)


def may_bring(food: Food, what: str) -> bool:
    """Whether some makers' packs of a food hold an allergen, so that only the pack can tell."""
    return any(what in (a, allergen_group(a)) for a in food.traits.may_contain)


def is_left_out(food: Food, exclusions: Collection[str]) -> bool:
    """Whether a food is, or brings, anything that is to be left out. What it brings perhaps does
    not count."""
    return any(is_or_brings(food, what) for what in exclusions)


def may_come_in(food: Food, exclusions: Collection[str]) -> bool:
    """Whether a food can be brought into a dish that is to be without the exclusions: not even
    perhaps any of them."""
    return not any(is_or_brings(food, what) or may_bring(food, what) for what in exclusions)


def allergen_name(allergen_id: str) -> str:
    group, _, kind = allergen_id.partition(":")
    return f"{kind} (tree nut)" if kind else _NAMES.get(group, group)


def allergens(foods: Iterable[Food]) -> list[Allergen]:
    """Allergens of a set of foods, the US nine first, each with the foods it comes from."""
    return _with_foods(((food, food.traits.allergens) for food in foods), sure=True)


def may_contain(foods: Iterable[Food]) -> list[Allergen]:
    """Allergens that a set of foods holds perhaps, unless another food brings them for certain."""
    known = list(foods)
    certain = {a for food in known for a in food.traits.allergens}
    return _with_foods(((food, food.traits.may_contain - certain) for food in known), sure=False)


def _with_foods(bringing: Iterable[tuple[Food, Iterable[str]]], sure: bool) -> list[Allergen]:
    names: dict[str, list[str]] = {}
    for food, held in bringing:
        for allergen in sorted(held):
            if food.name not in names.setdefault(allergen, []):
                names[allergen].append(food.name)
    found = [
        Allergen(a, allergen_name(a), allergen_group(a) in US_NINE, tuple(foods), sure)
        for a, foods in names.items()
    ]
    return sorted(found, key=lambda a: (not a.us, a.name))
