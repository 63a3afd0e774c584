"""How long a dish keeps, on both sides of every kind of rule."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.hold.keeping import checked_days, keeping
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

DIP = "1 can chickpeas, drained\n1/4 cup tahini\n2 Tbsp olive oil\n1/2 tsp salt"
OIL = "3/4 cup olive oil\n1/4 cup red wine vinegar\n1 tsp dried oregano\n1/2 tsp salt"
SALAD = "2 cups cooked bulgur\n3 Tbsp olive oil\n2 Tbsp lemon juice\n1/2 tsp salt"
KEPT = [
    ("legume-dip", DIP, 4, "legume dip"),
    ("legume-dip", f"{DIP}\n2 cloves garlic", 3, "legume dip"),
    ("legume-dip", f"{DIP}\n1 tsp garlic powder", 4, "legume dip"),
    ("vinaigrette", OIL, 14, "vinaigrette of dried seasonings"),
    (
        "vinaigrette",
        f"{OIL}\n1 shallot, minced",
        4,
        "vinaigrette with fresh garlic, shallot or herb",
    ),
    (
        "vinaigrette",
        "1 cup olive oil\n4 cloves garlic",
        4,
        "oil with fresh garlic or herbs, no acid",
    ),
    (
        "creamy-dressing",
        "1 cup plain yogurt\n1 Tbsp lemon juice",
        5,
        "creamy yogurt or buttermilk dressing",
    ),
    (
        "creamy-dressing",
        "1 cup plain yogurt\n2 Tbsp chopped dill",
        3,
        "creamy yogurt or buttermilk dressing",
    ),
    ("creamy-dressing", "1/2 cup olive oil\n1 raw egg yolk", 1, "raw egg that is not pasteurized"),
    ("leafy-salad", "6 cups romaine lettuce\n2 Tbsp olive oil", 0, "tender leaves, dressed"),
    ("leafy-salad", "6 cups kale\n2 Tbsp olive oil", 2, "hardy leaves, massaged and dressed"),
    ("avocado-dip", "2 avocados\n1 Tbsp lime juice", 1, "avocado dip"),
    ("grain-salad", SALAD, 3, "grain, pasta or potato salad, dressed"),
    ("grain-salad", f"{SALAD}\n2 tomatoes, diced", 2, "cut tomato"),
    ("grain-salad", f"{SALAD}\n2 Tbsp tomato paste", 3, "grain, pasta or potato salad, dressed"),
    ("grain-salad", f"{SALAD}\n1 avocado, diced", 1, "cut avocado"),
    (
        "bean-salad",
        "2 cups cooked black beans\n2 Tbsp olive oil\n1 Tbsp cider vinegar",
        4,
        "bean salad with vinegar",
    ),
    ("legume-dip", f"{DIP}\n2 tomatoes", 4, "legume dip"),
    (
        "vinaigrette",
        f"{OIL}\n2 oz blue cheese",
        3,
        "vinaigrette with cheese, nuts, fruit or vegetables",
    ),
    ("vinaigrette", f"{OIL}\n2 Tbsp plain yogurt", 5, "creamy yogurt or buttermilk dressing"),
    ("dairy-dip", "1 cup sour cream\n1 can tuna, drained", 3, "fish, egg or poultry in it"),
    (
        "grain-salad",
        f"{SALAD}\n1 can tuna, drained\n2 slices bacon, cooked",
        3,
        "fish, egg or poultry in it",
    ),
    ("grain-salad", f"{SALAD}\n2 slices bacon, cooked", 3, "grain, pasta or potato salad, dressed"),
    (
        "leafy-salad",
        "6 cups romaine lettuce\n2 cups kale\n2 Tbsp olive oil",
        0,
        "tender leaves, dressed",
    ),
]


def dish(knowledge: Knowledge, kind: str, lines: str) -> Appraisal:
    reader = Reader(knowledge.pantry, knowledge.preparations)
    return appraise(replace(read_recipe(f"Dish\n{lines}", reader, 4).recipe, kind=kind), knowledge)


@pytest.mark.parametrize(
    ("kind", "lines", "days", "by"), KEPT, ids=[f"{k}: {b}, {d}" for k, _, d, b in KEPT]
)
def test_how_long_it_keeps(knowledge: Knowledge, kind: str, lines: str, days: int, by: str) -> None:
    found = keeping(dish(knowledge, kind, lines), knowledge.work)
    assert (found.days, found.decided_by) == (days, by)


def test_no_dish_keeps_longer_than_its_most_delicate_part(knowledge: Knowledge) -> None:
    found = keeping(
        dish(knowledge, "grain-salad", f"{SALAD}\n2 tomatoes\n1 cucumber\n4 oz feta"),
        knowledge.work,
    )
    assert len(found.parts) >= 4
    assert found.days == min(part.days for part in found.parts)


def test_the_day_of_making_is_the_first(knowledge: Knowledge) -> None:
    found = keeping(dish(knowledge, "legume-dip", DIP), knowledge.work)
    assert found.keep_by(date(2027, 2, 26)) == date(2027, 3, 1)
    leaves = keeping(dish(knowledge, "leafy-salad", "6 cups romaine lettuce"), knowledge.work)
    assert leaves.keep_by(date(2027, 2, 26)) == date(2027, 2, 26)


def test_guests_at_risk_shorten_it_and_some_things_are_never_theirs(knowledge: Knowledge) -> None:
    egg = dish(knowledge, "creamy-dressing", "1/2 cup olive oil\n1 raw egg yolk")
    assert keeping(egg, knowledge.work, at_risk=True).never_for_at_risk == (
        "raw egg that is not pasteurized",
    )
    assert keeping(egg, knowledge.work).never_for_at_risk == ()
    dip = dish(knowledge, "legume-dip", DIP)
    assert keeping(dip, knowledge.work, at_risk=True).days == keeping(dip, knowledge.work).days - 1


def test_a_longer_time_is_refused_with_the_reason(knowledge: Knowledge) -> None:
    rule = keeping(
        dish(knowledge, "vinaigrette", "1 cup olive oil\n4 cloves garlic"), knowledge.work
    )
    with pytest.raises(
        RecipeError, match=r"30 days is longer than the 4 days of oil with fresh garlic.*no acid"
    ):
        checked_days(30, rule)
    with pytest.raises(RecipeError):
        checked_days(-1, rule)
    assert checked_days(2, rule) == 2


@pytest.mark.parametrize(
    ("kind", "lines", "days", "by"), KEPT, ids=[f"{k}: {b}, {d}" for k, _, d, b in KEPT]
)
def test_guests_at_risk_have_a_day_less_and_never_less_than_the_day_of_making(
    knowledge: Knowledge, kind: str, lines: str, days: int, by: str
) -> None:
    """From two days on, two included; what keeps for one day or for the meal keeps that long."""
    found = keeping(dish(knowledge, kind, lines), knowledge.work, at_risk=True)
    assert (found.days, found.decided_by) == (days - 1 if days >= 2 else days, by)
