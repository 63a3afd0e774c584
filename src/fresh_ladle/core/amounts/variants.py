"""One base, several dishes: recipes that hold a batch of another, brought up to that one as it
stands."""

from __future__ import annotations

from dataclasses import replace

from fresh_ladle.core.amounts.batches import batch_line
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe, RecipeError


def batches_of(recipe: Recipe, base_id: int) -> list[Line]:
    """The lines of a recipe that are part of a batch of the base."""
    return [x for x in recipe.lines if x.batch is not None and x.batch.recipe_id == str(base_id)]


def behind(recipe: Recipe, base_id: int, base: Recipe) -> bool:
    """Whether a variant holds the base as it was at another time."""
    return any(x.batch is not None and x.batch.recipe != base for x in batches_of(recipe, base_id))


def with_base(recipe: Recipe, base_id: int, base: Recipe, ref: str) -> Recipe:
    """A variant with the base as it stands now, as much of it as before. Raises RecipeError where
    the base would come to hold the variant."""
    for line in batches_of(recipe, base_id):
        assert line.batch is not None
        recipe = recipe.with_line(batch_line(line.id, replace(line.batch, ref=ref, recipe=base)))
    return recipe


def variant_of(
    base: Recipe, ref: str, title: str, share: float, added: Recipe | None, servings: float
) -> Recipe:
    """A new variant: part of a batch of the base, and what it adds. Raises RecipeError for a name
    that is missing."""
    if not title.strip():
        raise RecipeError("a variant needs a name")
    lines = [batch_line("l1", Batch(ref, share, base))]
    if added is not None:
        lines += [replace(line, id=f"l{n}") for n, line in enumerate(added.lines, start=2)]
    return Recipe(title.strip(), tuple(lines), base.kind, servings, region=base.region)


def added_by(recipe: Recipe, base_id: int) -> list[Line]:
    """What a variant adds to the base."""
    held = {x.id for x in batches_of(recipe, base_id)}
    return [x for x in recipe.lines if x.id not in held]
