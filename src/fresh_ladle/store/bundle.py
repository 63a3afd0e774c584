"""Everything in one JSON file, out and in without loss: recipes with versions and drafts, targets, own foods, prices."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from typing import Any

from fresh_ladle.store.database import StoreError, apply_migrations, schema_version, writing
from fresh_ladle.store.document import from_document

FORM = "fresh-ladle everything"
TABLES: dict[str, tuple[str, ...]] = {
    "profile": ("id", "name", "eaten_as", "school", "note", "exclusions"),
    "target": ("profile_id", "nutrient", "side", "limit_value", "basis", "firmness"),
    "recipe": ("id", "title", "profile_id", "created_at", "put_away"),
    "version": ("id", "recipe_id", "number", "name", "note", "document", "created_at", "pinned", "edits"),
    "draft": ("recipe_id", "based_on", "revision", "cursor", "base_seq"),
    "draft_state": ("recipe_id", "seq", "document", "what", "at", "parent"),
    "revision_state": ("recipe_id", "revision", "seq"),
    "version_mark": ("id", "version_id", "kind", "by_code", "remark", "at"),
    "setting": ("name", "value"),
    "own_food": ("key", "document", "changed_at"),
    "price": ("food_key", "amount", "pack_grams", "changed_at"),
    "kept_plan": ("id", "recipe_id", "revision", "name", "why", "steps", "targets", "kept_at"),
    "own_school": ("id", "name", "creed", "refuses_oil", "refuses_salt", "refuses_sugar", "refuses_full_fat_dairy"),
}
"""What is kept, in the order in which rows may refer to each other. A new column goes to the end of its table."""


def everything(connection: sqlite3.Connection) -> str:
    """All the practice's own work as JSON text. Shipped and imported figures are not part of it."""
    content: dict[str, Any] = {"form": FORM, "schema": schema_version(connection)}
    for table, columns in TABLES.items():
        rows = connection.execute(f"SELECT {', '.join(columns)} FROM {table} ORDER BY {', '.join(columns[:2])}")
        content[table] = [list(row) for row in rows]
    return json.dumps(content, ensure_ascii=False, indent=1)


def restore_everything(connection: sqlite3.Connection, text: str) -> int:
    """Puts such a file back into an empty workbench; returns how many recipes it held.

    Raises StoreError, and changes nothing, when the file is damaged, from a newer schema, or recipes are there already.
    """
    try:
        content = json.loads(text)
        if content["form"] != FORM:
            raise KeyError("form")
        if content["schema"] > schema_version(connection):
            raise StoreError("this file was made by a newer version of the workbench: update first")
        tables = _brought_forward(content)
        for row in tables["version"]:
            from_document(row[5])
    except sqlite3.Error as error:
        raise StoreError(f"this file contradicts itself ({error}); nothing was changed") from None
    except (ValueError, KeyError, TypeError, IndexError) as error:
        raise StoreError(f"this file does not hold a workbench ({error})") from None
    if connection.execute("SELECT count(*) FROM recipe").fetchone()[0]:
        raise StoreError("there are recipes on the shelf already: put the file back into an empty workbench")
    try:
        with writing(connection):
            connection.execute("DELETE FROM profile")
            connection.execute("DELETE FROM setting")
            for table, columns in TABLES.items():
                marks = ", ".join("?" * len(columns))
                connection.executemany(f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks})", tables[table])
    except sqlite3.Error as error:
        raise StoreError(f"this file contradicts itself ({error}); nothing was changed") from None
    return len(tables["recipe"])


def _brought_forward(content: dict[str, Any]) -> dict[str, list[tuple[Any, ...]]]:
    """The rows of a file by table, in today's schema: an older file goes through the same steps as an older database."""
    with closing(sqlite3.connect(":memory:", isolation_level=None)) as scratch:
        apply_migrations(scratch, upto=int(content["schema"]))
        there = {name for (name,) in scratch.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        for table, columns in TABLES.items():
            if table not in there:
                continue
            for row in content[table]:
                named = columns[: len(row)]
                scratch.execute(f"INSERT INTO {table} ({', '.join(named)}) VALUES ({', '.join('?' * len(named))})", row)
        apply_migrations(scratch)
        return {table: scratch.execute(f"SELECT {', '.join(columns)} FROM {table}").fetchall() for table, columns in TABLES.items()}  # fmt: skip
