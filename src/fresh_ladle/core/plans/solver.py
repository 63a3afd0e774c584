"""A small mixed-integer linear program and its solution by HiGHS."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import highspy
import numpy as np

INFINITY = highspy.kHighsInf
FEW_NODES, MANY_NODES = 20, 2000
"""Nodes searched; the best is nearly always met in the first few, and proving it costs the most time."""
_FEASIBLE = 2
"""HiGHS: a primal solution is there."""


@dataclass
class Program:
    """Columns with bounds, cost and integrality; rows as sparse sums between bounds. Columns are named by number."""

    lower: list[float] = field(default_factory=list)
    upper: list[float] = field(default_factory=list)
    cost: list[float] = field(default_factory=list)
    integer: list[bool] = field(default_factory=list)
    row_lower: list[float] = field(default_factory=list)
    row_upper: list[float] = field(default_factory=list)
    rows: list[dict[int, float]] = field(default_factory=list)

    def column(self, lower: float, upper: float, cost: float = 0.0, integer: bool = False) -> int:
        self.lower.append(lower)
        self.upper.append(upper)
        self.cost.append(cost)
        self.integer.append(integer)
        return len(self.lower) - 1

    def row(self, terms: Mapping[int, float], lower: float = -INFINITY, upper: float = INFINITY) -> int:
        self.rows.append({c: v for c, v in terms.items() if v != 0.0})
        self.row_lower.append(lower)
        self.row_upper.append(upper)
        return len(self.rows) - 1


@dataclass(frozen=True, slots=True)
class Solution:
    """Values of the columns. `in_time` is False when the clock, and not the search, ended it."""

    values: list[float]
    in_time: bool


def solved(program: Program, seconds: float, gap: float = 0.04) -> Solution | None:
    """A solution within `gap` of the best, or the best of a small search tree; None when there is none.

    One thread and a limit of nodes, not of time, so that the same input gives the same answer. Only where nothing was
    found within the nodes is it looked for in a larger tree.
    """
    highs = _loaded(program, seconds, gap)
    for nodes in FEW_NODES, MANY_NODES:
        highs.setOptionValue("mip_max_nodes", nodes)
        highs.run()
        status = highs.getModelStatus()
        if highs.getInfo().primal_solution_status == _FEASIBLE:
            return Solution(list(highs.getSolution().col_value), status != highspy.HighsModelStatus.kTimeLimit)
        if status != highspy.HighsModelStatus.kSolutionLimit:
            break
    return None


def _loaded(program: Program, seconds: float, gap: float) -> highspy.Highs:
    """The solver with the program in it."""
    model = highspy.HighsLp()
    model.num_col_, model.num_row_ = len(program.lower), len(program.rows)
    model.col_cost_, model.col_lower_, model.col_upper_ = (
        np.array(program.cost),
        np.array(program.lower),
        np.array(program.upper),
    )
    model.row_lower_, model.row_upper_ = np.array(program.row_lower), np.array(program.row_upper)
    starts, index, value = [0], list[int](), list[float]()
    for row in program.rows:
        index += row.keys()
        value += row.values()
        starts.append(len(index))
    model.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
    model.a_matrix_.start_ = np.array(starts)
    model.a_matrix_.index_ = np.array(index, dtype=np.int32)
    model.a_matrix_.value_ = np.array(value)
    kinds = (highspy.HighsVarType.kContinuous, highspy.HighsVarType.kInteger)
    model.integrality_ = [kinds[one] for one in program.integer]
    highs = highspy.Highs()
    settings = {
        "output_flag": False,
        "threads": 1,
        "time_limit": max(0.05, seconds),
        "mip_rel_gap": gap,
        # These programs are small: beginning again at the root costs more than it saves.
        "mip_allow_restart": False,
    }
    for name, setting in settings.items():
        highs.setOptionValue(name, setting)
    highs.passModel(model)
    return highs
