"""The log of who did what: read here, written in the transaction of what was done (see
`acting`)."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Activity:
    """One thing somebody did. `at` is the moment in UTC, `about` the address it was done at."""

    id: int
    at: str
    initials: str
    did: str
    about: str


def activities(
    connection: sqlite3.Connection, before: int | None, initials: str, most: int
) -> list[Activity]:
    """The newest first, at most so many: those before a row, and of one person where initials are
    given."""
    rows = connection.execute(
        """
        SELECT id, at, initials, did, about FROM activity
        WHERE (:before IS NULL OR id < :before) AND (:initials = '' OR initials = :initials COLLATE NOCASE)
        ORDER BY id DESC LIMIT :most
        """,
        {"before": before, "initials": initials, "most": most},
    )
    return [Activity(**row) for row in rows]
