"""Loads what the bench stands on: what answers a taster's word, and what thickens while it stands;
checked."""

from __future__ import annotations

from fresh_ladle.core.catalogue.answer import Answer
from fresh_ladle.core.catalogue.standing import Standing
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.data.tables import DataError, non_negative, rows, split


def load_answers(pantry: Pantry) -> tuple[Answer, ...]:
    """What answers a taster's word. Raises DataError for an unknown food or axis, or no reason."""
    found = []
    for number, row in enumerate(rows("answers.csv"), start=2):
        place = f"answers.csv row {number} ({row['word']}, {row['food']})"
        known = (
            row["food"] in pantry
            and row["axis"] in AXIS_IDS
            and row["direction"] in ("more", "less")
        )
        if not known or not row["word"] or not row["why"]:
            raise DataError(f"{place}: no such food, axis or direction, or no reason")
        found.append(
            Answer(row["word"], row["food"], row["axis"], row["direction"] == "more", row["why"])
        )
    return tuple(found)


def load_standings(pantry: Pantry) -> tuple[Standing, ...]:
    """What thickens a blend that stands. Raises DataError for an unknown food or group, or ends out
    of order."""
    groups = {food.group for food in pantry}
    found = []
    for number, row in enumerate(rows("standing.csv"), start=2):
        place = f"standing.csv row {number} ({row['id']})"
        keys, of = frozenset(split(row["keys"])), frozenset(split(row["groups"]))
        water, low, high = (
            non_negative(row[c], f"{place}, {c}") for c in ("water_g", "low_g", "high_g")
        )
        if not keys | of or any(key not in pantry for key in keys) or not of <= groups:
            raise DataError(f"{place}: no such food or group")
        if not low <= water <= high or not row["source"]:
            raise DataError(f"{place}: its ends are out of order, or it has no source")
        found.append(
            Standing(
                row["id"],
                row["name"],
                keys,
                of,
                water,
                low,
                high,
                Grade(row["grade"]),
                row["source"],
            )
        )
    return tuple(found)
