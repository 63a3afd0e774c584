"""What has been done with a recipe, as the database knows it."""

from __future__ import annotations

import sqlite3

_DONE = {
    "adapted": "SELECT 1 FROM version WHERE recipe_id = :id AND number > 1",
    "planned": "SELECT 1 FROM kept_plan WHERE recipe_id = :id",
    "seasoned": "SELECT 1 FROM bench WHERE recipe_id = :id AND ended_as = 'recipe'",
    "tasted": "SELECT 1 FROM tasting t JOIN tasting_sample s ON s.tasting_id = t.id"
    " WHERE s.recipe_id = :id AND t.closed_at IS NOT NULL AND NOT t.simulated",
    "served": "SELECT 1 FROM service_dish WHERE recipe_id = :id",
    "approved": "SELECT 1 FROM version_mark m JOIN version v ON v.id = m.version_id"
    " WHERE v.recipe_id = :id AND m.kind = 'approved'",
}
"""A version after the original, a plan set aside, a bowl made the recipe, a real panel read, a
service planned, an approval."""


def things_done(connection: sqlite3.Connection, recipe_id: int) -> frozenset[str]:
    """Which of these were brought to their end for this recipe."""
    asked = (
        (thing, connection.execute(f"{sql} LIMIT 1", {"id": recipe_id}))
        for thing, sql in _DONE.items()
    )
    return frozenset(thing for thing, found in asked if found.fetchone())
