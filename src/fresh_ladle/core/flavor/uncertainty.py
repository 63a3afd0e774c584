"""How sure a step of taste is: the doubt of the amounts, carried through to the steps between two
versions.

A relative error e of line i moves the stimulus S of a mix of mass M by (s_i − S·m_i/M)·e, with s_i
what the line brings and m_i its mass. A line that stands unchanged in both versions carries one
error through both, so that most of its doubt drops out of the difference; lines that differ err on
their own. First order, 90% range."""

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
    """Low and high end of the steps on each axis; `now` and `before` are the portions and the
    stimuli of a version."""
    found = {}
    held_now, held_before = _held(now[0]), _held(before[0])
    for axis in AXES:
        later, earlier = (
            _sensitivities(axis, held_now, now[1]),
            _sensitivities(axis, held_before, before[1]),
        )
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


def _held(portions: Sequence[Portion]) -> dict[str, tuple[str, float, float]]:
    """By line that is eaten: its amount and food in words, its share of the mass, and its error's
    relative deviation."""
    mass = sum(p.in_bowl.value for p in portions) or 1.0
    return {
        p.line.id: (
            f"{p.line.amount}|{p.line.food}|{p.line.preparations}",
            p.in_bowl.value / mass,
            (p.counted.sd_down + p.counted.sd_up) / 2 / p.counted.value,
        )
        for p in portions
        if p.counted.value > 0
    }


def _sensitivities(
    axis: Axis, held: Mapping[str, tuple[str, float, float]], flavor: Flavor
) -> dict[str, tuple[str, float, float]]:
    """By line: its amount and food in words, d ln(stimulus) by its relative error, and that error's
    deviation."""
    stimulus = flavor[axis.id]
    whole = stimulus.value + axis.floor
    return {
        line_id: (
            same,
            (stimulus.by_line.get(line_id, 0.0) - stimulus.value * share) / whole,
            deviation,
        )
        for line_id, (same, share, deviation) in held.items()
    }
