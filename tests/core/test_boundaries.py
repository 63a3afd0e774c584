"""Numbers on which something turns: each is held on both sides, with the figures written out."""

from __future__ import annotations

from dataclasses import replace
from math import log, sqrt

import pytest

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.kitchen import kitchen_amount, scaled
from fresh_ladle.core.amounts.line import separate_foods
from fresh_ladle.core.amounts.quantity import read_quantity
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.repair import Repair
from fresh_ladle.core.catalogue.roles import PURE_SALT_MG, roles_of
from fresh_ladle.core.cautions.caution import Limit
from fresh_ladle.core.flavor.drift import steps_between
from fresh_ladle.core.flavor.parameters import AXES, Setting
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.totals import composition_cv, totals
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.merge import merge
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe, RecipeError
from fresh_ladle.core.swaps.goals import Goal
from fresh_ladle.core.swaps.pitfalls import pitfalls_of_change
from fresh_ladle.core.swaps.repairs import DOSES, with_repair
from fresh_ladle.core.whole.appraisal import appraise
from tests.conftest import Kitchen

# ---- taste: the Weber fractions, each through a step worked out by hand


WEBER = {
    "salt": (0.15, 0.25, 0.06),
    "sour": (0.22, 0.33, 0.03),
    "sweet": (0.17, 0.25, 0.5),
    "rich": (0.25, 0.40, 1.0),
    "savory": (0.22, 0.35, 30.0),
    "bitter": (0.30, 0.48, 0.1),
    "hot": (0.40, 0.60, 0.25),
    "aroma": (0.30, 0.48, 3.0),
    "body": (0.28, 0.48, 0.3),
}
"""Side by side, from memory, and the floor near the threshold, as they stand in the table."""


@pytest.mark.parametrize("axis", [axis.id for axis in AXES])
def test_a_doubling_is_so_many_steps(axis: str) -> None:
    in_hand, remembered, floor = WEBER[axis]
    for fraction, setting in ((in_hand, Setting.SIDE_BY_SIDE), (remembered, Setting.FROM_MEMORY)):
        steps = steps_between(2 * floor, floor, axis, setting)
        assert steps == pytest.approx(log(3 / 2) / log(1 + fraction)), "the floor is added to both"
        assert steps_between(floor, 2 * floor, axis, setting) == pytest.approx(-steps)
    assert steps_between(0.0, 0.0, axis) == 0


# ---- ranges: what dilutes, and which side an error falls on


def test_a_heavier_line_dilutes_what_another_brings(kitchen: Kitchen) -> None:
    """Served by weight, more water means less salt in a serving: the error of the water counts,
    with its sign turned.

    100 g ± 10% (water) beside 2 g of salt weighed to 1%: a serving of 51 g holds half of it. The
    water's sensitivity is −total·m/M, so what widens the range upwards is water that ran short."""
    recipe = kitchen.recipe({"water": "100 g", "table-salt": "2 g"})
    by_weight = replace(recipe, serving_grams=51.0)
    now = kitchen.work_out(by_weight)
    water, salt = now.portions
    total = now.totals.batch["sodium_mg"].value
    mass = now.totals.batch_grams.value
    assert (mass, total) == (pytest.approx(102), pytest.approx(2 * 387.58 + 3.0))
    of_water = (total * 100 / mass - 3.0) * water.counted.sd_down / 100
    of_salt = (now.totals.per_line["l2"]["sodium_mg"] or 0) - total * 2 / mass
    spread = sqrt(
        of_water**2
        + (of_salt * salt.counted.sd_up / 2) ** 2
        + _composition(water, 0)
        + _composition(salt, total)
    )
    figure = now.totals.serving["sodium_mg"]
    assert figure.high - figure.value == pytest.approx(Z90 * spread * 51 / mass, rel=1e-3)
    counted = kitchen.work_out(replace(recipe, servings=2.0)).totals.serving["sodium_mg"]
    assert counted.value == pytest.approx(figure.value)
    assert counted.high - counted.value < figure.high - figure.value, (
        "served by count, water dilutes nothing"
    )


def _composition(portion, value: float) -> float:  # type: ignore[no-untyped-def]
    return float((value * composition_cv(portion, "sodium_mg")) ** 2)


def test_a_lopsided_amount_turns_round_where_it_dilutes(kitchen: Kitchen) -> None:
    """Water that may run short but hardly over: more water is less salt, so the salt's range leans
    the other way."""
    lines = (Line("l1", "water", "1 cup", "water"), Line("l2", "salt", "2 g", "table-salt"))
    recipe = Recipe("Brine", lines, "vinaigrette", 1, serving_grams=60)
    now = kitchen.work_out(recipe)
    counted = now.portions[0].counted
    lean = replace(counted, low=counted.value * 0.5, high=counted.value * 1.05)
    leaning = totals(
        recipe, (replace(now.portions[0], counted=lean, in_bowl=lean), now.portions[1])
    )
    figure = leaning.serving["sodium_mg"]
    assert figure.high - figure.value > 3 * (figure.value - figure.low), (
        "water may run short, so salt may run high"
    )


# ---- preparations: two factors on one figure, and shares of a can


def test_two_preparations_of_one_line_multiply(kitchen: Kitchen, knowledge: Knowledge) -> None:
    table, olives = knowledge.preparations, knowledge.pantry["olives-green"]
    factors = [
        table.bearing(p, olives).factors.get("sodium_mg", 1.0) for p in ("rinse", "marinade")
    ]
    rinsed = table.bearing("rinse", olives).factors["sodium_mg"]
    assert rinsed == 0.85
    plain = kitchen.recipe({"olives-green": "100 g"})
    twice = replace(plain.lines[0], preparations=("rinse", "rinse"))
    once = kitchen.work_out(
        plain.with_line(replace(plain.lines[0], preparations=("rinse",)))
    ).portions[0]
    both = kitchen.work_out(plain.with_line(twice)).portions[0]
    assert once.factors["sodium_mg"] == pytest.approx(0.85)
    assert both.factors["sodium_mg"] == pytest.approx(0.85 * 0.85), (
        f"not {sum(factors):.2f}, nor the last alone"
    )


@pytest.mark.parametrize(
    ("food", "amount", "remarks", "grams"),
    [
        ("chickpeas-canned-drained", "1 (15 oz) can", (), 253.0),
        ("chickpeas-canned-drained", "2 (15 oz) cans", (), 506.0),
        ("tomato-paste", "1 (400 g) can", (), 400.0),
        ("tomato-paste", "1 (400 g) can", ("drained",), 0.6 * 400),
    ],
)
def test_a_can_gives_what_is_left_when_it_is_drained(
    food: str, amount: str, remarks: tuple[str, ...], grams: float, pantry: Pantry
) -> None:
    assert weigh(parse_amount(amount), pantry[food], remarks).grams.value == pytest.approx(
        grams, rel=0.06
    )


# ---- to taste, beside part of another batch


def test_to_taste_is_a_share_of_all_that_is_in_the_bowl(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    base = kitchen.recipe({"tahini": "300 g"}, "legume-dip")
    batch = Line("l1", "half a batch", "1/2 batch", None, batch=Batch("7@1", 0.5, base))
    salt = Line("l2", "salt to taste", "", "table-salt", asides=frozenset({Aside.TO_TASTE}))
    alone = appraise(Recipe("A", (batch, salt), "legume-dip", 4), knowledge)
    more = appraise(
        Recipe("B", (batch, Line("l3", "water", "50 g", "water"), salt), "legume-dip", 4), knowledge
    )
    assert alone.portion("l2").measured.value == pytest.approx(0.5 * 150 / 100), (
        "0.5 g to 100 g of a dip"
    )
    assert more.portion("l2").measured.value == pytest.approx(0.5 * 200 / 100)


# ---- merging


def test_merging_keeps_questions_that_either_tab_answered() -> None:
    base = Recipe(
        "Dip",
        (Line("l1", "soy", "1 tbsp", "soy-sauce"), Line("l2", "salt", "1 g", "table-salt")),
        "slaw",
        4,
    )
    soy = base.line("l1")
    mine = base.with_line(replace(soy, settled=frozenset({"food"})))
    theirs = base.with_line(replace(soy, settled=frozenset({"amount skipped"})))
    merged = merge(base, mine, theirs)
    assert merged.conflicts == ()
    assert merged.recipe.line("l1").settled == {"food", "amount skipped"}


# ---- repairs


def test_a_repair_is_made_in_the_dose_that_was_asked(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise({"chickpeas-cooked": "380 g", "water": "20 g"}, "legume-dip")
    repair = next(
        r for r in knowledge.repairs if [a.food for a in r.additions] == ["lemon-juice-fresh"]
    )
    grams = repair.additions[0].per_100_g
    added = {}
    for dose in DOSES:
        after = kitchen.work_out(with_repair(now, repair, dose, knowledge.pantry))
        added[dose] = next(
            p.measured.value for p in after.portions if p.line.food == "lemon-juice-fresh"
        )
        assert added[dose] == pytest.approx(dose * grams * 400 / 100, rel=0.36), (
            "to the nearest kitchen measure"
        )
    assert DOSES == (0.25, 0.5, 1.0, 1.5, 2.0)
    assert added[2.0] > added[1.0] > added[0.25]


def test_salt_kept_for_the_surface_is_taken_from_the_salt_inside(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    now = kitchen.appraise({"chickpeas-cooked": "400 g", "table-salt": "6 g"}, "legume-dip")
    surface: Repair = next(r for r in knowledge.repairs if r.to_surface)
    after = kitchen.work_out(with_repair(now, surface, 1.0, knowledge.pantry))
    salts = [p.measured.value for p in after.portions if p.line.food == "table-salt"]
    assert len(salts) == 2
    assert sum(salts) <= 6.3
    again = kitchen.work_out(with_repair(now, surface, 2.0, knowledge.pantry))
    assert [p.measured.value for p in again.portions] == [
        p.measured.value for p in after.portions
    ], "no more than all"


# ---- what a recipe may be


@pytest.mark.parametrize(
    ("field", "least", "most"),
    [
        ("servings", 0.001, 5000),
        ("serving_grams", 0.1, 5000),
        ("yield_grams", 0.1, 500_000),
        ("serving_ml", 0.1, 5000),
    ],
)
def test_what_a_recipe_may_be_is_bounded_on_both_sides(
    field: str, least: float, most: float
) -> None:
    recipe = Recipe("Dip", (Line("l1", "water", "1 g", "water"),), "slaw", 4)
    for fine in (least, most):
        assert getattr(replace(recipe, **{field: fine}), field) == fine  # type: ignore[arg-type]
    for wrong in (0.0, -1.0, most * 1.0001, float("nan")):
        with pytest.raises(RecipeError):
            replace(recipe, **{field: wrong})  # type: ignore[arg-type]


def test_a_dish_is_served_between_frost_and_the_pot() -> None:
    recipe = Recipe("Dip", (), "slaw", 4)
    assert [replace(recipe, served_celsius=c).served_celsius for c in (-5.0, 90.0)] == [-5.0, 90.0]
    for wrong in (-5.1, 90.1):
        with pytest.raises(RecipeError):
            replace(recipe, served_celsius=wrong)


# ---- cautions


@pytest.mark.parametrize(
    ("limit", "value", "met"),
    [
        (Limit("sodium_mg", at_least=480), 479.9, False),
        (Limit("sodium_mg", at_least=480), 480.0, True),
        (Limit("fat_g", at_most=3), 3.0, True),
        (Limit("fat_g", at_most=3), 3.01, False),
        (Limit("fat_g", at_least=1, at_most=3), 0.9, False),
        (Limit("fat_g", at_least=1, at_most=3), 2.0, True),
    ],
)
def test_the_limit_of_a_caution_counts_itself_in(limit: Limit, value: float, met: bool) -> None:
    assert limit.met_by({limit.nutrient: value}) is met
    assert Limit("iron_mg", at_least=0.1).met_by({}) is False, "what is not known sets nothing off"


def test_an_optional_line_and_a_squeeze_are_read_as_they_were(reader: Reader) -> None:
    (line,) = reader.read_line("a squeeze of lemon, optional")
    assert line.line.food == "lemon-juice-fresh"
    assert Aside.OPTIONAL in line.line.asides


@pytest.mark.parametrize(("oil_left", "warned"), [("69 g", True), ("70 g", True), ("71 g", False)])
def test_water_for_oil_is_a_trap_from_three_tenths_on(
    kitchen: Kitchen, oil_left: str, warned: bool
) -> None:
    before = kitchen.appraise({"olive-oil-extra-virgin": "100 g"})
    after = kitchen.appraise({"olive-oil-extra-virgin": oil_left, "water": "30 g"})
    assert ("water-for-oil" in {trap.id for trap in pitfalls_of_change(before, after)}) is warned


def test_a_few_stray_characters_are_text_and_more_are_not(reader: Reader) -> None:
    """Two signs that stand for what could not be decoded are, in a short text; controls are taken
    out."""
    assert read_recipe("Dip\n2 tbsp tahini\ufffd\ufffd\x02\x03\x04\n", reader).recipe.lines
    with pytest.raises(RecipeError, match="not text"):
        read_recipe("Dip\n2 tbsp tahini\ufffd\ufffd\ufffd\n", reader)


@pytest.mark.parametrize(
    ("grams", "words"),
    [
        (19.6, "20 g"),
        (20.0, "20 g"),
        (21.0, "20 g"),
        (18.0, "18 g"),
        (19.4, "19 g"),
        (20.6, "20 g"),
        (23.0, "25 g"),
    ],
)
def test_without_a_measure_grams_are_rounded_to_five_from_twenty_on(
    pantry: Pantry, grams: float, words: str
) -> None:
    bare = replace(pantry["tofu-firm"], measures=())
    assert kitchen_amount(bare, grams) == words


def test_at_most_six_other_foods_are_offered_for_a_name(reader: Reader) -> None:
    offered = reader.read_line("1 cup beans")[0].alternatives
    assert 3 <= len(offered) <= 6


def test_zero_is_no_amount_and_the_least_is(pantry: Pantry) -> None:
    with pytest.raises(UnitMisfit, match="remove the line"):
        weigh(parse_amount("0 g"), pantry["tahini"])
    assert weigh(parse_amount("0.1 g"), pantry["tahini"]).grams.value == pytest.approx(0.1)
    with pytest.raises(UnitMisfit, match="more than a kitchen batch"):
        weigh(parse_amount("50001 g"), pantry["tahini"])
    assert weigh(parse_amount("50000 g"), pantry["tahini"]).grams.value == 50_000


@pytest.mark.parametrize(
    ("share", "fits"), [(0, False), (0.001, True), (20, True), (20.01, False), (-1, False)]
)
def test_part_of_a_batch_is_more_than_none_and_at_most_twenty(
    share: float, fits: bool, kitchen: Kitchen
) -> None:
    recipe = kitchen.recipe({"water": "10 g"})
    if fits:
        assert Batch("3@1", share, recipe).share == share
    else:
        with pytest.raises(RecipeError, match="batch"):
            Batch("3@1", share, recipe)


NUMBER_WORDS = (
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
)


@pytest.mark.parametrize(
    ("text", "value", "low", "high"),
    [
        ("a couple of cloves", 2, 2, 3),
        ("a few cloves", 3, 2, 4),
        ("several cloves", 4, 3, 6),
        ("a dozen cloves", 12, 12, 12),
        ("half a dozen cloves", 6, 6, 6),
        ("half dozen cloves", 6, 6, 6),
        ("one and a half cloves", 1.5, 1.5, 1.5),
        ("three quarters of a clove", 0.75, 0.75, 0.75),
        ("a third of a clove", 1 / 3, 1 / 3, 1 / 3),
        ("a clove", 1, 1, 1),
        ("an old clove", 1, 1, 1),
        *((f"{word} cloves", n, n, n) for n, word in enumerate(NUMBER_WORDS, start=1)),
    ],
)
def test_words_for_how_many(text: str, value: float, low: float, high: float) -> None:
    quantity, rest = read_quantity(text)
    assert quantity is not None
    assert (quantity.count.value, quantity.count.low, quantity.count.high) == pytest.approx(
        (value, low, high)
    )
    assert rest.endswith(("clove", "cloves"))


def test_foods_that_share_an_amount_have_names_of_four_words_at_most() -> None:
    assert (
        len(separate_foods("1 tsp each ground toasted cumin seed, sweet smoked red paprika")) == 2
    )
    assert len(separate_foods("1 tsp each ground very well toasted cumin and paprika")) == 1


@pytest.mark.parametrize(
    ("grams", "words"),
    [(0.4, "1 pinch"), (0.99, "1 pinch"), (1.0, "1 g"), (1.4, "1 g"), (19.6, "20 g")],
)
def test_without_a_measure_less_than_a_gram_is_a_pinch(
    grams: float, words: str, pantry: Pantry
) -> None:
    bare = replace(pantry["walnuts"], measures=(), loose=(), packs=())
    assert kitchen_amount(bare, grams) == words


@pytest.mark.parametrize(
    ("text", "factor", "words"),
    [("19 g", 0.5, "9 1/2 g"), ("20 g", 0.5, "10 g"), ("21 g", 0.5, "10 g")],
)
def test_a_scaled_weight_is_to_the_half_gram_below_ten(
    text: str, factor: float, words: str
) -> None:
    assert (
        parse_amount(scaled(text, factor)).count.count.value
        == parse_amount(words).count.count.value
    )  # type: ignore[union-attr]


def test_salt_itself_plays_a_role_and_what_is_merely_salty_does_not(kitchen: Kitchen) -> None:
    salt, line = (
        kitchen.knowledge.pantry["table-salt"],
        kitchen.recipe({"table-salt": "1 g"}).lines[0],
    )
    for sodium, seasons in ((PURE_SALT_MG, True), (PURE_SALT_MG - 0.1, False)):
        food = replace(salt, per_100_g={**salt.per_100_g, "sodium_mg": sodium})
        assert bool(roles_of(line, food, "slaw")) is seasons


def test_goals_without_a_food_and_without_an_allergen_are_named_by_their_words(
    knowledge: Knowledge,
) -> None:
    assert (
        Goal.parsed("without:feta").in_words(knowledge)
        == f"without {knowledge.pantry['feta'].kitchen_name}"
    )
    assert Goal.parsed("without:soy").in_words(knowledge) == "without soybean"
    assert Goal.parsed("less:energy_kcal").in_words(knowledge) == "fewer calories"
    assert Goal.parsed("more:fiber_g").in_words(knowledge) == "more fiber"
