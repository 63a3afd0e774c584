"""What went wrong with the file of the database, in words: no room, no right to write, damage,
another's lock."""

from __future__ import annotations

import sqlite3
from enum import Enum


class Trouble(Enum):
    """What a person can do something about."""

    FULL = "full"
    READ_ONLY = "read-only"
    DAMAGED = "damaged"
    BUSY = "busy"
    GONE = "gone"


_CODES = {
    sqlite3.SQLITE_FULL: Trouble.FULL,
    sqlite3.SQLITE_IOERR: Trouble.FULL,
    sqlite3.SQLITE_READONLY: Trouble.READ_ONLY,
    sqlite3.SQLITE_PERM: Trouble.READ_ONLY,
    sqlite3.SQLITE_CORRUPT: Trouble.DAMAGED,
    sqlite3.SQLITE_NOTADB: Trouble.DAMAGED,
    sqlite3.SQLITE_BUSY: Trouble.BUSY,
    sqlite3.SQLITE_LOCKED: Trouble.BUSY,
    sqlite3.SQLITE_CANTOPEN: Trouble.GONE,
}
_PRIMARY = 0xFF
"""The part of an extended error code that names the error."""
WORDS = {
    Trouble.FULL: (
        "The disk is full",
        (
            "This change was not made; all that was kept before is there. Make room on the disk,"
            " then do it once more."
        ),
    ),
    Trouble.READ_ONLY: (
        "The workbench may not write its file",
        (
            "This change was not made; pages can still be read. Give the workbench the right to"
            " write its file and the folder it lies in, then do it once more."
        ),
    ),
    Trouble.DAMAGED: (
        "The workbench’s file is damaged",
        (
            "Nothing was changed. Stop the workbench, keep the damaged file, and bring back the"
            " latest copy with “restore”, from the folder beside it that ends in .backups."
        ),
    ),
    Trouble.BUSY: (
        "Something else is writing just now",
        "This change was not made. Wait a moment, then do it once more.",
    ),
    Trouble.GONE: (
        "The workbench’s file cannot be opened",
        "Nothing was changed. See whether it is still where it was, and whether the disk is there.",
    ),
}


def trouble_of(error: sqlite3.Error) -> Trouble | None:
    """What an error of the database comes from; None for one that is our own fault."""
    code = getattr(error, "sqlite_errorcode", None)
    return _CODES.get(code & _PRIMARY) if isinstance(code, int) else None
