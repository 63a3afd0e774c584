"""Copies of the database out and back in. A file is checked before it replaces anything, and
nothing is overwritten."""

from __future__ import annotations

import hashlib
import os
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from tempfile import TemporaryDirectory

from fresh_ladle.store import clock
from fresh_ladle.store.database import (
    StoreError,
    backup,
    check_ours,
    connect,
    only_one,
    open_database,
)
from fresh_ladle.store.epoch import begin_epoch

RESTORING = ".restoring-"
"""How the folder begins in which a copy is made ready to be put back."""


def back_up(database: Path, target: Path) -> None:
    """Copies the workbench at `database` to a new file, with its checksum beside it. Raises
    StoreError when there is none, or `target` exists."""
    if target.exists():
        raise StoreError(
            f"{target} is there already: choose another name, so that no older copy is lost"
        )
    with _opened_to_read(database) as connection:
        backup(connection, target)
    checksum_file(target).write_text(f"{_checksum(target)}  {target.name}\n", encoding="ascii")


def checksum_file(copy: Path) -> Path:
    """Where the checksum of a copy stands, as `sha256sum --check` reads it."""
    return copy.with_name(f"{copy.name}.sha256")


def _checksum(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def check_copy(copy: Path) -> None:
    """Raises StoreError unless a copy is as it was made, opens, is ours, and its pages and
    references are whole."""
    _check_sum(copy)
    with _opened_to_read(copy) as connection:
        _check_whole(connection, copy)


def _check_sum(copy: Path) -> None:
    """A copy that has lost its checksum is still looked through page by page."""
    beside = checksum_file(copy)
    if beside.is_file() and beside.read_text(encoding="ascii", errors="replace").split()[:1] != [
        _checksum(copy)
    ]:
        raise StoreError(f"{copy} is not as it was made: its checksum in {beside.name} differs")


def restore(copy: Path, database: Path) -> Path | None:
    """Puts a copy in the place of the database, brought to today's schema, and returns where the
    former one is kept.

    The copy is opened read-only and must be as it was made, whole, ours and not newer, and no
    workbench may be running on the database; otherwise StoreError is raised and nothing is changed.
    Returns None when there was no database before. Pages drawn before it are told apart from those
    of what is put back."""
    with (
        only_one(database),
        _opened_to_read(copy) as source,
        TemporaryDirectory(dir=_made(database.parent), prefix=RESTORING) as folder,
    ):
        _check_sum(copy)
        _check_whole(source, copy)
        staged = Path(folder) / "staged.db"
        backup(source, staged)
        with closing(open_database(staged)) as ready:
            begin_epoch(ready, int(clock.now().timestamp() * 1000))
            former = _kept_aside(database)
            with closing(connect(database)) as target:
                ready.backup(target)
    return former


def _made(folder: Path) -> Path:
    folder.mkdir(parents=True, exist_ok=True)
    return folder


@contextmanager
def _opened_to_read(path: Path) -> Iterator[sqlite3.Connection]:
    """The workbench at `path`, read-only: no file is made, changed or left beside it. Raises
    StoreError."""
    if not path.is_file():
        raise StoreError(f"{path} is not there: check the name")
    # Without a log beside it the file is all there is; saying so keeps SQLite from making one.
    unchanging = "" if path.with_name(f"{path.name}-wal").exists() else "&immutable=1"
    address = f"{path.absolute().as_uri()}?mode=ro{unchanging}"
    try:
        with closing(sqlite3.connect(address, uri=True, isolation_level=None)) as connection:
            check_ours(connection, str(path))
            yield connection
    except sqlite3.DatabaseError as error:
        raise StoreError(f"{path} cannot be read as a workbench ({error})") from error


def _check_whole(connection: sqlite3.Connection, path: Path) -> None:
    """Raises StoreError when pages or references of the file are damaged."""
    found = [row[0] for row in connection.execute("PRAGMA integrity_check(1)")]
    if found != ["ok"] or connection.execute("PRAGMA foreign_key_check").fetchone():
        raise StoreError(
            f"{path} is damaged ({found[0] if found != ['ok'] else 'a row refers to nothing'})"
        )


def _kept_aside(database: Path) -> Path | None:
    """A copy of what is in the place of the database, under a name nothing has yet; None when there
    is nothing.

    What cannot be opened any more is moved aside as it is, with its log.
    """
    if not database.exists():
        return None
    aside = _dated(database)
    try:
        with closing(connect(database)) as connection:
            backup(connection, aside)
    except sqlite3.DatabaseError:
        aside.unlink(missing_ok=True)
        for ending in ("-wal", "-shm", ""):
            with suppress(FileNotFoundError):
                os.replace(f"{database}{ending}", f"{aside}{ending}")
    return aside


def _dated(database: Path) -> Path:
    """`fresh-ladle.db.before-restore-20270304-120000`, with a number behind it when that is
    taken."""
    stem = f"{database.name}.before-restore-{clock.now().astimezone():%Y%m%d-%H%M%S}"
    taken = 0
    while (path := database.with_name(f"{stem}-{taken}" if taken else stem)).exists():
        taken += 1
    return path
