"""Reading ingredient lines: the food, the grams with their range, the preparation, and what is not
understood."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.line import separate_foods
from fresh_ladle.core.amounts.names import NameIndex
from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.weigh import weigh
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.whole.appraisal import appraise


def grams_of(text: str, reader: Reader, knowledge: Knowledge, region: Region = Region.US) -> float:
    (reading,) = reader.read_line(text, region=region)
    assert reading.understood, reading.problem
    recipe = Recipe("one line", (reading.line,), "vinaigrette", 1, region=region)
    return portions(recipe, knowledge.pantry, knowledge.preparations)[0].measured.value


@pytest.mark.parametrize(
    ("text", "value", "low", "high"),
    [
        ("1 1/2 cups", 1.5, 1.5, 1.5),
        ("1-1/2 cups", 1.5, 1.5, 1.5),
        ("1/4-1/2 cup", 0.375, 0.25, 0.5),
        ("3 to 4 cloves", 3.5, 3, 4),
        ("one and a half cups", 1.5, 1.5, 1.5),
        ("half a lemon", 0.5, 0.5, 0.5),
        ("two-thirds cup", 2 / 3, 2 / 3, 2 / 3),
        ("a couple of carrots", 2, 2, 3),
        ("1,5 dl", 1.5, 1.5, 1.5),
        ("1,000 g", 1000, 1000, 1000),
        ("two or three limes", 2.5, 2, 3),
    ],
)
def test_quantities(text: str, value: float, low: float, high: float) -> None:
    quantity, _ = read_quantity(text)
    assert quantity is not None
    assert (quantity.count.value, quantity.count.low, quantity.count.high) == pytest.approx(
        (value, low, high)
    )


def test_plain_line_drops_markup_bullets_and_unicode() -> None:
    assert plain_line("<li>• 1½&nbsp;cups – plain yoghurt</li>") == "1 1/2 cups - plain yoghurt"
    assert plain_line("2. 3 eggs") == "3 eggs"
    assert plain_line("1.5 cups milk") == "1.5 cups milk"
    assert [plain_line(dash + "2 tbsp oil") for dash in ("-", "–", "−", "- ", "+")] == [
        "2 tbsp oil"
    ] * 5
    assert plain_line("−½ cup oil") == "1/2 cup oil"


def test_a_dash_before_an_amount_typed_alone_is_a_minus() -> None:
    with pytest.raises(BadQuantity, match="cannot be negative"):
        parse_amount("-2 tbsp")


_PIECES = st.sampled_from(
    [
        *(
            "-",
            "–",
            "•",
            "1/0",
            "½",
            "0",
            "9" * 400,
            "1e9",
            "²",
            "cup",
            "tbsp",
            "(",
            ")",
            ",",
            ":",
            "## ",
            "Serves",
        ),
        *(
            "for the",
            "each",
            "plus",
            "juice of",
            "to taste",
            "or",
            "olive oil",
            "beans",
            "Method",
            "Chill",
            "\n",
            "\n\n",
        ),
        *(
            "\x0b",
            "\u2028",
            "\ufffe",
            "[",
            "{",
            "<p>",
            "&nbsp;",
            "\t",
            "#",
            "|",
            "100 %",
            "1-1/2",
            "a can",
            "dressing:",
        ),
    ]
)


@given(text=st.one_of(st.text(max_size=300), st.lists(_PIECES, max_size=40).map(" ".join)))
@settings(max_examples=250)
def test_any_text_is_read_or_refused_in_words(
    text: str, reader: Reader, knowledge: Knowledge
) -> None:
    with suppress(Refused):
        reading = read_recipe(text, reader)
        assert len(appraise(reading.recipe, knowledge).portions) == len(reading.readings) > 0


@pytest.mark.parametrize("first", ["-2 tbsp olive oil", "–2 tbsp olive oil", "−½ cup olive oil"])
def test_a_list_may_begin_with_a_dash_at_its_first_amount(first: str, reader: Reader) -> None:
    reading = read_recipe(f"{first}\n-1 can chickpeas", reader)
    assert [r.line.food for r in reading.readings] == [
        "olive-oil-refined",
        "chickpeas-canned-drained",
    ]
    assert all(r.understood for r in reading.readings)


def test_a_first_line_that_cannot_be_an_amount_is_a_line_not_understood(reader: Reader) -> None:
    reading = read_recipe("1/0 cup oil\n1 can chickpeas", reader)
    assert reading.readings[0].problem == "1/0 divides by zero"
    assert reading.readings[1].understood


@pytest.mark.parametrize(
    ("text", "food", "grams"),
    [
        ("2 Tbsp extra-virgin olive oil", "olive-oil-extra-virgin", 27.2),
        ("1/3 cup tahini", "tahini", 80.0),
        ("1 (15 oz) can chickpeas, drained and rinsed", "chickpeas-canned-rinsed", 253.0),
        ("1 (15 oz / 425 g) can chickpeas", "chickpeas-canned-drained", 253.0),
        ("2 x 400 g tins chickpeas, drained", "chickpeas-canned-drained", 480.0),
        ("1 can no-salt-added black beans", "black-beans-canned-no-salt", None),
        ("250 g silken tofu", "tofu-silken-soft", 250.0),
        ("juice of 2 limes", "lime-juice-fresh", 56.0),
        ("2 lemons, juiced", "lemon-juice-fresh", 94.0),
        ("zest of 1 lemon", "lemon-zest", None),
        ("2 cups (60 g) baby spinach", "spinach-raw", 60.0),
        ("3 garlic cloves, minced", "garlic", 10.5),
        ("1 cup plus 2 Tbsp low-fat buttermilk", "buttermilk-low-fat", 244 * 1.125),
        ("olive oil 2 tbsp", "olive-oil-refined", 27.2),
        ("1 tsp sesame oil", "sesame-oil-toasted", 4.5),
        ("1 cup plain yoghurt", "yogurt-whole", None),
        ("2 tbsp soured cream", "sour-cream", None),
        ("1 courgette", "zucchini", None),
        ("1 tsp garlic powder", "garlic-powder", 3.1),
        ("1 tsp garlic salt", "garlic-salt", 5.2),
        ("2 tbsp tahinni", "tahini", 30.0),
        ("1/2 cup rocket leaves", "arugula", None),
        ("1 jar (12 oz) roasted red peppers, drained", "roasted-red-pepper-jar", None),
        ("6 oz smoked trout, flaked", "trout-smoked", 170.1),
        ("1/4 cup roasted unsalted peanuts, chopped", "peanuts-roasted-unsalted", 35.0),
        ("2 cups cooked broccoli", "broccoli-cooked", None),
        ("1 (14.5 oz) can diced tomatoes, no salt added", "tomato-canned-diced-no-salt", None),
    ],
)
def test_food_and_grams(
    text: str, food: str, grams: float | None, reader: Reader, knowledge: Knowledge
) -> None:
    (reading,) = reader.read_line(text)
    assert reading.line.food == food
    if grams is not None:
        assert grams_of(text, reader, knowledge) == pytest.approx(grams, rel=0.02)


def test_two_foods_on_a_line_become_two_lines(reader: Reader) -> None:
    assert separate_foods("salt and freshly ground black pepper, to taste") == [
        "salt, to taste",
        "freshly ground black pepper, to taste",
    ]
    both = reader.read_line("juice and zest of 2 lemons")
    assert [r.line.food for r in both] == ["lemon-juice-fresh", "lemon-zest"]
    spices = reader.read_line("1 tsp each cumin and smoked paprika")
    assert [(r.line.amount, r.line.food) for r in spices] == [
        ("1 tsp", "cumin"),
        ("1 tsp", "paprika-smoked"),
    ]


def test_remarks_are_kept_apart_from_the_food(reader: Reader) -> None:
    (parsley,) = reader.read_line("a handful of parsley or dill, chopped, plus more to garnish")
    assert parsley.line.food == "parsley"
    assert parsley.line.variation == "dill"
    assert parsley.line.asides == {Aside.PLUS_MORE}
    (salt,) = reader.read_line("salt to taste")
    assert salt.understood
    assert salt.line.asides == {Aside.TO_TASTE}
    assert salt.line.confidence < 0.7


def test_grain_without_a_word_of_cooking_is_dry_and_boiled(reader: Reader) -> None:
    (dry,) = reader.read_line("1 cup quinoa, rinsed")
    assert (dry.line.food, dry.line.preparations) == ("quinoa-dry", ("boil",))
    (cooked,) = reader.read_line("2 cups cooked quinoa")
    assert cooked.line.food == "quinoa-cooked"


def test_regions_tell_cups_apart(reader: Reader, knowledge: Knowledge) -> None:
    us, metric, british = (grams_of("1 cup water", reader, knowledge, region) for region in Region)
    assert us < metric < british
    assert metric / us == pytest.approx(250 / 236.588, rel=1e-4)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("2 cups", "no food"),
        ("1/0 cup milk", "divides by zero"),
        ("3 bunches garlic powder", "not measured by the bunch"),
        ("1 cup unobtainium flakes", "no food is known"),
        ("90000 cups sugar", "more than a kitchen batch"),
        ("2 tablespoons " + "very " * 100 + "long", "characters"),
        ("chicken breast", "how much"),
    ],
)
def test_a_line_that_is_not_understood_says_why(text: str, says: str, reader: Reader) -> None:
    (reading,) = reader.read_line(text)
    assert not reading.understood
    assert says in (reading.problem or "")


def test_a_wrong_line_offers_the_nearest_foods(reader: Reader) -> None:
    (reading,) = reader.read_line("2 tbsp pomegranate molasse glaze")
    assert reading.understood or reading.alternatives


def test_a_food_can_be_chosen_by_hand(reader: Reader) -> None:
    reading = reader.read_as("2 tbsp that green stuff, chopped", "parsley")
    assert reading.understood
    assert reading.line.food == "parsley"
    assert reading.line.confidence > 0.9


@pytest.mark.parametrize("text", ["", "lots", "2 frobs", "tbsp of"])
def test_an_amount_typed_alone_must_be_one(text: str) -> None:
    if text == "tbsp of":
        assert parse_amount(text).unit == "tbsp"
        return
    with pytest.raises(BadQuantity):
        parse_amount(text)


@pytest.mark.parametrize(
    ("text", "food"),
    [
        ("1 cup freekeh, simmered in 3 cups stock", "freekeh-dry"),
        ("300 g macaroni, boiled", "pasta-white-dry"),
        ("3/4 cup red lentils, cooked down to a mush", "lentils-red-dry"),
        ("1/2 cup chana dal, soaked", "chana-dal-dry"),
        ("1 1/2 cups cooked wild rice", "rice-wild-cooked"),
        ("200 g boiled macaroni", "pasta-white-cooked"),
        ("2 cups leftover farro", "farro-cooked"),
    ],
)
def test_what_follows_was_done_to_the_amount_and_what_precedes_before_it(
    text: str, food: str, reader: Reader
) -> None:
    line = reader.read_line(text)[0].line
    assert line.food == food
    assert "boil" in line.preparations or not food.endswith("-dry")


@pytest.mark.parametrize(
    ("text", "read"),
    [
        (
            "2 tbsp soy sauce + 1 tsp sesame oil",
            {"soy-sauce": "2 tbsp", "sesame-oil-toasted": "1 tsp"},
        ),
        (
            "a clove of garlic and a thumb of ginger",
            {"garlic": "a clove", "ginger-fresh": "a thumb"},
        ),
        (
            "zest of a lemon and a pinch of sugar",
            {"lemon-zest": "zest of a", "sugar-white": "a pinch"},
        ),
        (
            "juice of 1 lemon and 1 lime",
            {"lemon-juice-fresh": "juice of 1", "lime-juice-fresh": "juice of 1"},
        ),
        ("200 g feta and 1 red onion", {"feta": "200 g", "onion-red": "1"}),
        ("1 cup stock and 1 onion", {"vegetable-stock": "1 cup", "onion-yellow": "1"}),
        ("200 g feta and 2 olives", {"feta": "200 g", "olives-green": "2"}),
        (
            "1 tsp salt and a few grinds of pepper",
            {"table-salt": "1 tsp", "pepper-black": "a few grinds"},
        ),
        ("1 onion, half sliced and half chopped", {"onion-yellow": "1"}),
        (
            "1 (15 oz) can chickpeas, rinsed and drained",
            {"chickpeas-canned-rinsed": "1 (15 oz) can"},
        ),
        ("2 limes, one juiced and one in wedges", {"lime-juice-fresh": "juice of 2"}),
        ("1/2 cup half and half", {"half-and-half": "1/2 cup"}),
        ("2 cups plus 1 tbsp chickpea flour", {"chickpea-flour": "2 cups plus 1 tbsp"}),
        ("1/4 cup pumpkin or melon seeds", {"pumpkin-seeds": "1/4 cup"}),
        ("2 tbsp canola or olive oil", {"canola-oil": "2 tbsp"}),
    ],
)
def test_two_foods_in_a_line_are_two_and_one_is_one(
    text: str, read: dict[str, str], reader: Reader
) -> None:
    assert {r.line.food: r.line.amount for r in reader.read_line(text)} == read


@pytest.mark.parametrize(
    ("text", "low", "value", "high"),
    [
        ("3 Tbsp walnut oil, plus a few more spoons at the end", 66, 81.6, 102),
        ("2 tbsp lemon juice and 1 more to finish", 43, 45.7, 48),
        ("1 tbsp canola oil plus 1 tsp more for the pan", 16, 18.1, 20),
        ("1 tbsp canola oil", 12.5, 13.6, 14.3),
    ],
)
def test_what_comes_later_counts(
    text: str, low: float, value: float, high: float, reader: Reader
) -> None:
    (reading,) = reader.read_line(text)
    assert reading.problem is None
    food = reader.pantry[reading.line.food or ""]
    grams = weigh(parse_amount(reading.line.amount), food).grams
    assert grams.value == pytest.approx(value, rel=0.02)
    assert grams.low <= low * 1.05
    assert grams.high >= high * 0.95


@pytest.mark.parametrize(
    ("text", "food"),
    [
        ("3 tbsp homemade mayo", "mayonnaise-homemade"),
        ("3 tbsp home-made mayonnaise", "mayonnaise-homemade"),
        ("3 tbsp mayonnaise", "mayonnaise"),
        ("2 tbsp vegan mayo", "mayonnaise-egg-free"),
        ("1 egg, hard-boiled", "egg-hard-boiled"),
        ("1 egg", "egg-whole-raw"),
        ("1 cup romanesco florets", "cauliflower-raw"),
        ("250 g curd", "yogurt-whole"),
        ("250 g bean curd", "tofu-firm"),
        ("4 heirloom tomatoes", "tomato"),
        ("1 tbsp caramelised onions", "onion-caramelised"),
        ("2 banana peppers, sliced", "pepperoncini"),
        ("1 banana", "banana"),
    ],
)
def test_names_that_used_to_mislead(text: str, food: str, reader: Reader) -> None:
    assert reader.read_line(text)[0].line.food == food


def test_every_name_of_the_stores_reads_back_to_its_own_food(
    reader: Reader, knowledge: Knowledge
) -> None:
    for food in knowledge.pantry.stocked:
        for name in (food.name, *food.aliases):
            read = [r.line.food for r in reader.read_line(f"100 g of {name}")]
            assert read == [food.key], name


TURNED_ROUND_OTHERWISE = {
    "chana, ankurit",
    "orange, juice of blood",
    "seed, Poppy",
    "peppers, banana",
    "greens, pea",
}


def test_a_name_reads_back_with_its_kind_after_a_comma_too(
    reader: Reader, knowledge: Knowledge
) -> None:
    for food in knowledge.pantry.stocked:
        for name in (n for n in food.aliases if "," not in n and "(" not in n and " " in n):
            kind, _, head = name.rpartition(" ")
            turned = f"{head}, {kind}"
            # What follows the food and was done to it is no kind of it: "carrots, cooked" were
            # measured raw.
            if turned in TURNED_ROUND_OTHERWISE or knowledge.preparations.words & set(
                kind.lower().split()
            ):
                continue
            assert [r.line.food for r in reader.read_line(f"100 g {turned}")] == [food.key], turned


@pytest.mark.parametrize(
    ("text", "food"),
    [
        ("1 Tbsp vinegar, red wine", "vinegar-red-wine"),
        ("6 oz salmon, raw", "salmon-raw"),
        ("1 egg, hard-boiled", "egg-hard-boiled"),
        ("1 cup milk, 2%", "milk-reduced-fat"),
        ("1 cup low-fat milk", "milk-low-fat"),
        ("2 Tbsp reduced-salt soy sauce", "soy-sauce-reduced-sodium"),
        ("1/2 cup homemade salsa", "salsa-fresh-unsalted"),
        ("1/4 cup almonds, salted", "almonds-roasted-salted"),
        ("2 carrots, cooked", "carrot"),
        ("1 cup bulgur, cooked", "bulgur-cooked"),
        ("1 cup cooked bulgur", "bulgur-cooked"),
        ("200 g mayonnaise, homemade", "mayonnaise-homemade"),
        ("2 onions, spring", "scallion"),
    ],
)
def test_the_kind_of_a_food_may_stand_on_either_side(text: str, food: str, reader: Reader) -> None:
    assert [r.line.food for r in reader.read_line(text)] == [food]


def test_between_two_of_one_name_the_food_with_measures_and_taste_comes_first(
    knowledge: Knowledge,
) -> None:
    stocked = knowledge.pantry["feta"]
    row = replace(stocked, key="table-feta", taste=None, measures=())
    for order in ((stocked, row), (row, stocked)):
        found = NameIndex(order).candidates("feta")
        assert [c.food.key for c in found] == ["feta", "table-feta"]
        assert found[0].score > found[1].score


@pytest.mark.parametrize(
    ("line", "named"),
    [
        ("a big handfull of parsly, chopped", "parsley"),
        ("2 carotts, grated", "carrots"),
        ("1 tbsp Tahinni", "Tahini"),
        ("1/2 cup yoghurt", "yoghurt"),
        ("4 courgettes", "courgettes"),
        ("2 tbsp crème fraîche", "crème fraîche"),
    ],
)
def test_a_slip_of_the_pen_is_mended_in_the_name_and_a_word_of_another_kitchen_is_not(
    line: str, named: str, reader: Reader
) -> None:
    (reading,) = reader.read_line(line)
    assert reading.line.named == named
    assert reading.line.text == line, "as it was written stays"
