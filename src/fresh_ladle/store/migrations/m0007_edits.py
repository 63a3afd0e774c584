"""Edits are kept as kinds with details instead of sentences; the Shelf's own rows get names of their own."""

from __future__ import annotations

import json
import re
import sqlite3
from typing import Any

Row = dict[str, Any]


def migrate(connection: sqlite3.Connection) -> None:
    connection.execute("ALTER TABLE draft_state ADD COLUMN edits TEXT NOT NULL DEFAULT '[]'")
    for recipe_id, seq, what in connection.execute("SELECT recipe_id, seq, what FROM draft_state").fetchall():
        connection.execute(
            "UPDATE draft_state SET edits = ? WHERE recipe_id = ? AND seq = ?", (_json(_edits(what)), recipe_id, seq)
        )
    connection.execute("ALTER TABLE draft_state DROP COLUMN what")
    (immutable,) = connection.execute("SELECT sql FROM sqlite_master WHERE name = 'version_is_immutable'").fetchone()
    connection.execute("DROP TRIGGER version_is_immutable")
    for version_id, story in connection.execute("SELECT id, edits FROM version").fetchall():
        edits = [edit for what in json.loads(story) for edit in _edits(what)]
        connection.execute("UPDATE version SET edits = ? WHERE id = ?", (_json(edits), version_id))
    connection.execute(immutable)
    _rename_shelf(connection)


def _json(edits: list[Row]) -> str:
    return json.dumps(edits, ensure_ascii=False)


def _edits(what: str) -> list[Row]:
    """The edits that a sentence of schema 6 and before stood for."""
    if not what:
        return []
    if match := re.fullmatch(r"(swap|repair): (.*)", what):
        return [{"kind": match[1], "title": match[2]}]
    if match := re.fullmatch(r"plan: (.*?)(?:, (\d+) of its (\d+) steps)?", what):
        taken, steps = (int(match[2]), int(match[3])) if match[2] else (0, 0)
        return [{"kind": "plan", "name": match[1], "taken": taken, "steps": steps}]
    if match := re.fullmatch(r"answered: (.*)", what):
        return [{"kind": "answer", "answer": match[1]}]
    if match := re.fullmatch(r"version (\d+) brought back", what):
        return [{"kind": "restored", "number": int(match[1])}]
    if what == "question set aside":
        return [{"kind": "set aside"}]
    return [_change(part) for part in what.split("; ")]


def _change(part: str) -> Row:
    """One change of a phrase; the amount of a line is told apart, anything else keeps its words."""
    match = re.fullmatch(r"(?!kind: )([^:]+): (.*) → (.*)", part)
    if match is None or re.search(r" and \d+ more$", part):
        return {"kind": "earlier", "text": part}
    before, after = ("" if amount == "to taste" else amount for amount in (match[2], match[3]))
    return {"kind": "amount", "line": "", "name": match[1], "before": before, "after": after}


_SHELF = """
DROP TABLE standing_figure;
DROP TABLE standing_holds;
DROP TABLE standing_text;
DROP TABLE standing;
CREATE TABLE shelf_row (
  recipe_id INTEGER PRIMARY KEY REFERENCES recipe(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  title TEXT NOT NULL,
  kind TEXT NOT NULL,
  servings REAL NOT NULL,
  serving_grams REAL NOT NULL,
  changed INTEGER NOT NULL,
  problems INTEGER NOT NULL,
  allergens_known INTEGER NOT NULL,
  worked_at TEXT NOT NULL
) STRICT;
CREATE INDEX shelf_row_worked ON shelf_row(worked_at DESC);
CREATE TABLE shelf_figure (
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  nutrient TEXT NOT NULL,
  basis TEXT NOT NULL,
  value REAL NOT NULL,
  low REAL NOT NULL,
  high REAL NOT NULL,
  complete INTEGER NOT NULL,
  original REAL NOT NULL,
  PRIMARY KEY (recipe_id, nutrient, basis)
) STRICT, WITHOUT ROWID;
CREATE TABLE shelf_tag (
  tag TEXT NOT NULL,
  recipe_id INTEGER NOT NULL REFERENCES recipe(id) ON DELETE CASCADE,
  PRIMARY KEY (tag, recipe_id)
) STRICT, WITHOUT ROWID;
CREATE VIRTUAL TABLE shelf_text USING fts5(
  title, foods, tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3');
"""
"""The rows of the Shelf are worked out anew from the drafts, so that none needs to be kept."""


def _rename_shelf(connection: sqlite3.Connection) -> None:
    for statement in _SHELF.split(";\n"):
        if statement.strip():
            connection.execute(statement)
