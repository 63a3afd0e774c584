"""The Monte Carlo twin of the first-order ranges: many imagined batches of the same recipe."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.totals import ambiguity_variances, composition_cv, line_figures
from fresh_ladle.core.ranges import Z90

Matrix = NDArray[np.float64]


def per_gram(portions: Sequence[Portion]) -> Matrix:
    """Figures per gram counted, shape (lines, nutrients); unknown figures are 0 here, so a sum
    holds at least that."""
    matrix = np.zeros((len(portions), len(NUTRIENT_IDS)))
    for row, portion in enumerate(portions):
        if portion.known and portion.food is not None:
            for column, nutrient in enumerate(NUTRIENT_IDS):
                matrix[row, column] = (
                    (portion.food.per_100_g[nutrient] or 0.0)
                    / 100
                    * portion.factors.get(nutrient, 1.0)
                )
    return matrix


def simulated_batches(portions: Sequence[Portion], draws: int, seed: int) -> Matrix:
    """Figures of many imagined batches, shape (draws, nutrients): the Monte Carlo twin of the
    first-order ranges.

    Grams are drawn from a normal with the line's own spread below and above its typical value,
    composition from a normal with the default coefficient of variation of the food."""
    rng = np.random.default_rng(seed)
    matrix = per_gram(portions)
    typical = np.array([p.counted.value for p in portions])
    down = np.array([(p.counted.value - p.counted.low) / Z90 for p in portions])
    up = np.array([(p.counted.high - p.counted.value) / Z90 for p in portions])
    normal = rng.standard_normal((draws, len(portions)))
    grams = np.maximum(typical + np.where(normal < 0, down, up) * normal, 0.0)
    cvs = np.array([[composition_cv(p, n) for n in NUTRIENT_IDS] for p in portions]).reshape(
        len(portions), len(NUTRIENT_IDS)
    )
    noise = np.maximum(
        1.0 + cvs[None] * rng.standard_normal((draws, len(portions), len(NUTRIENT_IDS))), 0.0
    )
    batches = np.einsum("dl,dln,ln->dn", grams, noise, matrix)
    return np.asarray(batches + _food_doubt(portions, rng.standard_normal((draws, len(portions)))))


def _food_doubt(portions: Sequence[Portion], normal: Matrix) -> Matrix:
    """What not knowing which food a line means adds to each batch, shape (draws, nutrients)."""
    added = np.zeros((normal.shape[0], len(NUTRIENT_IDS)))
    for row, portion in enumerate(portions):
        if portion.other_readings or (portion.food is not None and portion.food.ranges):
            values = line_figures(portion)
            for column, nutrient in enumerate(NUTRIENT_IDS):
                down, up = np.sqrt(ambiguity_variances(portion, values[nutrient] or 0.0, nutrient))
                added[:, column] += np.where(normal[:, row] < 0, down, up) * normal[:, row]
    return added
