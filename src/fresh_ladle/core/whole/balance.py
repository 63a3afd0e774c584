"""The balance of a version: its steps from the original, how sure they are, and where such dishes
are well liked."""

from __future__ import annotations

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import Drift, drift, steps_between
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.flavor.uncertainty import step_ranges
from fresh_ladle.core.flavor.windows import Imbalance, Window, imbalances
from fresh_ladle.core.whole.appraisal import Appraisal


def drift_between(
    now: Appraisal, original: Appraisal, setting: Setting = Setting.FROM_MEMORY
) -> Drift:
    """Noticeable steps from the original to this version, each as cold as its recipe says."""
    celsius, smells = (now.celsius, original.celsius), (now.smell, original.smell)
    return drift(now.flavor, original.flavor, setting, celsius, smells)


def drift_ranges(
    now: Appraisal, original: Appraisal, setting: Setting = Setting.FROM_MEMORY
) -> dict[str, tuple[float, float]]:
    """The 90% range of the steps on each axis, from the doubt of the amounts."""
    return step_ranges(
        drift_between(now, original, setting),
        (now.portions, now.flavor),
        (original.portions, original.flavor),
        setting,
    )


def windows_of(appraisal: Appraisal, knowledge: Knowledge) -> dict[str, Window]:
    """The windows of the recipe's kind of dish, by axis."""
    return dict(knowledge.windows.get(appraisal.recipe.kind, {}))


def windows_in_steps(
    now: Appraisal,
    original: Appraisal,
    knowledge: Knowledge,
    setting: Setting = Setting.FROM_MEMORY,
) -> dict[str, tuple[float, float]]:
    """The window of each axis as steps from the original, so that this version lies inside just
    when its stimulus does.

    The ends are stimuli; the other tastes of this version change them as it changes its own
    stimulus."""
    tasted, known = now.tasted, original.tasted
    found = {}
    for axis, window in windows_of(now, knowledge).items():
        value = now.flavor[axis].value
        interactions = tasted[axis] / value if value > 0 else 1.0
        low, high = (
            steps_between(end * interactions, known[axis], axis, setting)
            for end in (window.low, window.high)
        )
        found[axis] = (low, high)
    return found


def steps_outside(appraisal: Appraisal, knowledge: Knowledge) -> dict[str, float]:
    """Steps by which a dish leaves the windows of its kind, by axis: above 0 where it has more than
    is well liked."""
    found = {}
    for axis, window in windows_of(appraisal, knowledge).items():
        value = appraisal.flavor[axis].value
        edge = min(max(value, window.low), window.high)
        found[axis] = steps_between(value, edge, axis, Setting.SIDE_BY_SIDE)
    return found


def imbalances_of(appraisal: Appraisal, knowledge: Knowledge) -> list[Imbalance]:
    """What is missing or loud for this kind of dish, in words."""
    return imbalances(appraisal.flavor, windows_of(appraisal, knowledge))
