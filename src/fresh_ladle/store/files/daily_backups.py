"""A copy of the database each day it is used, checked by opening it: the last seven days are kept,
and of what is older the first of four weeks and of twelve months."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from pathlib import Path
from shutil import rmtree

from fresh_ladle.store import clock
from fresh_ladle.store.database import StoreError
from fresh_ladle.store.files.backups import RESTORING, back_up, check_copy, checksum_file

DAYS, WEEKS, MONTHS = 7, 4, 12
_NAME = re.compile(r"(\d{4}-\d{2}-\d{2})\.db")
_BY_HAND = re.compile(r"by-hand-\d{8}-\d{6}\.db")
MOST_BY_HAND = 20
BEING_MADE = ".being-made"


class CopyMissing(LookupError):
    """There is no copy of this name."""


@dataclass(frozen=True, slots=True)
class Copy:
    """One copy in the folder. `made` is its day as in its name, `by_hand` whether somebody asked
    for it."""

    name: str
    made: str
    megabytes: float
    by_hand: bool


def backup_folder(database: Path) -> Path:
    """Where the copies of a database lie."""
    return database.with_name(f"{database.name}.backups")


def worth_keeping(days: Iterable[date]) -> set[date]:
    """Of the days there are copies of: the newest seven, and before those the first copy of each of
    four weeks and of each of twelve months, the newest first."""
    newest = sorted(set(days), reverse=True)
    kept, older = set(newest[:DAYS]), newest[DAYS:]
    for count, period in (
        (WEEKS, lambda day: day.isocalendar()[:2]),
        (MONTHS, lambda day: (day.year, day.month)),
    ):
        first: dict[tuple[int, ...], date] = {}
        for day in older:
            first[tuple(period(day))] = day
        kept |= set(sorted(first.values(), reverse=True)[:count])
    return kept


def back_up_today(database: Path, today: date) -> Path | None:
    """Makes the copy of a day, once, and lets those go that are not worth keeping. Returns the
    copy, None where there was one already. Raises StoreError for a copy that cannot be made or does
    not open; it is not kept then."""
    folder = backup_folder(database)
    target = folder / f"{today.isoformat()}.db"
    if target.exists():
        return None
    _make(database, target)
    _let_go(folder)
    return target


def copy_by_hand(database: Path) -> Path:
    """A copy of this moment, kept until somebody deletes its file. Raises StoreError as
    `back_up_today` does, and when there are twenty already."""
    folder = backup_folder(database)
    if sum(copy.by_hand for copy in copies(database)) >= MOST_BY_HAND:
        raise StoreError(
            f"there are {MOST_BY_HAND} copies made by hand: delete some in {folder} first"
        )
    target = folder / f"by-hand-{clock.now():%Y%m%d-%H%M%S}.db"
    if not target.exists():
        _make(database, target)
    return target


def copies(database: Path) -> list[Copy]:
    """All copies in the folder, the newest first."""
    folder = backup_folder(database)
    found = []
    for path in folder.iterdir() if folder.is_dir() else ():
        by_hand = _BY_HAND.fullmatch(path.name) is not None
        if by_hand or _NAME.fullmatch(path.name):
            digits = re.sub(r"\D", "", path.name)[:8]
            day = f"{digits[:4]}-{digits[4:6]}-{digits[6:]}"
            found.append(Copy(path.name, day, path.stat().st_size / 1e6, by_hand))
    return sorted(found, key=lambda copy: (copy.made, copy.name), reverse=True)


def copy_named(database: Path, name: str) -> Path:
    """Where a copy of the folder lies. Raises CopyMissing for any other name."""
    if name not in {copy.name for copy in copies(database)}:
        raise CopyMissing(f"there is no copy called {name}")
    return backup_folder(database) / name


def _make(database: Path, target: Path) -> None:
    """A copy that was opened and found whole takes its name only then. Raises StoreError; nothing
    is kept then."""
    folder, made = target.parent, target.with_suffix(BEING_MADE)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        _discard(made)
        back_up(database, made)
        check_copy(made)
        # Its checksum first: a copy without one is never taken for whole, a checksum without a copy
        # for nothing.
        name_in = checksum_file(made).read_text(encoding="ascii").replace(made.name, target.name)
        checksum_file(target).write_text(name_in, encoding="ascii")
        made.replace(target)
    except (OSError, sqlite3.Error) as error:
        raise StoreError(f"a copy could not be made: {error}") from error
    finally:
        _discard(made)


def _discard(copy: Path) -> None:
    """Takes a copy away with all that lies beside it."""
    for ending in ("-journal", "-wal", "-shm", ".sha256", ""):
        copy.with_name(f"{copy.name}{ending}").unlink(missing_ok=True)


def clear_unfinished(database: Path) -> None:
    """Takes away what a process that was killed in the middle of a copy, or of putting one back,
    has left."""
    folder = backup_folder(database)
    for path in folder.glob(f"*{BEING_MADE}") if folder.is_dir() else ():
        _discard(path)
    for path in database.parent.glob(f"{RESTORING}*"):
        rmtree(path, ignore_errors=True)


def _let_go(folder: Path) -> None:
    copies = {
        date.fromisoformat(match[1]): path
        for path in folder.iterdir()
        if (match := _NAME.fullmatch(path.name))
    }
    for day in set(copies) - worth_keeping(copies):
        _discard(copies[day])
