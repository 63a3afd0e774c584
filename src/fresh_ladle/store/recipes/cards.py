"""What an educator chose for the card of a recipe, and which marked words they let stand."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass

from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing


@dataclass(frozen=True, slots=True)
class KeptChoices:
    """`audiences` whom it is for, `variations` by key (None for the usual ones), `facts` by id,
    `note` own words."""

    audiences: tuple[str, ...] = ()
    variations: tuple[str, ...] | None = None
    facts: tuple[str, ...] = ()
    note: str = ""


def card_choices(connection: sqlite3.Connection, recipe_id: int) -> KeptChoices:
    """Those that were kept, or none made yet."""
    row = connection.execute(
        "SELECT document FROM card_choice WHERE recipe_id = ?", (recipe_id,)
    ).fetchone()
    if row is None:
        return KeptChoices()
    kept = json.loads(row["document"])
    chosen = kept["variations"]
    return KeptChoices(
        tuple(kept["audiences"]),
        None if chosen is None else tuple(chosen),
        tuple(kept["facts"]),
        kept["note"],
    )


def save_card_choices(connection: sqlite3.Connection, recipe_id: int, chosen: KeptChoices) -> None:
    document = json.dumps(
        {
            "audiences": chosen.audiences,
            "variations": chosen.variations,
            "facts": chosen.facts,
            "note": chosen.note,
        }
    )
    with writing(connection):
        connection.execute(
            "INSERT INTO card_choice VALUES (?, ?, ?) ON CONFLICT (recipe_id) DO UPDATE SET"
            " document = excluded.document, changed_at = excluded.changed_at",
            (recipe_id, document, now_text()),
        )


def words_let_stand(connection: sqlite3.Connection, recipe_id: int) -> dict[tuple[str, str], str]:
    """When each marked word, by rule and words, was let stand."""
    rows = connection.execute(
        "SELECT rule, words, at FROM word_let_stand WHERE recipe_id = ?", (recipe_id,)
    )
    return {(row["rule"], row["words"]): row["at"] for row in rows}


def let_word_stand(connection: sqlite3.Connection, recipe_id: int, rule: str, words: str) -> None:
    """Kept with its moment; letting it stand again changes nothing."""
    with writing(connection):
        connection.execute(
            "INSERT OR IGNORE INTO word_let_stand VALUES (?, ?, ?, ?)",
            (recipe_id, rule, words, now_text()),
        )


def reasons_given(
    connection: sqlite3.Connection, recipe_id: int, version_number: int
) -> dict[str, str]:
    """Why a version was handed out all the same, by what was broken."""
    rows = connection.execute(
        "SELECT broken, reason FROM handed_out WHERE recipe_id = ? AND version_number = ?",
        (recipe_id, version_number),
    )
    return {row["broken"]: row["reason"] for row in rows}


def hand_out_all_the_same(
    connection: sqlite3.Connection, recipe_id: int, version_number: int, broken: str, reason: str
) -> None:
    """Keeps why; a new reason takes the place of the one before."""
    with writing(connection):
        connection.execute(
            "INSERT OR REPLACE INTO handed_out VALUES (?, ?, ?, ?, ?)",
            (recipe_id, version_number, broken, reason, now_text()),
        )
