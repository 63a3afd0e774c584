"""Swaps for a goal across the whole recipe: less of a figure, more of it, or without a food or an
allergen."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.swap import Swap
from fresh_ladle.core.cautions.allergens import (
    allergen_group,
    allergen_name,
    is_or_brings,
    may_bring,
    may_come_in,
)
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.swaps.apply import AppliedSwap, applied_swap, swaps_for
from fresh_ladle.core.swaps.belonging import Belonging, belonging_of
from fresh_ladle.core.whole.appraisal import Appraisal

MIN_MOVED = 0.02
"""Share of the figure that a swap has to move to be worth offering for it."""
LESS = ("energy_kcal", "sodium_mg", "fat_g", "saturated_fat_g", "sugars_g")
MORE = ("fiber_g", "protein_g")


class Direction(StrEnum):
    LESS = "less"
    MORE = "more"
    WITHOUT = "without"


@dataclass(frozen=True, slots=True)
class Goal:
    """What is wanted: `what` is a nutrient id, or for `without` an allergen or a food key. Raises
    RecipeError."""

    direction: Direction
    what: str

    def __post_init__(self) -> None:
        if self.direction is not Direction.WITHOUT and self.what not in BY_ID:
            raise RecipeError(f"no figure is called {self.what!r}")

    @classmethod
    def parsed(cls, text: str) -> Goal:
        """`less:sodium_mg`, `more:fiber_g`, `without:sesame`. Raises RecipeError."""
        direction, _, what = text.partition(":")
        if direction not in list(Direction) or not what:
            raise RecipeError(f"{text!r} is not a goal: choose one from the list")
        return cls(Direction(direction), what)

    def __str__(self) -> str:
        return f"{self.direction}:{self.what}"

    def in_words(self, knowledge: Knowledge) -> str:
        if self.direction is Direction.WITHOUT:
            food = knowledge.pantry.get(self.what)
            return f"without {food.kitchen_name if food else allergen_name(self.what)}"
        plain = {"sugars_g": "sugar", "energy_kcal": "calories"}.get(self.what) or BY_ID[
            self.what
        ].said
        return f"{'fewer' if plain == 'calories' else self.direction} {plain}"


def goals_of(appraisal: Appraisal) -> list[Goal]:
    """The goals worth asking for in a recipe: five figures less, two more, and without each
    allergen it holds."""
    without = dict.fromkeys(
        allergen_group(a.id) for a in (*appraisal.allergens, *appraisal.may_contain)
    )
    return [
        *(Goal(Direction.LESS, n) for n in LESS),
        *(Goal(Direction.MORE, n) for n in MORE),
        *(Goal(Direction.WITHOUT, a) for a in without),
    ]


def swaps_to_goal(
    goal: Goal, now: Appraisal, original: Appraisal, knowledge: Knowledge
) -> list[AppliedSwap]:
    """Swaps of any line that serve the goal, the furthest first, between equals the closest in
    taste. What brings in a stranger, another diet or a new allergen comes after all others."""
    made, belonging = [], belonging_of(now, knowledge)
    for line in now.recipe.lines:
        food = knowledge.pantry.get(line.food)
        if food is None or not now.portion(line.id).known:
            continue
        for swap in swaps_for(line, now.recipe, knowledge):
            if not _could_serve(goal, swap, food, knowledge):
                continue
            share = 1.0 if goal.direction is Direction.WITHOUT else None
            try:
                made.append(applied_swap(now, line.id, swap, knowledge, original, share))
            except RecipeError:
                continue
    served = [m for m in made if _moved(goal, m) > 0]
    return sorted(
        served,
        key=lambda m: (
            not belongs(m, belonging, knowledge),
            -round(_moved(goal, m), 2),
            m.effect.drift.total,
            m.swap.id,
        ),
    )


def belongs(made: AppliedSwap, belonging: Belonging, knowledge: Knowledge) -> bool:
    """Whether all that a swap brings in belongs in the dish."""
    food = knowledge.pantry.get(made.line.food)
    incoming = (
        [i.resolved(food, knowledge.pantry) for i in made.swap.incoming] if food is not None else []
    )
    return all(new is None or belonging.takes(new) for new in incoming)


def _could_serve(goal: Goal, swap: Swap, food: Food, knowledge: Knowledge) -> bool:
    """Whether a swap is worth working out for a goal, by what it says it moves or by what it takes
    out."""
    if goal.direction is not Direction.WITHOUT:
        return goal.what in (swap.lowers if goal.direction is Direction.LESS else swap.raises)
    incoming = [i.resolved(food, knowledge.pantry) for i in swap.incoming]
    return (
        (is_or_brings(food, goal.what) or may_bring(food, goal.what))
        and bool(incoming)
        and all(f is None or may_come_in(f, {goal.what}) for f in incoming)
    )


def _moved(goal: Goal, made: AppliedSwap) -> float:
    """How far a swap serves the goal: the share of the figure it moves the right way; without a
    food, 1."""
    if goal.direction is Direction.WITHOUT:
        return 1.0
    change = made.effect.change[goal.what]
    before = made.effect.after.totals.serving[goal.what].value - change
    share = (
        (change if goal.direction is Direction.MORE else -change) / before
        if before > 0
        else float(change > 0)
    )
    return share if share >= MIN_MOVED else 0.0
