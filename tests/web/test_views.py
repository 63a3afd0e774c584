"""What the screens say, checked against the figures behind it."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest
from fastapi.testclient import TestClient

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.parameters import AXES, INTERACTIONS
from fresh_ladle.core.foods.nutrient import HEADLINE, NUTRIENTS
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.nutrients.wording import (
    display_amount,
    grams_text,
    nutrient_amount,
    signed,
    step_text,
)
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.web.places.counter.account_view import axis_account, figure_account
from fresh_ladle.web.places.plans.pareto_front import Mark, front_picture
from fresh_ladle.web.places.plans.view import cost_text
from fresh_ladle.web.places.versions.comparison_view import ComparedVersion, comparison_view
from fresh_ladle.web.shared.drawings.tilt import strip
from fresh_ladle.web.shared.target_status import VersionFigures, rung_views, tilt_view
from tests.conftest import Kitchen
from tests.web.test_routes import read_in

DRESSING = {
    "olive-oil-extra-virgin": "60 g",
    "vinegar-white-wine": "30 g",
    "table-salt": "2 g",
    "honey": "10 g",
    "garlic": "3 g",
    "dijon-mustard": "6 g",
    "arugula": "80 g",
}


@pytest.fixture
def now(kitchen: Kitchen):  # type: ignore[no-untyped-def]
    return kitchen.appraise(DRESSING)


@pytest.fixture
def saltier(kitchen: Kitchen):  # type: ignore[no-untyped-def]
    return kitchen.appraise({**DRESSING, "table-salt": "4 g"})


@pytest.mark.parametrize("axis", AXES, ids=lambda a: a.id)
def test_a_taste_is_the_sum_of_the_parts_its_account_shows(axis, now, knowledge) -> None:  # type: ignore[no-untyped-def]
    account = axis_account(now, now, axis.id, knowledge)
    parts = sum(float(o.part) for o in account.origins if o.part != "unknown")
    assert parts == pytest.approx(float(account.value), rel=0.03, abs=1e-6)
    assert all(o.grade and o.source for o in account.origins)


@pytest.mark.parametrize("axis", AXES, ids=lambda a: a.id)
def test_an_account_names_every_taste_that_works_on_it_with_its_source(
    axis, now, saltier, knowledge
) -> None:  # type: ignore[no-untyped-def]
    """The steps count what is perceived, so an account of the amounts alone would not add up to
    them."""
    said = axis_account(now, saltier, axis.id, knowledge).interactions
    at_work = [
        e
        for e in INTERACTIONS
        if e.on == axis.id and abs(e.factor(now.flavor[e.by].value) - 1) >= 0.01
    ]
    assert len(said) == (len(at_work) + 1 if at_work else 0)
    for effect in at_work:
        assert any(effect.source in line and effect.by in line.lower() for line in said)


def test_the_drawer_shows_what_the_rest_of_the_dish_does(client: TestClient) -> None:
    shown = client.get("/recipes/1/figures/salt").text
    assert "What the rest of the dish does to it" in shown
    assert "Savory lifts it by about" in shown


def test_a_card_with_a_lost_line_says_at_least_and_whose_allergens_nobody_knows(
    client: TestClient,
) -> None:
    recipe = read_in(client, "Lemon dip\nServes 6\n1 1/2 tsp sugar\n2 tbsp zorblax")
    card = client.get(f"/recipes/{recipe}/card").text
    assert "at least 0 g Fat" in " ".join(re.sub(r"<[^>]+>", " ", card).split())
    assert "In 100 g" not in card
    assert "at least less" not in card
    assert "Allergens not known, read the pack:" in card
    assert "2 tbsp zorblax" in card


def test_a_doubtful_reading_says_what_it_is_counted_as(client: TestClient) -> None:
    recipe = read_in(client, "Lemon dip\nServes 6\n1 cup yogurt\n30 g kipfler potatoes")
    assert (
        "counted as potato, boiled without skin, unsalted: check"
        in client.get(f"/recipes/{recipe}").text
    )


@pytest.mark.parametrize("nutrient", NUTRIENTS, ids=lambda n: n.id)
def test_a_figure_is_the_sum_of_the_parts_its_account_shows(nutrient, now) -> None:  # type: ignore[no-untyped-def]
    account = figure_account(now, nutrient.id)
    assert len(account.origins) == len(now.portions)
    assert all(o.source for o in account.origins if o.part != "unknown")
    assert nutrient_amount(nutrient.id, now.totals.serving[nutrient.id].value) in account.value


def beside(*versions: Appraisal) -> list[ComparedVersion]:
    """Versions of different recipes, set beside each other, except that the first two are of
    one."""
    return [
        ComparedVersion(f"{n}", max(0, n - 1), v.recipe.title, f"version {n}", [], "", v)
        for n, v in enumerate(versions)
    ]


def test_side_by_side_says_what_went_what_came_and_what_changed(kitchen: Kitchen) -> None:
    before = kitchen.appraise({"tahini": "30 g", "table-salt": "3 g", "lemon-juice-fresh": "20 g"})
    recipe = before.recipe.without_line("l1")
    recipe = recipe.with_line(replace(recipe.line("l2"), amount="1 g"))
    peanut = kitchen.recipe({"peanut-butter-unsalted": "30 g"}).lines[0]
    recipe = recipe.with_added([replace(peanut, id="l9")])
    view = comparison_view(
        beside(before, kitchen.work_out(recipe)),
        (),
        Basis.SERVING,
        {"tahini": 2.0, "table-salt": 0.1},
        "grams",
    )
    assert [row.cells[1].kind for row in view.lines] == ["gone", "changed", "same", "new"]
    assert (view.lost, view.gained) == (["sesame"], ["peanut"])
    sodium = next(f for f in view.figures if f.name == "Sodium").cells[1]
    assert sodium.change.startswith("−")
    assert sodium.percent.startswith("−")
    assert view.costs[0] == "at least 0.15, without lemon juice", (
        "30 g of tahini and 3 g of salt in four servings"
    )


def test_three_beside_each_other_match_foods_across_recipes(kitchen: Kitchen) -> None:
    first = kitchen.appraise({"tahini": "30 g", "lemon-juice-fresh": "20 g"})
    second = kitchen.appraise({"lemon-juice-fresh": "10 g", "tahini": "30 g", "honey": "5 g"})
    third = kitchen.appraise({"tahini": "60 g", "lemon-juice-fresh": "40 g"}, servings=8)
    view = comparison_view(beside(first, second, third), (), Basis.HUNDRED_GRAMS, {}, "ounces")
    assert [[c.kind for c in row.cells] for row in view.lines] == [
        ["first", "same", "changed"],
        ["first", "changed", "changed"],
        ["absent", "new", "absent"],
    ]
    fat = next(f for f in view.figures if f.name == "Fat")
    assert fat.cells[2].value == fat.cells[0].value, (
        "in 100 g the size of the batch does not matter"
    )
    assert view.lines[0].cells[0].weight == "1.1 oz"
    assert [round(float(t.total), 1) for t in view.tilts][1] == 0.0


def test_a_line_whose_food_changed_is_gone_and_new_and_not_changed(kitchen: Kitchen) -> None:
    before = kitchen.appraise({"sour-cream": "30 g"})
    other = replace(before.recipe.line("l1"), food="greek-yogurt-nonfat", named="Greek yogurt")
    view = comparison_view(
        beside(before, kitchen.work_out(before.recipe.with_line(other))),
        (),
        Basis.SERVING,
        {},
        "grams",
    )
    assert [[c.kind for c in row.cells] for row in view.lines] == [
        ["first", "gone"],
        ["absent", "new"],
    ]


def test_rungs_are_drawn_for_the_five_figures_and_say_the_limit(now) -> None:  # type: ignore[no-untyped-def]
    targets = [Target("sodium_mg", Side.AT_MOST, 140.0)]
    rungs = rung_views(VersionFigures.of(now, now), targets)
    assert [r.nutrient for r in rungs] == list(HEADLINE)
    sodium = next(r for r in rungs if r.nutrient == "sodium_mg")
    assert sodium.limit == "at most 140 mg"
    assert sodium.verdict.endswith("mg over")
    assert sodium.tone == "misses"
    assert next(r for r in rungs if r.nutrient == "fat_g").verdict == "no target"
    assert [r.nutrient for r in rung_views(VersionFigures.of(now, now), targets, small=True)] == [
        "sodium_mg"
    ]


def test_the_tilt_stands_straight_against_itself_and_leans_with_the_salt(now, saltier) -> None:  # type: ignore[no-untyped-def]
    still = tilt_view(now, now)
    assert all(stem.step == 0 and stem.text == "same" for stem in still.stems)
    assert still.sentence == "Unchanged in taste."
    leaning = {stem.axis: stem for stem in tilt_view(saltier, now).stems}
    assert leaning["salt"].step > 1
    assert "saltier" in leaning["salt"].words
    assert leaning["bitter"].step < 0, "salt hides bitterness"


@pytest.mark.parametrize(
    ("text", "drawn"),
    [
        ("1 1/2 tbsp", "1½ Tbsp"),
        ("a big handfull", "a big handful"),
        ("3/4 tsp", "¾ tsp"),
        ("2 (15 oz) cans", "2 (15 oz) cans"),
        ("", ""),
    ],
)
def test_amounts_are_shown_as_a_cook_writes_them(text: str, drawn: str) -> None:
    assert display_amount(text) == drawn


@pytest.mark.parametrize(
    ("change", "said"), [(12.4, "+12 mg"), (-3.0, "−3 mg"), (0.2, "0 mg"), (-0.2, "0 mg")]
)
def test_changes_carry_a_true_sign_and_nothing_is_never_minus_nothing(
    change: float, said: str
) -> None:
    assert signed("sodium_mg", change) == said


@pytest.mark.parametrize(
    ("grams", "said"),
    [(0.0, "0 g"), (0.468, "0.47 g"), (2.08, "2.1 g"), (53.6, "54 g"), (1240.0, "1,240 g")],
)
def test_grams_have_the_digits_a_scale_can_show(grams: float, said: str) -> None:
    assert grams_text(Range(grams, grams, grams)) == said


@pytest.mark.parametrize(("step", "said"), [(0.1, "same"), (-0.3, "0.3 less"), (2.14, "2.1 more")])
def test_steps_in_words(step: float, said: str) -> None:
    assert step_text(step) == said


def test_the_tilt_draws_the_window_and_the_doubt_and_says_them(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = kitchen.appraise(DRESSING)
    vague = kitchen.appraise({**DRESSING, "table-salt": "2 pinch"})
    salt = next(s for s in tilt_view(vague, first, knowledge=knowledge).stems if s.axis == "salt")
    assert "tilt-window" in salt.picture
    assert "tilt-doubt" in salt.picture
    assert salt.doubt.startswith("between ")
    assert salt.window == "below where such dishes are liked"
    assert salt.window in salt.picture, "the text alternative says it too"
    plain = next(s for s in tilt_view(first, first).stems if s.axis == "salt")
    assert "tilt-window" not in plain.picture
    assert plain.window == ""


def test_a_dish_out_of_balance_is_told_what_is_missing(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    flat = kitchen.appraise({**DRESSING, "vinegar-white-wine": "1 g", "honey": "15 g"})
    assert "Sweet without sour" in tilt_view(flat, flat, knowledge=knowledge).imbalances[0]


def test_the_strip_leans_as_the_tilt_does() -> None:
    drawn = strip([("salt", -2.5), ("sour", 0.2), ("hot", 9.0)], "after it")
    assert drawn.count("<text") == 3
    assert drawn.count("tilt-bud plain") == 2
    assert drawn.count("tilt-bud same") == 1
    assert 'aria-label="after it"' in drawn


def test_the_front_shows_each_plan_and_the_good_side(kitchen: Kitchen) -> None:
    marks = [
        Mark("A", 1.2, 130, "/a", "A"),
        Mark("", 0.8, 180, "/between", "between"),
        Mark("B", 2.4, 90, "/b", "B"),
    ]
    drawn = front_picture(
        marks,
        Mark("", 0, 220, "", "as it stands"),
        140,
        True,
        "sodium",
        "mg",
        "steps against sodium",
    )
    assert [drawn.count(f'hx-get="{href}"') for href in ("/a", "/between", "/b")] == [1, 1, 1]
    assert re.findall(r'class="front-note end">([\d.]+)<', drawn) == [
        "50",
        "100",
        "150",
        "200",
        "250",
    ]
    assert drawn.count("front-mark") == 2
    line = re.search(r'points="([^"]+)"', drawn)
    assert line
    assert len(line[1].split()) == 4, "every point here beats the one before it"
    assert ">as it stands<" in drawn
    assert drawn.count("front-point") == 1
    assert ">limit 140<" in drawn
    upper = re.search(r'class="rung-good"', drawn)
    assert upper
    below = front_picture(
        [Mark("A", 1, 6, "/a", "A")],
        Mark("", 0, 3, "", "as it stands"),
        5,
        False,
        "fiber",
        "g",
        "fiber",
    )
    y_of = [float(v) for v in re.findall(r'y="([\d.]+)"[^>]*class="rung-good"', below)]
    assert y_of == [30.0], "more is good: the shade hangs from the top"


PRICES = {"table-salt": 0.1, "lemon-juice-fresh": 0.6}


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"table-salt": "1 g", "lemon-juice-fresh": "20 g"}, "A serving costs 0.03 more."),
        ({"table-salt": "2 g"}, "It costs the same."),
        ({"tahini": "20 g"}, "Its cost is not known: some of what changes has no price yet."),
    ],
)
def test_what_a_plan_costs_is_said_only_when_it_is_known(
    change: dict[str, str], said: str, kitchen: Kitchen
) -> None:
    first = kitchen.appraise(DRESSING)
    assert cost_text(first, kitchen.appraise({**DRESSING, **change}), PRICES) == said
    assert cost_text(first, first, {}) == ""
