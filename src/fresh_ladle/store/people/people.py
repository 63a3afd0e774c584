"""The people of a practice: accounts by initials, with a role, a password's hash, and a link to
choose it by."""

from __future__ import annotations

import re
import sqlite3
from dataclasses import dataclass
from datetime import timedelta
from hashlib import sha256
from secrets import token_urlsafe
from threading import BoundedSemaphore

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.people.role import Role
from fresh_ladle.store import clock
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.acting import add_activity

LINK_DAYS = 3
_INITIALS = re.compile(r"[A-Za-z][A-Za-z0-9]{1,5}")
_HASHER = PasswordHasher()
"""Argon2id as RFC 9106 advises for machines with little memory: 64 MB, three passes."""
_NOBODYS_HASH = _HASHER.hash(token_urlsafe())
"""Checked where there is no such account, so that an answer takes as long and tells nothing."""
_HASHING = BoundedSemaphore(2)
"""Hashes at once: each takes its 64 MB."""


class PeopleError(Refused):
    """It cannot be done with accounts as they are; the message says why."""


class LinkGone(LookupError):
    """The link was used, has run out, or never was."""


@dataclass(frozen=True, slots=True)
class Person:
    """An account. `id` is 0 for whoever works on a machine where nobody has one."""

    id: int
    initials: str
    role: Role
    since: str = ""
    ready: bool = True
    """Whether a password has been chosen."""


def _person(row: sqlite3.Row) -> Person:
    return Person(
        row["id"],
        row["initials"],
        Role(row["role"]),
        row["since"],
        row["password_hash"] is not None,
    )


def any_people(connection: sqlite3.Connection) -> bool:
    """Whether there is an account with a password that has not ended: then everybody signs in."""
    found = connection.execute(
        "SELECT 1 FROM person WHERE ended_at IS NULL AND password_hash IS NOT NULL LIMIT 1"
    )
    return found.fetchone() is not None


def people(connection: sqlite3.Connection) -> list[Person]:
    """All accounts that have not ended, by initials."""
    rows = connection.execute("SELECT * FROM person WHERE ended_at IS NULL ORDER BY initials")
    return [_person(row) for row in rows]


def person(connection: sqlite3.Connection, person_id: int) -> Person:
    """Raises PeopleError where there is no such account any more."""
    row = connection.execute(
        "SELECT * FROM person WHERE id = ? AND ended_at IS NULL", (person_id,)
    ).fetchone()
    if row is None:
        raise PeopleError("there is no such account, or it has ended")
    return _person(row)


def add_person(connection: sqlite3.Connection, initials: str, role: Role) -> str:
    """A new account, or one that had ended again. Returns the key of the link with which its
    password is chosen.

    Raises PeopleError for initials that are none or are taken, and for a first account that is no
    owner's."""
    if not _INITIALS.fullmatch(initials):
        raise PeopleError("initials are two to six letters or digits and begin with a letter")
    with writing(connection):
        known = connection.execute(
            "SELECT id, ended_at FROM person WHERE initials = ?", (initials,)
        ).fetchone()
        if known is not None and known["ended_at"] is None:
            raise PeopleError(f"somebody has the initials {initials} already")
        if role is not Role.OWNER and not _owners(connection):
            raise PeopleError("the first account is an owner's")
        if known is None:
            connection.execute(
                "INSERT INTO person (initials, role, since) VALUES (?, ?, ?)",
                (initials, role.value, now_text()),
            )
            known = connection.execute(
                "SELECT id FROM person WHERE initials = ?", (initials,)
            ).fetchone()
        else:
            connection.execute(
                "UPDATE person SET ended_at = NULL, role = ?, password_hash = NULL WHERE id = ?",
                (role.value, known["id"]),
            )
        return _new_link(connection, known["id"])


def new_link(connection: sqlite3.Connection, person_id: int) -> str:
    """The key of a new link to choose a password by; the old password goes on until it is used.
    Raises PeopleError."""
    with writing(connection):
        person(connection, person_id)
        return _new_link(connection, person_id)


def _new_link(connection: sqlite3.Connection, person_id: int) -> str:
    key = token_urlsafe(24)
    until = clock.now() + timedelta(days=LINK_DAYS)
    connection.execute(
        "UPDATE person SET link_hash = ?, link_until = ? WHERE id = ?",
        (token_hash(key), until.isoformat(timespec="seconds"), person_id),
    )
    return key


def token_hash(token: str) -> str:
    """What is kept of a random token: who reads the file cannot use it."""
    return sha256(token.encode()).hexdigest()


def person_of_link(connection: sqlite3.Connection, key: str) -> Person:
    """Raises LinkGone."""
    row = connection.execute(
        "SELECT * FROM person WHERE link_hash = ? AND link_until > ? AND ended_at IS NULL",
        (token_hash(key), now_text()),
    ).fetchone()
    if row is None:
        raise LinkGone("this link was used, or has run out: ask an owner for a new one")
    return _person(row)


def choose_password_by_link(connection: sqlite3.Connection, key: str, password: str) -> Person:
    """Takes a password, once, and ends all sessions of the account. Raises LinkGone."""
    hashed = _hashed(password)
    with writing(connection):
        found = person_of_link(connection, key)
        _set_password(connection, found.id, hashed)
        add_activity(connection, found.initials, "chose a password", "")
    return found


def change_password(connection: sqlite3.Connection, person_id: int, password: str) -> None:
    """Takes another password and ends all sessions of the account."""
    hashed = _hashed(password)
    with writing(connection):
        _set_password(connection, person_id, hashed)


def _hashed(password: str) -> str:
    with _HASHING:
        return _HASHER.hash(password)


def _set_password(connection: sqlite3.Connection, person_id: int, hashed: str) -> None:
    connection.execute(
        "UPDATE person SET password_hash = ?, link_hash = NULL, link_until = NULL WHERE id = ?",
        (hashed, person_id),
    )
    connection.execute("DELETE FROM session WHERE person_id = ?", (person_id,))


def person_with_password(
    connection: sqlite3.Connection, initials: str, password: str
) -> Person | None:
    """The account of these initials if the password is its own; None otherwise, after the same
    time."""
    row = connection.execute(
        "SELECT * FROM person WHERE initials = ? AND ended_at IS NULL AND password_hash IS NOT"
        " NULL",
        (initials,),
    ).fetchone()
    try:
        with _HASHING:
            _HASHER.verify(row["password_hash"] if row else _NOBODYS_HASH, password)
    except (VerificationError, InvalidHashError):
        return None
    return _person(row) if row else None


def change_role(connection: sqlite3.Connection, person_id: int, role: Role) -> None:
    """Raises PeopleError where no owner would be left."""
    with writing(connection):
        now = person(connection, person_id)
        if now.role is Role.OWNER and role is not Role.OWNER:
            _refuse_the_last_owner(connection, now)
        connection.execute("UPDATE person SET role = ? WHERE id = ?", (role.value, person_id))


def end_account(connection: sqlite3.Connection, person_id: int) -> None:
    """Ends an account with its sessions; the initials stay in stories. Raises PeopleError where no
    owner would be left."""
    with writing(connection):
        _refuse_the_last_owner(connection, person(connection, person_id))
        connection.execute(
            "UPDATE person SET ended_at = ?, password_hash = NULL, link_hash = NULL WHERE id = ?",
            (now_text(), person_id),
        )
        connection.execute("DELETE FROM session WHERE person_id = ?", (person_id,))


def _owners(connection: sqlite3.Connection) -> list[int]:
    rows = connection.execute("SELECT id FROM person WHERE role = 'owner' AND ended_at IS NULL")
    return [row["id"] for row in rows]


def _refuse_the_last_owner(connection: sqlite3.Connection, leaving: Person) -> None:
    """An owner without a password could not do anything, so it does not count as one that is
    left."""
    left = connection.execute(
        "SELECT 1 FROM person WHERE role = 'owner' AND ended_at IS NULL AND password_hash IS NOT"
        " NULL AND id != ?",
        (leaving.id,),
    ).fetchone()
    if leaving.role is Role.OWNER and left is None:
        raise PeopleError(
            "this is the last owner: give another person that role first, and let them choose a"
            " password"
        )
