"""A card: figures as labels round them, what changed against the usual recipe, cautions for its
reader, variations."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.card.audience import MOST_CAUTIONS, Audience, card_cautions
from fresh_ladle.core.card.content import Card, CardChoices, as_values, card_of
from fresh_ladle.core.card.figures import against_usual, card_figures, per_100_g_words
from fresh_ladle.core.card.variations import chosen_variations, variations
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.nutrients.labels import eu_label, us_label
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.swaps.apply import applied_swap
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.formats.card_sheet import FORMS, card_pdf
from fresh_ladle.formats.dish_picture import Layer, card_picture, dish_picture
from tests.service.demo import demo_recipes

DIP = """Sesame bean dip
Serves 8
1 can (15 oz) white beans, drained
1/3 cup tahini
3 Tbsp lemon juice
3/4 tsp salt
2 Tbsp parsley, to garnish

Method
Blend the beans with the tahini, lemon and salt.
"""


def dish(knowledge: Knowledge, text: str = DIP) -> Appraisal:
    return appraise(
        read_recipe(text, Reader(knowledge.pantry, knowledge.preparations)).recipe, knowledge
    )


@pytest.fixture(scope="module")
def dishes(knowledge: Knowledge) -> list[Appraisal]:
    return [appraise(recipe, knowledge) for recipe in demo_recipes(knowledge)]


def card(
    found: Appraisal, knowledge: Knowledge, usual: Appraisal | None = None, **chosen: object
) -> Card:
    return card_of(found, usual or found, CardChoices(**chosen), knowledge)  # type: ignore[arg-type]


def test_figures_are_those_of_the_serving_rounded_by_the_rules(dishes: list[Appraisal]) -> None:
    for found in dishes:
        for us, eu, nutrient in zip(
            card_figures(found, Regime.US), card_figures(found, Regime.EU), HEADLINE, strict=True
        ):
            value = found.totals.serving[nutrient].value
            assert us.value == us_label(nutrient, value)
            assert eu.value == eu_label(nutrient, value)
        sodium = found.totals.serving["sodium_mg"].value
        assert card_figures(found, Regime.US)[1].share == f"{sodium / 23:.0f}% of a day"
        assert card_figures(found, Regime.EU)[1].name == "Salt"
        assert per_100_g_words(found, Regime.EU).startswith("In 100 g: ")
        assert " kJ, " in per_100_g_words(found, Regime.EU)


def test_a_range_is_said_where_it_is_wide_and_not_where_it_is_narrow(knowledge: Knowledge) -> None:
    handful = dish(knowledge, "Salad\nServes 2\n200 g romaine\na handful of feta")
    exact = dish(knowledge, "Salad\nServes 2\n200 g cucumber\n2 g salt")
    assert card_figures(handful, Regime.US)[1].spread.startswith("could be ")
    assert card_figures(exact, Regime.US)[1].spread == ""
    lost = dish(knowledge, "Salad\nServes 2\n200 g cucumber\n2 tbsp zorblax")
    assert card_figures(lost, Regime.US)[1].value.startswith("at least")
    assert card_figures(lost, Regime.US)[1].share == ""


def test_what_could_not_be_weighed_leaves_a_hundred_grams_unknown(knowledge: Knowledge) -> None:
    whole = card(dish(knowledge, "Dip\nServes 4\n1 cup tahini\n1 tsp salt"), knowledge)
    part = card(dish(knowledge, "Dip\nServes 4\n1 cup tahini\n1 tsp salt\n30 g wumpus"), knowledge)
    assert (whole.serving, part.serving) == ("62 g, about 4 Tbsp", "at least 62 g, about 4 Tbsp")
    assert whole.per_100_g.startswith("In 100 g: ")
    assert part.per_100_g == ""


def test_one_honest_line_against_the_usual_recipe(knowledge: Knowledge) -> None:
    usual = dish(knowledge)
    less = dish(knowledge, DIP.replace("3/4 tsp salt", "1/4 tsp salt"))
    said = against_usual(less, usual, Regime.US)
    now, before = (a.totals.serving["sodium_mg"].value for a in (less, usual))
    assert (
        said == f"{(1 - now / before) * 100:.0f}% less sodium than our usual recipe:"
        f" {us_label('sodium_mg', now)} against {us_label('sodium_mg', before)} mg a serving."
    )
    assert against_usual(usual, usual, Regime.US) == ""
    assert against_usual(usual, less, Regime.US) == "", "more salt is nothing to praise"
    halves = appraise(replace(less.recipe, servings=16), knowledge)
    assert against_usual(halves, usual, Regime.US).endswith("in 100 g."), (
        "smaller servings are no reduction"
    )
    assert (
        against_usual(appraise(replace(usual.recipe, servings=16), knowledge), usual, Regime.US)
        == ""
    )
    lost = dish(knowledge, DIP.replace("3/4 tsp salt", "1 tsp zorblax"))
    assert "sodium" not in against_usual(lost, usual, Regime.US), (
        "nothing is less of what is not known"
    )


def test_cautions_are_for_their_reader_and_few(knowledge: Knowledge) -> None:
    text = (
        "Bowl\nServes 2\n150 g spinach\n60 g smoked trout\n1 tbsp honey\n30 g whole almonds\n200 g"
        " cooked lentils"
    )
    raised = dish(knowledge, text).cautions
    ids = {c.caution.id for c in raised}
    assert {"smoked-fish", "honey-infant", "vitamin-k", "choking-nuts"} <= ids
    for audience, first in (
        (Audience.SMALL_CHILDREN, {"honey-infant", "choking-nuts"}),
        (Audience.PREGNANCY, {"smoked-fish"}),
        (Audience.BLOOD_THINNER, {"vitamin-k"}),
    ):
        shown, rest = card_cautions(raised, {audience})
        assert first <= {c.caution.id for c in shown[: len(first)]}
        assert len(shown) <= MOST_CAUTIONS
        assert {c.caution.id for c in (*shown, *rest)} <= ids
    assert "vitamin-k" not in {c.caution.id for c in card_cautions(raised, {Audience.PREGNANCY})[0]}


def test_no_card_speaks_to_the_cook_or_to_the_editor(
    dishes: list[Appraisal], knowledge: Knowledge
) -> None:
    for found in dishes:
        for audience in Audience:
            made = card(found, knowledge, audiences=frozenset({audience}))
            assert len(set(made.cautions)) == len(made.cautions)
            shown, _ = card_cautions(found.cautions, {audience})
            assert all(c.caution.on_card and c.caution.who != "the cook" for c in shown)


def test_variations_agree_with_the_swap_drawer(
    dishes: list[Appraisal], knowledge: Knowledge
) -> None:
    seen = 0
    for found in dishes:
        for variation in variations(found, found, knowledge):
            made = variation.effect
            again = applied_swap(found, made.line.id, made.swap, knowledge, found)
            assert made.effect.change == again.effect.change
            assert made.share == 1.0
            assert made.line.food != "water"
            left = {line.food for line in made.effect.after.recipe.lines}
            assert variation.without.split()[-1].lower() not in variation.instead.lower()
            assert (
                made.line.food not in left
                or sum(x.food == made.line.food for x in found.recipe.lines) > 1
            )
            seen += 1
    assert seen > 15


def test_a_variation_says_what_goes_and_what_comes(knowledge: Knowledge) -> None:
    offered = variations(dish(knowledge), dish(knowledge), knowledge)
    tahini = next(v for v in offered if v.without == "tahini")
    assert "contains no sesame" in tahini.words
    assert tahini.words.startswith("No tahini? ")
    assert [v.key for v in chosen_variations(offered, None)] == [v.key for v in offered[:2]]
    assert chosen_variations(offered, ()) == []
    assert chosen_variations(offered, (tahini.key, "l9|gone")) == [tahini]


def test_steps_name_what_changed_and_what_no_step_brings_in(knowledge: Knowledge) -> None:
    usual = dish(knowledge)
    more = dish(knowledge, DIP.replace("3/4 tsp salt", "3/4 tsp salt\n1 tsp cumin"))
    made = card(more, knowledge, usual)
    assert made.steps[-1].text == "Stir in cumin."
    assert made.kept_back == "Keep back for the top: parsley."
    gone = appraise(
        replace(usual.recipe, lines=usual.recipe.lines[:1] + usual.recipe.lines[2:]), knowledge
    )
    assert card(gone, knowledge, usual).steps[0].note == "no tahini in this version"
    silent = dish(knowledge, "Dip\nServes 4\n1 can chickpeas\n2 tbsp zorblax\n\nMethod\nBlend.")
    assert [step.text for step in card(silent, knowledge).steps] == ["Blend."]
    assert [line.name for line in card(silent, knowledge).parts[0][1]] == ["chickpeas", "zorblax"]
    assert card(usual, knowledge).serve.startswith("It thickens as it stands")
    salad = dish(knowledge, "Salad\nServes 2\n200 g romaine\n1 tbsp oil")
    assert card(salad, knowledge).serve == ""


def test_what_does_not_freeze_is_said_as_a_sentence(knowledge: Knowledge) -> None:
    oil = dish(knowledge, "Vinaigrette\nServes 4\n1/4 cup olive oil\n1 Tbsp vinegar\n1/4 tsp salt")
    assert "It does not freeze well: the oil clouds and it breaks." in card(oil, knowledge).keeps
    assert "Frozen: 2 to 3 months" in card(dish(knowledge), knowledge).keeps


def test_the_picture_has_the_area_of_the_grams() -> None:
    layers = [
        Layer("beans", 300, "#111111"),
        Layer("oil", 100, "#222222"),
        Layer("salt", 2, "#333333"),
    ]
    for poured in (True, False):
        drawn = dish_picture(layers, poured, 'A "dip" & more')
        assert drawn.count('fill="#111111"') == drawn.count('fill="#222222"') == 1
        assert drawn.count('fill="#333333"') == 5, "what there is little of is strewn"
        assert drawn.index("#222222") < drawn.index("#111111"), (
            "the largest lies lowest, drawn over the rest"
        )
        assert "&quot;dip&quot; &amp; more" in drawn
    assert dish_picture([], False, "Nothing")


def test_the_same_card_has_the_same_bytes(dishes: list[Appraisal], knowledge: Knowledge) -> None:
    made = card(dishes[0], knowledge, note='<b>#strong[x]</b> & \\ "q"')
    sheet = {**as_values(made), "picture": card_picture(made, knowledge.handouts)}
    assert card_pdf([sheet], FORMS[0]) == card_pdf([sheet], FORMS[0])


@pytest.mark.parametrize(
    ("larger", "per"), [(1.04, "a serving."), (1.06, "in 100 g."), (0.96, "a serving.")]
)
def test_servings_within_a_twentieth_of_each_other_are_compared_as_servings(
    larger: float, per: str, knowledge: Knowledge
) -> None:
    usual = dish(knowledge)
    less = dish(knowledge, DIP.replace("3/4 tsp salt", "1/4 tsp salt"))
    sized = replace(less.recipe, serving_grams=usual.totals.serving_grams * larger)
    assert against_usual(appraise(sized, knowledge), usual, Regime.US).endswith(per)
