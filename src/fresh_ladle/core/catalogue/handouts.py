"""What is known for what leaves the kitchen: the colors of foods in a picture, words that may not stand."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fnmatch import fnmatchcase

from fresh_ladle.core.foods.food import Food, Grade

NO_COLOR = "#cfc6b4"
"""Of what was not understood."""


@dataclass(frozen=True, slots=True)
class FoodColor:
    """A color, as #rrggbb, of foods by key or key pattern, or by `group:name`."""

    patterns: tuple[str, ...]
    color: str

    def is_of(self, food: Food) -> bool:
        group = f"group:{food.group}"
        return any(group == p if p.startswith("group:") else fnmatchcase(food.key, p) for p in self.patterns)


@dataclass(frozen=True, slots=True)
class WordRule:
    """Words by a pattern; `unless` are words in which they mean something else."""

    id: str
    pattern: re.Pattern[str]
    unless: re.Pattern[str] | None
    why: str
    instead: str
    grade: Grade


@dataclass(frozen=True, slots=True)
class Handouts:
    """All of it, as shipped."""

    colors: tuple[FoodColor, ...] = ()
    word_rules: tuple[WordRule, ...] = ()

    def color_of(self, food: Food | None) -> str:
        """The first row that names the food, or its group."""
        found = (row.color for row in self.colors if food is not None and row.is_of(food))
        return next(found, NO_COLOR)
