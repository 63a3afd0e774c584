"""How many fillings of a blender it takes: two thirds full, half when hot, by volume."""

from __future__ import annotations

from collections.abc import Iterable
from math import ceil

from fresh_ladle.core.amounts.bowl import Portion

FILL, FILL_HOT = 0.67, 0.5
"""How full a jar may be (grade B): hot food steams and lifts the lid."""
CUP_ML = 236.588


def line_millilitres(portion: Portion, grams: float) -> float:
    """The volume of a line, by what a cup of it weighs; a gram to a milliliter where no cup is
    known."""
    cup = portion.food.measure("cup") if portion.food is not None else None
    return grams * CUP_ML / cup.grams if cup is not None else grams


def batch_millilitres(portions: Iterable[Portion], factor: float) -> float:
    """The volume of all lines, each `factor` times what was measured."""
    return sum(line_millilitres(p, p.measured.value * factor) for p in portions)


def fillings(millilitres: float, blender_ml: float, hot: bool) -> int:
    """Equal fillings of a blender that holds something."""
    return max(1, ceil(millilitres / (blender_ml * (FILL_HOT if hot else FILL)) - 1e-9))
