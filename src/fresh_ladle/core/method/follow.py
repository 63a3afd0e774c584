"""A recipe as its method makes it: the method read on its lines, and each line with what becomes of
it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.preparation import PreparationTable
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.method.lexicon import Lexicon
from fresh_ladle.core.method.process import Outcome, Process
from fresh_ladle.core.method.read import Ground, read_process
from fresh_ladle.core.method.separating import ShareTable
from fresh_ladle.core.method.states import preparations_in_all
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.reached import Reached
from fresh_ladle.core.recipes.recipe import Line, Recipe

UNKNOWN_IS_AS = "celery"
"""The food as which one that is not known goes through a method: solid, neither dry nor cooked by
anything."""
NO_METHOD = Process((), (), {})


@dataclass(frozen=True, eq=False)
class MethodGround:
    """What is needed to follow a method: the foods, what preparing does to them, verbs, and what
    parts from what."""

    pantry: Pantry
    preparations: PreparationTable
    lexicon: Lexicon
    shares: ShareTable


@dataclass(frozen=True, slots=True)
class Made:
    """A recipe whose lines know what becomes of them, and the process that says so."""

    recipe: Recipe
    process: Process


@lru_cache(maxsize=512)
def as_made(recipe: Recipe, ground: MethodGround, former: tuple[tuple[str, str], ...] = ()) -> Made:
    """Follows the method of a recipe, and those of the recipes it uses part of; `former` are the
    names that lines had before, by id, which the words of the method may still use. A recipe
    without a method is as its lines say."""
    inside = [
        replace(
            line,
            batch=replace(line.batch, recipe=as_made(line.batch.recipe, ground).recipe),
            reached=None,
        )
        if line.batch is not None
        else replace(line, reached=None)
        for line in recipe.lines
    ]
    recipe = replace(recipe, lines=tuple(inside))
    if not recipe.method:
        return Made(recipe, NO_METHOD)
    process = _process(recipe, ground, dict(former))
    lines = [
        replace(line, reached=reached_by(process.outcomes[line.id], line, ground))
        if line.batch is None
        else line
        for line in recipe.lines
    ]
    return Made(replace(recipe, lines=tuple(lines)), process)


def _process(recipe: Recipe, ground: MethodGround, former: Mapping[str, str]) -> Process:
    weighed = portions(recipe, ground.pantry, ground.preparations)
    grams: dict[str, float] = {}
    for portion in weighed:
        line_id = portion.batch_line or portion.line.id
        grams[line_id] = grams.get(line_id, 0.0) + portion.measured.value
    foods = {line.id: ground.pantry.get(line.food) for line in recipe.lines}

    def share_of_line(line: Line, amount: str) -> Range | None:
        food, whole = foods[line.id], grams.get(line.id, 0.0)
        if food is None or whole <= 0:
            return None
        try:
            part = weigh(parse_amount(amount), food, (), recipe.region).grams.value / whole
        except (UnitMisfit, BadQuantity):
            return None
        one = min(1.0, part)
        return Range(one, one, one)

    read_with = Ground(
        ground.lexicon, ground.shares, ground.pantry.get(UNKNOWN_IS_AS), share_of_line
    )
    return read_process(
        recipe.lines, foods, recipe.method, read_with, grams, former, recipe.rulings
    )


def reached_by(outcome: Outcome, line: Line, ground: MethodGround) -> Reached | None:
    """What an outcome makes of a line: its own, or one that goes the same way. None for a line not
    understood."""
    food = ground.pantry.get(line.food)
    if food is None:
        return None
    known = ground.preparations.labels
    done = tuple(p for p in preparations_in_all(outcome.done, line, food) if p in known)
    return Reached(outcome.eaten, outcome.weight, done, outcome.done)
