"""The figures of a serving, or of 100 g, as label rules have them declared: which, in which order,
rounded how."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.labels import (
    KJ_PER_KCAL,
    SALT_PER_SODIUM,
    eu_label,
    us_label,
    whole_label,
)
from fresh_ladle.core.nutrients.totals import Totals


class Regime(StrEnum):
    """Whose rules: US labels declare a serving, EU and UK labels 100 g."""

    US = "us"
    EU = "eu"


DECLARED: dict[Regime, tuple[str, ...]] = {
    Regime.US: (
        "energy_kcal",
        "fat_g",
        "saturated_fat_g",
        "sodium_mg",
        "carbohydrate_g",
        "fiber_g",
        "sugars_g",
        "protein_g",
    ),
    Regime.EU: (
        "energy_kcal",
        "fat_g",
        "saturated_fat_g",
        "carbohydrate_g",
        "sugars_g",
        "fiber_g",
        "protein_g",
        "sodium_mg",
    ),
}
"""Nutrient ids in the order in which each regime declares them (21 CFR 101.9; Regulation (EU)
1169/2011, annex XV)."""


@dataclass(frozen=True, slots=True)
class DeclaredFigure:
    """One figure as declared, with its unit in the text. `value` is the figure before rounding, in
    the unit of the nutrient, per serving or per 100 g as the regime has it."""

    nutrient: str
    name: str
    declared: str
    value: float


def declared_figures(totals: Totals, regime: Regime) -> list[DeclaredFigure]:
    """All figures of a label. A figure from which a line is missing is declared as at least so
    much."""
    return [_declared(totals, regime, nutrient) for nutrient in DECLARED[regime]]


def _declared(totals: Totals, regime: Regime, nutrient: str) -> DeclaredFigure:
    figure, meta = totals.serving[nutrient], BY_ID[nutrient]

    def said(rounded: str) -> str:
        if figure.complete:
            return rounded
        # Less than something, with a line missing, is at least nothing.
        return "at least 0" if rounded.startswith(("less than", "<")) else f"at least {rounded}"

    if regime is Regime.US:
        return DeclaredFigure(
            nutrient,
            meta.name,
            f"{said(us_label(nutrient, figure.value))} {meta.unit}",
            figure.value,
        )
    value = figure.value / totals.serving_grams * 100 if totals.serving_grams else 0.0
    rounded = said(eu_label(nutrient, value))
    if nutrient == "sodium_mg":
        return DeclaredFigure(
            nutrient, f"Salt (sodium × {SALT_PER_SODIUM:g})", f"{rounded} g", value
        )
    if nutrient == "energy_kcal":
        kilojoules = said(whole_label(value * KJ_PER_KCAL))
        return DeclaredFigure(nutrient, "Energy", f"{kilojoules} kJ, {rounded} kcal", value)
    return DeclaredFigure(nutrient, meta.name, f"{rounded} {meta.unit}", value)
