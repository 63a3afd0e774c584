"""How ranges and choices were answered: a proper score, whether nine in ten ranges hold, and where
an eye is off.

A range is meant to hold the figure nine times in ten. The interval score (Gneiting and Raftery,
2007) is its width plus 2/0.1 times what it misses by; nobody gains by giving another range than the
one they believe. Here it is a share of the figure, so that grams and milligrams can stand in one
row."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import exp, log, sqrt

import scipy

from fresh_ladle.core.errors import Refused

MEANT = 0.9
SURELY = 0.05
"""A share of held ranges is called too few, or too many, when chance alone would give it less often
than this."""
FEWEST, FEWEST_OF_A_SUBJECT = 10, 4
WIDE = 0.6
"""Ranges are called wider than needed from here: this much of their width would hold nine in
ten."""


@dataclass(frozen=True, slots=True)
class Answered:
    """A range that was given, and the figure."""

    low: float
    high: float
    value: float
    subject: str = ""

    def __post_init__(self) -> None:
        if not self.low <= self.high:
            raise Refused("the low end lies above the high one")

    @property
    def held(self) -> bool:
        return self.low <= self.value <= self.high


def interval_score(one: Answered) -> float:
    """Width and what it misses by, as a share of the figure; the less the better. For a figure of 0
    in its own unit."""
    missed = max(0.0, one.low - one.value) + max(0.0, one.value - one.high)
    return (one.high - one.low + 2 / (1 - MEANT) * missed) / (abs(one.value) or 1.0)


@dataclass(frozen=True, slots=True)
class Calibration:
    """How many ranges were given and how many held; `stretch` is by how much they would have to be
    stretched around their middles for nine in ten to hold. `verdict` is empty while nothing can be
    said."""

    given: int
    held: int
    stretch: float
    verdict: str

    @property
    def words(self) -> str:
        if self.given < FEWEST:
            return (
                f"{self.held} of {self.given} ranges held; from {FEWEST} on it can be said how well"
                " they are set."
            )
        told = (
            f"{self.held} of {self.given} ranges held; about {MEANT * self.given:.0f} are meant to."
        )
        if self.verdict == "too narrow":
            return (
                f"{told} Yours are too narrow: about {self.stretch:.1f} times as wide would hold"
                " nine in ten."
            )
        if self.verdict == "wider than needed":
            return (
                f"{told} Yours are wider than needed: {100 * self.stretch:.0f}% of their width"
                " would hold nine in ten."
            )
        return f"{told} That is as it should be."


def calibration(answers: Sequence[Answered]) -> Calibration:
    """Whether nine in ten of the ranges hold, beyond chance."""
    held = sum(one.held for one in answers)
    if len(answers) < FEWEST:
        return Calibration(len(answers), held, 1.0, "")
    stretch = _stretch(answers)
    if scipy.stats.binom.cdf(held, len(answers), MEANT) < SURELY:
        return Calibration(len(answers), held, max(stretch, 1.0), "too narrow")
    if held == len(answers) and stretch < WIDE:
        return Calibration(len(answers), held, stretch, "wider than needed")
    return Calibration(len(answers), held, stretch, "as meant")


def _stretch(answers: Sequence[Answered]) -> float:
    """What nine in ten of the ranges would have had to be stretched by to hold."""
    needed = sorted(_needed(one) for one in answers)
    return needed[min(len(needed) - 1, round(MEANT * len(needed)) - 1 if len(needed) > 1 else 0)]


def _needed(one: Answered) -> float:
    """By how much a range must be stretched around its middle to reach the figure."""
    half = (one.high - one.low) / 2
    away = abs(one.value - (one.high + one.low) / 2)
    if half <= 0:
        return 0.0 if away == 0 else _POINT
    return away / half


_POINT = 10.0
"""Stands for a range that is a point and misses."""


@dataclass(frozen=True, slots=True)
class Eye:
    """What a subject is seen as, as a share of what it is; `low` and `high` are the ends of its 90%
    range."""

    subject: str
    seen_as: float
    low: float
    high: float
    times: int

    @property
    def off(self) -> bool:
        """Whether the eye is off beyond chance."""
        return self.low > 1.0 or self.high < 1.0

    @property
    def words(self) -> str:
        return (
            f"for {self.subject} you say {100 * self.seen_as:.0f}% of what it is ({self.times}"
            " answers)"
        )


def eyes(answers: Iterable[Answered]) -> list[Eye]:
    """Where the middles of ranges lie beside the figures, by subject, the furthest off first.
    Ratios are averaged as logarithms; their 90% range is Student's."""
    ratios: dict[str, list[float]] = {}
    for one in answers:
        if one.value > 0 and one.high > 0:
            ratios.setdefault(one.subject, []).append(log((one.low + one.high) / 2 / one.value))
    found = [
        _eye(subject, logs) for subject, logs in ratios.items() if len(logs) >= FEWEST_OF_A_SUBJECT
    ]
    return sorted(found, key=lambda eye: -abs(log(eye.seen_as)))


def _eye(subject: str, logs: Sequence[float]) -> Eye:
    mean = sum(logs) / len(logs)
    spread = sqrt(sum((x - mean) ** 2 for x in logs) / (len(logs) - 1) / len(logs))
    reach = float(scipy.stats.t.ppf(0.95, len(logs) - 1)) * spread
    return Eye(subject, exp(mean), exp(mean - reach), exp(mean + reach), len(logs))
