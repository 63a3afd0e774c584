"""Tastings with their samples, seats and ballots. A ballot is on disk before it is thanked for, and
counts once."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from secrets import token_urlsafe

from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.round import Cup
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.acting import initials_acting
from fresh_ladle.store.recipes.document import from_document, to_document
from fresh_ladle.store.recipes.recipes import RecipeMissing


@dataclass(frozen=True, slots=True)
class Sample:
    """One version that is served, as it was when the tasting was planned. `number` is None for a
    draft."""

    letter: str
    recipe_id: int
    number: int | None
    name: str
    recipe: Recipe


@dataclass(frozen=True, slots=True)
class Seat:
    """One taster's place: the key of its page, its cups from left to right, and when its ballot
    came in."""

    number: int
    key: str
    cups: tuple[Cup, ...]
    agreed: bool
    answer: int | None
    scores: Mapping[int, Mapping[str, int]]
    """What was said of each cup, by its code, where cups are scored."""
    taster: str | None = None
    """The initials of who of the practice has taken it; None for one that is handed out by its
    link."""

    @property
    def done(self) -> bool:
        """Whether all that was asked is answered."""
        return self.answer is not None or len(self.scores) == len(self.cups)

    @property
    def next_cup(self) -> int | None:
        """The code of the next cup to be scored, from left to right."""
        return next((c.code for c in self.cups if c.code not in self.scores), None)


@dataclass(frozen=True, slots=True)
class Tasting:
    """One round. `expected` is the sample named in advance as the stronger; `state` is planned,
    open or closed."""

    id: int
    question: Question
    attribute: str
    expected: str
    note: str
    simulated: bool
    state: str
    planned_at: str
    samples: tuple[Sample, ...]
    seats: tuple[Seat, ...]

    @property
    def attributes(self) -> tuple[str, ...]:
        """The tastes asked about: one that is compared, or several that are just about right or
        not."""
        return tuple(a for a in self.attribute.split(",") if a)

    @property
    def ballots(self) -> int:
        return sum(seat.done for seat in self.seats)


def plan_tasting(
    connection: sqlite3.Connection,
    question: Question,
    attribute: str,
    expected: str,
    samples: Sequence[Sample],
    cups: Sequence[Sequence[Cup]],
    note: str = "",
) -> int:
    """Keeps a round with a seat for each row of cups. Returns its id."""
    with writing(connection):
        cursor = connection.execute(
            "INSERT INTO tasting (question, attribute, expected, note, planned_at) VALUES (?, ?, ?,"
            " ?, ?)",
            (question.name, attribute, expected, note, now_text()),
        )
        tasting_id = int(cursor.lastrowid or 0)
        for s in samples:
            connection.execute(
                "INSERT INTO tasting_sample VALUES (?, ?, ?, ?, ?, ?)",
                (tasting_id, s.letter, s.recipe_id, s.number, s.name, to_document(s.recipe)),
            )
        for seat, row in enumerate(cups, start=1):
            connection.execute(
                "INSERT INTO tasting_seat (tasting_id, seat, key, cups) VALUES (?, ?, ?, ?)",
                (
                    tasting_id,
                    seat,
                    token_urlsafe(12),
                    json.dumps([[c.code, c.sample] for c in row]),
                ),
            )
    return tasting_id


def tasting(connection: sqlite3.Connection, tasting_id: int) -> Tasting:
    """Raises RecipeMissing when there is no such tasting."""
    row = connection.execute("SELECT * FROM tasting WHERE id = ?", (tasting_id,)).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no tasting {tasting_id}")
    return _tasting(connection, row)


def tastings(connection: sqlite3.Connection, recipe_id: int | None = None) -> list[Tasting]:
    """All tastings, the latest first; or those that served a recipe."""
    rows = connection.execute(
        "SELECT * FROM tasting t WHERE :id IS NULL OR EXISTS (SELECT 1 FROM tasting_sample s WHERE"
        " s.tasting_id = t.id AND s.recipe_id = :id) ORDER BY id DESC",
        {"id": recipe_id},
    ).fetchall()
    return [_tasting(connection, row) for row in rows]


def seat_of_key(connection: sqlite3.Connection, key: str) -> tuple[Tasting, Seat]:
    """The seat whose page has this key. Raises RecipeMissing when there is none."""
    check_key(connection, key)
    row = connection.execute(
        "SELECT tasting_id, seat FROM tasting_seat WHERE key = ?", (key,)
    ).fetchone()
    found = tasting(connection, row["tasting_id"])
    return found, next(s for s in found.seats if s.number == row["seat"])


def check_key(connection: sqlite3.Connection, key: str) -> None:
    """Raises RecipeMissing where no seat's page has this key."""
    if connection.execute("SELECT 1 FROM tasting_seat WHERE key = ?", (key,)).fetchone() is None:
        raise RecipeMissing("there is no such seat: ask for the address again")


def open_round(connection: sqlite3.Connection, tasting_id: int) -> None:
    """Ballots may come in from now on. Raises RecipeMissing."""
    _stamp(connection, tasting_id, "opened_at")


def close_round(connection: sqlite3.Connection, tasting_id: int) -> None:
    """No ballot comes in any more, and the answers can be read. Raises RecipeMissing, and
    RecipeError before any has come in."""
    if tasting(connection, tasting_id).ballots == 0:
        raise RecipeError("no ballot has come in: there is nothing to read yet")
    _stamp(connection, tasting_id, "closed_at")


def _stamp(connection: sqlite3.Connection, tasting_id: int, column: str) -> None:
    with writing(connection):
        tasting(connection, tasting_id)
        connection.execute(
            f"UPDATE tasting SET {column} = coalesce({column}, ?) WHERE id = ?",
            (now_text(), tasting_id),
        )


def agree(connection: sqlite3.Connection, tasting_id: int, seat: int) -> None:
    """The taster has seen the allergens of all samples and agrees to taste."""
    with writing(connection):
        connection.execute(
            "UPDATE tasting_seat SET agreed_at = coalesce(agreed_at, ?) WHERE tasting_id = ? AND"
            " seat = ?",
            (now_text(), tasting_id, seat),
        )


def take_seat(connection: sqlite3.Connection, tasting_id: int) -> Seat:
    """The seat of whoever acts, taken now where they have none yet: the first that nobody has.
    Raises RecipeMissing, and RecipeError for a closed or full round, and for who has seen what is
    poured and would not taste blind."""
    who = initials_acting()
    with writing(connection):
        now = tasting(connection, tasting_id)
        mine = next((s for s in now.seats if who and s.taster == who), None)
        if mine is not None:
            return mine
        if now.state == "closed":
            raise RecipeError("this round is closed")
        if who and who in who_saw_pouring(connection, tasting_id):
            raise RecipeError("you have looked at what is poured: your ballot would not be blind")
        free = next((s for s in now.seats if s.taster is None and not (s.agreed or s.done)), None)
        if free is None:
            raise RecipeError("every seat is taken")
        connection.execute(
            "INSERT INTO tasting_taster VALUES (?, ?, ?, ?)",
            (tasting_id, free.number, who, now_text()),
        )
    return free


def see_pouring(connection: sqlite3.Connection, tasting_id: int) -> Tasting:
    """The round for whoever pours, with a note that they have seen what is in the cups. Raises
    RecipeMissing, and RecipeError for somebody whose own ballot is still to come."""
    who = initials_acting()
    with writing(connection):
        now = tasting(connection, tasting_id)
        if now.state != "closed" and any(who and s.taster == who and not s.done for s in now.seats):
            raise RecipeError(
                "you have a seat in this round: taste first, then look at what was poured"
            )
        connection.execute(
            "INSERT OR IGNORE INTO pouring_seen VALUES (?, ?, ?)", (tasting_id, who, now_text())
        )
    return now


def who_saw_pouring(connection: sqlite3.Connection, tasting_id: int) -> list[str]:
    """The initials of those who know what is in the cups, whoever looked first before the
    others."""
    rows = connection.execute(
        "SELECT initials FROM pouring_seen WHERE tasting_id = ? ORDER BY at", (tasting_id,)
    )
    return [row["initials"] for row in rows]


def add_ballot(
    connection: sqlite3.Connection, tasting_id: int, seat: int, code: int, on_paper: bool = False
) -> bool:
    """Keeps a seat's answer; the first one counts, and sending it again changes nothing. False when
    it was there. `on_paper` is one that somebody types in: the printed ballot says the allergens.

    Raises RecipeMissing, and RecipeError for a round that is not open, a cup that was not before
    this seat, or a taster who has not said that they may eat what is in the cups."""
    with writing(connection):
        now = tasting(connection, tasting_id)
        _check_agreed(now, seat, on_paper)
        return _choose(connection, now, seat, code)


def add_scores(
    connection: sqlite3.Connection,
    tasting_id: int,
    seat: int,
    scores: Mapping[int, Mapping[str, int]],
) -> bool:
    """Keeps what a seat says of one cup or several, by code; the first time counts. False when all
    was there. Raises like `add_ballot`."""
    with writing(connection):
        now = tasting(connection, tasting_id)
        _check_agreed(now, seat, on_paper=False)
        return _score(connection, now, seat, scores)


def _check_agreed(now: Tasting, seat: int, on_paper: bool) -> None:
    place = next((s for s in now.seats if s.number == seat), None)
    if now.state == "open" and place is not None and not (on_paper or place.agreed):
        raise RecipeError(
            "say first that you may eat what is in the cups: this ballot was not counted"
        )


def add_sheet(
    connection: sqlite3.Connection,
    tasting_id: int,
    chosen: Mapping[int, int],
    scores: Mapping[int, Mapping[int, Mapping[str, int]]],
) -> int:
    """Keeps the ballots of a sheet, all or none: the code that was chosen by seat, or scores by
    seat and code. Returns how many were new. Raises like `add_ballot`, naming the seat."""
    new = 0
    with writing(connection):
        now = tasting(connection, tasting_id)
        for seat in sorted({*chosen, *scores}):
            try:
                if seat in chosen:
                    new += _choose(connection, now, seat, chosen[seat])
                else:
                    new += _score(connection, now, seat, scores[seat])
            except RecipeError as error:
                raise RecipeError(f"seat {seat}: {error}") from None
    return new


def _choose(connection: sqlite3.Connection, now: Tasting, seat: int, code: int) -> bool:
    _check_open(now)
    if not now.question.forced:
        raise RecipeError("each cup is scored or ranked in this round")
    if _place(now, seat, code).answer is not None:
        return False
    _keep(connection, now.id, seat, {"chosen": code})
    return True


def _score(
    connection: sqlite3.Connection, now: Tasting, seat: int, scores: Mapping[int, Mapping[str, int]]
) -> bool:
    _check_open(now)
    if now.question.forced:
        raise RecipeError("one cup is chosen in this round")
    place, *_ = [_place(now, seat, code) for code in scores]
    new = {code: said for code, said in scores.items() if code not in place.scores}
    if new:
        said = {str(c): dict(s) for c, s in {**place.scores, **new}.items()}
        _keep(connection, now.id, seat, {"scores": said})
    return bool(new)


def _keep(
    connection: sqlite3.Connection, tasting_id: int, seat: int, answers: Mapping[str, object]
) -> None:
    connection.execute(
        "INSERT INTO ballot VALUES (:id, :seat, :answers, :at)"
        " ON CONFLICT (tasting_id, seat) DO UPDATE SET answers = :answers, at = :at",
        {"id": tasting_id, "seat": seat, "answers": json.dumps(answers), "at": now_text()},
    )


def _check_open(now: Tasting) -> None:
    if now.state != "open":
        raise RecipeError(
            "this round is closed" if now.state == "closed" else "this round has not begun"
        )


def _place(now: Tasting, seat: int, code: int) -> Seat:
    place = next((s for s in now.seats if s.number == seat), None)
    if place is None or code not in [c.code for c in place.cups]:
        raise RecipeError(f"there is no cup {code} at seat {seat}: look at the number again")
    return place


def add_simulated(
    connection: sqlite3.Connection,
    tasting_id: int,
    chosen: Mapping[int, int],
    scores: Mapping[int, Mapping[int, Mapping[str, int]]],
) -> None:
    """Fills the empty seats with answers of a made-up panel and marks the round so, for good.
    Raises RecipeError for a round that is closed."""
    with writing(connection):
        now = tasting(connection, tasting_id)
        if now.state == "closed":
            raise RecipeError("this round is closed")
        connection.execute(
            "UPDATE tasting SET simulated = 1, opened_at = coalesce(opened_at, ?) WHERE id = ?",
            (now_text(), tasting_id),
        )
        now = tasting(connection, tasting_id)
        for seat, code in chosen.items():
            _choose(connection, now, seat, code)
        for seat, said in scores.items():
            _score(connection, now, seat, said)


def _tasting(connection: sqlite3.Connection, row: sqlite3.Row) -> Tasting:
    tasting_id = row["id"]
    samples = connection.execute(
        "SELECT * FROM tasting_sample WHERE tasting_id = ? ORDER BY sample", (tasting_id,)
    )
    seats = connection.execute(
        "SELECT s.*, b.answers, t.initials AS taster FROM tasting_seat s"
        " LEFT JOIN ballot b ON b.tasting_id = s.tasting_id AND b.seat = s.seat"
        " LEFT JOIN tasting_taster t ON t.tasting_id = s.tasting_id AND t.seat = s.seat"
        " WHERE s.tasting_id = ? ORDER BY s.seat",
        (tasting_id,),
    )
    state = "closed" if row["closed_at"] else "open" if row["opened_at"] else "planned"
    return Tasting(
        tasting_id,
        Question[row["question"]],
        row["attribute"],
        row["expected"],
        row["note"],
        bool(row["simulated"]),
        state,
        row["planned_at"],
        tuple(
            Sample(
                s["sample"], s["recipe_id"], s["number"], s["name"], from_document(s["document"])
            )
            for s in samples
        ),
        tuple(
            Seat(
                s["seat"],
                s["key"],
                tuple(Cup(code, letter) for code, letter in json.loads(s["cups"])),
                s["agreed_at"] is not None,
                json.loads(s["answers"] or "{}").get("chosen"),
                {
                    int(code): said
                    for code, said in json.loads(s["answers"] or "{}").get("scores", {}).items()
                },
                s["taster"],
            )
            for s in seats
        ),
    )
