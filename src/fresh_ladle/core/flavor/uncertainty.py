"""How sure a step of taste is: the doubt of the amounts, carried through to the steps between two versions.

A relative error e of line i moves the stimulus S of a mix of mass M by (s_i − S·m_i/M)·e, with s_i what the line brings
and m_i its mass. A line that stands unchanged in both versions carries one error through both, so that most of its
doubt drops out of the difference; lines that differ err on their own. First order, 90% range.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import log, sqrt

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.flavor.parameters import AXES, Axis, Setting, weber
from fresh_ladle.core.flavor.stimuli import Stimulus
from fresh_ladle.core.ranges import Z90

Flavor = Mapping[str, Stimulus]


def step_ranges(
    change: Drift,
    now: tuple[Sequence[Portion], Flavor],
    before: tuple[Sequence[Portion], Flavor],
    setting: Setting = Setting.FROM_MEMORY,
) -> dict[str, tuple[float, float]]:
    """Low and high end of the steps on each axis; `now` and `before` are the portions and the stimuli of a version."""
    found = {}
    for axis in AXES:
        later, earlier = _sensitivities(axis, *now), _sensitivities(axis, *before)
        variance = 0.0
        for line_id in later.keys() | earlier.keys():
            amount_now, slope_now, sd_now = later.get(line_id, ("", 0.0, 0.0))
            amount_before, slope_before, sd_before = earlier.get(line_id, ("", 0.0, 0.0))
            if amount_now == amount_before:
                variance += ((slope_now - slope_before) * sd_now) ** 2
            else:
                variance += (slope_now * sd_now) ** 2 + (slope_before * sd_before) ** 2
        spread = Z90 * sqrt(variance) / log(1 + weber(axis, setting))
        step = change.steps[axis.id]
        found[axis.id] = (step - spread, step + spread)
    return found


def _sensitivities(axis: Axis, portions: Sequence[Portion], flavor: Flavor) -> dict[str, tuple[str, float, float]]:
    """By line: its amount and food in words, d ln(stimulus) by its relative error, and that error's deviation."""
    stimulus = flavor[axis.id]
    mass = sum(p.in_bowl.value for p in portions) or 1.0
    found = {}
    for portion in portions:
        grams = portion.counted
        if grams.value <= 0:
            continue
        brought = stimulus.by_line.get(portion.line.id, 0.0) - stimulus.value * portion.in_bowl.value / mass
        deviation = (grams.sd_down + grams.sd_up) / 2 / grams.value
        same = f"{portion.line.amount}|{portion.line.food}|{portion.line.preparations}"
        found[portion.line.id] = (same, brought / (stimulus.value + axis.floor), deviation)
    return found
