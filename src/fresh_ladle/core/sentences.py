"""Small things every sentence needs, wherever it is made."""

from __future__ import annotations


def capitalized(text: str) -> str:
    """The text with a capital first letter; all others stay as they are."""
    return text[:1].upper() + text[1:]
