"""What a claim comes to: whether a figure stands on the right side of its limit, beyond its
doubt."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class At:
    """A figure where a rule looks at it: at so many grams, 0 where the amount does not matter,
    against its limit."""

    amount_g: float
    value: float
    limit: float


@dataclass(frozen=True, slots=True)
class Finding:
    """Whether a condition holds; None where it cannot be said. `why` says it in words."""

    holds: bool | None
    why: str
    at: At | None = None


@dataclass(frozen=True, slots=True)
class Measured:
    """A figure of a dish at an amount, with its range; `missing` names the lines it lacks."""

    name: str
    unit: str
    amount: str
    amount_g: float
    value: float
    low: float
    high: float
    missing: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """`101 mg in 100 g of salad`, `21.7% less than …`; less than nothing is more."""
        if self.unit != "%":
            return f"{_number(self.value)} {self.unit} {self.amount}".strip()
        amount = self.amount.replace("less than", "more than", 1) if self.value < 0 else self.amount
        return f"{_number(abs(self.value))}% {amount}".strip()


def at_most(figure: Measured, limit: float, strictly: bool = False) -> Finding:
    """`value ≤ limit`, or `value < limit` where `strictly`."""
    return _against(figure, limit, lambda v: v < limit if strictly else v <= limit, "over")


def at_least(figure: Measured, limit: float) -> Finding:
    return _against(figure, limit, lambda v: v >= limit, "short of")


def _against(figure: Measured, limit: float, holds: Callable[[float], bool], side: str) -> Finding:
    at = At(figure.amount_g, figure.value, limit)
    said = f"{figure.name} {figure.words}".strip()
    if figure.missing:
        return Finding(None, f"{figure.name} is not known of {', '.join(figure.missing)}", at)
    answers = {holds(v) for v in (figure.low, figure.value, figure.high)}
    if len(answers) > 1:
        spread = f"{_number(figure.low)} to {_number(figure.high)}"
        return Finding(None, f"{said}, could be {spread}: on both sides of {_number(limit)}", at)
    if answers == {True}:
        return Finding(True, f"{said}, limit {_number(limit)}", at)
    return Finding(
        False,
        f"{said}, {_number(abs(figure.value - limit))} {side} the limit of {_number(limit)}",
        at,
    )


def _number(value: float) -> str:
    return f"{value:,.0f}" if abs(value) >= 100 else f"{value:.3g}"


def all_of(found: Sequence[Finding]) -> Finding:
    """Every condition must hold: the first that fails decides, then the first that cannot be said,
    then the tightest."""
    for answer in (False, None):
        decided = next((f for f in found if f.holds is answer), None)
        if decided is not None:
            return decided
    return Finding(True, "; ".join(f.why for f in found), _tightest(found))


def any_of(found: Sequence[Finding]) -> Finding:
    """One condition is enough."""
    for answer in (True, None):
        decided = next((f for f in found if f.holds is answer), None)
        if decided is not None:
            return decided
    return Finding(False, "; ".join(f.why for f in found), found[0].at)


def _tightest(found: Sequence[Finding]) -> At | None:
    known = [f.at for f in found if f.at is not None]
    return min(
        known, key=lambda at: abs(at.value - at.limit) / (abs(at.limit) or 1.0), default=None
    )
