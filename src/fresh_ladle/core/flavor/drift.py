"""Distance in taste between two versions, counted in noticeable steps, and said in words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from math import copysign, exp, log, sqrt
from typing import overload

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.flavor.parameters import (
    AXES,
    BY_ID,
    MAY_NOT_NOTICE,
    USUAL_CELSIUS,
    Setting,
    weber,
)
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.flavor.smell import FAMILIES, Smell, aroma_shift
from fresh_ladle.core.flavor.stimuli import Stimulus
from fresh_ladle.core.words.sentences import capitalized, listed

PLAIN_STEPS, MOST_STEPS = 4.0, 6.0
"""Steps counted as they are, and what larger ones approach: past about five it is another dish,
however far."""
ANOTHER_DISH = 5.0
SAID_FROM = 0.5
"""Steps of one family of smell from which it is named, where the smell as a whole is noticed."""


@dataclass(frozen=True, slots=True)
class Drift:
    """Signed noticeable steps of one version from another, by axis; the steps by which it smells of
    something else, and in what; and the weighted root sum of squares of all."""

    steps: Mapping[str, float]
    total: float
    aroma_shift: float = 0.0
    smells: Mapping[str, float] = field(default_factory=dict)
    texture: Mapping[str, float] = field(default_factory=dict)
    """Steps by which it has less of what carries texture, by axis, where that was looked at."""

    @property
    def most(self) -> float:
        """The largest step of anything that is noticed: a taste, what it smells of, a texture."""
        return max(
            (*map(abs, self.steps.values()), self.aroma_shift, *self.texture.values()), default=0.0
        )


def with_texture(taste: Drift, texture: Mapping[str, float]) -> Drift:
    """A drift with the steps of texture, which count in all like those of a taste."""
    total = sqrt(taste.total**2 + sum(step**2 for step in texture.values()))
    return replace(taste, texture=dict(texture), total=total)


@overload
def saturated(steps: float) -> float: ...
@overload
def saturated(steps: NDArray[np.float64]) -> NDArray[np.float64]: ...
def saturated(steps: float | NDArray[np.float64]) -> float | NDArray[np.float64]:
    """Steps on a scale that ends: small ones keep their size, large ones near the floor of a taste
    do not run away."""
    room = MOST_STEPS - PLAIN_STEPS
    if isinstance(steps, float):
        size = abs(steps)
        return (
            steps
            if size <= PLAIN_STEPS
            else copysign(MOST_STEPS - room * exp((PLAIN_STEPS - size) / room), steps)
        )
    beyond = np.maximum(np.abs(steps) - PLAIN_STEPS, 0.0)
    held = np.where(beyond > 0, PLAIN_STEPS + room * (1 - np.exp(-beyond / room)), np.abs(steps))
    return np.sign(steps) * held


def steps_between(
    now: float, before: float, axis_id: str, setting: Setting = Setting.FROM_MEMORY
) -> float:
    """Noticeable steps from `before` to `now`: ln(now/before) / ln(1 + Weber fraction), floored
    near the threshold and saturating where it becomes another dish."""
    axis = BY_ID[axis_id]
    return saturated(
        log((now + axis.floor) / (before + axis.floor)) / log(1 + weber(axis, setting))
    )


def drift(
    now: Mapping[str, Stimulus],
    before: Mapping[str, Stimulus],
    setting: Setting = Setting.FROM_MEMORY,
    celsius: tuple[float, float] = (USUAL_CELSIUS, USUAL_CELSIUS),
    smells: tuple[Smell, Smell] | None = None,
) -> Drift:
    """Steps on every axis from one mix to another, as they are perceived; `celsius` and `smells` of
    now and of before. Without smells only the strength of the aroma is compared."""
    tasted, known = effective(now, celsius[0]), effective(before, celsius[1])
    steps = {
        axis.id: steps_between(tasted[axis.id], known[axis.id], axis.id, setting) for axis in AXES
    }
    weights = sum(axis.weight for axis in AXES) / len(AXES)
    shift, by_family = aroma_shift(*smells, setting) if smells else (0.0, {})
    squares = sum(axis.weight / weights * steps[axis.id] ** 2 for axis in AXES)
    return Drift(
        steps, sqrt(squares + BY_ID["aroma"].weight / weights * shift**2), shift, by_family
    )


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
    """The axes on which tasters would notice a change, the largest first; what it smells of is
    `smell_words`."""
    noticed = (axis for axis, step in change.steps.items() if abs(step) >= MAY_NOT_NOTICE)
    return sorted(noticed, key=lambda axis: -abs(change.steps[axis]))


def noticed_words(change: Drift) -> list[str]:
    """What tasters would say, one entry for each axis they would notice, the largest change first,
    then the smell."""
    return [
        *(step_words(axis, change.steps[axis]) for axis in noticed_axes(change)),
        *smell_words(change),
    ]


def smell_words(change: Drift) -> list[str]:
    """`smelling more of citrus and less of garlic and onion`, where tasters would notice; else
    nothing."""
    if change.aroma_shift < MAY_NOT_NOTICE:
        return []
    more = max(change.smells, key=lambda f: change.smells[f])
    less = min(change.smells, key=lambda f: change.smells[f])
    said = [f"more of {FAMILIES[more]}"] if change.smells[more] >= SAID_FROM else []
    said += [f"less of {FAMILIES[less]}"] if change.smells[less] <= -SAID_FROM else []
    return [f"smelling {' and '.join(said) or 'of something else'}"]


def drift_sentence(change: Drift) -> str:
    """One sentence on what tasters would say of the whole, the largest change first."""
    said = noticed_words(change)
    if not said:
        unchanged = not any(change.steps.values()) and change.aroma_shift == 0
        return "Unchanged in taste." if unchanged else "Tasters may not notice a difference."
    another = any(abs(step) > ANOTHER_DISH for step in (*change.steps.values(), change.aroma_shift))
    return f"{capitalized(listed(said))} than the original{': another dish' if another else ''}."
