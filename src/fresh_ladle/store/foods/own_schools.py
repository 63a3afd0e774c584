"""Schools of fat of the practice's own."""

from __future__ import annotations

import sqlite3

from fresh_ladle.core.catalogue.school import School
from fresh_ladle.core.errors import Refused
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.keys import free_key, same_name


def own_schools(connection: sqlite3.Connection) -> list[School]:
    """All of them, by name."""
    return [
        School(
            row["id"],
            row["name"],
            row["creed"],
            bool(row["refuses_oil"]),
            bool(row["refuses_salt"]),
            bool(row["refuses_sugar"]),
            bool(row["refuses_full_fat_dairy"]),
        )
        for row in connection.execute("SELECT * FROM own_school ORDER BY name")
    ]


def save_school(
    connection: sqlite3.Connection,
    name: str,
    creed: str,
    oil: bool,
    salt: bool,
    sugar: bool,
    full_fat_dairy: bool,
) -> School:
    """Adds a school, or changes the one of this name. Raises ValueError for a name without
    letters."""
    if not any(character.isalnum() for character in name):
        raise Refused("a school needs a name")
    with writing(connection):
        others = own_schools(connection)
        same = next((other.id for other in others if same_name(other.name, name)), None)
        school_id = same or free_key("own", name, {other.id for other in others})
        school = School(school_id, name, creed, oil, salt, sugar, full_fat_dairy)
        connection.execute(
            """
            INSERT INTO own_school VALUES (?, ?, ?, ?, ?, ?, ?)
            ON CONFLICT (id) DO UPDATE SET name = excluded.name, creed = excluded.creed,
              refuses_oil = excluded.refuses_oil,
              refuses_salt = excluded.refuses_salt, refuses_sugar = excluded.refuses_sugar,
              refuses_full_fat_dairy = excluded.refuses_full_fat_dairy
            """,
            (school.id, name, creed, oil, salt, sugar, full_fat_dairy),
        )
    return school
