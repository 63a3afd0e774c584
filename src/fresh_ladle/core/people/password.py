"""What a password must be: long, and not one that everybody tries first. No rules about kinds of
letters."""

from __future__ import annotations

from functools import lru_cache

SHORTEST, LONGEST = 12, 128
FEWEST_DIFFERENT = 5
"""Letters that are not the same, so that a key held down is no password."""


@lru_cache(maxsize=1)
def _common() -> frozenset[str]:
    """Passwords that many have. The lists take longer to load than anything else of a page's, and
    are seldom needed."""
    from zxcvbn.frequency_lists import FREQUENCY_LISTS

    return frozenset(FREQUENCY_LISTS["passwords"])


def why_refused(password: str, initials: str) -> str:
    """Why a password cannot be taken, as the end of a sentence; empty for one that can."""
    if len(password) < SHORTEST:
        return (
            f"a password has at least {SHORTEST} letters: three or four words that do not belong"
            " together do well"
        )
    if len(password) > LONGEST:
        return f"a password has at most {LONGEST} letters"
    plain = password.lower()
    if len(set(plain)) < FEWEST_DIFFERENT:
        return "this password is nearly one letter over and over: choose another"
    if _stem(plain) in _common() or plain in _common():
        return "this password is among those that are tried first: choose another"
    if plain.replace(initials.lower(), "") != plain and len(plain) - len(initials) < SHORTEST:
        return "leave the initials out of the password"
    return ""


def _stem(plain: str) -> str:
    """Without digits and marks put before or behind, which are tried with every common word."""
    return plain.strip("0123456789!?.,-_*# ")
