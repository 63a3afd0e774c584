"""Who acts just now, and what is done: noted in the log in the same transaction as what was
done."""

from __future__ import annotations

import sqlite3
from contextvars import ContextVar
from dataclasses import dataclass

from fresh_ladle.store import clock


@dataclass
class Acting:
    """A person's request. `did` is empty for one that only looks; `about` is the address it was
    made at, or what that does not say."""

    initials: str
    did: str
    about: str
    noted: bool = False
    """Whether a transaction of this request has put it in the log: one row is enough for a
    request."""


acting: ContextVar[Acting | None] = ContextVar("acting", default=None)
_MOST_ABOUT = 200


def say_about(text: str) -> None:
    """Names in the log what the request is about, where its address does not."""
    now = acting.get()
    if now is not None:
        now.about = text


def initials_acting() -> str:
    """The initials of who acts; empty where nobody has an account."""
    now = acting.get()
    return now.initials if now else ""


def note_who(connection: sqlite3.Connection) -> bool:
    """Puts what is being done in the log, inside a transaction of the caller. Returns whether it
    did."""
    now = acting.get()
    if now is None or now.noted or not now.did:
        return False
    add_activity(connection, now.initials, now.did, now.about)
    return True


def add_activity(connection: sqlite3.Connection, initials: str, did: str, about: str) -> None:
    """One row more in the log, inside a transaction of the caller."""
    at = clock.now_text()
    connection.execute(
        "INSERT INTO activity (at, initials, did, about) VALUES (?, ?, ?, ?)",
        (at, initials, did, about[:_MOST_ABOUT]),
    )


def noted() -> None:
    """To be called when the transaction that noted it is on disk."""
    now = acting.get()
    if now is not None:
        now.noted = True
