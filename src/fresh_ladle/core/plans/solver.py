"""A small mixed-integer linear program and its solution by HiGHS."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import highspy
import numpy as np

INFINITY = highspy.kHighsInf


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
    """Values of the columns. `proven` is False when the time ran out before the best was proven."""

    values: list[float]
    proven: bool


def solved(program: Program, seconds: float, gap: float = 0.03) -> Solution | None:
    """The best solution found in the time, or None when there is none. One thread, so that the same input gives the
    same answer."""
    model = highspy.HighsLp()
    model.num_col_, model.num_row_ = len(program.lower), len(program.rows)
    model.col_cost_, model.col_lower_, model.col_upper_ = (
        np.array(program.cost), np.array(program.lower), np.array(program.upper),
    )  # fmt: skip
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
    for name, setting in (
        ("output_flag", False),
        ("threads", 1),
        ("time_limit", max(0.05, seconds)),
        ("mip_rel_gap", gap),
    ):
        highs.setOptionValue(name, setting)
    highs.passModel(model)
    highs.run()
    status = highs.getModelStatus()
    info = highs.getInfo()
    if info.primal_solution_status != 2:
        return None
    return Solution(list(highs.getSolution().col_value), status == highspy.HighsModelStatus.kOptimal)
