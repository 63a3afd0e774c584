"""Targets per serving or per 100 g, and the verdict on a figure: meets, misses by so much, or too
close to call."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from statistics import NormalDist

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.ranges import Z90

EVEN_ODDS = 0.5
"""Chance from which a target counts as held where no other was asked for."""
"""Figures that a target profile may limit."""


class Side(StrEnum):
    AT_MOST = "at most"
    AT_LEAST = "at least"


class Basis(StrEnum):
    """What a limit is counted on."""

    SERVING = "serving"
    HUNDRED_GRAMS = "100 g"


class Firmness(StrEnum):
    """Whether a plan must keep a limit, or keeps it as far as taste allows."""

    HARD = "hard"
    SOFT = "soft"


@dataclass(frozen=True, slots=True)
class Target:
    """A limit on one figure. Raises ValueError for an unknown figure or a negative limit."""

    nutrient: str
    side: Side
    limit: float
    basis: Basis = Basis.SERVING
    firmness: Firmness = Firmness.HARD

    def __post_init__(self) -> None:
        if self.nutrient not in BY_ID:
            raise Refused(f"no figure is called {self.nutrient!r}")
        if not self.limit >= 0:
            raise Refused(f"a limit cannot be negative: {self.limit}")

    @property
    def soft(self) -> bool:
        return self.firmness is Firmness.SOFT


@dataclass(frozen=True, slots=True)
class StartingPoint:
    """Limits for a use, to begin a profile from. `source` says where they come from, `grade` how
    sure that is."""

    name: str
    eaten_as: str
    targets: tuple[Target, ...]
    source: str
    grade: str


class Verdict(StrEnum):
    MEETS = "meets"
    MISSES = "misses"
    TOO_CLOSE = "too close to call"
    UNKNOWN = "cannot tell"


@dataclass(frozen=True, slots=True)
class TargetStatus:
    """How a figure stands against its target. `by` is the distance past the limit, 0 when it
    meets."""

    target: Target
    verdict: Verdict
    by: float
    probability: float


def share_past(value: float, target: Target) -> float:
    """How far a figure lies past its limit, as a share of the limit; below 0 where it lies
    inside."""
    past = value - target.limit if target.side is Side.AT_MOST else target.limit - value
    return past / max(target.limit, 1e-6)


def probability_below(figure: Figure, limit: float) -> float:
    """Chance that the true figure is below the limit: normal, with its own spread on each side of
    the typical value."""
    distance = limit - figure.value
    spread = (figure.high - figure.value if distance >= 0 else figure.value - figure.low) / Z90
    if spread <= 0:
        return 1.0 if distance >= 0 else 0.0
    return NormalDist().cdf(distance / spread)


def target_status(figure: Figure, target: Target) -> TargetStatus:
    """Judges one figure. An incomplete figure can miss an upper limit, but can never be said to
    meet it."""
    below = probability_below(figure, target.limit)
    upper = target.side is Side.AT_MOST
    probability = below if upper else 1 - below
    past = max(0.0, figure.value - target.limit if upper else target.limit - figure.value)
    if not figure.complete:
        if upper:
            verdict = Verdict.MISSES if figure.low > target.limit else Verdict.UNKNOWN
        else:
            verdict = Verdict.MEETS if figure.low >= target.limit else Verdict.UNKNOWN
    elif figure.low <= target.limit <= figure.high and figure.low < figure.high:
        verdict = Verdict.TOO_CLOSE
    else:
        verdict = Verdict.MISSES if past > 0 else Verdict.MEETS
    return TargetStatus(target, verdict, past, probability)
