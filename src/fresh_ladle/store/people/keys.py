"""Keys for what the practice names itself, fit for an address, and whether two names are the
same."""

from __future__ import annotations

import re
from collections.abc import Collection
from unicodedata import normalize


def free_key(prefix: str, name: str, taken: Collection[str]) -> str:
    """`own-house-tahini`; told apart by a number when it is taken or the name has no plain
    letters."""
    plain = re.sub(
        r"[^a-z0-9]+", "-", normalize("NFKD", name.lower()).encode("ascii", "ignore").decode()
    ).strip("-")
    stem = f"{prefix}-{plain}" if plain else prefix
    key, number = stem, 1
    while key in taken or key == prefix:
        number += 1
        key = f"{stem}-{number}"
    return key


def same_name(one: str, other: str) -> bool:
    """Whether a person would read two names as one: case and width of letters do not count."""
    return normalize("NFKC", one).strip().casefold() == normalize("NFKC", other).strip().casefold()
