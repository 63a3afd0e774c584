"""Searches for plans: solves, works the answer out exactly, and solves again around it until the two agree."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from statistics import NormalDist
from time import monotonic

import numpy as np

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.balance import drift_between
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import SCHOOLS
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Side, Target, target_status
from fresh_ladle.core.nutrients.totals import serving_size_grams
from fresh_ladle.core.plans.choices import Choices, choices_for, per_gram_of_portion
from fresh_ladle.core.plans.model import Aim, Reference, build, reference_of
from fresh_ladle.core.plans.plan import Plan, steps_of, with_steps
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.solver import solved
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.sentences import capitalized
from fresh_ladle.core.swaps.effect import effect_of

ROUNDS = 7
"""Times a plan is solved again around its exact figures before it is given up."""
STEP_SLACK = 0.02
MAX_TIGHTER = 0.7
"""Share of the steps allowed that an axis may be held back by, when its straight line has promised too much."""


@dataclass
class Search:
    """One search under way: the recipe, what is asked, and a clock. `solver_seconds` and `build_seconds` are
    measured."""

    now: Appraisal
    original: Appraisal
    request: PlanRequest
    knowledge: Knowledge
    stopped: Callable[[], bool] = lambda: False
    choices: Choices = field(init=False)
    solver_seconds: float = 0.0
    build_seconds: float = 0.0
    timed_out: bool = False

    def __post_init__(self) -> None:
        self._deadline = monotonic() + self.request.seconds
        self.choices = choices_for(self.now, self.request, self.knowledge)

    @property
    def seconds_left(self) -> float:
        return self._deadline - monotonic()

    def plan(
        self,
        name: str,
        why: str,
        aim: Aim,
        request: PlanRequest | None = None,
        forbidden: tuple[frozenset[str], ...] = (),
    ) -> Plan | None:
        """The best plan for an aim whose exact figures hold, or None. May be asked under a changed request."""
        asked = request or self.request
        if self.choices.stuck or self.now.totals.batch_grams.value <= 0:
            return None
        margins = {t: _first_margin(self.now, t, asked.chance) for t in asked.targets}
        tighter: dict[str, float] = {}
        version = self.now
        for _ in range(ROUNDS):
            if self.seconds_left <= 0 or self.stopped():
                self.timed_out = True
                break
            plan = self._solved(name, why, aim, asked, margins, tighter, version, forbidden)
            if plan is None:
                if version is self.now:
                    return None
                # Around an answer that went too far nothing may seem possible: begin again from what is there.
                version = self.now
                continue
            if self._holds(plan, asked):
                return plan
            self._tighten(plan, asked, margins, tighter)
            version = plan.after
        return None

    def nearest(self, request: PlanRequest) -> Plan | None:
        """The version that misses the targets, all together, by the least, with every taste near enough; or None."""
        if self.choices.stuck or self.now.totals.batch_grams.value <= 0:
            return None
        margins = {t: _first_margin(self.now, t, request.chance) for t in request.targets}
        tighter: dict[str, float] = {}
        version = self.now
        for _ in range(ROUNDS):
            if self.seconds_left <= 0:
                return None
            plan = self._solved("", "", Aim(any_will_do=True), request, margins, tighter, version, (), elastic=True)
            if plan is None or plan.most_steps <= request.most_steps + STEP_SLACK:
                return plan
            self._tighten(replace(plan, meets={}), request, margins, tighter)
            version = plan.after
        return None

    def _solved(
        self,
        name: str,
        why: str,
        aim: Aim,
        asked: PlanRequest,
        margins: Mapping[Target, float],
        tighter: Mapping[str, float],
        version: Appraisal,
        forbidden: tuple[frozenset[str], ...],
        elastic: bool = False,
    ) -> Plan | None:
        """One solution, worked out exactly; None when the program has none."""
        start = monotonic()
        size = serving_size_grams(self.now.recipe, self.now.portions)
        tasted = self.original.tasted
        model = build(
            self.choices,
            tasted,
            reference_for(version),
            asked,
            self.now.totals.servings,
            size if self.now.recipe.yield_grams is None else None,
            self.now.recipe.yield_grams,
            aim,
            margins,
            tighter,
            elastic,
            forbidden,
        )
        built = monotonic()
        self.build_seconds += built - start
        gap = (0.05 if elastic else 0.5) if aim.any_will_do else 0.04
        solution = solved(model.program, min(self.seconds_left, 0.4 * self.request.seconds), gap)
        self.solver_seconds += monotonic() - built
        if solution is None:
            return None
        if not solution.in_time:
            self.timed_out = True
        steps = steps_of(self.now.recipe, self.choices, model.chosen(solution))
        effect = effect_of(self.now, with_steps(self.now.recipe, steps), self.original, self.knowledge)
        meets = {t: target_status(effect.after.figure_for(t), t).probability for t in asked.targets}
        return Plan(
            name,
            why,
            tuple(steps),
            effect.after,
            drift_between(effect.after, self.original),
            meets,
            effect.brings,
            effect.new_cautions,
            effect.pitfalls,
        )

    @staticmethod
    def _holds(plan: Plan, asked: PlanRequest) -> bool:
        return (
            all(p >= asked.chance for t, p in plan.meets.items() if not t.soft)
            and plan.most_steps <= asked.most_steps + STEP_SLACK
        )

    @staticmethod
    def _tighten(plan: Plan, asked: PlanRequest, margins: dict[Target, float], tighter: dict[str, float]) -> None:
        """Asks for a little more where the exact figures fell short of what the program promised."""
        for target, chance in plan.meets.items():
            if chance < asked.chance and not target.soft:
                margins[target] += max(0.005, _lacking(plan.after, target, asked.chance))
        for axis, step in plan.drift.steps.items():
            over = abs(step) - asked.most_steps
            if over > STEP_SLACK:
                tighter[axis] = min(MAX_TIGHTER * asked.most_steps, tighter.get(axis, 0.0) + over + 0.03)


def reference_for(version: Appraisal) -> Reference:
    """The reference of a version, from what its lines bring per gram."""
    tastes, mass, nucleotide = np.zeros(len(AXIS_IDS)), 0.0, 0.0
    for portion in version.portions:
        per_gram, grams = per_gram_of_portion(portion), portion.measured.value
        tastes = tastes + per_gram.tastes * grams
        nucleotide += per_gram.nucleotide_mg * grams
        mass += per_gram.mass * grams
    whole = mass or 1.0
    return reference_of(version, tastes / whole, nucleotide / whole, whole)


def _spread(version: Appraisal, target: Target) -> float:
    """Relative standard deviation of a figure on the side where it may miss its target."""
    figure = version.figure_for(target)
    if figure.value <= 0:
        return 0.0
    far = figure.high - figure.value if target.side is Side.AT_MOST else figure.value - figure.low
    return far / Z90 / figure.value


def _first_margin(version: Appraisal, target: Target, chance: float) -> float:
    """Share by which a limit is tightened so that it is met with the chance, if the doubt stays as it is."""
    need = NormalDist().inv_cdf(chance) * _spread(version, target)
    return need / (1 + need) if target.side is Side.AT_MOST else need


def _lacking(version: Appraisal, target: Target, chance: float) -> float:
    """How far, as a share of the limit, a figure has to move to meet its target with the chance."""
    figure = version.figure_for(target)
    need = NormalDist().inv_cdf(chance) * _spread(version, target) * figure.value
    over = figure.value + need - target.limit if target.side is Side.AT_MOST else target.limit - (figure.value - need)
    return max(0.0, over) / max(target.limit, 1e-6) * 1.1


def hardest(now: Appraisal, targets: tuple[Target, ...]) -> Target | None:
    """The target that is missed by the largest share of its limit, a hard one where there is any."""

    def miss(target: Target) -> float:
        value = now.figure_for(target).value
        past = value - target.limit if target.side is Side.AT_MOST else target.limit - value
        return past / max(target.limit, 1e-6)

    return max(targets, key=lambda t: (not t.soft, miss(t)), default=None)


def plans_for(
    now: Appraisal,
    original: Appraisal,
    request: PlanRequest,
    knowledge: Knowledge,
    found: Callable[[Plan], None] = lambda _: None,
    stopped: Callable[[], bool] = lambda: False,
    prices: Mapping[str, float] | None = None,
    only_closest: bool = False,
) -> tuple[list[Plan], Search]:
    """Several plans that differ, told one by one to `found` as they come, and the search they came from.

    Raises RecipeError when neither a target nor an exclusion is given. Closest in taste, fewest changes, furthest past
    the hardest target, cheapest where prices are known, and one more way where the others are alike. Where any school
    will do, the closest of each school as well. Near-duplicates are dropped.
    """
    if not request.targets and not request.exclude:
        raise RecipeError("a plan needs a target or something to leave out: give one first")
    search = Search(now, original, request, knowledge, stopped)
    aims = _aims(hardest(now, request.targets), prices)[: 1 if only_closest else None]
    plans: list[Plan] = []

    def keep(plan: Plan | None) -> bool:
        if plan is None or any(plan.key == other.key and _alike(plan, other) for other in plans):
            return False
        plans.append(plan)
        found(plan)
        return True

    for name, why, aim in aims:
        first = search.plan(name, why, aim)
        if not keep(first) and not plans:
            break
    if plans and not only_closest:
        if len(plans) < 4:
            others = tuple(p.key for p in plans)
            keep(search.plan("Another way", "Other moves to the same end.", Aim(), forbidden=others))
        for school in SCHOOLS if request.school is None else ():
            if search.seconds_left <= 0 or stopped():
                break
            asked = replace(request, school=school, seconds=search.seconds_left)
            own = Search(now, original, asked, knowledge, stopped)
            keep(own.plan(capitalized(school.name), school.creed, Aim()))
    return _named_by_taste(plans), search


def _aims(hard: Target | None, prices: Mapping[str, float] | None) -> list[tuple[str, str, Aim]]:
    """What each plan aims at, with its name and its reason."""
    aims = [
        ("Closest in taste", "The least change that tasters would notice.", Aim()),
        ("Fewest changes", "As few things to do as possible.", Aim(taste=0.3, changes=12.0)),
    ]
    if hard is not None:
        word = "below" if hard.side is Side.AT_MOST else "above"
        name = f"Furthest {word} on {BY_ID[hard.nutrient].name.lower()}"
        aim = Aim(taste=0.4, changes=0.4, furthest=hard.nutrient, side=hard.side)
        aims.append((name, "As far as taste allows, for a margin to spare.", aim))
    if prices:
        aims.append(("Cheapest", "The least cost by your own prices.", Aim(taste=0.4, cost=prices)))
    return aims


def _named_by_taste(plans: list[Plan]) -> list[Plan]:
    """The same plans, with the name "Closest in taste" on the one that is, should rounding have made it another."""
    if not plans:
        return plans
    closest = min(plans, key=lambda p: p.drift.total)
    if closest is plans[0] or closest.drift.total > plans[0].drift.total - 0.02:
        return plans
    first = plans[0]
    swapped = {
        id(first): replace(first, name=closest.name, why=closest.why),
        id(closest): replace(closest, name=first.name, why=first.why),
    }
    named = [swapped.get(id(p), p) for p in plans]
    return sorted(named, key=lambda p: p.name != first.name)


def pareto_front(search: Search, plans: Sequence[Plan], points: int = 4) -> list[Plan]:
    """Plans between the version now and the furthest one found: for each figure of the hardest target the nearest in
    taste. The request's own limit on that figure gives way; its other targets hold."""
    hard = hardest(search.now, search.request.targets)
    if hard is None or not plans:
        return []
    start = search.now.figure_for(hard).value
    values = [p.after.figure_for(hard).value for p in plans]
    end = min(values) if hard.side is Side.AT_MOST else max(values)
    unit = BY_ID[hard.nutrient].unit
    found = []
    for place in range(1, points + 1):
        limit = start + (end - start) * place / (points + 1)
        others = tuple(t for t in search.request.targets if t != hard)
        asked = replace(search.request, targets=(*others, replace(hard, limit=limit)), chance=0.5)
        plan = search.plan(f"About {limit:.0f} {unit}", "A point between.", Aim(), asked)
        if plan is not None:
            meets = {t: target_status(plan.after.figure_for(t), t).probability for t in search.request.targets}
            found.append(replace(plan, meets=meets))
    return found


def _alike(one: Plan, other: Plan) -> bool:
    """Whether two plans with the same moves also come to the same figures, within 3%."""
    return all(
        abs(one.after.figure_for(t).value - other.after.figure_for(t).value)
        <= 0.03 * max(1.0, other.after.figure_for(t).value)
        for t in one.meets
    )
