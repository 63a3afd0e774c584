"""Reading shipped CSV tables: rows as text, numbers checked where they stand."""

from __future__ import annotations

import csv
import tomllib
from functools import cache
from importlib.resources import files
from importlib.resources.abc import Traversable
from math import isfinite
from typing import Any


class DataError(ValueError):
    """A shipped figure is missing, malformed or impossible."""


@cache
def _folder_of() -> dict[str, Traversable]:
    """Every shipped table by its name, wherever it lies. Raises DataError where two share a
    name."""
    tables: dict[str, Traversable] = {}
    for folder in files("fresh_ladle.data").iterdir():
        for table in folder.iterdir() if folder.is_dir() else ():
            if table.name in tables:
                raise DataError(f"{table.name} stands in two folders of the data")
            if table.name.endswith((".csv", ".toml")):
                tables[table.name] = table
    return tables


def shipped(name: str) -> Traversable:
    """A table that ships, by its name: no two share one, so readers need not know its folder."""
    return _folder_of()[name]


def rows(name: str) -> list[dict[str, str]]:
    """All rows of a shipped CSV table, as text."""
    with shipped(name).open(encoding="utf-8") as handle:
        found = list(csv.DictReader(handle))
    for number, row in enumerate(found, start=2):
        if None in row or None in row.values():
            raise DataError(
                f"{name} row {number}: not as many cells as there are columns; a comma wants quotes"
            )
    return found


def finite(text: str, place: str) -> float:
    """Any number. Raises DataError, which names the place, for anything else."""
    try:
        value = float(text)
    except ValueError:
        raise DataError(f"{place}: {text!r} is not a number") from None
    if not isfinite(value):
        raise DataError(f"{place}: {text} is undefined")
    return value


def non_negative(text: str, place: str) -> float:
    """A number of zero or more. Raises DataError, which names the place, for anything else."""
    value = finite(text, place)
    if value < 0:
        raise DataError(f"{place}: {text} is negative")
    return value


def split(text: str) -> tuple[str, ...]:
    """The parts of a cell that holds several, parted by semicolons."""
    return tuple(part.strip() for part in text.split(";") if part.strip())


def toml_of(name: str) -> dict[str, Any]:
    """A table that ships, as TOML."""
    return tomllib.loads(shipped(name).read_text(encoding="utf-8"))
