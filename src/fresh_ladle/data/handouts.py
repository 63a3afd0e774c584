"""Loads what is known for what leaves the kitchen; checked."""

from __future__ import annotations

import re

from fresh_ladle.core.catalogue.handouts import FoodColor, Handouts, WordRule
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.data.tables import DataError, rows, split, toml_of


def load_handouts(pantry: Pantry) -> Handouts:
    """Raises DataError naming the row that cannot be."""
    return Handouts(_colors(), _word_rules())


def _word_rules() -> tuple[WordRule, ...]:
    found, seen = [], set[str]()
    for row in toml_of("word_rules.toml")["rule"]:
        place = f"word_rules.toml ({row['id']})"
        if row["id"] in seen or not row["why"] or not row["instead"]:
            raise DataError(f"{place}: its id once, why, and what may stand instead")
        seen.add(row["id"])
        try:
            pattern = re.compile(row["pattern"], re.I)
            unless = re.compile(row["unless"], re.I) if "unless" in row else None
        except re.error as error:
            raise DataError(f"{place}: {error}") from None
        found.append(WordRule(row["id"], pattern, unless, row["why"], row["instead"], Grade(row["grade"])))
    return tuple(found)


def _colors() -> tuple[FoodColor, ...]:
    found = []
    for number, row in enumerate(rows("food_colors.csv"), start=2):
        place = f"food_colors.csv row {number}"
        patterns = split(row["foods"])
        if not patterns or not re.fullmatch(r"#[0-9a-f]{6}", row["color"]):
            raise DataError(f"{place}: foods and a color such as #3f7a3c")
        found.append(FoodColor(patterns, row["color"]))
    return tuple(found)
