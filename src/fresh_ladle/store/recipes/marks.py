"""What happened to a version after it was kept: tasted, approved. Codes only, never a person's
name."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.recipes import version


class MarkKind(StrEnum):
    TASTED = "tasted"
    APPROVED = "approved"


@dataclass(frozen=True, slots=True)
class Mark:
    """One mark on a version. `by` is a code, `at` the moment in UTC."""

    number: int
    kind: MarkKind
    by: str
    remark: str
    at: str


def mark_version(
    connection: sqlite3.Connection,
    recipe_id: int,
    number: int,
    kind: MarkKind,
    by: str,
    remark: str,
) -> None:
    """Puts a mark on a version. Raises RecipeMissing."""
    with writing(connection):
        marked = version(connection, recipe_id, number)
        connection.execute(
            "INSERT INTO version_mark (version_id, kind, by_code, remark, at) VALUES (?, ?, ?,"
            " ?, ?)",
            (marked.id, kind.value, by, remark, now_text()),
        )


def marks(connection: sqlite3.Connection, recipe_id: int) -> list[Mark]:
    """All marks on the versions of a recipe, the oldest first."""
    rows = connection.execute(
        """
        SELECT v.number, m.kind, m.by_code, m.remark, m.at FROM version_mark m JOIN version v ON v.id = m.version_id
        WHERE v.recipe_id = ? ORDER BY m.id
        """,
        (recipe_id,),
    )
    return [
        Mark(r["number"], MarkKind(r["kind"]), r["by_code"], r["remark"], r["at"]) for r in rows
    ]
