"""Distance in taste between two versions, counted in noticeable steps, and said in words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import log, sqrt

from fresh_ladle.core.flavor.parameters import AXES, BY_ID, MAY_NOT_NOTICE, USUAL_CELSIUS, Setting, weber
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.flavor.stimuli import Stimulus
from fresh_ladle.core.sentences import capitalized


@dataclass(frozen=True, slots=True)
class Drift:
    """Signed noticeable steps of one version from another, by axis, and their weighted root sum of squares."""

    steps: Mapping[str, float]
    total: float


def steps_between(now: float, before: float, axis_id: str, setting: Setting = Setting.FROM_MEMORY) -> float:
    """Noticeable steps from `before` to `now`: ln(now/before) / ln(1 + Weber fraction), floored near the threshold."""
    axis = BY_ID[axis_id]
    return log((now + axis.floor) / (before + axis.floor)) / log(1 + weber(axis, setting))


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
    return word if size < 3 else f"plainly {word}"


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
        return "Tasters may not notice a difference."
    listed = said[0] if len(said) == 1 else ", ".join(said[:-1]) + " and " + said[-1]
    return f"{capitalized(listed)} than the original."
