"""Loads the cautions, in the order they are shown."""

from __future__ import annotations

from collections.abc import Collection
from functools import lru_cache
from typing import Any

from fresh_ladle.core.cautions.caution import Caution, Limit, Share, Tier, Trigger
from fresh_ladle.core.cautions.situations import SITUATIONS
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.data.foods import load_pantry
from fresh_ladle.data.method import verbs_named
from fresh_ladle.data.preparations import load_preparations
from fresh_ladle.data.tables import DataError, toml_of


def _frozen(row: dict[str, Any], place: str, pantry: Pantry) -> dict[str, Any]:
    """A trigger or share with its lists as sets; what it names must exist."""
    known: dict[str, Collection[str]] = {
        "foods": {food.key for food in pantry.stocked},
        "groups": {food.group for food in pantry.stocked},
        "within_groups": {food.group for food in pantry.stocked},
        "flags": {flag for food in pantry.stocked for flag in food.traits.flags},
        "preparations": load_preparations().labels,
        "prepared": load_preparations().labels,
        "not_prepared": load_preparations().labels,
    }
    row = {
        column: verbs_named(values, f"{place}, {column}")
        if column in ("done", "not_done")
        else values
        for column, values in row.items()
    }
    for column, values in row.items():
        if missing := [v for v in values if v not in known[column]] if column in known else []:
            raise DataError(f"{place}, {column}: nothing is called {', '.join(missing)}")
    return {name: frozenset(v) if isinstance(v, list) else v for name, v in row.items()}


def _situation(name: str, place: str) -> str:
    if name and name not in SITUATIONS:
        raise DataError(f"{place}: no situation is called {name!r}")
    return name


@lru_cache(maxsize=1)
def load_cautions() -> tuple[Caution, ...]:
    """The cautions in the order they are shown. Raises DataError when a trigger names what does not
    exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("cautions.toml")["caution"]:
        place = f"cautions.toml ({row['id']})"
        limits = tuple(Limit(**limit) for limit in row.get("limits", ()))
        for limit in limits:
            if limit.nutrient not in NUTRIENT_IDS:
                raise DataError(f"{place}: no figure is called {limit.nutrient!r}")
        found.append(
            Caution(
                row["id"],
                row["text"],
                Tier(row["tier"]),
                row["who"],
                row["defer_to"],
                row["source"],
                Grade(row["grade"]),
                tuple(Trigger(**_frozen(t, place, pantry)) for t in row["triggers"]),
                row.get("any_trigger", False),
                limits,
                tuple(Share(**_frozen(share, place, pantry)) for share in row.get("shares", ())),
                frozenset(row.get("method", ())),
                _situation(row.get("situation", ""), place),
                frozenset(row.get("answered_by", ())),
                row.get("on_card", True),
                row.get("at_risk", ""),
            )
        )
    return tuple(found)
