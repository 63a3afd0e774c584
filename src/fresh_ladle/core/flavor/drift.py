"""Distance in taste between two versions, counted in noticeable steps, and said in words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import sqrt
from typing import overload

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.flavor.parameters import AXES, BY_ID, MAY_NOT_NOTICE, USUAL_CELSIUS, Setting, weber
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.flavor.stimuli import Stimulus
from fresh_ladle.core.sentences import capitalized, listed

PLAIN_STEPS, MOST_STEPS = 4.0, 6.0
"""Steps counted as they are, and what larger ones approach: past about five it is another dish, however far."""
ANOTHER_DISH = 5.0


@dataclass(frozen=True, slots=True)
class Drift:
    """Signed noticeable steps of one version from another, by axis, and their weighted root sum of squares."""

    steps: Mapping[str, float]
    total: float


@overload
def saturated(steps: float) -> float: ...
@overload
def saturated(steps: NDArray[np.float64]) -> NDArray[np.float64]: ...
def saturated(steps: float | NDArray[np.float64]) -> float | NDArray[np.float64]:
    """Steps on a scale that ends: small ones keep their size, large ones near the floor of a taste do not run away."""
    beyond = np.maximum(np.abs(steps) - PLAIN_STEPS, 0.0)
    room = MOST_STEPS - PLAIN_STEPS
    held = np.where(beyond > 0, PLAIN_STEPS + room * (1 - np.exp(-beyond / room)), np.abs(steps))
    return np.sign(steps) * held


def steps_between(now: float, before: float, axis_id: str, setting: Setting = Setting.FROM_MEMORY) -> float:
    """Noticeable steps from `before` to `now`: ln(now/before) / ln(1 + Weber fraction), floored near the threshold and
    saturating where it becomes another dish."""
    axis = BY_ID[axis_id]
    return float(saturated(np.log((now + axis.floor) / (before + axis.floor)) / np.log(1 + weber(axis, setting))))


def drift(
    now: Mapping[str, Stimulus],
    before: Mapping[str, Stimulus],
    setting: Setting = Setting.FROM_MEMORY,
    celsius: tuple[float, float] = (USUAL_CELSIUS, USUAL_CELSIUS),
) -> Drift:
    """Steps on every axis from one mix to another, as they are perceived; `celsius` of now and of before."""
    tasted, known = effective(now, celsius[0]), effective(before, celsius[1])
    steps = {axis.id: steps_between(tasted[axis.id], known[axis.id], axis.id, setting) for axis in AXES}
    weights = sum(axis.weight for axis in AXES) / len(AXES)
    total = sqrt(sum(axis.weight / weights * steps[axis.id] ** 2 for axis in AXES))
    return Drift(steps, total)


def step_words(axis_id: str, step: float) -> str:
    """`same`, `a little saltier`, `saltier`, `plainly flatter`: what a taster would say."""
    size = abs(step)
    if size < MAY_NOT_NOTICE:
        return "same"
    axis = BY_ID[axis_id]
    word = axis.more if step > 0 else axis.less
    if size < 1.5:
        return f"a little {word}"
    return word if size < 3 else f"plainly {word}" if size <= ANOTHER_DISH else f"far {word}"


def noticed_axes(change: Drift) -> list[str]:
    """The axes on which tasters would notice a change, the largest first."""
    noticed = (axis for axis, step in change.steps.items() if abs(step) >= MAY_NOT_NOTICE)
    return sorted(noticed, key=lambda axis: -abs(change.steps[axis]))


def noticed_words(change: Drift) -> list[str]:
    """What tasters would say, one entry for each axis they would notice, the largest change first."""
    return [step_words(axis, change.steps[axis]) for axis in noticed_axes(change)]


def drift_sentence(change: Drift) -> str:
    """One sentence on what tasters would say of the whole, the largest change first."""
    said = noticed_words(change)
    if not said:
        unchanged = not any(change.steps.values())
        return "Unchanged in taste." if unchanged else "Tasters may not notice a difference."
    another = any(abs(step) > ANOTHER_DISH for step in change.steps.values())
    return f"{capitalized(listed(said))} than the original{': another dish' if another else ''}."
