"""Opens the database, with the schema brought up to date and a copy kept before every change of
schema."""

from __future__ import annotations

import fcntl
import importlib
import re
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from importlib.resources import files
from pathlib import Path

from fresh_ladle.store.people.acting import note_who, noted
from fresh_ladle.store.trouble import WORDS, trouble_of

APPLICATION_ID = 0x46724C64
"""Marks a SQLite file as a workbench's, in its header, from schema 6 on."""
_TABLES_OF_ANY_SCHEMA = {"recipe", "version", "draft", "draft_state"}


class StoreError(RuntimeError):
    """The database cannot be used; the message says why and what to do."""


def connect(path: Path) -> sqlite3.Connection:
    """A connection with foreign keys on and write-ahead logging, in which commits survive a killed
    process."""
    connection = sqlite3.connect(path, isolation_level=None, timeout=10, check_same_thread=False)
    connection.row_factory = sqlite3.Row
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")
    return connection


class Connections:
    """Connections to one database that are lent and come back: opening one takes longer than most
    questions."""

    KEPT = 8

    def __init__(self, path: Path) -> None:
        self._path, self._idle, self._closed = path, list[sqlite3.Connection](), False

    @contextmanager
    def lent(self) -> Iterator[sqlite3.Connection]:
        """One that nobody else uses. It is closed, not kept, after anything went wrong, or with a
        transaction open."""
        try:
            connection = self._idle.pop()
        except IndexError:
            connection = connect(self._path)
        try:
            yield connection
        except BaseException:
            connection.close()
            raise
        if self._closed or connection.in_transaction or len(self._idle) >= self.KEPT:
            connection.close()
        else:
            self._idle.append(connection)

    def close(self) -> None:
        """Closes those that are idle; those still lent are closed as they come back."""
        self._closed = True
        while self._idle:
            self._idle.pop().close()


@contextmanager
def writing(connection: sqlite3.Connection) -> Iterator[None]:
    """One transaction that takes the write lock at once: everything inside is kept with a note of
    who did it, or nothing. What one act of a person writes in several places goes into one: inside
    another, this is a part of it, which is taken back alone where it fails."""
    if connection.in_transaction:
        with _part(connection):
            yield
        return
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
        in_log = note_who(connection)
    except BaseException:
        # A full disk has rolled back already.
        if connection.in_transaction:
            connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")
    if in_log:
        noted()


@contextmanager
def _part(connection: sqlite3.Connection) -> Iterator[None]:
    connection.execute("SAVEPOINT part")
    try:
        yield
    except BaseException:
        if connection.in_transaction:
            connection.execute("ROLLBACK TO part")
            connection.execute("RELEASE part")
        raise
    connection.execute("RELEASE part")


@dataclass(frozen=True, slots=True)
class Migration:
    """One numbered step of the schema: SQL text, or a function where SQL alone cannot look before
    it acts."""

    number: int
    name: str
    step: str | Callable[[sqlite3.Connection], None]


def migrations() -> list[Migration]:
    """All schema steps in order, from `migrations/NNNN_name.sql` and `migrations/mNNNN_name.py`."""
    found = []
    for file in (files("fresh_ladle.store") / "migrations").iterdir():
        match = re.fullmatch(r"m?(\d{4})_\w+\.(sql|py)", file.name)
        if match is None:
            continue
        if match[2] == "sql":
            found.append(Migration(int(match[1]), file.name, file.read_text(encoding="utf-8")))
        else:
            module = importlib.import_module(
                f"fresh_ladle.store.migrations.{file.name.removesuffix('.py')}"
            )
            found.append(Migration(int(match[1]), file.name, module.migrate))
    return sorted(found, key=lambda migration: migration.number)


def schema_version(connection: sqlite3.Connection) -> int:
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def newest_schema() -> int:
    """The schema this workbench writes."""
    return migrations()[-1].number


def check_ours(connection: sqlite3.Connection, name: str) -> None:
    """Raises StoreError unless the open file holds a workbench of this version or an older one."""
    application = int(connection.execute("PRAGMA application_id").fetchone()[0])
    tables = {
        row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
    }
    if application not in (0, APPLICATION_ID) or not tables >= _TABLES_OF_ANY_SCHEMA:
        raise StoreError(f"{name} holds no workbench: it is empty, or another program's")
    now = schema_version(connection)
    if now > newest_schema():
        raise StoreError(
            f"{name} was made by a newer version (schema {now}, this one knows {newest_schema()}):"
            " update the workbench"
        )


def migrate(connection: sqlite3.Connection, path: Path, upto: int | None = None) -> None:
    """Brings the schema forward, one transaction to a step, after a backup beside the database.

    Raises StoreError for a file that is another program's, or was made by a newer version of the
    workbench."""
    now = schema_version(connection)
    fresh = now == 0 and connection.execute("SELECT count(*) FROM sqlite_master").fetchone()[0] == 0
    if not fresh:
        check_ours(connection, str(path))
    due = _due(now, upto)
    if due and not fresh:
        backup(connection, path.with_name(f"{path.name}.before-schema-{due[-1].number}"))
    apply_migrations(connection, upto)


def apply_migrations(connection: sqlite3.Connection, upto: int | None = None) -> None:
    """Runs the schema steps that are due, one transaction to a step, without a backup."""
    for migration in _due(schema_version(connection), upto):
        with writing(connection):
            if isinstance(migration.step, str):
                for statement in _statements(migration.step):
                    connection.execute(statement)
            else:
                migration.step(connection)
            connection.execute(f"PRAGMA user_version = {migration.number}")


def _due(now: int, upto: int | None) -> list[Migration]:
    return [m for m in migrations() if m.number > now and (upto is None or m.number <= upto)]


def _statements(script: str) -> Iterator[str]:
    """The statements of a script, one by one; a trigger's inner statements stay together."""
    statement = ""
    for line in script.splitlines(keepends=True):
        statement += line
        if sqlite3.complete_statement(statement):
            yield statement
            statement = ""


def backup(connection: sqlite3.Connection, target: Path) -> None:
    """A consistent copy of the whole database, made while it may be in use."""
    copy = sqlite3.connect(target)
    try:
        connection.backup(copy)
    finally:
        copy.close()


@contextmanager
def only_one(path: Path) -> Iterator[None]:
    """Holds the database for one running workbench. Raises StoreError while another holds it: each
    works out how recipes stand for itself, and two would not agree. The hold ends with the process,
    however that ends."""
    path.parent.mkdir(parents=True, exist_ok=True)
    try:
        # Of the file itself: a link to it is another name for the same.
        file = path.resolve()
        handle = file.with_name(f"{file.name}.running").open("w", encoding="utf-8")
    except OSError as error:
        raise StoreError(f"{path} cannot be used: {error.strerror or error}") from None
    with handle:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise StoreError(
                f"another workbench is running on {path}: use that one, or stop it first; its pages"
                " are open to several tabs"
            ) from None
        yield


def open_database(path: Path) -> sqlite3.Connection:
    """The database at `path`, made and migrated as needed. Raises StoreError when it is not one of
    ours."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        connection = connect(path)
        migrate(connection, path)
    except OSError as error:
        raise StoreError(f"{path} cannot be used: {error.strerror or error}") from error
    except sqlite3.DatabaseError as error:
        trouble = trouble_of(error)
        what = "" if trouble is None else f": {WORDS[trouble][0][0].lower()}{WORDS[trouble][0][1:]}"
        raise StoreError(
            f"{path} cannot be used as the workbench's database ({error}){what}. It was left as"
            " it is"
        ) from error
    return connection
