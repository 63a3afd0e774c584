"""Everything in one JSON file, out and in without loss: recipes with versions and drafts, targets,
own foods, prices."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from typing import Any

from fresh_ladle.store.clean_rows import with_clean_texts
from fresh_ladle.store.database import StoreError, apply_migrations, schema_version, writing
from fresh_ladle.store.recipes.document import from_document

FORM = "fresh-ladle everything"
TABLES = (
    "profile",
    "target",
    "recipe",
    "version",
    "draft",
    "draft_state",
    "revision_state",
    "version_mark",
    "setting",
    "own_food",
    "price",
    "kept_plan",
    "own_school",
    "bench",
    "bench_event",
    "thickness_reading",
    "tasting",
    "tasting_sample",
    "tasting_seat",
    "ballot",
    "service",
    "service_dish",
    "service_done",
    "service_leftover",
    "bought_instead",
    "stock",
    "temperature_record",
    "temperature_entry",
    "practice_answer",
    "practice_card",
    "practice_round",
    "practice_question",
    "practice_seat",
    "practice_pour",
    "own_pour",
    "waiting_edit",
    "tasting_taster",
    "pouring_seen",
    "handed_out",
)
"""What is kept, in the order in which rows may refer to each other."""
_LISTED: dict[str, tuple[str, ...]] = {
    "profile": ("id", "name", "eaten_as", "school", "note", "exclusions"),
    "target": ("profile_id", "nutrient", "side", "limit_value", "basis", "firmness"),
    "recipe": ("id", "title", "profile_id", "created_at", "put_away"),
    "version": (
        "id",
        "recipe_id",
        "number",
        "name",
        "note",
        "document",
        "created_at",
        "pinned",
        "edits",
    ),
    "draft": ("recipe_id", "based_on", "revision", "cursor", "base_seq"),
    "draft_state": ("recipe_id", "seq", "document", "what", "at", "parent"),
    "revision_state": ("recipe_id", "revision", "seq"),
    "version_mark": ("id", "version_id", "kind", "by_code", "remark", "at"),
    "setting": ("name", "value"),
    "own_food": ("key", "document", "changed_at"),
    "price": ("food_key", "amount", "pack_grams", "changed_at"),
    "kept_plan": ("id", "recipe_id", "revision", "name", "why", "steps", "targets", "kept_at"),
    "own_school": (
        "id",
        "name",
        "creed",
        "refuses_oil",
        "refuses_salt",
        "refuses_sugar",
        "refuses_full_fat_dairy",
    ),
}
"""Files up to schema 5 hold rows as bare lists in this order; later ones name the columns. It never
changes."""
Row = dict[str, Any]


def everything(connection: sqlite3.Connection) -> str:
    """All the practice's own work as JSON text. Shipped and imported figures are not part of it."""
    content: dict[str, Any] = {"form": FORM, "schema": schema_version(connection)}
    for table in TABLES:
        content[table] = _rows(connection, table)
    return json.dumps(content, ensure_ascii=False, indent=1)


def _rows(connection: sqlite3.Connection, table: str) -> list[Row]:
    """All rows of a table by column name, in the order of its first two columns."""
    found = connection.execute(f"SELECT * FROM {table} ORDER BY 1, 2")
    columns = [column[0] for column in found.description]
    return [dict(zip(columns, row, strict=True)) for row in found]


def restore_everything(connection: sqlite3.Connection, text: str) -> int:
    """Puts such a file back into an empty workbench; returns how many recipes it held.

    Raises StoreError, and changes nothing, when the file is damaged, from a newer schema, or
    recipes are there already."""
    try:
        content = with_clean_texts(json.loads(text))
        if content["form"] != FORM:
            raise KeyError("form")
        if content["schema"] > schema_version(connection):
            raise StoreError("this file was made by a newer version of the workbench: update first")
        tables = _brought_forward(content)
        for row in tables["version"]:
            from_document(row["document"])
    except sqlite3.Error as error:
        raise StoreError(f"this file contradicts itself ({error}); nothing was changed") from None
    except (
        ValueError,
        KeyError,
        TypeError,
        IndexError,
        AttributeError,
        RecursionError,
        OverflowError,
    ) as error:
        raise StoreError(f"this file does not hold a workbench ({error})") from None
    if connection.execute("SELECT count(*) FROM recipe").fetchone()[0]:
        raise StoreError(
            "there are recipes on the shelf already: put the file back into an empty workbench"
        )
    try:
        with writing(connection):
            connection.execute("DELETE FROM profile")
            connection.execute("DELETE FROM setting")
            for table in TABLES:
                _insert(connection, table, tables[table])
    except sqlite3.Error as error:
        raise StoreError(f"this file contradicts itself ({error}); nothing was changed") from None
    return len(tables["recipe"])


def _brought_forward(content: dict[str, Any]) -> dict[str, list[Row]]:
    """The rows of a file by table, in today's schema: an older file goes through the same steps as
    an older database."""
    with closing(sqlite3.connect(":memory:", isolation_level=None)) as scratch:
        apply_migrations(scratch, upto=int(content["schema"]))
        there = {
            name
            for (name,) in scratch.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        }
        for table in TABLES:
            if table in there:
                _insert(scratch, table, [_named(table, row) for row in content[table]])
        apply_migrations(scratch)
        return {table: _rows(scratch, table) for table in TABLES}


def _named(table: str, row: list[Any] | Row) -> Row:
    """A row by column name. A list is of an older file and may be shorter by the columns that came
    later."""
    return row if isinstance(row, dict) else dict(zip(_LISTED[table], row, strict=False))


def _insert(connection: sqlite3.Connection, table: str, rows: list[Row]) -> None:
    """Puts rows into a table. Raises StoreError for a column the table does not have."""
    known = {column[1] for column in connection.execute(f"PRAGMA table_info({table})")}
    for row in rows:
        if not row.keys() <= known:
            raise StoreError(
                f"this file does not hold a workbench ({table} has no"
                f" {', '.join(sorted(row.keys() - known))})"
            )
        names, places = ", ".join(row), ", ".join("?" * len(row))
        connection.execute(f"INSERT INTO {table} ({names}) VALUES ({places})", tuple(row.values()))
