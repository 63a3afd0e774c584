"""What next: for a word a taster says, the smallest additions that answer it within what the
targets leave."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import School, allows
from fresh_ladle.core.cautions.allergens import may_come_in
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.plans.ladder import Rung, rungs_of_food
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between

ANSWERED = 1.0
"""Noticeable steps, side by side, from which an addition answers a word."""
TRIFLE = 0.01
"""Share of a limit that does not count as passing it."""
MOST_OF_BOWL = 0.25
"""Share of the bowl up to which something is added at once."""


@dataclass(frozen=True, slots=True)
class Room:
    """What one target still leaves, in the unit of its figure: below 0 where it is passed
    already."""

    target: Target
    left: float


@dataclass(frozen=True, slots=True)
class Suggestion:
    """One addition that answers a word: how much, why, what it does, what each target leaves after
    it. `there` when the bowl holds its food already; `within` when it passes no target that was not
    passed before."""

    food: Food
    rung: Rung
    why: str
    steps: Drift
    rooms: tuple[Room, ...]
    there: bool
    within: bool


def rooms(now: Appraisal, targets: Sequence[Target]) -> list[Room]:
    """What each target leaves a serving, or 100 g."""
    found = []
    for target in targets:
        value = now.figure_for(target).value
        left = target.limit - value if target.side is Side.AT_MOST else value - target.limit
        found.append(Room(target, left))
    return found


def words(knowledge: Knowledge) -> list[str]:
    return list(dict.fromkeys(a.word for a in knowledge.answers))


def what_next(
    word: str,
    now: Appraisal,
    targets: Sequence[Target],
    knowledge: Knowledge,
    school: School | None = None,
    exclude: Collection[str] = (),
) -> list[Suggestion]:
    """The smallest amount of each food that answers, those within the targets first, then what is
    in the bowl already, then what changes the rest least. Empty for a word nobody knows, or an
    empty bowl."""
    if now.totals.batch_grams.value <= 0:
        return []
    found = []
    for answer in knowledge.answers:
        food = knowledge.pantry[answer.food]
        if (
            answer.word != word
            or not may_come_in(food, exclude)
            or (school is not None and not allows(school, food))
        ):
            continue
        one = _smallest(food, answer.axis, answer.up, now, knowledge)
        if one is None:
            continue
        rung, after, steps = one
        left = rooms(after, targets)
        there = any(p.food is not None and p.food.key == food.key for p in now.portions)
        before = rooms(now, targets)
        within = all(
            a.left >= min(0.0, b.left) - TRIFLE * a.target.limit
            for a, b in zip(left, before, strict=True)
        )
        found.append(Suggestion(food, rung, answer.why, steps, tuple(left), there, within))
    return sorted(found, key=lambda s: (not s.within, not s.there, s.steps.total, s.food.key))


def _smallest(
    food: Food, axis: str, up: bool, now: Appraisal, knowledge: Knowledge
) -> tuple[Rung, Appraisal, Drift] | None:
    """The least amount that moves the axis by a noticeable step, found by halving: more moves it
    further."""
    most = MOST_OF_BOWL * now.totals.batch_grams.value
    rungs = [r for r in rungs_of_food(food) if r.grams <= most and not r.odd]
    low, high, best = 0, len(rungs) - 1, None
    while low <= high:
        middle = (low + high) // 2
        after = appraise(with_addition(now, food, rungs[middle]), knowledge)
        steps = drift_between(after, now, Setting.SIDE_BY_SIDE)
        if (steps.steps[axis] if up else -steps.steps[axis]) >= ANSWERED:
            best, high = (rungs[middle], after, steps), middle - 1
        else:
            low = middle + 1
    return best


def with_addition(now: Appraisal, food: Food, rung: Rung) -> Recipe:
    """The bowl with one thing more in it."""
    recipe = now.recipe
    line = Line(recipe.fresh_ids(1)[0], f"{rung.text} {food.kitchen_name}", rung.text, food.key)
    return replace(recipe, lines=(*recipe.lines, replace(line, named=food.kitchen_name)))
