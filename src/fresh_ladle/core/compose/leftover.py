"""What is left of a dish as something in the house: it goes into another dish as part of a
batch."""

from __future__ import annotations

from fresh_ladle.core.compose.house import Held
from fresh_ladle.core.foods.food import Food, Grade, Source
from fresh_ladle.core.recipes.recipe import Batch, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal


def leftover(version: Appraisal, ref: str, share: float) -> Held:
    """A share of a batch of a dish, which should go today. Raises RecipeError where the dish weighs
    nothing, or the share is none."""
    recipe, grams = version.recipe, version.totals.batch_grams.value
    if grams <= 0:
        raise RecipeError(f"{recipe.title} weighs nothing yet, so that nothing can be left of it")
    food = Food(f"dish-{ref}", recipe.title, "dish", {}, Source("what is left of it", Grade.C))
    batch = Batch(ref, share, recipe)
    return Held(recipe.title, recipe.title, food, "", share * grams, today=True, batch=batch)
