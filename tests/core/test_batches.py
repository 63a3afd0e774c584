"""Part of a batch of another recipe, weighed yields, and servings by weight or volume."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.batches import batch_line, share_of, with_batch
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.recipes.recipe import Batch, RecipeError
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.store.recipes.document import from_document, to_document
from tests.conftest import Kitchen

DRESSING = {"olive-oil-refined": "60 g", "lemon-juice-fresh": "40 g", "table-salt": "1 g"}
SALAD = {"romaine": "300 g", "feta": "60 g"}


def test_half_a_batch_brings_half_of_every_figure(kitchen: Kitchen, knowledge: Knowledge) -> None:
    dressing = kitchen.recipe(DRESSING)
    salad = with_batch(kitchen.recipe(SALAD, "leafy-salad"), "7", Batch("3@1", 0.5, dressing))
    whole, part, both = (
        appraise(r, knowledge).totals.batch for r in (dressing, kitchen.recipe(SALAD), salad)
    )
    for nutrient in ("energy_kcal", "sodium_mg", "fat_g"):
        assert both[nutrient].value == pytest.approx(
            part[nutrient].value + whole[nutrient].value / 2
        )
    assert appraise(salad, knowledge).totals.batch_grams.value == pytest.approx(360 + 50.5)


def test_a_batch_survives_being_kept(kitchen: Kitchen) -> None:
    salad = with_batch(kitchen.recipe(SALAD), "7", Batch("3@1", 0.5, kitchen.recipe(DRESSING)))
    assert from_document(to_document(salad)) == salad


def test_loops_and_towers_are_refused(kitchen: Kitchen) -> None:
    dressing, salad = kitchen.recipe(DRESSING), kitchen.recipe(SALAD)
    holding = with_batch(dressing, "3", Batch("7@1", 1, salad))
    with pytest.raises(RecipeError, match="cannot hold itself"):
        with_batch(salad, "7", Batch("3@2", 1, holding))
    with pytest.raises(RecipeError, match="cannot hold itself"):
        with_batch(salad, "7", Batch("7@1", 1, salad))
    tower = dressing
    for level in range(3):
        tower = with_batch(salad, "x", Batch(f"{level}@1", 1, tower))
    with pytest.raises(RecipeError, match="deep"):
        with_batch(salad, "x", Batch("9@1", 1, tower))


@pytest.mark.parametrize(
    ("text", "share"),
    [("1/2", 0.5), ("half a batch", 0.5), ("2 batches", 2), ("50.5 g", 0.5), ("¼", 0.25)],
)
def test_parts_of_a_batch_in_words(text: str, share: float) -> None:
    assert share_of(text, 101) == pytest.approx(share)


@pytest.mark.parametrize("text", ["", "some", "2 cups", "-1"])
def test_what_is_no_part_of_a_batch_is_refused(text: str) -> None:
    with pytest.raises(BadQuantity):
        share_of(text, 101)


def test_a_weighed_yield_scales_concentration_and_not_the_total(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    recipe = kitchen.recipe(DRESSING)
    summed, boiled_down = (
        appraise(recipe, knowledge),
        appraise(replace(recipe, yield_grams=80.8), knowledge),
    )
    assert boiled_down.totals.batch["sodium_mg"].value == pytest.approx(
        summed.totals.batch["sodium_mg"].value
    )
    assert boiled_down.totals.serving_grams == pytest.approx(20.2)
    assert boiled_down.flavor["salt"].value == pytest.approx(summed.flavor["salt"].value / 0.8)


def test_servings_by_volume_use_the_density_of_the_mix(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    recipe = replace(kitchen.recipe({"olive-oil-refined": "100 g"}), serving_ml=14.787)
    assert appraise(recipe, knowledge).totals.serving_grams == pytest.approx(13.6, rel=0.03)
    light = replace(kitchen.recipe({"water": "100 g"}), serving_ml=100)
    assert appraise(light, knowledge).totals.serving_grams == pytest.approx(100, rel=0.01)


def test_what_is_eaten_of_a_batch_line_is_a_share_of_its_share(kitchen: Kitchen) -> None:
    """A quarter of the batch goes in and half of that is eaten: an eighth counts, and a quarter was
    measured."""
    base = kitchen.recipe({"olive-oil-extra-virgin": "80 g", "lemon-juice-fresh": "40 g"})
    whole = kitchen.work_out(base).totals.batch["fat_g"].value
    dressed = kitchen.recipe({"arugula": "100 g"})
    line = batch_line("l9", Batch("7@1", 0.25, base))
    both = kitchen.work_out(dressed.with_added([line]))
    half = kitchen.work_out(dressed.with_added([replace(line, eaten=0.5)]))
    fat = [
        one.totals.batch["fat_g"].value - kitchen.work_out(dressed).totals.batch["fat_g"].value
        for one in (both, half)
    ]
    assert fat == pytest.approx([whole / 4, whole / 8])
    grams = [
        sum(p.in_bowl.value for p in one.portions if p.batch_line == "l9") for one in (both, half)
    ]
    assert grams == pytest.approx([30, 15])
    assert [
        sum(p.measured.value for p in one.portions if p.batch_line == "l9") for one in (both, half)
    ] == [30, 30]
