"""The draft in which a recipe is worked on: every edit is a state, and nothing that was done is
thrown away.

States form a tree with a cursor. An edit adds a state under the cursor, undo moves it to the
parent, redo to the newest child; all of it survives a restart. `revision` goes up with every
change, so that a second tab that edits an old state is told instead of overwriting, and can merge
its edit with what came between."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from fresh_ladle.core.recipes.changes import changes_between
from fresh_ladle.core.recipes.edits import BY, Edit, EditKind, edits_words
from fresh_ladle.core.recipes.merge import merge
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.epoch import first_revision
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.document import from_document, to_document
from fresh_ladle.store.recipes.edit_document import edits_from_json, edits_to_json
from fresh_ladle.store.recipes.recipes import (
    RecipeMissing,
    Version,
    insert_recipe,
    insert_version,
    version,
    version_by_id,
)


class StaleEdit(RuntimeError):
    """The draft has moved on since the page was drawn; nothing was changed."""


class Clash(StaleEdit):
    """What came between has changed the same line, or the same of the dish, otherwise. `mine` is
    what the edit would have made of the recipe as its page showed it."""

    def __init__(self, meanwhile: str, mine: Recipe) -> None:
        super().__init__(meanwhile)
        self.mine = mine


@dataclass(frozen=True, slots=True)
class Draft:
    """The state of work on a recipe. `changed` is True when it differs from the version it began
    from."""

    recipe_id: int
    recipe: Recipe
    revision: int
    based_on: Version | None
    profile_id: int | None
    undo: tuple[Edit, ...] | None
    redo: tuple[Edit, ...] | None
    changed: bool


def create_recipe(
    connection: sqlite3.Connection,
    recipe: Recipe,
    profile_id: int | None,
    note: str = "as read in",
    pinned: str = "{}",
) -> int:
    """Keeps a recipe as its first version, the original, with a draft on top of it. Returns the
    recipe's id."""
    with writing(connection):
        recipe_id = insert_recipe(connection, recipe, profile_id)
        version_id = insert_version(connection, recipe_id, 1, "original", note, recipe, pinned, [])
        first = first_revision(connection)
        connection.execute(
            "INSERT INTO draft (recipe_id, based_on, revision, cursor) VALUES (?, ?, ?, 0)",
            (recipe_id, version_id, first),
        )
        connection.execute(
            "INSERT INTO draft_state (recipe_id, seq, document, at) VALUES (?, 0, ?, ?)",
            (recipe_id, to_document(recipe), now_text()),
        )
        connection.execute("INSERT INTO revision_state VALUES (?, ?, 0)", (recipe_id, first))
    return recipe_id


def draft(connection: sqlite3.Connection, recipe_id: int) -> Draft:
    """The draft of a recipe as it stands. Raises RecipeMissing."""
    row = connection.execute(
        """
        SELECT d.based_on, d.revision, s.document, s.edits, s.parent, r.profile_id,
               (SELECT edits FROM draft_state n WHERE n.recipe_id = d.recipe_id AND n.parent = d.cursor
                ORDER BY seq DESC LIMIT 1) AS next_edits
        FROM draft d JOIN recipe r ON r.id = d.recipe_id
        JOIN draft_state s ON s.recipe_id = d.recipe_id AND s.seq = d.cursor
        WHERE d.recipe_id = ?
        """,
        (recipe_id,),
    ).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no recipe {recipe_id}")
    recipe = from_document(row["document"])
    based_on = version_by_id(connection, row["based_on"])
    undo = None if row["parent"] is None else edits_from_json(row["edits"])
    redo = None if row["next_edits"] is None else edits_from_json(row["next_edits"])
    changed = based_on is None or based_on.recipe != recipe
    return Draft(
        recipe_id, recipe, row["revision"], based_on, row["profile_id"], undo, redo, changed
    )


def recipe_at(connection: sqlite3.Connection, recipe_id: int, revision: int) -> Recipe | None:
    """The recipe as the draft showed it at a revision; None when that is not known."""
    row = connection.execute(
        """
        SELECT s.document FROM revision_state v JOIN draft_state s ON s.recipe_id = v.recipe_id AND s.seq = v.seq
        WHERE v.recipe_id = ? AND v.revision = ?
        """,
        (recipe_id, revision),
    ).fetchone()
    return from_document(row["document"]) if row else None


def edit(
    connection: sqlite3.Connection,
    recipe_id: int,
    revision: int,
    change: Callable[[Recipe], Recipe],
    named: Edit | None = None,
) -> Draft:
    """Adds a state made by `change` from the current one; durable when this returns. Without
    `named`, the edit is told by what it changes. Where the recipe has moved on since `revision`,
    `change` is made on what the page of it showed and put together with what came between.

    Raises Clash where both change the same, StaleEdit where it is not known what the page showed,
    RecipeMissing, and whatever `change` raises: then nothing is kept."""
    with writing(connection):
        now = draft(connection, recipe_id)
        changed = _changed(connection, now, revision, change)
        if changed != now.recipe:
            edits = [named] if named else changes_between(now.recipe, changed)
            _add_state(connection, recipe_id, changed, edits)
    return draft(connection, recipe_id)


def _changed(
    connection: sqlite3.Connection, now: Draft, revision: int, change: Callable[[Recipe], Recipe]
) -> Recipe:
    began = (
        now.recipe if now.revision == revision else recipe_at(connection, now.recipe_id, revision)
    )
    if began is None:
        raise StaleEdit(_last_edit(now))
    mine = change(began)
    if began == now.recipe:
        return mine
    merged = merge(began, mine, now.recipe)
    if merged.conflicts:
        raise Clash(_last_edit(now), mine)
    return merged.recipe


def _last_edit(now: Draft) -> str:
    return edits_words(now.undo) if now.undo else "the recipe"


def _unless_overtaken(connection: sqlite3.Connection, recipe_id: int, revision: int) -> Draft:
    """The draft, which may have moved on as long as it holds what the page of `revision` showed.
    Raises StaleEdit."""
    now = draft(connection, recipe_id)
    if now.revision != revision and recipe_at(connection, recipe_id, revision) != now.recipe:
        raise StaleEdit(_last_edit(now))
    return now


def _add_state(
    connection: sqlite3.Connection, recipe_id: int, recipe: Recipe, edits: Iterable[Edit]
) -> None:
    """A new state under the cursor, with the cursor on it; each of its edits by whoever acts."""
    who = initials_acting()
    signed = [Edit(edit.kind, {**edit.details, BY: who}) for edit in edits] if who else edits
    row = connection.execute(
        "SELECT max(seq) + 1 AS seq FROM draft_state WHERE recipe_id = ?", (recipe_id,)
    ).fetchone()
    connection.execute(
        "INSERT INTO draft_state (recipe_id, seq, document, edits, at, parent) VALUES (?, ?, ?, ?,"
        " ?, ?)",
        (
            recipe_id,
            row["seq"],
            to_document(recipe),
            edits_to_json(signed),
            now_text(),
            _cursor(connection, recipe_id),
        ),
    )
    _move_to(connection, recipe_id, row["seq"])
    connection.execute("UPDATE recipe SET title = ? WHERE id = ?", (recipe.title, recipe_id))


def _cursor(connection: sqlite3.Connection, recipe_id: int) -> int:
    return int(
        connection.execute("SELECT cursor FROM draft WHERE recipe_id = ?", (recipe_id,)).fetchone()[
            "cursor"
        ]
    )


def _move_to(connection: sqlite3.Connection, recipe_id: int, seq: int) -> None:
    connection.execute(
        "UPDATE draft SET cursor = ?, revision = revision + 1 WHERE recipe_id = ?", (seq, recipe_id)
    )
    connection.execute(
        "INSERT INTO revision_state SELECT recipe_id, revision, cursor FROM draft WHERE"
        " recipe_id = ?",
        (recipe_id,),
    )


def undo(connection: sqlite3.Connection, recipe_id: int, revision: int) -> Draft:
    """Goes back by one edit; at the beginning nothing happens. Raises StaleEdit and
    RecipeMissing."""
    return _go(
        connection,
        recipe_id,
        revision,
        "SELECT parent FROM draft_state WHERE recipe_id = ? AND seq = ?",
    )


def redo(connection: sqlite3.Connection, recipe_id: int, revision: int) -> Draft:
    """Makes the newest edit that was undone here again, if there is one. Raises StaleEdit and
    RecipeMissing."""
    return _go(
        connection,
        recipe_id,
        revision,
        "SELECT max(seq) FROM draft_state WHERE recipe_id = ? AND parent = ?",
    )


def _go(connection: sqlite3.Connection, recipe_id: int, revision: int, where: str) -> Draft:
    with writing(connection):
        now = draft(connection, recipe_id)
        if now.revision != revision:
            raise StaleEdit(_last_edit(now))
        target = connection.execute(where, (recipe_id, _cursor(connection, recipe_id))).fetchone()[
            0
        ]
        if target is not None:
            _move_to(connection, recipe_id, target)
            connection.execute(
                "UPDATE recipe SET title = ? WHERE id = ?",
                (draft(connection, recipe_id).recipe.title, recipe_id),
            )
    return draft(connection, recipe_id)


_PATH = """
WITH RECURSIVE path(seq, parent, edits) AS (
  SELECT s.seq, s.parent, s.edits FROM draft d JOIN draft_state s ON s.recipe_id = d.recipe_id AND s.seq = d.{start}
  WHERE d.recipe_id = :id
  UNION ALL
  SELECT s.seq, s.parent, s.edits FROM path p JOIN draft_state s ON s.recipe_id = :id AND s.seq = p.parent
)
SELECT seq, edits FROM path
"""


def edits_since_version(connection: sqlite3.Connection, recipe_id: int) -> list[Edit]:
    """What was done since the version the draft is based on, in order."""
    before = {
        row["seq"] for row in connection.execute(_PATH.format(start="base_seq"), {"id": recipe_id})
    }
    path = connection.execute(_PATH.format(start="cursor"), {"id": recipe_id}).fetchall()
    return [
        edit
        for row in reversed(path)
        if row["seq"] not in before
        for edit in edits_from_json(row["edits"])
    ]


def save_version(
    connection: sqlite3.Connection,
    recipe_id: int,
    revision: int,
    name: str,
    note: str,
    pinned: str = "{}",
) -> Version:
    """Accepts the draft as a new version, with the edits that led to it. Raises StaleEdit and
    RecipeMissing."""
    with writing(connection):
        now = _unless_overtaken(connection, recipe_id, revision)
        row = connection.execute(
            "SELECT max(number) AS last FROM version WHERE recipe_id = ?", (recipe_id,)
        ).fetchone()
        number = row["last"] + 1
        edits = edits_since_version(connection, recipe_id)
        version_id = insert_version(
            connection,
            recipe_id,
            number,
            name or f"version {number}",
            note,
            now.recipe,
            pinned,
            edits,
        )
        connection.execute(
            "UPDATE draft SET based_on = ?, base_seq = cursor WHERE recipe_id = ?",
            (version_id, recipe_id),
        )
        _move_to(connection, recipe_id, _cursor(connection, recipe_id))
    return version(connection, recipe_id, number)


def keep_beside(
    connection: sqlite3.Connection,
    recipe_id: int,
    revision: int,
    wanted: Iterable[tuple[str, Recipe, str, Iterable[Edit]]],
) -> list[int]:
    """Keeps recipes as versions beside the draft, which stays as it is: each with its name, the
    figures of its foods and what it changes. All or none. Returns their numbers. Raises StaleEdit
    and RecipeMissing."""
    numbers = []
    with writing(connection):
        _unless_overtaken(connection, recipe_id, revision)
        row = connection.execute(
            "SELECT max(number) AS last FROM version WHERE recipe_id = ?", (recipe_id,)
        ).fetchone()
        for number, (name, recipe, pinned, edits) in enumerate(wanted, start=row["last"] + 1):
            insert_version(
                connection, recipe_id, number, name, "to be tasted", recipe, pinned, edits
            )
            numbers.append(number)
    return numbers


def restore_version(connection: sqlite3.Connection, recipe_id: int, number: int) -> Draft:
    """Brings a version back as an edit of the draft, which can be undone like any other. Raises
    RecipeMissing."""
    with writing(connection):
        chosen = version(connection, recipe_id, number)
        draft(connection, recipe_id)
        _add_state(
            connection, recipe_id, chosen.recipe, [Edit(EditKind.RESTORED, {"number": number})]
        )
    return draft(connection, recipe_id)
