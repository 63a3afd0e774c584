"""A cut spread over several serving dates, so that no step is noticed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import drift
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

MAX_STEP = 0.95
"""Noticeable steps, cups in hand, that one step may make on any axis; a little under one."""
MAX_STEPS = 40
MIN_STEP_GRAMS = 0.1


@dataclass(frozen=True, slots=True)
class ReductionStep:
    """The line on one date: what to measure, the figure per serving, and the largest step from the
    serving before."""

    on: date
    amount: str
    grams: float
    figure: float
    step: float
    appraisal: Appraisal


def gradual_reduction(
    appraisal: Appraisal,
    line_id: str,
    cut: float,
    first: date,
    days: int,
    nutrient: str,
    knowledge: Knowledge,
) -> list[ReductionStep]:
    """The steps from today's amount down to `cut` less of one line (0.3 is 30% less), `days` apart.

    Each rung is the lowest weight, in grams, that stays within what side-by-side tasters do not
    notice on any axis. Raises RecipeError when the cut or the days cannot be, or the line has no
    weight."""
    portion = appraisal.portion(line_id)
    if not portion.known or portion.measured.value <= 0 or portion.line.batch is not None:
        raise RecipeError(f"{portion.line.text!r} has no weight yet: give an amount first")
    if not 0 < cut <= 0.9:
        raise RecipeError(f"a cut is more than 0 and at most 90%; {cut * 100:g}% was asked")
    if not 1 <= days <= 180:
        raise RecipeError(f"servings are 1 to 180 days apart; {days} was given")
    if not 1900 <= first.year <= 9000:
        raise RecipeError(f"the first date is {first.isoformat()}: choose one of these days")
    goal = portion.measured.value * (1 - cut)
    now, grams, steps = appraisal, portion.measured.value, list[ReductionStep]()
    while grams > goal + MIN_STEP_GRAMS / 2:
        grams, after, step = _lowest(now, line_id, grams, goal, knowledge)
        on = first + timedelta(days=days * len(steps))
        steps.append(
            ReductionStep(
                on, _grams(grams), grams, after.totals.serving[nutrient].value, step, after
            )
        )
        now = after
        if len(steps) > MAX_STEPS:
            raise RecipeError(f"this takes more than {MAX_STEPS} steps: ask for a smaller cut")
    return steps


def _lowest(
    now: Appraisal, line_id: str, grams: float, goal: float, knowledge: Knowledge
) -> tuple[float, Appraisal, float]:
    """The lowest weight above the goal whose step from now is not noticed; bisection down to what a
    scale shows."""

    def at(weight: float) -> tuple[float, Appraisal, float]:
        after = appraise(_with_grams(now.recipe, line_id, weight), knowledge)
        steps = drift(after.flavor, now.flavor, Setting.SIDE_BY_SIDE).steps
        return weight, after, max(steps.values(), key=abs)

    high, low = round(grams / MIN_STEP_GRAMS), round(goal / MIN_STEP_GRAMS)
    best = at(low * MIN_STEP_GRAMS)
    if abs(best[2]) <= MAX_STEP:
        return best
    while high - low > 1:
        middle = (high + low) // 2
        tried = at(middle * MIN_STEP_GRAMS)
        if abs(tried[2]) <= MAX_STEP:
            high, best = middle, tried
        else:
            low = middle
    if abs(best[2]) > MAX_STEP:
        raise RecipeError(
            "a tenth of a gram is already noticed here: make a larger batch, or weigh more finely"
        )
    return best


def _grams(grams: float) -> str:
    return f"{grams:.1f}".rstrip("0").rstrip(".") + " g"


def _with_grams(recipe: Recipe, line_id: str, grams: float) -> Recipe:
    line = recipe.line(line_id)
    return recipe.with_line(replace(line, amount=_grams(grams), settled=line.settled | {"amount"}))
