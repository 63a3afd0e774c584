"""Rounding of figures for cards: one function per label regime. Sums are always made on unrounded
figures."""

from __future__ import annotations

from collections.abc import Callable
from decimal import ROUND_HALF_UP, Decimal

from fresh_ladle.core.errors import Refused

SALT_PER_SODIUM = 2.5
KJ_PER_KCAL = 4.184


def _nearest(value: float, step: float) -> float:
    """Round half up, as a person with a pencil does."""
    steps = (Decimal(repr(value)) / Decimal(repr(step))).quantize(
        Decimal(1), rounding=ROUND_HALF_UP
    )
    return float(steps * Decimal(repr(step)))


def _plain(value: float) -> str:
    return f"{value:,.10f}".rstrip("0").rstrip(".")


def us_label(nutrient: str, value: float) -> str:
    """A figure as US labels declare it (21 CFR 101.9(c)); minerals and vitamins after the guidance
    of 2016.

    `value` in the unit of the nutrient id. Raises ValueError for a negative figure.
    """
    if value < 0:
        raise Refused(f"{nutrient} cannot be negative")
    return _US.get(nutrient, whole_label)(value)


def _us_energy(value: float) -> str:
    if value < 5:
        return "0"
    return _plain(_nearest(value, 5 if value <= 50 else 10))


def _us_fat(value: float) -> str:
    if value < 0.5:
        return "0"
    return _plain(_nearest(value, 0.5 if value < 5 else 1))


def _us_carbohydrate(value: float) -> str:
    if value < 0.5:
        return "0"
    return "less than 1" if value < 1 else _plain(_nearest(value, 1))


def _us_sodium(value: float) -> str:
    if value < 5:
        return "0"
    return _plain(_nearest(value, 5 if value <= 140 else 10))


def _us_cholesterol(value: float) -> str:
    if value < 2:
        return "0"
    return "less than 5" if value <= 5 else _plain(_nearest(value, 5))


def _us_ten(value: float) -> str:
    return _plain(_nearest(value, 10))


def _us_tenth(value: float) -> str:
    return _plain(_nearest(value, 0.1))


def whole_label(value: float) -> str:
    """A figure to the nearest whole, half up."""
    return _plain(_nearest(value, 1))


_US: dict[str, Callable[[float], str]] = {
    "energy_kcal": _us_energy, "fat_g": _us_fat, "saturated_fat_g": _us_fat,
    "sodium_mg": _us_sodium,
    "carbohydrate_g": _us_carbohydrate, "fiber_g": _us_carbohydrate, "sugars_g": _us_carbohydrate,
    "added_sugars_g": _us_carbohydrate, "protein_g": _us_carbohydrate,
    "cholesterol_mg": _us_cholesterol,
    "potassium_mg": _us_ten, "calcium_mg": _us_ten, "iron_mg": _us_tenth,
}  # fmt: skip


def eu_label(nutrient: str, value: float) -> str:
    """A figure as EU and UK labels declare it (Commission guidance of 2012 on rounding). Sodium
    goes in as mg and comes out as grams of salt. Raises ValueError for a negative figure."""
    if value < 0:
        raise Refused(f"{nutrient} cannot be negative")
    if nutrient == "sodium_mg":
        return _eu_salt(value / 1000 * SALT_PER_SODIUM)
    if nutrient == "saturated_fat_g":
        return _eu_grams(value, 0.1)
    if nutrient.endswith("_g"):
        return _eu_grams(value, 0.5)
    return whole_label(value)


def _eu_grams(value: float, least: float) -> str:
    if value <= least:
        return f"<{least:g}" if value > 0 else "0"
    return _plain(_nearest(value, 1 if value >= 10 else 0.1))


def _eu_salt(grams: float) -> str:
    if grams <= 0.0125:
        return "<0.01" if grams > 0 else "0"
    return _plain(_nearest(grams, 0.1 if grams >= 1 else 0.01))
