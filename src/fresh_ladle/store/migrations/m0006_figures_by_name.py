"""Marks the file as a workbench's, keeps the figures of versions by name, and mends databases without `put_away`."""

from __future__ import annotations

import json
import sqlite3

from fresh_ladle.store.database import APPLICATION_ID

ORDER = (
    "energy_kcal", "sodium_mg", "fat_g", "fiber_g", "protein_g", "saturated_fat_g", "carbohydrate_g", "sugars_g",
    "added_sugars_g", "potassium_mg", "calcium_mg", "iron_mg", "magnesium_mg", "phosphorus_mg", "vitamin_c_mg",
    "vitamin_a_rae_ug", "vitamin_k_ug", "cholesterol_mg",
)  # fmt: skip
"""The order in which schemas 2 to 5 listed the figures of a food. It never changes, whatever is carried later."""


def migrate(connection: sqlite3.Connection) -> None:
    connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
    # Schema 5 was once made without this column.
    if "put_away" not in {row[1] for row in connection.execute("PRAGMA table_info(recipe)")}:
        connection.execute("ALTER TABLE recipe ADD COLUMN put_away INTEGER NOT NULL DEFAULT 0")
    (immutable,) = connection.execute("SELECT sql FROM sqlite_master WHERE name = 'version_is_immutable'").fetchone()
    connection.execute("DROP TRIGGER version_is_immutable")
    for version_id, pinned in connection.execute("SELECT id, pinned FROM version").fetchall():
        connection.execute("UPDATE version SET pinned = ? WHERE id = ?", (_by_name(pinned), version_id))
    connection.execute(immutable)


def _by_name(pinned: str) -> str:
    listed = json.loads(pinned)
    return json.dumps({food: dict(zip(ORDER, figures, strict=False)) for food, figures in listed.items()})
