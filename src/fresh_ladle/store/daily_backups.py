"""A copy of the database each day it is used, checked by opening it: the last seven days are kept, and of what is older
the first of four weeks and of twelve months."""

from __future__ import annotations

import re
import sqlite3
from collections.abc import Iterable
from datetime import date
from pathlib import Path

from fresh_ladle.store.backups import back_up, check_copy
from fresh_ladle.store.database import StoreError

DAYS, WEEKS, MONTHS = 7, 4, 12
_NAME = re.compile(r"(\d{4}-\d{2}-\d{2})\.db")


def backup_folder(database: Path) -> Path:
    """Where the copies of a database lie."""
    return database.with_name(f"{database.name}.backups")


def worth_keeping(days: Iterable[date]) -> set[date]:
    """Of the days there are copies of: the newest seven, and before those the first copy of each of four weeks and of
    each of twelve months, the newest first."""
    newest = sorted(set(days), reverse=True)
    kept, older = set(newest[:DAYS]), newest[DAYS:]
    for count, period in ((WEEKS, lambda day: day.isocalendar()[:2]), (MONTHS, lambda day: (day.year, day.month))):
        first: dict[tuple[int, ...], date] = {}
        for day in older:
            first[tuple(period(day))] = day
        kept |= set(sorted(first.values(), reverse=True)[:count])
    return kept


def back_up_today(database: Path, today: date) -> Path | None:
    """Makes the copy of a day, once, and lets those go that are not worth keeping. Returns the copy, None where there
    was one already. Raises StoreError for a copy that cannot be made or does not open; it is not kept then."""
    folder = backup_folder(database)
    target = folder / f"{today.isoformat()}.db"
    if target.exists():
        return None
    made = folder / f"{today.isoformat()}.being-made"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        made.unlink(missing_ok=True)
        back_up(database, made)
        check_copy(made)
        made.replace(target)
    except (OSError, sqlite3.Error) as error:
        raise StoreError(f"today's copy could not be made: {error}") from error
    finally:
        made.unlink(missing_ok=True)
    _let_go(folder)
    return target


def _let_go(folder: Path) -> None:
    copies = {date.fromisoformat(match[1]): path for path in folder.iterdir() if (match := _NAME.fullmatch(path.name))}
    for day in set(copies) - worth_keeping(copies):
        copies[day].unlink(missing_ok=True)


def newest_copy(database: Path) -> Path | None:
    """The copy to bring back after a loss."""
    folder = backup_folder(database)
    copies = sorted(folder.glob("????-??-??.db")) if folder.is_dir() else []
    return copies[-1] if copies else None
