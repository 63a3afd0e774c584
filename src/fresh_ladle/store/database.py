"""Opens the database, with the schema brought up to date and a copy kept before every change of schema."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import files
from pathlib import Path


class StoreError(RuntimeError):
    """The database cannot be used; the message says why and what to do."""


def connect(path: Path) -> sqlite3.Connection:
    """A connection with foreign keys on and write-ahead logging, in which commits survive a killed process."""
    connection = sqlite3.connect(path, isolation_level=None, timeout=10, check_same_thread=False)
    connection.row_factory = sqlite3.Row
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


@contextmanager
def writing(connection: sqlite3.Connection) -> Iterator[None]:
    """One transaction that takes the write lock at once: everything inside is kept, or nothing."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def migrations() -> list[tuple[int, str]]:
    """Numbered schema steps, in order."""
    folder = files("fresh_ladle.store") / "migrations"
    steps = [
        (int(f.name.split("_")[0]), f.read_text(encoding="utf-8")) for f in folder.iterdir() if f.name.endswith(".sql")
    ]
    return sorted(steps)


def schema_version(connection: sqlite3.Connection) -> int:
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def migrate(connection: sqlite3.Connection, path: Path, upto: int | None = None) -> None:
    """Brings the schema forward, one transaction to a step, after a backup beside the database.

    Raises StoreError for a database made by a newer version of the workbench.
    """
    now, steps = schema_version(connection), migrations()
    newest = steps[-1][0]
    if now > newest:
        raise StoreError(
            f"{path} was made by a newer version (schema {now}, this one knows {newest}): update the workbench"
        )
    due = [(number, sql) for number, sql in steps if now < number <= (upto or newest)]
    if due and now > 0:
        backup(connection, path.with_name(f"{path.name}.before-schema-{due[-1][0]}"))
    apply_migrations(connection, upto)


def apply_migrations(connection: sqlite3.Connection, upto: int | None = None) -> None:
    """Runs the schema steps that are due, one transaction to a step, without a backup."""
    now = schema_version(connection)
    for number, sql in migrations():
        if now < number and (upto is None or number <= upto):
            connection.executescript(f"BEGIN IMMEDIATE;\n{sql}\nPRAGMA user_version = {number};\nCOMMIT;")


def backup(connection: sqlite3.Connection, target: Path) -> None:
    """A consistent copy of the whole database, made while it may be in use."""
    copy = sqlite3.connect(target)
    try:
        connection.backup(copy)
    finally:
        copy.close()


def open_database(path: Path) -> sqlite3.Connection:
    """The database at `path`, made and migrated as needed. Raises StoreError when it is not one of ours."""
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        connection = connect(path)
        migrate(connection, path)
    except sqlite3.DatabaseError as error:
        raise StoreError(
            f"{path} cannot be used as the workbench's database ({error}): move it away and start again"
        ) from error
    return connection
