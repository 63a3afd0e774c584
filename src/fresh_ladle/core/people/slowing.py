"""How long the next sign-in waits after some that failed: no lock that anybody could put on
another's account."""

from __future__ import annotations

from collections.abc import Sequence

FREE_TRIES, FREE_TRIES_OF_A_PLACE = 4, 20
"""Of one account, and from one address, behind which a whole kitchen may stand."""
LONGEST_WAIT_S = 60.0
FORGOTTEN_AFTER_S = 900.0


def seconds_to_wait(failed_at: Sequence[float], now: float, free: int = FREE_TRIES) -> float:
    """Seconds until a sign-in is looked at again. `failed_at` are the times of failures in seconds,
    in any order.

    The first ones cost nothing; then 2, 4, 8 … seconds, at most a minute. After a quarter of an
    hour all is forgotten."""
    lately = [at for at in failed_at if now - at < FORGOTTEN_AFTER_S]
    if len(lately) < free:
        return 0.0
    wait = min(LONGEST_WAIT_S, 2.0 ** min(len(lately) - free + 1, 10))
    return max(0.0, max(lately) + wait - now)
