"""Edits that clash with what came between: they wait, whoever moves on, until somebody decides."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.document import from_document, to_document
from fresh_ladle.store.recipes.drafts import recipe_at
from fresh_ladle.store.recipes.recipes import RecipeMissing

MOST_WAITING = 20
"""Edits of one recipe that wait at a time; the oldest go when more come."""


@dataclass(frozen=True, slots=True)
class WaitingEdit:
    """`base` is what it began from, None where that is not known any more, and `mine` what it would
    make of it. `profile` are the targets chosen in the same act: one id, or none to take them away;
    empty where it chose none."""

    id: int
    recipe_id: int
    base: Recipe | None
    mine: Recipe
    profile: tuple[int | None, ...]
    initials: str
    at: str


def keep_waiting(
    connection: sqlite3.Connection,
    recipe_id: int,
    base_revision: int,
    mine: Recipe,
    profile: tuple[int | None, ...] = (),
) -> int:
    """Keeps an edit for later. One that waits already is not kept twice. Returns its id."""
    row = (
        recipe_id,
        base_revision,
        to_document(mine),
        len(profile),
        next(iter(profile), None),
        initials_acting(),
    )
    with writing(connection):
        connection.execute(
            "INSERT OR IGNORE INTO waiting_edit"
            " (recipe_id, base_revision, document, chooses_profile, profile_id, initials, at)"
            " VALUES (?, ?, ?, ?, ?, ?, ?)",
            (*row, now_text()),
        )
        connection.execute(
            "DELETE FROM waiting_edit WHERE recipe_id = ?1 AND id NOT IN"
            " (SELECT id FROM waiting_edit WHERE recipe_id = ?1 ORDER BY id DESC LIMIT ?2)",
            (recipe_id, MOST_WAITING),
        )
        found = connection.execute(
            "SELECT id FROM waiting_edit WHERE recipe_id = ? AND base_revision = ? AND document = ?"
            " AND chooses_profile = ? AND initials = ?",
            (*row[:4], row[5]),
        ).fetchone()
    return int(found["id"])


def waiting_edits(connection: sqlite3.Connection, recipe_id: int) -> list[WaitingEdit]:
    """Those of a recipe, the oldest first."""
    rows = connection.execute(
        "SELECT * FROM waiting_edit WHERE recipe_id = ? ORDER BY id", (recipe_id,)
    )
    return [_edit(connection, row) for row in rows.fetchall()]


def waiting_edit(connection: sqlite3.Connection, recipe_id: int, number: int) -> WaitingEdit:
    """Raises RecipeMissing where it does not wait any more."""
    row = connection.execute(
        "SELECT * FROM waiting_edit WHERE recipe_id = ? AND id = ?", (recipe_id, number)
    ).fetchone()
    if row is None:
        raise RecipeMissing("this edit does not wait any more: somebody has decided")
    return _edit(connection, row)


def _edit(connection: sqlite3.Connection, row: sqlite3.Row) -> WaitingEdit:
    return WaitingEdit(
        row["id"],
        row["recipe_id"],
        recipe_at(connection, row["recipe_id"], row["base_revision"]),
        from_document(row["document"]),
        (row["profile_id"],) if row["chooses_profile"] else (),
        row["initials"],
        row["at"],
    )


def end_waiting(connection: sqlite3.Connection, recipe_id: int, number: int) -> None:
    """Somebody has decided."""
    with writing(connection):
        connection.execute(
            "DELETE FROM waiting_edit WHERE recipe_id = ? AND id = ?", (recipe_id, number)
        )


@dataclass(frozen=True, slots=True)
class RecipeWaiting:
    """A recipe of which so many edits wait."""

    recipe_id: int
    title: str
    count: int


def recipes_waiting(connection: sqlite3.Connection) -> list[RecipeWaiting]:
    """All recipes of which edits wait, by title."""
    rows = connection.execute(
        "SELECT r.id, r.title, count(*) AS waiting FROM waiting_edit w JOIN recipe r ON r.id ="
        " w.recipe_id GROUP BY r.id ORDER BY r.title, r.id"
    )
    return [RecipeWaiting(*row) for row in rows]
