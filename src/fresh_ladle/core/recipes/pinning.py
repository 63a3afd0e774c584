"""Pins the figures a version was computed with, so that a later change of a food never changes it
silently."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.recipe import Recipe

Pinned = Mapping[str, Mapping[str, float | None]]
"""Figures per 100 g by nutrient id, by food key."""


def foods_of(recipe: Recipe) -> list[str]:
    """Keys of all foods in a recipe and in the batches it uses."""
    keys: dict[str, None] = {}
    for line in recipe.lines:
        if line.food:
            keys[line.food] = None
        if line.batch is not None:
            keys.update(dict.fromkeys(foods_of(line.batch.recipe)))
    return list(keys)


def pinned_figures(recipe: Recipe, pantry: Pantry) -> dict[str, dict[str, float | None]]:
    """The figures of today of every food of a recipe."""
    return {key: dict(pantry[key].per_100_g) for key in foods_of(recipe) if key in pantry}


def changed_foods(pinned: Pinned, pantry: Pantry) -> list[Food]:
    """Foods whose figures of today differ from the pinned ones, with the pinned figures; a food
    that is gone is left out. A figure that was not carried yet when the version was pinned is the
    one of today."""
    changed = []
    for key, figures in pinned.items():
        food = pantry.get(key)
        if food is None:
            continue
        carried = {
            nutrient: figure for nutrient, figure in figures.items() if nutrient in food.per_100_g
        }
        if any(food.per_100_g[nutrient] != figure for nutrient, figure in carried.items()):
            changed.append(replace(food, per_100_g={**food.per_100_g, **carried}))
    return changed
