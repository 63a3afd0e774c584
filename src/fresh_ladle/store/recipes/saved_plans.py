"""Plans set aside for review: nothing of a recipe changes until one is taken."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass
from typing import Any

from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.plans.parsing import target_of, typed_target
from fresh_ladle.core.plans.plan import PlanStep
from fresh_ladle.store import clock
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.document import line_from_json, line_to_json


class PlanMissing(LookupError):
    """There is no such plan."""


@dataclass(frozen=True, slots=True)
class SavedPlan:
    """A plan set aside. `revision` is that of the draft it was made for."""

    id: int
    recipe_id: int
    revision: int
    name: str
    why: str
    steps: tuple[PlanStep, ...]
    targets: tuple[Target, ...]


def save_plan(
    connection: sqlite3.Connection,
    recipe_id: int,
    revision: int,
    name: str,
    why: str,
    steps: tuple[PlanStep, ...],
    targets: tuple[Target, ...],
) -> int:
    """Sets a plan aside in the place of any other for the same recipe and name. Returns its id."""
    told = [
        {
            "id": s.id,
            "text": s.text,
            "reason": s.reason,
            "when": s.when,
            "line": s.line,
            "amount": s.amount,
            "added": [line_to_json(line) for line in s.added],
            "component": s.component,
            "share": s.share,
        }
        for s in steps
    ]
    limits = [typed_target(t) for t in targets]
    with writing(connection):
        connection.execute(
            "DELETE FROM kept_plan WHERE recipe_id = ? AND name = ?", (recipe_id, name)
        )
        cursor = connection.execute(
            "INSERT INTO kept_plan (recipe_id, revision, name, why, steps, targets, kept_at) VALUES"
            " (?, ?, ?, ?, ?, ?, ?)",
            (
                recipe_id,
                revision,
                name,
                why,
                json.dumps(told),
                json.dumps(limits),
                clock.now_text(),
            ),
        )
    return int(cursor.lastrowid or 0)


def saved_plans(connection: sqlite3.Connection, recipe_id: int | None = None) -> list[SavedPlan]:
    """Plans set aside, of one recipe or of all, the newest first."""
    rows = connection.execute(
        "SELECT * FROM kept_plan WHERE :id IS NULL OR recipe_id = :id ORDER BY id DESC",
        {"id": recipe_id},
    )
    return [_plan(row) for row in rows]


def saved_plan(connection: sqlite3.Connection, plan_id: int) -> SavedPlan:
    """Raises PlanMissing."""
    row = connection.execute("SELECT * FROM kept_plan WHERE id = ?", (plan_id,)).fetchone()
    if row is None:
        raise PlanMissing(f"there is no plan {plan_id} any more")
    return _plan(row)


def delete_plan(connection: sqlite3.Connection, plan_id: int) -> None:
    with writing(connection):
        connection.execute("DELETE FROM kept_plan WHERE id = ?", (plan_id,))


def _plan(row: sqlite3.Row) -> SavedPlan:
    steps = tuple(
        PlanStep(
            s["id"],
            s["text"],
            s["reason"],
            s["when"],
            s["line"],
            s["amount"],
            tuple(line_from_json(one) for one in s["added"]),
            s.get("component", ""),
            s.get("share", 1.0),
        )
        for s in json.loads(row["steps"])
    )
    targets = tuple(_target(t) for t in json.loads(row["targets"]))
    return SavedPlan(
        row["id"], row["recipe_id"], row["revision"], row["name"], row["why"], steps, targets
    )


def _target(kept: str | dict[str, Any]) -> Target:
    """A limit as it is kept: typed, or by its parts as older rows hold it."""
    return (
        target_of(kept)
        if isinstance(kept, str)
        else Target(kept["nutrient"], Side(kept["side"]), kept["limit"])
    )
