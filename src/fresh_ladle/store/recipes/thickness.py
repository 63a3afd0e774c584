"""Readings of thickness, kept with the bowl they were taken of; a recipe learns from those of all
its bowls."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.bench.thickness import How, Reading
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing

MAX_READINGS = 200


@dataclass(frozen=True, slots=True)
class KeptReading:
    """One reading with its place and time. `struck` when it was a mistake: it teaches nothing."""

    id: int
    bench_id: int
    at: str
    reading: Reading
    struck: bool


def add_reading(
    connection: sqlite3.Connection, bench_id: int, reading: Reading, token: str
) -> None:
    """Keeps a reading; the same form sent twice, known by its token, counts once."""
    with writing(connection):
        connection.execute(
            "INSERT OR IGNORE INTO thickness_reading"
            " (bench_id, at, how, value, water_share, minutes, celsius, token) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
            (
                bench_id, now_text(), reading.how.name, reading.value, reading.water_share,
                reading.hours * 60,
                reading.celsius, token,
            ),
        )  # fmt: skip


def strike_reading(
    connection: sqlite3.Connection, bench_id: int, reading_id: int, struck: bool
) -> None:
    """Strikes a reading out, or lets it count again."""
    with writing(connection):
        connection.execute(
            "UPDATE thickness_reading SET struck_at = ? WHERE id = ? AND bench_id = ?",
            (now_text() if struck else None, reading_id, bench_id),
        )


def readings_of(connection: sqlite3.Connection, recipe_id: int) -> list[KeptReading]:
    """The latest readings of all bowls of a recipe, the first first."""
    rows = connection.execute(
        "SELECT t.* FROM thickness_reading t JOIN bench b ON b.id = t.bench_id WHERE b.recipe_id ="
        " ? ORDER BY t.id DESC LIMIT ?",
        (recipe_id, MAX_READINGS),
    ).fetchall()
    return [
        KeptReading(
            row["id"],
            row["bench_id"],
            row["at"],
            Reading(
                How[row["how"]],
                row["value"],
                row["water_share"],
                row["minutes"] / 60,
                row["celsius"],
            ),
            row["struck_at"] is not None,
        )
        for row in reversed(rows)
    ]
