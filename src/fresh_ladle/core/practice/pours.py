"""What people of a practice pour when a recipe says a glug: weighed, and offered as the practice's
own measure."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from math import exp, log, sqrt

import scipy

from fresh_ladle.core.foods.food import Food, LooseBasis, LooseMeasure
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.practice.scoring import Calibration

FEWEST = 10
"""Pours from which a measure is offered."""
MOST_GRAMS = 500.0


@dataclass(frozen=True, slots=True)
class Pour:
    """A word to pour by, the food to pour, and the group of foods it stands for."""

    word: str
    food: str
    group: str
    said: str


POURED = (
    Pour("glug", "olive-oil-extra-virgin", "fat-oil", "a glug of olive oil"),
    Pour("drizzle", "olive-oil-extra-virgin", "fat-oil", "a drizzle of olive oil"),
    Pour("splash", "vinegar-red-wine", "acid", "a splash of vinegar"),
    Pour("pinch", "table-salt", "salt-salty", "a pinch of salt"),
    Pour("handful", "parsley", "herb", "a handful of parsley"),
    Pour("handful", "spinach-raw", "leafy", "a handful of salad leaves"),
)


@dataclass(frozen=True, slots=True)
class OwnMeasure:
    """What a word comes to here, in grams, with the range of nine pours in ten, and how many were
    weighed."""

    word: str
    group: str
    grams: float
    low: float
    high: float
    pours: int


def is_trained(ranges: Calibration) -> bool:
    """Whether somebody's ranges hold as they are meant to, so that what they pour is taken as a
    measure."""
    return ranges.verdict in ("as meant", "wider than needed")


def own_measure(word: str, group: str, grams: Sequence[float]) -> OwnMeasure | None:
    """The measure that pours come to: their geometric mean, and where nine of ten further ones
    would lie (Student's, on logarithms). None for too few."""
    if len(grams) < FEWEST:
        return None
    logs = [log(one) for one in grams]
    mean = sum(logs) / len(logs)
    spread = sqrt(sum((x - mean) ** 2 for x in logs) / (len(logs) - 1))
    reach = float(scipy.stats.t.ppf(0.95, len(logs) - 1)) * spread * sqrt(1 + 1 / len(logs))
    return OwnMeasure(word, group, exp(mean), exp(mean - reach), exp(mean + reach), len(logs))


def with_own_measures(pantry: Pantry, measures: Iterable[OwnMeasure]) -> list[Food]:
    """The foods of a pantry that these measures change, changed: those of the same class as the
    food that was poured, for which the table has the same measure."""
    own = {(m.word, m.group): m for m in measures}
    instead: dict[LooseMeasure, LooseMeasure] = {}
    for pour in POURED:
        measure = own.get((pour.word, pour.group))
        if measure is not None and (known := _loose(pantry[pour.food], pour.word)) is not None:
            instead[known] = replace(known, grams=measure.grams, low=measure.low, high=measure.high)
    return [
        replace(food, loose=tuple(instead.get(one, one) for one in food.loose))
        for food in pantry
        if any(one in instead for one in food.loose)
    ]


def _loose(food: Food, word: str) -> LooseMeasure | None:
    return next(
        (one for one in food.loose if one.word == word and one.basis is LooseBasis.PIECE), None
    )
