"""What one guest eats who takes of everything: each dish, what it comes with, and all of it
together."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.service.day import DishPlan


@dataclass(frozen=True, slots=True)
class PlateRow:
    """One dish on the plate: its grams, and its figures by nutrient id."""

    name: str
    grams: float
    figures: Mapping[str, Figure]


def plate_rows(plans: Sequence[DishPlan]) -> list[PlateRow]:
    """A serving of each dish as it is given here."""
    found = []
    for plan in plans:
        size = plan.dish.size
        totals = plan.dish.appraisal.totals
        figures = {n: _scaled(totals.serving[n], size) for n in HEADLINE}
        found.append(
            PlateRow(plan.dish.appraisal.recipe.title, totals.serving_grams * size, figures)
        )
    return found


def together(rows: Sequence[PlateRow]) -> PlateRow:
    """All rows as one; the doubts of different dishes are taken as independent."""
    figures = {}
    for nutrient in HEADLINE:
        parts = [row.figures[nutrient] for row in rows]
        value = sum(part.value for part in parts)
        down = sqrt(sum((part.value - part.low) ** 2 for part in parts))
        up = sqrt(sum((part.high - part.value) ** 2 for part in parts))
        missing = tuple(name for part in parts for name in part.missing)
        figures[nutrient] = Figure(value, value - down, value + up, missing)
    return PlateRow("together", sum(row.grams for row in rows), figures)


def _scaled(figure: Figure, factor: float) -> Figure:
    return Figure(figure.value * factor, figure.low * factor, figure.high * factor, figure.missing)
