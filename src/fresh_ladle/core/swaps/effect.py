"""What a change of a recipe does: figures per serving, steps of taste, allergens, cautions, and
traps it walks into."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.allergens import Allergen
from fresh_ladle.core.cautions.caution import RaisedCaution
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Basis, Target, target_status
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.swaps.pitfalls import Pitfall, pitfalls_of_change
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.words.sentences import capitalized


@dataclass(frozen=True, slots=True)
class Effect:
    """A recipe after a change. `steps` say what the cook does, `change` holds differences per
    serving from before it, `drift` the steps of taste from the original."""

    after: Appraisal
    steps: tuple[str, ...]
    change: dict[str, float]
    drift: Drift
    brings: tuple[Allergen, ...]
    new_cautions: tuple[RaisedCaution, ...]
    pitfalls: tuple[Pitfall, ...]


def effect_of(
    before: Appraisal, recipe: Recipe, original: Appraisal, knowledge: Knowledge
) -> Effect:
    """Every difference the changed recipe makes to the one before it, with its taste counted from
    the original."""
    after = appraise(recipe, knowledge)
    had = {a.id for a in before.allergens}
    perhaps = had | {a.id for a in before.may_contain}
    warned = {c.caution.id for c in before.cautions}
    return Effect(
        after,
        tuple(work_steps(before, after.recipe)),
        {n: after.totals.serving[n].value - before.totals.serving[n].value for n in NUTRIENT_IDS},
        drift_between(after, original),
        (
            *(a for a in after.allergens if a.id not in had),
            *(a for a in after.may_contain if a.id not in perhaps),
        ),
        tuple(c for c in after.cautions if c.caution.id not in warned),
        pitfalls_of_change(before, after),
    )


def work_steps(before: Appraisal, after: Recipe) -> list[str]:
    """What the cook does, line by line: less of this, add that."""
    left = {line.id: line for line in after.lines}
    steps = []
    for line in before.recipe.lines:
        name = line.named or line.text
        now = left.get(line.id)
        if now is None:
            steps.append(f"Leave out {line.amount or 'the'} {name.lower()}")
        elif now.amount != line.amount:
            steps.append(f"{capitalized(name)}: {line.said_amount} → {now.amount}")
    present = {line.id for line in before.recipe.lines}
    for line in after.lines:
        if line.id not in present and line.food:
            how = f", {line.remarks[0]}" if line.remarks else ""
            steps.append(f"Add {line.amount} {line.named}{how}")
    return steps


def help_given(effect: Effect, targets: Sequence[Target]) -> float:
    """How far a change helps the open targets, less a tenth for each step of drift.

    Help is the share of each missed distance that it closes; a target that was met and is now
    missed counts as −1."""
    gain = 0.0
    for target in targets:
        now = effect.after.figure_for(target)
        grams = effect.after.totals.serving_grams
        change = effect.change[target.nutrient]
        if target.basis is Basis.HUNDRED_GRAMS and grams > 0:
            change *= 100 / grams
        before = now.value - change
        open_by = before - target.limit if target.side == "at most" else target.limit - before
        if open_by > 0:
            moved = -change if target.side == "at most" else change
            gain += max(-1.0, min(1.0, moved / open_by))
        elif target_status(now, target).by > 0:
            gain -= 1.0
    return gain - 0.1 * effect.drift.total
