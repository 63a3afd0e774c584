"""Distance in taste between two versions, counted in noticeable steps, and said in words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import log, sqrt

from fresh_ladle.core.flavor.parameters import AXES, BY_ID, MAY_NOT_NOTICE, USUAL_CELSIUS, Setting, weber
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.flavor.stimuli import Stimulus


@dataclass(frozen=True, slots=True)
class Drift:
    """Signed noticeable steps of one version from another, by axis, and their weighted root sum of squares."""

    steps: Mapping[str, float]
    total: float

    @property
    def may_pass_unnoticed(self) -> bool:
        return all(abs(step) < MAY_NOT_NOTICE for step in self.steps.values())


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
    """`same`, `a little saltier`, `saltier`, `much flatter`: what a taster would say."""
    size = abs(step)
    if size < 0.7:
        return "same"
    axis = BY_ID[axis_id]
    word = axis.more if step > 0 else axis.less
    if size < 1.5:
        return f"a little {word}"
    return word if size < 3 else f"plainly {word}"


def drift_sentence(change: Drift) -> str:
    """One sentence on what tasters would say of the whole, the largest change first."""
    noticed = sorted((a for a in change.steps if abs(change.steps[a]) >= 0.7), key=lambda a: -abs(change.steps[a]))
    if not noticed:
        return "Tasters may not notice a difference."
    said = [step_words(a, change.steps[a]) for a in noticed]
    listed = said[0] if len(said) == 1 else ", ".join(said[:-1]) + " and " + said[-1]
    return f"{listed[0].upper()}{listed[1:]} than the original."
