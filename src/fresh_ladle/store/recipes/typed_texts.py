"""What people have typed, as far as a page may show it."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Iterable

from fresh_ladle.core.recipes.recipe import Recipe

_NAMES = (
    ("recipe", "title"), ("profile", "name"), ("profile", "note"), ("version", "name"),
    ("version", "note"),
    ("service", "name"), ("service", "place"), ("own_school", "name"), ("own_food", "document"),
)  # fmt: skip
MOST = 2000
"""Texts of one sort that are looked at; past that a page would wait for it."""


def typed_names(connection: sqlite3.Connection, words: Collection[str]) -> list[str]:
    """Titles, names and notes that hold any of these words."""
    found: list[str] = []
    for table, column in _NAMES:
        columns = {row[1] for row in connection.execute(f"PRAGMA table_info({table})")}
        if column in columns:
            holds = " OR ".join(f"{column} LIKE ?" for _ in words)
            rows = connection.execute(
                f"SELECT DISTINCT {column} FROM {table} WHERE {holds} LIMIT {MOST}",
                [f"%{word}%" for word in words],
            )
            found += [row[0] for row in rows]
    return found


def typed_in(recipes: Iterable[Recipe]) -> list[str]:
    """All that was typed of recipes."""
    return [
        text
        for recipe in recipes
        for text in (
            recipe.title,
            *recipe.method,
            *(
                text
                for line in recipe.lines
                for text in (line.text, line.named, line.component, *line.remarks)
            ),
        )
    ]
