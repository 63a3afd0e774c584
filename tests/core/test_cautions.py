"""Cautions and allergens show where they apply, and only there."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from statistics import median

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.caution import Tier
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.cautions import load_cautions
from fresh_ladle.data.tables import toml_of
from tests.conftest import Kitchen


def raised_by(text: str, reader: Reader, knowledge: Knowledge) -> set[str]:
    reading = read_recipe("Test\nServes 4\n" + text, reader)
    assert all(r.understood for r in reading.readings), [r.problem for r in reading.readings]
    return {c.caution.id for c in appraise(reading.recipe, knowledge).cautions}


OIL = "1 cup olive oil\n"
BEANS = "1 can white beans\n2 cloves garlic\n"
CASES = [
    ("garlic-in-oil", OIL + "3 cloves garlic", OIL + "1 tsp garlic powder"),
    ("garlic-in-oil", OIL + "1 cup basil leaves",
    OIL + "2 cloves garlic\n1/2 cup red wine vinegar"),
    ("garlic-in-oil", OIL + "2 heads garlic, roasted",
    OIL + "2 cloves garlic\n2 egg yolks, raw\n1 Tbsp lemon juice"),
    ("garlic-in-oil", OIL + "3 red chiles, sliced",
    "1/4 cup olive oil\n2 cloves garlic\n1 cup buttermilk"),
    ("garlic-in-oil", OIL + "1 small onion, chopped",
    "3 Tbsp olive oil\n1 clove garlic\n1 head romaine lettuce"),
    ("garlic-in-oil", "1 pear\n## Oil\n1/2 cup olive oil\n4 cloves garlic",
    "1 pear\n1 Tbsp olive oil\n1 clove garlic"),
    ("infused-or-home-dried", "1/2 cup home-infused rosemary oil", "1/2 cup olive oil"),
    ("infused-or-home-dried", "1/4 cup home-dried tomatoes", "1/4 cup sun-dried tomatoes"),
    ("gift-jars", "1 cup walnut oil\nMethod\nTie a ribbon: a gift.",
    "1 cup walnut oil\nMethod\nStir."),
    ("gift-jars", "1 cup honey\nMethod\nPour into sealed jars.",
    "1 jar capers\nMethod\nShake in a jar."),
    ("raw-egg", "2 raw egg yolks", "2 hard-boiled eggs"),
    ("raw-egg", "1/2 cup homemade mayonnaise", "1/2 cup mayonnaise"),
    ("raw-egg", "1/2 cup home-made mayo", "2 pasteurized eggs"),
    ("raw-egg", "1 egg, beaten", "1 egg, hard-boiled"),
    ("raw-egg", "2 soft-boiled eggs", "2 eggs, boiled"),
    ("raw-fish", "200 g raw salmon, diced", "200 g salmon, poached"),
    ("raw-fish", "200 g sashimi-grade salmon", "1 can salmon, drained"),
    ("kidney-bean-boil", "200 g dry red kidney beans, boiled", "1 can kidney beans, drained"),
    ("kidney-bean-boil", "2 cups cooked kidney beans", "2 cups cooked chickpeas"),
    ("cool-grain-and-legumes", "1 cup dry quinoa, boiled", "1 can chickpeas, drained"),
    ("cool-grain-and-legumes", "2 lb new potatoes, boiled", "2 slices white bread"),
    ("cool-grain-and-legumes", "2 cups cooked rice",
    "2 cups cooked rice\nMethod\nCool the rice in an ice bath."),
    ("hot-blender", "2 lb carrots\nMethod\nBlend while hot.",
    "2 lb carrots\nMethod\nLet cool 10 minutes. Blend."),
    ("sharp-blades", "1 bulb fennel\nMethod\nMandoline it.",
    "1 bulb fennel\nMethod\nMandoline, with the guard."),
    ("raw-sprouts", "2 cups alfalfa sprouts", "2 cups romaine lettuce"),
    ("raw-sprouts", "1 cup bean sprouts, lightly steamed", "1 cup mung bean sprouts, boiled"),
    ("raw-sprouts", "1 cup dry mung beans, sprouted", "2 cups Brussels sprouts, shaved"),
    ("raw-sprouts", "1 cup sprouted lentils", "1 cup cooked lentils"),
    ("unpasteurized", "3 oz blue cheese", "3 oz cheddar"),
    ("unpasteurized", "3 oz raw-milk cheddar", "3 oz parmesan"),
    ("raw-juice", "1 cup unpasteurized apple juice", "1 cup apple juice"),
    ("smoked-fish", "6 oz smoked trout", "6 oz canned tuna in water, drained"),
    ("honey-infant", "1 Tbsp honey", "1 Tbsp maple syrup"),
    ("choking-nuts", "1 cup almonds", "1/2 cup tahini"),
    ("choking-nuts", "1 cup cashews", "1 cup walnuts, finely chopped"),
    ("choking-nuts", "1 cup pecans, toasted",
    "1 cup walnuts\nMethod\nPulse the walnuts to coarse meal."),
    ("choking-round", "1 cup cherry tomatoes", "1 cup tomato paste"),
    ("choking-round", "1 cup grapes", "1 cup grapes, quartered"),
    ("choking-round", "1/2 cup kalamata olives", "1/2 cup kalamata olives, sliced"),
    ("potassium-salt", "1 tsp salt substitute\n1 cup water", "1 tsp salt\n1 cup water"),
    ("grapefruit", "1/2 cup grapefruit juice", "1/2 cup orange juice"),
    ("fava-g6pd", "1 cup cooked fava beans", "1 cup cooked lima beans"),
    ("lupin-and-peanut", "1 cup cooked lupin beans", "1 cup cooked chickpeas"),
    ("nut-pairs", "1 cup cashews", "1 cup almonds"),
    ("alcohol", "1/2 cup white wine", "1/2 cup white wine vinegar"),
    ("alcohol", "1/4 cup mirin", "1/4 tsp vanilla extract\n1 cup yogurt"),
    ("kombu-iodine", "5 g kombu", "2 sheets nori"),
    ("vitamin-k", "1 bunch kale", "1 cucumber"),
    ("vitamin-k", "4 cups spinach", "1 Tbsp chopped parsley\n2 cucumbers"),
    ("potassium-high", "4 avocados", "1 cucumber"),
    ("phosphorus-high", "2 cups pumpkin seeds", "1/4 cup pumpkin seeds"),
    ("oxalate", "4 cups spinach", "4 cups romaine lettuce"),
    ("oxalate", "1 lb beets, roasted", "1 tsp sesame seeds\n1 cucumber"),
    ("tyramine", "1/4 cup soy sauce", "2 tsp soy sauce"),
    ("purine", "5 oz canned sardines", "1 tin anchovies"),
    ("high-fodmap", "2 onions, sliced", "1 clove garlic\n1 cucumber"),
    ("sugar-alcohols", "1/2 cup erythritol", "1 Tbsp erythritol"),
    ("xylitol-dogs", "1 Tbsp xylitol", "1 Tbsp sugar"),
    ("keep-cold", "1 cup plain yogurt", "1 cup olive oil"),
    ("keep-cold", "2 tomatoes, diced", "1/2 cup walnuts\n1/4 cup honey"),
    ("keep-cold", "1/2 melon, cubed",
    "1/4 cup red wine vinegar\n1 Tbsp Dijon mustard\n1 cup olive oil"),
    ("keep-cold", "1 head romaine lettuce", "2 cups tortilla chips"),
    ("keep-cold", "2 zucchini, grilled", "1/2 cup raisins"),
    ("wash-greens", "1 head romaine lettuce", "1 bag baby spinach, ready to eat"),
    ("wash-greens", "1 bunch kale", "1 bunch kale\nMethod\nWash the kale leaves and dry them."),
    ("fiber-jump", "4 cups cooked lentils", "1 cucumber"),
    ("very-low-fat", "4 carrots", "4 carrots\n1/2 cup olive oil"),
    ("sodium-high", "2 tsp salt\n1 cup water", "1/4 tsp salt\n1 cup water"),
    ("poultry-heat", "500 g raw chicken breasts\nMethod\nPoach the chicken 15 minutes.",
    "2 cups cooked chicken"),
    ("poultry-heat", "1 lb ground turkey\nMethod\nFry the turkey.", "1 lb ground turkey, cooked"),
    ("ground-meat-heat", "200 g ground beef\nMethod\nFry the beef.",
    "200 g ground walnuts\nMethod\nFry the walnuts."),
    ("standing-warm", "1 cup yogurt\nMethod\nLeave on the counter for 4 hours.",
     "1 cup yogurt\nMethod\nLeave in the fridge for 4 hours."),
    ("standing-warm", "1 cup yogurt\nMethod\nStir it. Leave at room temperature until needed.",
     "1 cup yogurt\nMethod\nLet it stand 30 minutes."),
    ("standing-warm", "1 cup dry rice\nMethod\nBoil the rice. Leave it in the pot overnight until cold.",
     "1 cup dry rice\nMethod\nBoil the rice. Leave it in a cold place overnight."),
    ("standing-warm", "2 tomatoes\nMethod\nDice. It keeps for three days on the counter.",
     "2 cups vinegar\nMethod\nIt keeps for three days on the counter."),
    ("meat-heat", "400 g beef steak\nMethod\nFry the steak.",
    "400 g beef steak, cooked and sliced"),
    ("rare-meat", "400 g steak\nMethod\nSear it so that it stays rare.",
    "400 g steak\nMethod\nRoast to 63 °C."),
    ("molluscs-heat", "1 kg mussels\nMethod\nSteam until they open.", "100 g oyster mushrooms"),
    ("foil-baked", "4 potatoes\nMethod\nBake them in foil. Keep for tomorrow.",
     "4 potatoes\nMethod\nBake them in foil. Unwrap and chill."),
    ("ferment-salt", "1 kg cabbage\n20 g salt\nMethod\nFerment it for a week.", "1 cup sauerkraut"),
    ("bitter-almonds", "6 bitter almonds", "1 cup almonds"),
    ("raw-elderberry", "100 g elderberries",
    "100 g elderberries\nMethod\nBoil the elderberries 10 minutes."),
    ("frozen-berries", "1 cup frozen raspberries",
    "1 cup frozen raspberries\nMethod\nBoil the raspberries."),
    ("deli-meat", "150 g ham, diced", "150 g ham\nMethod\nFry the ham."),
    ("cassava-raw", "500 g cassava", "500 g cassava\nMethod\nBoil the cassava 30 minutes."),
    ("bamboo-raw", "300 g fresh bamboo shoots", "1 can bamboo shoots, drained"),
    ("rhubarb-leaves", "300 g rhubarb with its leaves", "300 g rhubarb, leaves removed"),
    ("green-potatoes", "500 g green potatoes", "500 g potatoes\n2 green onions"),
    ("bitter-squash", "2 bitter zucchini", "2 zucchini"),
    ("raw-shiitake", "200 g fresh shiitake mushrooms",
    "200 g fresh shiitake\nMethod\nRoast them 15 minutes."),
    ("histamine-fish", "300 g tuna steak", "1 can tuna in water, drained"),
    ("mercury-fish", "300 g tuna steak", "1 can salmon, drained"),
    ("frozen-vegetables", "2 cups frozen peas\nMethod\nThaw the peas.",
    "2 cups frozen peas\nMethod\nBlanch the peas."),
    ("raw-flour", "1 cup flour\nMethod\nStir.",
    "1 cup flour\nMethod\nToast the flour in a dry pan."),
    ("liver-vitamin-a", "300 g chicken livers", "300 g chicken breast, cooked"),
    ("choking-hard", "4 carrots\nMethod\nServe to children.",
    "4 carrots, grated\nMethod\nServe to children."),
    ("garlic-in-oil", BEANS + "1/2 cup olive oil\nMethod\nCover the garlic with the oil and cook 45 min.",
     BEANS + "2 Tbsp olive oil\nMethod\nSoften the garlic in the oil. Blend with the beans."),
    ("garlic-in-oil", BEANS + "1/2 cup olive oil\nMethod\nPurée. Keep under a film of oil.",
     BEANS + "1 Tbsp olive oil\nMethod\nPurée the beans and garlic. Top with the beans and a little oil."),
    ("cool-grain-and-legumes", "1 cup dry farro\nMethod\nSoak, then boil 25 minutes.",
     "1 cup bulgur\nMethod\nSoak in cold water."),
    ("raw-sprouts", "1 cup lentils\nMethod\nSoak and sprout for 3 days.",
     "1 cup lentils\nMethod\nSoak and boil 20 minutes."),
    ("alcohol", "1/2 cup white wine\nMethod\nStir.",
    "1/2 cup white wine\nMethod\nBoil down to a syrup."),
    ("raw-fish", "200 g shrimp\nMethod\nMarinate in lime 30 minutes.",
     "200 g shrimp\nMethod\nBoil 3 minutes and chill."),
]  # fmt: skip


@pytest.mark.parametrize(
    ("caution", "with_it", "without"), CASES, ids=[f"{n}-{c[0]}" for n, c in enumerate(CASES)]
)
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


def demo_appraisals(reader: Reader, knowledge: Knowledge) -> list[Appraisal]:
    demo = toml_of("demo.toml")
    return [
        appraise(read_recipe(row["text"], reader, kind=row["kind"]).recipe, knowledge)
        for row in demo["recipe"]
    ]


def test_a_usual_dish_is_not_buried_under_cautions(reader: Reader, knowledge: Knowledge) -> None:
    cautions = [now.cautions for now in demo_appraisals(reader, knowledge)]
    assert median(len(found) for found in cautions) <= 4
    assert not any(c.caution.id == "garlic-in-oil" for found in cautions for c in found)


def test_what_can_hurt_today_comes_first_and_nothing_comes_twice(
    reader: Reader, knowledge: Knowledge
) -> None:
    tiers = list(Tier)
    for now in demo_appraisals(reader, knowledge):
        order = [tiers.index(c.caution.tier) for c in now.cautions]
        assert order == sorted(order)
        assert len({c.caution.text for c in now.cautions}) == len(now.cautions)


def test_a_caution_names_the_foods_that_raised_it_and_none_when_the_whole_dish_did(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = "Test\nServes 1\n2 cups cooked fava beans\n1 tsp salt\n1 cucumber"
    now = {
        c.caution.id: c.foods
        for c in appraise(read_recipe(text, reader).recipe, knowledge).cautions
    }
    assert now["fava-g6pd"] == (knowledge.pantry["fava-beans-cooked"].kitchen_name,)
    assert now["sodium-high"] == ()


def test_allergens_name_the_nut_and_where_it_comes_from(
    reader: Reader, knowledge: Knowledge
) -> None:
    reading = read_recipe(
        "Test\n1 cup walnuts\n2 Tbsp tahini\n1 tsp Dijon mustard\n1 Tbsp soy sauce", reader
    )
    found = appraise(reading.recipe, knowledge).allergens
    names = [a.name for a in found]
    assert names[:4] == ["sesame", "soybean", "walnut (tree nut)", "wheat"]
    assert "mustard" in names
    assert not next(a for a in found if a.id == "mustard").us
    assert next(a for a in found if a.id == "sesame").foods == ("Tahini, unsalted",)


def test_allergens_of_a_row_of_the_table_are_not_known_rather_than_none(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    row = next(
        f
        for f in knowledge.pantry
        if not f.in_pantry and f.name.lower().startswith("peanut butter")
    )
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
                option = knowledge.pantry[key].traits
                assert option.allergens == food.traits.allergens, (food.key, key)
                assert option.may_contain == food.traits.may_contain, (food.key, key)


def _dishes(name: str) -> list[tuple[str, str, str, dict[str, list[str]]]]:
    """Title, lines and method of each dish, and what is said of it."""
    text = (Path(__file__).parent.parent / "cautions" / f"{name}.txt").read_text(encoding="utf-8")
    found = []
    for block in text.split("\n=== ")[1:]:
        head, method, said = block.split("\n--\n")
        title, lines = head.split("\n", 1)
        rows = (row.partition(": ") for row in said.strip().splitlines())
        found.append((title, lines, method, {kind: ids.split("; ") for kind, _, ids in rows}))
    return found


NINETY = [*_dishes("sixty"), *_dishes("thirty")]


@pytest.mark.parametrize(
    ("title", "lines", "method", "said"), NINETY, ids=[one[0] for one in NINETY]
)
def test_of_ninety_dishes_half_raise_what_they_must_and_half_do_not(
    title: str,
    lines: str,
    method: str,
    said: dict[str, list[str]],
    reader: Reader,
    knowledge: Knowledge,
) -> None:
    recipe = read_recipe(f"{title}\nServes 4\n{lines}\n", reader).recipe
    found = {
        c.caution.id
        for c in appraise(replace(recipe, method=tuple(method.splitlines())), knowledge).cautions
    }
    known = {c.id for c in load_cautions()}
    assert {one for ids in said.values() for one in ids} <= known
    assert set(said.get("must", ())) <= found
    assert not set(said.get("not", ())) & found
