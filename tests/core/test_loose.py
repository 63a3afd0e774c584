"""Amounts nobody measured become ranges: by the word, by the class of food, by the size of the
word, by the dish."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.amounts.loose import MAX_CONFIDENCE
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.whole.questions import questions, watched_figures
from tests.conftest import Kitchen

BOWL = {"cucumber": "400 g", "chickpeas-cooked": "100 g"}


def poured(text: str, reader: Reader, kitchen: Kitchen, servings: float = 4) -> Portion:
    """The line in a bowl that holds 500 g beside it."""
    line = replace(reader.read_line(text)[0].line, id="loose")
    recipe = kitchen.recipe(BOWL, "grain-salad", servings)
    return kitchen.work_out(replace(recipe, lines=(*recipe.lines, line))).portion("loose")


@pytest.mark.parametrize(
    ("text", "food", "grams", "low", "high"),
    [
        ("a glug of canola oil", "canola-oil", 14, 8, 25),
        ("a good glug of canola oil", "canola-oil", 21, 12, 35),
        ("a generous pour of canola oil", "canola-oil", 27, 14, 45),
        ("a little pepper", "pepper-black", 0.2, 0.08, 0.5),
        ("a little canola oil", "canola-oil", 7, 3, 14),
        ("a bit of canola oil", "canola-oil", 7, 3, 14),
        ("some crumbled feta", "feta", 45, 20, 90),
        ("a squirt of sriracha", "sriracha-style-sauce", 4, 2, 8),
        ("a good sprinkling of sumac", "sumac", 1, 0.5, 2.2),
        ("canola oil, to coat", "canola-oil", 20, 10, 35),
        ("canola oil for the pan", "canola-oil", 9, 4, 16),
        ("canola oil to finish", "canola-oil", 16, 8, 32),
        ("canola oil as needed", "canola-oil", 25, 5, 60),
        ("canola oil", "canola-oil", 32, 16, 64),
        ("red wine vinegar", "vinegar-red-wine", 16, 8, 32),
        ("garlic", "garlic", 10, 2.5, 30),
        ("garlic, for the top", "garlic", 16, 6, 36),
        ("toasted sesame seeds", "sesame-seeds-hulled", 16, 6, 52),
    ],
)
def test_a_loose_word_is_a_range_by_class_of_food(
    text: str, food: str, grams: float, low: float, high: float, reader: Reader, kitchen: Kitchen
) -> None:
    found = poured(text, reader, kitchen)
    assert found.line.food == food
    assert (found.measured.value, found.measured.low, found.measured.high) == pytest.approx(
        (grams, low, high)
    )
    assert found.estimated, "shown as a guess"
    assert found.line.confidence <= MAX_CONFIDENCE


@pytest.mark.parametrize(
    ("text", "grams"),
    [
        ("salt to taste", 1.75),
        ("tamari to taste", 10),
        ("soy sauce to taste", 10),
        ("dijon mustard to taste", 10),
        ("capers to taste", 10),
    ],
)
def test_only_salt_itself_is_added_as_salt_is(
    text: str, grams: float, reader: Reader, kitchen: Kitchen
) -> None:
    """0.35 g of salt in 100 g of a salad, 2 g of what is merely salty."""
    assert poured(text, reader, kitchen).measured.value == pytest.approx(grams)


def test_what_is_counted_by_the_serving_follows_the_servings(
    reader: Reader, kitchen: Kitchen
) -> None:
    few, many = (poured("canola oil to finish", reader, kitchen, servings) for servings in (2, 8))
    assert many.measured.value == pytest.approx(4 * few.measured.value)


@pytest.mark.parametrize(
    ("text", "food"),
    [
        ("2 Tbsp canola oil", "canola-oil"),
        ("some 200 g feta", "feta"),
        ("a little handful of parsley", "parsley"),
        ("a handful of parsley", "parsley"),
        ("2 little gem lettuces", "romaine"),
    ],
)
def test_what_is_measured_is_no_guess(
    text: str, food: str, reader: Reader, kitchen: Kitchen
) -> None:
    found = poured(text, reader, kitchen)
    assert found.known
    assert not found.estimated
    assert found.line.amount not in ("a little", "some")


def test_a_good_handful_is_more_than_a_handful_and_a_scant_one_less(
    reader: Reader, kitchen: Kitchen
) -> None:
    weights = [
        poured(f"{words} handful of parsley", reader, kitchen).measured.value
        for words in ("a small", "a scant", "a", "a good")
    ]
    assert weights == sorted(weights)
    assert len(set(weights)) == 4


def test_what_has_no_usual_amount_is_asked_for(reader: Reader) -> None:
    reading = reader.read_line("chicken breast")[0]
    assert reading.problem is not None
    assert reading.problem.startswith("how much chicken breast")


def test_a_guess_that_matters_is_asked_about(reader: Reader, kitchen: Kitchen) -> None:
    line = replace(reader.read_line("some crumbled feta")[0].line, id="loose")
    recipe = kitchen.recipe(BOWL, "grain-salad", 4)
    now = kitchen.work_out(replace(recipe, lines=(*recipe.lines, line)))
    asked = questions(
        now.portions,
        now.totals,
        watched_figures(now.totals, "sodium_mg"),
        kitchen.knowledge.pantry,
        kitchen.knowledge.ambiguities,
    )
    assert asked[0].line_id == "loose"
    assert asked[0].about == "amount"


@pytest.mark.parametrize(
    ("text", "of_a_teaspoon"),
    [
        ("9 drops of chilli oil", 9 / 90),
        ("1 dash of chilli oil", 1 / 8),
        ("1 pinch of brown sugar", 1 / 16),
        ("1 dollop of chickpea flour", 4.5),
    ],
)
def test_small_amounts_are_parts_of_a_teaspoon(
    text: str, of_a_teaspoon: float, reader: Reader, kitchen: Kitchen
) -> None:
    found = poured(text, reader, kitchen)
    assert found.food is not None
    spoon = found.food.measure("tsp")
    assert spoon is not None
    assert found.measured.value == pytest.approx(of_a_teaspoon * spoon.grams, rel=0.01)
    assert found.measured.low < found.measured.value < found.measured.high
