"""Recipes and their versions. A version is accepted once and never changes."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass

from fresh_ladle.core.recipes.edits import Edit
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.document import from_document, to_document
from fresh_ladle.store.recipes.edit_document import edits_from_json, edits_to_json


class RecipeMissing(LookupError):
    """There is no such recipe or version."""


@dataclass(frozen=True, slots=True)
class Version:
    """An accepted version of a recipe. `pinned` is JSON: the figures per 100 g of each food it was
    computed with.

    `edits` are the edits that led from the version before to it; `kept_by` who kept it, empty where
    nobody signed in."""

    id: int
    recipe_id: int
    number: int
    name: str
    note: str
    created_at: str
    recipe: Recipe
    pinned: str = "{}"
    edits: tuple[Edit, ...] = ()
    kept_by: str = ""


def insert_recipe(connection: sqlite3.Connection, recipe: Recipe, profile_id: int | None) -> int:
    """A row for a new recipe, inside a transaction of the caller. Returns its id."""
    cursor = connection.execute(
        "INSERT INTO recipe (title, profile_id, created_at) VALUES (?, ?, ?)",
        (recipe.title, profile_id, now_text()),
    )
    return int(cursor.lastrowid or 0)


def insert_version(
    connection: sqlite3.Connection,
    recipe_id: int,
    number: int,
    name: str,
    note: str,
    recipe: Recipe,
    pinned: str,
    edits: Iterable[Edit],
) -> int:
    """A row for a new version, inside a transaction of the caller. Returns its id."""
    cursor = connection.execute(
        "INSERT INTO version (recipe_id, number, name, note, document, created_at, pinned, edits,"
        " kept_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            recipe_id,
            number,
            name,
            note,
            to_document(recipe),
            now_text(),
            pinned,
            edits_to_json(edits),
            initials_acting(),
        ),
    )
    return int(cursor.lastrowid or 0)


def _version(row: sqlite3.Row) -> Version:
    return Version(
        row["id"],
        row["recipe_id"],
        row["number"],
        row["name"],
        row["note"],
        row["created_at"],
        from_document(row["document"]),
        row["pinned"],
        edits_from_json(row["edits"]),
        row["kept_by"],
    )


def version_by_id(connection: sqlite3.Connection, version_id: int | None) -> Version | None:
    row = connection.execute("SELECT * FROM version WHERE id = ?", (version_id,)).fetchone()
    return _version(row) if row else None


def version(connection: sqlite3.Connection, recipe_id: int, number: int) -> Version:
    """Raises RecipeMissing when the recipe has no version of this number."""
    row = connection.execute(
        "SELECT * FROM version WHERE recipe_id = ? AND number = ?", (recipe_id, number)
    ).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no version {number} of recipe {recipe_id}")
    return _version(row)


def versions(connection: sqlite3.Connection, recipe_id: int) -> list[Version]:
    """All accepted versions, the original first."""
    rows = connection.execute(
        "SELECT * FROM version WHERE recipe_id = ? ORDER BY number", (recipe_id,)
    )
    return [_version(row) for row in rows]


def any_recipes(connection: sqlite3.Connection) -> bool:
    """Whether there is any recipe yet."""
    return connection.execute("SELECT 1 FROM recipe LIMIT 1").fetchone() is not None


def set_profile(connection: sqlite3.Connection, recipe_id: int, profile_id: int | None) -> None:
    with writing(connection):
        connection.execute("UPDATE recipe SET profile_id = ? WHERE id = ?", (profile_id, recipe_id))


def is_put_away(connection: sqlite3.Connection, recipe_id: int) -> bool:
    row = connection.execute("SELECT put_away FROM recipe WHERE id = ?", (recipe_id,)).fetchone()
    return bool(row and row["put_away"])


def put_away(connection: sqlite3.Connection, recipe_id: int, away: bool) -> None:
    """Takes a recipe off the shelf with all its versions, or puts it back. Raises RecipeMissing."""
    with writing(connection):
        row = connection.execute(
            "UPDATE recipe SET put_away = ? WHERE id = ?", (int(away), recipe_id)
        )
    if row.rowcount == 0:
        raise RecipeMissing(f"there is no recipe {recipe_id}")


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


def recipes_holding(connection: sqlite3.Connection, recipe_id: int) -> list[int]:
    """Ids of the recipes whose draft holds a batch of another as a line of its own, in the order
    they were made."""
    rows = connection.execute(
        """
        SELECT DISTINCT r.id FROM recipe r JOIN draft d ON d.recipe_id = r.id
        JOIN draft_state s ON s.recipe_id = r.id AND s.seq = d.cursor, json_each(s.document, '$.lines') line
        WHERE json_extract(line.value, '$.batch.ref') LIKE ? AND NOT r.put_away ORDER BY r.id
        """,
        (f"{recipe_id}@%",),
    )
    return [row["id"] for row in rows]


def ids_by_title(connection: sqlite3.Connection, most: int) -> list[int]:
    """The recipes on the shelf, at most so many."""
    rows = connection.execute(
        "SELECT id FROM recipe WHERE put_away = 0 ORDER BY title, id LIMIT ?", (most,)
    )
    return [row["id"] for row in rows]


def titles(connection: sqlite3.Connection, recipe_ids: Iterable[int]) -> dict[int, str]:
    """The titles of these recipes by id, of those there are."""
    wanted = list(recipe_ids)
    rows = connection.execute(
        f"SELECT id, title FROM recipe WHERE id IN ({', '.join('?' * len(wanted))})", wanted
    )
    return {row["id"]: row["title"] for row in rows}
