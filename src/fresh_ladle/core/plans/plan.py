"""A plan: plain steps, each of which can be taken alone, and what they do together, worked out
exactly."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.catalogue.incoming import Timing
from fresh_ladle.core.cautions.allergens import Allergen
from fresh_ladle.core.cautions.caution import RaisedCaution
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.plans.decision import Lever, decision
from fresh_ladle.core.plans.move import Move, added_line
from fresh_ladle.core.plans.servings import served_words, with_smaller_servings
from fresh_ladle.core.recipes.recipe import Line, Recipe, RecipeError
from fresh_ladle.core.swaps.pitfalls import Pitfall
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import capitalized

NEARLY = 0.9
"""Share of what a swap can take at most from which it is said to be as far as it goes."""


@dataclass(frozen=True, slots=True)
class PlanStep:
    """One change: what the cook does and why. `line` is the line it changes to `amount` (None takes
    it out), `added` the lines it brings in; either may be missing."""

    id: str
    text: str
    reason: str
    when: str
    line: str | None
    amount: str | None
    added: tuple[Line, ...]
    component: str = ""
    """A component of which only `share` is still used; the step then changes no line."""
    share: float = 1.0
    decision: str = ""
    """What a cook would say of it."""
    serving_share: float = 1.0
    """The share of a serving that is served from now on; the step then changes no line."""


@dataclass(frozen=True, slots=True)
class Plan:
    """Several steps that together meet the targets. `meets` holds the chance for each target;
    `chance` the least."""

    name: str
    why: str
    steps: tuple[PlanStep, ...]
    after: Appraisal
    drift: Drift
    meets: dict[Target, float]
    brings: tuple[Allergen, ...]
    cautions: tuple[RaisedCaution, ...]
    pitfalls: tuple[Pitfall, ...]
    lever: Lever = Lever.LESS
    """What it does above all."""
    stays: tuple[str, ...] = ()
    """Lines that the school asked for would rather not have, on the way towards it."""

    @property
    def key(self) -> frozenset[str]:
        """The options taken; two plans with the same are near-duplicates."""
        return frozenset(option for step in self.steps for option in step.id.split("+"))

    @property
    def changes(self) -> int:
        """How many changes it makes: a line that is partly cut and partly swapped counts as two."""
        return len(self.key)

    def holds(self, chance: float) -> bool:
        """Whether every hard target is met with the chance."""
        return all(p >= chance for t, p in self.meets.items() if not t.soft)

    @property
    def most_steps(self) -> float:
        return self.drift.most


def steps_of(recipe: Recipe, moves: Sequence[Move]) -> list[PlanStep]:
    """The moves as steps in the order of work: what is there first, what comes in at the end
    last."""
    ids = iter(recipe.fresh_ids(sum(len(m.added) for m in moves)))
    order = {line.id: place for place, line in enumerate(recipe.lines)}
    steps = []
    for move in moves:
        step = _step(recipe, move, ids)
        last = any(way.timing is Timing.AT_THE_END for way in move.ways)
        steps.append(((last, order.get(step.line or "", len(order)), step.id), step))
    return [step for _, step in sorted(steps, key=lambda placed: placed[0])]


def _step(recipe: Recipe, move: Move, ids: Iterator[str]) -> PlanStep:
    line = recipe.line(move.slot) if move.ways[0].line is not None else None
    component = move.slot.partition(":")[2] if move.ways[0].kind == "component" else ""
    text = [f"{component}: use {move.left} of it"] if component else []
    if line is not None:
        name = name_of(line)
        text.append(
            f"{name}: {line.said_amount} → {move.left}"
            if move.left
            else f"leave out {_all_of(line)} {name}"
        )
    added = []
    for part, rung in move.added:
        fresh = added_line(
            next(ids), part, rung, line.component if line is not None else _last_component(recipe)
        )
        added.append(fresh)
        text.append(f"add {fresh.text}")
    return PlanStep(
        "+".join(way.id for way in move.ways),
        capitalized("; ".join(text)),
        " ".join(dict.fromkeys([*(way.reason for way in move.ways), *_as_far_as_it_goes(move)])),
        "; ".join(way.when for way in move.ways if way.when),
        line.id if line is not None else None,
        move.left if line is not None else None,
        tuple(added),
        component,
        move.share,
        decision(move, component or (name_of(line) if line is not None else "")),
    )


def name_of(line: Line) -> str:
    """What a line is called, without its amount."""
    return line.named or line.text


def serving_step(now: Appraisal, after: Appraisal, share: float) -> PlanStep:
    """The step that serves less of the same."""
    text = served_words(now, after)
    why = "The same dish, less of it: said, so that nobody is given less unasked."
    return PlanStep("serving", text, why, "", None, None, (), decision=text, serving_share=share)


def _as_far_as_it_goes(move: Move) -> list[str]:
    """What is said of a swap that takes nearly as much of its line as it can before it stops
    working."""
    (way, *others) = move.ways
    if others or way.kind != "swap" or way.fails_at >= 1 or move.gone < NEARLY * way.fails_at:
        return []
    return [
        f"This is as far as it goes: past {way.fails_at * 100:.0f}% of the line it stops working."
    ]


def _all_of(line: Line) -> str:
    return line.amount or "the"


def _last_component(recipe: Recipe) -> str:
    return recipe.lines[-1].component if recipe.lines else ""


def with_steps(
    recipe: Recipe, steps: Sequence[PlanStep], only: Collection[str] | None = None
) -> Recipe:
    """The recipe with the steps taken, or only those with the named ids. Raises RecipeError when a
    line is gone."""
    for step in steps:
        if only is not None and step.id not in only:
            continue
        fresh = recipe.fresh_ids(len(step.added))
        added = [replace(line, id=i) for line, i in zip(step.added, fresh, strict=True)]
        recipe = (
            recipe.with_added(added, after=step.line) if step.line else recipe.with_added(added)
        )
        if step.serving_share < 1:
            recipe = with_smaller_servings(recipe, step.serving_share)
        if step.component:
            recipe = _with_less_of(recipe, step.component, step.share)
        if step.line is not None:
            line = recipe.line(step.line)
            if step.amount is None:
                recipe = recipe.without_line(line.id)
            else:
                recipe = recipe.with_line(replace(line, amount=step.amount))
    return recipe


def _with_less_of(recipe: Recipe, component: str, share: float) -> Recipe:
    """The recipe with a share of one component used. Raises RecipeError when the component is
    gone."""
    if component not in recipe.components:
        raise RecipeError(f"{recipe.title} has no part called {component!r} any more")
    lines = (
        replace(x, eaten=x.eaten * share) if x.component == component else x for x in recipe.lines
    )
    return replace(recipe, lines=tuple(lines))
