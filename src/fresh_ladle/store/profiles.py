"""Target profiles: limits per serving for one use, with the school they are cooked in."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.store.database import writing


@dataclass(frozen=True, slots=True)
class Profile:
    """One target profile."""

    id: int
    name: str
    eaten_as: str
    school: str
    note: str
    targets: tuple[Target, ...]


def _profile(connection: sqlite3.Connection, row: sqlite3.Row) -> Profile:
    limits = connection.execute(
        "SELECT nutrient, side, limit_value FROM target WHERE profile_id = ? ORDER BY nutrient, side", (row["id"],)
    )
    targets = tuple(Target(r["nutrient"], Side(r["side"]), r["limit_value"]) for r in limits)
    return Profile(row["id"], row["name"], row["eaten_as"], row["school"], row["note"], targets)


def all_profiles(connection: sqlite3.Connection) -> list[Profile]:
    return [_profile(connection, row) for row in connection.execute("SELECT * FROM profile ORDER BY name")]


def profile(connection: sqlite3.Connection, profile_id: int | None) -> Profile | None:
    row = connection.execute("SELECT * FROM profile WHERE id = ?", (profile_id,)).fetchone()
    return _profile(connection, row) if row else None


def save_profile(
    connection: sqlite3.Connection,
    name: str,
    eaten_as: str,
    school: str,
    targets: tuple[Target, ...],
    note: str = "",
    profile_id: int | None = None,
) -> int:
    """Adds a profile, or changes the one with this id. Raises sqlite3.IntegrityError when the name is taken."""
    with writing(connection):
        if profile_id is None:
            cursor = connection.execute(
                "INSERT INTO profile (name, eaten_as, school, note) VALUES (?, ?, ?, ?)", (name, eaten_as, school, note)
            )
            profile_id = int(cursor.lastrowid or 0)
        else:
            connection.execute(
                "UPDATE profile SET name = ?, eaten_as = ?, school = ?, note = ? WHERE id = ?",
                (name, eaten_as, school, note, profile_id),
            )
            connection.execute("DELETE FROM target WHERE profile_id = ?", (profile_id,))
        connection.executemany(
            "INSERT INTO target (profile_id, nutrient, side, limit_value) VALUES (?, ?, ?, ?)",
            [(profile_id, t.nutrient, t.side.value, t.limit) for t in targets],
        )
    return profile_id
