"""Builds the mixed-integer program of a plan: whole kitchen steps of what is there and of what may come in.

With S the amount of a taste in the bowl and M the mass of the bowl, "this taste lies within k steps" is S·F − E·M ≤ 0,
exactly linear however the yield moves. F is what the other tastes do to it; it is taken at a reference version and
its change with the other tastes is added to first order, so that savor and acid that come in are seen to lift salt.
Steps in the objective are linear at the reference. The search solves again around each answer until nothing moves.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from math import exp, log
from typing import NamedTuple

import numpy as np

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.flavor.parameters import AXES, AXIS_IDS, SYNERGY, Axis, Setting, weber
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.plans.choices import Choices, LineChoice, Option, PerGram, Vector
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.solver import INFINITY, Program, Solution

SAVORY = AXIS_IDS.index("savory")
MIN_YIELD, MAX_YIELD = 0.85, 1.3
"""The batch may shrink and grow this far."""
PER_SHRINKING = 8.0
"""Cost of the batch shrinking to nothing: a smaller serving is no adaptation."""
SMALL_STEPS, LARGE_STEPS = 0.5, 1.5
"""Cost of a step of taste: below one, which may pass unnoticed, and above."""
PER_SOFT_MISS = 6.0
"""Cost of missing a soft limit by the whole of it: a fifth missed is worth about a step of taste and a change."""
PER_CHANGE, PER_SIZE = 0.35, 0.4
"""Cost of one change, and of taking out the whole of a line."""


@dataclass(frozen=True)
class Aim:
    """What the objective weighs. `furthest` is a nutrient to bring as far past its limit as taste allows."""

    taste: float = 1.0
    changes: float = 1.0
    furthest: str | None = None
    side: Side = Side.AT_MOST
    cost: Mapping[str, float] = field(default_factory=dict)
    any_will_do: bool = False
    """True when a plan is only looked for to see whether there is one."""


@dataclass(frozen=True)
class Reference:
    """The version around which tastes are linear: plain concentrations, interactions, and perceived strengths."""

    mass: float
    plain: Vector
    interaction_factor: Vector
    tasted: Vector
    slopes: Vector
    """d ln F_a / d plain_j, shape (tastes, tastes)."""
    savor_of_nucleotide: float
    """What a mg of nucleotide is worth in plain savor beside the glutamate that is there."""


@dataclass(frozen=True)
class Chosen:
    """One option a solution takes: grams out of its line, steps of each part, steps left of the line."""

    option: Option
    parts: tuple[int, ...]
    left: int | None


class LineColumns(NamedTuple):
    """The columns of one line: the steps left of it, and the switch that frees it from its present amount."""

    left: int
    changed: int


class OptionColumns(NamedTuple):
    """The columns of one option: its switch, the grams it takes out (the doses of a repair), and the steps of its
    parts."""

    on: int
    amount: int
    parts: list[int]


@dataclass
class Model:
    """The program with the columns that matter for reading its answer."""

    program: Program
    choices: Choices
    options: list[OptionColumns]
    lines: dict[str, LineColumns]

    def chosen(self, solution: Solution) -> list[Chosen]:
        """The options a solution takes, in the order of the choices."""
        found = []
        for option, columns in zip(self.choices.options, self.options, strict=True):
            if solution.values[columns.on] < 0.5:
                continue
            left = round(solution.values[self.lines[option.line].left]) if option.line else None
            found.append(Chosen(option, tuple(round(solution.values[c]) for c in columns.parts), left))
        return found


def reference_of(version: Appraisal, plain: Vector, nucleotide_mg: float, mass: float) -> Reference:
    """Everything the rows need to know of a version. `plain` are its linear concentrations in the order of AXIS_IDS,
    with glutamate alone for savor; `nucleotide_mg` is per 100 g of it."""
    lift = 1.0 + SYNERGY * nucleotide_mg / 1000
    worth = float(plain[SAVORY]) * SYNERGY / 1000 / lift
    plain = plain.copy()
    plain[SAVORY] += worth * nucleotide_mg
    tasted = np.array([version.tasted[a] for a in AXIS_IDS])
    interactions = np.where(plain > 1e-9, tasted / np.maximum(plain, 1e-9), 1.0)
    slopes = np.zeros((len(AXIS_IDS), len(AXIS_IDS)))
    held = {a: version.flavor[a].value / p if p > 1e-9 else 1.0 for a, p in zip(AXIS_IDS, plain, strict=True)}
    for j, by in enumerate(AXIS_IDS):
        nudge = 0.02 * max(plain[j], AXES[j].floor)
        moved = dict(version.flavor)
        moved[by] = replace(moved[by], value=moved[by].value + nudge * held[by])
        after = effective(moved, version.celsius)
        for a, axis in enumerate(AXIS_IDS):
            if a != j and tasted[a] > 0:
                slopes[a, j] = log(after[axis] / tasted[a]) / nudge
    return Reference(mass, plain, interactions, tasted, slopes, worth)


def build(
    choices: Choices,
    original: Mapping[str, float],
    reference: Reference,
    request: PlanRequest,
    servings: float,
    serving_grams: float | None,
    yield_grams: float | None,
    aim: Aim,
    margins: Mapping[Target, float],
    tighter: Mapping[str, float],
    elastic: bool = False,
    forbidden: tuple[frozenset[str], ...] = (),
) -> Model:
    """The program for one aim.

    `original` are perceived strengths of the original by axis; `margins` shares by which each limit is tightened for
    doubt; `tighter` steps by which an axis is held closer than asked. With `serving_grams` a serving has a fixed
    weight; with `yield_grams` the batch was weighed. With `elastic`, targets may be missed at a cost. `forbidden` are
    sets of options that must not all be taken again.
    """
    program = Program()
    terms = _Terms(choices, reference.savor_of_nucleotide)
    line_columns = {c.id: _line_columns(program, terms, c) for c in choices.lines}
    by_line: dict[str, list[int]] = {c.id: [] for c in choices.lines}
    on_top: dict[str, list[int]] = {c.id: [] for c in choices.lines}
    out_of: dict[str, dict[int, float]] = {c.id: {} for c in choices.lines}
    option_columns = []
    lines = {c.id: c for c in choices.lines}
    for option in choices.options:
        columns = _option_columns(program, terms, option, lines, reference, aim)
        option_columns.append(columns)
        if option.line is not None:
            (on_top if option.kind == "surface" else by_line)[option.line].append(columns.on)
            out_of[option.line][columns.amount] = -1.0 if option.kind == "raise" else 1.0
    for choice in choices.lines:
        switches = by_line[choice.id], on_top[choice.id]
        _line_rows(program, choice, line_columns[choice.id], *switches, out_of[choice.id])
    on = [columns.on for columns in option_columns]
    program.row(dict.fromkeys(on, 1.0), upper=request.max_changes)
    for taken in forbidden:
        again = [c for c, o in zip(on, choices.options, strict=True) if o.id in taken]
        others = {c: 1.0 for c in on if c not in again}
        program.row({**dict.fromkeys(again, -1.0), **others}, lower=1.0 - len(again))
    base = choices.fixed_mass + sum(c.per_gram.mass * c.grams for c in choices.lines)
    program.row(terms.mass, MIN_YIELD * base - terms.fixed_mass, MAX_YIELD * base - terms.fixed_mass)
    shrunk = program.column(0, base, PER_SHRINKING / base)
    program.row({**terms.mass, shrunk: 1.0}, lower=base - terms.fixed_mass)
    _target_rows(program, terms, request, servings, serving_grams, yield_grams, margins, elastic)
    _taste_rows(program, terms, original, reference, request, tighter, aim)
    if aim.furthest is not None:
        sign = 1.0 if aim.side is Side.AT_MOST else -1.0
        scale = max(1.0, abs(terms.fixed_figures[NUTRIENT_IDS.index(aim.furthest)]))
        for column, value in terms.figures(aim.furthest).items():
            program.cost[column] += sign * 20.0 * value / scale
    return Model(program, choices, option_columns, line_columns)


class _Terms:
    """The bowl as sums over columns: mass, figures and tastes, beside what no column changes."""

    def __init__(self, choices: Choices, savor_of_nucleotide: float) -> None:
        self._savor = savor_of_nucleotide
        self.mass: dict[int, float] = {}
        self._figures: list[dict[int, float]] = [{} for _ in NUTRIENT_IDS]
        self._tastes: list[dict[int, float]] = [{} for _ in AXIS_IDS]
        self.fixed_mass = choices.fixed_mass
        self.fixed_figures = choices.fixed_figures.copy()
        self.fixed_tastes = choices.fixed_tastes.copy()
        self.fixed_tastes[SAVORY] += savor_of_nucleotide * choices.fixed_nucleotide_mg

    def add(self, column: int, grams: float, per_gram: PerGram) -> None:
        """`grams` of something for each unit of a column."""
        self.mass[column] = self.mass.get(column, 0.0) + per_gram.mass * grams
        for place, value in enumerate(per_gram.figures):
            self._figures[place][column] = self._figures[place].get(column, 0.0) + value * grams
        for place, value in enumerate(self._tastes_of(per_gram)):
            self._tastes[place][column] = self._tastes[place].get(column, 0.0) + value * grams

    def always(self, grams: float, per_gram: PerGram) -> None:
        self.fixed_mass += per_gram.mass * grams
        self.fixed_figures += per_gram.figures * grams
        self.fixed_tastes += self._tastes_of(per_gram) * grams

    def _tastes_of(self, per_gram: PerGram) -> Vector:
        """Plain tastes per gram, with nucleotides counted in savor for what they lift the glutamate of the
        reference."""
        tastes = per_gram.tastes.copy()
        tastes[SAVORY] += self._savor * per_gram.nucleotide_mg
        return tastes

    def figures(self, nutrient: str) -> dict[int, float]:
        return self._figures[NUTRIENT_IDS.index(nutrient)]

    def tastes(self, place: int) -> dict[int, float]:
        return self._tastes[place]


def _line_columns(program: Program, terms: _Terms, choice: LineChoice) -> LineColumns:
    """Steps left of a line, beside a switch that keeps it just as it is: grams = g·(1 − changed) + step·left."""
    most = int(choice.most / choice.grid.grams + 1e-6)
    left = program.column(0, most, integer=True)
    changed = program.column(1.0 if choice.must_go else 0.0, 1.0, integer=True)
    terms.always(choice.grams, choice.per_gram)
    terms.add(changed, -choice.grams, choice.per_gram)
    terms.add(left, choice.grid.grams, choice.per_gram)
    program.row({left: 1.0, changed: -float(most)}, upper=0.0)
    if choice.must_go:
        program.row({left: 1.0}, 0.0, 0.0)
    elif choice.least > 0:
        program.row({left: choice.grid.grams, changed: -choice.least}, lower=0.0)
    return LineColumns(left, changed)


def _line_rows(
    program: Program,
    choice: LineChoice,
    columns: LineColumns,
    switches: list[int],
    on_top: list[int],
    out_of: dict[int, float],
) -> None:
    """A changed line makes one change, salt beside it may go on top, and what left it is what its options took
    (grams)."""
    left, changed = columns
    program.row(dict.fromkeys(switches, 1.0), upper=1.0)
    program.row({changed: 1.0, **dict.fromkeys([*switches, *on_top], -1.0)}, upper=0.0)
    for switch in (*switches, *on_top):
        program.row({changed: 1.0, switch: -1.0}, lower=0.0)
    program.row({left: choice.grid.grams, changed: -choice.grams, **out_of}, 0.0, 0.0)


def _option_columns(
    program: Program,
    terms: _Terms,
    option: Option,
    lines: Mapping[str, LineChoice],
    reference: Reference,
    aim: Aim,
) -> OptionColumns:
    on = program.column(0, 1, PER_CHANGE * aim.changes, integer=True)
    base = lines[option.line].grams if option.line is not None else 1.0
    most = option.cap * base
    amount = program.column(0, most, PER_SIZE / base * aim.taste * (0.25 if option.line is None else 1.0))
    if option.line is not None and (saved := aim.cost.get(lines[option.line].portion.line.food or "")) is not None:
        program.cost[amount] -= saved / 100 * (-1 if option.kind == "raise" else 1)
    program.row({amount: 1.0, on: -most}, upper=0.0)
    parts = []
    for part in option.parts:
        ratio = part.ratio if option.line is not None else part.ratio * reference.mass / 100
        steps = max(1, int(ratio * most / part.grid.grams + 0.5))
        column = program.column(0, steps, integer=True)
        terms.add(column, part.grid.grams, part.per_gram)
        program.row({column: 1.0, on: -float(steps)}, upper=0.0)
        program.row({column: 1.0, on: -1.0}, lower=0.0)
        half = 0.5 * part.grid.grams
        program.row({column: part.grid.grams, amount: -ratio, on: -half}, upper=0.0)
        program.row({column: part.grid.grams, amount: -ratio, on: half}, lower=0.0)
        price = aim.cost.get(part.food.key)
        if price is not None:
            program.cost[column] += price * part.grid.grams / 100
        parts.append(column)
    return OptionColumns(on, amount, parts)


def _target_rows(
    program: Program,
    terms: _Terms,
    request: PlanRequest,
    servings: float,
    serving_grams: float | None,
    yield_grams: float | None,
    margins: Mapping[Target, float],
    elastic: bool,
) -> None:
    """Each target tightened by its margin. By weight, the figure of a serving, or of 100 g, is its share of the bowl.
    A soft target, and any when `elastic`, may be missed at a cost."""
    for target in request.targets:
        upper = target.side is Side.AT_MOST
        limit = target.limit * (1 - margins.get(target, 0.0) if upper else 1 + margins.get(target, 0.0))
        place = NUTRIENT_IDS.index(target.nutrient)
        row = dict(terms.figures(target.nutrient))
        fixed = float(terms.fixed_figures[place])
        parts, grams = servings, serving_grams
        if target.basis is Basis.HUNDRED_GRAMS:
            parts, grams = ((yield_grams or 0.0) / 100, None) if yield_grams else (servings, 100.0)
        if grams is None:
            bound = limit * parts - fixed
        else:
            for column, value in terms.mass.items():
                row[column] = row.get(column, 0.0) - limit / grams * value
            bound = limit / grams * terms.fixed_mass - fixed
        if elastic or target.soft:
            scale = max(1.0, target.limit) * parts
            column = program.column(0, INFINITY, (PER_SOFT_MISS if target.soft else 1000.0) / scale)
            row[column] = -1.0 if upper else 1.0
        program.row(row, upper=bound) if upper else program.row(row, lower=bound)


def _taste_rows(
    program: Program,
    terms: _Terms,
    original: Mapping[str, float],
    reference: Reference,
    request: PlanRequest,
    tighter: Mapping[str, float],
    aim: Aim,
) -> None:
    """Every taste within its steps of the original, and its steps in the objective."""
    for place, axis in enumerate(AXES):
        taste = _taste_of(place, terms, reference)
        unit = log(1 + weber(axis, Setting.FROM_MEMORY))
        known = original[axis.id] + axis.floor
        allowed = max(0.0, request.most_steps - tighter.get(axis.id, 0.0))
        highest, lowest = (known * exp(side * unit * allowed) - axis.floor for side in (1, -1))
        row, fixed = taste.against(highest, highest * reference.mass)
        program.row(row, upper=-fixed)
        if lowest > 0:
            row, fixed = taste.against(lowest, lowest * reference.mass)
            program.row(row, lower=-fixed)
        _step_columns(program, taste, axis, known, unit, reference, axis.weight * aim.taste)


@dataclass(frozen=True)
class _Taste:
    """One taste of the bowl around the reference: S·F and the change of F with the other tastes, as sums over
    columns."""

    perceived: float
    strength: Mapping[int, float]
    strength_fixed: float
    shift: Mapping[int, float]
    shift_fixed: float
    mass: Mapping[int, float]
    mass_fixed: float

    def against(self, edge: float, size: float) -> tuple[dict[int, float], float]:
        """S·F − E·M + E·shift in parts of `size`: above nothing where the taste is stronger than `edge`. Also what no
        column changes."""
        row = dict(self.strength)
        for column, value in self.mass.items():
            row[column] = row.get(column, 0.0) - edge * value
        for column, value in self.shift.items():
            row[column] = row.get(column, 0.0) + edge * value
        fixed = self.strength_fixed - edge * self.mass_fixed + edge * self.shift_fixed
        return {column: value / size for column, value in row.items()}, fixed / size


def _taste_of(place: int, terms: _Terms, reference: Reference) -> _Taste:
    interactions = float(reference.interaction_factor[place])
    shift: dict[int, float] = {}
    shift_fixed = 0.0
    for j in range(len(AXES)):
        slope, plain = float(reference.slopes[place, j]), float(reference.plain[j])
        if abs(slope) < 1e-9:
            continue
        for column, value in terms.tastes(j).items():
            shift[column] = shift.get(column, 0.0) + slope * value
        for column, value in terms.mass.items():
            shift[column] = shift.get(column, 0.0) - slope * plain * value
        shift_fixed += slope * (float(terms.fixed_tastes[j]) - plain * terms.fixed_mass)
    strength = {column: interactions * value for column, value in terms.tastes(place).items()}
    return _Taste(
        float(reference.tasted[place]),
        strength,
        interactions * float(terms.fixed_tastes[place]),
        shift,
        shift_fixed,
        terms.mass,
        terms.fixed_mass,
    )


def _step_columns(
    program: Program, taste: _Taste, axis: Axis, known: float, unit: float, reference: Reference, weight: float
) -> None:
    """Steps of one taste in the objective: |step| = small + large, small at most one; linear around the reference."""
    up, fixed = taste.against(taste.perceived, (taste.perceived + axis.floor) * unit * reference.mass)
    small = program.column(0, 1, SMALL_STEPS * weight)
    large = program.column(0, INFINITY, LARGE_STEPS * weight)
    constant = log((taste.perceived + axis.floor) / known) / unit + fixed
    program.row({**up, small: -1.0, large: -1.0}, upper=-constant)
    program.row({**up, small: 1.0, large: 1.0}, lower=-constant)
