"""How tastes change each other: what holds for every mix, and one mix worked by hand."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.flavor.drift import Drift, drift, drift_sentence, noticed_axes, noticed_words
from fresh_ladle.core.flavor.parameters import (
    AXIS_IDS,
    BY_ID,
    INTERACTIONS,
    MAX_SALT_LIFT,
    MAY_NOT_NOTICE,
)
from fresh_ladle.core.flavor.perception import effective
from fresh_ladle.core.flavor.stimuli import Stimulus


def mix(**values: float) -> dict[str, Stimulus]:
    return {axis: Stimulus(axis, values.get(axis, 0.0)) for axis in AXIS_IDS}


MIXES = st.fixed_dictionaries({axis: st.just(0.0) | st.floats(1e-6, 500) for axis in AXIS_IDS}).map(
    lambda values: mix(**values)
)


def test_one_taste_alone_is_tasted_as_it_is() -> None:
    for axis in AXIS_IDS:
        assert effective(mix(**{axis: 2.0}))[axis] == pytest.approx(2.0)


def test_sour_and_sweet_together_worked_by_hand() -> None:
    tasted = effective(mix(sour=1.2, sweet=6.0))
    assert tasted["sour"] == pytest.approx(1.2 * (1 - 0.60 * 6.0 / (6.0 + 6.0)))
    assert tasted["sweet"] == pytest.approx(6.0 * (1 - 0.40 * 1.2 / (1.2 + 1.2)))
    assert tasted["salt"] == 0


def test_salt_is_lifted_by_savor_and_acid_worked_by_hand() -> None:
    tasted = effective(mix(salt=0.5, savory=100.0, sour=0.5))
    lift = (1 + 0.45 * 100 / (100 + 250)) * (1 + 0.25 * 0.5 / (0.5 + 0.5))
    assert tasted["salt"] == pytest.approx(0.5 * lift)


@given(MIXES)
def test_what_is_not_there_is_not_tasted_and_nothing_falls_below_nothing(
    stimuli: dict[str, Stimulus],
) -> None:
    tasted = effective(stimuli)
    for axis in AXIS_IDS:
        assert tasted[axis] >= 0
        assert (tasted[axis] > 0) == (stimuli[axis].value > 0)


@given(MIXES)
def test_salt_is_never_lifted_past_its_cap(stimuli: dict[str, Stimulus]) -> None:
    assert effective(stimuli)["salt"] <= stimuli["salt"].value * MAX_SALT_LIFT * (1 + 1e-9)


@given(MIXES, st.sampled_from(AXIS_IDS), st.floats(1.01, 3))
def test_more_of_a_taste_never_tastes_like_less_of_it(
    stimuli: dict[str, Stimulus], axis: str, factor: float
) -> None:
    more = {**stimuli, axis: Stimulus(axis, stimuli[axis].value * factor)}
    assert effective(more)[axis] >= effective(stimuli)[axis]


@pytest.mark.parametrize("effect", INTERACTIONS, ids=lambda e: f"{e.by} on {e.on}")
def test_each_interaction_works_the_way_its_sign_says(effect) -> None:  # type: ignore[no-untyped-def]
    alone = effective(mix(**{effect.on: 2.0}))[effect.on]
    half = effective(mix(**{effect.on: 2.0, effect.by: effect.half}))[effect.on]
    assert half == pytest.approx(alone * (1 + effect.size / 2))
    assert effect.on in BY_ID
    assert effect.by in BY_ID
    assert effect.on != effect.by
    assert -1 < effect.size < 1
    assert effect.half > 0
    assert effect.source


def test_colder_is_fainter_and_less_sweet_and_leaves_the_rest_alone() -> None:
    dish = mix(aroma=20.0, sweet=5.0, salt=0.8, sour=0.7)
    cold, warm = effective(dish, 5), effective(dish, 22)
    assert cold["aroma"] < warm["aroma"]
    assert cold["sweet"] < warm["sweet"]
    assert cold["salt"] == warm["salt"]
    assert cold["sour"] == warm["sour"]


@given(MIXES, MIXES)
def test_drift_there_is_drift_back_with_the_other_sign(
    one: dict[str, Stimulus], other: dict[str, Stimulus]
) -> None:
    there, back = drift(one, other), drift(other, one)
    assert there.total == pytest.approx(back.total)
    assert all(there.steps[axis] == pytest.approx(-back.steps[axis]) for axis in AXIS_IDS)


def test_below_one_step_on_every_axis_tasters_may_not_notice() -> None:
    """The words and the shaded band of the tilt draw the line at the same place."""
    just_under = Drift(dict.fromkeys(AXIS_IDS, MAY_NOT_NOTICE - 0.01), 1.0)
    assert noticed_words(just_under) == []
    assert drift_sentence(just_under) == "Tasters may not notice a difference."


def test_what_moved_most_is_said_first() -> None:
    change = Drift({**dict.fromkeys(AXIS_IDS, 0.0), "salt": -1.2, "sour": 3.4, "rich": -2.0}, 4.0)
    assert noticed_axes(change) == ["sour", "rich", "salt"]
    assert (
        drift_sentence(change) == "Plainly sharper, leaner and a little flatter than the original."
    )
