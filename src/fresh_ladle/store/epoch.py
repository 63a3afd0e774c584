"""Revisions are never used twice: after a copy is put back they go on from its moment, so that a
page drawn before it cannot be taken for one of what came after."""

from __future__ import annotations

import sqlite3

from fresh_ladle.store.database import writing


def first_revision(connection: sqlite3.Connection) -> int:
    """What the first state of a new recipe is numbered."""
    return int(
        connection.execute("SELECT coalesce(max(first_revision), 1) FROM epoch").fetchone()[0]
    )


def begin_epoch(connection: sqlite3.Connection, milliseconds: int) -> None:
    """Every draft goes on at a revision that no page has seen: the milliseconds since 1970, UTC,
    which are more than any recipe has edits."""
    with writing(connection):
        latest = connection.execute("SELECT coalesce(max(revision), 0) FROM draft").fetchone()[0]
        begins = max(milliseconds, int(latest) + 1, first_revision(connection) + 1)
        connection.execute("DELETE FROM epoch")
        connection.execute("INSERT INTO epoch VALUES (?)", (begins,))
        connection.execute("UPDATE draft SET revision = ?", (begins,))
        connection.execute(
            "INSERT INTO revision_state SELECT recipe_id, revision, cursor FROM draft"
        )
