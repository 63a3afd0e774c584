"""What a cook says of an amount instead of, or besides, measuring it."""

from __future__ import annotations

from enum import StrEnum


class Aside(StrEnum):
    """What a remark says about the amount."""

    TO_TASTE = "to taste"
    GARNISH = "to garnish"
    PLUS_MORE = "plus more"
    OPTIONAL = "optional"
    DIVIDED = "divided"
    RESERVED = "reserved"
    TO_THIN = "to thin"
    PER_SERVING = "per serving"
