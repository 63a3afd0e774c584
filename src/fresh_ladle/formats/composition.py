"""Food composition in the layout the public-domain national database is published in: a zip with
food.csv, nutrient.csv, food_nutrient.csv and food_portion.csv. Rows are streamed, so memory stays
flat however large the release is."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from fresh_ladle.formats.limits import FileError, checked_zip

NUTRIENT_NUMBERS = {
    "208": "energy_kcal",
    "957": "energy_kcal",
    "958": "energy_kcal",
    "307": "sodium_mg",
    "204": "fat_g",
    "291": "fiber_g",
    "203": "protein_g",
    "606": "saturated_fat_g",
    "205": "carbohydrate_g",
    "269": "sugars_g",
    "269.3": "sugars_g",
    "539": "added_sugars_g",
    "306": "potassium_mg",
    "301": "calcium_mg",
    "303": "iron_mg",
    "304": "magnesium_mg",
    "305": "phosphorus_mg",
    "401": "vitamin_c_mg",
    "320": "vitamin_a_rae_ug",
    "430": "vitamin_k_ug",
    "601": "cholesterol_mg",
}
"""Published numbers of the figures carried here; everything else in a release is passed over."""
_NEEDED = {
    "food.csv": {"fdc_id", "description"},
    "nutrient.csv": {"id", "nutrient_nbr"},
    "food_nutrient.csv": {"fdc_id", "nutrient_id", "amount"},
}


@dataclass(frozen=True, slots=True)
class Row:
    """One row of a file, with the number it has there."""

    number: int
    values: dict[str, str]


class Release:
    """An open release. Raises FileError when a file or a column is missing, or the archive is
    unsafe."""

    def __init__(self, data: bytes | Path) -> None:
        self._archive = checked_zip(data, 4_000_000_000)
        self._paths = {name.rsplit("/", 1)[-1].lower(): name for name in self._archive.namelist()}
        for name, columns in _NEEDED.items():
            if name not in self._paths:
                raise FileError(f"{name} is missing from the archive")
            if missing := columns - set(self._head(name)):
                raise FileError(f"{name} has no column {', '.join(sorted(missing))}")

    def _open(self, name: str) -> io.TextIOWrapper:
        return io.TextIOWrapper(
            self._archive.open(self._paths[name]),
            encoding="utf-8-sig",
            errors="replace",
            newline="",
        )

    def _head(self, name: str) -> list[str]:
        with self._open(name) as handle:
            return next(csv.reader(handle), [])

    def rows(self, name: str) -> Iterator[Row]:
        """Rows of one file in order; a file that is not there has none."""
        if name not in self._paths:
            return
        with self._open(name) as handle:
            try:
                for number, values in enumerate(csv.DictReader(handle), start=2):
                    yield Row(
                        number,
                        {
                            k: (v or "").strip()
                            for k, v in values.items()
                            if isinstance(k, str) and not isinstance(v, list)
                        },
                    )
            except (csv.Error, zipfile.BadZipFile) as error:
                raise FileError(f"{name} is damaged: {error}") from None

    def size(self, name: str) -> int:
        """Bytes the file unpacks to, to tell progress by; 0 when it is not there."""
        return self._archive.getinfo(self._paths[name]).file_size if name in self._paths else 0

    def nutrient_ids(self) -> dict[str, str]:
        """The figure each nutrient id of this release stands for."""
        found = {}
        for row in self.rows("nutrient.csv"):
            number = row.values["nutrient_nbr"].removesuffix(".0")
            if number in NUTRIENT_NUMBERS and "kj" not in row.values.get("unit_name", "").lower():
                found[row.values["id"]] = NUTRIENT_NUMBERS[number]
        return found


_PORTION = re.compile(
    r"\b(cups?|tbsp|tablespoons?|tsp|teaspoons?|small|medium|large|slices?|each|clove|stalk|leaf|head|bunch)\b"
    r"[, ]*(chopped|sliced|diced|shredded|grated|mashed|crumbled|ground)?",
    re.I,
)
_UNITS = {
    "cups": "cup",
    "tablespoon": "tbsp",
    "tablespoons": "tbsp",
    "teaspoon": "tsp",
    "teaspoons": "tsp",
    "slices": "slice",
}


def portion_unit(values: dict[str, str]) -> str | None:
    """The measure a portion row describes, in the words used here; None for one that is not known
    (a package, a serving)."""
    text = " ".join(
        values.get(c, "") for c in ("measure_unit_name", "portion_description", "modifier")
    )
    match = _PORTION.search(text)
    if match is None:
        return None
    unit = _UNITS.get(match[1].lower(), match[1].lower())
    return f"{unit} {match[2].lower()}" if match[2] and unit == "cup" else unit
