"""Exercises about a change: which swap saves more, which will be tasted, how many steps a line more
or less is."""

from __future__ import annotations

from dataclasses import replace
from random import Random

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.kitchen import scaled
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.flavor.drift import noticed_words
from fresh_ladle.core.flavor.parameters import BY_ID as AXIS
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.core.practice.dishes import chosen, line_name
from fresh_ladle.core.practice.exercise import Exercise, NoExercise
from fresh_ladle.core.practice.ground import Ground
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.swaps.apply import AppliedSwap
from fresh_ladle.core.whole.balance import drift_between, drift_ranges

SAVED = ("sodium_mg", "fat_g", "energy_kcal")
LEAST_STEPS, CLEARLY_MORE = 1.0, 1.0
FACTORS = ((0.5, "halved"), (2.0, "doubled"), (3.0, "three times as much"))


def _swapped(dice: Random, ground: Ground) -> tuple[str, str, list[AppliedSwap]]:
    """A recipe, one of its lines, and three swaps of it or more. Raises NoExercise."""
    place, dish = ground.dish(dice)
    lines = [p for p in dish.portions if p.known and not p.batch_line and not p.other_readings]
    if not lines:
        raise NoExercise("nothing of it can be swapped")
    portion = dice.choice(lines)
    made = ground.swaps(place, portion.line.id)
    named: dict[str, AppliedSwap] = {}
    for one in made:
        named.setdefault(one.swap.title, one)
    if len(named) < 3:
        raise NoExercise("there are too few swaps of it")
    return dish.recipe.title, line_name(portion), list(named.values())


def saves(dice: Random, ground: Ground) -> Exercise:
    """Which of three swaps of a line takes out more of a figure."""
    title, line, made = _swapped(dice, ground)
    nutrient = dice.choice(SAVED)
    amounts = {one.swap.title: saving(one, nutrient) for one in made}
    order = sorted(made, key=lambda one: -amounts[one.swap.title].value)
    best = next((one for one in order if amounts[one.swap.title].value > 0), None)
    if best is None:
        raise NoExercise("none of them saves any")
    top = amounts[best.swap.title]
    wrong = [o.swap.title for o in order if o is not best and amounts[o.swap.title].high < top.low]
    if len(wrong) < 2 or order[0] is not best:
        raise NoExercise("none saves more beyond doubt")
    picked = dice.sample(wrong, 2)
    choices, right = chosen(dice, best.swap.title, picked)
    name, unit = BY_ID[nutrient].said, BY_ID[nutrient].unit
    return Exercise(
        "saves",
        f"{title}: which swap of the {line} takes out the most {name}?",
        unit,
        top,
        tuple(
            f"{t}: {nutrient_amount(nutrient, amounts[t].value)} {unit} less in a serving"
            for t in (best.swap.title, *picked)
        ),
        f"{title} {line} {nutrient}",
        name,
        choices,
        right,
    )


def saving(one: AppliedSwap, nutrient: str) -> Range:
    """What a swap takes out of a serving, with the doubt of the line it is made on: what comes in
    follows from what goes."""
    value = -one.effect.change[nutrient]
    weight = one.effect.after
    before = next((p for p in weight.portions if p.line.id == one.line.id), None)
    counted = before.counted if before is not None and before.counted.value > 0 else None
    down, up = (counted.down_share, counted.up_share) if counted else (0.2, 0.2)
    ends = sorted((value * (1 - down), value * (1 + up)))
    return Range(value, min(ends[0], value), max(ends[1], value))


def tasted(dice: Random, ground: Ground) -> Exercise:
    """Which of three swaps of a line will be tasted the most."""
    title, line, made = _swapped(dice, ground)
    order = sorted(made, key=lambda one: -one.effect.drift.total)
    most = order[0]
    wrong = [
        one for one in order[1:] if one.effect.drift.total <= most.effect.drift.total - CLEARLY_MORE
    ]
    if len(wrong) < 2 or most.effect.drift.total < LEAST_STEPS:
        raise NoExercise("none stands out")
    picked = dice.sample(wrong, 2)
    choices, right = chosen(dice, most.swap.title, [one.swap.title for one in picked])
    told = [f"{one.swap.title}: {_tasted_words(one)}" for one in (most, *picked)]
    return Exercise(
        "tasted",
        f"{title}: which swap of the {line} will be tasted the most?",
        "steps",
        Range.exact(most.effect.drift.total),
        tuple(told),
        f"{title} {line}",
        "taste",
        choices,
        right,
    )


def _tasted_words(one: AppliedSwap) -> str:
    drift = one.effect.drift
    return f"{drift.total:.1f} steps; {', '.join(noticed_words(drift)) or 'nothing stands out'}"


def steps(dice: Random, ground: Ground) -> Exercise:
    """How many noticeable steps a line more or less is."""
    _, dish = ground.dish(dice)
    known = [p for p in dish.portions if p.known and not p.batch_line and _has_count(p.line.amount)]
    if not known:
        raise NoExercise("no line has an amount")
    portion = dice.choice(known)
    factor, said = dice.choice(FACTORS)
    try:
        amount = scaled(portion.line.amount, factor)
    except BadQuantity:
        raise NoExercise("its amount cannot be changed") from None
    changed = dish.recipe.with_line(replace(portion.line, amount=amount))
    after = ground.work_out(changed)
    drift = drift_between(after, dish)
    axis = max(drift.steps, key=lambda a: abs(drift.steps[a]))
    step = drift.steps[axis]
    if abs(step) < LEAST_STEPS:
        raise NoExercise("nobody would notice")
    low, high = drift_ranges(after, dish)[axis]
    ends = (low, high) if step > 0 else (-high, -low)
    name = AXIS[axis].name
    return Exercise(
        "steps",
        f"{dish.recipe.title}: the {line_name(portion)} is {said}. By how many noticeable steps"
        f" does {name} change, from memory?",
        "steps",
        Range(abs(step), max(0.0, min(ends[0], abs(step))), max(ends[1], abs(step))),
        (
            f"{line_name(portion)}: {portion.line.amount} → {amount}",
            (
                f"{name}: {abs(step):.1f} steps {'more' if step > 0 else 'less'},"
                f" {max(0.0, ends[0]):.1f} to {ends[1]:.1f}"
            ),
        ),
        f"{dish.recipe.title} {portion.line.id} {factor:g}",
        name,
    )


def _has_count(amount: str) -> bool:
    try:
        return parse_amount(amount).count is not None
    except BadQuantity:
        return False
