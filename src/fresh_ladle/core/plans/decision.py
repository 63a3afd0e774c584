"""A change in the words a cook would say it in, and which lever of the field it pulls."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum

from fresh_ladle.core.plans.move import Move, Way
from fresh_ladle.core.words.sentences import capitalized, listed


class Lever(StrEnum):
    """What a plan does above all; its name on screen."""

    EXCHANGE = "Exchange"
    LESS = "Use less"
    MORE = "More of what is light"
    SEASON = "Season otherwise"
    SMALLER = "A smaller serving"
    LARGER = "A larger serving"


_LEVERS = {
    "swap": Lever.EXCHANGE,
    "cut": Lever.LESS,
    "component": Lever.LESS,
    "measure": Lever.LESS,
    "raise": Lever.MORE,
    "stretch": Lever.MORE,
    "repair": Lever.SEASON,
}
_OF_IT = (
    (0.75, "three quarters of the"),
    (2 / 3, "two thirds of the"),
    (0.5, "half the"),
    (1 / 3, "a third of the"),
)
_QUARTER = "a quarter of the"
_MORE = ((0.25, "a quarter more"), (0.5, "half as much again of the"), (1.0, "twice the"))
ALL = 1 - 1e-6


def lever_of(way: Way) -> Lever:
    """The lever of one way; part water for a thing is less of it."""
    if way.kind == "swap" and all(part.food.key == "water" for part in way.parts):
        return Lever.LESS
    return _LEVERS[way.kind]


def decision(move: Move, name: str) -> str:
    """`half the oil, the rest water`: a change of the line or component of that name, or of what
    comes in."""
    (way,) = move.ways
    new = listed(list(dict.fromkeys(part.food.kitchen_name for part, _ in move.added)))
    if way.kind == "swap":
        return (
            f"{new} instead of the {name}"
            if move.gone > ALL
            else f"{_of_it(1 - move.gone)} {name}, the rest {new}"
        )
    if way.kind == "cut":
        return f"no {name}" if move.gone > ALL else f"{_of_it(1 - move.gone)} {name}"
    if way.kind == "component":
        return f"{_of_it(move.share)} {name}"
    if way.kind == "raise":
        return f"{min(_MORE, key=lambda one: abs(one[0] + move.gone))[1]} {name}"
    if way.kind == "measure":
        return f"{name} measured"
    return f"some {new}"


def _of_it(left: float) -> str:
    return min((*_OF_IT, (0.25, _QUARTER)), key=lambda one: abs(one[0] - left))[1]


def sentence(decisions: Sequence[str]) -> str:
    """All decisions of a plan in one sentence."""
    joined = (
        "; ".join(decisions) if any(", " in one for one in decisions) else listed(list(decisions))
    )
    return f"{capitalized(joined)}." if decisions else ""
