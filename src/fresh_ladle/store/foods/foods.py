"""Shipped foods in the database: loaded once for each release of the figures, searched as typed."""

from __future__ import annotations

import hashlib
import re
import sqlite3
from collections.abc import Mapping, Set
from dataclasses import dataclass, fields
from functools import lru_cache

from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.store.database import writing


@dataclass(frozen=True, slots=True)
class FoundFood:
    """One line of a food search. `matched` says by which name it was found, when that is not its
    own."""

    key: str
    name: str
    group: str
    stocked: bool
    matched: str


@lru_cache(maxsize=4)
def _checksum(pantry: Pantry) -> str:
    """Changes with anything of a food that a page, or a standing on the Shelf, is worked out
    from."""
    digest = hashlib.sha256()
    for food in pantry:
        parts = [*(getattr(food, f.name) for f in fields(food) if f.name != "traits")]
        parts += [getattr(food.traits, f.name) for f in fields(food.traits)]
        digest.update(repr([_in_order(part) for part in parts]).encode())
    return digest.hexdigest()


def _in_order(value: object) -> object:
    """Sets and mappings sorted: they come in an order of their own in every process."""
    if isinstance(value, Mapping):
        return sorted(value.items(), key=str)
    return sorted(value, key=str) if isinstance(value, Set) else value


def load_shipped_foods(connection: sqlite3.Connection, pantry: Pantry) -> bool:
    """Puts the shipped foods in, unless these very figures are there already. True when it
    loaded."""
    checksum = _checksum(pantry)
    row = connection.execute("SELECT checksum FROM shipped").fetchone()
    if row is not None and row["checksum"] == checksum:
        return False
    with writing(connection):
        connection.execute("DELETE FROM food_figure")
        connection.execute(
            "DELETE FROM food WHERE key NOT IN (SELECT key FROM own_food UNION SELECT key FROM"
            " imported_food)"
        )
        connection.execute(
            "DELETE FROM food_text WHERE key NOT IN (SELECT key FROM own_food UNION SELECT key FROM"
            " imported_food)"
        )
        foods = list(pantry)
        connection.executemany(
            "INSERT INTO food (key, name, aliases, food_group, stocked, note) VALUES (?, ?, ?, ?,"
            " ?, ?)",
            [
                (f.key, f.name, "; ".join(f.aliases), f.group, int(f.in_pantry), f.note)
                for f in foods
            ],
        )
        connection.executemany(
            "INSERT INTO food_text (name, aliases, key) VALUES (?, ?, ?)",
            [(f.name, "; ".join(f.aliases), f.key) for f in foods],
        )
        connection.executemany(
            "INSERT INTO food_figure (food_key, nutrient, per_100_g, source, grade) VALUES (?, ?,"
            " ?, ?, ?)",
            [
                (f.key, nutrient, value, source.label, source.grade.value)
                for f in foods
                for nutrient, value in f.per_100_g.items()
                for source in (f.figure_source(nutrient),)
            ],
        )
        connection.execute(
            "INSERT INTO shipped (id, checksum) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET"
            " checksum = excluded.checksum",
            (checksum,),
        )
    return True


def search_foods(connection: sqlite3.Connection, typed: str, limit: int = 25) -> list[FoundFood]:
    """Foods whose name or other names hold words beginning as typed; foods with measures and taste
    first."""
    words = re.findall(r"\w+", typed)[:8]
    if not words:
        return []
    match = " ".join(f'"{word}"*' for word in words)
    rows = connection.execute(
        """
        SELECT f.key, f.name, f.aliases, f.food_group, f.stocked
        FROM food_text t JOIN food f ON f.key = t.key
        WHERE food_text MATCH ?
        ORDER BY f.stocked DESC, bm25(food_text, 4.0, 1.5), length(f.name) LIMIT ?
        """,
        (match, limit),
    ).fetchall()
    return [
        FoundFood(
            r["key"],
            r["name"],
            r["food_group"],
            bool(r["stocked"]),
            _matched(r["name"], r["aliases"], words),
        )
        for r in rows
    ]


def _matched(name: str, aliases: str, words: list[str]) -> str:
    """The other name that holds what was typed, when the name itself does not."""
    lowered = [w.lower()[:4] for w in words]
    if all(w in name.lower() for w in lowered):
        return ""
    return next((a for a in aliases.split("; ") if all(w in a.lower() for w in lowered)), "")
