"""Facts that teach: each fires where it must and nowhere else, with figures worked out another way
here."""

from __future__ import annotations

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.card.audience import Audience
from fresh_ladle.core.card.expression import BadExpression, NotKnown, holds, parsed, value_of
from fresh_ladle.core.card.facts import StandingFact, standing_facts
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.claims.words import marked_words
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

BOWLS = {
    "spinach": (
        "Bowl\nServes 2\n150 g spinach\n100 g chard\n30 g sunflower seeds\n10 g ground flax\n1 Tbsp"
        " walnut oil"
    ),
    "soy": (
        "Bowl\nServes 2\n300 g firm tofu\n150 g cooked quinoa\n150 g cooked lentils\n1 tsp garlic"
        " powder"
    ),
    "fruit": (
        "Bowl\nServes 2\n1 orange, in segments\n150 g strawberries\n100 g watermelon\n2 tomatoes\n1"
        " Tbsp honey"
    ),
    "beets": (
        "Bowl\nServes 2\n200 g cooked beets\n60 g feta\n8 kalamata olives\n40 g walnuts\n2 Tbsp"
        " lemon juice"
    ),
    "kale": (
        "Bowl\nServes 2\n120 g kale\n2 carrots\n1 red bell pepper\n2 Tbsp tahini\n1 clove garlic\n1"
        " apple"
    ),
    "beans": (
        "Bowl\nServes 2\n1 can (15 oz) black beans, drained\n1 mango\n1 avocado\n80 g red"
        " cabbage\n1 tsp salt"
    ),
    "starch": (
        "Bowl\nServes 2\n300 g boiled potatoes\n200 g cooked brown rice\n2 Tbsp sunflower oil\n1"
        " can white beans"
    ),
    "lentils": "Bowl\nServes 2\n200 g dry lentils\n1 cucumber\n1 Tbsp vinegar\n1 Tbsp sugar",
    "leaves": (
        "Bowl\nServes 2\n150 g romaine\n20 g parsley\nDressing:\n2 Tbsp olive oil\n1 Tbsp"
        " vinegar\n1/2 tsp salt"
    ),
    "sweet potato": "Bowl\nServes 2\n300 g baked sweet potato\n1 Tbsp lime juice",
    "plain": "Bowl\nServes 4\n200 g water\n1 tsp white vinegar",
}
MUST = {
    "spinach": "oxalate dark-green ala-warm seeds-against-oil",
    "soy": "soy-pattern powder-against-salt",
    "fruit": "whole-fruit-against-juice lycopene added-share",
    "beets": "beet-red sodium-brined",
    "kale": "iron-with-vitamin-c fat-with-carotenoids calcium-sesame",
    "beans": "beans-count rinsing",
    "starch": "starch-cold whole-grain grain-with-legume",
    "lentils": "iron-without-vitamin-c fiber-step",
    "leaves": "dressing-per-leaves dressing-share green",
    "sweet potato": "fat-short-for-carotenoids orange",
}
MUST_NOT = {
    "leaves": "oxalate lycopene",
    "kale": "iron-without-vitamin-c fat-short-for-carotenoids",
    "soy": "rinsing lycopene",
    "beets": "red",
}
USUAL = "Bowl\nServes 2\n1 cucumber\n1 Tbsp sugar\n2 tsp salt"


@pytest.fixture(scope="module")
def bowls(knowledge: Knowledge) -> dict[str, Appraisal]:
    return {name: dish(knowledge, text) for name, text in BOWLS.items()}


def dish(knowledge: Knowledge, text: str) -> Appraisal:
    return appraise(
        read_recipe(text, Reader(knowledge.pantry, knowledge.preparations)).recipe, knowledge
    )


def facts(
    found: Appraisal, knowledge: Knowledge, *audiences: Audience, usual: Appraisal | None = None
) -> dict[str, StandingFact]:
    standing = standing_facts(
        found, usual or found, knowledge.pantry, knowledge.handouts, audiences
    )
    return {fact.id: fact for fact in standing}


def test_each_fact_fires_somewhere_and_not_everywhere(
    bowls: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    usual = dish(knowledge, USUAL)
    fired = {name: set(facts(bowl, knowledge, usual=usual)) for name, bowl in bowls.items()}
    every = {fact.id for fact in knowledge.handouts.facts}
    assert every - set().union(*fired.values()) == set()
    assert set.intersection(*fired.values()) == set()
    assert fired["plain"] == set(), "water teaches nothing"
    for name, ids in MUST.items():
        assert set(ids.split()) <= fired[name], name
    for name, ids in MUST_NOT.items():
        assert not set(ids.split()) & fired[name], name


def test_figures_in_the_words_agree_with_the_dish(
    bowls: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    lentils = bowls["lentils"]
    fiber = lentils.totals.serving["fiber_g"].value
    said = facts(lentils, knowledge)["fiber-share"].says
    assert (
        said
        == f"A serving brings {fiber:.0f} g of fiber: {fiber / 28 * 100:.0f}% of the US Daily Value"
        " of 28 g."
    )
    beets = bowls["beets"]
    feta = next(p for p in beets.portions if p.food is not None and p.food.key == "feta")
    sodium = feta.counted.value / 100 * 1139 / 2
    assert f"{sodium:.0f} come with 30 g of cheese" in facts(beets, knowledge)["sodium-cheese"].says
    leaves = facts(bowls["leaves"], knowledge)["dressing-per-leaves"].says
    assert "75 g of leaves" in leaves
    kale = facts(bowls["kale"], knowledge)["seed-against-oil"].says
    tahini = knowledge.pantry["tahini"].per_100_g["energy_kcal"] or 0.0
    energy = (
        next(p for p in bowls["kale"].portions if p.line.named == "tahini").counted.value
        / 200
        * tahini
    )
    assert (
        f"{energy / 8.84:.0f} g, and neither" in kale
        or f"{energy / 8.84:.1f} g, and neither" in kale
    )


def test_no_fact_stands_on_what_is_not_known_or_where_it_is_unwelcome(knowledge: Knowledge) -> None:
    lost = dish(knowledge, BOWLS["kale"] + "\n2 tbsp zorblax")
    assert facts(lost, knowledge) == {}
    beans = dish(knowledge, BOWLS["beans"])
    assert "potassium-share" in facts(beans, knowledge)
    assert "potassium-share" not in facts(beans, knowledge, Audience.KIDNEY)
    greens = dish(knowledge, BOWLS["spinach"])
    assert "vitamin-k-with-fat" in facts(greens, knowledge)
    assert "vitamin-k-with-fat" not in facts(greens, knowledge, Audience.BLOOD_THINNER)
    assert not {"fiber-step", "acid-and-salt"} & set(facts(beans, knowledge)), (
        "without a usual recipe nothing is more"
    )


def test_our_own_facts_pass_the_reader_of_words(
    bowls: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    usual = dish(knowledge, USUAL)
    for bowl in bowls.values():
        for fact in facts(bowl, knowledge, usual=usual).values():
            assert "{" not in fact.says
            # A fact names what it is about; it claims no amount by a turn of words, and no help.
            marks = [
                m.words for m in marked_words(fact.says, knowledge.handouts) if m.rule != "amount"
            ]
            assert marks == [], (fact.says, marks)


@pytest.mark.parametrize(
    "text",
    [
        "fiber_g >",
        "__import__('os')",
        "fiber_g.real",
        "[1]",
        "lambda: 1",
        "f'{1}'",
        "1 if 2 else 3",
    ],
)
def test_an_expression_is_only_arithmetic(text: str) -> None:
    with pytest.raises((BadExpression, KeyError)):
        value_of(parsed(text), {}, {})


def test_arithmetic() -> None:
    names = {"a": lambda: 6.0, "b": lambda: 2.0}
    functions = {"of": lambda *x: float(len(x))}
    assert value_of(parsed("-a + b * of('x', 'y') / 4 - 1"), names, functions) == -6
    assert holds(parsed("a > b and (b >= 2 or a < 0)"), names, functions)
    assert not holds(parsed("a < b or b <= 1"), names, functions)
    with pytest.raises(NotKnown):
        value_of(parsed("a / (b - b)"), names, functions)
    with pytest.raises(BadExpression):
        holds(parsed("a"), names, functions)
