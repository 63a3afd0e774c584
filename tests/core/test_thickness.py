"""Thickness: readings in three ways, water for a wanted run, standing, and the first guess from the
recipe alone."""

from __future__ import annotations

from random import Random

import numpy as np
import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.bench.thickness import (
    WORDS,
    How,
    Reading,
    Thickness,
    checked_reading,
    first_guess,
    learned,
    ran,
    run_of,
    warmth_apart,
)
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.devices.blend import HiddenBlend

WANTED_CM = 6.0
TAHINI = "Tahini dressing\n1/2 cup tahini\n1/4 cup water\n2 Tbsp lemon juice\n1/4 tsp salt"


def worked_out(knowledge: Knowledge, text: str) -> Appraisal:
    return appraise(
        read_recipe(text, Reader(knowledge.pantry, knowledge.preparations), 4).recipe, knowledge
    )


def guess_of(knowledge: Knowledge, text: str) -> Thickness:
    return first_guess(worked_out(knowledge, text), knowledge.standings)[0]


def spread(cm: float, water: float = 0.0, hours: float = 0.0) -> Reading:
    return Reading(How.SPREAD, cm, water, hours)


def run_as_predicted(seed: int, guess: Thickness) -> float:
    """How far a hidden blend runs with the water that two readings ask for."""
    blend, rng = HiddenBlend.made_up(seed), Random(seed + 1)
    first = spread(blend.reading_cm(0.0, 0.0, rng))
    # The cook goes half of the way first, as one is told to.
    half = max(0.02, learned(guess, [first]).water_for(WANTED_CM).value / 2)
    second = spread(blend.reading_cm(half, 0.0, rng), half)
    return blend.run_cm(max(half, learned(guess, [first, second]).water_for(WANTED_CM).value))


def test_water_for_a_run_of_six_is_right_within_a_centimeter_after_two_readings(
    knowledge: Knowledge,
) -> None:
    guess = guess_of(knowledge, TAHINI)
    runs = [run_as_predicted(seed, guess) for seed in range(200)]
    right = sum(abs(run - WANTED_CM) <= 1.0 for run in runs)
    assert right >= 180, f"{right} of 200"


def test_each_reading_narrows_the_doubt(knowledge: Knowledge) -> None:
    guess = guess_of(knowledge, TAHINI)
    one = learned(guess, [spread(2.0)])
    two = learned(guess, [spread(2.0), spread(4.5, 0.15)])
    widths = [m.water_for(WANTED_CM).high - m.water_for(WANTED_CM).low for m in (guess, one, two)]
    assert widths[0] > widths[1] > widths[2]
    assert (guess.readings, one.readings, two.readings) == (0, 1, 2)
    assert learned(guess, []) is guess


def test_a_model_that_is_told_the_truth_finds_it(knowledge: Knowledge) -> None:
    truth = np.array([0.5, 0.8, 0.05])
    exact = Thickness(truth, np.diag([1e-9] * 3), 0)
    told = [
        spread(exact.run(w, h).value, w, h) for w in (0.0, 0.1, 0.3, 0.5) for h in (0.0, 2.0, 16.0)
    ] * 8
    found = learned(guess_of(knowledge, TAHINI), told)
    assert found.means == pytest.approx(truth, abs=0.03)


def test_a_reading_in_words_or_seconds_is_surer_than_none_and_less_sure_than_a_sheet(
    knowledge: Knowledge,
) -> None:
    guess = guess_of(knowledge, TAHINI)
    sure = [learned(guess, [r]).run(0.0) for r in (spread(4.0), Reading(How.SECONDS,
        60.0, 0.0, 0.0),
            Reading(How.WORDS, 3, 0.0, 0.0))]  # fmt: skip
    widths = [r.high - r.low for r in (*sure, guess.run(0.0))]
    assert widths == sorted(widths)
    assert Reading(How.WORDS, 0, 0, 0).y[0] == pytest.approx(ran(12.0))
    assert Reading(How.SECONDS, 8.0, 0, 0).y[0] == pytest.approx(ran(6.0))
    assert Reading(How.SECONDS, 30.0, 0, 0).y[0] < Reading(How.SECONDS, 8.0, 0, 0).y[0]


def test_words_run_from_thin_to_thick() -> None:
    assert list(WORDS.values()) == sorted(WORDS.values(), reverse=True)
    assert run_of(ran(3.3)) == pytest.approx(3.3)
    assert run_of(-1.0) == 0.0


FIRST = [
    (
        "thick before thin",
        "Dip\n2 cups cooked chickpeas\n1/4 cup tahini",
        "Dressing\n1/4 cup oil\n2 Tbsp vinegar",
    ),
    (
        "less water is thicker",
        "A\n1/2 cup tahini\n2 Tbsp water",
        "A\n1/2 cup tahini\n3/4 cup water",
    ),
]


@pytest.mark.parametrize(("_name", "thick", "thin"), FIRST, ids=[f[0] for f in FIRST])
def test_the_first_guess_knows_thick_from_thin(
    knowledge: Knowledge, _name: str, thick: str, thin: str
) -> None:
    assert guess_of(knowledge, thick).run(0.0).value < guess_of(knowledge, thin).run(0.0).value


STANDS = [
    (TAHINI, "tahini", 0.05, 0.10),
    ("Dip\n1 cup cashews, soaked\n1/2 cup water", "nuts", 0.08, 0.15),
    ("Dip\n2 cups cooked white beans\n2 Tbsp lemon juice", "beans", 0.03, 0.08),
    ("Dressing\n1/4 cup olive oil\n2 Tbsp vinegar", "", 0.0, 0.0),
]


@pytest.mark.parametrize(
    ("text", "what", "low", "high"), STANDS, ids=[s[1] or "nothing" for s in STANDS]
)
def test_what_stands_thickens_by_what_the_table_says(
    knowledge: Knowledge, text: str, what: str, low: float, high: float
) -> None:
    guess, standing = first_guess(worked_out(knowledge, text), knowledge.standings)
    assert (standing.id if standing else "") == what
    assert low - 1e-9 <= guess.stands.value <= high + 1e-9
    assert guess.run(0.0, 16.0).value <= guess.run(0.0).value
    assert guess.water_for(WANTED_CM, 16.0).value >= guess.water_for(WANTED_CM).value


def test_a_recipe_learns_its_own_rate_of_standing(knowledge: Knowledge) -> None:
    guess = guess_of(knowledge, TAHINI)
    firm = learned(guess, [spread(6.0), spread(3.0, hours=16.0), spread(3.0, hours=18.0)])
    steady = learned(guess, [spread(6.0), spread(6.0, hours=16.0), spread(6.0, hours=18.0)])
    assert firm.stands.value > guess.stands.value > steady.stands.value >= 0.0


def test_what_is_thin_already_wants_no_water(knowledge: Knowledge) -> None:
    thin = learned(guess_of(knowledge, TAHINI), [spread(10.0), spread(10.0)])
    assert thin.water_for(WANTED_CM).value < 0


WRONG = [
    (How.SPREAD, 20.0, 0.0, None, "0 to 14 cm"),
    (How.SPREAD, -1.0, 0.0, None, "0 to 14 cm"),
    (How.SECONDS, 0.0, 0.0, None, "does not run through a hole"),
    (How.WORDS, 7.0, 0.0, None, "one of the words"),
    (How.SPREAD, 5.0, -3.0, None, "minutes since blending"),
    (How.SPREAD, 5.0, 3.0, 120.0, "−2 to 70"),
]


@pytest.mark.parametrize(("how", "value", "minutes", "celsius", "said"), WRONG)
def test_a_reading_that_cannot_be_is_refused(
    how: How, value: float, minutes: float, celsius: float | None, said: str
) -> None:
    with pytest.raises(RecipeError, match=said):
        checked_reading(how, value, minutes, celsius)
    checked_reading(How.SPREAD, 5.0, 3.0, 18.0)


def test_readings_cold_and_warm_are_not_held_together() -> None:
    cold, warm = Reading(How.SPREAD, 4.0, 0, 0, 5.0), Reading(How.SPREAD, 6.0, 0, 0, 21.0)
    assert warmth_apart([cold, warm])
    assert not warmth_apart([cold, Reading(How.SPREAD, 6.0, 0, 0, 9.0), spread(4.0)])
