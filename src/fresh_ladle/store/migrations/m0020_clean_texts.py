"""Texts that came in before they were cleaned on the way: no sheet, file or picture could hold them."""

from __future__ import annotations

import sqlite3

from fresh_ladle.store.clean_rows import clean_column

_TEXTS = {
    "recipe": ("title",),
    "version": ("name", "note", "document", "edits"),
    "draft_state": ("document", "edits"),
    "profile": ("name", "note"),
    "kept_plan": ("document",),
    "tasting": ("note",),
    "tasting_sample": ("name", "document"),
    "service": ("name", "place"),
    "service_dish": ("name", "document", "former"),
    "service_beside": ("document",),
    "own_food": ("document",),
}


def migrate(connection: sqlite3.Connection) -> None:
    (immutable,) = connection.execute("SELECT sql FROM sqlite_master WHERE name = 'version_is_immutable'").fetchone()
    connection.execute("DROP TRIGGER version_is_immutable")
    for table, texts in _TEXTS.items():
        columns = connection.execute(f"PRAGMA table_info({table})").fetchall()
        key = [column[1] for column in columns if column[5]]
        for name in {column[1] for column in columns} & set(texts):
            _clean(connection, table, key, name)
    connection.execute(immutable)


def _clean(connection: sqlite3.Connection, table: str, key: list[str], name: str) -> None:
    rows = connection.execute(f"SELECT {name}, {', '.join(key)} FROM {table}").fetchall()
    where = " AND ".join(f"{column} = ?" for column in key)
    for text, *row in map(tuple, rows):
        if (cleaned := clean_column(text)) != text:
            connection.execute(f"UPDATE {table} SET {name} = ? WHERE {where}", (cleaned, *row))
