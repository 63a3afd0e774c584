"""Searches for plans: the beam finds a version, it is worked out whole, and only what then holds is called a plan."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from copy import copy
from dataclasses import replace
from time import monotonic

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.balance import drift_between
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import SCHOOLS, allows
from fresh_ladle.core.cautions.allergens import is_left_out
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Side, Target, share_past, target_status
from fresh_ladle.core.plans.beam import Aim, Beam, Found
from fresh_ladle.core.plans.moves import moves_for
from fresh_ladle.core.plans.plan import Plan, steps_of, with_steps
from fresh_ladle.core.plans.program import version_around
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.sums import Bowl
from fresh_ladle.core.recipes.recipe import MAX_LINES, RecipeError
from fresh_ladle.core.school_standing import school_standing
from fresh_ladle.core.sentences import capitalized
from fresh_ladle.core.swaps.effect import effect_of

ROUNDS = 4
"""Times a version is looked for again, a little tighter, when it does not hold once it is worked out whole."""
PROGRAMS, FEW_MOVES = 2, 300
"""Times the program looks for a version around the one before, and moves up to which it is asked in any case."""
STEP_SLACK = 0.02
UNMET = 1e-6
SAME_HELPING, ENOUGH = 20.0, 4
"""What a smaller bowl costs where it should stay as large, and plans that are enough without another way."""
WORTH_CHANGING = 0.1
"""Steps of taste that a change has to bring a version closer that holds already."""


class Search:
    """One recipe, what is asked of it, and what may be done to it. `stopped` ends the search when it says so."""

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
        self.bowl = Bowl(now, original, request.targets, request.chance, prices)
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
            return other
        return Search(self.now, self.original, asked, self.knowledge, self._asked_to_stop, self.prices)

    def plan(self, name: str, why: str, aim: Aim, rescue: bool = False) -> Plan | None:
        """The best plan found for an aim, worked out whole and held to everything asked; None when none was found.
        With `rescue`, it is looked for by the program as well before that is said."""
        return self._looked_for(name, why, aim, rescue)

    def fewest_changes(self, name: str, why: str) -> Plan | None:
        """A plan of one change, else of two, and so on."""
        for changes in range(1, self.request.max_changes + 1):
            fewer = self.under(replace(self.request, max_changes=changes))
            if (plan := fewer.plan(name, why, Aim())) is not None:
                return plan
        return None

    def nearest(self, name: str, why: str) -> Plan | None:
        """The version that misses the targets by the least, all of them together, with every taste within its steps."""
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
                # Where there is little to choose from the program is quick, and may know a way around.
                around = version_around(self.bowl, self.moves, self.request, found.taken)
                found = beam.best(aim, [found.taken, *([around] if around else [])])
            if found.broken > UNMET or not found.taken:
                return None
            self._found.append(found.taken)
            plan = self._worked_out(name, why, found.taken)
            if plan is None:
                return None
            if self._holds(plan, aim):
                return plan
            self._tighten(beam, plan)
        return None

    def _rescued(self, beam: Beam, aim: Aim) -> Found:
        """Where none was found on the way of the closest: the best from the nearest version, and from what the program
        finds around it."""
        nearest = beam.best(replace(aim, nearest=True, furthest=None), self._found)
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

    def _worked_out(self, name: str, why: str, taken: tuple[int, ...]) -> Plan | None:
        steps = steps_of(self.now.recipe, [self.moves.moves[n] for n in taken])
        if len(self.now.recipe.lines) + sum(len(s.added) for s in steps) > MAX_LINES:
            return None
        effect = effect_of(self.now, with_steps(self.now.recipe, steps), self.original, self.knowledge)
        meets = {t: target_status(effect.after.figure_for(t), t).probability for t in self.request.targets}
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
            lines_against(effect.after, self.request),
        )

    def _holds(self, plan: Plan, aim: Aim) -> bool:
        return (
            plan.most_steps <= self.request.most_steps + STEP_SLACK
            and (aim.nearest or plan.holds(self.request.chance))
            and (self.request.towards or not plan.stays)
        )

    def _tighten(self, beam: Beam, plan: Plan) -> None:
        for target, chance in plan.meets.items():
            if chance < self.request.chance and not target.soft:
                beam.margins[target] = beam.margins.get(target, 0.0) + 0.01
        beam.tighter += max(0.0, plan.most_steps - self.request.most_steps)

    def _unwanted(self) -> frozenset[str]:
        """On the way towards a school: the lines it would rather not have."""
        school = self.request.school
        if school is None or not self.request.towards:
            return frozenset()
        return frozenset(s.id for s in self.moves.lines if s.portion.food and not allows(school, s.portion.food))


def _same_moves(one: PlanRequest, other: PlanRequest) -> bool:
    """Whether two requests differ only in how many changes they allow and how far taste may go."""
    return replace(one, max_changes=other.max_changes, most_steps=other.most_steps, seconds=other.seconds) == other


def lines_against(version: Appraisal, request: PlanRequest) -> tuple[str, ...]:
    """Names of the lines of a version that the school asked for would not have; none without a school."""
    if request.school is None:
        return ()
    return tuple(name for name, _ in school_standing(version, request.school).against)


def holds_already(now: Appraisal, request: PlanRequest) -> bool:
    """Whether a version is all that was asked as it stands."""
    foods = [p.food for p in now.portions if p.food is not None and p.line.eaten > 0]
    sure = all(target_status(now.figure_for(t), t).probability >= request.chance for t in request.hard_targets)
    to_go = any(is_left_out(f, request.exclude) for f in foods) or bool(lines_against(now, request))
    return sure and not to_go


def hardest(now: Appraisal, targets: tuple[Target, ...]) -> Target | None:
    """The target that is missed by the largest share of its limit, a hard one where there is any."""

    return max(targets, key=lambda t: (not t.soft, share_past(now.figure_for(t).value, t)), default=None)


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

    Raises RecipeError when neither a target, an exclusion nor a school is given. Closest in taste, fewest changes,
    furthest past the hardest target, as much on the plate, cheapest where prices are known, and where these are few one
    more way. Where any school will do, the closest of each school as well. Near-duplicates are dropped, and where
    everything holds already what neither tastes closer to the original nor goes further.
    """
    if not request.targets and not request.exclude and request.school is None:
        raise RecipeError("a plan needs a target, a school or something to leave out: give one first")
    search = Search(now, original, request, knowledge, stopped, prices)
    kept = _Kept(search, found)
    closest, *aims = _aims(search)
    kept.add(search.plan(*closest, rescue=True))
    if not only_closest:
        kept.look_for_others(aims)
    return _named_by_taste(kept.plans), search


class _Kept:
    """The plans kept of a search, each told to `found` as it comes; near-duplicates are not kept, nor, where everything
    holds already, what does not taste closer."""

    def __init__(self, search: Search, found: Callable[[Plan], None]) -> None:
        self.plans: list[Plan] = []
        self._search, self._found = search, found
        self._idle = holds_already(search.now, search.request)
        self._drift_now = drift_between(search.now, search.original).total

    def add(self, plan: Plan | None, closer: bool = True) -> None:
        if plan is None or any(plan.key == other.key and _alike(plan, other) for other in self.plans):
            return
        if self._idle and closer and plan.drift.total > self._drift_now - WORTH_CHANGING:
            return
        self.plans.append(plan)
        self._found(plan)

    def look_for_others(self, aims: Sequence[tuple[str, str, Aim]]) -> None:
        search = self._search
        if not self.plans and not self._idle:
            return
        self.add(search.fewest_changes("Fewest changes", "As few things to do as possible."))
        for aim in aims:
            self.add(search.plan(*aim), closer=False)
        if 0 < len(self.plans) < ENOUGH:
            others = frozenset[str]().union(*(p.key for p in self.plans))
            self.add(search.plan("Another way", "Other moves to the same end.", Aim(avoided=others)))
        for school in SCHOOLS if search.request.school is None and self.plans else ():
            if search.stopped():
                return
            under = search.under(replace(search.request, school=school))
            self.add(under.plan(capitalized(school.name), school.creed, Aim()))


def _aims(search: Search) -> list[tuple[str, str, Aim]]:
    """What each plan aims at, with its name and its reason."""
    aims = [("Closest in taste", "The least change that tasters would notice.", Aim())]
    hard = hardest(search.now, search.request.targets)
    if hard is not None:
        word = "below" if hard.side is Side.AT_MOST else "above"
        name = f"Furthest {word} on {BY_ID[hard.nutrient].name.lower()}"
        aim = Aim(taste=0.4, furthest=search.request.targets.index(hard))
        aims.append((name, "As far as taste allows, for a margin to spare.", aim))
    aims.append(("As much on the plate", "Nobody gets less to eat.", Aim(shrinking=SAME_HELPING)))
    if search.prices:
        aims.append(("Cheapest", "The least cost by your own prices.", Aim(taste=0.4, prices=1.0)))
    return aims


def _named_by_taste(plans: list[Plan]) -> list[Plan]:
    """The same plans, with the name "Closest in taste" on the one that is, should it be another."""
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
    found: list[Plan] = []
    for place in range(1, points + 1):
        if search.stopped():
            break
        limit = start + (end - start) * place / (points + 1)
        others = tuple(t for t in search.request.targets if t != hard)
        asked = replace(search.request, targets=(*others, replace(hard, limit=limit)), chance=0.5)
        plan = search.under(asked).plan(f"About {limit:.0f} {unit}", "A point between.", Aim())
        if plan is not None and all(plan.key != p.key or not _alike(plan, p) for p in (*plans, *found)):
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
