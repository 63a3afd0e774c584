"""How strong each axis is perceived: its stimulus, changed by what else is in the mix and by how cold it is served."""

from __future__ import annotations

from collections.abc import Mapping

from fresh_ladle.core.flavor.parameters import (
    AROMA_PER_DEGREE,
    AXIS_IDS,
    INTERACTIONS,
    MAX_SALT_LIFT,
    SWEET_PER_DEGREE,
    USUAL_CELSIUS,
)
from fresh_ladle.core.flavor.stimuli import Stimulus


def effective(stimuli: Mapping[str, Stimulus], celsius: float = USUAL_CELSIUS) -> dict[str, float]:
    """The concentration that would taste as strong on its own, by axis, in the unit of the stimulus.

    All effects start from the plain stimuli, so their order does not matter. An axis never goes below 0.
    """
    plain = {axis: stimuli[axis].value for axis in AXIS_IDS}
    found = {axis: plain[axis] * _mixture_factor(axis, plain) for axis in AXIS_IDS}
    warmer = celsius - USUAL_CELSIUS
    found["aroma"] *= max(0.2, 1 + AROMA_PER_DEGREE * warmer)
    found["sweet"] *= max(0.5, 1 + SWEET_PER_DEGREE * warmer)
    return found


def _mixture_factor(axis: str, plain: Mapping[str, float]) -> float:
    lift = hold = 1.0
    for effect in INTERACTIONS:
        if effect.on != axis:
            continue
        change = effect.factor(plain[effect.by])
        if effect.size > 0:
            lift *= change
        else:
            hold *= change
    return min(lift, MAX_SALT_LIFT) * hold
