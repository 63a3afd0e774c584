"""How far a recipe has come on its way through the practice: what was done of it, and what comes next."""

from __future__ import annotations

import sqlite3

_DONE = {
    "counter": "SELECT 1 FROM version WHERE recipe_id = :id AND number > 1",
    "plans": "SELECT 1 FROM kept_plan WHERE recipe_id = :id",
    "bench": "SELECT 1 FROM bench WHERE recipe_id = :id AND ended_as = 'recipe'",
    "tastings": "SELECT 1 FROM tasting t JOIN tasting_sample s ON s.tasting_id = t.id"
    " WHERE s.recipe_id = :id AND t.closed_at IS NOT NULL AND NOT t.simulated",
    "services": "SELECT 1 FROM service_dish WHERE recipe_id = :id",
    "card": "SELECT 1 FROM version_mark m JOIN version v ON v.id = m.version_id"
    " WHERE v.recipe_id = :id AND m.kind = 'approved'",
}
"""What is done at each place: a version kept, a plan set aside, a bowl made the recipe, a real panel read, a
service planned, an approval."""
_WAY = ("counter", "bench", "tastings", "card")
"""The steps of every recipe, in their order; the other places are ways to do one."""


def done_places(connection: sqlite3.Connection, recipe_id: int) -> frozenset[str]:
    """The places at which something was brought to its end for this recipe."""
    asked = ((place, connection.execute(f"{sql} LIMIT 1", {"id": recipe_id})) for place, sql in _DONE.items())
    return frozenset(place for place, found in asked if found.fetchone())


def next_place(done: frozenset[str]) -> str:
    """Where the recipe goes next; empty when all is done."""
    last = max((n for n, place in enumerate(_WAY) if place in done), default=-1)
    return _WAY[last + 1] if last + 1 < len(_WAY) else ""
