"""Reads which foods are forms of one another."""

from __future__ import annotations

from functools import lru_cache

from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.forms import FATS, PACKINGS, SALTS, STATES, SUGARS, Form, FormTable
from fresh_ladle.core.ranges import Range
from fresh_ladle.data.tables import DataError, non_negative, rows

_KNOWN = {"salt": SALTS, "packing": PACKINGS, "fat": FATS, "sugar": SUGARS, "state": STATES}


@lru_cache(maxsize=1)
def load_forms() -> FormTable:
    """The forms of every food that has more than one. Raises DataError naming the row that cannot
    be."""
    forms: list[Form] = []
    for number, row in enumerate(rows("forms.csv"), start=2):
        place = f"forms.csv row {number} ({row['key']})"
        for column, known in _KNOWN.items():
            if row[column] not in known:
                raise DataError(
                    f"{place}, {column}: {row[column]!r} is none of"
                    f" {', '.join(filter(None, known))}"
                )
        typical, low, high = (
            non_negative(row[c], f"{place}, {c}") for c in ("grams_per_gram", "low", "high")
        )
        if not 0 < low <= typical <= high:
            raise DataError(f"{place}: {low:g}, {typical:g} and {high:g} are not in order")
        columns = (row["salt"], row["packing"], row["fat"], row["sugar"], row["state"])
        grams = Range(typical, low, high)
        forms.append(
            Form(row["family"], row["key"], *columns, grams, Grade(row["grade"]), row["note"])
        )
    table = FormTable(forms)
    if len({form.food for form in forms}) != len(forms):
        raise DataError("forms.csv: a food stands twice")
    for family, members in table.families.items():
        if len(members) < 2 or all(form.grams.value != 1 for form in members):
            raise DataError(
                f"forms.csv ({family}): a family has two forms or more, one of them with 1 g"
                " for 1 g"
            )
    return table
