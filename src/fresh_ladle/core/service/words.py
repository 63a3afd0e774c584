"""What is said of a service, in sentences."""

from __future__ import annotations

from collections.abc import Sequence

from fresh_ladle.core.service.schedule import Awaited, Impossible
from fresh_ladle.core.service.times import minutes_words
from fresh_ladle.core.words.sentences import capitalized


def impossible_words(order: Impossible | Awaited) -> str:
    """Why there is no day that works, and what would make it work: each was tried."""
    if isinstance(order, Awaited):
        return "The day is still being worked out."
    said = f"{capitalized(order.why)}."
    if order.would_do:
        said += f" With {' or with '.join(order.would_do)} it works."
    if order.later is not None:
        said += f" Eaten {minutes_words(order.later)} later, it works as it is."
    elif not order.would_do:
        said += " No later hour was found either, up to eight hours on; less of it takes less time."
    return said


BACK_SHARE, BACK_TIMES = 0.1, 2
"""A dish comes back when a tenth of it or more does; said to do so always from two services on."""


def came_back_words(weighed: Sequence[tuple[float, float]], serving_grams: float) -> str:
    """What is said of a dish by what came back of it: `weighed` are servings made and grams left,
    the latest first. Empty where nothing was weighed."""
    if not weighed or serving_grams <= 0:
        return ""
    shares = [grams / (servings * serving_grams) for servings, grams in weighed]
    often = sum(share >= BACK_SHARE for share in shares)
    last = f"{shares[0] * 100:.0f}% of it came back last time"
    if often == len(shares) and often >= BACK_TIMES:
        fewer = min(shares) * 100
        return (
            f"It always comes back: {often} of {often} times, {fewer:.0f}% of it at least. Make so"
            " much less."
        )
    return f"{last}; a tenth or more {often} of {len(shares)} times."
