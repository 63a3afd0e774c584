"""What a cook knows of foods beside their figures: least amounts, where they are at home, who eats
them, what carries texture, and which way the field tries first for a kind of dish and a goal."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field

from fresh_ladle.core.flavor.texture import Carrier
from fresh_ladle.core.foods.food import Food

FOREIGN = 2
"""How foreign a food may be, of 0 to 3, before it comes into a dish of another cuisine: not so
much."""
EVERYWHERE = "everywhere"
ALCOHOL_PCT = 0.5
"""Percent by volume from which a food counts as holding alcohol."""


@dataclass(frozen=True, slots=True)
class Home:
    """Cuisines a food is at home in, and how foreign it is elsewhere, 0 to 3."""

    cuisines: frozenset[str]
    foreign: int


@dataclass(frozen=True, slots=True)
class Diet:
    """Who eats a food: `animal` 0 vegan, 1 vegetarian, 2 with fish, 3 with meat."""

    animal: int = 0
    pork: bool = False
    alcohol: bool = False


VEGAN = Diet()


@dataclass(frozen=True, slots=True)
class Lever:
    """One way the field takes for a kind and a goal, in its order from 1: what goes out (empty:
    nothing does) and what may come in for it (empty: nothing does)."""

    order: int
    does: str
    out: frozenset[str]
    into: frozenset[str]


@dataclass(frozen=True, slots=True)
class Sense:
    """All of it, by the key of a food; carriers by kind of dish, levers by kind and goal."""

    least_grams: Mapping[str, float] = field(default_factory=dict)
    homes: Mapping[str, Home] = field(default_factory=dict)
    diets: Mapping[str, Diet] = field(default_factory=dict)
    carriers: Mapping[str, tuple[Carrier, ...]] = field(default_factory=dict)
    levers: Mapping[tuple[str, str], tuple[Lever, ...]] = field(default_factory=dict)

    def least(self, key: str) -> float:
        """The least grams of a food that a cook measures; 0 where nobody says."""
        return self.least_grams.get(key, 0.0)

    def diet_of(self, foods: Iterable[Food]) -> Diet:
        """The diet that a dish of these foods keeps: what is in it is the least strict of them."""
        found = [self.diets.get(food.key, VEGAN) for food in foods]
        return Diet(
            max((d.animal for d in found), default=0),
            any(d.pork for d in found),
            any(d.alcohol for d in found),
        )

    def keeps(self, diet: Diet, food: Food) -> bool:
        """Whether a dish of a diet still keeps it with this food in it."""
        other = self.diets.get(food.key, VEGAN)
        return (
            other.animal <= diet.animal
            and (diet.pork or not other.pork)
            and (diet.alcohol or not other.alcohol)
        )

    def cuisines_of(self, foods: Iterable[Food]) -> frozenset[str]:
        """Where a dish is at home: the cuisines that most of what is foreign elsewhere shares;
        empty where nothing in it says."""
        votes: dict[str, float] = {}
        for food in foods:
            home = self.homes.get(food.key)
            if home is not None and EVERYWHERE not in home.cuisines:
                for cuisine in home.cuisines:
                    votes[cuisine] = votes.get(cuisine, 0.0) + home.foreign
        most = max(votes.values(), default=0.0)
        return frozenset(cuisine for cuisine, vote in votes.items() if vote >= 0.7 * most > 0)

    def belongs(self, food: Food, cuisines: Collection[str]) -> bool:
        """Whether a food may come into a dish at home in these cuisines without being noticed as a
        stranger."""
        home = self.homes.get(food.key)
        if home is None or home.foreign < FOREIGN or EVERYWHERE in home.cuisines:
            return True
        return bool(home.cuisines & frozenset(cuisines))
