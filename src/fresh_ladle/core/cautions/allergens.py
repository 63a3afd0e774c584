"""Which allergens a recipe holds, named as the US nine and the EU/UK fourteen name them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food

US_NINE = frozenset({"milk", "egg", "fish", "crustacean", "tree-nut", "wheat", "peanut", "soy", "sesame"})
_NAMES = {
    "soy": "soybean",
    "crustacean": "crustacean shellfish",
    "gluten": "gluten (cereals)",
    "sulphite": "sulphites",
    "mollusc": "molluscs",
}


@dataclass(frozen=True, slots=True)
class Allergen:
    """One allergen in plain words, with the foods that bring it. `us` is True for the US nine; all are EU/UK listed."""

    id: str
    name: str
    us: bool
    foods: tuple[str, ...]


def allergen_name(allergen_id: str) -> str:
    group, _, kind = allergen_id.partition(":")
    return f"{kind} (tree nut)" if kind else _NAMES.get(group, group)


def allergens(foods: Iterable[Food]) -> list[Allergen]:
    """Allergens of a set of foods, the US nine first, each with the foods it comes from."""
    bringing: dict[str, list[str]] = {}
    for food in foods:
        for allergen in sorted(food.traits.allergens):
            names = bringing.setdefault(allergen, [])
            if food.name not in names:
                names.append(food.name)
    found = [
        Allergen(a, allergen_name(a), a.partition(":")[0] in US_NINE, tuple(names)) for a, names in bringing.items()
    ]
    return sorted(found, key=lambda a: (not a.us, a.name))
