"""Steps of texture: what is noticed when what carries body, cling, cream, crunch or juice goes.

The figures are those of one cook (grade C): steps when a quarter, half or all of a carrier goes and
nothing takes its place. What may stand in for it does so gram for gram of its own ratio. Steps of
one axis add up, to 6 at most."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

TEXTURES = ("cling", "cream", "body", "crunch", "juice")
MOST_TEXTURE_STEPS = 6.0
_SHARES = (0.0, 0.25, 0.5, 1.0)


@dataclass(frozen=True, slots=True)
class Carrier:
    """What some foods, by key, carry in one kind of dish. `steps` are those when a quarter, half
    and all of it goes; `noticed_from` grams per 100 g of the dish; `stand_ins` mixtures, each grams
    by key for one gram that goes."""

    foods: frozenset[str]
    axis: str
    noticed_from: float
    steps: tuple[float, float, float]
    words: str
    stand_ins: tuple[Mapping[str, float], ...] = ()


def texture_steps(
    before: Mapping[str, float], after: Mapping[str, float], carriers: Sequence[Carrier]
) -> dict[str, float]:
    """Steps by axis from one bowl to another, each grams by key of a food, 0 where nothing is
    noticed. A food counts with the first carrier that names it."""
    steps = dict.fromkeys(TEXTURES, 0.0)
    whole, now = sum(before.values()), sum(after.values())
    if whole <= 0 or now <= 0:
        return steps
    # In a smaller bowl what is gone is gone; in a larger one what is there is spread thinner.
    now = max(now, whole)
    came = {
        key: max(0.0, after.get(key, 0.0) / now - before.get(key, 0.0) / whole)
        for key in {*before, *after}
    }
    counted: set[str] = set()
    for carrier in carriers:
        held = [key for key in carrier.foods & before.keys() if key not in counted]
        counted |= carrier.foods
        had = sum(before[key] for key in held) / whole
        if not held or 100 * had < carrier.noticed_from:
            continue
        # What comes in of the same kind, such as walnuts raw for walnuts toasted, is no loss.
        left = sum(after.get(key, 0.0) for key in carrier.foods) / now
        gone = min(1.0, max(0.0, 1 - left / had) - _stood_in(carrier, came) / had)
        if gone > 0:
            steps[carrier.axis] += float(np.interp(gone, _SHARES, (0.0, *carrier.steps)))
    return {axis: min(step, MOST_TEXTURE_STEPS) for axis, step in steps.items()}


def _stood_in(carrier: Carrier, came: Mapping[str, float]) -> float:
    """The share of the bowl of the carrier that what came in stands for."""
    return sum(
        min(came.get(key, 0.0) / grams for key, grams in mixture.items() if grams > 0)
        for mixture in carrier.stand_ins
    )


def texture_words(steps: Mapping[str, float]) -> list[str]:
    """`plainly less cling`, for each axis that is noticed at all."""
    found = []
    for axis, step in steps.items():
        if step >= 0.75:
            how = "a little less" if step < 1.5 else "less" if step < 2.5 else "plainly less"
            found.append(f"{how} {axis}")
    return found
