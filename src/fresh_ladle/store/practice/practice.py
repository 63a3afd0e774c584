"""Answers of those who practice, and when each exercise comes again. An answer is on disk before it
is shown."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.practice.exercise import Exercise
from fresh_ladle.core.practice.scoring import Answered
from fresh_ladle.core.practice.spacing import next_time, rating_of
from fresh_ladle.store import clock
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing


@dataclass(frozen=True, slots=True)
class Given:
    """What somebody answered: a range, or the place of a choice."""

    answered: Answered | None = None
    choice: int | None = None

    def right_for(self, made: Exercise) -> bool:
        return self.answered.held if self.answered is not None else self.choice == made.right


def add_answer(
    connection: sqlite3.Connection,
    learner: str,
    asked: str,
    seed: int,
    made: Exercise,
    given: Given,
) -> bool:
    """Keeps an answer and when its exercise is due again. Returns False, and keeps nothing, where
    this page was answered before."""
    right = given.right_for(made)
    low, high = (given.answered.low, given.answered.high) if given.answered else (None, None)
    with writing(connection):
        added = connection.execute(
            "INSERT OR IGNORE INTO practice_answer (learner, asked, kind, seed, about, subject, low, high, choice,"
            " value, was_right, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (learner, asked, made.kind, seed, made.about, made.subject, low, high, given.choice,
            made.answer.value,
             int(right), now_text()),
        )  # fmt: skip
        if added.rowcount == 0:
            return False
        key = (learner, made.kind, made.about)
        row = connection.execute(
            "SELECT memory FROM practice_card WHERE learner = ? AND kind = ? AND about = ?", key
        ).fetchone()
        memory, due = next_time(
            row["memory"] if row else None, rating_of(right, given.answered), clock.now()
        )
        connection.execute(
            "INSERT INTO practice_card VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (learner, kind, about)"
            " DO UPDATE SET seed = excluded.seed, due = excluded.due, memory = excluded.memory",
            (*key, seed, due.isoformat(timespec="seconds"), memory),
        )
    return True


def due_exercise(
    connection: sqlite3.Connection, learner: str, kind: str = ""
) -> tuple[str, int] | None:
    """Kind and seed of what is due first, of one kind where it is named; None where nothing is."""
    row = connection.execute(
        "SELECT kind, seed FROM practice_card WHERE learner = ? AND due <= ? AND (? = '' OR kind ="
        " ?) ORDER BY due LIMIT 1",
        (learner, now_text(), kind, kind),
    ).fetchone()
    return (row["kind"], row["seed"]) if row else None


def ranges_given(connection: sqlite3.Connection, learner: str, most: int) -> list[Answered]:
    """The last ranges somebody gave, the newest first."""
    rows = connection.execute(
        "SELECT low, high, value, subject FROM practice_answer WHERE learner = ? AND low IS NOT"
        " NULL ORDER BY id DESC LIMIT ?",
        (learner, most),
    )
    return [Answered(row["low"], row["high"], row["value"], row["subject"]) for row in rows]


def choices_right(connection: sqlite3.Connection, learner: str) -> tuple[int, int]:
    """How many choices were right, and how many were made."""
    row = connection.execute(
        "SELECT coalesce(sum(was_right), 0), count(*) FROM practice_answer WHERE learner = ? AND"
        " choice IS NOT NULL",
        (learner,),
    ).fetchone()
    return int(row[0]), int(row[1])
