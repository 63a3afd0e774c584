"""Allergens: one list of groups, one way to ask, and what that means for exclusions of every
kind."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.allergens import (
    ALLERGENS,
    US_NINE,
    allergen_group,
    allergen_name,
    allergens,
    is_left_out,
    is_or_brings,
    may_bring,
    may_come_in,
    may_contain,
)
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.plans.moves import moves_for
from fresh_ladle.core.plans.parsing import exclusion_of
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.sums import Bowl
from fresh_ladle.core.swaps.effect import effect_of
from fresh_ladle.core.swaps.goals import Direction, Goal, swaps_to_goal
from tests.conftest import Kitchen


def test_every_allergen_of_the_pantry_belongs_to_a_group_that_can_be_left_out(
    pantry: Pantry,
) -> None:
    held = {a for food in pantry for a in food.traits.allergens}
    assert {allergen_group(a) for a in held} <= set(ALLERGENS)
    assert set(ALLERGENS) > US_NINE
    assert len({allergen_name(a) for a in held}) == len(held), "each is told by a name of its own"


@pytest.mark.parametrize(
    ("food", "what", "brings"),
    [
        ("walnuts", "tree-nut", True),
        ("walnuts", "tree-nut:walnut", True),
        ("walnuts", "tree-nut:cashew", False),
        ("walnuts", "peanut", False),
        ("walnuts", "walnuts", True),
        ("peanut-oil", "tree-nut", False),
        ("peanut-oil", "peanut", True),
        ("tahini", "sesame", True),
        ("tahini", "tree-nut", False),
        ("table-salt", "tree", False),
    ],
)
def test_a_food_is_or_brings_what_is_asked(
    food: str, what: str, brings: bool, pantry: Pantry
) -> None:
    assert is_or_brings(pantry[food], what) is brings
    assert is_left_out(pantry[food], {what, "lupin"}) is brings


def test_leaving_tree_nuts_out_leaves_every_nut_out_of_a_plan(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise(
        {"walnuts": "60 g", "olive-oil-extra-virgin": "60 g", "table-salt": "3 g"}, "herb-nut-paste"
    )
    for typed in ("tree-nut", "tree nuts", "Tree Nut"):
        request = PlanRequest((), exclude=exclusion_of(typed, knowledge.pantry))
        moves = moves_for(now, request, knowledge, Bowl(now, now, (), 0.8))
        assert [line.portion.food.key for line in moves.lines if line.must_go] == ["walnuts"]
        coming = [part.food for move in moves.moves for part, _ in move.added]
        assert coming
        assert not any(is_or_brings(food, "tree-nut") for food in coming)


def test_a_goal_without_tree_nuts_finds_swaps_that_bring_none(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise(
        {"walnuts": "60 g", "lemon-juice-fresh": "40 g", "parsley": "30 g"}, "herb-nut-paste"
    )
    made = swaps_to_goal(Goal(Direction.WITHOUT, "tree-nut"), now, now, knowledge)
    assert made
    for one in made:
        assert not any(allergen_group(a.id) == "tree-nut" for a in one.effect.after.allergens)


def test_allergens_are_told_with_the_foods_that_bring_them_the_us_nine_first(
    pantry: Pantry,
) -> None:
    found = allergens(
        [pantry["tahini"], pantry["mustard-dijon"], pantry["walnuts"], pantry["tahini"]]
    )
    assert [(a.id, a.us) for a in found if a.id in ("sesame", "mustard", "tree-nut:walnut")] == [
        ("sesame", True),
        ("tree-nut:walnut", True),
        ("mustard", False),
    ]
    assert next(a for a in found if a.id == "sesame").foods == (pantry["tahini"].name,)


def test_what_only_the_pack_can_tell_is_neither_said_for_certain_nor_kept_quiet(
    pantry: Pantry,
) -> None:
    mayonnaise = pantry["mayonnaise"]
    assert not is_or_brings(mayonnaise, "soy")
    assert may_bring(mayonnaise, "soy")
    assert not is_left_out(mayonnaise, {"soy"}), "what is there already may stay, with a warning"
    assert not may_come_in(mayonnaise, {"soy"}), "but nothing doubtful is brought in"
    assert may_come_in(mayonnaise, {"sesame"})
    perhaps = {a.id: a for a in may_contain([mayonnaise, pantry["parmesan"]])}
    assert perhaps["soy"].foods == (mayonnaise.name,)
    assert perhaps["soy"].said == "perhaps soybean"
    assert "egg" not in perhaps, "mayonnaise holds it for certain, whatever the cheese may hold"


def test_a_plan_without_soy_keeps_the_mayonnaise_with_a_warning_and_brings_in_nothing_doubtful(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise({"mayonnaise": "60 g", "soy-sauce": "20 g", "table-salt": "3 g"}, "slaw")
    request = PlanRequest((), exclude=frozenset({"soy"}))
    moves = moves_for(now, request, knowledge, Bowl(now, now, (), 0.8))
    assert [line.portion.food.key for line in moves.lines if line.must_go] == ["soy-sauce"]
    coming = [part.food for move in moves.moves for part, _ in move.added]
    assert coming
    assert all(may_come_in(food, {"soy"}) for food in coming)


def test_a_swap_that_brings_a_doubtful_allergen_says_so(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise({"egg-yolk-raw": "40 g", "lemon-juice-fresh": "20 g"}, "creamy-dressing")
    after = now.recipe.with_line(replace(now.recipe.line("l1"), food="mayonnaise"))
    brought = effect_of(now, after, now, knowledge).brings
    assert ("mustard", True) in [(a.id, a.sure) for a in brought]
    assert ("soy", False) in [(a.id, a.sure) for a in brought]


def test_a_line_of_which_nothing_is_eaten_brings_no_allergen(kitchen: Kitchen) -> None:
    recipe = kitchen.recipe({"tahini": "30 g", "lemon-juice-fresh": "30 g"})
    assert "sesame" in [a.name for a in kitchen.work_out(recipe).allergens]
    left = recipe.with_line(replace(recipe.lines[0], eaten=0.0))
    assert "sesame" not in [a.name for a in kitchen.work_out(left).allergens]
