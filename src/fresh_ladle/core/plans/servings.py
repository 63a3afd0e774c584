"""Smaller servings, as a change of their own: what a serving weighs, in spoons where it is
spooned."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from math import floor

from fresh_ladle.core.amounts.kitchen import written
from fresh_ladle.core.nutrients.totals import density_g_per_ml
from fresh_ladle.core.recipes.dishes import SALADS
from fresh_ladle.core.recipes.recipe import MAX_SERVINGS, Recipe
from fresh_ladle.core.whole.appraisal import Appraisal

LEAST_SHARE = 0.6
"""Of a serving; half of it is another thing to eat."""
TBSP_ML = 14.79
SHARES = (0.9, 0.8, 0.75, 2 / 3, 0.6)


def smaller_shares(now: Appraisal) -> Iterator[float]:
    """Shares of a serving that can be served instead, the largest first: by half a spoon where it
    is spooned, by a whole number of servings where they are counted."""
    recipe = now.recipe
    if recipe.serving_ml is not None:
        spoons = floor(2 * recipe.serving_ml / TBSP_ML - 1e-6)
        yield from (n / 2 * TBSP_ML / recipe.serving_ml for n in range(spoons, 0, -1))
    elif recipe.serving_grams is not None:
        yield from SHARES
    else:
        most = min(MAX_SERVINGS, floor(recipe.servings / LEAST_SHARE))
        yield from (recipe.servings / n for n in range(floor(recipe.servings) + 1, int(most) + 1))


def with_smaller_servings(recipe: Recipe, share: float) -> Recipe:
    """The recipe with servings of that share of what they were."""
    if recipe.serving_ml is not None:
        return replace(recipe, serving_ml=recipe.serving_ml * share)
    if recipe.serving_grams is not None:
        return replace(recipe, serving_grams=round(recipe.serving_grams * share, 1))
    return replace(recipe, servings=round(recipe.servings / share, 2), servings_range=None)


def helping_words(now: Appraisal) -> str:
    """`45 g, about 3 Tbsp`: what one serving weighs, in spoons where it is spooned."""
    grams = now.totals.serving_grams
    said = f"{grams:.0f} g"
    if now.recipe.kind in SALADS or grams <= 0:
        return said
    spoons = Fraction(round(2 * grams / density_g_per_ml(now.portions) / TBSP_ML), 2)
    return f"{said}, about {written(spoons)} Tbsp" if spoons > 0 else said


def served_words(now: Appraisal, after: Appraisal) -> str:
    """What the serving becomes and what it was, and how many of them the same bowl then gives."""
    said = f"Serve {helping_words(after)}, instead of {helping_words(now)}"
    before, then = now.totals.servings, after.totals.servings
    return f"{said}: the bowl gives {then:.3g} servings, not {before:.3g}"
