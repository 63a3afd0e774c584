"""Sums of figures, their ranges, what to weigh, verdicts, and the compiled twin."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import (
    Basis,
    Side,
    Target,
    Verdict,
    probability_below,
    target_status,
)
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.recipes.recipe import Line, Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge
from tests.conftest import Kitchen
from tests.core.imagined_batches import simulated_batches

FOODS = [
    "olive-oil-extra-virgin",
    "lemon-juice-fresh",
    "table-salt",
    "tahini",
    "chickpeas-cooked",
    "parsley",
    "feta",
    "honey",
    "kale-raw",
    "soy-sauce",
]
amounts = st.lists(st.tuples(st.sampled_from(FOODS), st.floats(0.5, 500)), min_size=1, max_size=8)


def made(
    parts: list[tuple[str, float]], servings: float = 4, serving_grams: float | None = None
) -> Recipe:
    lines = tuple(Line(f"l{n}", key, f"{grams!r} g", key) for n, (key, grams) in enumerate(parts))
    return Recipe("any", lines, "vinaigrette", servings, serving_grams)


def batch(recipe: Recipe) -> dict[str, float]:
    return {n: f.value for n, f in appraise(recipe, load_knowledge()).totals.batch.items()}


@given(amounts, st.sampled_from(FOODS), st.floats(0.5, 300))
def test_adding_a_line_never_lowers_a_known_total(
    parts: list[tuple[str, float]], key: str, grams: float
) -> None:
    before, after = batch(made(parts)), batch(made([*parts, (key, grams)]))
    assert all(after[n] >= before[n] - 1e-9 for n in NUTRIENT_IDS)


@given(amounts, st.floats(0.1, 20))
def test_scaling_scales_every_total(parts: list[tuple[str, float]], factor: float) -> None:
    before, after = batch(made(parts)), batch(made([(k, g * factor) for k, g in parts]))
    assert all(
        after[n] == pytest.approx(before[n] * factor, rel=1e-9, abs=1e-9) for n in NUTRIENT_IDS
    )


@given(amounts, st.floats(0.05, 0.95), st.randoms(use_true_random=False))
def test_splitting_a_line_and_shuffling_change_nothing(
    parts: list[tuple[str, float]], share: float, random
) -> None:  # type: ignore[no-untyped-def]
    (key, grams), *rest = parts
    shuffled = [(key, grams * share), *rest, (key, grams * (1 - share))]
    random.shuffle(shuffled)
    before, after = batch(made(parts)), batch(made(shuffled))
    assert all(after[n] == pytest.approx(before[n], rel=1e-9, abs=1e-9) for n in NUTRIENT_IDS)


@pytest.mark.parametrize("nutrient", ["energy_kcal", "sodium_mg", "fiber_g"])
def test_first_order_ranges_agree_with_simulated_batches(nutrient: str, kitchen: Kitchen) -> None:
    appraisal = kitchen.appraise(
        {
            "table-salt": "1/2 tsp",
            "feta": "1/2 cup",
            "chickpeas-canned-drained": "1 can",
            "parsley": "1 handful",
            "olive-oil-refined": "2 tbsp",
        }
    )
    drawn = simulated_batches(appraisal.portions, 20_000, seed=1)[:, NUTRIENT_IDS.index(nutrient)]
    figure = appraisal.totals.batch[nutrient]
    low, high = np.quantile(drawn, [0.05, 0.95])
    width = high - low
    assert figure.low == pytest.approx(low, abs=0.15 * width)
    assert figure.high == pytest.approx(high, abs=0.15 * width)


def test_unknown_is_not_zero(kitchen: Kitchen, knowledge: Knowledge) -> None:
    blank = next(f for f in knowledge.pantry.stocked if f.per_100_g["vitamin_k_ug"] is None)
    appraisal = kitchen.appraise({blank.key: "100 g", "parsley": "10 g"})
    figure = appraisal.totals.serving["vitamin_k_ug"]
    assert not figure.complete
    assert figure.missing == (blank.name,)
    assert (
        target_status(figure, Target("vitamin_k_ug", Side.AT_MOST, 1e6)).verdict is Verdict.UNKNOWN
    )


def test_a_line_that_is_not_understood_makes_every_figure_at_least(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    recipe = kitchen.recipe({"tahini": "30 g"}).with_added([Line("x", "mystery", "1 cup", None)])
    totals = appraise(recipe, knowledge).totals
    assert totals.serving["energy_kcal"].missing == ("mystery",)


def test_serving_by_weight_scales_concentration(kitchen: Kitchen, knowledge: Knowledge) -> None:
    recipe = replace(
        kitchen.recipe({"olive-oil-refined": "60 g", "lemon-juice-fresh": "40 g"}), serving_grams=30
    )
    totals = appraise(recipe, knowledge).totals
    assert totals.servings == pytest.approx(100 / 30)
    assert totals.serving["fat_g"].value == pytest.approx(18, rel=0.01)


def test_what_to_weigh_names_the_vague_amount_and_weighing_it_narrows_the_range(
    kitchen: Kitchen,
) -> None:
    vague = kitchen.appraise({"feta": "1/2 cup", "olive-oil-refined": "30 g", "romaine": "200 g"})
    top = vague.doubts("sodium_mg")[0]
    assert top.name == "Feta"
    weighed = kitchen.appraise(
        {"feta": "75 g", "olive-oil-refined": "30 g", "romaine": "200 g"}
    ).totals.serving["sodium_mg"]
    assert (top.low_if_weighed, top.high_if_weighed) == pytest.approx(
        (weighed.low, weighed.high), rel=0.02
    )


@settings(max_examples=50)
@given(st.floats(1, 500), st.floats(0.5, 50), st.floats(0, 600))
def test_verdicts_agree_with_their_probability(value: float, spread: float, limit: float) -> None:
    figure = Figure(value, max(0.0, value - spread), value + spread)
    judged = target_status(figure, Target("sodium_mg", Side.AT_MOST, limit))
    assert judged.probability == pytest.approx(probability_below(figure, limit))
    if judged.verdict is Verdict.MEETS:
        assert judged.probability >= 0.94
    elif judged.verdict is Verdict.MISSES:
        assert judged.probability <= 0.06
        assert judged.by == pytest.approx(value - limit)


def test_to_taste_is_a_share_of_the_mix(knowledge: Knowledge, reader) -> None:  # type: ignore[no-untyped-def]
    (salt,) = reader.read_line("salt to taste")
    recipe = made([("chickpeas-cooked", 500.0)])
    recipe = replace(recipe, kind="legume-dip").with_added([replace(salt.line, id="s")])
    portion = appraise(recipe, knowledge).portion("s")
    assert portion.measured.value == pytest.approx(2.5)
    assert portion.estimated
    assert portion.measured.high / portion.measured.low > 3


@pytest.mark.parametrize(
    ("servings", "grams"), [(0, None), (-2, None), (1e9, None), (4, 0), (float("nan"), None)]
)
def test_servings_that_cannot_be_are_refused(servings: float, grams: float | None) -> None:
    with pytest.raises(RecipeError, match="serving"):
        made([("tahini", 30.0)], servings, grams)


def test_in_100_g_is_what_a_serving_of_100_g_holds(kitchen: Kitchen) -> None:
    """By count, by weight and with the batch weighed: value and range, without a second way of
    adding up."""
    by_count = kitchen.recipe(
        {"tahini": "60 g", "spinach": "2 cup", "table-salt": "1/2 tsp"}, servings=7
    )
    hundred = kitchen.work_out(replace(by_count, serving_grams=100.0))
    weighed = kitchen.work_out(replace(by_count, serving_grams=40.0))
    target = Target("sodium_mg", Side.AT_MOST, 1, Basis.HUNDRED_GRAMS)
    expected = hundred.totals.serving["sodium_mg"]
    for version in (kitchen.work_out(by_count), weighed, hundred):
        figure = version.figure_for(target)
        assert (figure.value, figure.low, figure.high) == pytest.approx(
            (expected.value, expected.low, expected.high)
        )
    boiled_down = kitchen.work_out(replace(by_count, yield_grams=80.0))
    assert boiled_down.figure_for(target).value == pytest.approx(
        boiled_down.totals.batch["sodium_mg"].value / 0.8
    )
    assert kitchen.appraise({}).figure_for(target).value == 0
