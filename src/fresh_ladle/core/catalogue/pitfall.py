"""A trap set by what a food is, as data."""

from __future__ import annotations

from dataclasses import dataclass

CONCERNS = frozenset({"oil", "salt", "sugar", "always"})


@dataclass(frozen=True, slots=True)
class FoodPitfall:
    """What to mind about some foods. `concern` says when it matters: when oil, salt or sugar is
    watched, or always."""

    id: str
    text: str
    concern: str
    foods: frozenset[str]
