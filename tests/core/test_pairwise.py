"""The flavor model reproduces what cooks say of two versions."""

from __future__ import annotations

from dataclasses import replace
from math import log

import pytest

from fresh_ladle.core.flavor.drift import drift
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.flavor.stimuli import Stimulus, stimuli
from fresh_ladle.core.whole.appraisal import appraise
from tests.conftest import Kitchen
from tests.core.statements import GIVEN, LATER, OURS, WATER, Mix, Statement, holds


def steps(kitchen: Kitchen, one: Statement) -> float:
    def flavor(mix: Mix) -> dict[str, Stimulus]:
        recipe = kitchen.recipe({k.removesuffix(", on top"): f"{g!r} g" for k, g in mix.items()})
        lines = tuple(
            replace(line, remarks=("on top",)) if key.endswith("on top") else line
            for line, key in zip(recipe.lines, mix, strict=True)
        )
        return stimuli(appraise(replace(recipe, lines=lines), kitchen.knowledge).portions)

    return drift(flavor(one.first), flavor(one.second), Setting.SIDE_BY_SIDE, one.celsius).steps[
        one.axis
    ]


@pytest.mark.parametrize("one", [*GIVEN, *OURS, *LATER], ids=lambda s: s.name)
def test_statement(one: Statement, kitchen: Kitchen) -> None:
    found = steps(kitchen, one)
    assert holds(one, found), found


def test_25_savor_of_two_kinds_together_beats_their_sum(kitchen: Kitchen) -> None:
    def savory(mix: Mix) -> float:
        return stimuli(kitchen.appraise({k: f"{g} g" for k, g in mix.items()}).portions)[
            "savory"
        ].value

    base = {WATER: 95.0}
    apart = savory({**base, "tomato-paste-no-salt": 5}) + savory({**base, "trout-smoked": 5})
    together = savory({**base, "tomato-paste-no-salt": 5, "trout-smoked": 5})
    assert log(together / apart) / log(1.22) >= 1
