"""Offers repairs where the tilt shows the need, each computed in the dose that mends best."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.kitchen import kitchen_amount
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.repair import Repair
from fresh_ladle.core.catalogue.roles import roles_of
from fresh_ladle.core.catalogue.school import School, allows
from fresh_ladle.core.catalogue.swap import COURSE_OF_KIND
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.flavor.parameters import MAY_NOT_NOTICE
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.targets import EVEN_ODDS, Target, target_status
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.swaps.apply import less_of
from fresh_ladle.core.swaps.belonging import belonging_of
from fresh_ladle.core.swaps.effect import Effect, effect_of
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between, windows_of

ON_TOP = "on top at the end"
DOSES = (0.25, 0.5, 1.0, 1.5, 2.0)
"""Doses tried; the one that leaves the least drift is offered."""
WORTH_IT = 0.05
"""Steps of total drift that a repair has to take away to be worth a line on screen."""
MENDS_ITS_OWN = 0.15
"""Steps on its own axis that a repair may take away instead, as long as it makes nothing else be
noticed."""


@dataclass(frozen=True, slots=True)
class AppliedRepair:
    """A repair worked out for this recipe. `effect` is None for a way of working, which adds no
    food."""

    repair: Repair
    dose: float
    effect: Effect | None


def with_repair(appraisal: Appraisal, repair: Repair, dose: float, pantry: Pantry) -> Recipe:
    """The recipe with one repair made: a food that is there already gets more, another gets a line
    at the end."""
    recipe = appraisal.recipe
    if repair.to_surface:
        return _salted_on_top(appraisal, repair.to_surface * min(dose, 1.0), pantry)
    mass = appraisal.totals.batch_grams.value
    for addition in repair.additions:
        food, grams = pantry[addition.food], addition.per_100_g * dose * mass / 100
        remarks = (addition.how,) if addition.how else ()
        there = next(
            (
                p
                for p in appraisal.portions
                if p.line.food == food.key and p.line.amount and not p.batch_line
            ),
            None,
        )
        if there is not None and not there.line.preparations and there.known:
            more = kitchen_amount(food, there.measured.value + grams, there.line.remarks)
            recipe = recipe.with_line(replace(recipe.line(there.line.id), amount=more))
            continue
        amount = kitchen_amount(food, grams, remarks)
        wording = f"{amount} {food.kitchen_name}" + (f", {addition.how}" if addition.how else "")
        component = recipe.lines[-1].component if recipe.lines else ""
        line = Line(
            recipe.fresh_ids(1)[0],
            wording,
            amount,
            food.key,
            component,
            remarks=remarks,
            named=food.kitchen_name,
        )
        recipe = recipe.with_added([line])
    return recipe


def _salted_on_top(appraisal: Appraisal, share: float, pantry: Pantry) -> Recipe:
    """The recipe with a share of its largest line of seasoning salt kept for the surface; unchanged
    without salt."""
    recipe = appraisal.recipe
    salts = [
        p
        for p in appraisal.portions
        if p.food is not None
        and p.line.amount
        and "seasoning" in roles_of(p.line, p.food, recipe.kind)
        and ON_TOP not in p.line.remarks
    ]
    if not salts:
        return recipe
    portion = max(salts, key=lambda p: p.measured.value)
    food, line, grams = portion.food, portion.line, portion.measured.value
    assert food is not None
    amount = kitchen_amount(food, grams * share)
    left = less_of(line, food, grams * (1 - share), recipe)
    top = Line(
        recipe.fresh_ids(1)[0],
        f"{amount} {food.kitchen_name}, {ON_TOP}",
        amount,
        food.key,
        line.component,
        remarks=(ON_TOP,),
        named=line.named or food.kitchen_name,
    )
    return recipe.with_line(replace(line, amount=left)).with_added([top])


def needs(appraisal: Appraisal, original: Appraisal, knowledge: Knowledge) -> dict[str, str]:
    """Axes to mend, each `low` or `high`: those tasters would notice. One that has drifted into or
    towards the window of the dish is not called back."""
    change = drift_between(appraisal, original)
    windows = windows_of(appraisal, knowledge)
    found = {}
    for axis, step in change.steps.items():
        side = windows[axis].side_of(appraisal.flavor[axis].value) if axis in windows else "inside"
        drifted = "inside" if abs(step) < MAY_NOT_NOTICE else "low" if step < 0 else "high"
        if drifted != "inside" and side in ("inside", drifted):
            was = (
                windows[axis].side_of(original.flavor[axis].value) if axis in windows else "inside"
            )
            if was in ("inside", drifted):
                found[axis] = drifted
    return found


def repairs_for(
    appraisal: Appraisal,
    original: Appraisal,
    knowledge: Knowledge,
    school: School | None = None,
    targets: Sequence[Target] = (),
) -> list[AppliedRepair]:
    """Repairs that bring the drift down, those of the largest loss first, then ways of working.
    Each in its best dose, of what belongs in the dish, and none that breaks a target which
    holds."""
    wanted = needs(appraisal, original, knowledge)
    if not wanted:
        return []
    before = drift_between(appraisal, original)
    course = COURSE_OF_KIND.get(appraisal.recipe.kind)
    belonging = belonging_of(appraisal, knowledge)
    held = [t for t in targets if not t.soft and _holds(appraisal, t)]
    made, ways = [], []
    for repair in knowledge.repairs:
        if wanted.get(repair.axis) != repair.mends or course not in repair.courses:
            continue
        foods = [knowledge.pantry[a.food] for a in repair.additions]
        if school is not None and not all(allows(school, food) for food in foods):
            continue
        if not all(belonging.takes(food) for food in foods):
            continue
        if not repair.computed:
            ways.append(AppliedRepair(repair, 0.0, None))
            continue
        doses = (1.0,) if repair.to_surface else DOSES
        tried = [(dose, with_repair(appraisal, repair, dose, knowledge.pantry)) for dose in doses]
        effects = {
            dose: effect_of(appraisal, recipe, original, knowledge) for dose, recipe in tried
        }
        effects = {dose: e for dose, e in effects.items() if all(_holds(e.after, t) for t in held)}
        if not effects:
            continue
        dose = min(effects, key=lambda d: effects[d].drift.total)
        if _mends(repair.axis, effects[dose].drift, before):
            made.append(AppliedRepair(repair, dose, effects[dose]))
    loss = {axis: abs(step) for axis, step in before.steps.items()}
    return sorted(made, key=lambda one: (-loss[one.repair.axis], *_left_over(one))) + ways


def _holds(version: Appraisal, target: Target) -> bool:
    return target_status(version.figure_for(target), target).probability >= EVEN_ODDS


def _mends(axis: str, after: Drift, before: Drift) -> bool:
    """Whether a repair leaves less drift in all, or less on its own axis with nothing else newly
    noticed."""
    if after.total < before.total - WORTH_IT:
        return True
    others = (a for a, step in after.steps.items() if a != axis and abs(step) >= MAY_NOT_NOTICE)
    quiet = all(abs(before.steps[a]) >= MAY_NOT_NOTICE for a in others)
    return quiet and abs(after.steps[axis]) < abs(before.steps[axis]) - MENDS_ITS_OWN


def _left_over(made: AppliedRepair) -> tuple[float, str]:
    return (made.effect.drift.total if made.effect else 0.0, made.repair.id)
