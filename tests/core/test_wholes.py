"""Whole cans: a batch moved to them, or its line alone, and the figures of a serving before and
after."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.buying import usual_pack
from fresh_ladle.core.service.day import Ask, ServiceDish, planned_service
from fresh_ladle.core.service.plate import plate_rows, together
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.wholes import WholeChoice, whole_choices
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.core.test_pace import NOON

DIP = """Chickpea dip
Serves 8
1 can (15 oz) chickpeas, drained and rinsed
1/3 cup tahini
3 Tbsp lemon juice
1/2 tsp salt"""
GREENS = "Green salad\nServes 8\n300 g romaine\n2 Tbsp olive oil\n1 Tbsp lemon juice"


def dish(knowledge: Knowledge, text: str = DIP) -> Appraisal:
    return appraise(
        read_recipe(text, Reader(knowledge.pantry, knowledge.preparations)).recipe, knowledge
    )


def choices(found: Appraisal, servings: float, knowledge: Knowledge) -> list[WholeChoice]:
    def worked_out(recipe: Recipe) -> Appraisal:
        return appraise(recipe, knowledge)

    return whole_choices(found, servings / found.totals.servings, servings, Region.US, worked_out)


def test_twenty_servings_take_two_cans_and_a_half(knowledge: Knowledge) -> None:
    two, three = choices(dish(knowledge), 20, knowledge)
    assert (two.cans, two.servings) == (2, 16)
    assert (three.cans, three.servings) == (3, 24)
    assert two.needed == three.needed == pytest.approx(2.5)
    for choice, up in ((two, False), (three, True)):
        for nutrient in ("fiber_g", "protein_g", "energy_kcal"):
            before, after = choice.figures[nutrient]
            assert (after.value > before.value) is up


def test_whole_cans_already_or_none_at_all_offer_nothing(knowledge: Knowledge) -> None:
    assert choices(dish(knowledge), 24, knowledge) == []
    assert choices(dish(knowledge, GREENS), 21, knowledge) == []


@settings(max_examples=25, deadline=None)
@given(st.integers(1, 400))
def test_a_line_moved_weighs_whole_cans_in_the_batch(knowledge: Knowledge, servings: int) -> None:
    found = dish(knowledge)
    pack = usual_pack(knowledge.pantry[found.portions[0].line.food or ""], Region.US)
    assert pack is not None
    for choice in choices(found, servings, knowledge):
        moved = appraise(choice.recipe, knowledge)
        grams = moved.portions[0].measured.value * servings / 8
        assert grams == pytest.approx(choice.cans * pack.grams, abs=0.6 * servings / 8), (
            "to a gram of the recipe"
        )
        assert choice.servings * choice.needed <= choice.cans * servings + 1e-6, (
            "no more is fed than there is"
        )


def test_the_plate_is_the_sum_of_what_stands_on_it(knowledge: Knowledge) -> None:
    """20 of 60 g dip, 30 of salad, and chips for each of the thirty."""
    chips = dish(knowledge, "What it comes with\nServes 1\n40 g pita chips")
    dip = ServiceDish(dish(knowledge), 20, 60.0)
    salad = ServiceDish(dish(knowledge, GREENS), 30)
    ask = Ask((dip, salad), NOON, Kitchen(), beside=chips)
    found = planned_service(ask, knowledge.work, NOON.replace(month=2))
    assert found.beside is not None
    assert found.beside.lines[0].grams.value == pytest.approx(30 * 40)
    assert any(p.food.key == chips.portions[0].line.food for p in found.shopping)
    rows = plate_rows((*found.plans, found.beside))
    assert [round(row.grams) for row in rows] == [
        60,
        round(salad.appraisal.totals.serving_grams),
        40,
    ]
    share = 60 / dip.appraisal.totals.serving_grams
    assert rows[0].figures["sodium_mg"].value == pytest.approx(
        dip.appraisal.totals.serving["sodium_mg"].value * share
    )
    whole = together(rows)
    for nutrient, figure in whole.figures.items():
        assert figure.value == pytest.approx(sum(row.figures[nutrient].value for row in rows))
        assert figure.low <= figure.value <= figure.high
    assert found.plans[0].lines[0].grams.value == pytest.approx(
        dip.appraisal.portions[0].measured.value * dip.factor
    )
    assert dip.factor == pytest.approx(20 * 60 / dip.appraisal.totals.batch_grams.value, rel=1e-6)
