"""Target profiles: limits for one use, what is left out, and the school they are cooked in."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.nutrients.targets import Basis, Firmness, Side, Target
from fresh_ladle.store.database import writing


@dataclass(frozen=True, slots=True)
class Profile:
    """One target profile. `exclusions` holds allergens and food keys."""

    id: int
    name: str
    eaten_as: str
    school: str
    note: str
    targets: tuple[Target, ...]
    exclusions: frozenset[str] = frozenset()


def _profile(connection: sqlite3.Connection, row: sqlite3.Row) -> Profile:
    limits = connection.execute(
        "SELECT nutrient, side, limit_value, basis, firmness FROM target WHERE profile_id = ? ORDER"
        " BY nutrient, side",
        (row["id"],),
    )
    targets = tuple(
        Target(
            r["nutrient"],
            Side(r["side"]),
            r["limit_value"],
            Basis(r["basis"]),
            Firmness(r["firmness"]),
        )
        for r in limits
    )
    out = frozenset(json.loads(row["exclusions"]))
    return Profile(
        row["id"], row["name"], row["eaten_as"], row["school"], row["note"], targets, out
    )


def all_profiles(connection: sqlite3.Connection) -> list[Profile]:
    return [
        _profile(connection, row)
        for row in connection.execute("SELECT * FROM profile ORDER BY name")
    ]


def profile_names(connection: sqlite3.Connection) -> list[tuple[int, str]]:
    """Id and name of all profiles, by name."""
    rows = connection.execute("SELECT id, name FROM profile ORDER BY name")
    return [(row["id"], row["name"]) for row in rows]


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
    exclusions: frozenset[str] = frozenset(),
) -> int:
    """Adds a profile, or changes the one with this id; one that is gone meanwhile is added anew.

    Raises sqlite3.IntegrityError when the name is taken.
    """
    out = json.dumps(sorted(exclusions))
    with writing(connection):
        if profile_id is None or profile(connection, profile_id) is None:
            cursor = connection.execute(
                "INSERT INTO profile (name, eaten_as, school, note, exclusions) VALUES (?, ?, ?,"
                " ?, ?)",
                (name, eaten_as, school, note, out),
            )
            profile_id = int(cursor.lastrowid or 0)
        else:
            connection.execute(
                "UPDATE profile SET name = ?, eaten_as = ?, school = ?, note = ?, exclusions = ?"
                " WHERE id = ?",
                (name, eaten_as, school, note, out, profile_id),
            )
            connection.execute("DELETE FROM target WHERE profile_id = ?", (profile_id,))
        connection.executemany(
            "INSERT INTO target (profile_id, nutrient, side, limit_value, basis, firmness) VALUES"
            " (?, ?, ?, ?, ?, ?)",
            [
                (profile_id, t.nutrient, t.side.value, t.limit, t.basis.value, t.firmness.value)
                for t in targets
            ],
        )
    return profile_id


def delete_profile(connection: sqlite3.Connection, profile_id: int) -> int:
    """Takes a profile away; recipes that used it go on without targets. Returns how many they
    were."""
    with writing(connection):
        used = connection.execute(
            "SELECT count(*) FROM recipe WHERE profile_id = ?", (profile_id,)
        ).fetchone()[0]
        connection.execute("DELETE FROM profile WHERE id = ?", (profile_id,))
    return int(used)
