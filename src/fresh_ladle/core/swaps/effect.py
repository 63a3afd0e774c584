"""Makes a swap on a recipe, in kitchen measures, and works out what it does."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.kitchen import kitchen_amount, scaled
from fresh_ladle.core.amounts.reading import amount_of
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.appraisal import Appraisal, Knowledge, appraise
from fresh_ladle.core.cautions.allergens import Allergen
from fresh_ladle.core.cautions.caution import RaisedCaution
from fresh_ladle.core.flavor.drift import Drift, drift
from fresh_ladle.core.flavor.stimuli import Stimulus
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Target, verdict
from fresh_ladle.core.recipe import Line, Recipe, RecipeError
from fresh_ladle.core.swaps.swap import Swap

SAME_WEIGHT = 0.04
"""Two weights this near each other are kept in the same words."""


@dataclass(frozen=True, slots=True)
class SwapEffect:
    """A swap made on one line: the recipe after it and every difference it makes, per serving."""

    swap: Swap
    line: Line
    share: float
    after: Appraisal
    steps: tuple[str, ...]
    change: dict[str, float]
    drift: Drift
    brings: tuple[Allergen, ...]
    new_cautions: tuple[RaisedCaution, ...]


def swaps_for(line: Line, recipe: Recipe, knowledge: Knowledge) -> list[Swap]:
    """The swaps that can be made on a line of this recipe."""
    food = knowledge.pantry.get(line.food)
    if food is None:
        return []
    return [s for s in knowledge.swaps if s.fits(line, food, recipe.kind, knowledge.pantry)]


def with_swap(appraisal: Appraisal, line_id: str, swap: Swap, pantry: Pantry, share: float | None = None) -> Recipe:
    """The recipe with the swap made on one line, all amounts in kitchen measures.

    What comes in follows from the grams that really left after rounding. Raises RecipeError when the swap does not fit
    the line, the share is not between 0 and 1, or the line has no weight yet.
    """
    recipe, portion = appraisal.recipe, appraisal.portion(line_id)
    part = swap.share if share is None else share
    if not 0 < part <= 1:
        raise RecipeError(f"a swap takes out between 0 and all of a line; {part:g} was asked")
    if portion.food is None or not portion.known or not swap.fits(portion.line, portion.food, recipe.kind, pantry):
        raise RecipeError(f"{swap.title!r} does not fit the line {portion.line.text!r}")
    line, before_grams = portion.line, portion.measured.value
    if part > 0.999:
        left, removed = None, before_grams
    else:
        left = scaled(line.amount, 1 - part) if line.amount else kitchen_amount(portion.food, before_grams * (1 - part))
        if left == line.amount:
            left = kitchen_amount(portion.food, before_grams * (1 - part))
        removed = before_grams - _measured_grams(replace(line, amount=left), portion.food, recipe)
    added = []
    for fresh_id, incoming in zip(recipe.fresh_ids(len(swap.incoming)), swap.incoming, strict=True):
        food = incoming.resolved(portion.food, pantry)
        assert food is not None
        said = (incoming.how,) if incoming.how else ()
        amount = _same_amount(line, food, recipe, removed * incoming.per_gram) if left is None else None
        amount = amount or kitchen_amount(food, removed * incoming.per_gram, said)
        wording = f"{amount} {food.kitchen_name}" + (f", {incoming.how}" if incoming.how else "")
        done = (incoming.preparation,) if incoming.preparation else ()
        added.append(Line(fresh_id, wording, amount, food.key, line.component, done, said, named=food.kitchen_name))
    changed = recipe.with_added(added, after=line.id)
    if left is None:
        return changed.without_line(line.id)
    return changed.with_line(replace(line, amount=left))


def _same_amount(line: Line, food: Food, recipe: Recipe, grams: float) -> str | None:
    """The cook's own words for the amount, when they weigh what is wanted of the food that comes in: a can for a can."""
    if not line.amount:
        return None
    try:
        weighed = _measured_grams(replace(line, said=()), food, recipe)
    except UnitMisfit:
        return None
    return line.amount if abs(weighed / grams - 1) <= SAME_WEIGHT else None


def _measured_grams(line: Line, food: Food, recipe: Recipe) -> float:
    return weigh(amount_of(line.amount), food, (line.text, *line.said), recipe.region).grams.value


def swap_effect(
    appraisal: Appraisal,
    line_id: str,
    swap: Swap,
    knowledge: Knowledge,
    original: dict[str, Stimulus],
    share: float | None = None,
) -> SwapEffect:
    """What a swap does to this recipe: figures per serving, steps of taste from the original, allergens and cautions."""
    before_line = appraisal.recipe.line(line_id)
    recipe = with_swap(appraisal, line_id, swap, knowledge.pantry, share)
    after = appraise(recipe, knowledge)
    change = {n: after.totals.serving[n].value - appraisal.totals.serving[n].value for n in NUTRIENT_IDS}
    had = {a.id for a in appraisal.allergens}
    warned = {c.caution.id for c in appraisal.cautions}
    return SwapEffect(
        swap, before_line, swap.share if share is None else share, after, tuple(_steps(appraisal, recipe, line_id)),
        change, drift(after.flavor, original),
        tuple(a for a in after.allergens if a.id not in had),
        tuple(c for c in after.cautions if c.caution.id not in warned),
    )  # fmt: skip


def _steps(appraisal: Appraisal, after: Recipe, line_id: str) -> list[str]:
    """What the cook does, line by line: less of this, add that."""
    before = appraisal.portion(line_id)
    name = before.line.named or before.line.text
    name = name[0].upper() + name[1:]
    had = before.line.amount or "to taste"
    left = next((line for line in after.lines if line.id == line_id), None)
    steps = [f"{name}: {had} → {left.amount}" if left else f"Leave out {had} {name.lower()}"]
    present = {line.id for line in appraisal.recipe.lines}
    for line in after.lines:
        if line.id not in present and line.food:
            how = f", {line.said[0]}" if line.said else ""
            steps.append(f"Add {line.amount} {line.named}{how}")
    return steps


def ranked(effects: Sequence[SwapEffect], targets: Sequence[Target]) -> list[SwapEffect]:
    """Swaps that help the open targets most for the least drift first.

    Help is the share of each missed distance that the swap closes; each step of total drift counts against a tenth of it.
    """

    def worth(effect: SwapEffect) -> float:
        gain = 0.0
        for target in targets:
            now = effect.after.totals.serving[target.nutrient]
            before = now.value - effect.change[target.nutrient]
            open_by = before - target.limit if target.side == "at most" else target.limit - before
            if open_by > 0:
                moved = -effect.change[target.nutrient] if target.side == "at most" else effect.change[target.nutrient]
                gain += max(-1.0, min(1.0, moved / open_by))
            elif verdict(now, target).by > 0:
                gain -= 1.0
        return gain - 0.1 * effect.drift.total

    return sorted(effects, key=lambda e: (-worth(e), e.swap.id))
