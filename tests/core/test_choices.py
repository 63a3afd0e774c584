"""What a plan may choose from: nothing forbidden, nothing beaten on every count, nothing that helps no target."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import SALT_BY_ID, SCHOOLS, School, allows
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.plans.choices import OPTIONS_PER_LINE, choices_for, identity_lines, per_gram_of_portion
from fresh_ladle.core.plans.request import PlanRequest
from tests.conftest import Kitchen

DIP = {
    "chickpeas-canned-drained": "2 cup",
    "tahini": "1/4 cup",
    "lemon-juice-fresh": "3 tbsp",
    "garlic": "2 clove",
    "olive-oil-refined": "2 tbsp",
    "table-salt": "1/2 tsp",
    "parmesan": "1/4 cup",
}
LESS_SODIUM = Target("sodium_mg", Side.AT_MOST, 100)
LESS_FAT = Target("fat_g", Side.AT_MOST, 4)


@pytest.fixture
def dip(kitchen: Kitchen) -> Appraisal:
    return kitchen.appraise(DIP, "legume-dip", 8)


def test_per_gram_parts_add_up_to_the_appraisal(dip: Appraisal) -> None:
    per_gram = [(per_gram_of_portion(p), p.measured.value) for p in dip.portions]
    for place, nutrient in enumerate(NUTRIENT_IDS):
        assert sum(g.figures[place] * grams for g, grams in per_gram) == pytest.approx(dip.totals.batch[nutrient].value)
    assert sum(g.mass * grams for g, grams in per_gram) == pytest.approx(dip.totals.batch_grams.value)


def test_only_what_helps_a_target_may_change(dip: Appraisal, knowledge: Knowledge) -> None:
    options = choices_for(dip, PlanRequest((LESS_SODIUM,)), knowledge).options
    touched = {o.line for o in options if o.line}
    assert {"l1", "l6"} <= touched
    assert "l5" not in touched, "oil holds no salt"
    for_fat = {
        o.line for o in choices_for(dip, PlanRequest((LESS_FAT,)), knowledge).options if o.line and o.kind != "surface"
    }
    assert {"l2", "l5"} <= for_fat
    assert "l6" not in for_fat


def test_a_line_brings_a_few_swaps_at_most(dip: Appraisal, knowledge: Knowledge) -> None:
    options = choices_for(dip, PlanRequest((LESS_FAT,)), knowledge).options
    for line in {o.line for o in options if o.line}:
        assert sum(o.kind == "swap" and o.line == line for o in options) <= OPTIONS_PER_LINE


@pytest.mark.parametrize("school", SCHOOLS, ids=lambda s: s.id)
def test_nothing_comes_in_that_the_school_refuses(school: School, dip: Appraisal, knowledge: Knowledge) -> None:
    for option in choices_for(dip, PlanRequest((LESS_SODIUM, LESS_FAT), school=school), knowledge).options:
        if option.kind in ("swap", "repair"):
            assert all(allows(school, part.food) for part in option.parts if "on top" not in part.how), option.id


def test_what_is_locked_cannot_be_taken_and_what_is_excluded_must(dip: Appraisal, knowledge: Knowledge) -> None:
    request = PlanRequest((LESS_SODIUM,), locked=frozenset({"l6"}), exclude=frozenset({"sesame", "milk"}))
    choices = choices_for(dip, request, knowledge)
    assert "l6" not in {c.id for c in choices.lines}
    assert {c.id for c in choices.lines if c.must_go} == {"l2", "l7"}
    for option in choices.options:
        for part in option.parts:
            assert not {"sesame", "milk"} & {a.partition(":")[0] for a in part.food.traits.allergens}
    stuck = choices_for(dip, PlanRequest((), exclude=frozenset({"milk"}), locked=frozenset({"l7"})), knowledge).stuck
    assert stuck == ("parmesan",)


def test_salt_substitutes_are_never_taken_by_a_plan(dip: Appraisal, knowledge: Knowledge) -> None:
    for request in (
        PlanRequest((LESS_SODIUM,)),
        PlanRequest((LESS_SODIUM,), salt_school=SALT_BY_ID["powders-and-acid"]),
    ):
        foods = {part.food.key for o in choices_for(dip, request, knowledge).options for part in o.parts}
        assert "potassium-chloride-salt" not in foods
    salty = PlanRequest((LESS_SODIUM,), salt_school=SALT_BY_ID["powders-and-acid"])
    for option in choices_for(dip, salty, knowledge).options:
        assert all(not part.food.traits.added_salt for part in option.parts if "on top" not in part.how)


def test_the_title_and_the_heaviest_line_make_the_dish(kitchen: Kitchen) -> None:
    dish = kitchen.appraise({"water": "500 g", "feta": "50 g", "olives-kalamata": "20 g"}, "leafy-salad")
    assert identity_lines(dish) == {"l1"}


def test_salty_things_come_in_for_salt_unless_the_school_of_salt_refuses(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    dressing = kitchen.appraise({"soy-sauce": "2 tbsp", "olive-oil-refined": "1/4 cup", "rice-vinegar": "2 tbsp"})
    salty = {"soy-sauce-reduced-sodium", "coconut-aminos"}
    for school, comes in ((None, True), ("season-early", True), ("powders-and-acid", False), ("none-added", False)):
        request = PlanRequest((LESS_SODIUM,), salt_school=SALT_BY_ID[school] if school else None)
        brought = {part.food.key for o in choices_for(dressing, request, knowledge).options for part in o.parts}
        assert bool(brought & salty) is comes, school


def test_per_gram_tastes_are_those_of_the_dish_with_salt_on_the_surface_counted_more(kitchen: Kitchen) -> None:
    recipe = kitchen.recipe({"potato-boiled": "200 g", "table-salt": "2 g", "lemon-juice-fresh": "20 g"}, "slaw")
    plain = kitchen.work_out(recipe)
    on_top = kitchen.work_out(recipe.with_line(replace(recipe.line("l2"), remarks=("on top",))))
    for now in (plain, on_top):
        parts = [(per_gram_of_portion(p), p.measured.value) for p in now.portions]
        for place, axis in enumerate(AXIS_IDS):
            if axis in ("savory", "body"):
                continue
            brought = sum(part.tastes[place] * grams for part, grams in parts)
            assert brought == pytest.approx(now.flavor[axis].value * now.totals.batch_grams.value), axis
    assert on_top.flavor["salt"].value > plain.flavor["salt"].value


def test_more_is_made_of_what_is_light_but_never_of_what_has_to_go(kitchen: Kitchen, knowledge: Knowledge) -> None:
    now = kitchen.appraise({"cucumber-peeled": "200 g", "feta": "60 g", "table-salt": "2 g"}, "slaw")
    wanted = (Target("fiber_g", Side.AT_LEAST, 3), Target("sodium_mg", Side.AT_MOST, 100))
    kinds = {o.id for o in choices_for(now, PlanRequest(wanted), knowledge).options}
    assert "more:l1" in kinds
    without = PlanRequest(wanted, exclude=frozenset({"cucumber-peeled"}))
    assert "more:l1" not in {o.id for o in choices_for(now, without, knowledge).options}
