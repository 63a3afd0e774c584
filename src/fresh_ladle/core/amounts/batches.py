"""Part of a batch of another recipe as a line: half of it, a quarter, or so many grams."""

from __future__ import annotations

from fractions import Fraction

from fresh_ladle.core.amounts.clean import plain_words
from fresh_ladle.core.amounts.kitchen import written
from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.units import grams_in, read_unit
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe, RecipeError


def share_of(text: str, batch_grams: float) -> float:
    """The part of a batch that words mean: `1/2`, `half a batch`, `120 g`.

    Raises BadQuantity when it is neither a part nor a weight, or the weight of the batch is not
    known."""
    quantity, rest = read_quantity(plain_words(text))
    if quantity is None:
        raise BadQuantity(
            f"{text.strip()!r} is not part of a batch: write for example 1/2, 2, or 120 g"
        )
    unit, after = read_unit(rest)
    if unit and (factor := grams_in(unit)) and not after:
        if batch_grams <= 0:
            raise BadQuantity("the batch has no weight yet: give a part of it, such as 1/2")
        return quantity.count.value * factor / batch_grams
    if rest.strip().lower() not in (
        "",
        "batch",
        "batches",
        "of a batch",
        "of the batch",
        "a batch",
    ):
        raise BadQuantity(f"{rest!r} is not understood: write for example 1/2, 2, or 120 g")
    return quantity.count.value


def batch_line(line_id: str, batch: Batch, amount: str = "") -> Line:
    """A line that uses part of a batch; its component carries the name of the recipe used. `amount`
    are the words for it, the part itself where none are given."""
    part = written(Fraction(batch.share).limit_denominator(24))
    amount = amount or f"{part} {'batch' if batch.share <= 1 else 'batches'}"
    return Line(
        line_id,
        f"{amount} of {batch.recipe.title}",
        amount,
        None,
        batch.recipe.title,
        named=batch.recipe.title,
        batch=batch,
    )


def with_batch(recipe: Recipe, recipe_id: str, batch: Batch) -> Recipe:
    """The recipe with part of a batch added. Raises RecipeError when it would come to hold
    itself."""
    if batch.recipe_id == recipe_id or batch.recipe.holds(recipe_id):
        raise RecipeError(
            f"{batch.recipe.title} already holds {recipe.title}: a recipe cannot hold itself"
        )
    return recipe.with_added([batch_line(recipe.fresh_ids(1)[0], batch)])
