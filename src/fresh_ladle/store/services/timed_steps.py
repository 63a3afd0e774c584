"""Minutes that somebody set for the tasks of a service, and what steps were timed to take."""

from __future__ import annotations

import sqlite3
from collections import defaultdict

from fresh_ladle.core.service.pace import Minutes, TimedStep
from fresh_ladle.core.service.task import Task
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing


def set_minutes(
    connection: sqlite3.Connection, service_id: int, task: int, minutes: Minutes
) -> None:
    """The task is planned with these minutes in this service."""
    with writing(connection):
        connection.execute(
            "INSERT INTO service_minutes VALUES (?, ?, ?, ?) ON CONFLICT (service_id, task) DO"
            " UPDATE SET active = excluded.active, waiting = excluded.waiting",
            (service_id, task, minutes.active, minutes.waiting),
        )


def save_timed(
    connection: sqlite3.Connection, service_id: int, recipe_id: int, task: Task, minutes: Minutes
) -> None:
    """Keeps what a task took; timing it again replaces it. `recipe_id` is the dish it belongs
    to."""
    with writing(connection):
        connection.execute(
            "INSERT INTO timed_step VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (service_id, task) DO UPDATE SET"
            " active = excluded.active, waiting = excluded.waiting, at = excluded.at",
            (
                service_id, task.id, recipe_id, task.text, task.verb, task.usual, minutes.active,
                minutes.waiting,
                now_text(),
            ),
        )  # fmt: skip


def timed_steps(connection: sqlite3.Connection) -> list[TimedStep]:
    """All steps that were timed and whose work the tables know."""
    rows = connection.execute(
        "SELECT verb, usual, active FROM timed_step WHERE usual > 0 ORDER BY at, service_id, task"
    )
    return [TimedStep(row["verb"], row["usual"], row["active"]) for row in rows]


def timed_waits(connection: sqlite3.Connection) -> dict[int, dict[str, int]]:
    """By recipe, the minutes that its steps, by their words, were last timed to go on by
    themselves."""
    found: dict[int, dict[str, int]] = defaultdict(dict)
    for row in connection.execute(
        "SELECT recipe_id, words, waiting FROM timed_step WHERE waiting > 0 ORDER BY at"
    ):
        found[row["recipe_id"]][row["words"]] = row["waiting"]
    return dict(found)
