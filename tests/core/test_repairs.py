"""Repairs, traps, goals and cuts spread over dates."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import allows
from fresh_ladle.core.flavor.drift import drift
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.swaps.apply import applied_swap
from fresh_ladle.core.swaps.goals import Goal, goals_of, swaps_to_goal
from fresh_ladle.core.swaps.gradual_reduction import gradual_reduction
from fresh_ladle.core.swaps.pitfalls import pitfalls_of_recipe
from fresh_ladle.core.swaps.repairs import repairs_for
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.data.moves import load_repairs
from tests.conftest import Kitchen

VINAIGRETTE = {
    "olive-oil-extra-virgin": "6 tbsp",
    "vinegar-white-wine": "2 tbsp",
    "mustard-dijon": "1 tsp",
    "table-salt": "1/4 tsp",
    "parsley": "2 tbsp",
}


def swapped(kitchen: Kitchen, first: Appraisal, line: str, swap: str, share: float | None = None):  # type: ignore[no-untyped-def]
    one = next(s for s in kitchen.knowledge.swaps if s.id == swap)
    return applied_swap(first, line, one, kitchen.knowledge, first, share).effect


def test_half_the_oil_to_water_is_called_out_and_the_repair_brings_it_back(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = kitchen.appraise(VINAIGRETTE)
    thin = swapped(kitchen, first, "l1", "oil-to-water-dilution", 0.5)
    assert next(t.text for t in thin.pitfalls).startswith("Sharp, thin, no cling")
    assert thin.drift.steps["rich"] < -1.5
    assert thin.drift.steps["body"] < -1
    found = [r for r in repairs_for(thin.after, first, knowledge) if r.effect is not None]
    assert found[0].effect is not None
    assert found[0].effect.drift.total < thin.drift.total - 0.5
    assert {r.repair.axis for r in found} <= {"rich", "body", "sour", "bitter", "aroma"}


def test_repairs_keep_the_school(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = kitchen.appraise(VINAIGRETTE)
    thin = swapped(kitchen, first, "l1", "oil-to-water-dilution", 0.5)
    for school in SCHOOLS.values():
        for made in repairs_for(thin.after, first, knowledge, school):
            assert all(allows(school, knowledge.pantry[a.food]) for a in made.repair.additions)


def test_nothing_is_offered_where_nothing_drifted(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = kitchen.appraise(VINAIGRETTE)
    assert repairs_for(first, first, knowledge) == []


def test_salt_kept_for_the_surface_is_the_same_salt(kitchen: Kitchen, knowledge: Knowledge) -> None:
    dish = {"potato-boiled": "600 g", "sour-cream": "60 g", "table-salt": "1 tsp", "dill": "6 g"}
    first = kitchen.appraise(dish, "pasta-potato-salad")
    flat = kitchen.appraise({**dish, "table-salt": "1/2 tsp"}, "pasta-potato-salad")
    repair = next(
        r for r in repairs_for(flat, first, knowledge) if r.repair.id == "salt-to-the-surface"
    )
    assert repair.effect is not None
    assert repair.effect.steps == (
        "Table-salt: 1/2 tsp → ¼ tsp",
        "Add ¼ tsp table-salt, on top at the end",
    )
    assert repair.effect.change["sodium_mg"] == pytest.approx(0, abs=0.5)
    assert repair.effect.drift.steps["salt"] > drift_between(flat, first).steps["salt"] + 0.2


@pytest.mark.parametrize("repair", load_repairs(), ids=lambda r: r.id)
def test_each_repair_moves_its_own_axis_the_right_way(
    repair, kitchen: Kitchen, knowledge: Knowledge
) -> None:  # type: ignore[no-untyped-def]
    """Fifty grams of every taste in a bowl; a dose of the repair and its axis moves as it should,
    if it adds anything."""
    bowl = {
        "olive-oil-refined": "4 g",
        "vinegar-white": "8 g",
        "table-salt": "0.6 g",
        "honey": "4 g",
        "kale-raw": "20 g",
        "chilli-flakes": "0.1 g",
        "water": "40 g",
    }
    kind = {"dressing": "vinaigrette", "dip": "legume-dip", "salad": "leafy-salad"}[
        sorted(repair.courses)[0]
    ]
    first = kitchen.appraise(bowl, kind)
    if not repair.additions or repair.id in LIFTS_BY_SMELL:
        return
    grams = {a.food: a.per_100_g for a in repair.additions}
    more = {key: f"{grams.pop(key, 0) + float(amount[:-2]):g} g" for key, amount in bowl.items()}
    mended = kitchen.appraise({**more, **{k: f"{g:g} g" for k, g in grams.items()}}, kind)
    if repair.axis in NUTRIENT_IDS:
        per_100_g = [
            v.totals.batch[repair.axis].value / v.totals.batch_grams.value for v in (mended, first)
        ]
        assert per_100_g[0] > per_100_g[1]
        return
    step = drift_between(mended, first, Setting.SIDE_BY_SIDE).steps[repair.axis]
    assert step > 0 if repair.mends == "low" else step < 0, step


LIFTS_BY_SMELL = {"cinnamon-for-sweet", "zest-for-salt", "pepper-for-salt", "lemon-at-the-end"}
"""Their help is a smell or a brightness that the salt and sweet axes count for little or nothing by
themselves."""


def test_a_salty_thing_for_salt_gives_back_what_was_saved(kitchen: Kitchen) -> None:
    first = kitchen.appraise({"water": "200 g", "table-salt": "3 g", "olive-oil-refined": "30 g"})
    soy = swapped(kitchen, first, "l2", "salt-to-soy")
    assert any(t.id == "salt-brought-back" and "Soy sauce" in t.text for t in soy.pitfalls)
    lemon = swapped(kitchen, first, "l2", "salt-halved-lemon-up")
    assert not lemon.pitfalls


def test_saturated_fat_and_one_allergy_for_another_are_called_out(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = kitchen.appraise(
        {"greek-yogurt-nonfat": "200 g", "garlic": "3 g", "lemon-juice-fresh": "10 g"},
        "creamy-dressing",
    )
    cashew = swapped(kitchen, first, "l1", "yogurt-to-cashew-cream")
    assert {t.id for t in cashew.pitfalls} >= {"saturated-up", "one-allergy-for-another"}
    assert any("cashew" in t.text for t in cashew.pitfalls)


def test_traps_that_stand_in_a_recipe_show_when_they_matter(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    dish = kitchen.appraise(
        {
            "romaine": "100 g",
            "tomato-sun-dried-oil": "30 g",
            "sea-salt-flakes": "1 g",
            "balsamic-glaze": "10 g",
        },
        "leafy-salad",
    )
    none = {t.id for t in pitfalls_of_recipe(dish, knowledge.pitfalls, None, ())}
    assert none == {"sweetened-reductions"}
    oil_free = {
        t.id
        for t in pitfalls_of_recipe(
            dish, knowledge.pitfalls, SCHOOLS["no-added-oil-salt-sugar"], ()
        )
    }
    assert oil_free == {"sweetened-reductions", "oil-in-the-pack", "natural-salts"}
    low_fat = pitfalls_of_recipe(dish, knowledge.pitfalls, None, [Target("fat_g", Side.AT_MOST, 3)])
    assert any(t.id == "oil-in-the-pack" and "sun-dried" in t.text for t in low_fat)


def test_greens_without_fat_are_said_to_lack_a_carrier(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    bare = kitchen.appraise({"kale-raw": "100 g", "lemon-juice-fresh": "10 g"}, "leafy-salad")
    assert any(
        t.id == "nothing-carries" for t in pitfalls_of_recipe(bare, knowledge.pitfalls, None, ())
    )
    dressed = kitchen.appraise({"kale-raw": "100 g", "olive-oil-refined": "12 g"}, "leafy-salad")
    assert not any(
        t.id == "nothing-carries" for t in pitfalls_of_recipe(dressed, knowledge.pitfalls, None, ())
    )


DIP = {
    "chickpeas-canned-drained": "400 g",
    "tahini": "60 g",
    "lemon-juice-fresh": "30 g",
    "table-salt": "2 g",
    "garlic": "5 g",
}


def test_swaps_for_a_goal_serve_it_the_furthest_first(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    dip = kitchen.appraise(DIP, "legume-dip")
    found = swaps_to_goal(Goal.parsed("less:sodium_mg"), dip, dip, knowledge)
    changes = [m.effect.change["sodium_mg"] for m in found]
    assert changes[0] == min(changes) < 0
    assert all(c < 0 for c in changes)
    assert {m.line.id for m in found} >= {"l1", "l4"}
    fiber = swaps_to_goal(Goal.parsed("more:fiber_g"), dip, dip, knowledge)
    assert all(m.effect.change["fiber_g"] > 0 for m in fiber)


def test_without_an_allergen_means_without_it(kitchen: Kitchen, knowledge: Knowledge) -> None:
    dip = kitchen.appraise(DIP, "legume-dip")
    assert Goal.parsed("without:sesame") in goals_of(dip)
    for made in swaps_to_goal(Goal.parsed("without:sesame"), dip, dip, knowledge):
        assert "sesame" not in {a.id for a in made.effect.after.allergens}
    assert swaps_to_goal(Goal.parsed("without:tahini"), dip, dip, knowledge)


@pytest.mark.parametrize("text", ["less", "less:", "colder:sodium_mg", "more:happiness"])
def test_a_goal_that_is_none_is_refused(text: str) -> None:
    with pytest.raises(RecipeError):
        Goal.parsed(text)


def test_a_cut_over_dates_makes_no_step_that_is_noticed(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    dish = kitchen.appraise({**DIP, "table-salt": "8 g"}, "legume-dip")
    rungs = gradual_reduction(dish, "l4", 0.5, date(2027, 1, 4), 14, "sodium_mg", knowledge)
    assert len(rungs) >= 3
    assert [r.on for r in rungs] == [
        date(2027, 1, 4) + timedelta(days=14 * n) for n in range(len(rungs))
    ]
    assert rungs[-1].amount == "4 g"
    before = dish
    for rung in rungs:
        after = appraise(
            before.recipe.with_line(replace(before.recipe.line("l4"), amount=rung.amount)),
            knowledge,
        )
        steps = drift(after.flavor, before.flavor, Setting.SIDE_BY_SIDE).steps
        assert max(map(abs, steps.values())) < 1
        assert after.totals.serving["sodium_mg"].value == pytest.approx(rung.figure)
        before = after


@pytest.mark.parametrize(("cut", "days"), [(0, 14), (0.95, 14), (0.3, 0)])
def test_a_cut_that_cannot_be_is_refused(
    cut: float, days: int, kitchen: Kitchen, knowledge: Knowledge
) -> None:
    with pytest.raises(RecipeError):
        gradual_reduction(
            kitchen.appraise(DIP, "legume-dip"),
            "l4",
            cut,
            date(2027, 1, 4),
            days,
            "sodium_mg",
            knowledge,
        )
