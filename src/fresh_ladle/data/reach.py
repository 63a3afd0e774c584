"""Loads what steps must reach; checked."""

from __future__ import annotations

from functools import lru_cache

from fresh_ladle.core.cautions.reach import Reach
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.data.foods import load_pantry
from fresh_ladle.data.method import verbs_named
from fresh_ladle.data.tables import DataError, rows, split


@lru_cache(maxsize=1)
def load_reach() -> tuple[Reach, ...]:
    """Raises DataError for a row that names a food, a group or a verb that does not exist."""
    pantry, found = load_pantry(), []
    groups = {food.group for food in pantry.stocked}
    for row in rows("reach.csv"):
        foods, of_groups = frozenset(split(row["foods"])), frozenset(split(row["groups"]))
        unknown = {key for key in foods if key not in pantry} | (of_groups - groups)
        if unknown:
            raise DataError(
                f"reach.csv ({row['id']}): nothing is called {', '.join(sorted(unknown))}"
            )
        found.append(
            Reach(
                row["id"],
                foods,
                of_groups,
                frozenset(split(row["allergens"])),
                frozenset(split(row["not_said"])),
                frozenset(verbs_named(split(row["verbs"]), f"reach.csv ({row['id']})")),
                row["words"],
                Grade(row["grade"]),
                row["source"],
            )
        )
    return tuple(found)
