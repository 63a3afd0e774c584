"""Windows, what is missing in words, and how sure a step is."""

from __future__ import annotations

from dataclasses import replace
from math import log

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.parameters import BY_ID, Setting
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.recipes.dishes import KINDS
from fresh_ladle.core.whole.balance import (
    drift_between,
    drift_ranges,
    imbalances_of,
    windows_in_steps,
)
from fresh_ladle.data.load import load_windows
from tests.conftest import Kitchen

BASE = {
    "olive-oil-extra-virgin": "55 g",
    "vinegar-white-wine": "20 g",
    "table-salt": "0.9 g",
    "parsley": "4 g",
}


@pytest.mark.parametrize("kind", KINDS, ids=lambda k: k.id)
def test_every_kind_of_dish_has_windows_for_what_makes_it(kind) -> None:  # type: ignore[no-untyped-def]
    assert {"salt", "sour", "sweet", "rich", "aroma"} <= load_windows()[kind.id].keys()


def test_a_balanced_vinaigrette_gets_no_remark(kitchen: Kitchen, knowledge: Knowledge) -> None:
    assert imbalances_of(kitchen.appraise(BASE), knowledge) == []


@pytest.mark.parametrize(
    ("grams", "kind", "said"),
    [
        (
            {**BASE, "vinegar-white-wine": "2 g", "honey": "12 g"},
            "vinaigrette",
            "Sweet without sour",
        ),
        ({**BASE, "vinegar-white-wine": "2 g"}, "vinaigrette", "Little acid"),
        (
            {
                **BASE,
                "olive-oil-extra-virgin": "8 g",
                "vinegar-white-wine": "45 g",
                "water": "20 g",
            },
            "vinaigrette",
            "Sharp and thin",
        ),
        ({**BASE, "table-salt": "0.1 g"}, "vinaigrette", "Little salt"),
        ({**BASE, "table-salt": "3 g"}, "vinaigrette", "Saltier"),
        (
            {
                "chickpeas-cooked": "200 g",
                "lemon-juice-fresh": "15 g",
                "table-salt": "2 g",
                "garlic": "3 g",
            },
            "leafy-salad",
            "Little fat: nothing carries",
        ),
        (
            {
                "quinoa-cooked": "200 g",
                "olive-oil-refined": "12 g",
                "vinegar-white": "12 g",
                "table-salt": "1.2 g",
                "sugar-white": "3 g",
            },
            "grain-salad",
            "No herb, zest or spice",
        ),
    ],
)
def test_what_is_missing_is_said_in_words(
    grams: dict[str, str], kind: str, said: str, kitchen: Kitchen, knowledge: Knowledge
) -> None:
    notes = imbalances_of(kitchen.appraise(grams, kind), knowledge)
    assert any(note.text.startswith(said) for note in notes), notes
    assert len({axis for note in notes for axis in note.axes}) == sum(
        len(note.axes) for note in notes
    )


def test_a_version_lies_in_its_window_on_the_tilt_just_when_its_stimulus_does(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    original = kitchen.appraise(BASE)
    for salt in ("0.3 g", "0.6 g", "0.9 g", "1.4 g", "2 g"):
        now = kitchen.appraise({**BASE, "table-salt": salt, "mushroom-powder": "1 g"})
        steps = drift_between(now, original).steps
        for axis, (low, high) in windows_in_steps(now, original, knowledge).items():
            window = knowledge.windows["vinaigrette"][axis]
            inside = window.low <= now.flavor[axis].value <= window.high
            assert (low - 1e-9 <= steps[axis] <= high + 1e-9) == inside, axis


def test_doubt_of_a_step_worked_by_hand(kitchen: Kitchen) -> None:
    """Half the salt, weighed by the spoon: its own doubt counts twice, that of the unchanged oil
    hardly at all."""
    first = kitchen.appraise({"water": "99 g", "table-salt": "1/4 tsp"})
    now = kitchen.appraise({"water": "99 g", "table-salt": "1/8 tsp"})
    low, high = drift_ranges(now, first, Setting.SIDE_BY_SIDE)["salt"]
    variance = 0.0
    for one in (now, first):
        salt, mass = one.portions[1], sum(p.in_bowl.value for p in one.portions)
        stimulus = one.flavor["salt"]
        deviation = (salt.counted.high - salt.counted.low) / 2 / Z90 / salt.counted.value
        slope = (stimulus.by_line["l2"] - stimulus.value * salt.in_bowl.value / mass) / (
            stimulus.value + BY_ID["salt"].floor
        )
        variance += (slope * deviation) ** 2
    assert (high - low) / 2 == pytest.approx(Z90 * variance**0.5 / log(1.15), rel=0.01)


def test_what_stands_unchanged_in_both_versions_leaves_no_doubt_of_the_difference(
    kitchen: Kitchen,
) -> None:
    vague = {"romaine": "2 handfuls", "olive-oil-refined": "1 drizzle", "feta": "1 handful"}
    first = kitchen.appraise(vague)
    low, high = drift_ranges(first, first)["salt"]
    assert low == high == 0


def test_served_colder_it_smells_less(kitchen: Kitchen) -> None:
    first = kitchen.work_out(replace(kitchen.recipe(BASE), served_celsius=22))
    cold = kitchen.work_out(replace(kitchen.recipe(BASE), served_celsius=4))
    assert drift_between(cold, first).steps["aroma"] < -0.5
    assert drift_between(cold, cold).total == 0
