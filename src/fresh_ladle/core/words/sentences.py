"""Small things every sentence needs, wherever it is made."""

from __future__ import annotations

from collections.abc import Sequence


def capitalized(text: str) -> str:
    """The text with a capital first letter; all others stay as they are."""
    return text[:1].upper() + text[1:]


def listed(names: Sequence[str]) -> str:
    """`feta`, `feta and olives`, `feta, olives and salt`."""
    return (
        names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}" if names else ""
    )
