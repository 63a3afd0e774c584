"""How a recipe stands with a school: kept, or which lines break it and why."""

from __future__ import annotations

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import School, allows, refused_for
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.whole.school_standing import school_standing
from tests.conftest import Kitchen

GREEN = {
    "romaine": "1 head",
    "lemon-juice-fresh": "2 tbsp",
    "avocado": "1 medium",
    "walnuts": "1/4 cup",
}


@pytest.mark.parametrize("school", SCHOOLS.values(), ids=lambda s: s.id)
def test_a_bowl_of_whole_foods_keeps_every_school(school: School, kitchen: Kitchen) -> None:
    assert school_standing(kitchen.appraise(GREEN, "leafy-salad"), school).kept


@pytest.mark.parametrize(
    ("school", "key", "why"),
    [
        ("seeds-not-oil", "olive-oil-extra-virgin", "added fat"),
        ("seeds-not-oil", "mayonnaise", "added fat"),
        ("no-added-oil-salt-sugar", "table-salt", "added salt"),
        ("no-added-oil-salt-sugar", "feta", "added salt"),
        ("no-added-oil-salt-sugar", "chickpeas-canned-drained", "added salt"),
        ("no-added-oil-salt-sugar", "tomato-paste", "added salt"),
        ("no-added-oil-salt-sugar", "balsamic-glaze", "added sugar"),
        ("no-added-oil-salt-sugar", "honey", "added sugar"),
        ("lean-dairy", "feta", "full-fat dairy"),
    ],
)
def test_a_line_a_school_would_not_have_breaks_it_by_name(
    school: str, key: str, why: str, kitchen: Kitchen
) -> None:
    standing = school_standing(
        kitchen.appraise({**GREEN, key: "30 g"}, "leafy-salad"), SCHOOLS[school]
    )
    assert standing.against == ((key, why),)
    assert not standing.kept


@pytest.mark.parametrize(
    ("school", "key"),
    [
        ("keep-good-fat", "olive-oil-extra-virgin"),
        ("keep-good-fat", "table-salt"),
        ("seeds-not-oil", "tahini"),
        ("seeds-not-oil", "table-salt"),
        ("no-added-oil-salt-sugar", "chickpeas-canned-no-salt"),
        ("no-added-oil-salt-sugar", "dates-medjool"),
        ("lean-dairy", "greek-yogurt-nonfat"),
        ("lean-dairy", "olive-oil-extra-virgin"),
    ],
)
def test_what_a_school_would_have_leaves_it_kept(school: str, key: str, kitchen: Kitchen) -> None:
    assert school_standing(
        kitchen.appraise({**GREEN, key: "30 g"}, "leafy-salad"), SCHOOLS[school]
    ).kept


def test_what_is_not_understood_leaves_it_open_and_what_is_not_eaten_does_not(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    recipe = kitchen.recipe(GREEN, "leafy-salad")
    odd = kitchen.work_out(recipe.with_added([Line("x", "2 tbsp moonwort", "2 tbsp", None)]))
    standing = school_standing(odd, SCHOOLS["seeds-not-oil"])
    assert (standing.kept, standing.against, standing.unknown) == (False, (), ("2 tbsp moonwort",))
    left = kitchen.work_out(
        recipe.with_added([Line("x", "1 tsp salt", "1 tsp", "table-salt", eaten=0.0)])
    )
    assert school_standing(left, SCHOOLS["no-added-oil-salt-sugar"]).kept


def test_allowed_is_what_is_refused_for_nothing(knowledge: Knowledge) -> None:
    for school in SCHOOLS.values():
        for food in knowledge.pantry.stocked:
            assert allows(school, food) == (refused_for(school, food) == "")
