"""When no plan was found: how near it comes, what stands in the way, and what was tried that would
do.

Nothing here is said that was not tried. A limit is said to bind when a search without it found a
plan, and that plan is shown. "Cannot" is said only where it is proved (see `program`); otherwise no
way was found, and how near one came."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import ceil, floor
from statistics import NormalDist

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.allergens import allergen_name, is_left_out
from fresh_ladle.core.flavor.parameters import BY_ID as AXES
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import EVEN_ODDS, Basis, Side, Target, target_status
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.nutrients.wording import basis_words
from fresh_ladle.core.plans.plan import Plan
from fresh_ladle.core.plans.program import proved_out_of_reach
from fresh_ladle.core.plans.request import MAX_CHANGES, MAX_TASTE_STEPS, PlanRequest
from fresh_ladle.core.plans.search import Search, holds_already, otherwise
from fresh_ladle.core.plans.slots import IDENTITY_KEPT, identity_lines
from fresh_ladle.core.plans.stages import missed, stages_for
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.recipes.recipe import MAX_LINES, Line
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.words.sentences import capitalized, listed

SECONDS, ROAD_SECONDS = 15.0, 8.0
"""Time for the explanation, several times what it takes, and for the road; what has not been tried
by then is not offered."""
WIDER_TASTE, MORE_CHANGES = 1.0, 3
NEAREST = "Nearest"


@dataclass(frozen=True, slots=True)
class Conflict:
    """Why there is no plan. `nearest` is the limit that the nearest version meets.

    `binds` is the limit of the request that stands in the way: `taste:salt`, `changes`, `lock:l3`,
    `exclude:milk`, `school`, `identity:l1`, `measures`, `doubt:feta`, `unknown`, `targets`, or ""
    where no limit that was lifted alone made room. `proved` when no plan of the moves known here
    can exist."""

    target: Target | None
    nearest: float | None
    text: str
    binds: str = ""
    proved: bool = False


@dataclass(frozen=True, slots=True)
class Relaxation:
    """A change of the request under which a plan was found, with that plan.

    `change` is one of target, unlock, include, changes, steps, school, salt-school, chance,
    measures, identity, several, whatever; `value` what it becomes; `binds` the limit it lifts."""

    change: str
    value: str
    text: str
    request: PlanRequest
    plan: Plan
    binds: str


@dataclass(frozen=True, slots=True)
class Refusal:
    """`nearest` are versions as near as was found, within the request first and then with one limit
    let go; `stages` a road over several servings; `otherwise` what meets all of it in another
    serving or with more changes."""

    conflicts: list[Conflict]
    relaxations: list[Relaxation]
    nearest: list[Plan]
    stages: list[Plan]
    otherwise: list[Plan]
    looked: bool = True
    """False when what stands in the way was plain before any plan was looked for."""


@dataclass(frozen=True, slots=True)
class _Lift:
    """One limit let go, to be tried."""

    binds: str
    change: str
    value: str
    text: str
    request: PlanRequest


def refusal_for(
    now: Appraisal,
    original: Appraisal,
    request: PlanRequest,
    knowledge: Knowledge,
    stopped: Callable[[], bool] = lambda: False,
    found: Callable[[Plan], None] = lambda _: None,
) -> Refusal:
    """Explains why no plan was found: the nearest versions, what binds, what would do, and a road
    in stages.

    The nearest within the request is told to `found` as soon as it is known.
    """
    plain = _plain_reasons(now, request)
    if plain:
        return Refusal(plain, [], [], [], [], looked=False)
    search = Search(now, original, replace(request, seconds=SECONDS), knowledge, stopped)
    instead = otherwise(search)
    for other in instead:
        found(other)
    nearest = search.nearest(NEAREST, "As near as it comes within all that was asked.")
    if nearest is not None:
        found(nearest)
    worked, near = list[Relaxation](), [nearest] if nearest is not None else []
    for lift in (*_lifts(search, knowledge), *_whatever_it_tastes(search), *_several(search)):
        if search.stopped() or (lift.change == "several" and worked):
            break
        freed, shown = search.under(lift.request), lift.change in ("steps", "changes", "unlock")
        if not shown and _out_of_reach(freed, lift.request.hard_targets):
            continue
        plan = freed.nearest(
            f"{NEAREST}: {lift.text[:1].lower()}{lift.text[1:]}", _WHY[lift.change]
        )
        if plan is None:
            continue
        if plan.holds(lift.request.chance):
            worked.append(_relaxation(lift, plan, search))
        elif shown and _nearer(plan, near):
            near.append(plan)
    conflicts = _stuck(search, worked) or _conflicts(search, nearest, worked)
    eased = [] if nearest is None else _eased(search, nearest)
    road = [] if any(c.proved for c in conflicts) else _road(search, near, stopped)
    return Refusal(conflicts, [*eased, *worked], near, road, instead)


def _road(search: Search, near: list[Plan], stopped: Callable[[], bool]) -> list[Plan]:
    """Stages, where they lead nearer than one change does."""
    if not near or not search.request.hard_targets:
        return []
    # What was tried before may have taken its time; the road is often the best answer, so it has
    # time of its own.
    timed = replace(search.request, seconds=ROAD_SECONDS)
    stages = stages_for(Search(search.now, search.original, timed, search.knowledge, stopped))
    return stages if len(stages) > 1 and _missed(stages[-1]) < _missed(near[0]) - 0.01 else []


_WHY = {
    "steps": "With taste let go a step further.",
    "changes": "With more to do.",
    "unlock": "With a line let go that was to stay.",
    "include": "With something let in that was to stay out.",
    "school": "Towards the school, as far as it goes.",
    "salt-school": "With salt as it comes.",
    "chance": "It meets at even odds; the doubt of the amounts stands in the way.",
    "measures": "Weighed to the gram instead of measured.",
    "identity": "With less of what gives the dish its name.",
    "whatever": "As far from the taste as it takes.",
    "several": "With several limits let go at once.",
}


# ---------------------------------------------------------------- plain reasons


def _plain_reasons(now: Appraisal, request: PlanRequest) -> list[Conflict]:
    """What stands in the way before anything is looked for."""
    if now.totals.batch_grams.value <= 0:
        text = "Nothing in this recipe has a weight yet: give amounts first."
        return [Conflict(None, None, text, "unknown", proved=True)]
    found = _contradictions(request) + _unknown(now, request)
    if not found and holds_already(now, request):
        return [
            Conflict(None, None, "All of this holds already: nothing has to change.", proved=True)
        ]
    return found


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
                text = (
                    f"{name} cannot be at least {low.limit:g} and at most {high.limit:g} {unit} at"
                    " once."
                )
                found.append(Conflict(low, None, text, "targets", proved=True))
    return found


def _unknown(now: Appraisal, request: PlanRequest) -> list[Conflict]:
    """An upper limit on a figure that some line does not have can never be said to be met."""
    found = []
    for target in request.hard_targets:
        figure = now.figure_for(target)
        if target.side is Side.AT_MOST and not figure.complete:
            text = (
                f"{BY_ID[target.nutrient].name} is not known for {listed(figure.missing)}: no plan"
                " can be sure of it. Mend those lines first."
            )
            found.append(Conflict(target, None, text, "unknown", proved=True))
    return found


def _stuck(search: Search, worked: list[Relaxation]) -> list[Conflict]:
    """Lines that are to go and cannot: locked, part of another batch, or without a way to leave."""
    request, names = search.request, search.moves.stuck
    if not names:
        return []
    locked = [p for p in search.now.portions if p.line.id in request.locked and p.food is not None]
    binds = next((r.binds for r in worked), f"lock:{locked[0].line.id}" if locked else "school")
    if any(
        p.food is not None and is_left_out(p.food, request.exclude) for p in search.now.portions
    ):
        text = f"To be left out, and yet not to change: {listed(names)}."
    else:
        text = f"The school would not have {listed(names)}, and there is no changing that here."
    return [Conflict(None, None, text, binds, proved=True)]


# ---------------------------------------------------------------- lifting one limit after the other


def _lifts(search: Search, knowledge: Knowledge) -> Iterable[_Lift]:
    """Every limit of the request, let go alone; what costs the dish least comes first."""
    request = search.request
    yield from _unlocked(search)
    yield from _schools(request)
    if not request.by_weight:
        yield _Lift(
            "measures",
            "measures",
            "grams",
            "Weigh instead of spoons",
            replace(request, by_weight=True),
        )
    if request.max_changes < MAX_CHANGES:
        more = min(MAX_CHANGES, request.max_changes + MORE_CHANGES)
        yield _Lift(
            "changes",
            "changes",
            str(more),
            f"Allow {more} changes",
            replace(request, max_changes=more),
        )
    if request.chance > 0.5:
        yield _Lift("doubt", "chance", "0.5", "Be sure at even odds", replace(request, chance=0.5))
    wider = min(MAX_TASTE_STEPS, request.most_steps + WIDER_TASTE)
    if wider > request.most_steps:
        text = f"Let taste go {wider:g} steps"
        yield _Lift("taste", "steps", f"{wider:g}", text, replace(request, most_steps=wider))
    for what in sorted(request.exclude):
        food = knowledge.pantry.get(what)
        name = food.kitchen_name if food else allergen_name(what)
        freed = replace(request, exclude=request.exclude - {what})
        yield _Lift(f"exclude:{what}", "include", what, f"Allow {name}", freed)
    if not request.identity_free:
        freed = replace(request, identity_free=True)
        yield _Lift(
            "identity",
            "identity",
            "",
            "Let less than half stay of what gives the dish its name",
            freed,
        )


def _several(search: Search) -> Iterable[_Lift]:
    """Taste and the number of changes let go together, then beside each of the other limits: for
    when none alone makes room."""
    request = search.request
    steps = min(MAX_TASTE_STEPS, request.most_steps + 2 * WIDER_TASTE)
    changes = min(MAX_CHANGES, request.max_changes + MORE_CHANGES)
    wider = replace(request, most_steps=steps, max_changes=changes)
    said = f"let taste go {steps:g} steps and allow {changes} changes"
    if wider != request:
        yield _Lift("taste", "several", "", capitalized(said), wider)
    for lift in (*_unlocked(search), *_schools(request)):
        freed = replace(lift.request, most_steps=steps, max_changes=changes)
        yield _Lift(lift.binds, "several", lift.value, f"{lift.text}, {said}", freed)


def _schools(request: PlanRequest) -> Iterable[_Lift]:
    if request.school is not None and not request.towards:
        text = f"Only towards {request.school.name}"
        yield _Lift("school", "school", "towards", text, replace(request, towards=True))
    if request.salt_school is not None:
        text = f"Leave out “{request.salt_school.name}”"
        yield _Lift("school", "salt-school", "", text, replace(request, salt_school=None))


def _whatever_it_tastes(search: Search) -> Iterable[_Lift]:
    """Where lines have to go, that at any cost: it may be another dish, but there is one."""
    if search.moves.must:
        free = replace(search.request, most_steps=MAX_TASTE_STEPS, max_changes=MAX_CHANGES)
        yield _Lift(
            "taste",
            "whatever",
            "",
            "Whatever it does to taste, in as many changes as it takes",
            free,
        )


def _unlocked(search: Search) -> Iterable[_Lift]:
    request = search.request
    for line_id in sorted(request.locked):
        portion = next((p for p in search.now.portions if p.line.id == line_id), None)
        name = (portion.line.named or portion.line.text) if portion else line_id
        freed = replace(request, locked=request.locked - {line_id})
        yield _Lift(f"lock:{line_id}", "unlock", line_id, f"Let the {name} change", freed)
    if len(request.locked) > 1:
        yield _Lift(
            "lock:all",
            "unlock",
            "all",
            "Let every line change",
            replace(request, locked=frozenset()),
        )


def _relaxation(lift: _Lift, plan: Plan, search: Search) -> Relaxation:
    """A lift that made room, with which taste, whose doubt, or which line, it was."""
    binds, text, request = lift.binds, lift.text, search.request
    if binds == "identity":
        gone = _less_than_half(search.now, plan)
        binds = f"identity:{gone[0].line.id}" if gone else binds
        text = (
            f"Let less than half of the {listed([p.line.named or p.line.text for p in gone])} stay"
            if gone
            else text
        )
    if binds == "taste":
        axis = max(plan.drift.steps, key=lambda a: abs(plan.drift.steps[a]))
        binds, text = f"taste:{axis}", f"{text} (mostly {AXES[axis].name})"
    if binds == "doubt":
        worst = min(request.hard_targets, key=lambda t: plan.meets[t])
        doubts = plan.after.doubts(worst.nutrient)
        weighed = doubts[0].name.lower() if doubts else worst.nutrient
        binds = f"doubt:{weighed}"
        guessed = next(
            (
                p
                for p in plan.after.portions
                if doubts and p.line.id == doubts[0].line_id and p.estimated
            ),
            None,
        )
        if guessed is not None:
            text = f"Say how much {weighed} there is: at even odds it is met"
        elif doubts and _passes_if_weighed(
            plan.after.figure_for(worst),
            doubts[0].low_if_weighed,
            doubts[0].high_if_weighed,
            worst,
            request.chance,
        ):
            text = f"Weigh the {weighed}, and it passes as sure as you asked"
    return Relaxation(lift.change, lift.value, text, lift.request, replace(plan, name=text), binds)


def _less_than_half(now: Appraisal, plan: Plan) -> list[Portion]:
    """The lines that give the dish its name and of which a plan leaves less than their share."""
    left = {p.line.id: p.measured.value for p in plan.after.portions}
    named = identity_lines(now)
    return [
        p
        for p in now.portions
        if p.line.id in named and left.get(p.line.id, 0.0) < 0.99 * IDENTITY_KEPT * p.measured.value
    ]


def _passes_if_weighed(
    figure: Figure, low: float, high: float, target: Target, chance: float
) -> bool:
    weighed = Figure(figure.value, low, high)
    return target.basis is Basis.SERVING and target_status(weighed, target).probability >= chance


def _nearer(plan: Plan, near: list[Plan]) -> bool:
    """Whether a version comes nearer than all that were found, so that it is worth showing."""
    return all(_missed(plan) < _missed(other) - 0.01 for other in near)


def _missed(plan: Plan) -> float:
    return missed(plan.after, (t for t in plan.meets if not t.soft))


# ---------------------------------------------------------------- what is said


def _conflicts(search: Search, nearest: Plan | None, worked: list[Relaxation]) -> list[Conflict]:
    """One for each limit that the nearest version misses, with what stands in its way."""
    request = search.request
    way = worked[0] if worked else None
    binds, stands = (
        (way.binds, _stands(way)) if way else ("", "No limit that was let go makes room.")
    )
    if nearest is None and (search.moves.must or not search.moves.moves):
        locked = not search.moves.moves
        text = "Nothing here may change." if locked else _without_words(request, search.knowledge)
        return [Conflict(None, None, f"{text} {stands}", binds, proved=locked)]
    if not search.moves.lines:
        stands = f"Every line is locked, and nothing that could be added does it. {stands}"
    version = nearest.after if nearest is not None else search.now
    missed = [t for t in request.hard_targets if not _sure(version, t, request.chance)]
    together = len(missed) > 1 and not any(_out_of_reach(search, [t]) for t in missed)
    found = []
    for target in missed:
        limit = _reached(version, target, request.chance)
        proved = _out_of_reach(search, missed if together else [target])
        found.append(
            Conflict(
                target,
                limit,
                _text(target, limit, proved, together, request, stands),
                binds,
                proved,
            )
        )
    return found


def _open(stands: str) -> str:
    """What would do, after a proof: a limit that was let go, if one was found."""
    return "" if stands.startswith("No limit") else f" {stands}"


def _out_of_reach(search: Search, targets: Sequence[Target]) -> bool:
    """Whether it is proved, and the plainest versions a person would try do not do either."""
    if not proved_out_of_reach(search.bowl, search.moves, search.request, targets):
        return False
    return not any(all(_sure(v, t, EVEN_ODDS) for t in targets) for v in _plain_versions(search))


def _plain_versions(search: Search) -> Iterator[Appraisal]:
    """Half of the line that brings most fat, water for the rest; without the line that brings most
    sodium; both."""
    recipe, locked = search.now.recipe, search.request.locked
    lines = [
        p
        for p in search.now.portions
        if p.batch_line is None and p.line.id not in locked and p.line.amount
    ]
    brought = search.now.totals.per_line

    def most(nutrient: str) -> Portion | None:
        return max(lines, key=lambda p: brought[p.line.id][nutrient] or 0.0, default=None)

    fat, salt = most("fat_g"), most("sodium_mg")
    if fat is None or salt is None or not 2 <= len(recipe.lines) < MAX_LINES:
        return
    water = Line(
        recipe.fresh_ids(1)[0],
        "water",
        f"{fat.measured.value / 2:.0f} g",
        "water",
        fat.line.component,
    )
    halved = recipe.with_line(
        replace(recipe.line(fat.line.id), amount=f"{fat.measured.value / 2:.1f} g")
    )
    halved = halved.with_added([water])
    for version in (halved, recipe.without_line(salt.line.id), halved.without_line(salt.line.id)):
        yield appraise(version, search.knowledge)


def _text(
    target: Target, limit: float, proved: bool, together: bool, request: PlanRequest, stands: str
) -> str:
    meta = BY_ID[target.nutrient]
    asked = f"{target.limit:g} {meta.unit} {basis_words(target)}"
    said = f"{meta.name} {target.side} {asked}"
    near = f"Nearest, as sure as asked: {limit:g} {meta.unit}."
    if proved:
        with_others = " beside the other limits" if together else ""
        return (
            f"{said} cannot be reached{with_others} by any {request.max_changes} of the changes"
            f" weighed here, whatever they do to taste. {near}{_open(stands)}"
        )
    return (
        f"No way was found to bring {meta.said} to {target.side} {asked} within"
        f" {request.most_steps:g} steps on any taste and {request.max_changes} changes. {near}"
        f" {stands}"
    )


def _stands(way: Relaxation) -> str:
    """What binds, as far as was tried."""
    what, does = way.binds.partition(":")[2], f"{way.text[:1].lower()}{way.text[1:]}"
    reasons = {
        "steps": f"Taste stands in the way, mostly {_axis(what)}: a step more and it is met.",
        "changes": f"With {way.value} changes it is met.",
        "unlock": f"What is locked stands in the way: {does}, and it is met.",
        "measures": "Kitchen measures stand in the way: weighed in grams it is met.",
        "chance": f"Doubt stands in the way, mostly of the {what}: at even odds it is met.",
        "school": "The school stands in the way: only towards it, it is met.",
        "salt-school": "The way with salt stands in the way: without it, it is met.",
        "include": f"What is left out stands in the way: {does}, and it is met.",
        "whatever": "Taste stands in the way: as another dish, it is met.",
        "several": f"More than one limit stands in the way: {does}, and it is met.",
        "identity": "What gives the dish its name stands in the way: with less of it, it is met.",
    }
    return reasons[way.change]


def _axis(name: str) -> str:
    return AXES[name].name if name in AXES else name


def _without_words(request: PlanRequest, knowledge: Knowledge) -> str:
    names = [
        food.kitchen_name if (food := knowledge.pantry.get(e)) else allergen_name(e)
        for e in sorted(request.exclude)
    ]
    without = f"without {listed(names)}" if names else ""
    school = f"under “{request.school.name}”" if request.school is not None else ""
    said = capitalized(" ".join(w for w in (without, school) if w))
    return (
        f"{said} no version was found that keeps every taste within {request.most_steps:g} steps in"
        f" {request.max_changes} changes."
    )


def _eased(search: Search, nearest: Plan) -> list[Relaxation]:
    """The limits set to what the nearest version meets; that version is then a plan."""
    request = search.request
    targets = tuple(
        (
            replace(t, limit=_reached(nearest.after, t, request.chance))
            if not t.soft and nearest.meets[t] < request.chance
            else t
        )
        for t in request.targets
    )
    eased = replace(request, targets=targets)
    said = ", ".join(
        f"{BY_ID[t.nutrient].said} {t.side} {t.limit:g} {BY_ID[t.nutrient].unit}"
        for t, was in zip(targets, request.targets, strict=True)
        if t != was
    )
    if not said or not all(_sure(nearest.after, t, request.chance) for t in eased.hard_targets):
        return []
    return [Relaxation("target", said, f"Ask for {said}", eased, nearest, "targets")]


def _sure(version: Appraisal, target: Target, chance: float) -> bool:
    return target_status(version.figure_for(target), target).probability >= chance


def _reached(version: Appraisal, target: Target, chance: float) -> float:
    """The limit that a version meets with the chance asked for, rounded to what a person would
    write."""
    figure = version.figure_for(target)
    need = NormalDist().inv_cdf(chance)
    if target.side is Side.AT_MOST:
        value = figure.value + need * (figure.high - figure.value) / Z90
        step = _round_step(value)
        return round(ceil(value / step - 1e-9) * step, 6)
    value = figure.value - need * (figure.value - figure.low) / Z90
    step = _round_step(value)
    return round(max(0.0, floor(value / step + 1e-9) * step), 6)


def _round_step(value: float) -> float:
    return 5.0 if value >= 100 else 1.0 if value >= 10 else 0.1
