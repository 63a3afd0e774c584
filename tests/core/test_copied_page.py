"""The recipe in the text of a whole page: its title, yield, lines and steps, and nothing of what
stands around it."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.page.recipe_text import read_recipe

PAGES = tomllib.loads(
    (Path(__file__).parent.parent / "recipes" / "copied_pages.toml").read_text("utf-8")
)["page"]


@pytest.mark.parametrize("page", PAGES, ids=lambda page: page["title"])
def test_the_recipe_is_found_in_a_copied_page(page: dict[str, Any], reader: Reader) -> None:
    reading = read_recipe(page["text"], reader)
    recipe = reading.recipe
    assert recipe.title.lower() == page["title"].lower()
    assert [r.problem for r in reading.readings if r.problem] == []
    assert (len(recipe.lines), len(recipe.method)) == (page["lines"], page["steps"])
    assert reading.servings_given is ("servings" in page)
    assert not reading.servings_given or recipe.servings == page["servings"]
    assert reading.left_out


def test_nothing_is_left_out_of_a_recipe_as_cooks_write_it(reader: Reader) -> None:
    plain = (
        "Bean dip\nServes 4\n2 cups white beans\n2 tbsp tahini\nMethod\nMash, share among four and"
        " serve."
    )
    assert read_recipe(plain, reader).left_out == ()
    above = "Bean dip\n2 cups white beans\n1 tbsp oil\nIngredients\nsalt to taste"
    assert len(read_recipe(above, reader).recipe.lines) == 3, (
        "amounts above the word are ingredients too"
    )


@pytest.mark.parametrize(
    "title",
    [
        "Homemade ranch dressing",
        "Cooked beetroot salad",
        "Chilled pea dip",
        "Savory walnut spread",
        "Timeless",
    ],
)
def test_a_title_may_begin_like_what_pages_say(title: str, reader: Reader) -> None:
    text = (
        f"Home\nRecipes\n{title}\nPrep: 5 min\nTotal time 20 mins\nIngredients\n2 cups peas\n1 tbsp"
        " olive oil"
    )
    reading = read_recipe(text, reader)
    assert reading.recipe.title == title
    assert reading.left_out == ("Home", "Recipes", "Prep: 5 min", "Total time 20 mins")


def test_sentences_at_the_end_are_the_method_though_no_word_says_so(reader: Reader) -> None:
    food = "Egg filling\n6 hard boiled eggs\n1/2 cup mayo\npaprika on top\n"
    reading = read_recipe(
        f"{food}Chop the eggs. Mix everything. Chill.\nServe it cold with bread.", reader
    )
    assert reading.recipe.method == (
        "Chop the eggs. Mix everything. Chill.",
        "Serve it cold with bread.",
    )
    assert [r.line.food for r in reading.readings] == ["egg-hard-boiled", "mayonnaise", "paprika"]
    assert reading.kind_guessed


@pytest.mark.parametrize(
    "text",
    [
        "Bean dip\n2 cups white beans\nchopped parsley.\n1 tbsp oil.",
        "Bean dip\n2 cups white beans\nmixed herbs from the garden, chopped.",
        "Bean dip\n2 cups white beans\nServes 6 as a side dish.",
    ],
)
def test_lines_that_list_food_are_no_method(text: str, reader: Reader) -> None:
    reading = read_recipe(text, reader)
    assert reading.recipe.method == ()
    assert not reading.kind_guessed, "its title says dip"


@pytest.mark.parametrize(
    ("title", "guessed"),
    [
        ("Smoky chickpea spread", False),
        ("House dressing", False),
        ("Winter slaw", False),
        ("Egg salad", True),
    ],
)
def test_a_kind_that_the_title_tells_is_no_guess(title: str, guessed: bool, reader: Reader) -> None:
    assert read_recipe(f"{title}\n2 eggs, boiled\n1 tbsp mayo", reader).kind_guessed is guessed
