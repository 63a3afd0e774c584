"""Checks the energy of a food against its macronutrients by the general Atwater factors."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food

PROTEIN_KCAL, FAT_KCAL, CARBOHYDRATE_KCAL, FIBER_KCAL, ACID_KCAL = 4.0, 9.0, 4.0, 2.0, 3.0
SHARE, KCAL = 0.20, 20.0
"""A difference is flagged when it is past both."""


@dataclass(frozen=True, slots=True)
class EnergyDisagreement:
    """A food whose energy and macronutrients tell different stories, in kcal per 100 g."""

    food: Food
    stated_kcal: float
    reckoned_kcal: float


def reckoned_energy_kcal(food: Food) -> float | None:
    """Energy per 100 g from protein, fat, available carbohydrate, fiber and acid; None when a
    macronutrient is unknown.

    Acid counts only beyond the carbohydrate that already holds it by difference.
    """
    figures = food.per_100_g
    protein, fat, carbohydrate = figures["protein_g"], figures["fat_g"], figures["carbohydrate_g"]
    if protein is None or fat is None or carbohydrate is None:
        return None
    fiber = min(figures["fiber_g"] or 0.0, carbohydrate)
    acid = max(0.0, (food.taste.acid_pct if food.taste else 0.0) - carbohydrate)
    return (
        PROTEIN_KCAL * protein
        + FAT_KCAL * fat
        + CARBOHYDRATE_KCAL * (carbohydrate - fiber)
        + FIBER_KCAL * fiber
        + ACID_KCAL * acid
    )


def energy_disagreement(food: Food) -> EnergyDisagreement | None:
    """The disagreement, when the stated energy differs by more than 20% and more than 20 kcal."""
    stated, reckoned = food.per_100_g["energy_kcal"], reckoned_energy_kcal(food)
    if stated is None or reckoned is None:
        return None
    gap = abs(stated - reckoned)
    return (
        EnergyDisagreement(food, stated, reckoned)
        if gap > KCAL and gap > SHARE * max(stated, 1.0)
        else None
    )
