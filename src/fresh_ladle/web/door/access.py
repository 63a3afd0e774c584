"""Who may do what: every address with the least role that reaches it, and what the log calls what
is done there.

Each place keeps its rows in its own `access.csv`. A route without one stops the workbench from
starting."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from fresh_ladle.core.people.role import Role

PLACES = Path(__file__).parent.parent / "places"
ANYONE = "anyone"
"""In the table: reached without an account, as by tasters with the link of their seat."""


@dataclass(frozen=True, slots=True)
class Access:
    """One row. `least` None is open to anyone; `did` is empty where nothing is changed."""

    method: str
    path: str
    least: Role | None
    did: str

    def open_to(self, role: Role | None) -> bool:
        """Whether somebody of this role, or without one, gets there."""
        return self.least is None or (role is not None and role.may(self.least))


def _rows(file: Path) -> list[dict[str, str]]:
    with file.open(encoding="utf-8", newline="") as lines:
        return list(csv.DictReader(lines))


@lru_cache(maxsize=1)
def access_table() -> dict[tuple[str, str], Access]:
    """The rows of all places by method and address. Raises ValueError for one that stands twice or
    names no role."""
    rows = [row for file in sorted(PLACES.glob("*/access.csv")) for row in _rows(file)]
    table: dict[tuple[str, str], Access] = {}
    for row in rows:
        key = (row["method"], row["path"])
        if key in table:
            raise ValueError(f"an access.csv has {' '.join(key)} twice")
        table[key] = Access(
            *key, None if row["least"] == ANYONE else Role(row["least"]), row["did"]
        )
    return table


def access_to(method: str, path: str) -> Access:
    """Raises LookupError for a route that is not in the table."""
    found = access_table().get((method, path))
    if found is None:
        raise LookupError(f"no access.csv of a place says who may {method} {path}")
    return found
