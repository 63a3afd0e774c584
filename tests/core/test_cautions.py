"""Cautions and allergens show where they apply, and only there."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.recipe_text import read_recipe
from fresh_ladle.core.appraisal import appraise
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.data.load import load_cautions
from tests.conftest import Kitchen


def raised_by(text: str, reader: Reader, knowledge: Knowledge) -> set[str]:
    reading = read_recipe("Test\nServes 4\n" + text, reader)
    assert all(r.understood for r in reading.readings), [r.problem for r in reading.readings]
    return {c.caution.id for c in appraise(reading.recipe, knowledge).cautions}


CASES = [
    ("garlic-in-oil", "1 cup olive oil\n3 cloves garlic", "1 cup olive oil\n1 tsp garlic powder"),
    ("chill-within-two-hours", "1 cup plain yogurt", "1 cup olive oil"),
    ("cooked-vegetables-cold", "2 lb carrots, roasted\n500 g cooked broccoli", "2 cucumbers"),
    ("cool-grain-and-legumes", "1 cup dry quinoa, boiled", "1 cup olive oil"),
    ("two-hours-out", "1 head romaine lettuce", "1 cup olive oil"),
    ("raw-sprouts", "2 cups alfalfa sprouts", "2 cups romaine lettuce"),
    ("kidney-bean-boil", "200 g dry red kidney beans, boiled", "1 can kidney beans, drained"),
    ("raw-egg", "2 raw egg yolks", "2 hard-boiled eggs"),
    ("soft-cheese", "3 oz blue cheese", "3 oz cheddar"),
    ("smoked-fish", "6 oz smoked trout", "6 oz canned tuna in water, drained"),
    ("vitamin-k", "1 bunch kale", "1 cucumber"),
    ("potassium-salt", "1 tsp salt substitute\n1 cup water", "1 tsp salt\n1 cup water"),
    ("potassium-high", "4 avocados", "1 cucumber"),
    ("oxalate", "4 cups spinach", "4 cups romaine lettuce"),
    ("grapefruit", "1/2 cup grapefruit juice", "1/2 cup orange juice"),
    ("tyramine", "3 Tbsp soy sauce", "3 Tbsp lemon juice"),
    ("fiber-jump", "3 cups cooked lentils", "1 cucumber"),
    ("very-low-fat", "4 carrots", "4 carrots\n1/2 cup olive oil"),
    ("honey-infant", "1 Tbsp honey", "1 Tbsp maple syrup"),
    ("choking-nuts", "1 cup almonds", "1/2 cup tahini"),
    ("choking-round", "1 cup cherry tomatoes", "1 cup tomato paste"),
    ("wash-greens", "1 head romaine lettuce", "1 cup olive oil"),
    ("cashew-pistachio", "1 cup cashews", "1 cup almonds"),
    ("sulphites", "2 Tbsp red wine vinegar", "2 Tbsp lemon juice"),
    ("sodium-high", "2 tsp salt\n1 cup water", "1/4 tsp salt\n1 cup water"),
]  # fmt: skip


@pytest.mark.parametrize(("caution", "with_it", "without"), CASES, ids=[c[0] for c in CASES])
def test_a_caution_is_raised_where_it_applies_and_only_there(
    caution: str, with_it: str, without: str, reader: Reader, knowledge: Knowledge
) -> None:
    assert caution in raised_by(with_it, reader, knowledge)
    assert caution not in raised_by(without, reader, knowledge)


def test_every_caution_has_its_case_and_says_who_decides() -> None:
    assert {c.id for c in load_cautions()} == {c[0] for c in CASES}
    for caution in load_cautions():
        assert caution.defer_to
        assert caution.source
        assert caution.text.endswith(".")


def test_allergens_name_the_nut_and_where_it_comes_from(reader: Reader, knowledge: Knowledge) -> None:
    reading = read_recipe("Test\n1 cup walnuts\n2 Tbsp tahini\n1 tsp Dijon mustard\n1 Tbsp soy sauce", reader)
    found = appraise(reading.recipe, knowledge).allergens
    names = [a.name for a in found]
    assert names[:4] == ["sesame", "soybean", "walnut (tree nut)", "wheat"]
    assert "mustard" in names
    assert not next(a for a in found if a.id == "mustard").us
    assert next(a for a in found if a.id == "sesame").foods == ("Tahini, unsalted",)


def test_allergens_of_a_row_of_the_table_are_not_known_rather_than_none(kitchen: Kitchen, knowledge: Knowledge) -> None:
    row = next(f for f in knowledge.pantry if not f.in_pantry and f.name.lower().startswith("peanut butter"))
    found = kitchen.appraise({row.key: "30 g", "tahini": "10 g"})
    assert [a.id for a in found.allergens] == ["sesame"]
    assert found.allergens_unchecked == [row.name]
    assert kitchen.appraise({"tahini": "10 g"}).allergens_unchecked == []


def test_a_line_not_understood_may_bring_anything(kitchen: Kitchen) -> None:
    recipe = kitchen.recipe({"tahini": "10 g", "salt": "1 g"})
    lost = replace(recipe.line("l2"), food=None, text="2 tbsp wumpus juise")
    assert kitchen.work_out(recipe.with_line(lost)).allergens_unchecked == ["2 tbsp wumpus juise"]


def test_a_food_that_cannot_be_weighed_still_brings_its_allergens(kitchen: Kitchen) -> None:
    found = kitchen.appraise({"tahini": "3 heads", "water": "50 g"})
    assert [p.line.food for p in found.problems] == ["tahini"]
    assert "sesame" in [a.id for a in found.allergens]


def test_what_a_bare_word_leaves_open_never_hides_an_allergen(knowledge: Knowledge) -> None:
    for doubt in knowledge.ambiguities:
        for food in (f for f in knowledge.pantry if f.in_pantry):
            for key in doubt.options(food, knowledge.pantry):
                assert knowledge.pantry[key].traits.allergens == food.traits.allergens, (food.key, key)
