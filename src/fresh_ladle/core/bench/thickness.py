"""Thickness as kitchens can measure it, and how much water a blend takes to run as far as is
wanted.

Line spread: a ring is filled and lifted, and after a minute it is read how far the sample has run
beyond it. With y = ln((ring + run) / ring), free water and standing move y in straight lines:

    y = start + slope · ln(1 + water / blend) − standing · (1 − e^(−hours / 3))

The radius of a heap at rest goes with its yield stress to the power −1/5 (B, slump theory), and the
stress with a power of the solids, hence the logarithm. The recipe gives a first guess of the three
figures with wide doubt; each reading narrows it (Bayes, normal). All first guesses grade C."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import exp, log

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.bench.log import BenchLog
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.standing import Standing
from fresh_ladle.core.ranges import Z90, Range
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal

RING_CM = 2.5
"""Radius of the ring, 5 cm across: the product's own sheet is drawn for it."""
MOST_RUN_CM = 14.0
STAND_HOURS = 3.0
OVERNIGHT_HOURS = 16.0
WARMER_MATTERS = 8.0
"""°C between two readings from which they should not be held together."""
TABLESPOON_G = 14.8


class How(StrEnum):
    """How a reading was taken."""

    SPREAD = "line spread"
    WORDS = "in words"
    SECONDS = "seconds through a hole"


WORDS: Mapping[str, float] = {
    "runs like milk": 12.0,
    "runs like cream": 9.0,
    "falls in a ribbon": 6.0,
    "coats a spoon, drops slowly": 4.0,
    "mounds, then slumps": 2.0,
    "holds a soft shape": 1.0,
    "holds a peak": 0.3,
}
"""From thin to thick: about how many cm each runs (C)."""
SPREAD_OFF, WORD_OFF, SECONDS_OFF = 0.05, 0.15, 0.12
"""How far off y a reading may be, one standard deviation (C)."""
RIBBON_SECONDS = 8.0
"""Seconds in which what runs 6 cm leaves the hole (C); time goes with the fifth power of the
run."""


@dataclass(frozen=True, slots=True)
class Reading:
    """One reading: `value` in cm, in seconds, or the place of the word from 0. `water_share` is the
    water added so far by what it was added to; `hours` since blending; `celsius` where it was
    taken."""

    how: How
    value: float
    water_share: float
    hours: float
    celsius: float | None = None

    @property
    def y(self) -> tuple[float, float]:
        """ln((ring + run) / ring) and how far off it may be."""
        if self.how is How.WORDS:
            return ran(list(WORDS.values())[int(self.value)]), WORD_OFF
        if self.how is How.SECONDS:
            return ran(list(WORDS.values())[2]) - log(self.value / RIBBON_SECONDS) / 5, SECONDS_OFF
        return ran(self.value), SPREAD_OFF


def checked_reading(how: How, value: float, minutes: float, celsius: float | None) -> None:
    """Raises RecipeError, in words, for a reading that cannot be."""
    if how is How.SPREAD and not 0 <= value <= MOST_RUN_CM:
        raise RecipeError(
            f"a run is 0 to {MOST_RUN_CM:g} cm beyond the ring: thinner than that is water"
        )
    if how is How.SECONDS and not 0.5 <= value <= 300:
        raise RecipeError(
            "half a second to 300 seconds: what takes longer does not run through a hole; spread it"
        )
    if how is How.WORDS and int(value) not in range(len(WORDS)):
        raise RecipeError("choose one of the words")
    if not 0 <= minutes <= 5000:
        raise RecipeError("minutes since blending are 0 to 5,000")
    if celsius is not None and not -2 <= celsius <= 70:
        raise RecipeError("a blend is read at −2 to 70 °C")


def ran(run_cm: float) -> float:
    """y of a run."""
    return log((RING_CM + run_cm) / RING_CM)


def run_of(y: float) -> float:
    """The run of a y, in cm: never below 0."""
    return max(0.0, RING_CM * (exp(y) - 1))


@dataclass(frozen=True, eq=False)
class Thickness:
    """What is held true of one recipe's blend: means and covariance of start, slope and
    standing."""

    means: NDArray[np.float64]
    covariance: NDArray[np.float64]
    readings: int

    def run(self, water_share: float, hours: float = 0.0) -> Range:
        """How far it runs in cm, with the 90% range of the blend itself."""
        x = _row(water_share, hours)
        y, off = float(x @ self.means), Z90 * float(np.sqrt(x @ self.covariance @ x))
        return Range(run_of(y), run_of(y - off), run_of(y + off))

    def water_for(self, run_cm: float, hours: float = 0.0) -> Range:
        """Water in all, in g for each g of blend, with which it runs so far; the range is what the
        doubt leaves.

        Below 0 where it is thinner than that already.
        """
        slope = self.means[1]
        bare = _row(0.0, hours)
        level = float(bare @ self.means)
        x = (ran(run_cm) - level) / slope
        at = np.array([1.0, x, bare[2]])
        off = Z90 * float(np.sqrt(at @ self.covariance @ at)) / slope
        low, value, high = (exp(v) - 1 for v in (x - off, x, x + off))
        return Range(value, low, high)

    @property
    def stands(self) -> Range:
        """Water, in g for each g of blend, that standing overnight takes up: so much looser it
        should be."""
        _, slope, standing = self.means
        share = 1 - exp(-OVERNIGHT_HOURS / STAND_HOURS)
        off = Z90 * float(np.sqrt(self.covariance[2, 2]))
        low, value, high = (
            exp(max(0.0, s) * share / slope) - 1 for s in (standing - off, standing, standing + off)
        )
        return Range(value, low, high)


def _row(water_share: float, hours: float) -> NDArray[np.float64]:
    return np.array([1.0, log(1 + water_share), -(1 - exp(-hours / STAND_HOURS))])


FIRST_OFF, SLOPE, SLOPE_OFF = 0.4, 0.9, 0.3


def first_guess(
    blend: Appraisal, standings: Sequence[Standing]
) -> tuple[Thickness, Standing | None]:
    """From the recipe alone: its body, and the standing of what thickens it most, if anything does.

    A body index of 1 runs about 9 cm, one of 12 about 3, one of 60 about 1.4 (kitchen estimate).
    """
    run = 13.0 / (1 + blend.flavor["body"].value) ** 0.55
    found = _thickener(blend, standings)
    water, off = (
        (0.0, 0.02)
        if found is None
        else (found.water_g / 100, (found.high_g - found.low_g) / 100 / (2 * Z90))
    )
    share = 1 - exp(-OVERNIGHT_HOURS / STAND_HOURS)
    standing, standing_off = SLOPE * log(1 + water) / share, SLOPE * off / share
    return (
        Thickness(
            np.array([ran(run), SLOPE, standing]),
            np.diag(np.square([FIRST_OFF, SLOPE_OFF, max(standing_off, 0.02)])),
            0,
        ),
        found,
    )


LEAST_SHARE = 0.04


def _thickener(blend: Appraisal, standings: Sequence[Standing]) -> Standing | None:
    """What of the bowl thickens most on standing, by its share of it."""
    batch = blend.totals.batch_grams.value or 1.0
    shares: dict[str, float] = {}
    # A food that is named stands by its own row, not by that of its group.
    ordered = sorted(standings, key=lambda s: not s.keys)
    for portion in blend.portions:
        food = portion.food
        of = next((s for s in ordered if food is not None and s.is_of(food)), None)
        if of is not None:
            shares[of.id] = shares.get(of.id, 0.0) + portion.in_bowl.value / batch
    large = [s for s in standings if shares.get(s.id, 0.0) >= LEAST_SHARE]
    return max(large, key=lambda s: shares[s.id] * s.water_g, default=None)


def learned(guess: Thickness, readings: Sequence[Reading]) -> Thickness:
    """What is held true after these readings, by normal regression on the first guess."""
    if not readings:
        return guess
    rows = np.stack([_row(r.water_share, r.hours) for r in readings])
    y, off = (np.array(part) for part in zip(*(r.y for r in readings), strict=True))
    weighted = rows.T / off**2
    before = np.linalg.inv(guess.covariance)
    covariance = np.linalg.inv(before + weighted @ rows)
    means = covariance @ (before @ guess.means + weighted @ y)
    # More water never makes it thicker, and a blend never thins by standing.
    means[1], means[2] = max(means[1], 0.2), max(means[2], 0.0)
    return Thickness(means, covariance, guess.readings + len(readings))


def water_and_blend(log: BenchLog, knowledge: Knowledge) -> tuple[float, float]:
    """Grams of water and other thin liquids that went in by the log, and of all else in the
    bowl."""
    weighed = portions(log.bowl(), knowledge.pantry, knowledge.preparations, knowledge.ambiguities)
    said = {f"b{event.seq}" for event in log.counted}
    liquids = [
        p for p in weighed if p.line.id in said and p.food is not None and p.food.group == "liquid"
    ]
    thin = sum(p.in_bowl.value for p in liquids)
    return thin, sum(p.in_bowl.value for p in weighed) - thin


def warmth_apart(readings: Sequence[Reading]) -> bool:
    """Whether readings were taken so far apart in warmth that they should not be held together."""
    warm = [r.celsius for r in readings if r.celsius is not None]
    return bool(warm) and max(warm) - min(warm) >= WARMER_MATTERS
