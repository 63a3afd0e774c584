"""Weighed pours of those who practice, and the measures the practice has taken from them."""

from __future__ import annotations

import sqlite3

from fresh_ladle.core.practice.pours import OwnMeasure
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing


def add_pour(
    connection: sqlite3.Connection, learner: str, asked: str, word: str, group: str, grams: float
) -> None:
    """Keeps a pour; the same page sent twice is one."""
    with writing(connection):
        connection.execute(
            "INSERT OR IGNORE INTO practice_pour (learner, asked, word, food_group, grams, at)"
            " VALUES (?, ?, ?, ?, ?, ?)",
            (learner, asked, word, group, grams, now_text()),
        )


def pours_of(connection: sqlite3.Connection, word: str, group: str) -> list[tuple[str, float]]:
    """Who poured how many grams, the first first."""
    rows = connection.execute(
        "SELECT learner, grams FROM practice_pour WHERE word = ? AND food_group = ? ORDER BY id",
        (word, group),
    )
    return [(row["learner"], row["grams"]) for row in rows]


def own_pours(connection: sqlite3.Connection) -> list[OwnMeasure]:
    """The measures that were taken over."""
    rows = connection.execute(
        "SELECT word, food_group, grams, low, high, pours FROM own_pour ORDER BY word, food_group"
    )
    return [OwnMeasure(*row) for row in rows]


def take_pour(connection: sqlite3.Connection, measure: OwnMeasure) -> None:
    """Makes a measure the practice's own."""
    with writing(connection):
        connection.execute(
            "INSERT OR REPLACE INTO own_pour VALUES (?, ?, ?, ?, ?, ?, ?)",
            (
                measure.word,
                measure.group,
                measure.grams,
                measure.low,
                measure.high,
                measure.pours,
                now_text(),
            ),
        )


def leave_pour(connection: sqlite3.Connection, word: str, group: str) -> None:
    """Goes back to the measure of the table."""
    with writing(connection):
        connection.execute("DELETE FROM own_pour WHERE word = ? AND food_group = ?", (word, group))
