"""A plan: plain steps, each of which can be taken alone, and what they do together, worked out exactly."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.catalogue.incoming import Timing
from fresh_ladle.core.cautions.allergens import Allergen
from fresh_ladle.core.cautions.caution import RaisedCaution
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.plans.choices import Choices
from fresh_ladle.core.plans.model import Chosen
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.sentences import capitalized
from fresh_ladle.core.swaps.pitfalls import Pitfall


@dataclass(frozen=True, slots=True)
class PlanStep:
    """One change: what the cook does and why. `line` is the line it changes to `amount` (None takes it out), `added`
    the lines it brings in; either may be missing."""

    id: str
    text: str
    reason: str
    when: str
    line: str | None
    amount: str | None
    added: tuple[Line, ...]


@dataclass(frozen=True, slots=True)
class Plan:
    """Several steps that together meet the targets. `meets` holds the chance for each target; `chance` the least."""

    name: str
    why: str
    steps: tuple[PlanStep, ...]
    after: Appraisal
    drift: Drift
    meets: dict[Target, float]
    brings: tuple[Allergen, ...]
    cautions: tuple[RaisedCaution, ...]
    pitfalls: tuple[Pitfall, ...]

    @property
    def key(self) -> frozenset[str]:
        """The options taken; two plans with the same are near-duplicates."""
        return frozenset(option for step in self.steps for option in step.id.split("+"))

    @property
    def changes(self) -> int:
        """How many changes it makes: less salt with some of it on top counts as two."""
        return len(self.key)

    @property
    def most_steps(self) -> float:
        return max((abs(s) for s in self.drift.steps.values()), default=0.0)


def steps_of(recipe: Recipe, choices: Choices, chosen: Sequence[Chosen]) -> list[PlanStep]:
    """The chosen options as steps in the order of work: what is there first, what comes in at the end last.

    Two options of one line, such as less salt with some of it on top, make one step.
    """
    by_line: dict[str, list[Chosen]] = {}
    for one in chosen:
        by_line.setdefault(one.option.line or one.option.id, []).append(one)
    ids = iter(recipe.fresh_ids(sum(len(c.parts) for c in chosen)))
    order = {line.id: place for place, line in enumerate(recipe.lines)}
    steps = []
    for group in by_line.values():
        step = _step(recipe, choices, group, ids)
        last = any(one.option.timing is Timing.AT_THE_END for one in group)
        steps.append(((last, order.get(step.line or "", len(order))), step))
    return [step for _, step in sorted(steps, key=lambda placed: placed[0])]


def _step(recipe: Recipe, choices: Choices, group: Sequence[Chosen], ids: Iterator[str]) -> PlanStep:
    first = group[0].option
    text, amount, line = [], None, None
    if first.line is not None:
        choice = next(c for c in choices.lines if c.id == first.line)
        line, left = recipe.line(first.line), group[0].left
        amount = choice.grid.text(left) if left else None
        name = line.named or line.text
        text.append(f"{name}: {line.amount} → {amount}" if amount else f"leave out {line.amount} {name}")
    added = []
    for one in group:
        for part, count in zip(one.option.parts, one.parts, strict=True):
            words, how = part.grid.text(count), f", {part.how}" if part.how else ""
            text.append(f"add {words} {part.food.kitchen_name}{how}")
            component = line.component if line is not None else (recipe.lines[-1].component if recipe.lines else "")
            added.append(
                Line(
                    next(ids),
                    f"{words} {part.food.kitchen_name}{how}",
                    words,
                    part.food.key,
                    component,
                    remarks=(part.how,) if part.how else (),
                    named=part.food.kitchen_name,
                )
            )
    said = "; ".join(text)
    return PlanStep(
        "+".join(one.option.id for one in group),
        capitalized(said),
        " ".join(one.option.reason for one in group),
        "; ".join(one.option.when for one in group if one.option.when),
        first.line,
        amount,
        tuple(added),
    )


def with_steps(recipe: Recipe, steps: Sequence[PlanStep], only: Collection[str] | None = None) -> Recipe:
    """The recipe with the steps taken, or only those with the named ids. Raises RecipeError when a line is gone."""
    for step in steps:
        if only is not None and step.id not in only:
            continue
        fresh = recipe.fresh_ids(len(step.added))
        added = [replace(line, id=i) for line, i in zip(step.added, fresh, strict=True)]
        recipe = recipe.with_added(added, after=step.line) if step.line else recipe.with_added(added)
        if step.line is not None:
            line = recipe.line(step.line)
            if step.amount is None:
                recipe = recipe.without_line(line.id)
            else:
                recipe = recipe.with_line(replace(line, amount=step.amount))
    return recipe
