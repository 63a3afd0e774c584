"""Records of temperatures. Every entry is on disk before it is thanked for; none is changed or
taken out, and a closed record is only added to."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime

from fresh_ladle.core.hold.temperature import Entry, RecordKind, record_state
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.store import clock
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.recipes import RecipeMissing


@dataclass(frozen=True, slots=True)
class TemperatureRecord:
    """One record of one dish of a service."""

    id: int
    service_id: int
    dish: str
    kind: RecordKind
    opened_at: datetime
    closed_at: datetime | None
    entries: tuple[Entry, ...]


def open_record(
    connection: sqlite3.Connection, service_id: int, dish: str, kind: RecordKind
) -> int:
    with writing(connection):
        cursor = connection.execute(
            "INSERT INTO temperature_record (service_id, dish, kind, opened_at) VALUES (?, ?,"
            " ?, ?)",
            (service_id, dish, kind.value, now_text()),
        )
    return int(cursor.lastrowid or 0)


def record(connection: sqlite3.Connection, record_id: int) -> TemperatureRecord:
    """Raises RecipeMissing when there is no such record."""
    row = connection.execute(
        "SELECT * FROM temperature_record WHERE id = ?", (record_id,)
    ).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no record {record_id}")
    return _record(connection, row)


def records(connection: sqlite3.Connection, service_id: int) -> list[TemperatureRecord]:
    rows = connection.execute(
        "SELECT * FROM temperature_record WHERE service_id = ? ORDER BY id", (service_id,)
    )
    return [_record(connection, row) for row in rows.fetchall()]


def _record(connection: sqlite3.Connection, row: sqlite3.Row) -> TemperatureRecord:
    entries = connection.execute(
        "SELECT * FROM temperature_entry WHERE record_id = ? ORDER BY seq", (row["id"],)
    )
    return TemperatureRecord(
        row["id"],
        row["service_id"],
        row["dish"],
        RecordKind(row["kind"]),
        datetime.fromisoformat(row["opened_at"]),
        datetime.fromisoformat(row["closed_at"]) if row["closed_at"] else None,
        tuple(
            Entry(
                datetime.fromisoformat(e["at"]), e["celsius"], e["what"], bool(e["after_closing"])
            )
            for e in entries
        ),
    )


def add_entry(
    connection: sqlite3.Connection,
    record_id: int,
    celsius: float | None,
    what: str = "",
    at: datetime | None = None,
) -> None:
    """Adds a reading or a remark, now where no moment (aware) is given. Raises RecipeMissing, and
    RecipeError for a moment that is still to come or before the entry before it."""
    with writing(connection):
        now = record(connection, record_id)
        moment = (at or clock.now()).astimezone(UTC)
        if moment > clock.now():
            raise RecipeError("a reading cannot be of a moment that is still to come")
        if now.entries and moment < now.entries[-1].at:
            raise RecipeError("entries are kept in the order of time: this one is before the last")
        connection.execute(
            "INSERT INTO temperature_entry VALUES (?, ?, ?, ?, ?, ?)",
            (
                record_id, len(now.entries) + 1, moment.isoformat(timespec="seconds"),
                celsius, what,
                int(now.closed_at is not None),
            ),
        )  # fmt: skip


def close_record(connection: sqlite3.Connection, record_id: int) -> None:
    """Closes a record for good. Raises RecipeMissing, and RecipeError while a limit is open or a
    failure not answered."""
    with writing(connection):
        now = record(connection, record_id)
        if now.closed_at is not None:
            raise RecipeError("this record is closed already")
        state = record_state(now.kind, now.entries, clock.now())
        if not state.may_close:
            raise RecipeError(
                f"it cannot be closed yet: {state.failed or state.sentence.rstrip('.')}"
            )
        connection.execute(
            "UPDATE temperature_record SET closed_at = ? WHERE id = ?", (now_text(), record_id)
        )
