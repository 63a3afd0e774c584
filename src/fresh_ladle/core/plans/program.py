"""The moves of a plan as a mixed-integer linear program: which of them to take, one of each slot at
most.

Figures are linear in the moves, exactly. A taste is linear while what the other tastes do to it
stays as it is in a version of reference. The program serves twice: without tastes it proves that
limits cannot be met at all, since every move may then be taken in any part; with them it finds a
version where the beam did not, to be worked out exactly and improved like any other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import highspy
import numpy as np

from fresh_ladle.core.flavor.parameters import AXES
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.plans.beam import band_of
from fresh_ladle.core.plans.move import Moves
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.sums import (
    FIRST,
    FLOORS,
    MASS,
    PER_TARGET,
    STEP_UNITS,
    TASTES,
    VALUE,
    Bowl,
    Rows,
)

NODES, GAP, SECONDS = 60, 0.2, 2.0
"""A small tree is enough. The time is a guard, several times what it takes."""
ALL_STEPS = 4.0
"""Steps beyond which a taste is not held: the scale of steps ends there."""
INFINITY = highspy.kHighsInf


@dataclass
class _Program:
    columns: int
    rows: list[Rows] = field(default_factory=list)
    lower: list[float] = field(default_factory=list)
    upper: list[float] = field(default_factory=list)

    def row(self, terms: Rows, lower: float = -INFINITY, upper: float = INFINITY) -> None:
        self.rows.append(terms)
        self.lower.append(lower)
        self.upper.append(upper)


def proved_out_of_reach(
    bowl: Bowl, moves: Moves, request: PlanRequest, targets: Sequence[Target]
) -> bool:
    """Whether no combination of the moves, or of parts of them, brings all these figures to their
    limits, even at even odds and whatever it does to taste. False also where the solver did not
    finish."""
    if not len(moves.moves):
        return True
    program = _Program(len(moves.moves))
    _common_rows(program, bowl, moves, request)
    for target in targets:
        _target_row(program, bowl, moves, target, 0.0)
    highs = _loaded(program, np.zeros(program.columns), program.columns, integer=False)
    highs.run()
    return bool(highs.getModelStatus() == highspy.HighsModelStatus.kInfeasible)


def version_around(
    bowl: Bowl, moves: Moves, request: PlanRequest, taken: Sequence[int]
) -> tuple[int, ...] | None:
    """The numbers of the moves of a version that meets the limits if tastes change each other as
    they do in the version of reference, which takes the moves `taken`; None where the program has
    none, or found none."""
    count = len(moves.moves)
    reference = bowl.start + moves.rows[list(taken)].sum(axis=0)
    told = bowl.tasted(reference[None])
    program = _Program(count + len(AXES))
    _common_rows(program, bowl, moves, request)
    for place, target in enumerate(request.targets):
        if not target.soft:
            past = told.values[0, place] / max(target.limit, 1e-6) - 1
            doubt = told.misses[0, place] - (past if target.side is Side.AT_MOST else -past)
            _target_row(program, bowl, moves, target, float(max(0.0, doubt)))
    _taste_rows(program, bowl, moves, request, reference, told.tasted[0])
    cost = np.concatenate([moves.cost + 0.02 * moves.changes, [a.weight for a in AXES]])
    highs = _loaded(program, cost, count, integer=True)
    highs.run()
    if highs.getInfo().primal_solution_status != 2:
        return None
    values = np.array(highs.getSolution().col_value)[:count]
    return tuple(int(n) for n in np.flatnonzero(values > 0.5))


def _common_rows(program: _Program, bowl: Bowl, moves: Moves, request: PlanRequest) -> None:
    """One move of a slot at most, what has to go goes, so many changes, and a bowl of about the
    same size."""
    for slot in range(len(moves.slots)):
        of_slot = _padded(program, (moves.slot_of == slot).astype(float))
        program.row(of_slot, 1.0 if slot in moves.must else 0.0, 1.0)
    program.row(_padded(program, moves.changes), upper=float(request.max_changes))
    mass = float(bowl.start[MASS])
    low, high = band_of(bowl)
    program.row(_padded(program, moves.rows[:, MASS]), (low - 1) * mass, (high - 1) * mass)


def _target_row(program: _Program, bowl: Bowl, moves: Moves, target: Target, doubt: float) -> None:
    """The batch's figure less what the limit, tightened by the doubt as a share of it, allows:
    linear in the moves."""
    upper = target.side is Side.AT_MOST
    limit = target.limit * max(0.0, 1 - doubt) if upper else target.limit * (1 + doubt)
    value = FIRST + PER_TARGET * bowl.targets.index(target) + VALUE
    allowed, fixed = bowl.allowance(target, limit)
    terms = moves.rows[:, value] - moves.rows @ allowed
    start = float(bowl.start[value] - bowl.start @ allowed) - fixed
    program.row(
        _padded(program, terms), -INFINITY if upper else -start, -start if upper else INFINITY
    )


def _taste_rows(
    program: _Program, bowl: Bowl, moves: Moves, request: PlanRequest, reference: Rows, tasted: Rows
) -> None:
    """Every taste within its steps, and columns that are at least as large as each step either
    way."""
    count, mass = len(moves.moves), float(reference[MASS])
    plain = reference[TASTES] / mass
    factors = np.where(plain > 1e-9, tasted / np.maximum(plain, 1e-9), 1.0)
    per_taste = moves.rows[:, TASTES] * factors
    start = bowl.start[TASTES] * factors
    for place in range(len(AXES)):
        known, floor, unit = (
            float(bowl.known[place]),
            float(FLOORS[place]),
            float(STEP_UNITS[place]),
        )
        if request.most_steps < ALL_STEPS:
            highest, lowest = (
                (known + floor) * float(np.exp(side * unit * request.most_steps)) - floor
                for side in (1, -1)
            )
            for edge, upper in ((highest, True), (lowest, False)):
                if edge <= 0 and not upper:
                    continue
                terms = _padded(program, per_taste[:, place] - edge * moves.rows[:, MASS]) / mass
                left = -(float(start[place]) - edge * float(bowl.start[MASS])) / mass
                program.row(terms, -INFINITY if upper else left, left if upper else INFINITY)
        size = mass * (known + floor) * unit
        step = _padded(program, per_taste[:, place] - known * moves.rows[:, MASS]) / size
        offset = (float(start[place]) - known * float(bowl.start[MASS])) / size
        for sign in (1.0, -1.0):
            terms = sign * step
            terms[count + place] = -1.0
            program.row(terms, upper=-sign * offset)


def _padded(program: _Program, terms: Rows) -> Rows:
    return np.concatenate([terms, np.zeros(program.columns - len(terms))])


def _loaded(program: _Program, cost: Rows, moves: int, integer: bool) -> highspy.Highs:
    """The solver with the program in it; the first columns are moves, the rest have no upper
    bound."""
    model = highspy.HighsLp()
    rows = np.array(program.rows)
    model.num_row_, model.num_col_ = rows.shape
    model.col_cost_ = cost
    model.col_lower_ = np.zeros(program.columns)
    model.col_upper_ = np.where(np.arange(program.columns) < moves, 1.0, INFINITY)
    model.row_lower_, model.row_upper_ = np.array(program.lower), np.array(program.upper)
    model.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
    filled = [np.flatnonzero(row) for row in rows]
    model.a_matrix_.start_ = np.concatenate([[0], np.cumsum([len(f) for f in filled])]).astype(
        np.int32
    )
    model.a_matrix_.index_ = np.concatenate(filled).astype(np.int32)
    model.a_matrix_.value_ = np.concatenate([row[f] for row, f in zip(rows, filled, strict=True)])
    if integer:
        kinds = (highspy.HighsVarType.kInteger, highspy.HighsVarType.kContinuous)
        model.integrality_ = [kinds[n >= moves] for n in range(program.columns)]
    highs = highspy.Highs()
    settings = {
        "output_flag": False,
        "threads": 1,
        "mip_max_nodes": NODES,
        "mip_rel_gap": GAP,
        # The first version found is enough: it is improved on the exact model.
        "mip_max_improving_sols": 1,
        "time_limit": SECONDS,
    }
    for name, setting in settings.items():
        highs.setOptionValue(name, setting)
    highs.passModel(model)
    return highs
