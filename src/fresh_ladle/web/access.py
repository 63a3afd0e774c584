"""Who may do what: every address with the least role that reaches it, and what the log calls what is done there.

The table is `access.csv`. A route that is not in it stops the workbench from starting.
"""

from __future__ import annotations

import csv
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from fresh_ladle.core.people.role import Role

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


@lru_cache(maxsize=1)
def access_table() -> dict[tuple[str, str], Access]:
    """The rows by method and address. Raises ValueError for one that stands twice or names no role."""
    with (Path(__file__).parent / "access.csv").open(encoding="utf-8", newline="") as file:
        rows = [row for row in csv.DictReader(file) if not row["method"].startswith("#")]
    table: dict[tuple[str, str], Access] = {}
    for row in rows:
        key = (row["method"], row["path"])
        if key in table:
            raise ValueError(f"access.csv has {' '.join(key)} twice")
        table[key] = Access(*key, None if row["least"] == ANYONE else Role(row["least"]), row["did"])
    return table


def access_to(method: str, path: str) -> Access:
    """Raises LookupError for a route that is not in the table."""
    found = access_table().get((method, path))
    if found is None:
        raise LookupError(f"access.csv does not say who may {method} {path}")
    return found
