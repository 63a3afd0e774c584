"""Classes that practice together: their questions as they were asked, and the answers of seats."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass
from secrets import token_urlsafe

from pydantic import TypeAdapter

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.practice.exercise import Exercise
from fresh_ladle.core.practice.scoring import Answered
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.practice.practice import Given

MOST_SEATS = 60
_DOCUMENT = TypeAdapter(Exercise)


class RoundMissing(LookupError):
    """There is no such round."""


@dataclass(frozen=True, slots=True)
class PracticeRound:
    """One class. `question` is the number of the one that is projected, from 1; past `questions` it
    is over. `answers` are those to it, by seat."""

    id: int
    key: str
    seats: int
    question: int
    questions: int
    revealed: bool
    made: Exercise | None
    answers: dict[int, Given]

    @property
    def over(self) -> bool:
        return self.made is None


def begin_round(connection: sqlite3.Connection, seats: int, asked: Sequence[Exercise]) -> int:
    """A new round with its questions. Returns its id. Raises ValueError for a number of seats that
    cannot be."""
    if not 1 <= seats <= MOST_SEATS:
        raise Refused(f"a class has 1 to {MOST_SEATS} seats")
    with writing(connection):
        cursor = connection.execute(
            "INSERT INTO practice_round (key, seats, began_at) VALUES (?, ?, ?)",
            (token_urlsafe(9), seats, now_text()),
        )
        round_id = int(cursor.lastrowid or 0)
        connection.executemany(
            "INSERT INTO practice_question VALUES (?, ?, ?)",
            [
                (round_id, number, _DOCUMENT.dump_json(made).decode())
                for number, made in enumerate(asked, start=1)
            ],
        )
    return round_id


def practice_round(connection: sqlite3.Connection, round_id: int) -> PracticeRound:
    """Raises RoundMissing."""
    return _round(
        connection,
        connection.execute("SELECT * FROM practice_round WHERE id = ?", (round_id,)).fetchone(),
    )


def round_of_key(connection: sqlite3.Connection, key: str) -> PracticeRound:
    """Raises RoundMissing."""
    return _round(
        connection,
        connection.execute("SELECT * FROM practice_round WHERE key = ?", (key,)).fetchone(),
    )


def _round(connection: sqlite3.Connection, row: sqlite3.Row | None) -> PracticeRound:
    if row is None:
        raise RoundMissing("there is no such class, or its link was typed wrongly")
    at = (row["id"], row["question"])
    asked = connection.execute(
        "SELECT document FROM practice_question WHERE round_id = ? AND number = ?", at
    ).fetchone()
    count = connection.execute(
        "SELECT count(*) FROM practice_question WHERE round_id = ?", at[:1]
    ).fetchone()[0]
    made = _DOCUMENT.validate_json(asked["document"]) if asked else None
    answers = connection.execute(
        "SELECT seat, low, high, choice FROM practice_seat WHERE round_id = ? AND number = ? ORDER"
        " BY seat",
        at,
    )
    given = {row["seat"]: _given(row, made) for row in answers if made is not None}
    return PracticeRound(
        row["id"],
        row["key"],
        row["seats"],
        row["question"],
        count,
        bool(row["revealed"]),
        made,
        given,
    )


def _given(row: sqlite3.Row, made: Exercise) -> Given:
    if row["choice"] is not None:
        return Given(choice=row["choice"])
    return Given(Answered(row["low"], row["high"], made.answer.value, made.subject))


def answer_seat(
    connection: sqlite3.Connection, key: str, seat: int, number: int, given: Given
) -> bool:
    """Keeps the answer of a seat to a question; the first counts. Returns False where it came too
    late: the question is not the one that is asked, or its answer was shown. Raises RoundMissing,
    and ValueError for a seat there is not."""
    with writing(connection):
        now = round_of_key(connection, key)
        if not 1 <= seat <= now.seats:
            raise Refused(f"seats go from 1 to {now.seats}")
        if now.question != number or now.revealed:
            return False
        low, high = (given.answered.low, given.answered.high) if given.answered else (None, None)
        connection.execute(
            "INSERT OR IGNORE INTO practice_seat VALUES (?, ?, ?, ?, ?, ?)",
            (now.id, number, seat, low, high, given.choice),
        )
    return True


def reveal(connection: sqlite3.Connection, round_id: int, number: int) -> None:
    """Shows the answer of a question, if it is the one that is asked."""
    with writing(connection):
        connection.execute(
            "UPDATE practice_round SET revealed = 1 WHERE id = ? AND question = ?",
            (round_id, number),
        )


def go_on(connection: sqlite3.Connection, round_id: int, number: int) -> None:
    """Asks the next question after this one; a page that is behind changes nothing."""
    with writing(connection):
        connection.execute(
            "UPDATE practice_round SET question = question + 1, revealed = 0 WHERE id = ? AND"
            " question = ?",
            (round_id, number),
        )
