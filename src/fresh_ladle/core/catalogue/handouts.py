"""What is known for what leaves the kitchen: the colors of foods in a picture, words that may not
stand, facts."""

from __future__ import annotations

import ast
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
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
        return any(
            group == p if p.startswith("group:") else fnmatchcase(food.key, p)
            for p in self.patterns
        )


@dataclass(frozen=True, slots=True)
class WordRule:
    """Why some words may not stand, and what may instead. They are found by a pattern, or, where it
    is None, by how words stand to each other (see `claims.grammar`)."""

    id: str
    pattern: re.Pattern[str] | None
    why: str
    instead: str
    grade: Grade


@dataclass(frozen=True, slots=True)
class ClaimRule:
    """The rule of words that claim so much of a nutrient, and the claims that decide whether they
    may stand, in either regime."""

    rule: str
    claims: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class CupEquivalent:
    """The grams of a food that count as a cup of vegetables or fruit in the US guideline, and of
    which subgroup."""

    subgroup: str
    grams: float
    grade: Grade


@dataclass(frozen=True, slots=True)
class Fact:
    """A sentence about a dish with `{names}` in it, each worked out by an expression; it stands
    where `when` holds. `not_for` are audiences that should not meet it."""

    id: str
    topic: str
    when: ast.expr
    says: str
    values: Mapping[str, ast.expr]
    source: str
    grade: Grade
    not_for: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ClassBlock:
    """A part of a class, of `low` to `high` minutes. `wants` is what the dish must give for it:
    always, time, oil, acid …"""

    id: str
    title: str
    low: int
    high: int
    educator: str
    group: str
    materials: tuple[str, ...]
    safety: str
    wants: str
    grade: Grade


@dataclass(frozen=True, slots=True)
class Handouts:
    """All of it, as shipped."""

    colors: tuple[FoodColor, ...] = ()
    word_rules: tuple[WordRule, ...] = ()
    claim_words: Mapping[str, Mapping[str, tuple[str, ...]]] = field(default_factory=dict)
    """Words by table and what they mean there."""
    claim_rules: Mapping[tuple[str, str], ClaimRule] = field(default_factory=dict)
    """By how much is claimed, and of what."""
    facts: tuple[Fact, ...] = ()
    cups: Mapping[str, CupEquivalent] = field(default_factory=dict)
    constants: Mapping[str, Mapping[str, float]] = field(default_factory=dict)
    """Figures in 100 g that no composition table has, by quantity and food."""
    class_blocks: tuple[ClassBlock, ...] = ()

    def color_of(self, food: Food | None) -> str:
        """The first row that names the food, or its group."""
        found = (row.color for row in self.colors if food is not None and row.is_of(food))
        return next(found, NO_COLOR)
