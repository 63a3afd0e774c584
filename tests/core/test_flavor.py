"""Stimuli and noticeable steps."""

from __future__ import annotations

from dataclasses import replace
from math import log

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import drift, drift_sentence, steps_between
from fresh_ladle.core.flavor.parameters import AXES, Setting, weber
from fresh_ladle.core.flavor.stimuli import Stimulus
from tests.conftest import Kitchen

VINAIGRETTE = {
    "olive-oil-refined": "55 g",
    "vinegar-white-wine": "20 g",
    "table-salt": "1 g",
    "honey": "3 g",
}


def flavor(kitchen: Kitchen, grams: dict[str, str]) -> dict[str, Stimulus]:
    return kitchen.appraise(grams).flavor


def test_stimuli_worked_by_hand(kitchen: Kitchen) -> None:
    found = flavor(kitchen, VINAIGRETTE)
    mass = 79.0
    sodium_mg = 55 / 100 * 2 + 20 / 100 * 8 + 387.58 + 3 / 100 * 4
    assert found["salt"].value == pytest.approx(sodium_mg / 1000 / 0.393 / mass * 100, rel=0.01)
    assert found["sour"].value == pytest.approx((20 * 0.064 + 3 * 0.001) / mass * 100, rel=0.01)
    assert found["sweet"].value == pytest.approx(3 * 0.9 / mass * 100, rel=0.02)
    assert found["rich"].value == pytest.approx(55 / mass * 100, rel=0.01)


def test_savor_has_synergy(kitchen: Kitchen) -> None:
    base = {"water": "900 g"}
    glutamate = flavor(kitchen, {**base, "tomato-paste-no-salt": "60 g"})["savory"].value
    nucleotide = flavor(kitchen, {**base, "trout-smoked": "60 g"})["savory"].value
    both = flavor(kitchen, {**base, "tomato-paste-no-salt": "60 g", "trout-smoked": "60 g"})[
        "savory"
    ].value
    assert both > glutamate + nucleotide


def test_potassium_salt_counts_by_its_own_saltiness(kitchen: Kitchen) -> None:
    table = flavor(kitchen, {"water": "99 g", "table-salt": "1 g"})["salt"].value
    potassium = flavor(kitchen, {"water": "99 g", "potassium-chloride-salt": "1 g"})["salt"].value
    assert 0.4 * table < potassium < 0.8 * table


def test_a_step_is_one_weber_fraction_well_above_the_threshold() -> None:
    for axis in AXES:
        for setting in Setting:
            high = axis.floor * 1e6
            assert steps_between(
                high * (1 + weber(axis, setting)), high, axis.id, setting
            ) == pytest.approx(1, abs=1e-3)


def test_forty_percent_less_salt_is_about_what_the_literature_says() -> None:
    assert abs(log(0.6) / log(1.15)) == pytest.approx(3.65, abs=0.02)
    assert steps_between(0.6, 1.0, "salt", Setting.SIDE_BY_SIDE) == pytest.approx(-3.4, abs=0.3)
    assert steps_between(0.6, 1.0, "salt", Setting.FROM_MEMORY) == pytest.approx(-2.1, abs=0.2)


@given(st.floats(0.2, 5))
def test_the_size_of_the_batch_changes_no_axis(factor: float) -> None:
    from fresh_ladle.data.load import load_knowledge

    kitchen = Kitchen(load_knowledge())
    once = flavor(kitchen, VINAIGRETTE)
    more = flavor(kitchen, {k: f"{float(v[:-2]) * factor} g" for k, v in VINAIGRETTE.items()})
    assert drift(more, once).total == pytest.approx(0, abs=1e-6)


def test_there_and_back_again_is_nothing(kitchen: Kitchen) -> None:
    a, b = flavor(kitchen, VINAIGRETTE), flavor(kitchen, {**VINAIGRETTE, "table-salt": "0.5 g"})
    there, back = drift(b, a), drift(a, b)
    assert there.total == pytest.approx(back.total)
    assert all(there.steps[x.id] == pytest.approx(-back.steps[x.id]) for x in AXES)


def test_words(kitchen: Kitchen) -> None:
    a = flavor(kitchen, VINAIGRETTE)
    assert drift_sentence(drift(a, a)) == "Unchanged in taste."
    flat = flavor(kitchen, {**VINAIGRETTE, "table-salt": "0.4 g"})
    assert drift_sentence(drift(flat, a)).startswith("Plainly flatter")


def test_a_food_without_taste_figures_is_named(kitchen: Kitchen, knowledge: Knowledge) -> None:
    bare = next(
        f for f in knowledge.pantry if not f.in_pantry and f.per_100_g["sodium_mg"] is not None
    )
    found = flavor(kitchen, {"olive-oil-refined": "50 g", bare.key: "50 g"})
    assert bare.name in found["sour"].unknown
    assert bare.name not in found["salt"].unknown, "salt follows from sodium"


def test_what_weighs_nothing_in_the_bowl_is_not_named_as_unknown(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    row = next(food for food in knowledge.pantry if not food.in_pantry)
    recipe = kitchen.recipe({"cucumber-peeled": "100 g", row.key: "10 g"}, "slaw")
    assert row.name in kitchen.work_out(recipe).flavor["aroma"].unknown
    left_out = recipe.with_line(replace(recipe.line("l2"), eaten=0.0))
    assert kitchen.work_out(left_out).flavor["aroma"].unknown == ()
