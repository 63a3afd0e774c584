"""The time zone of this machine."""

from __future__ import annotations

import os
from pathlib import Path
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

_LINK, _MARK = Path("/etc/localtime"), "zoneinfo/"


def local_zone() -> str:
    """Its name, as the system has it; UTC where it has none."""
    named = os.environ.get("TZ", "").lstrip(":")
    if not named and _LINK.exists():
        _, _, named = str(_LINK.resolve()).partition(_MARK)
    try:
        return ZoneInfo(named).key if named else "UTC"
    except (ZoneInfoNotFoundError, ValueError):
        return "UTC"
