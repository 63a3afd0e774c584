"""Links short enough to type from a wall or a sheet. Nothing of them is kept: a code is drawn from
what is secret of its page already, so the same page has the same one, and looking makes none."""

from __future__ import annotations

import re
import sqlite3
from hashlib import sha256

from fresh_ladle.store.recipes.recipes import RecipeMissing

ALPHABET = "abcdefghjkmnpqrstuvwxyz23456789"
"""Letters and digits that nobody takes for one another."""
LENGTH = 8
"""Long enough that in the hour a lane is open nobody comes upon one by trying: 31⁸ of them."""
_CARD = re.compile(rf"(\d{{1,9}})-(\d{{1,6}})-([{ALPHABET}]{{{LENGTH}}})")


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
    """Of the card of a version: which it is, and letters drawn from all that is written in it and
    when. Raises RecipeMissing."""
    row = connection.execute(
        "SELECT document, created_at FROM version WHERE recipe_id = ? AND number = ?",
        (recipe_id, number),
    ).fetchone()
    if row is None:
        raise RecipeMissing(recipe_id)
    letters = _code_of(f"card {row['created_at']} {row['document']}")
    return f"{recipe_id}-{number}-{letters}"


def card_of_code(connection: sqlite3.Connection, code: str) -> tuple[int, int]:
    """The recipe and the number of its version. Raises RecipeMissing for a code of no card."""
    named = _CARD.fullmatch(code)
    if named is None:
        raise RecipeMissing(0)
    recipe_id, number = int(named[1]), int(named[2])
    if card_code(connection, recipe_id, number) != code:
        raise RecipeMissing(recipe_id)
    return recipe_id, number


def path_of(connection: sqlite3.Connection, code: str) -> str:
    """Where a code leads, as it was typed; empty for one that leads nowhere."""
    typed = code.strip().lower()
    if _CARD.fullmatch(typed):
        return f"/handout/{typed}"
    for row in connection.execute("SELECT key FROM tasting_seat"):
        if ballot_code(row["key"]) == typed:
            return f"/ballot/{row['key']}"
    for row in connection.execute("SELECT key FROM practice_round"):
        if class_code(row["key"]) == typed:
            return f"/practice-seat/{row['key']}"
    return ""
