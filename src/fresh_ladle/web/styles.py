"""The style sheet: what all places share, what each place keeps in its folder, and last what
screens and paper ask."""

from __future__ import annotations

from functools import lru_cache
from hashlib import sha256
from pathlib import Path

WEB = Path(__file__).parent


@lru_cache(maxsize=1)
def joined_styles() -> str:
    """All of it as one sheet; later rules win, so the order is part of it."""
    places = sorted((WEB / "places").glob("*/place.css"))
    files = [WEB / "shared" / "base.css", *places, WEB / "shared" / "last.css"]
    return "\n".join(file.read_text(encoding="utf-8") for file in files)


@lru_cache(maxsize=1)
def styles_address() -> str:
    """Where it is served: an address of just these contents, so that browsers may keep it."""
    return f"/static/ladle-{sha256(joined_styles().encode()).hexdigest()[:12]}.css"
