"""Searches for plans: the beam finds a version, it is worked out whole, and only what then holds is
called a plan."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from copy import copy
from dataclasses import replace
from functools import cached_property
from time import monotonic

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import allows
from fresh_ladle.core.cautions.allergens import is_left_out
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Basis, Side, Target, share_past, target_status
from fresh_ladle.core.plans.beam import MAX_HELPING, MIN_HELPING, PER_CHANGE, Aim, Beam, Found
from fresh_ladle.core.plans.decision import Lever, lever_of
from fresh_ladle.core.plans.moves import moves_for
from fresh_ladle.core.plans.plan import Plan, PlanStep, serving_step, steps_of
from fresh_ladle.core.plans.program import version_around
from fresh_ladle.core.plans.request import MAX_TASTE_STEPS, PlanRequest
from fresh_ladle.core.plans.servings import LEAST_SHARE, smaller_shares, with_smaller_servings
from fresh_ladle.core.plans.slots import has_to_go
from fresh_ladle.core.plans.sums import Bowl
from fresh_ladle.core.plans.textured import texture_between
from fresh_ladle.core.plans.worked_out import plan_of_steps
from fresh_ladle.core.recipes.recipe import MAX_LINES, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.school_standing import school_standing

ROUNDS = 4
"""Times a version is looked for again, a little tighter, when it does not hold once it is worked
out whole."""
PROGRAMS, FEW_MOVES = 2, 300
"""Times the program looks for a version around the one before, and moves up to which it is asked in
any case."""
STEP_SLACK, HELPING_SLACK = 0.049, 0.001
"""What is said to a tenth of a step is held to it."""
UNMET = 1e-6
MOST_PLANS, WITH_MORE, FURTHER = 4, 5, 1.0
"""Plans that are shown; changes that are tried where as many as were asked do not do, and steps
that taste may go further than was asked."""
ONLY_WITH_MORE, ONLY_FURTHER = "Only with more changes", "Only if taste may go further"


class Search:
    """One recipe, what is asked of it, and what may be done to it. `stopped` ends the search when
    it says so."""

    def __init__(
        self,
        now: Appraisal,
        original: Appraisal,
        request: PlanRequest,
        knowledge: Knowledge,
        stopped: Callable[[], bool] = lambda: False,
        prices: Mapping[str, float] | None = None,
    ) -> None:
        self.now, self.original, self.request, self.knowledge = now, original, request, knowledge
        self.prices = prices or {}
        self._deadline = monotonic() + request.seconds
        self._asked_to_stop = stopped
        self.timed_out = False
        self.carriers = knowledge.sense.carriers.get(now.recipe.kind, ())
        to_go = {
            p.food.key
            for p in now.portions
            if p.food is not None and has_to_go(now, p, p.food, request)
        }
        self.limiting = tuple(c for c in self.carriers if not c.foods & to_go)
        """What carries texture and is not asked to leave: whoever wants the oil gone knows that it
        is missed."""
        self.bowl = Bowl(now, original, request.targets, request.chance, prices, self.limiting)
        self.moves = moves_for(now, request, knowledge, self.bowl)
        self._found: list[tuple[int, ...]] = []
        """Versions found before, in the numbers of the moves: good to begin from."""

    @property
    def seconds_left(self) -> float:
        return self._deadline - monotonic()

    def stopped(self) -> bool:
        """Whether time is over or somebody asked for an end."""
        self.timed_out = self.timed_out or self.seconds_left <= 0 or self._asked_to_stop()
        return self.timed_out

    def under(self, request: PlanRequest) -> Search:
        """A search of the same recipe under another request, within the time that is left."""
        asked = replace(request, seconds=max(0.0, self.seconds_left))
        if _same_moves(asked, self.request):
            other = copy(self)
            other.request = asked
            other.__dict__.pop("further_in_taste", None)
            return other
        return Search(
            self.now, self.original, asked, self.knowledge, self._asked_to_stop, self.prices
        )

    def plan(self, aim: Aim, name: str = "", rescue: bool = False) -> Plan | None:
        """The best plan found for an aim, worked out whole and held to everything asked; None when
        none was found. It is called by its lever where no name is given, and says its decisions in
        one sentence. With `rescue`, it is looked for by the program as well before none is said."""
        return self._looked_for(name, "", aim, rescue)

    def smaller_serving(self) -> Plan | None:
        """The same dish, as much less of it on the plate as the limits need; None where that is not
        asked or does not do."""
        if not self.request.hard_targets or any(
            t.side is not Side.AT_MOST or t.basis is not Basis.SERVING
            for t in self.request.hard_targets
        ):
            return None
        if self.moves.must or self.moves.stuck or self.now.totals.batch_grams.value <= 0:
            return None
        for share in smaller_shares(self.now):
            if share < LEAST_SHARE or self.stopped():
                return None
            after = appraise(with_smaller_servings(self.now.recipe, share), self.knowledge)
            plan = self._of_steps(
                Lever.SMALLER.value, "", [serving_step(self.now, after, share)], Lever.SMALLER
            )
            if plan is not None and plan.holds(self.request.chance) and not plan.stays:
                return plan
        return None

    @cached_property
    def further_in_taste(self) -> Plan | None:
        """The best plan where taste may go a step further than was asked; it can turn out to keep
        within what was."""
        steps = self.request.most_steps + FURTHER
        if steps > MAX_TASTE_STEPS:
            return None
        wider = self.under(replace(self.request, most_steps=steps))
        plan = wider.plan(Aim())
        return plan and replace(
            plan, name=plan.name if self._is_within_steps(plan) else ONLY_FURTHER
        )

    def nearest(self, name: str, why: str) -> Plan | None:
        """The version that misses the targets by the least, all of them together, with every taste
        within its steps."""
        return self._looked_for(name, why, Aim(nearest=True))

    def _looked_for(self, name: str, why: str, aim: Aim, rescue: bool = False) -> Plan | None:
        if self.moves.stuck or self.now.totals.batch_grams.value <= 0 or not self.moves.moves:
            return None
        beam = Beam(self.bowl, self.moves, self.request, self._unwanted(), stopped=self.stopped)
        for _ in range(ROUNDS):
            found = beam.best(aim, self._found)
            if rescue and found.broken > UNMET:
                found = self._rescued(beam, aim)
            elif rescue and len(self.moves.moves) <= FEW_MOVES:
                # Where there is little to choose from the program is quick, and may know a way
                # around.
                around = version_around(self.bowl, self.moves, self.request, found.taken)
                found = beam.best(aim, [found.taken, *([around] if around else [])])
            if found.broken > UNMET or not found.taken:
                return None
            self._found.append(found.taken)
            plan = self._worked_out(name, why, found.taken, aim)
            if plan is None:
                return None
            if self._holds(plan, aim):
                return plan
            self._tighten(beam, plan, aim)
        return None

    def _rescued(self, beam: Beam, aim: Aim) -> Found:
        """Where none was found on the way of the closest: the best from the nearest version, and
        from what the program finds around it."""
        nearest = beam.best(replace(aim, nearest=True), self._found)
        start = [nearest.taken]
        for _ in range(PROGRAMS):
            found = beam.best(aim, start)
            if found.broken <= UNMET or self.stopped():
                return found
            around = version_around(self.bowl, self.moves, self.request, start[-1])
            if around is None or around in start:
                return found
            start.append(around)
        return beam.best(aim, start)

    def _worked_out(self, name: str, why: str, taken: tuple[int, ...], aim: Aim) -> Plan | None:
        moves = [self.moves.moves[n] for n in taken]
        lever = Lever.LARGER if aim.larger else self._main_lever(taken)
        return self._of_steps(name, why, steps_of(self.now.recipe, moves), lever)

    def _main_lever(self, taken: tuple[int, ...]) -> Lever:
        """The lever of the change that does most of what is asked."""
        helped = self.moves.helped
        return lever_of(self.moves.moves[min(taken, key=lambda n: (float(helped[n]), n))].ways[0])

    def _of_steps(self, name: str, why: str, steps: list[PlanStep], lever: Lever) -> Plan | None:
        if len(self.now.recipe.lines) + sum(len(s.added) for s in steps) > MAX_LINES:
            return None
        plan = plan_of_steps(
            name or lever.value,
            why,
            steps,
            self.now,
            self.original,
            self.request.targets,
            self.knowledge,
            lever,
        )
        return replace(plan, stays=lines_against(plan.after, self.request))

    def _holds(self, plan: Plan, aim: Aim) -> bool:
        return (
            self._is_within_steps(plan)
            and self._keeps_helping(plan, aim)
            and (aim.nearest or plan.holds(self.request.chance))
            and (self.request.towards or not plan.stays)
        )

    def _is_within_steps(self, plan: Plan) -> bool:
        return self._most_steps(plan) <= self.request.most_steps + STEP_SLACK

    def _keeps_helping(self, plan: Plan, aim: Aim) -> bool:
        """Whether a serving weighs what it did, as near as measures allow."""
        share = plan.after.totals.serving_grams / max(self.now.totals.serving_grams, 1e-6)
        least, most = MIN_HELPING - HELPING_SLACK, MAX_HELPING + HELPING_SLACK
        return (
            not self.bowl.keeps_weight
            or aim.nearest
            or (least <= share and (aim.larger or share <= most))
        )

    def _tighten(self, beam: Beam, plan: Plan, aim: Aim) -> None:
        beam.narrower += 0.0 if self._keeps_helping(plan, aim) else 0.01
        for target, chance in plan.meets.items():
            if chance < self.request.chance and not target.soft:
                beam.margins[target] = beam.margins.get(target, 0.0) + 0.01
        beam.tighter += max(0.0, self._most_steps(plan) - self.request.most_steps)

    def _most_steps(self, plan: Plan) -> float:
        """The largest step of taste, smell or of a texture that was not asked to go."""
        texture = texture_between(plan.after, self.original, self.limiting)
        asked = replace(plan.drift, texture=texture)
        return replace(asked, aroma_shift=0.0).most if self.moves.must else asked.most

    def _unwanted(self) -> frozenset[str]:
        """On the way towards a school: the lines it would rather not have."""
        school = self.request.school
        if school is None or not self.request.towards:
            return frozenset()
        return frozenset(
            s.id for s in self.moves.lines if s.portion.food and not allows(school, s.portion.food)
        )


def _same_moves(one: PlanRequest, other: PlanRequest) -> bool:
    """Whether two requests differ only in how many changes they allow and how far taste may go."""
    return (
        replace(
            one, max_changes=other.max_changes, most_steps=other.most_steps, seconds=other.seconds
        )
        == other
    )


def lines_against(version: Appraisal, request: PlanRequest) -> tuple[str, ...]:
    """Names of the lines of a version that the school asked for would not have; none without a
    school."""
    if request.school is None:
        return ()
    return tuple(name for name, _ in school_standing(version, request.school).against)


def holds_already(now: Appraisal, request: PlanRequest) -> bool:
    """Whether a version is all that was asked as it stands."""
    foods = [p.food for p in now.portions if p.food is not None and p.line.eaten > 0]
    sure = all(
        target_status(now.figure_for(t), t).probability >= request.chance
        for t in request.hard_targets
    )
    to_go = any(is_left_out(f, request.exclude) for f in foods) or bool(lines_against(now, request))
    return sure and not to_go


def hardest(now: Appraisal, targets: tuple[Target, ...]) -> Target | None:
    """The target that is missed by the largest share of its limit, a hard one where there is
    any."""

    return max(
        targets, key=lambda t: (not t.soft, share_past(now.figure_for(t).value, t)), default=None
    )


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
    """At most four plans that differ by their lever, told one by one to `found` as they come, and
    the search they came from. The last, where that does, is the same dish in smaller servings.
    Where nothing does there is none (see `otherwise`).

    Raises RecipeError when neither a target, an exclusion nor a school is given. Where everything
    holds already there is no plan."""
    if not request.targets and not request.exclude and request.school is None:
        raise RecipeError(
            "a plan needs a target, a school or something to leave out: give one first"
        )
    search = Search(now, original, request, knowledge, stopped, prices)
    if holds_already(now, request):
        return [], search
    kept = _Kept(found)
    kept.add(search.plan(Aim(), rescue=True) or _within_after_all(search))
    if kept.plans and not only_closest:
        _other_levers(search, kept)
        kept.add(search.smaller_serving())
    return kept.plans, search


def _within_after_all(search: Search) -> Plan | None:
    """A way within what was asked that only a wider search came upon."""
    plan = search.further_in_taste
    return plan if plan is not None and plan.name != ONLY_FURTHER else None


def otherwise(search: Search) -> list[Plan]:
    """Where nothing does what was asked: what a larger serving, more changes, a step further in
    taste or a smaller serving would, as plans of these names. Less on the plate is no other dish,
    so it comes last."""
    if holds_already(search.now, search.request):
        return []
    larger = search.plan(Aim(larger=True)) if search.bowl.keeps_weight else None
    other = [] if larger is not None else [_with_more_changes(search), search.further_in_taste]
    easiest_first = sorted((plan for plan in other if plan is not None), key=_worth)
    return [plan for plan in (larger, *easiest_first, search.smaller_serving()) if plan is not None]


def _worth(plan: Plan) -> float:
    """Noticeable steps that a plan costs, its fuss included: the less the better."""
    return plan.drift.total + PER_CHANGE * plan.changes


def _with_more_changes(search: Search) -> Plan | None:
    if search.request.max_changes >= WITH_MORE:
        return None
    wider = search.under(replace(search.request, max_changes=WITH_MORE))
    return wider.plan(Aim(), name=ONLY_WITH_MORE, rescue=True)


class _Kept:
    """The plans kept of a search, each told to `found` as it comes; of each lever the first."""

    def __init__(self, found: Callable[[Plan], None]) -> None:
        self.plans: list[Plan] = []
        self._found = found

    def add(self, plan: Plan | None, priced: bool = False) -> None:
        if (
            plan is None
            or len(self.plans) >= MOST_PLANS
            or any(_same(plan, other) for other in self.plans)
        ):
            return
        if not priced and any(plan.lever is other.lever for other in self.plans):
            return
        self.plans.append(plan)
        self._found(plan)


def _same(one: Plan, other: Plan) -> bool:
    return one.key == other.key and _alike(one, other)


def _other_levers(search: Search, kept: _Kept) -> None:
    for lever in (Lever.EXCHANGE, Lever.LESS, Lever.MORE):
        if all(plan.lever is not lever for plan in kept.plans):
            plan = search.plan(Aim(lever=lever))
            kept.add(plan if plan is not None and plan.lever is lever else None)
    if search.prices:
        kept.add(search.plan(Aim(taste=0.4, prices=1.0), name="Cheapest"), priced=True)


def pareto_front(search: Search, plans: Sequence[Plan], points: int = 4) -> list[Plan]:
    """Plans between the version now and the furthest one found: for each figure of the hardest
    target the nearest in taste. The request's own limit on that figure gives way; its other targets
    hold."""
    hard = hardest(search.now, search.request.targets)
    if hard is None or not plans:
        return []
    start = search.now.figure_for(hard).value
    values = [p.after.figure_for(hard).value for p in plans]
    end = min(values) if hard.side is Side.AT_MOST else max(values)
    unit = BY_ID[hard.nutrient].unit
    found: list[Plan] = []
    for place in range(1, points + 1):
        if search.stopped():
            break
        limit = start + (end - start) * place / (points + 1)
        others = tuple(t for t in search.request.targets if t != hard)
        asked = replace(search.request, targets=(*others, replace(hard, limit=limit)), chance=0.5)
        plan = search.under(asked).plan(Aim(), name=f"About {limit:.0f} {unit}")
        if plan is not None and all(
            plan.key != p.key or not _alike(plan, p) for p in (*plans, *found)
        ):
            meets = {
                t: target_status(plan.after.figure_for(t), t).probability
                for t in search.request.targets
            }
            found.append(replace(plan, meets=meets))
    return found


def _alike(one: Plan, other: Plan) -> bool:
    """Whether two plans with the same moves also come to the same figures, within 3%."""
    return all(
        abs(one.after.figure_for(t).value - other.after.figure_for(t).value)
        <= 0.03 * max(1.0, other.after.figure_for(t).value)
        for t in one.meets
    )
