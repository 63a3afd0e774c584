"""What comes in cans: the batch moved to what whole cans give, or the line alone, with the figures
worked out again."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil, floor

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.foods.food import Pack
from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.buying import usual_pack
from fresh_ladle.core.service.scaling import MOST_SERVINGS
from fresh_ladle.core.whole.appraisal import Appraisal

NEAR_WHOLE = 0.03
"""Of a can: nearer than this, the batch takes whole cans as it is."""


@dataclass(frozen=True, slots=True)
class WholeChoice:
    """Whole cans for one line. `servings` are those that the batch then makes where all of it is
    moved; `recipe` is the dish where only this line is, and `figures` pair a serving of now with
    one of that, by nutrient id."""

    line: str
    name: str
    pack: str
    needed: float
    cans: int
    servings: int
    recipe: Recipe
    figures: dict[str, tuple[Figure, Figure]]


def whole_choices(
    dish: Appraisal,
    factor: float,
    servings: float,
    region: Region,
    appraise: Callable[[Recipe], Appraisal],
) -> list[WholeChoice]:
    """For each line from cans that takes no whole number of them: the next fewer and the next more.
    `factor` is how many times the recipe is made for so many `servings`."""
    found = []
    for portion in dish.portions:
        pack = _can_of(portion, region)
        if pack is None or portion.batch_line is not None:
            continue
        needed = portion.measured.value * factor / pack.grams
        if abs(needed - round(needed)) < NEAR_WHOLE:
            continue
        for cans in (floor(needed), ceil(needed)):
            fed = floor(servings * cans / needed + 1e-6)
            if cans and 1 <= fed <= MOST_SERVINGS:
                recipe = _with_cans(dish.recipe, portion, cans * pack.grams / factor)
                figures = _figures(dish, appraise(recipe))
                name = portion.line.named or portion.line.text
                found.append(
                    WholeChoice(
                        portion.line.id, name, pack.pack, needed, cans, fed, recipe, figures
                    )
                )
    return found


def _can_of(portion: Portion, region: Region) -> Pack | None:
    food = portion.food
    if (
        food is None
        or not portion.known
        or not food.form.startswith("canned")
        or portion.measured.value <= 0
    ):
        return None
    return usual_pack(food, region)


def _with_cans(recipe: Recipe, portion: Portion, grams: float) -> Recipe:
    """The recipe with so many grams on one line, all else as it was."""
    return recipe.with_line(portion.line.with_amount(f"{grams:.0f} g"))


def _figures(before: Appraisal, after: Appraisal) -> dict[str, tuple[Figure, Figure]]:
    return {n: (before.totals.serving[n], after.totals.serving[n]) for n in HEADLINE}
