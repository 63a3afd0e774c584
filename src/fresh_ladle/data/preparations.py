"""Loads what preparing does to foods: figures, weight, taste."""

from __future__ import annotations

from functools import lru_cache

from fresh_ladle.core.amounts.preparation import (
    CookedYield,
    PreparationRule,
    PreparationTable,
    TasteChange,
)
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.ranges import Range
from fresh_ladle.data.smells import check_family
from fresh_ladle.data.tables import DataError, finite, non_negative, rows, split


@lru_cache(maxsize=1)
def load_preparations() -> PreparationTable:
    """The preparation rules with the cooked yields by family. Raises DataError on a malformed
    row."""
    rules = []
    for number, row in enumerate(rows("preparations.csv"), start=2):
        place = f"preparations.csv row {number} ({row['id']})"
        weight = [
            non_negative(row[c], f"{place}, {c}") for c in ("weight", "weight_low", "weight_high")
        ]
        named = {"sodium_mg": "sodium", "potassium_mg": "potassium", "vitamin_c_mg": "vitamin_c"}
        factors = {
            nutrient: non_negative(row[column], f"{place}, {column}")
            for nutrient, column in named.items()
        }
        rules.append(
            PreparationRule(
                id=row["id"],
                label=row["label"],
                words=split(row["words"]),
                foods=split(row["foods"]),
                groups=frozenset(split(row["groups"])),
                forms=frozenset(split(row["forms"])),
                skip_forms=frozenset(split(row["skip_forms"])),
                weight=Range(*weight),
                eaten=Range(
                    *(
                        non_negative(row[c], f"{place}, {c}")
                        for c in ("eaten", "eaten_low", "eaten_high")
                    )
                ),
                factors={n: f for n, f in factors.items() if f != 1},
                edible=row["edible"] == "1",
                form_after=row["form_after"],
                grade=Grade(row["grade"]),
                source=row["source"],
            )
        )
    yields = {
        row["family"]: CookedYield(
            Range(
                *(
                    non_negative(row[c], f"yields.csv ({row['family']}), {c}")
                    for c in ("typical", "low", "high")
                )
            ),
            non_negative(row["sodium_kept"], f"yields.csv ({row['family']}), sodium_kept"),
            Grade(row["grade"]),
            row["source"],
        )
        for row in rows("yields.csv")
    }
    return PreparationTable(rules, yields, _taste_changes({rule.id for rule in rules}))


def _taste_changes(preparations: set[str]) -> list[TasteChange]:
    numbers = ("acid", "acid_added", "sweet", "glutamate", "bitter", "heat", "aroma", "body")
    found = []
    for number, row in enumerate(rows("preparation_tastes.csv"), start=2):
        place = f"preparation_tastes.csv row {number} ({row['id']})"
        if row["id"] not in preparations:
            raise DataError(f"{place}: no preparation is called {row['id']!r}")
        values = {c: finite(row[c], f"{place}, {c}") for c in numbers}
        if any(values[c] < 0 for c in ("acid", "acid_added", "sweet", "glutamate")):
            raise DataError(f"{place}: a factor cannot be negative")
        if row["smell"]:
            check_family(row["smell"], place)
        groups = frozenset(split(row["groups"]))
        found.append(
            TasteChange(
                row["id"],
                groups,
                **values,
                grade=Grade(row["grade"]),
                source=row["source"],
                smell=row["smell"],
            )
        )
    return found
