"""Swaps: each says what it does, and does what it says."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import allows
from fresh_ladle.core.catalogue.swap import GOALS, Swap
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.swaps.apply import applied_swap, ranked, swaps_for, with_swap
from fresh_ladle.core.swaps.effect import Effect
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.moves import load_swaps
from tests.conftest import Kitchen

KIND_OF_COURSE = {"dressing": "vinaigrette", "dip": "legume-dip", "salad": "leafy-salad"}
LOWERED = {
    "oil": "fat_g",
    "salt": "sodium_mg",
    "sugar": "sugars_g",
    "saturated": "saturated_fat_g",
    "volume": "energy_kcal",
}
RAISED = {"fiber": "fiber_g", "protein": "protein_g"}
# A milder vinegar is there to let the sugar come down after it; alone it moves only acid. Of
# sweetened molasses only the maker's sugar goes, while the juice's own is boiled down further.
INDIRECT = {"vinegar-to-rice-vinegar", "molasses-to-unsweetened"}
MADE_SO = {"roasting": "tray-oil", "drawing": "drawn-salt", "cooking-water": "cooking-water"}
BASE = {"water": "50 g", "romaine": "100 g", "lemon-juice-fresh": "20 g"}


def example(swap: Swap, out: str, kitchen: Kitchen) -> Recipe:
    """A dish with the food that goes out, in the role it must play, among plain neighbors."""
    salt = swap.goal == "salt" and "salt" in kitchen.knowledge.pantry[out].traits.roles
    grams = {"l-" + key: amount for key, amount in BASE.items() if key != out}
    recipe = kitchen.recipe(
        {**{k[2:]: v for k, v in grams.items()}, out: "4 g" if salt else "30 g"}
    )
    line = recipe.lines[-1]
    role = sorted(swap.roles)[0] if swap.roles else ""
    line = replace(
        line,
        component="Dressing",
        preparations=(MADE_SO[role],) if role in MADE_SO else (),
        asides=frozenset({Aside.GARNISH} if role == "finishing" else ()),
    )
    kinds = [KIND_OF_COURSE[c] for c in sorted(swap.courses)] + ["creamy-dressing"]
    kind = next(
        k
        for k in kinds
        if swap.fits(line, kitchen.knowledge.pantry[out], k, kitchen.knowledge.pantry)
    )
    return replace(recipe.with_line(line), kind=kind)


def effect(swap: Swap, kitchen: Kitchen, out: str = "") -> Effect:
    appraisal = appraise(example(swap, out or sorted(swap.out)[0], kitchen), kitchen.knowledge)
    return applied_swap(
        appraisal, appraisal.recipe.lines[-1].id, swap, kitchen.knowledge, appraisal
    ).effect


@pytest.mark.parametrize("swap", load_swaps(), ids=lambda s: s.id)
def test_each_swap_does_what_it_says(swap: Swap, kitchen: Kitchen) -> None:
    """For every food it takes out: each figure and taste it names moves the way it names, and its
    goal is served."""
    for out in sorted(swap.out):
        made = effect(swap, kitchen, out)
        assert made.steps
        moved = {**made.change, **made.drift.steps}
        for name in (
            *swap.lowers,
            *((LOWERED[swap.goal],) if swap.goal in LOWERED and swap.id not in INDIRECT else ()),
        ):
            assert moved[name] < 0, (out, name, moved[name], made.steps)
        for name in (*swap.raises, *((RAISED[swap.goal],) if swap.goal in RAISED else ())):
            assert moved[name] > 0, (out, name, moved[name], made.steps)


@pytest.mark.parametrize("swap", load_swaps(), ids=lambda s: s.id)
def test_each_swap_keeps_the_schools_it_names(swap: Swap, kitchen: Kitchen) -> None:
    pantry = kitchen.knowledge.pantry
    for incoming in swap.incoming:
        food = incoming.resolved(pantry[sorted(swap.out)[0]], pantry)
        assert food is not None
        for school in swap.schools if incoming.food != "@same" else ():
            assert allows(SCHOOLS[school], food), f"{school} would not bring in {food.name}"
    assert sum(i.per_gram for i in swap.incoming) <= (
        36 if "salt" in swap.out or swap.goal == "salt" else 5
    )


@pytest.mark.parametrize("swap", load_swaps(), ids=lambda s: s.id)
def test_each_swap_asks_only_for_what_can_be_measured(swap: Swap, kitchen: Kitchen) -> None:
    for line in effect(swap, kitchen).after.recipe.lines:
        assert not any(
            c.isdigit() and "." in word
            for word in line.amount.split()
            for c in word
            if "g" not in line.amount
        ), line.amount


def test_the_catalogue_covers_the_work() -> None:
    swaps = load_swaps()
    assert len(swaps) >= 110
    for goal in GOALS.keys() - {"saturated"}:
        for course in ("dip", "salad"):
            assert any(s.goal == goal and course in s.courses for s in swaps), (goal, course)
    for school in SCHOOLS:
        assert sum(school in s.schools for s in swaps) >= 10, school


def test_what_comes_in_follows_what_really_left(kitchen: Kitchen, knowledge: Knowledge) -> None:
    recipe = kitchen.recipe({"olive-oil-refined": "3 tbsp", "vinegar-cider": "2 tbsp"})
    appraisal = appraise(recipe, knowledge)
    tahini = next(s for s in load_swaps() if s.id == "oil-to-tahini")
    after = with_swap(appraisal, "l1", tahini, knowledge.pantry, 0.5)
    amounts = {line.food: line.amount for line in after.lines}
    # 3 Tbsp less half is 1½ Tbsp; 20.4 g of oil left, for 15.1 g of tahini (1 Tbsp) and 12 g of
    # water (2½ tsp)
    assert amounts == {
        "olive-oil-refined": "1½ Tbsp",
        "tahini": "1 Tbsp",
        "water": "2½ tsp",
        "vinegar-cider": "2 tbsp",
    }


def test_new_allergens_are_called_out(kitchen: Kitchen, knowledge: Knowledge) -> None:
    appraisal = kitchen.appraise({"olive-oil-refined": "3 tbsp", "vinegar-cider": "2 tbsp"})
    tahini = next(s for s in load_swaps() if s.id == "oil-to-tahini")
    assert [
        a.name for a in applied_swap(appraisal, "l1", tahini, knowledge, appraisal).effect.brings
    ] == ["sesame"]


def test_a_swap_that_does_not_fit_is_refused(kitchen: Kitchen, knowledge: Knowledge) -> None:
    appraisal = kitchen.appraise({"romaine": "100 g"})
    with pytest.raises(RecipeError, match="does not fit"):
        with_swap(appraisal, "l1", load_swaps()[0], knowledge.pantry)
    with pytest.raises(RecipeError, match="between 0 and all"):
        with_swap(appraisal, "l1", load_swaps()[0], knowledge.pantry, 1.5)


def test_ranking_puts_what_helps_the_open_target_first(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    appraisal = kitchen.appraise(
        {"olive-oil-refined": "60 g", "vinegar-cider": "20 g", "table-salt": "1 g"}, servings=3
    )
    line = appraisal.recipe.line("l1")
    effects = [
        applied_swap(appraisal, "l1", s, knowledge, appraisal)
        for s in swaps_for(line, appraisal.recipe, knowledge)
    ]
    target = Target("fat_g", Side.AT_MOST, 12)
    order = [m.effect for m in ranked(effects, [target])]
    assert (
        order[0].change["fat_g"] < order[-1].change["fat_g"]
        or order[0].drift.total < order[-1].drift.total
    )
