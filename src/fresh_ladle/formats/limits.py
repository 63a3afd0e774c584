"""What a file may be before it is opened: its size, what it unpacks to, and how it is written."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

from fresh_ladle.core.errors import Refused

MAX_FILE_BYTES = 8_000_000
MAX_UNPACKED_BYTES = 400_000_000
MAX_RATIO = 200


class FileError(Refused):
    """The file cannot be read; the message says why and what to do."""


def checked_zip(data: bytes | Path, most_unpacked: int = MAX_UNPACKED_BYTES) -> zipfile.ZipFile:
    """A zip archive, in memory or in a file, whose contents are of sane size. Raises FileError for
    a bomb or for what is no archive."""
    size = data.stat().st_size if isinstance(data, Path) else len(data)
    try:
        archive = zipfile.ZipFile(data if isinstance(data, Path) else io.BytesIO(data))
    except zipfile.BadZipFile:
        raise FileError("this is not a readable archive: save or download it again") from None
    unpacked = sum(entry.file_size for entry in archive.infolist())
    if unpacked > most_unpacked or (size and unpacked / size > MAX_RATIO):
        raise FileError(
            f"this archive unpacks to {unpacked / 1e6:,.0f} MB, more than such a file ever holds;"
            " it was not opened"
        )
    return archive


def decoded(data: bytes) -> str:
    """Text in UTF-8 (with or without its mark), UTF-16 with its mark, or else the old Western
    encoding.

    Raises FileError for binary data.
    """
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", errors="replace")
    if b"\x00" in data[:4000]:
        raise FileError("this is not text: save the recipe as plain text, CSV or XLSX first")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")
