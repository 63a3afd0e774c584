"""Who is signed in: one session for each browser, known by a random token of which only a hash is
kept.

A session ends twelve hours after its sign-in, after four without use, when its person signs out or
changes the password, and when the account ends. Its token is changed every hour; the one before is
good for another minute, for requests that were on their way."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import datetime, timedelta
from secrets import token_urlsafe

from fresh_ladle.core.people.role import Role
from fresh_ladle.core.people.slowing import (
    FORGOTTEN_AFTER_S,
    FREE_TRIES_OF_A_PLACE,
    seconds_to_wait,
)
from fresh_ladle.store import clock
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.acting import add_activity
from fresh_ladle.store.people.people import Person, token_hash

LASTS, UNUSED, CHANGED_AFTER = timedelta(hours=12), timedelta(hours=4), timedelta(hours=1)
ON_THE_WAY, SEEN_AGAIN = timedelta(minutes=1), timedelta(minutes=1)
SIGNED_IN, SIGNED_OUT, NOT_LET_IN = "signed in", "signed out", "was not let in"


@dataclass(frozen=True, slots=True)
class Session:
    """A browser that is signed in. `due` names what should be written: a new token, or that it was
    seen."""

    id: int
    person: Person
    began_at: str
    seen_at: str
    due: str = ""


def signing_key(connection: sqlite3.Connection) -> str:
    """The key that signs cookies, made the first time it is asked for."""
    row = connection.execute("SELECT key FROM signing_key").fetchone()
    if row is None:
        with writing(connection):
            connection.execute(
                "INSERT OR IGNORE INTO signing_key VALUES (1, ?)", (token_urlsafe(48),)
            )
        row = connection.execute("SELECT key FROM signing_key").fetchone()
    return str(row["key"])


def begin_session(connection: sqlite3.Connection, person: Person, former_token: str = "") -> str:
    """A new session, with a token nobody had before; the one this browser had ends. Returns the
    token."""
    token, now = token_urlsafe(32), _text(clock.now())
    with writing(connection):
        connection.execute("DELETE FROM session WHERE token_hash = ?", (token_hash(former_token),))
        connection.execute("DELETE FROM session WHERE began_at < ?", (_text(clock.now() - LASTS),))
        connection.execute(
            "INSERT INTO session (person_id, token_hash, began_at, renewed_at, seen_at) VALUES (?,"
            " ?, ?, ?, ?)",
            (person.id, token_hash(token), now, now, now),
        )
        add_activity(connection, person.initials, SIGNED_IN, "")
    return token


def session_of(connection: sqlite3.Connection, token: str) -> Session | None:
    """The session of a token; None for one that has ended or never was."""
    hashed, now = token_hash(token), clock.now()
    row = connection.execute(
        """
        SELECT s.id AS session_id, s.token_hash, s.began_at, s.renewed_at, s.seen_at, p.id, p.initials, p.role, p.since
        FROM session s JOIN person p ON p.id = s.person_id
        WHERE (s.token_hash = :hash OR (s.former_hash = :hash AND s.renewed_at > :on_the_way))
          AND s.began_at > :oldest AND s.seen_at > :unused AND p.ended_at IS NULL
        """,
        {
            "hash": hashed,
            "on_the_way": _text(now - ON_THE_WAY),
            "oldest": _text(now - LASTS),
            "unused": _text(now - UNUSED),
        },
    ).fetchone()
    if row is None:
        return None
    whose = Person(row["id"], row["initials"], Role(row["role"]), row["since"])
    due = ""
    if row["token_hash"] == hashed and row["renewed_at"] <= _text(now - CHANGED_AFTER):
        due = "token"
    elif row["seen_at"] <= _text(now - SEEN_AGAIN):
        due = "seen"
    return Session(row["session_id"], whose, row["began_at"], row["seen_at"], due)


def renewed_token(connection: sqlite3.Connection, session: Session, former: str) -> str:
    """Changes the token of a session. Returns the new one; empty where another request has changed
    it meanwhile."""
    token, now = token_urlsafe(32), _text(clock.now())
    with writing(connection):
        changed = connection.execute(
            "UPDATE session SET former_hash = token_hash, token_hash = ?, renewed_at = ?, seen_at ="
            " ? WHERE id = ? AND token_hash = ?",
            (token_hash(token), now, now, session.id, token_hash(former)),
        )
    return token if changed.rowcount else ""


def note_seen(connection: sqlite3.Connection, session: Session) -> None:
    with writing(connection):
        connection.execute(
            "UPDATE session SET seen_at = ? WHERE id = ?", (_text(clock.now()), session.id)
        )


def end_session(connection: sqlite3.Connection, session: Session) -> None:
    with writing(connection):
        connection.execute("DELETE FROM session WHERE id = ?", (session.id,))
        add_activity(connection, session.person.initials, SIGNED_OUT, "")


def end_other_sessions(connection: sqlite3.Connection, session: Session) -> int:
    """Signs a person out everywhere but here. Returns how many sessions ended."""
    with writing(connection):
        ended = connection.execute(
            "DELETE FROM session WHERE person_id = ? AND id != ?", (session.person.id, session.id)
        )
    return ended.rowcount


def sessions_of(connection: sqlite3.Connection, person: Person) -> list[Session]:
    """Where a person is signed in, the one seen last first."""
    rows = connection.execute(
        "SELECT id, began_at, seen_at FROM session WHERE person_id = ? AND began_at > ? AND seen_at"
        " > ? ORDER BY seen_at DESC, id DESC",
        (person.id, _text(clock.now() - LASTS), _text(clock.now() - UNUSED)),
    )
    return [Session(row["id"], person, row["began_at"], row["seen_at"]) for row in rows]


# ---------------------------------------------------------------- failures


def try_sign_in(connection: sqlite3.Connection, initials: str, place: str) -> float:
    """Counts a try before the password is looked at, so that many at once count too. Returns 0, or
    the seconds until the next try of these initials, or from this place, is taken; then this one
    was not counted."""
    now = clock.now().timestamp()
    account, address = _tried(initials, place)
    with writing(connection):
        connection.execute("DELETE FROM sign_in_failure WHERE at < ?", (now - FORGOTTEN_AFTER_S,))
        wait = max(
            seconds_to_wait(_failures(connection, account), now),
            seconds_to_wait(_failures(connection, address), now, FREE_TRIES_OF_A_PLACE),
        )
        if wait == 0:
            connection.executemany(
                "INSERT INTO sign_in_failure VALUES (?, ?)", [(account, now), (address, now)]
            )
    return wait


def _failures(connection: sqlite3.Connection, what: str) -> list[float]:
    return [
        row["at"]
        for row in connection.execute("SELECT at FROM sign_in_failure WHERE what = ?", (what,))
    ]


def note_failure(connection: sqlite3.Connection, initials: str) -> None:
    """Puts a sign-in that failed in the log, with the initials that were typed only where somebody
    has them."""
    known = connection.execute(
        "SELECT initials FROM person WHERE initials = ?", (initials,)
    ).fetchone()
    with writing(connection):
        add_activity(connection, known["initials"] if known else "", NOT_LET_IN, "")


def forget_tries(connection: sqlite3.Connection, initials: str, place: str) -> None:
    """After a sign-in that went well: all tries of the account, and this one of the place. What
    else failed from there still counts, or one account would open the way to all."""
    account, address = _tried(initials, place)
    with writing(connection):
        connection.execute("DELETE FROM sign_in_failure WHERE what = ?", (account,))
        connection.execute(
            "DELETE FROM sign_in_failure WHERE rowid = (SELECT max(rowid) FROM sign_in_failure"
            " WHERE what = ?)",
            (address,),
        )


def _tried(initials: str, place: str) -> tuple[str, str]:
    return token_hash(f"initials {initials.lower()}"), token_hash(f"place {place}")


def _text(moment: datetime) -> str:
    return moment.isoformat(timespec="seconds")
