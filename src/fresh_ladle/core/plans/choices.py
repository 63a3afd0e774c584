"""What a plan may do: lines that may come down or go up, swaps and repairs that may come in, each on a kitchen grid."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, log

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.catalogue.incoming import Placement, Timing
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.roles import roles_of
from fresh_ladle.core.catalogue.school import SALTY_MG, allows
from fresh_ladle.core.catalogue.swap import COURSE_OF_KIND, Swap
from fresh_ladle.core.cautions.allergens import is_left_out, may_come_in
from fresh_ladle.core.flavor.parameters import AXES, AXIS_IDS, SURFACE_SALT, Setting, weber
from fresh_ladle.core.flavor.stimuli import brought, nucleotides_mg, on_the_surface, per_100_g_of_food
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.plans.grid import Grid, grid_near, grid_of_line
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.swaps.apply import swaps_for
from fresh_ladle.core.swaps.repairs import ON_TOP

Vector = NDArray[np.float64]
MAX_CUT, MAX_RAISED, IDENTITY_KEPT = 1 / 3, 0.5, 0.5
"""Shares of a line: cut without anything in its place, raised, and kept of what gives the dish its name."""
MAX_DOSES = 2.0
OPTIONS_PER_LINE, REPAIRS_PER_NEED = 4, 4
WORTH_MENDING = 0.6
"""Steps that an option may shift a taste before its repairs are considered."""
MIN_HELP = 0.06
"""Share of an open target's gap that half a line has to close for its change to be worth considering."""
_RAISABLE = frozenset({"leafy", "vegetable", "root-tuber", "legume", "fruit", "tomato", "fungus-sea"})


@dataclass(frozen=True, slots=True)
class PerGram:
    """What one gram, as measured, brings: figures in the order of NUTRIENT_IDS, tastes in that of AXIS_IDS, mass, and
    the nucleotides that lift savor (mg per 100 g)."""

    figures: Vector
    tastes: Vector
    mass: float
    nucleotide_mg: float = 0.0


@dataclass(frozen=True, slots=True)
class LineChoice:
    """One line that may change: its grid and the least and most grams it may end with. `must_go` when it is excluded,
    `identity` when it makes the dish what it is."""

    portion: Portion
    grid: Grid
    per_gram: PerGram
    grams: float
    least: float
    most: float
    must_go: bool
    identity: bool

    @property
    def id(self) -> str:
        return self.portion.line.id


@dataclass(frozen=True, slots=True)
class Part:
    """One food that an option brings in: grams for each gram taken out, or per 100 g of mix for a repair's dose."""

    food: Food
    ratio: float
    how: str
    grid: Grid
    per_gram: PerGram
    placement: Placement = Placement.MIXED_IN


@dataclass(frozen=True, slots=True)
class Option:
    """One change a plan may make. `line` is the line it takes from, None for a repair; `cap` the share of the line, or
    the doses, at most. `kind` is swap, cut, raise, surface or repair."""

    id: str
    kind: str
    title: str
    reason: str
    line: str | None
    parts: tuple[Part, ...]
    cap: float
    when: str = ""
    timing: Timing = Timing.WITH_THE_BASE


@dataclass(frozen=True, slots=True)
class Choices:
    """All that a plan may choose from, and what stays as it is."""

    lines: tuple[LineChoice, ...]
    options: tuple[Option, ...]
    fixed_figures: Vector
    fixed_tastes: Vector
    fixed_mass: float
    fixed_nucleotide_mg: float = 0.0
    stuck: tuple[str, ...] = ()
    """Names of lines that are to be left out and may not change: then nothing can hold."""


def per_gram_of_portion(portion: Portion) -> PerGram:
    """A line's figures, plain tastes and mass in the bowl per gram as measured; unknown figures count nothing."""
    food, measured = portion.food, portion.measured.value
    if food is None or measured <= 0:
        return PerGram(np.zeros(len(NUTRIENT_IDS)), np.zeros(len(AXIS_IDS)), 0.0)
    counted = portion.counted.value / measured
    figures = np.array([(food.per_100_g[n] or 0.0) / 100 * portion.factors.get(n, 1.0) for n in NUTRIENT_IDS]) * counted
    salt = portion.factors.get("sodium_mg", 1.0) * (SURFACE_SALT if on_the_surface(portion) else 1.0)
    tastes = np.array([(brought(portion, a) or 0.0) * (salt if a == "salt" else 1.0) for a in AXIS_IDS]) / measured
    nucleotide = nucleotides_mg(portion) / measured
    return PerGram(figures, tastes, portion.in_bowl.value / measured, nucleotide)


def per_gram_of_food(food: Food, placement: Placement = Placement.MIXED_IN) -> PerGram:
    """A food as it comes in, with nothing done to it."""
    figures = np.array([(food.per_100_g[n] or 0.0) / 100 for n in NUTRIENT_IDS])
    surface = SURFACE_SALT if placement is Placement.ON_TOP else 1.0
    tastes = np.array([(per_100_g_of_food(food, a) or 0.0) * (surface if a == "salt" else 1.0) for a in AXIS_IDS])
    return PerGram(figures, tastes, 1.0, food.taste.nucleotide_mg if food.taste else 0.0)


def choices_for(now: Appraisal, request: PlanRequest, knowledge: Knowledge) -> Choices:
    """What a plan for this recipe may choose from, without what the request forbids or another option dominates."""
    identity = identity_lines(now)
    lines, stuck = [], list[str]()
    figures, tastes, mass, nucleotide = np.zeros(len(NUTRIENT_IDS)), np.zeros(len(AXIS_IDS)), 0.0, 0.0
    for portion in now.portions:
        per_gram, grams = per_gram_of_portion(portion), portion.measured.value
        locked = portion.line.id in request.locked or portion.batch_line is not None or not portion.line.amount
        if locked or not portion.known or grams <= 0 or portion.food is None:
            figures = figures + per_gram.figures * grams
            tastes = tastes + per_gram.tastes * grams
            mass += per_gram.mass * grams
            nucleotide += per_gram.nucleotide_mg * grams
            if portion.food is not None and is_left_out(portion.food, request.exclude):
                stuck.append(portion.line.named or portion.food.kitchen_name)
            continue
        least, must_go = _bounds(portion, identity, request, now)
        most = grams * (1 + MAX_RAISED if portion.food.group in _RAISABLE else 1)
        grid = grid_of_line(portion.line, portion.food, grams, now.recipe.region)
        lines.append(LineChoice(portion, grid, per_gram, grams, least, most, must_go, portion.line.id in identity))
    options: list[Option] = []
    shifts = {(t.nutrient, "low") for t in request.targets if t.side is Side.AT_LEAST}
    for choice in lines:
        kept = _prune_options(_options_of_line(choice, now, request, knowledge), choice, now, request.targets)
        for option in kept:
            shifts |= _shifts(option, choice, now)
        options += kept
    options += _repairs(now, request, knowledge, shifts)
    return Choices(tuple(lines), tuple(options), figures, tastes, mass, nucleotide, tuple(stuck))


def identity_lines(now: Appraisal) -> set[str]:
    """Lines that make the dish what it is: named in its title, and the heaviest one in the bowl."""
    title = set(re.findall(r"[a-z]{3,}", now.recipe.title.lower()))
    named = {
        p.line.id
        for p in now.portions
        if p.food is not None
        and any(
            w.rstrip("s") in {t.rstrip("s") for t in title}
            for w in re.findall(r"[a-z]{3,}", (p.line.named or p.food.name).lower())
        )
    }
    heaviest = max(now.portions, key=lambda p: p.in_bowl.value, default=None)
    return named | ({heaviest.line.id} if heaviest is not None else set())


def _bounds(portion: Portion, identity: set[str], request: PlanRequest, now: Appraisal) -> tuple[float, bool]:
    """The least grams that may stay of a line, and whether all of it has to go."""
    food, grams = portion.food, portion.measured.value
    assert food is not None
    if is_left_out(food, request.exclude):
        return 0.0, True
    salt = bool(roles_of(portion.line, food, now.recipe.kind) & {"seasoning", "drawing", "cooking-water"})
    if salt and request.salt_school is not None:
        if request.salt_school.takes_salt_out:
            return 0.0, True
        return grams * request.salt_school.least_salt, False
    return grams * IDENTITY_KEPT if portion.line.id in identity else 0.0, False


def _may_come_in(food: Food, request: PlanRequest, knowledge: Knowledge) -> bool:
    if not may_come_in(food, request.exclude):
        return False
    if request.school is not None and not allows(request.school, food):
        return False
    salty = food.traits.added_salt or (food.per_100_g["sodium_mg"] or 0.0) > SALTY_MG
    return not (salty and request.salt_school is not None and request.salt_school.refuses_salty)


def _options_of_line(choice: LineChoice, now: Appraisal, request: PlanRequest, knowledge: Knowledge) -> list[Option]:
    line, food = choice.portion.line, choice.portion.food
    assert food is not None
    found = []
    for swap in swaps_for(line, now.recipe, knowledge):
        option = _swap_option(swap, choice, food, request, knowledge)
        if option is not None:
            found.append(option)
    if (
        not choice.must_go
        and "seasoning" in roles_of(line, food, now.recipe.kind)
        and COURSE_OF_KIND.get(now.recipe.kind) != "dressing"
        and ON_TOP not in line.remarks
    ):
        per_gram = per_gram_of_food(food, Placement.ON_TOP)
        part = Part(food, 1.0, ON_TOP, grid_near(food, choice.grams / 2), per_gram, Placement.ON_TOP)
        found.append(
            Option(
                f"surface:{line.id}",
                "surface",
                f"Part of the {line.named or 'salt'} on top",
                "Salt on the surface is tasted first, so the same salt seems more.",
                line.id,
                (part,),
                0.67,
                "just before serving; do not stir again",
                Timing.AT_THE_END,
            )
        )
    if choice.must_go:
        found.append(
            Option(
                f"out:{line.id}",
                "cut",
                f"Without {line.named or food.kitchen_name}",
                "Left out, as asked.",
                line.id,
                (),
                1.0,
            )
        )
    elif choice.least < choice.grams and not choice.identity:
        cap = min(MAX_CUT, 1 - choice.least / choice.grams)
        found.append(
            Option(
                f"less:{line.id}",
                "cut",
                f"Less {line.named or food.kitchen_name}",
                "A plain cut: less of it, nothing in its place.",
                line.id,
                (),
                cap,
            )
        )
    if choice.most > choice.grams and not choice.must_go:
        found.append(
            Option(
                f"more:{line.id}",
                "raise",
                f"More {line.named or food.kitchen_name}",
                "More of the bowl from what is light and filling.",
                line.id,
                (),
                MAX_RAISED,
            )
        )
    return found


def _swap_option(
    swap: Swap, choice: LineChoice, food: Food, request: PlanRequest, knowledge: Knowledge
) -> Option | None:
    """A swap as an option; None when the request or the grid forbids it."""
    if request.school is not None and not swap.keeps(request.school, food, knowledge.pantry):
        return None
    cap = min(swap.fails_at, 1 - choice.least / choice.grams) if not choice.must_go else 1.0
    if cap <= 0 or not swap.incoming or swap.ask_first:
        return None
    parts = []
    for incoming in swap.incoming:
        new = incoming.resolved(food, knowledge.pantry)
        if new is None or (incoming.food != "@same" and not _may_come_in(new, request, knowledge)):
            return None
        if incoming.preparation or (incoming.food == "@same" and choice.must_go):
            return None
        grid = grid_near(new, choice.grams * cap * incoming.per_gram, (incoming.how,) if incoming.how else ())
        if grid.grams > 2 * choice.grams * cap * incoming.per_gram:
            return None
        per_gram = per_gram_of_food(new, incoming.placement)
        parts.append(Part(new, incoming.per_gram, incoming.how, grid, per_gram, incoming.placement))
    on_top = any(part.placement is Placement.ON_TOP for part in parts)
    timing = Timing.AT_THE_END if on_top else Timing.WITH_THE_BASE
    when = timing.value if on_top else ""
    return Option(f"{swap.id}:{choice.id}", "swap", swap.title, swap.reason, choice.id, tuple(parts), cap, when, timing)


def _repairs(now: Appraisal, request: PlanRequest, knowledge: Knowledge, shifts: set[tuple[str, str]]) -> list[Option]:
    """Repairs that add food for the tastes that the other options may shift, a few for each, in doses by the mass."""
    found, seen = [], set[tuple[str, ...]]()
    taken = dict.fromkeys(shifts, 0)
    course, mass = COURSE_OF_KIND.get(now.recipe.kind), now.totals.batch_grams.value
    for repair in knowledge.repairs:
        foods, need = tuple(a.food for a in repair.additions), (repair.axis, repair.mends)
        if (
            not foods
            or foods in seen
            or course not in repair.courses
            or taken.get(need, REPAIRS_PER_NEED) >= REPAIRS_PER_NEED
        ):
            continue
        if not all(_may_come_in(knowledge.pantry[f], request, knowledge) for f in foods):
            continue
        seen.add(foods)
        taken[need] += 1
        parts = []
        for addition in repair.additions:
            food = knowledge.pantry[addition.food]
            grid = grid_near(food, addition.per_100_g * mass / 100, (addition.how,) if addition.how else ())
            per_gram = per_gram_of_food(food, addition.placement)
            parts.append(Part(food, addition.per_100_g, addition.how, grid, per_gram, addition.placement))
        found.append(
            Option(
                f"repair:{repair.id}",
                "repair",
                repair.title,
                repair.reason,
                None,
                tuple(parts),
                MAX_DOSES,
                repair.when,
                repair.timing,
            )
        )
    return found


def _shifts(option: Option, choice: LineChoice, now: Appraisal) -> set[tuple[str, str]]:
    """The tastes that an option taken to its cap may shift so far that a repair is called for, each low or high."""
    steps = _steps_of(option, choice, now, option.cap)
    return {
        (axis, "low" if step < 0 else "high")
        for axis, step in zip(AXIS_IDS, steps, strict=True)
        if abs(step) >= WORTH_MENDING
    }


def _prune_options(
    options: Sequence[Option], choice: LineChoice, now: Appraisal, targets: Sequence[Target]
) -> list[Option]:
    """The options of a line that help an open target and that no other one beats on all counts, the best few of them.

    What helps no target is left alone: nobody changes the oil of a dish to mend its salt. Salt for the surface stays,
    since it lets salt come down, and so does all that takes an excluded food out.
    """
    scored = [(o, _effects(o, choice, now, targets)) for o in options]
    helping = [
        (o, e)
        for o, e in scored
        if choice.must_go or o.kind == "surface" or bool(np.any(e[: len(targets)] < -MIN_HELP))
    ]
    free = [
        (o, e)
        for o, e in helping
        if o.kind != "swap"
        or not any(
            other.kind == "swap"
            and other is not o
            and bool(np.all(theirs <= e + 1e-9))
            and bool(np.any(theirs < e - 1e-6))
            for other, theirs in helping
        )
    ]
    free.sort(key=lambda pair: (pair[0].kind == "swap", _worth(pair[1], len(targets)), pair[0].id))
    plain = sum(o.kind != "swap" for o, _ in free)
    return [o for o, _ in free[: plain + OPTIONS_PER_LINE]]


def _added(option: Option, choice: LineChoice, share: float) -> tuple[Vector, Vector, float]:
    """What an option adds to the bowl when it takes a share of its line: figures, tastes and mass."""
    out = choice.grams * share * (-1 if option.kind == "raise" else 1)
    figures, tastes, mass = -choice.per_gram.figures * out, -choice.per_gram.tastes * out, -choice.per_gram.mass * out
    for part in option.parts:
        grams = out * part.ratio
        figures, tastes = figures + part.per_gram.figures * grams, tastes + part.per_gram.tastes * grams
        mass += part.per_gram.mass * grams
    return figures, tastes, mass


def _steps_of(option: Option, choice: LineChoice, now: Appraisal, share: float) -> list[float]:
    """Steps on each axis by its own amount alone, without what the axes do to each other."""
    _, tastes, mass = _added(option, choice, share)
    total, steps = now.totals.batch_grams.value, []
    for place, axis in enumerate(AXES):
        before = now.flavor[axis.id].value
        after = max(0.0, (before * total + tastes[place]) / max(1.0, total + mass))
        steps.append(log((after + axis.floor) / (before + axis.floor)) / log(1 + weber(axis, Setting.FROM_MEMORY)))
    return steps


def _effects(option: Option, choice: LineChoice, now: Appraisal, targets: Sequence[Target]) -> Vector:
    """What half the line swapped would do: each open figure's change as a share of its gap, then the size of each
    step."""
    share = min(option.cap, 0.5)
    figures, _, _ = _added(option, choice, share)
    moved = []
    for target in targets:
        parts = now.totals.servings if target.basis is Basis.SERVING else now.totals.batch_grams.value / 100
        change = figures[NUTRIENT_IDS.index(target.nutrient)] / parts
        gap = max(abs(now.figure_for(target).value - target.limit), 0.05 * max(target.limit, 1.0))
        moved.append((change if target.side is Side.AT_MOST else -change) / gap)
    return np.array([*moved, *(abs(s) for s in _steps_of(option, choice, now, share))])


def _worth(effects: Vector, targets: int) -> float:
    """Lower is better: help on the open targets against a fifth of the drift."""
    return float(np.clip(effects[:targets], -1.5, 1.5).sum() + 0.2 * hypot(*effects[targets:]))
