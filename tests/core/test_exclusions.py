"""What must not be in a dish, and is: for certain, perhaps, or unread."""

from __future__ import annotations

from dataclasses import replace

from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.whole.exclusions import broken_exclusions
from tests.conftest import Kitchen


def said(kitchen: Kitchen, grams: dict[str, str], *exclusions: str) -> list[str]:
    return [one.said for one in broken_exclusions(kitchen.appraise(grams), exclusions)]


def test_what_is_certain_comes_before_what_a_pack_can_tell(kitchen: Kitchen) -> None:
    held = said(kitchen, {"tahini": "30 g", "salami": "40 g", "romaine": "80 g"}, "milk", "sesame")
    assert held == ["sesame (tahini)", "perhaps milk (salami): read the pack"]
    assert said(kitchen, {"tahini": "30 g"}, "milk") == []
    assert said(kitchen, {"parsley": "5 g"}, "parsley") == ["parsley"]


def test_one_nut_is_not_every_nut(kitchen: Kitchen) -> None:
    assert said(kitchen, {"walnuts": "20 g"}, "tree-nut") == ["tree-nut (walnuts)"]
    assert said(kitchen, {"walnuts": "20 g"}, "tree-nut:almond") == []


def test_what_nobody_knows_may_bring_any_allergen_but_no_food(kitchen: Kitchen) -> None:
    recipe = kitchen.recipe({"romaine": "80 g"})
    dish = kitchen.work_out(
        replace(recipe, lines=(*recipe.lines, Line("l2", "1 cup wumpus", "1 cup", None)))
    )
    assert [one.said for one in broken_exclusions(dish, {"egg", "milk"})] == [
        "perhaps egg or milk (1 cup wumpus): read the pack"
    ]
    assert broken_exclusions(dish, {"parsley"}) == []


def test_what_is_not_eaten_breaks_nothing(kitchen: Kitchen) -> None:
    recipe = kitchen.recipe({"tahini": "30 g", "romaine": "80 g"})
    dish = kitchen.work_out(recipe.with_line(replace(recipe.lines[0], eaten=0.0)))
    assert broken_exclusions(dish, {"sesame"}) == []
