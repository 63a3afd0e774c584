"""Why there is no plan: which targets cannot be reached, how near they can be brought, and what would make room."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, floor
from statistics import NormalDist

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.allergens import allergen_name
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.plans.model import Aim
from fresh_ladle.core.plans.parsing import basis_words, typed_target
from fresh_ladle.core.plans.plan import Plan
from fresh_ladle.core.plans.request import MAX_CHANGES, MAX_TASTE_STEPS, PlanRequest
from fresh_ladle.core.plans.search import Search
from fresh_ladle.core.ranges import Z90

SECONDS = 1.9
"""Time for the whole explanation; what has not been tried by then is not offered."""
WIDER_TASTE, MORE_CHANGES = 1.0, 3


@dataclass(frozen=True, slots=True)
class Conflict:
    """A target that cannot be met as things stand. `nearest` is the limit that can be met, None when it is not
    known."""

    target: Target | None
    nearest: float | None
    text: str


@dataclass(frozen=True, slots=True)
class Relaxation:
    """A change of the request under which a plan was found. `change` is one of target, unlock, include, changes, steps,
    school; `value` what it becomes."""

    change: str
    value: str
    text: str
    request: PlanRequest


@dataclass(frozen=True, slots=True)
class Infeasibility:
    conflicts: list[Conflict]
    relaxations: list[Relaxation]
    looked: bool = True
    """False when what stands in the way was plain before any plan was looked for."""


def explain_infeasibility(
    now: Appraisal, original: Appraisal, request: PlanRequest, knowledge: Knowledge
) -> Infeasibility:
    """Explains why no plan was found, and looks for the smallest changes of the request that make one."""
    if now.totals.batch_grams.value <= 0:
        return Infeasibility(
            [Conflict(None, None, "Nothing in this recipe has a weight yet: give amounts first.")], [], looked=False
        )
    plain = _contradictions(request) + _unknown(now, request)
    if plain:
        return Infeasibility(plain, [], looked=False)
    limited = replace(request, seconds=SECONDS)
    search = Search(now, original, limited, knowledge)
    if search.choices.stuck:
        names = ", ".join(search.choices.stuck)
        stuck = Conflict(None, None, f"To be left out, and yet not to change: {names}.")
        return Infeasibility([stuck], _freed(search, limited, knowledge))
    if not search.choices.options:
        return Infeasibility(
            [Conflict(None, None, _nothing_may_change(now, request))], _freed(search, limited, knowledge)
        )
    nearest = search.nearest(limited)
    conflicts = _out_of_reach(search, nearest, limited) or [_not_together(request)]
    relaxations = _eased_targets(search, nearest, conflicts, limited, request) + _freed(search, limited, knowledge)
    return Infeasibility(conflicts, relaxations)


def _out_of_reach(search: Search, nearest: Plan | None, request: PlanRequest) -> list[Conflict]:
    """The targets that cannot be reached even alone, each with how near it comes; or that nothing goes without what is
    to be left out."""
    conflicts: list[Conflict] = []
    for target in request.hard_targets:
        aim = Aim(taste=0.05, changes=0.05, furthest=target.nutrient, side=target.side, any_will_do=True)
        best = search.plan("", "", aim, replace(request, targets=()))
        if best is None and request.exclude:
            return [*conflicts, Conflict(None, None, _not_even_so(request, search.knowledge))]
        limit = _reached(best.after if best else search.now, target, request.chance)
        if nearest is not None:
            near = _reached(nearest.after, target, request.chance)
            limit = min(limit, near) if target.side is Side.AT_MOST else max(limit, near)
        reachable = limit <= target.limit if target.side is Side.AT_MOST else limit >= target.limit
        if not reachable:
            conflicts.append(Conflict(target, limit, _too_far(target, limit, request)))
    return conflicts


def _not_together(request: PlanRequest) -> Conflict:
    """Every target is within reach alone."""
    if len(request.hard_targets) > 1:
        names = " and ".join(BY_ID[t.nutrient].name.lower() for t in request.hard_targets)
        text = f"Each target can be met alone, but not {names} at once within the taste allowed."
        return Conflict(None, None, text)
    text = "It can be met in figures, but not with every taste near enough in so few changes."
    return Conflict(request.hard_targets[0] if request.hard_targets else None, None, text)


def _contradictions(request: PlanRequest) -> list[Conflict]:
    found = []
    for low in request.hard_targets:
        for high in request.hard_targets:
            if (
                (low.side, high.side) == (Side.AT_LEAST, Side.AT_MOST)
                and (low.nutrient, low.basis) == (high.nutrient, high.basis)
                and low.limit > high.limit
            ):
                name, unit = BY_ID[low.nutrient].name, BY_ID[low.nutrient].unit
                found.append(
                    Conflict(
                        low, None, f"{name} cannot be at least {low.limit:g} and at most {high.limit:g} {unit} at once."
                    )
                )
    return found


def _unknown(now: Appraisal, request: PlanRequest) -> list[Conflict]:
    """An upper limit on a figure that some line does not have can never be said to be met."""
    found = []
    for target in request.hard_targets:
        figure = now.figure_for(target)
        if target.side is Side.AT_MOST and not figure.complete:
            names = ", ".join(figure.missing)
            found.append(
                Conflict(
                    target,
                    None,
                    f"{BY_ID[target.nutrient].name} is not known for {names}: no plan can be sure of it. Mend those"
                    " lines first.",
                )
            )
    return found


def _nothing_may_change(now: Appraisal, request: PlanRequest) -> str:
    if len(request.locked) >= sum(1 for p in now.portions if p.known):
        return "Every line is locked, so nothing may change."
    return "No swap, cut or repair of the catalogue helps these targets on the lines that may change."


def _reached(version: Appraisal, target: Target, chance: float) -> float:
    """The limit that a version meets with the chance asked for, rounded to what a person would write."""
    figure = version.figure_for(target)
    need = NormalDist().inv_cdf(chance)
    if target.side is Side.AT_MOST:
        value = figure.value + need * (figure.high - figure.value) / Z90
        step = _round_step(value)
        return round(ceil(value / step - 1e-9) * step, 6)
    value = figure.value - need * (figure.value - figure.low) / Z90
    step = _round_step(value)
    return round(floor(value / step + 1e-9) * step, 6)


def _round_step(value: float) -> float:
    return 5.0 if value >= 100 else 1.0 if value >= 10 else 0.1


def _too_far(target: Target, limit: float, request: PlanRequest) -> str:
    meta = BY_ID[target.nutrient]
    bound = "below" if target.side is Side.AT_MOST else "above"
    locked = " with what is locked" if request.locked else ""
    return (
        f"{meta.name} cannot go {bound} {limit:g} {meta.unit} {basis_words(target)}{locked}, with every taste within"
        f" {request.most_steps:g} noticeable steps, {request.max_changes} changes and measures a kitchen has;"
        f" {target.limit:g} was asked."
    )


def _not_even_so(request: PlanRequest, knowledge: Knowledge) -> str:
    names = [
        food.kitchen_name if (food := knowledge.pantry.get(e)) else allergen_name(e) for e in sorted(request.exclude)
    ]
    return f"Without {' and '.join(names)} no version keeps every taste within {request.most_steps:g} noticeable steps."


def _works(search: Search, request: PlanRequest, fresh: bool) -> Plan | None:
    """A plan under another request, if there is one; `fresh` when what may be chosen changes with it."""
    if search.seconds_left <= 0.05:
        return None
    tried = (
        Search(search.now, search.original, replace(request, seconds=search.seconds_left), search.knowledge)
        if fresh
        else search
    )
    return tried.plan("", "", Aim(any_will_do=True), request)


def _eased_targets(
    search: Search, nearest: Plan | None, conflicts: Sequence[Conflict], limited: PlanRequest, request: PlanRequest
) -> list[Relaxation]:
    """The targets out of reach set to what can be met: each to its own nearest where that works for all together, else
    to what the nearest version meets, which misses them all together by the least."""
    eased = {c.target: c.nearest for c in conflicts if c.target is not None and c.nearest is not None}
    targets = tuple(replace(t, limit=eased.get(t, t.limit)) for t in limited.targets)
    if not eased or _works(search, replace(limited, targets=targets), fresh=False) is None:
        if nearest is None:
            return []
        eased = {}
        for target in limited.hard_targets:
            limit = _reached(nearest.after, target, request.chance)
            if (limit > target.limit) if target.side is Side.AT_MOST else (limit < target.limit):
                eased[target] = limit
    if not eased:
        return []
    targets = tuple(replace(t, limit=eased.get(t, t.limit)) for t in limited.targets)
    text = " and ".join(
        f"{BY_ID[t.nutrient].name.lower()} {t.side.value} {limit:g} {BY_ID[t.nutrient].unit}"
        f"{'' if t.basis is Basis.SERVING else ' ' + basis_words(t)}"
        for t, limit in eased.items()
    )
    value = ";".join(typed_target(replace(t, limit=limit)) for t, limit in eased.items())
    return [Relaxation("target", value, f"Ask for {text}", replace(request, targets=targets))]


def _freed(search: Search, limited: PlanRequest, knowledge: Knowledge) -> list[Relaxation]:
    """One lock, exclusion, school or bound less at a time; those under which a plan was found."""
    tries: list[tuple[str, str, str, PlanRequest, bool]] = []
    for line_id in sorted(limited.locked):
        portion = next((p for p in search.now.portions if p.line.id == line_id), None)
        name = (portion.line.named or portion.line.text) if portion else line_id
        tries.append(
            ("unlock", line_id, f"Let the {name} change", replace(limited, locked=limited.locked - {line_id}), True)
        )
    if len(limited.locked) > 1:
        tries.append(("unlock", "all", "Let every line change", replace(limited, locked=frozenset()), True))
    for what in sorted(limited.exclude):
        food = knowledge.pantry.get(what)
        name = food.kitchen_name if food else allergen_name(what)
        tries.append(("include", what, f"Allow {name}", replace(limited, exclude=limited.exclude - {what}), True))
    wider = min(MAX_TASTE_STEPS, limited.most_steps + WIDER_TASTE)
    if wider > limited.most_steps:
        told = f"Let taste go {wider:g} noticeable steps"
        tries.append(("steps", f"{wider:g}", told, replace(limited, most_steps=wider), False))
    if limited.max_changes < MAX_CHANGES:
        more = min(MAX_CHANGES, limited.max_changes + MORE_CHANGES)
        tries.append(("changes", str(more), f"Allow {more} changes", replace(limited, max_changes=more), False))
    if limited.school is not None:
        tries.append(
            (
                "school",
                "",
                f"Take moves of any school, not only {limited.school.name}",
                replace(limited, school=None),
                True,
            )
        )
    if limited.salt_school is not None:
        tries.append(
            ("salt-school", "", f"Leave out “{limited.salt_school.name}”", replace(limited, salt_school=None), True)
        )
    return [
        Relaxation(change, value, text, request)
        for change, value, text, request, fresh in tries
        if _works(search, request, fresh) is not None
    ]
