"""What things weigh: household measures, packs, and words that measure nothing, each checked as it
is read."""

from __future__ import annotations

from fresh_ladle.core.foods.food import Grade, LooseBasis, LooseMeasure, Measure, Pack
from fresh_ladle.data.tables import DataError, non_negative, rows, split


def measures_by_key() -> dict[str, list[Measure]]:
    table: dict[str, list[Measure]] = {}
    for number, row in enumerate(rows("measures.csv"), start=2):
        place = f"measures.csv row {number} ({row['key']}, {row['unit']})"
        grams, low, high = (non_negative(row[c], f"{place}, {c}") for c in ("grams", "low", "high"))
        if not low <= grams <= high or grams == 0:
            raise DataError(f"{place}: {low} ≤ {grams} ≤ {high} does not hold")
        table.setdefault(row["key"], []).append(
            Measure(row["unit"], grams, low, high, Grade(row["grade"]), row["note"])
        )
    return table


def packs_by_key() -> dict[str, list[Pack]]:
    table: dict[str, list[Pack]] = {}
    for number, row in enumerate(rows("packs.csv"), start=2):
        place = f"packs.csv row {number} ({row['key']}, {row['size']})"
        net, grams, low, high = (
            non_negative(row[c], f"{place}, {c}") for c in ("net_g", "grams", "low", "high")
        )
        if not 0 < low <= grams <= high:
            raise DataError(f"{place}: {low} ≤ {grams} ≤ {high} does not hold")
        if row["region"] not in ("us", "uk", "eu"):
            raise DataError(f"{place}: no region is called {row['region']!r}")
        sizes, usual, grade = split(row["size"]), row["usual"] == "1", Grade(row["grade"])
        table.setdefault(row["key"], []).append(
            Pack(row["pack"], sizes, row["region"], net, grams, low, high, usual, grade)
        )
    return table


def _loose_by_class() -> dict[str, tuple[LooseMeasure, ...]]:
    table: dict[str, list[LooseMeasure]] = {}
    for number, row in enumerate(rows("loose.csv"), start=2):
        place = f"loose.csv row {number} ({row['word']}, {row['class']})"
        grams, low, high = (non_negative(row[c], f"{place}, {c}") for c in ("grams", "low", "high"))
        if not low <= grams <= high or high == 0:
            raise DataError(f"{place}: {low} ≤ {grams} ≤ {high} does not hold")
        if Grade(row["grade"]) is not Grade.C:
            raise DataError(f"{place}: what nobody measured is an estimate, grade C")
        measure = LooseMeasure(row["word"], LooseBasis(row["basis"]), row["role"], grams, low, high)
        table.setdefault(row["class"], []).append(measure)
    return {name: tuple(measures) for name, measures in table.items()}


def loose_by_match() -> dict[str, tuple[LooseMeasure, ...]]:
    """Loose measures by the key of a food, or by its group where the key has no class of its
    own."""
    by_class = _loose_by_class()
    found = {}
    for number, row in enumerate(rows("loose_classes.csv"), start=2):
        if row["class"] not in by_class:
            raise DataError(
                f"loose_classes.csv row {number}: loose.csv has no class {row['class']!r}"
            )
        found[row["match"]] = by_class[row["class"]]
    return found
