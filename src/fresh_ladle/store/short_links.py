"""Links short enough to type from a wall or a sheet. Nothing of them is kept: a code is drawn from
what is secret of its page already, so the same page has the same one, and looking makes none."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from hashlib import sha256

from fresh_ladle.store.recipes.recipes import RecipeMissing

ALPHABET = "abcdefghjkmnpqrstuvwxyz23456789"
"""Letters and digits that nobody takes for one another."""
LENGTH = 8
"""Long enough that in the hour a lane is open nobody comes upon one by trying: 31⁸ of them."""


def _code_of(secret: str) -> str:
    number, letters = int.from_bytes(sha256(secret.encode()).digest()), list[str]()
    for _ in range(LENGTH):
        number, place = divmod(number, len(ALPHABET))
        letters.append(ALPHABET[place])
    return "".join(letters)


def ballot_code(key: str) -> str:
    """Of the ballot of a seat, by the key of the seat."""
    return _code_of(f"ballot {key}")


def class_code(key: str) -> str:
    """Of the seats of a class that practices, by its key."""
    return _code_of(f"class {key}")


def card_code(connection: sqlite3.Connection, recipe_id: int, number: int) -> str:
    """Of the card of a version, by all that is written in it and when. Raises RecipeMissing."""
    row = connection.execute(
        "SELECT document, created_at FROM version WHERE recipe_id = ? AND number = ?",
        (recipe_id, number),
    ).fetchone()
    if row is None:
        raise RecipeMissing(recipe_id)
    return _card_code(row)


def _card_code(row: sqlite3.Row) -> str:
    return _code_of(f"card {row['created_at']} {row['document']}")


def path_of(connection: sqlite3.Connection, code: str) -> str:
    """Where a code leads, as it was typed; empty for one that leads nowhere."""
    typed = code.strip().lower()
    return next((path for known, path in _all(connection) if known == typed), "")


def card_of_code(connection: sqlite3.Connection, code: str) -> tuple[int, int]:
    """The recipe and the number of its version. Raises RecipeMissing for a code of no card."""
    for row in connection.execute("SELECT recipe_id, number, document, created_at FROM version"):
        if _card_code(row) == code:
            return int(row["recipe_id"]), int(row["number"])
    raise RecipeMissing(0)


def _all(connection: sqlite3.Connection) -> Iterator[tuple[str, str]]:
    for row in connection.execute("SELECT key FROM tasting_seat WHERE key IS NOT NULL"):
        yield ballot_code(row["key"]), f"/ballot/{row['key']}"
    for row in connection.execute("SELECT key FROM practice_round"):
        yield class_code(row["key"]), f"/practice-seat/{row['key']}"
    for row in connection.execute("SELECT document, created_at FROM version"):
        code = _card_code(row)
        yield code, f"/handout/{code}"
