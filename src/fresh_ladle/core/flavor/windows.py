"""The well-liked window of a kind of dish on each axis, and in words what is missing when a dish
leaves it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.flavor.stimuli import Stimulus
from fresh_ladle.core.foods.food import Grade


@dataclass(frozen=True, slots=True)
class Window:
    """Where a well-liked dish of one kind lies on one axis: `low` to `high`, in the unit of the
    stimulus. `eaters` says how a practice's own eaters have moved it, where they have."""

    kind: str
    axis: str
    low: float
    high: float
    grade: Grade
    source: str
    eaters: str = ""

    def side_of(self, value: float) -> str:
        """`low`, `high`, or `inside`."""
        return "low" if value < self.low else "high" if value > self.high else "inside"


@dataclass(frozen=True, slots=True)
class Imbalance:
    """What is out of balance: the role that is missing or loud, the axes that show it, and a
    sentence for a cook."""

    role: str
    axes: tuple[str, ...]
    text: str


_RULES: tuple[tuple[str, dict[str, str], str], ...] = (
    (
        "acid",
        {"sour": "low", "sweet": "high"},
        "Sweet without sour: some lemon or vinegar would wake it.",
    ),
    ("acid", {"sour": "low"}, "Little acid: it may taste flat and heavy."),
    ("fat", {"rich": "low", "sour": "high"}, "Sharp and thin: no fat rounds the acid."),
    ("fat", {"rich": "low"}, "Little fat: nothing carries the herbs or makes it round."),
    ("fat", {"rich": "high"}, "Heavy: more fat than such a dish usually has."),
    (
        "sweet or spice",
        {"sour": "high", "sweet": "low"},
        "Sharp: nothing sweet or spiced rounds the acid.",
    ),
    ("acid", {"sour": "high"}, "Sharper than such a dish usually is."),
    (
        "salt",
        {"salt": "low"},
        "Little salt: without savor, acid or herbs to help it may taste dull.",
    ),
    ("salt", {"salt": "high"}, "Saltier than such a dish usually is."),
    ("sweet or spice", {"sweet": "high"}, "Sweeter than such a dish usually is."),
    ("aromatic", {"aroma": "low"}, "No herb, zest or spice speaks."),
    ("body", {"body": "low"}, "Thin: nothing makes it cling."),
    ("body", {"body": "high"}, "Pasty: a spoon or two of water would loosen it."),
)
"""Read from the top; an axis that one sentence has spoken of is not spoken of again."""

Windows = Mapping[str, Mapping[str, Window]]
"""By kind of dish, then by axis; an axis without a window is free."""


def imbalances(flavor: Mapping[str, Stimulus], windows: Mapping[str, Window]) -> list[Imbalance]:
    """What leaves its window, most telling first. Axes with foods of unknown taste are not called
    low."""
    sides = {}
    for axis, window in windows.items():
        side = window.side_of(flavor[axis].value)
        if side == "high" or (side == "low" and not flavor[axis].unknown):
            sides[axis] = side
    found, spoken = [], set[str]()
    for role, needs, text in _RULES:
        if (
            all(sides.get(axis) == side for axis, side in needs.items())
            and not spoken & needs.keys()
        ):
            found.append(Imbalance(role, tuple(needs), text))
            spoken |= needs.keys()
    return found
