"""Lines of several foods, slips of the pen, things made of a food, and what is not eaten."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.slips import PLAIN_WORDS, Slips, sound
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import appraise


def foods(text: str, reader: Reader) -> list[str | None]:
    return [reading.line.food for reading in reader.read_line(text)]


@pytest.mark.parametrize(
    ("text", "read"),
    [
        ("toasted pecans and dried cherries", ["pecans", "cherries-dried"]),
        ("cucumber, tomato and onion", ["cucumber", "tomato", "onion-yellow"]),
        ("lettuce, tomato, onion", ["green-leaf-lettuce", "tomato", "onion-yellow"]),
        ("arugula with shaved parmesan", ["arugula", "parmesan"]),
        ("red and green cabbage", ["cabbage-red", "cabbage-green"]),
        ("black and white sesame seeds", ["sesame-seeds-black", "sesame-seeds"]),
        ("some parsley and mint", ["parsley", "mint"]),
        ("salt and vinegar to taste", ["table-salt", "vinegar-white"]),
        ("1 cup half-and-half", ["half-and-half"]),
        ("2 tbsp vinegar, red wine", ["vinegar-red-wine"]),
        ("1 can tomatoes with basil", ["tomato-canned-diced"]),
        ("1 onion, half sliced and half chopped", ["onion-yellow"]),
        ("walnuts, toasted and chopped", ["walnuts"]),
        ("2 tbsp butter (or olive oil)", ["butter-salted"]),
    ],
)
def test_two_foods_are_two_lines_and_one_is_one(text: str, read: list[str], reader: Reader) -> None:
    assert foods(text, reader) == read


def test_a_measured_amount_is_shared_out_and_the_lines_say_so(reader: Reader) -> None:
    almonds, raisins = reader.read_line("1/4 cup toasted almonds and golden raisins")
    assert almonds.line.text == "about ⅛ cup toasted almonds (shared out of 1/4 cup)"
    assert raisins.line.food == "raisins-golden"
    assert max(almonds.line.confidence, raisins.line.confidence) <= 0.6
    again = reader.read_line(almonds.line.text)
    assert [(one.line.food, one.line.amount) for one in again] == [
        (almonds.line.food, almonds.line.amount)
    ]
    each = reader.read_line("1/4 cup each parsley and mint")
    assert [one.line.amount for one in each] == ["1/4 cup", "1/4 cup"]


@pytest.mark.parametrize(
    ("text", "amounts"),
    [
        ("2 tbsp olive oil and salt", ["2 tbsp", ""]),
        ("2 cups kale, lemon juice and salt", ["2 cups", "", ""]),
        ("1 lb green beans and garlic", ["1 lb", ""]),
        ("2 cups arugula with shaved parmesan", ["2 cups", ""]),
        ("1 cup yogurt plus lemon juice", ["1 cup", ""]),
        ("100 g feta and olives", ["100 g", ""]),
        ("2 tbsp olive and canola oil", ["about 1 tbsp", "about 1 tbsp"]),
        ("2 cups spinach and arugula, for serving", ["about 1 cup", "about 1 cup"]),
    ],
)
def test_an_amount_is_never_shared_with_what_is_used_by_the_pinch(
    text: str, amounts: list[str], reader: Reader
) -> None:
    assert [one.line.amount.lower() for one in reader.read_line(text)] == amounts


@pytest.mark.parametrize(
    ("text", "food"),
    [
        ("1 tsp slat", "table-salt"),
        ("1/4 cup dil", "dill"),
        ("1 cup yoghert", "yogurt-whole"),
        ("1 can chick pees", "chickpeas-canned-drained"),
        ("1/2 cup sour creem", "sour-cream"),
        ("2 Tblsp oliv oil", "olive-oil-refined"),
        ("1 lb brocoli", "broccoli-raw"),
        ("1 zuchini", "zucchini"),
    ],
)
def test_slips_of_the_pen_are_mended_and_never_surely(text: str, food: str, reader: Reader) -> None:
    reading = reader.read_line(text)[0]
    assert reading.line.food == food
    assert reading.line.confidence < 0.9


def test_plain_words_are_no_slips(reader: Reader) -> None:
    slips = Slips({"laver": 3, "salt": 9, "dill": 4, "olive": 20, "oliva": 1})
    assert [slips.meant(word) for word in ("later", "late", "slat", "sale", "dil", "oliv",
        "o2", "xy")] == [
        None, None, "salt", None, "dill", "olive", None, None,
    ]  # fmt: skip
    assert all(slips.meant(word) is None for word in PLAIN_WORDS)
    assert sound("yoghert") == sound("yogurt")


@pytest.mark.parametrize(
    "text", ["2 tbsp rice powder", "10 prawn crackers", "200 g rice flour", "30 g potato chips"]
)
def test_what_is_made_of_a_food_is_not_that_food(text: str, reader: Reader) -> None:
    reading = reader.read_line(text)[0]
    assert reading.line.food is None
    assert reading.problem is not None


@pytest.mark.parametrize(
    ("text", "low", "high"),
    [
        ("1 papaya (600 g), peeled, seeded", 320, 425),
        ("600 g papaya, peeled, seeded", 320, 425),
        ("2 mangoes (300 g flesh), peeled and diced", 290, 310),
        ("1 jar (280 g, 165 g drained) artichokes in oil, drained", 160, 170),
        ("2 cans (400 g, 250 g drained) chickpeas", 485, 515),
        ("2 tins chickpeas (600 g drained weight)", 585, 615),
        ("4 quarts water to boil the pasta", 0, 0),
        ("3 cups water to boil the lentils in", 0, 0),
        ("1 litre vegetable oil for deep-frying", 25, 140),
        ("just under 1 cup milk", 220, 270),
        ("3, about 1 kg, eggplants", 970, 1030),
        ("1 cup rice, cooked", 145, 190),
        ("200 g quinoa, cooked", 510, 610),
    ],
)
def test_what_reaches_the_bowl(text: str, low: float, high: float, reader: Reader) -> None:
    recipe = read_recipe(f"# Dish\nServes 4\n- 100 g chickpeas\n- {text}", reader).recipe
    grams = portions(recipe, reader.pantry, reader.preparations)[1].in_bowl
    assert low <= grams.low <= grams.value <= grams.high <= high


def test_what_is_no_food_is_no_line_and_an_address_is_told(reader: Reader) -> None:
    page = "# Dish\n- 2 zucchini\n- 8 wooden skewers\n- parchment paper\n- 1 string cheese"
    assert [line.text for line in read_recipe(page, reader).recipe.lines] == [
        "2 zucchini",
        "1 string cheese",
    ]
    for address in (
        "https://example.com/recipes/7",
        "www.example.com/x",
        "example.com/recipes/slaw",
    ):
        with pytest.raises(RecipeError, match="the address of a page"):
            read_recipe(address, reader)


@pytest.mark.parametrize(
    "text", ["300 g sea bass", "2 cod fillets", "300 g kingfish, for ceviche", "200 g raw tuna"]
)
def test_an_unknown_fish_is_a_fish(text: str, reader: Reader, knowledge: Knowledge) -> None:
    reading = read_recipe(f"# Dish\nServes 4\n- {text}", reader)
    now = appraise(reading.recipe, knowledge)
    assert "fish" in {mark.id for mark in now.allergens}
    assert "raw-fish" in {raised.caution.id for raised in now.cautions}
    assert ("tuna" in text) is (reading.readings[0].line.confidence > 0.6), (
        "figures of any fish are to be checked"
    )
