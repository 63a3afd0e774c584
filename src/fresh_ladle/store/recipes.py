"""Recipes with their versions and the draft that work happens in.

A version is accepted once and never changes. A draft is a row of states with a cursor: an edit adds a state, undo and
redo move the cursor, and both survive a restart. `revision` goes up with every change, so that a second tab that
edits an old state is told instead of overwriting.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

from fresh_ladle.core.recipe import Recipe
from fresh_ladle.store.database import writing
from fresh_ladle.store.document import from_document, to_document


class RecipeMissing(LookupError):
    """There is no such recipe or version."""


class StaleEdit(RuntimeError):
    """The draft has moved on since the page was drawn; nothing was changed."""


@dataclass(frozen=True, slots=True)
class Version:
    """An accepted version of a recipe. `pinned` is JSON: the figures per 100 g of each food it was computed with."""

    id: int
    recipe_id: int
    number: int
    name: str
    note: str
    created_at: str
    recipe: Recipe
    pinned: str = "{}"


@dataclass(frozen=True, slots=True)
class Draft:
    """The state of work on a recipe. `changed` is True when it differs from the version it began from."""

    recipe_id: int
    recipe: Recipe
    revision: int
    based_on: Version | None
    profile_id: int | None
    undo: str | None
    redo: str | None
    changed: bool


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def create_recipe(
    connection: sqlite3.Connection, recipe: Recipe, profile_id: int | None, note: str = "as read in", pinned: str = "{}"
) -> int:
    """Keeps a recipe as its first version, the original, with a draft on top of it. Returns the recipe's id."""
    with writing(connection):
        cursor = connection.execute(
            "INSERT INTO recipe (title, profile_id, created_at) VALUES (?, ?, ?)", (recipe.title, profile_id, _now())
        )
        recipe_id = int(cursor.lastrowid or 0)
        version_id = _insert_version(connection, recipe_id, 1, "original", note, recipe, pinned)
        _start_draft(connection, recipe_id, version_id, recipe)
    return recipe_id


def _insert_version(
    connection: sqlite3.Connection, recipe_id: int, number: int, name: str, note: str, recipe: Recipe, pinned: str
) -> int:
    cursor = connection.execute(
        "INSERT INTO version (recipe_id, number, name, note, document, created_at, pinned) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (recipe_id, number, name, note, to_document(recipe), _now(), pinned),
    )
    return int(cursor.lastrowid or 0)


def _start_draft(connection: sqlite3.Connection, recipe_id: int, version_id: int, recipe: Recipe) -> None:
    """A fresh draft on a version; the revision keeps rising, so that a page drawn before is still told it is stale."""
    row = connection.execute("SELECT revision FROM draft WHERE recipe_id = ?", (recipe_id,)).fetchone()
    revision = row["revision"] + 1 if row else 1
    connection.execute("DELETE FROM draft_state WHERE recipe_id = ?", (recipe_id,))
    connection.execute(
        """
        INSERT INTO draft (recipe_id, based_on, revision, cursor) VALUES (?, ?, ?, 0)
        ON CONFLICT (recipe_id) DO UPDATE SET based_on = excluded.based_on, revision = excluded.revision, cursor = 0
        """,
        (recipe_id, version_id, revision),
    )
    connection.execute("INSERT INTO draft_state VALUES (?, 0, ?, '', ?)", (recipe_id, to_document(recipe), _now()))


def draft(connection: sqlite3.Connection, recipe_id: int) -> Draft:
    """The draft of a recipe as it stands. Raises RecipeMissing."""
    row = connection.execute(
        """
        SELECT d.based_on, d.revision, d.cursor, s.document, s.what, r.profile_id,
               (SELECT what FROM draft_state n WHERE n.recipe_id = d.recipe_id AND n.seq = d.cursor + 1) AS next_what
        FROM draft d JOIN recipe r ON r.id = d.recipe_id
        JOIN draft_state s ON s.recipe_id = d.recipe_id AND s.seq = d.cursor
        WHERE d.recipe_id = ?
        """,
        (recipe_id,),
    ).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no recipe {recipe_id}")
    recipe = from_document(row["document"])
    based_on = _version_by_id(connection, row["based_on"])
    undo = row["what"] if row["cursor"] > 0 else None
    changed = based_on is None or based_on.recipe != recipe
    return Draft(recipe_id, recipe, row["revision"], based_on, row["profile_id"], undo, row["next_what"], changed)


def edit(
    connection: sqlite3.Connection, recipe_id: int, revision: int, what: str, change: Callable[[Recipe], Recipe]
) -> Draft:
    """Adds a state made by `change` from the current one; durable when this returns.

    Raises StaleEdit when `revision` is not the current one, RecipeMissing, and whatever `change` raises: then nothing
    is kept.
    """
    with writing(connection):
        now = draft(connection, recipe_id)
        if now.revision != revision:
            raise StaleEdit(now.undo or "the recipe")
        changed = change(now.recipe)
        if changed != now.recipe:
            cursor = connection.execute("SELECT cursor FROM draft WHERE recipe_id = ?", (recipe_id,)).fetchone()[
                "cursor"
            ]
            connection.execute("DELETE FROM draft_state WHERE recipe_id = ? AND seq > ?", (recipe_id, cursor))
            connection.execute(
                "INSERT INTO draft_state VALUES (?, ?, ?, ?, ?)",
                (recipe_id, cursor + 1, to_document(changed), what, _now()),
            )
            connection.execute(
                "UPDATE draft SET cursor = cursor + 1, revision = revision + 1 WHERE recipe_id = ?", (recipe_id,)
            )
            connection.execute("UPDATE recipe SET title = ? WHERE id = ?", (changed.title, recipe_id))
    return draft(connection, recipe_id)


def plans_taken(connection: sqlite3.Connection, recipe_id: int) -> list[str]:
    """The plans taken in the draft as it stands, in order, as they were named."""
    rows = connection.execute(
        """
        SELECT s.what FROM draft_state s JOIN draft d ON d.recipe_id = s.recipe_id
        WHERE s.recipe_id = ? AND s.seq <= d.cursor AND s.what LIKE 'plan: %' ORDER BY s.seq
        """,
        (recipe_id,),
    )
    return [row["what"] for row in rows]


def move_cursor(connection: sqlite3.Connection, recipe_id: int, by: int) -> Draft:
    """Undo (-1) or redo (+1). At either end nothing happens."""
    with writing(connection):
        draft(connection, recipe_id)
        connection.execute(
            """
            UPDATE draft SET cursor = cursor + :by, revision = revision + 1
            WHERE recipe_id = :id AND EXISTS (SELECT 1 FROM draft_state WHERE recipe_id = :id AND seq = draft.cursor + :by)
            """,
            {"by": by, "id": recipe_id},
        )
    return draft(connection, recipe_id)


def keep_version(
    connection: sqlite3.Connection, recipe_id: int, revision: int, name: str, note: str, pinned: str = "{}"
) -> Version:
    """Accepts the draft as a new version and goes on from it. Raises StaleEdit and RecipeMissing."""
    with writing(connection):
        now = draft(connection, recipe_id)
        if now.revision != revision:
            raise StaleEdit(now.undo or "the recipe")
        row = connection.execute("SELECT max(number) AS last FROM version WHERE recipe_id = ?", (recipe_id,)).fetchone()
        number = row["last"] + 1
        version_id = _insert_version(
            connection, recipe_id, number, name or f"version {number}", note, now.recipe, pinned
        )
        _start_draft(connection, recipe_id, version_id, now.recipe)
    return version(connection, recipe_id, number)


def restore_version(connection: sqlite3.Connection, recipe_id: int, number: int) -> Draft:
    """Starts the draft again from a version. Raises RecipeMissing."""
    chosen = version(connection, recipe_id, number)
    with writing(connection):
        _start_draft(connection, recipe_id, chosen.id, chosen.recipe)
    return draft(connection, recipe_id)


def _version(row: sqlite3.Row) -> Version:
    return Version(
        row["id"], row["recipe_id"], row["number"], row["name"], row["note"], row["created_at"],
        from_document(row["document"]), row["pinned"],
    )  # fmt: skip


def _version_by_id(connection: sqlite3.Connection, version_id: int | None) -> Version | None:
    row = connection.execute("SELECT * FROM version WHERE id = ?", (version_id,)).fetchone()
    return _version(row) if row else None


def version(connection: sqlite3.Connection, recipe_id: int, number: int) -> Version:
    """Raises RecipeMissing when the recipe has no version of this number."""
    row = connection.execute("SELECT * FROM version WHERE recipe_id = ? AND number = ?", (recipe_id, number)).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no version {number} of recipe {recipe_id}")
    return _version(row)


def versions(connection: sqlite3.Connection, recipe_id: int) -> list[Version]:
    """All accepted versions, the original first."""
    rows = connection.execute("SELECT * FROM version WHERE recipe_id = ? ORDER BY number", (recipe_id,))
    return [_version(row) for row in rows]


def recipe_ids(connection: sqlite3.Connection) -> list[int]:
    """Recipes, the one worked on last first."""
    rows = connection.execute(
        """
        SELECT r.id, max(s.at) AS touched FROM recipe r JOIN draft_state s ON s.recipe_id = r.id
        GROUP BY r.id ORDER BY touched DESC, r.id
        """
    )
    return [row["id"] for row in rows]


def set_profile(connection: sqlite3.Connection, recipe_id: int, profile_id: int | None) -> None:
    with writing(connection):
        connection.execute("UPDATE recipe SET profile_id = ? WHERE id = ?", (profile_id, recipe_id))


def titles(connection: sqlite3.Connection) -> list[tuple[int, str]]:
    """Id and title of every recipe, by title."""
    return [(row["id"], row["title"]) for row in connection.execute("SELECT id, title FROM recipe ORDER BY title, id")]


def recipes_using(connection: sqlite3.Connection, food_key: str) -> list[tuple[int, str]]:
    """Id and title of the recipes whose draft uses a food."""
    rows = connection.execute(
        """
        SELECT r.id, r.title FROM recipe r JOIN draft d ON d.recipe_id = r.id
        JOIN draft_state s ON s.recipe_id = r.id AND s.seq = d.cursor, json_tree(s.document) t
        WHERE t.key = 'food' AND t.value = ? GROUP BY r.id ORDER BY r.title
        """,
        (food_key,),
    )
    return [(row["id"], row["title"]) for row in rows]
