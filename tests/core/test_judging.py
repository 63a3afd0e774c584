"""What the parts that judge say at the edge: a verdict at the limit, the hardest target, help
given, time run out."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.stimuli import is_derived
from fresh_ladle.core.nutrients.targets import (
    Firmness,
    Side,
    Target,
    Verdict,
    probability_below,
    target_status,
)
from fresh_ladle.core.nutrients.totals import Figure, what_to_weigh
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import hardest, plans_for
from fresh_ladle.core.swaps.effect import effect_of, help_given
from tests.conftest import Kitchen

DRESSING = {
    "olive-oil-refined": "60 g",
    "vinegar-white": "30 g",
    "table-salt": "1/2 tsp",
    "vegetable-stock": "30 g",
}


@pytest.mark.parametrize(
    ("side", "low", "value", "high", "verdict"),
    [
        (Side.AT_LEAST, 5.0, 6.0, 7.0, Verdict.MEETS),
        (Side.AT_LEAST, 4.9, 6.0, 7.0, Verdict.UNKNOWN),
        (Side.AT_MOST, 5.1, 6.0, 7.0, Verdict.MISSES),
        (Side.AT_MOST, 5.0, 6.0, 7.0, Verdict.UNKNOWN),
        (Side.AT_MOST, 1.0, 2.0, 3.0, Verdict.UNKNOWN),
    ],
)
def test_an_incomplete_figure_is_judged_by_what_is_known(
    side: Side, low: float, value: float, high: float, verdict: Verdict
) -> None:
    """The unknown rest can only add: a floor reached is met, a ceiling passed is missed, nothing
    else is said."""
    figure = Figure(value, low, high, ("a line without figures",))
    assert target_status(figure, Target("fiber_g", side, 5.0)).verdict is verdict


def test_the_hardest_target_is_a_hard_one_however_far_the_soft_one_is(kitchen: Kitchen) -> None:
    now = kitchen.appraise(DRESSING)
    sodium, fat = now.totals.serving["sodium_mg"].value, now.totals.serving["fat_g"].value
    near = Target("fat_g", Side.AT_MOST, fat * 0.9)
    far = Target("sodium_mg", Side.AT_MOST, sodium * 0.2)
    soft = Target("sodium_mg", Side.AT_MOST, sodium * 0.2, firmness=Firmness.SOFT)
    assert hardest(now, (near, far)) is far
    assert hardest(now, (near, soft)) is near
    assert hardest(now, (soft,)) is soft
    assert hardest(now, ()) is None


def test_help_is_the_share_of_the_way_less_the_drift(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    before = kitchen.appraise(DRESSING)
    half = kitchen.recipe({**DRESSING, "table-salt": "1/4 tsp"})
    effect = effect_of(before, half, before, knowledge)
    now = effect.after.totals.serving["sodium_mg"].value
    drift = 0.1 * effect.drift.total
    assert drift > 0
    all_the_way = Target("sodium_mg", Side.AT_MOST, now)
    half_the_way = Target("sodium_mg", Side.AT_MOST, now + effect.change["sodium_mg"])
    assert help_given(effect, (all_the_way,)) == pytest.approx(1 - drift)
    assert help_given(effect, (half_the_way,)) == pytest.approx(0.5 - drift)
    back = effect_of(effect.after, before.recipe, before, knowledge)
    assert help_given(back, (all_the_way,)) == pytest.approx(-1.0), (
        "met before, missed now; the taste is back"
    )
    assert help_given(effect, ()) == pytest.approx(-drift)


def test_a_search_that_ran_out_of_time_says_so(kitchen: Kitchen, knowledge: Knowledge) -> None:
    now = kitchen.appraise(DRESSING)
    sodium = Target("sodium_mg", Side.AT_MOST, now.totals.serving["sodium_mg"].value * 0.8)
    plans, search = plans_for(now, now, PlanRequest((sodium,)), knowledge, stopped=lambda: True)
    assert plans == []
    assert search.timed_out
    plans, search = plans_for(
        now, now, PlanRequest((sodium,), most_steps=3.0), knowledge, only_closest=True
    )
    assert len(plans) == 1
    assert not search.timed_out


def test_what_is_reckoned_from_figures_is_told_from_what_is_ranked(knowledge: Knowledge) -> None:
    ranked = knowledge.pantry["honey"]
    bare = next(food for food in knowledge.pantry if food.taste is None)
    assert [axis for axis in ("salt", "sweet", "rich", "sour") if is_derived(ranked, axis)] == [
        "salt",
        "rich",
    ]
    assert [axis for axis in ("salt", "sweet", "rich", "sour") if is_derived(bare, axis)] == [
        "salt",
        "sweet",
        "rich",
    ]


def test_by_count_what_dilutes_is_not_worth_weighing_for_sodium(kitchen: Kitchen) -> None:
    """Served by the weight, a vague amount of water moves the sodium of a serving; served by count
    it cannot."""

    by_count = kitchen.recipe({"table-salt": "3 g", "water": "2 cup"})
    for recipe, counts in ((by_count, False), (replace(by_count, serving_grams=30.0), True)):
        now = kitchen.work_out(recipe)
        shares = {
            s.line_id: s.share for s in what_to_weigh(recipe, now.portions, now.totals, "sodium_mg")
        }
        assert (shares.get("l2", 0.0) > 0.05) is counts


@pytest.mark.parametrize(
    ("side", "low", "value", "high", "verdict"),
    [
        (Side.AT_MOST, 5.0, 6.0, 7.0, Verdict.TOO_CLOSE),
        (Side.AT_MOST, 5.01, 6.0, 7.0, Verdict.MISSES),
        (Side.AT_MOST, 3.0, 4.0, 5.0, Verdict.TOO_CLOSE),
        (Side.AT_MOST, 3.0, 4.0, 4.99, Verdict.MEETS),
        (Side.AT_MOST, 5.0, 5.0, 5.0, Verdict.MEETS),
        (Side.AT_LEAST, 5.0, 6.0, 7.0, Verdict.TOO_CLOSE),
        (Side.AT_LEAST, 5.01, 6.0, 7.0, Verdict.MEETS),
        (Side.AT_LEAST, 3.0, 4.0, 5.0, Verdict.TOO_CLOSE),
        (Side.AT_LEAST, 5.0, 5.0, 5.0, Verdict.MEETS),
        (Side.AT_LEAST, 4.99, 4.99, 4.99, Verdict.MISSES),
    ],
)
def test_a_range_that_touches_the_limit_is_too_close_to_call(
    side: Side, low: float, value: float, high: float, verdict: Verdict
) -> None:
    status = target_status(Figure(value, low, high), Target("fiber_g", side, 5.0))
    assert status.verdict is verdict
    past = value - 5 if side is Side.AT_MOST else 5 - value
    assert status.by == pytest.approx(max(0.0, past))


def test_a_figure_on_the_limit_is_met_at_even_odds_and_a_sure_one_for_certain() -> None:
    assert probability_below(Figure(5, 4, 7), 5) == pytest.approx(0.5)
    assert probability_below(Figure(5, 5, 5), 5) == 1
    assert probability_below(Figure(5.1, 5.1, 5.1), 5) == 0
    assert probability_below(Figure(5, 4, 7), 7) == pytest.approx(0.95, abs=0.001)
    assert probability_below(Figure(5, 4, 7), 4) == pytest.approx(0.05, abs=0.001)
