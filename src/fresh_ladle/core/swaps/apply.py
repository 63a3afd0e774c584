"""Makes a swap on a recipe, in kitchen measures, and finds the swaps that fit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.kitchen import kitchen_amount, scaled
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.swap import Swap
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.recipes.recipe import Line, Recipe, RecipeError
from fresh_ladle.core.swaps.effect import Effect, effect_of, help_given
from fresh_ladle.core.whole.appraisal import Appraisal

SAME_WEIGHT = 0.04
"""Two weights this near each other are kept in the same words."""

NEAR_ENOUGH = 0.12
"""How far an amount in the line's own unit may lie from what was wanted before another unit is
taken."""


@dataclass(frozen=True, slots=True)
class AppliedSwap:
    """A swap made on one line, and what it does. `share` is the part of the line that went out."""

    swap: Swap
    line: Line
    share: float
    effect: Effect


def swaps_for(line: Line, recipe: Recipe, knowledge: Knowledge) -> list[Swap]:
    """The swaps that can be made on a line of this recipe."""
    food = knowledge.pantry.get(line.food)
    if food is None:
        return []
    return [
        s
        for s in knowledge.swaps_out_of(food.key)
        if s.fits(line, food, recipe.kind, knowledge.pantry)
    ]


def with_swap(
    appraisal: Appraisal, line_id: str, swap: Swap, pantry: Pantry, share: float | None = None
) -> Recipe:
    """The recipe with the swap made on one line, all amounts in kitchen measures.

    What comes in follows from the grams that really left after rounding. Raises RecipeError when
    the swap does not fit the line, the share is not between 0 and 1, or the line has no weight yet.
    """
    recipe, portion = appraisal.recipe, appraisal.portion(line_id)
    part = swap.share if share is None else share
    if not 0 < part <= 1:
        raise RecipeError(f"a swap takes out between 0 and all of a line; {part:g} was asked")
    if (
        portion.food is None
        or not portion.known
        or not swap.fits(portion.line, portion.food, recipe.kind, pantry)
    ):
        raise RecipeError(f"{swap.title!r} does not fit the line {portion.line.text!r}")
    line, before_grams = portion.line, portion.measured.value
    if part > 0.999:
        left, removed = None, before_grams
    else:
        left = less_of(line, portion.food, before_grams * (1 - part), recipe)
        removed = before_grams - _measured_grams(replace(line, amount=left), portion.food, recipe)
        if removed <= 0:
            raise RecipeError(f"{line.amount} is too little to take part of it away")
    added = []
    for fresh_id, incoming in zip(recipe.fresh_ids(len(swap.incoming)), swap.incoming, strict=True):
        food = incoming.resolved(portion.food, pantry)
        assert food is not None
        remarks = (incoming.how,) if incoming.how else ()
        amount = (
            _same_amount(line, food, recipe, removed * incoming.per_gram) if left is None else None
        )
        amount = amount or kitchen_amount(food, removed * incoming.per_gram, remarks)
        wording = f"{amount} {food.kitchen_name}" + (f", {incoming.how}" if incoming.how else "")
        done = (incoming.preparation,) if incoming.preparation else ()
        added.append(
            Line(
                fresh_id,
                wording,
                amount,
                food.key,
                line.component,
                done,
                remarks,
                named=food.kitchen_name,
            )
        )
    changed = recipe.with_added(added, after=line.id)
    if left is None:
        return changed.without_line(line.id)
    return changed.with_line(replace(line, amount=left))


def less_of(line: Line, food: Food, grams: float, recipe: Recipe) -> str:
    """The line's amount brought down to about `grams`: in its own unit when that comes near enough,
    else in another."""
    if line.amount:
        portion = _measured_grams(line, food, recipe)
        left = scaled(line.amount, grams / portion)
        if (
            abs(_measured_grams(replace(line, amount=left), food, recipe) / grams - 1)
            <= NEAR_ENOUGH
        ):
            return left
        other = kitchen_amount(food, grams)
        # Where spoons are too coarse to show the cut at all, a scale does.
        return (
            other
            if _measured_grams(replace(line, amount=other), food, recipe) < 0.97 * portion
            else f"{grams:.1f} g"
        )
    return kitchen_amount(food, grams)


def _same_amount(line: Line, food: Food, recipe: Recipe, grams: float) -> str | None:
    """The cook's own words for the amount, when they weigh what is wanted of the food that comes
    in: a can for a can."""
    if not line.amount:
        return None
    try:
        weighed = _measured_grams(replace(line, remarks=()), food, recipe)
    except UnitMisfit:
        return None
    return line.amount if abs(weighed / grams - 1) <= SAME_WEIGHT else None


def _measured_grams(line: Line, food: Food, recipe: Recipe) -> float:
    return weigh(
        parse_amount(line.amount), food, (line.text, *line.remarks), recipe.region
    ).grams.value


def applied_swap(
    appraisal: Appraisal,
    line_id: str,
    swap: Swap,
    knowledge: Knowledge,
    original: Appraisal,
    share: float | None = None,
) -> AppliedSwap:
    """One swap on one line, worked out for this recipe. Raises RecipeError as `with_swap` does."""
    recipe = with_swap(appraisal, line_id, swap, knowledge.pantry, share)
    return AppliedSwap(
        swap,
        appraisal.recipe.line(line_id),
        swap.share if share is None else share,
        effect_of(appraisal, recipe, original, knowledge),
    )


def ranked(made: Sequence[AppliedSwap], targets: Sequence[Target]) -> list[AppliedSwap]:
    """Swaps that help the open targets most for the least drift first."""
    return sorted(made, key=lambda m: (-help_given(m.effect, targets), m.swap.id, m.line.id))
