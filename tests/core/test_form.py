"""Recipes as numbers say what the line-by-line sums say, whatever figures the foods take."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.form import form_figures, recipe_form
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge, load_reader
from fresh_ladle.data.tables import toml_of

ODD = """Odd bowl
Serves 2 to 4
1 can chickpeas
2 Tbsp soy sauce
1/2 cup grain nobody knows
salt to taste
1 glug olive oil
a handful of parsley
water, to thin
"""


def _recipes() -> list[Recipe]:
    shown = [(row["text"], row["kind"]) for row in toml_of("demo.toml")["recipe"]]
    return [
        read_recipe(text, load_reader(), kind=kind).recipe
        for text, kind in (*shown, (ODD, "bean-salad"))
    ]


RECIPES = _recipes()


def same(recipes: list[Recipe], before: Knowledge, pantry: Pantry) -> None:
    """Forms made with the figures of before, multiplied with those of now, are the recipes worked
    out now."""
    now = replace(before, pantry=pantry)
    forms = [recipe_form(r, appraise(r, before).portions) for r in recipes]
    number_of = {
        key: n for n, key in enumerate(sorted({key for form in forms for key in form.keys}), 7)
    }
    food_of = {number: pantry[key] for key, number in number_of.items()}
    found = form_figures(
        np.vstack([form.numbered(number_of) for form in forms]), NUTRIENT_IDS, food_of
    )
    for place, recipe in enumerate(recipes):
        worked_out = appraise(recipe, now)
        for column, nutrient in enumerate(NUTRIENT_IDS):
            for basis, ends in (
                (Basis.SERVING, found.serving),
                (Basis.HUNDRED_GRAMS, found.per_100_g),
            ):
                figure = worked_out.figure_for(Target(nutrient, Side.AT_MOST, 0, basis))
                ours = [end[place, column] for end in ends]
                assert ours == pytest.approx(
                    [figure.value, figure.low, figure.high], rel=1e-9, abs=1e-9
                ), (
                    recipe.title,
                    nutrient,
                    basis,
                )
                assert found.complete[place, column] == figure.complete, (recipe.title, nutrient)


def test_the_figures_of_now_are_those_worked_out_now(knowledge: Knowledge) -> None:
    same(RECIPES, knowledge, knowledge.pantry)
    assert any(p.other_readings for r in RECIPES for p in appraise(r, knowledge).portions), (
        "some could be another food"
    )


figures = st.one_of(st.none(), st.floats(0, 900))


@given(st.data())
def test_other_figures_of_foods_are_taken_in(data: st.DataObject) -> None:
    """Any figures, unknown ones and those of rounded labels too; servings by count, by range, by
    weight and by volume; a weighed batch; parts not eaten; lines without a food."""
    before = load_knowledge()
    recipes = [
        altered(data, recipe)
        for recipe in data.draw(st.lists(st.sampled_from(RECIPES), min_size=1, max_size=4))
    ]
    keys = sorted({line.food for r in recipes for line in r.lines if line.food})
    changed = []
    for key in data.draw(st.lists(st.sampled_from(keys), unique=True, max_size=5)) if keys else []:
        food = before.pantry[key]
        drawn = {
            n: data.draw(figures)
            for n in data.draw(st.lists(st.sampled_from(NUTRIENT_IDS), unique=True))
        }
        labels = {
            n: (0.8 * v, 1.3 * v)
            for n, v in drawn.items()
            if v is not None and data.draw(st.booleans())
        }
        changed.append(replace(food, per_100_g={**food.per_100_g, **drawn}, ranges=labels))
    same(recipes, before, before.pantry.with_foods(changed))


def altered(data: st.DataObject, recipe: Recipe) -> Recipe:
    how = data.draw(st.sampled_from(["count", "range", "grams", "ml"]))
    servings = data.draw(st.sampled_from([1.0, 3.0, 8.0]))
    lines = tuple(
        replace(line, eaten=data.draw(st.sampled_from([1.0, 1.0, 0.5, 0.0])))
        if data.draw(st.booleans())
        else line
        for line in recipe.lines
    )
    return replace(
        recipe,
        lines=lines,
        servings=servings,
        servings_range=(servings / 2, servings * 2) if how == "range" else None,
        serving_grams=40.0 if how == "grams" else None,
        serving_ml=30.0 if how == "ml" else None,
        yield_grams=data.draw(st.sampled_from([None, None, 500.0])),
    )


def test_a_recipe_without_a_weighed_line_has_a_form(knowledge: Knowledge, reader: Reader) -> None:
    nothing = Recipe("Nothing yet", (Line("l1", "grain nobody knows", "", None),), "bean-salad", 4)
    same([nothing], knowledge, knowledge.pantry)
    same([nothing, *RECIPES[:2], nothing], knowledge, knowledge.pantry)
