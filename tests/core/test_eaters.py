"""What eaters have shown: windows moved with shrinkage by the size of the panels, and steps shown
against steps foretold."""

from __future__ import annotations

from math import log

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.flavor.drift import steps_between
from fresh_ladle.core.flavor.windows import Window
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.eaters import (
    MOST_SHOWN,
    Finding,
    Foretold,
    StepsShown,
    borne_out_sentence,
    leaned,
    leanings,
    right_share,
    steps_beyond,
    steps_shown,
)

WINDOW = Window("legume-dip", "salt", 0.8, 1.2, Grade.C, "made up")
WINDOWS = {"legume-dip": {"salt": WINDOW}}
A_STEP = 1.25
"""From memory a quarter more salt is one step; the floor under its scale is 0.06 g."""


def test_a_worked_example_of_two_panels() -> None:
    # Twelve find 1.4 g just right, beyond the window's 1.2: ln(1.46/1.26)/ln(1.25) = 0.660 steps
    # above it.
    above = Finding(1, "legume-dip", "salt", 1.4, 12, 0.0)
    assert steps_beyond(above, WINDOW) == pytest.approx(log(1.46 / 1.26) / log(A_STEP))
    # Nineteen find 1.1 g a little too much, by half a mark, one step: 1.16/1.25 − 0.06 = 0.868 g,
    # still inside.
    inside = Finding(2, "legume-dip", "salt", 1.1, 19, 0.5)
    assert steps_beyond(inside, WINDOW) == 0.0
    # In all: 12 × 0.660 over 31 tasters and the 30 that hold it back.
    (found,) = leanings([above, inside], WINDOWS)
    assert found.steps == pytest.approx(12 * log(1.46 / 1.26) / log(A_STEP) / 61)
    assert (found.times, found.tasters) == (2, 31)
    assert found.words == "0.1 steps more salty; seen twice, 31 tasters"
    moved = leaned(WINDOWS, [found])["legume-dip"]["salt"]
    assert moved.high == pytest.approx(1.26 * A_STEP**found.steps - 0.06)
    assert moved.low == pytest.approx(0.86 * A_STEP**found.steps - 0.06)
    assert moved.eaters == found.words


def test_two_samples_of_one_round_are_one_panel() -> None:
    both = [
        Finding(1, "legume-dip", "salt", 1.4, 12, 0.0),
        Finding(1, "legume-dip", "salt", 1.1, 12, 0.0),
    ]
    (found,) = leanings(both, WINDOWS)
    assert (found.times, found.tasters) == (1, 12)
    assert found.steps == pytest.approx(12 * (log(1.46 / 1.26) / log(A_STEP) + 0) / 2 / 42)


def test_too_much_within_the_window_moves_it_down() -> None:
    (found,) = leanings([Finding(1, "legume-dip", "salt", 0.85, 30, 1.0)], WINDOWS)
    # Two steps less than 0.85 g: 0.91/1.25² − 0.06 = 0.522 g, ln(0.86/0.582)/ln(1.25) = 1.75 steps
    # below the window; thirty tasters move it by half of that.
    assert found.steps == pytest.approx(-log(0.86 / 0.5824) / log(A_STEP) / 2)
    assert leaned(WINDOWS, [found])["legume-dip"]["salt"].high < 1.2


def test_what_bears_a_window_out_leaves_it_as_it_is() -> None:
    found = leanings([Finding(1, "legume-dip", "salt", 1.0, 40, 0.1)], WINDOWS)
    assert leaned(WINDOWS, found) == WINDOWS


def test_a_taste_without_a_window_moves_nothing() -> None:
    assert (
        leanings(
            [Finding(1, "legume-dip", "bitter", 1.0, 40, 2.0), Finding(1, "none", "salt", 1, 9, 1)],
            WINDOWS,
        )
        == []
    )


def test_a_window_open_below_stays_open() -> None:
    open_below = {
        "legume-dip": {"salt": Window("legume-dip", "salt", 0.0, 1.2, Grade.C, "made up")}
    }
    found = leanings([Finding(1, "legume-dip", "salt", 2.0, 30, 0.0)], open_below)
    assert leaned(open_below, found)["legume-dip"]["salt"].low == 0.0


@given(st.floats(0.1, 3.0), st.floats(-2, 2), st.integers(3, 60))
def test_a_larger_panel_moves_more_and_never_beyond_what_it_asks(
    stimulus: float, mark: float, n: int
) -> None:
    (small,), (large,) = (
        leanings([Finding(1, "legume-dip", "salt", stimulus, tasters, mark)], WINDOWS)
        for tasters in (n, 2 * n)
    )
    asked = steps_beyond(Finding(1, "legume-dip", "salt", stimulus, n, mark), WINDOW)
    assert abs(small.steps) <= abs(large.steps) <= abs(asked)
    moved = leaned(WINDOWS, [large])["legume-dip"]["salt"]
    assert 0 < moved.low < moved.high
    assert abs(
        steps_between(moved.high, WINDOW.high, "salt") - (large.steps if moved.eaters else 0)
    ) < 1e-6 or (abs(large.steps) > 4)


@pytest.mark.parametrize("d_prime", [0.5, 1.0, 2.0, 3.0])
def test_triangles_against_tasters_drawn_at_random(d_prime: float) -> None:
    """The rule itself: two cups of one version, one of the other, and the one that is not of the
    closest two is picked."""
    x, y, odd = np.random.default_rng(7).normal(size=(3, 400_000)) + np.array(
        [[0.0], [0.0], [d_prime]]
    )
    right = np.mean(abs(x - y) < np.minimum(abs(x - odd), abs(y - odd)))
    assert right_share(d_prime / 0.95, Question.TRIANGLE) == pytest.approx(right, abs=0.003)


def test_a_step_is_told_in_three_of_four_pairs() -> None:
    assert right_share(1.0, Question.PAIR) == pytest.approx(0.75, abs=0.002)
    assert right_share(0.0, Question.TRIANGLE) == pytest.approx(1 / 3)


@pytest.mark.parametrize("question", [Question.TRIANGLE, Question.PAIR])
@settings(max_examples=6, deadline=None)
@given(st.integers(3, 60), st.data())
def test_steps_shown_lie_in_their_range(question: Question, n: int, data: st.DataObject) -> None:
    right = data.draw(st.integers(0, n))
    shown = steps_shown(question, n, right)
    assert -MOST_SHOWN <= shown.low <= shown.steps <= shown.high <= MOST_SHOWN
    if -MOST_SHOWN < shown.steps < MOST_SHOWN and right / n > question.guess:
        assert right_share(shown.steps, question) == pytest.approx(right / n, abs=1e-4)


def test_the_other_one_may_be_the_stronger() -> None:
    assert steps_shown(Question.PAIR, 12, 2).steps < -1
    assert steps_shown(Question.TRIANGLE, 12, 2).steps == 0


def test_whether_the_model_is_right_here_is_counted() -> None:
    right = Foretold(1, Question.PAIR, "salt", 1.0, StepsShown(1.2, 0.1, 2.4), 12)
    wrong = Foretold(1, Question.PAIR, "salt", 3.0, StepsShown(1.2, 0.1, 2.4), 12)
    beyond = Foretold(1, Question.TRIANGLE, "", 8.0, StepsShown(MOST_SHOWN, 3.0, MOST_SHOWN), 12)
    assert [r.borne_out for r in (right, wrong, beyond)] == [True, False, True]
    assert (
        borne_out_sentence([right, wrong])
        == "The answers of 1 of 2 rounds allow what the model foretold."
    )
    assert (
        borne_out_sentence([wrong])
        == "The answers of one round do not allow what the model foretold."
    )
