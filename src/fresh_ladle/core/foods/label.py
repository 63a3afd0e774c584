"""Figures per 100 g from a package label: per serving back to per 100 g, with the rounding undone
into a range."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.nutrient import BY_ID, NUTRIENT_IDS

MAX_PER_100_G = {"energy_kcal": 905.0, "sodium_mg": 40_000.0}


class LabelError(Refused):
    """A figure on the label cannot be; the message names it."""


class Rounding(StrEnum):
    """How the figures were rounded before they were printed."""

    US = "us"
    EU = "eu"
    EXACT = "exact"


@dataclass(frozen=True, slots=True)
class LabelFigures:
    """Figures per 100 g (None where the label is silent) and the ends between which each really
    lies."""

    per_100_g: dict[str, float | None]
    ranges: dict[str, tuple[float, float]]


_US_VITAMINS_AND_MINERALS: dict[str, tuple[float, float]] = {
    "potassium_mg": (5.0, 94.0),
    "calcium_mg": (5.0, 26.0),
    "phosphorus_mg": (5.0, 25.0),
    "magnesium_mg": (2.5, 8.4),
    "iron_mg": (0.05, 0.36),
    "vitamin_c_mg": (0.5, 1.8),
    "vitamin_a_rae_ug": (5.0, 18.0),
    "vitamin_k_ug": (0.5, 2.4),
}
"""Half the step a US label rounds to, and the amount below which it may print 0: 2% of the daily
value (21 CFR 101.9(c)(8)(iii) and the agency's guidance on rounding)."""


def _half_step(nutrient: str, value: float, rounding: Rounding) -> float:
    """How far the true figure may lie from the printed one, in the unit of the figure."""
    if rounding is Rounding.EXACT:
        return 0.0
    if rounding is Rounding.EU:
        if nutrient == "energy_kcal":
            return 0.5
        return 0.5 if value >= 10 or not nutrient.endswith("_g") else 0.05
    if nutrient == "energy_kcal":
        return 5.0 if value == 0 or value > 50 else 2.5
    if nutrient in ("fat_g", "saturated_fat_g"):
        return 0.5 if value == 0 or value >= 5 else 0.25
    if nutrient == "sodium_mg":
        return 5.0 if value == 0 or value > 140 else 2.5
    if nutrient == "cholesterol_mg":
        return 2.0 if value == 0 else 2.5
    if nutrient in _US_VITAMINS_AND_MINERALS:
        half, hidden = _US_VITAMINS_AND_MINERALS[nutrient]
        return hidden if value == 0 else half
    return 0.5


def figures_from_label(
    printed: Mapping[str, float], serving_grams: float, rounding: Rounding
) -> LabelFigures:
    """Turns printed figures per serving into figures per 100 g. For a label per 100 g,
    `serving_grams` is 100.

    Raises LabelError for a negative figure, a serving of no weight, or more than 100 g can hold.
    """
    if not 0 < serving_grams <= 5000:
        raise LabelError(
            f"the serving on the label must weigh more than 0 g; {serving_grams:g} was given"
        )
    factor = 100 / serving_grams
    per_100_g: dict[str, float | None] = dict.fromkeys(NUTRIENT_IDS)
    ranges: dict[str, tuple[float, float]] = {}
    for nutrient, value in printed.items():
        if not value >= 0:
            raise LabelError(f"{BY_ID[nutrient].said} cannot be negative")
        half = _half_step(nutrient, value, rounding)
        per_100_g[nutrient] = value * factor
        most = MAX_PER_100_G.get(nutrient, 100.0 if nutrient.endswith("_g") else 60_000.0)
        if value * factor > most * 1.02 + half * factor:
            raise LabelError(
                f"{BY_ID[nutrient].said}: {value * factor:,.0f} {BY_ID[nutrient].unit} is more than"
                " 100 g can hold; check the serving weight"
            )
        if half:
            ranges[nutrient] = (max(0.0, value - half) * factor, (value + half) * factor)
    return LabelFigures(per_100_g, ranges)
