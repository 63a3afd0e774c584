"""Turns of phrase, kept oil, and what is added later: what hurried cooks write, and what the bowl
gets."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.bowl import Portion, portions
from fresh_ladle.core.amounts.kept_oil import SURE_OF_KEPT_OIL, kept_oil
from fresh_ladle.core.amounts.phrasing import rephrased
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.nutrients.totals import line_figures
from fresh_ladle.core.recipes.recipe import Recipe


def in_the_bowl(text: str, reader: Reader, knowledge: Knowledge) -> list[Portion]:
    lines = tuple(replace(r.line, id=f"l{n}") for n, r in enumerate(reader.read_line(text)))
    return list(
        portions(Recipe("t", lines, "grain-salad", 4), knowledge.pantry, knowledge.preparations)
    )


@pytest.mark.parametrize(
    ("said", "plain"),
    [
        ("a sprig or two of thyme", "1-2 sprig of thyme"),
        ("a good glug or so of oil", "1-1.5 good glug of oil"),
        ("salt n pepper", "salt and pepper"),
        ("S&P", "salt and pepper"),
        ("season with salt", "salt, to taste"),
        ("finished with chopped mint", "chopped mint, to finish"),
        ("enough water to loosen it", "water, to thin"),
        ("2/3 of a 340 g block firm tofu", "2/3 340 g block firm tofu"),
        ("equal parts honey and mustard, 1 tbsp each", "1 tbsp each honey and mustard"),
        ("mint and coriander, a handful of each", "a handful each mint and coriander"),
        ("3 T olive oil + another T at the end", "3 T olive oil plus 1 more T at the end"),
        ("2 cups day-old rice", "2 cups leftover rice"),
        ("80g quinoa cooked in 160 ml water", "80g quinoa, cooked in 160 ml water"),
        ("oil for frying the shallots", "oil, for frying the shallots"),
        ("1 lemon's juice", "juice of 1 lemon"),
        ("a wee splash of vinegar", "1 small splash of vinegar"),
        ("3 from a jar of roasted peppers", "3 roasted peppers, from a jar"),
        # and what is plain already stays as it is
        ("half a green bell pepper", "half a green bell pepper"),
        ("2 tbsp olive oil", "2 tbsp olive oil"),
        ("1 large red onion, sliced", "1 large red onion, sliced"),
        ("a small onion", "a small onion"),
        ("salt and sugar", "salt and sugar"),
        ("peppercorns, whole", "peppercorns, whole"),
    ],
)
def test_a_turn_of_phrase_is_put_plainly(said: str, plain: str) -> None:
    assert rephrased(said) == plain


@pytest.mark.parametrize(
    ("phrase", "oil"),
    [
        ("oil the shallots fried in", "garlic-infused oil"),
        ("oil from the artichoke jar", "vegetable oil"),
        ("oil from the sun-dried tomatoes", "olive oil"),
        ("olive oil from the anchovy tin", "olive oil"),
        ("oil off the top of the chile crisp", "chili oil"),
        ("garlic confit oil", "garlic-infused oil"),
        ("tuna oil", "olive oil"),
        ("olive oil", None),
        ("oil-packed tuna", None),
        ("oil, for frying", None),
        ("toasted sesame oil", None),
        ("artichokes in oil", None),
    ],
)
def test_oil_that_was_kept_is_oil_and_not_the_solids(phrase: str, oil: str | None) -> None:
    assert kept_oil(phrase) == oil


@pytest.mark.parametrize(
    "text",
    [
        "3 tbsp of the oil the onions fried in",
        "2 tbsp oil from the artichoke jar",
        "1 tbsp oil kept from the tuna",
    ],
)
def test_kept_oil_counts_as_oil_and_is_never_sure(
    text: str, reader: Reader, knowledge: Knowledge
) -> None:
    (oil,) = in_the_bowl(text, reader, knowledge)
    assert oil.food is not None
    assert oil.food.group == "fat-oil"
    assert oil.line.confidence <= SURE_OF_KEPT_OIL
    assert oil.food.per_100_g["sodium_mg"] == pytest.approx(0, abs=5)


@pytest.mark.parametrize(
    ("text", "foods", "low", "high"),
    [
        ("1 tbsp each of soy and rice vinegar", ["soy-sauce", "vinegar-rice"], 28, 36),
        ("garlic 2 cloves, ginger 1 inch", ["garlic", "ginger-fresh"], 8, 24),
        ("chilli flakes and oregano, 1/2 tsp each", ["chilli-flakes", "oregano-dried"], 0.8, 2.2),
        ("shallots: 3", ["shallot"], 60, 130),
        ("cucumber 1/2", ["cucumber"], 110, 210),
        ("onion - 1 small, finely chopped", ["onion-yellow"], 55, 115),
        ("2 ripe mangoes, about 350 g flesh", ["mango"], 335, 365),
        ("a can of corn plus half a can of peas, drained", ["corn-canned",
        "green-peas-canned-drained"], 300, 460),
        ("1 (4 oz) can green chiles", ["green-chiles-canned"], 100, 127),
        ("half a dozen cherry tomatoes", ["tomato-cherry"], 60, 130),
        ("a dozen walnut halves", ["walnuts"], 18, 34),
        ("6 walnuts", ["walnuts"], 18, 34),
        ("1 stick of butter", ["butter-salted"], 110, 116),
        ("a mug of frozen peas", ["green-peas-frozen"], 120, 240),
        ("a wedge of red cabbage", ["cabbage-red"], 80, 280),
        ("a 2-inch piece of daikon", ["daikon"], 60, 190),
        ("200 g glass noodles", ["glass-noodles-dry"], 195, 205),
        ("a fistful of curry leaves", ["curry-leaves"], 2, 14),
        ("1/2 cup fat free sour cream", ["sour-cream-fat-free"], 112, 132),
        ("2 tbsp tomato puree", ["tomato-paste-no-salt"], 28, 38),
        ("1 cup tomato puree", ["passata"], 220, 270),
        ("lots of mint leaves", ["mint"], 6, 60),
        ("salt (about 3/4 tsp)", ["table-salt"], 4, 5.2),
        ("2 oz (about 1/2 cup) crumbled feta", ["feta"], 55, 58),
        ("1 cup (about 5 oz) cherry tomatoes", ["tomato-cherry"], 138, 146),
        ("1 (1/2 cup) carton plain yogurt", ["yogurt-whole"], 115, 130),
        ("1/2 cup sprouted moong", ["sprouts-mung"], 35, 70),
        ("1 small can crushed pineapple", ["pineapple"], 150, 280),
        ("1 Persian cucumber", ["cucumber"], 60, 160),
        ("2 mini cucumbers", ["cucumber"], 120, 330),
        ("2 heads baby bok choy", ["bok-choy"], 150, 1000),
        ("100 g baby kale", ["kale-baby"], 98, 102),
        ("a grating of parmesan", ["parmesan"], 3, 18),
        ("1/4 cup mixed chopped herbs", ["parsley"], 10, 20),
        ("1 tsp of za'atar for the top", ["zaatar"], 1.5, 4),
        ("olive oil to cover the base of the pan", ["olive-oil-refined"], 5, 25),
        ("1 tsp cumin, 1 tsp paprika, 1/2 tsp turmeric", ["cumin", "paprika", "turmeric"], 5, 7),
        ("vinegar, a splash", ["vinegar-white"], 2, 10),
        ("parsley, chopped, a good bunch", ["parsley"], 45, 150),
        ("240ml/1 cup water", ["water"], 235, 245),
        ("salt & vinegar to taste", ["table-salt", "vinegar-white"], 0, 20),
        ("lemon", ["lemon-juice-fresh"], 8, 40),
        ("red onion x 1", ["onion-red"], 90, 160),
        ("2x eggs", ["egg-whole-raw"], 88, 114),
        ("eggs x 2, boiled", ["egg-hard-boiled"], 88, 114),
        ("2 eggs, boiled for 6 minutes", ["egg-whole-raw"], 88, 114),
        ("2 soft-boiled eggs", ["egg-whole-raw"], 88, 114),
        ("maybe 2 spoons of tahini", ["tahini"], 16, 45),
        ("a lemon's worth of juice", ["lemon-juice-fresh"], 25, 60),
        ("yolks of 2 eggs", ["egg-yolk-raw"], 28, 40),
        ("corn cut from 2 ears", ["corn-raw"], 130, 240),
        ("frozen peas, mugful, defrosted", ["green-peas-frozen"], 110, 240),
        ("juice 1/2 lemon plus a bit of zest", ["lemon-juice-fresh", "lemon-zest"], 12, 32),
        ("1 inch ginger + 4 garlic cloves, paste", ["ginger-fresh", "garlic"], 14, 42),
        ("1 tsp mustard seeds, popped in 1 tbsp oil", ["mustard-seed", "vegetable-oil"], 14, 20),
        ("1 stock cube dissolved in 300 ml hot water", ["stock-cube", "water"], 300, 317),
        ("3 tbsp white miso loosened with hot water", ["miso-white"], 48, 57),
        ("1/2 block feta (about 100 g)", ["feta"], 97, 103),
        ("1/2 block (200 g) firm tofu", ["tofu-firm"], 90, 105),
        ("1 (5 oz) can tuna in oil, undrained", ["tuna-canned-oil"], 130, 150),
        ("a few sultanas", ["raisins-golden"], 5, 30),
        ("freshly cracked pepper, lots", ["pepper-black"], 0.3, 4),
        ("1/2 tsp coriander", ["coriander-seed"], 0.7, 1.3),
        ("1 tsp coriander, chopped", ["cilantro"], 0.2, 1.5),
        ("200g puy lentils, ready cooked pouch", ["lentils-green-french-cooked"], 195, 205),
        ("300 g cooked egg noodles", ["egg-noodles-cooked"], 295, 305),
        ("2 balls mozzarella (125 g each), torn", ["mozzarella-fresh"], 245, 255),
        ("2 (150 g each) chicken breasts", ["chicken-breast-cooked"], 295, 305),
        ("2 onions (about 300 g)", ["onion-yellow"], 270, 330),
        ("1 (540 ml) can chickpeas, drained and rinsed", ["chickpeas-canned-rinsed"], 300, 380),
        ("2 T peanut butter, smooth, no salt", ["peanut-butter-unsalted"], 30, 35),
        ("2 T peanut butter, smooth", ["peanut-butter-salted"], 30, 35),
        ("scant 1/2 tsp salt", ["table-salt"], 2, 3),
        # a size, a name and a bit more are not a second amount
        ("1 onion, 2 inches thick", ["onion-yellow"], 85, 165),
        ("1 cup half and half", ["half-and-half"], 235, 250),
        ("2 tbsp lemon juice, a splash more to finish", ["lemon-juice-fresh"], 28, 40),
    ],
)  # fmt: skip
def test_what_cooks_say_reaches_the_bowl(
    text: str, foods: list[str], low: float, high: float, reader: Reader, knowledge: Knowledge
) -> None:
    found = in_the_bowl(text, reader, knowledge)
    assert [p.line.food for p in found] == foods
    assert low <= sum(p.counted.value for p in found) <= high


def test_a_guess_by_the_vessel_or_the_handful_is_never_surer_than_a_guess(reader: Reader) -> None:
    for text in (
        "a mug of frozen peas",
        "a ramekin of hummus",
        "a wedge of red cabbage",
        "lots of mint leaves",
    ):
        (reading,) = reader.read_line(text)
        assert reading.line.confidence <= 0.6, text


@pytest.mark.parametrize(
    ("text", "without", "at_least", "at_most"),
    [
        ("1 tbsp olive oil plus extra for drizzling", "1 tbsp olive oil", 4, 40),
        ("1/2 tsp salt, plus more to taste", "1/2 tsp salt", 0.2, 1.0),
        ("2 tbsp capers, plus a few for the top", "2 tbsp capers", 1, 30),
        ("100 ml canola oil, a bit more if it splits", "100 ml canola oil", 5, 30),
        ("2 tbsp lemon juice, more if needed", "2 tbsp lemon juice", 2, 10),
    ],
)
def test_what_is_added_later_is_counted_with_its_doubt(
    text: str, without: str, at_least: float, at_most: float, reader: Reader, knowledge: Knowledge
) -> None:
    (with_more,), (plain,) = (in_the_bowl(t, reader, knowledge) for t in (text, without))
    assert at_least <= with_more.counted.value - plain.counted.value <= at_most
    assert with_more.counted.high - with_more.counted.low > plain.counted.high - plain.counted.low
    assert "more" in with_more.route


def test_what_is_said_for_each_person_is_times_the_servings(
    reader: Reader, knowledge: Knowledge
) -> None:
    (each,), (one,) = (
        in_the_bowl(t, reader, knowledge) for t in ("60 g rocket per person", "60 g rocket")
    )
    assert each.counted.value == pytest.approx(4 * one.counted.value)
    assert "for each of 4 servings" in each.route


@pytest.mark.parametrize(
    ("dry", "cooked"),
    [("100 g dried udon", "290 g cooked udon"), ("100 g dried soba", "290 g cooked soba")],
)
def test_noodles_made_with_salt_leave_most_of_it_in_the_water(
    dry: str, cooked: str, reader: Reader, knowledge: Knowledge
) -> None:
    boiled, ready = (
        line_figures(in_the_bowl(text, reader, knowledge)[0])["sodium_mg"] or 0.0
        for text in (dry, cooked)
    )
    assert boiled == pytest.approx(ready, rel=0.1)


@pytest.mark.parametrize(
    ("text", "sure"),
    [
        ("50 g cheese", False),
        ("1 can beans", False),
        ("50 g cheddar", True),
        ("1 can black beans, drained", True),
    ],
)
def test_a_kind_left_open_is_never_sure(text: str, sure: bool, reader: Reader) -> None:
    line = reader.read_line(text)[0].line
    assert line.food is not None
    assert (line.confidence > 0.5) is sure
