"""Numbers as people type them."""

from __future__ import annotations

import re
from math import isfinite

from fresh_ladle.core.recipes.recipe import RecipeError

MAX_ROW_DIGITS = 18
"""Longer numbers are beyond what a row can be called."""


def number_typed(typed: str, name: str) -> float:
    """A number typed with a point or a comma. Raises RecipeError naming the field."""
    try:
        value = float(typed.replace(",", "."))
    except ValueError:
        raise RecipeError(f"{name.lower()}: “{typed[:20]}” is not a number") from None
    if not isfinite(value):
        raise RecipeError(f"{name.lower()}: “{typed[:20]}” is not a number")
    return value


def optional_number(typed: str, name: str) -> float | None:
    """The number typed, or None for a field left empty. Raises RecipeError naming the field."""
    return number_typed(typed, name) if typed.strip() else None


def whole_number(typed: str, name: str, least: int, most: int) -> int:
    """A whole number from `least` to `most`. Raises RecipeError naming the field."""
    number = number_typed(typed, name)
    if number != int(number) or not least <= number <= most:
        raise RecipeError(
            f"{name}: a whole number from {least} to {most}, not {typed.strip()[:12]}"
        )
    return int(number)


def row_id(typed: str) -> int | None:
    """The number of a row as an address or a hidden field holds it; None for anything else."""
    return int(typed) if re.fullmatch(rf"[0-9]{{1,{MAX_ROW_DIGITS}}}", typed) else None
