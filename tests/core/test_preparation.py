"""Preparation: each changes what it should, once."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.foods import load_pantry
from fresh_ladle.data.preparations import load_preparations
from tests.conftest import Kitchen


def worked(text: str, reader: Reader, knowledge: Knowledge) -> Appraisal:
    readings = reader.read_line(text)
    assert all(r.understood for r in readings), [r.problem for r in readings]
    lines = tuple(replace(r.line, id=f"l{n}") for n, r in enumerate(readings))
    return appraise(Recipe("one", lines, "bean-salad", 1), knowledge)


def sodium(text: str, reader: Reader, knowledge: Knowledge) -> float:
    return worked(text, reader, knowledge).totals.batch["sodium_mg"].value


def test_rinsing_canned_beans_takes_about_eight_percent_and_only_once(
    reader: Reader, knowledge: Knowledge
) -> None:
    drained = sodium("1 (15 oz) can chickpeas, drained", reader, knowledge)
    rinsed = sodium("1 (15 oz) can chickpeas, drained and rinsed", reader, knowledge)
    assert rinsed / drained == pytest.approx(0.92, abs=0.01)
    portion = worked("1 (15 oz) can chickpeas, drained and rinsed", reader, knowledge).portions[0]
    assert portion.factors == {}, "the row is already rinsed"


def test_every_rinsed_row_follows_the_rule_for_rinsing(
    pantry: Pantry, knowledge: Knowledge
) -> None:
    """What rinsing does to sodium is said once, in preparations.csv; change it there and this test
    fails alone."""
    rinsed = [food for food in pantry.stocked if food.form == "canned-rinsed"]
    assert len(rinsed) >= 12
    for food in rinsed:
        drained = pantry.form_of(food, "canned-drained")
        assert drained is not None, food.key
        factors = knowledge.preparations.bearing("rinse", drained).factors
        assert factors == {"sodium_mg": 0.92, "potassium_mg": 0.92}
        for nutrient, factor in factors.items():
            assert food.per_100_g[nutrient] == pytest.approx(
                (drained.per_100_g[nutrient] or 0) * factor
            )


def test_boiling_adds_water_and_no_nutrient(reader: Reader, knowledge: Knowledge) -> None:
    portion = worked("100 g dry quinoa, boiled", reader, knowledge).portions[0]
    assert portion.counted.value == pytest.approx(100)
    assert portion.in_bowl.value == pytest.approx(280)


def test_dry_and_cooked_grain_agree_within_their_ranges(
    reader: Reader, knowledge: Knowledge
) -> None:
    dry = worked("100 g dry quinoa, boiled", reader, knowledge).totals.batch["energy_kcal"]
    cooked = worked("280 g cooked quinoa", reader, knowledge).totals.batch["energy_kcal"]
    assert dry.low <= cooked.value <= dry.high or cooked.low <= dry.value <= cooked.high


def test_ribs_come_off_a_bunch_but_not_off_chopped_leaves(
    reader: Reader, knowledge: Knowledge
) -> None:
    whole = worked("1 bunch kale", reader, knowledge).portions[0].in_bowl.value
    trimmed = worked("1 bunch kale, ribs removed", reader, knowledge).portions[0].in_bowl.value
    assert trimmed / whole == pytest.approx(0.72, abs=0.01)
    cups = worked("4 cups chopped kale, stems removed", reader, knowledge).portions[0]
    assert cups.in_bowl.value == cups.measured.value


def test_roasting_drives_off_water_only(reader: Reader, knowledge: Knowledge) -> None:
    raw = worked("500 g carrots", reader, knowledge)
    roasted = worked("500 g carrots, roasted", reader, knowledge)
    assert roasted.portions[0].in_bowl.value == pytest.approx(350)
    assert roasted.totals.batch["fiber_g"].value == pytest.approx(raw.totals.batch["fiber_g"].value)
    assert roasted.totals.batch["vitamin_c_mg"].value < raw.totals.batch["vitamin_c_mg"].value


def test_every_preparation_has_a_source_and_keeps_its_range(knowledge: Knowledge) -> None:
    for food in knowledge.pantry.stocked:
        for preparation_id in knowledge.preparations.labels:
            bearing = knowledge.preparations.bearing(preparation_id, food)
            assert bearing.weight.low <= bearing.weight.value <= bearing.weight.high
            assert all(0 <= factor <= 1 for factor in bearing.factors.values())


READY_MADE = [
    ("garlic", "roast", "garlic-roasted"),
    ("bell-pepper-red", "roast", "roasted-red-pepper-home"),
    ("carrot", "steam", "carrot-cooked"),
    ("zucchini", "steam", "zucchini-cooked"),
    ("spinach-raw", "steam", "spinach-cooked"),
    ("almonds-raw", "toast", "almonds-roasted-unsalted"),
    ("lentils-brown-dry", "boil", "lentils-brown-cooked"),
    ("capers", "rinse", "capers-rinsed"),
]


@pytest.mark.parametrize(("raw", "done", "ready"), READY_MADE)
def test_what_is_prepared_here_tastes_as_what_is_bought_ready(
    raw: str, done: str, ready: str, kitchen: Kitchen
) -> None:
    recipe = kitchen.recipe({raw: "100 g", "water": "200 g"}, "slaw")
    prepared = kitchen.work_out(recipe.with_line(replace(recipe.line("l1"), preparations=(done,))))
    grams = prepared.portion("l1").in_bowl.value
    bought = kitchen.appraise({ready: f"{grams} g", "water": "200 g"}, "slaw")
    for axis in ("sour", "sweet", "bitter", "hot", "aroma"):
        assert prepared.flavor[axis].value == pytest.approx(
            bought.flavor[axis].value, rel=0.02, abs=0.02
        ), axis


@pytest.mark.parametrize(
    ("food", "done", "axis", "less"),
    [
        ("shallot", "roast", "hot", True),
        ("onion-red", "caramelize", "hot", True),
        ("leek", "steam", "hot", True),
        ("cumin", "toast", "aroma", False),
        ("sesame-seeds-hulled", "toast", "aroma", False),
        ("kale-raw", "massage", "bitter", True),
        ("arugula", "blanch", "bitter", True),
        ("feta", "soak-brined", "sour", True),
        ("radish", "pickle", "sour", False),
        ("tomato", "roast", "aroma", False),
    ],
)
def test_preparation_moves_the_taste_where_no_ready_made_form_tells(
    food: str, done: str, axis: str, less: bool, kitchen: Kitchen
) -> None:
    recipe = kitchen.recipe({food: "100 g", "water": "300 g"}, "slaw")
    raw = kitchen.work_out(recipe)
    after = kitchen.work_out(recipe.with_line(replace(recipe.line("l1"), preparations=(done,))))

    def per_gram(now: Appraisal) -> float:
        return now.flavor[axis].by_line["l1"] * now.totals.batch_grams.value

    assert (
        (per_gram(after) < 0.9 * per_gram(raw)) if less else (per_gram(after) > 1.1 * per_gram(raw))
    )


def test_cutting_and_what_a_row_already_has_change_no_taste(kitchen: Kitchen) -> None:
    for food, done in (
        ("parmesan", "cut"),
        ("garlic-roasted", "roast"),
        ("chickpeas-canned-rinsed", "rinse"),
    ):
        recipe = kitchen.recipe({food: "100 g"}, "slaw")
        now = kitchen.work_out(recipe.with_line(replace(recipe.line("l1"), preparations=(done,))))
        assert now.portion("l1").taste is None, food
        assert now.flavor == kitchen.work_out(recipe).flavor


def test_water_that_leaves_makes_what_stays_stronger() -> None:
    table = load_preparations()
    tomato = load_pantry()["tomato"]
    assert tomato.taste is not None
    roasted = table.taste_after(tomato, [table.bearing("roast", tomato)], {})
    assert roasted is not None
    weight = table.bearing("roast", tomato).weight.value
    assert roasted.acid_pct == pytest.approx(tomato.taste.acid_pct / weight)
    assert roasted.sweet_pct == pytest.approx(tomato.taste.sweet_pct * 1.05 / weight)
    assert roasted.aroma == tomato.taste.aroma + 2
    assert 0 <= roasted.heat <= 10
