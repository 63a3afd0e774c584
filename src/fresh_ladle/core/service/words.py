"""What is said of a service, in sentences."""

from __future__ import annotations

from fresh_ladle.core.sentences import capitalized
from fresh_ladle.core.service.schedule import Impossible


def impossible_words(order: Impossible) -> str:
    """Why there is no day that works, and what would make it work: each was tried."""
    said = f"{capitalized(order.why)}."
    if order.would_do:
        said += f" With {' or with '.join(order.would_do)} it works."
    if order.later is not None:
        said += f" Eaten {minutes_words(order.later)} later, it works as it is."
    elif not order.would_do:
        said += " Not even eight hours more would do: make less of it, or part of it the day before."
    return said


def minutes_words(minutes: int) -> str:
    """`45 min`, `1 h 30 min`."""
    hours, rest = divmod(minutes, 60)
    return " ".join(part for part in (f"{hours} h" if hours else "", f"{rest} min" if rest else "") if part) or "0 min"
