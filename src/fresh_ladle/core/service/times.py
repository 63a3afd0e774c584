"""Stretches of time in words."""

from __future__ import annotations

from fresh_ladle.core.ranges import Range


def minutes_words(minutes: int) -> str:
    """`45 min`, `1 h 30 min`."""
    hours, rest = divmod(minutes, 60)
    return (
        " ".join(
            part for part in (f"{hours} h" if hours else "", f"{rest} min" if rest else "") if part
        )
        or "0 min"
    )


def stretch_words(minutes: Range) -> str:
    """`25 to 35 min`, `90 s`, `2 h`, as a method says it."""
    low, high = minutes.low, minutes.high
    if high <= 2 and high != int(high):
        return f"{low * 60:.0f} to {high * 60:.0f} s" if low != high else f"{high * 60:.0f} s"
    if low == high:
        return minutes_words(round(high))
    if low % 60 == high % 60 == 0:
        return f"{low / 60:.0f} to {high / 60:.0f} h"
    if high < 120:
        return f"{low:.0f} to {high:.0f} min"
    return f"{minutes_words(round(low))} to {minutes_words(round(high))}"
