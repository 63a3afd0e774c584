"""A service's arithmetic: masses through scaling, batching and buying; moments through midnight and
changed clocks."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.batches import dish_batches
from fresh_ladle.core.service.buying import PackPrice, cost_per_serving, shopping
from fresh_ladle.core.service.clock import hours_until, moment_of, zone_named
from fresh_ladle.core.service.day import Ask, ServiceDish, planned_service
from fresh_ladle.core.service.fillings import FILL
from fresh_ladle.core.service.scaling import (
    checked_servings,
    nested_spoons,
    service_lines,
    start_share,
)
from fresh_ladle.core.service.schedule import Schedule
from fresh_ladle.core.service.size import size_said
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.service.demo import demo_recipes

CENTRAL = ZoneInfo("CET")
BEFORE = datetime(2027, 1, 1, tzinfo=UTC)


@pytest.fixture(scope="module")
def dishes(knowledge: Knowledge) -> dict[str, Appraisal]:
    return {recipe.title: appraise(recipe, knowledge) for recipe in demo_recipes(knowledge)}


@given(data=st.data())
@settings(max_examples=40, deadline=None)
def test_masses_agree_from_recipe_to_shopping(
    dishes: dict[str, Appraisal], knowledge: Knowledge, data: st.DataObject
) -> None:
    dish = dishes[data.draw(st.sampled_from(sorted(dishes)))]
    factor = data.draw(st.floats(0.1, 60))
    blender_ml = data.draw(st.sampled_from([500.0, 1500.0, 6000.0]))
    made = {line.line: line.grams.value for line in service_lines(dish, factor, knowledge.work)}
    for portion in dish.portions:
        assert made[portion.line.id] == pytest.approx(portion.measured.value * factor)
    tasks = dish_tasks(dish, factor, knowledge.work, Kitchen(blender_ml=blender_ml))
    batches = dish_batches(dish, factor, tasks, blender_ml)
    for task in {b.task for b in batches}:
        fillings = [b for b in batches if b.task == task]
        assert {t.batches for t in tasks if t.text == task} == {len(fillings)}, (
            "the day says so many"
        )
        assert all(b.millilitres <= blender_ml * FILL + 1e-6 for b in fillings)
        assert max(b.grams for b in fillings) == pytest.approx(min(b.grams for b in fillings))
        for line, _, grams in fillings[0].lines:
            assert grams * len(fillings) == pytest.approx(made[line])
    for one in shopping([(dish, factor)], {}):
        used = sum(
            made[p.line.id]
            for p in dish.portions
            if p.food is not None and p.food.key == one.food.key
        )
        assert one.grams.value >= used - 1e-6, "trim only adds"
        if one.packs:
            assert one.packs * one.pack_grams == pytest.approx(one.grams.value + one.left_over)
            assert 0 <= one.left_over < one.pack_grams + 1e-6


def test_up_and_down_again_gives_the_same(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    for dish in dishes.values():
        up = service_lines(dish, 6.5, knowledge.work)
        for line, portion in zip(up, dish.portions, strict=True):
            assert line.grams.value / 6.5 == pytest.approx(portion.measured.value)


SPOONS = [
    (0.3, "¼ tsp"), (0.05, "⅛ tsp"), (1.2, "1¼ tsp"), (3, "1 Tbsp"), (3.4, "1 Tbsp plus ½ tsp"),
    (5.9, "2 Tbsp"),
    (12, "¼ cup"), (40.5, "¾ cup plus 1½ Tbsp"), (47.9, "1 cup"), (84, "1¾ cups"), (324, "6¾ cups"),
    (320, "6¾ cups"),
]  # fmt: skip


@pytest.mark.parametrize(("tsp", "said"), SPOONS)
def test_spoons_nest(tsp: float, said: str) -> None:
    assert nested_spoons(tsp) == said


def test_strong_things_begin_with_less_past_four_times(knowledge: Knowledge) -> None:
    assert start_share(knowledge.work, "table-salt", 3.9) == 1.0
    assert start_share(knowledge.work, "table-salt", 4.0) == 0.75
    assert start_share(knowledge.work, "cayenne", 4.0) == 0.75
    assert (
        start_share(knowledge.work, "cayenne", 10.0)
        == start_share(knowledge.work, "cayenne", 40.0)
        == 0.65
    )
    assert 0.65 < start_share(knowledge.work, "cayenne", 6.0) < 0.75
    assert start_share(knowledge.work, "carrot", 40.0) == 1.0


@pytest.mark.parametrize("number", [0, 3.5, 50_000, -1])
def test_servings_that_cannot_be(number: float) -> None:
    with pytest.raises(RecipeError):
        checked_servings(number)


def test_work_for_a_blender_and_none(dishes: dict[str, Appraisal], knowledge: Knowledge) -> None:
    dip = next(d for name, d in dishes.items() if name.startswith("Beet"))
    tasks = dish_tasks(dip, 5, knowledge.work, Kitchen(blender_ml=0))
    with pytest.raises(RecipeError, match="needs a blender"):
        dish_batches(dip, 5, tasks, 0)
    salad = next(d for name, d in dishes.items() if name.startswith("Barley"))
    assert (
        dish_batches(salad, 5, dish_tasks(salad, 5, knowledge.work, Kitchen(blender_ml=0)), 0) == []
    )


def test_hot_food_fills_half_a_jar(dishes: dict[str, Appraisal], knowledge: Knowledge) -> None:
    """The beets cool before they are blended; without that they are hot, and it takes more
    fillings."""
    dip = next(d for name, d in dishes.items() if name.startswith("Beet"))
    hot = appraise(
        replace(dip.recipe, method=tuple(s for s in dip.recipe.method if "cool" not in s)),
        knowledge,
    )
    counts = []
    for dish in (dip, hot):
        batches = dish_batches(dish, 5, dish_tasks(dish, 5, knowledge.work, Kitchen()), 1500)
        counts.append((batches[0].of, batches[0].hot))
    assert counts[0][1] is False
    assert counts[1][1] is True
    assert counts[1][0] > counts[0][0]


def test_a_price_gives_packs_and_what_is_not_priced_is_named(dishes: dict[str, Appraisal]) -> None:
    salad = next(d for name, d in dishes.items() if name.startswith("Barley"))
    prices = {"feta": PackPrice(2.4, 200.0)}
    found = {p.food.key: p for p in shopping([(salad, 1.0)], prices)}
    feta = found["feta"]
    assert feta.packs == 1
    assert feta.cost == pytest.approx(2.4)
    cost = cost_per_serving(found.values(), salad.recipe.servings)
    assert cost.value == pytest.approx(feta.grams.value * 2.4 / 200 / salad.recipe.servings)
    assert "feta" not in cost.unknown
    assert len(cost.unknown) == len(found) - 1
    with pytest.raises(RecipeError):
        PackPrice(-1, 200)


def test_what_is_in_stock_is_taken_off(dishes: dict[str, Appraisal]) -> None:
    salad = next(d for name, d in dishes.items() if name.startswith("Barley"))
    without = {p.food.key: p for p in shopping([(salad, 4.0)], {})}
    less = {p.food.key: p for p in shopping([(salad, 4.0)], {}, {"feta": 50.0})}
    assert less["feta"].grams.value == pytest.approx(without["feta"].grams.value - 50)
    enough = {p.food.key: p for p in shopping([(salad, 4.0)], {}, {"feta": 9000.0})}
    assert enough["feta"].packs == 0


def test_a_meal_lies_ahead_and_a_kitchen_closes_after_it_opens() -> None:
    eaten = moment_of("2027-03-04T12:00", zone_named("CET"))
    assert hours_until(eaten, eaten - timedelta(minutes=1))
    for now in (eaten, eaten + timedelta(minutes=1)):
        with pytest.raises(RecipeError, match="is over"):
            hours_until(eaten, now)
    long_before = eaten - timedelta(days=9)
    assert hours_until(eaten, long_before, time(9), time(9, 1))
    for closes in (time(9), time(8)):
        with pytest.raises(RecipeError, match="closes later"):
            hours_until(eaten, long_before, time(9), closes)


@pytest.mark.parametrize(
    "typed",
    [
        "2027-03-28T12:00",
        "2027-10-31T12:00",
        "2027-03-04T00:30",
        "2027-12-31T23:45",
        "2027-01-01T05:00",
    ],
    ids=[
        "clock goes forward",
        "clock goes back",
        "after midnight",
        "new year",
        "before the kitchen opens",
    ],
)
def test_no_moment_moves(dishes: dict[str, Appraisal], knowledge: Knowledge, typed: str) -> None:
    salad = next(d for name, d in dishes.items() if name.startswith("Lentil"))
    eaten = moment_of(typed, CENTRAL)
    now = eaten - timedelta(days=20)
    found = planned_service(
        Ask((ServiceDish(salad, 20),), eaten, Kitchen(cooks=2)), knowledge.work, now
    )
    assert isinstance(found.order, Schedule)
    last = max(found.order.placed, key=lambda p: p.end)
    assert found.clock.moment(last.end) <= eaten
    for placed in found.order.placed:
        start, end = found.clock.moment(placed.start), found.clock.moment(placed.end)
        passed = (end.astimezone(UTC) - start.astimezone(UTC)).total_seconds() / 60
        assert passed == placed.task.minutes
        assert start.tzinfo is not None
    assert found.clock.minute(eaten) == round((eaten - found.clock.origin).total_seconds() / 60)


def test_moments_that_are_none() -> None:
    with pytest.raises(RecipeError, match="does not exist"):
        moment_of("2027-03-28T02:30", CENTRAL)
    with pytest.raises(RecipeError, match="no date and time"):
        moment_of("thursday", CENTRAL)
    with pytest.raises(RecipeError, match="no time zone"):
        zone_named("Atlantis/Center")
    with pytest.raises(RecipeError, match="is over"):
        hours_until(datetime(2026, 1, 1, 12, tzinfo=CENTRAL), BEFORE)


def test_a_service_of_three_dishes(dishes: dict[str, Appraisal], knowledge: Knowledge) -> None:
    three = tuple(
        ServiceDish(d, 40)
        for name, d in dishes.items()
        if name.startswith(("Lentil", "Charred", "Celery"))
    )
    eaten = moment_of("2027-03-04T12:00", CENTRAL)
    found = planned_service(Ask(three, eaten, Kitchen(cooks=2)), knowledge.work, BEFORE)
    assert isinstance(found.order, Schedule)
    assert [plan.keeping.days for plan in found.plans] == [3, 2, 3]
    lemon = [p for p in found.shopping if p.food.key == "lemon-juice-fresh"]
    assert len(lemon) == 1, "one list for all dishes"
    smaller = planned_service(
        Ask(
            (replace(three[0], serving_grams=three[0].appraisal.totals.serving_grams / 2),),
            eaten,
            Kitchen(),
        ),
        knowledge.work,
        BEFORE,
    )
    assert smaller.plans[0].lines[0].grams.value == pytest.approx(
        found.plans[0].lines[0].grams.value / 2
    )
    for cooks in (0, 99):
        with pytest.raises(RecipeError, match="cooks make a service"):
            planned_service(Ask(three, eaten, Kitchen(cooks=cooks)), knowledge.work, BEFORE)
    with pytest.raises(RecipeError, match="1 to 12 dishes"):
        planned_service(Ask((), eaten, Kitchen()), knowledge.work, BEFORE)


@pytest.mark.parametrize(
    ("said", "servings"),
    [
        ("40", 40),
        ("half", 3),
        ("double", 12),
        ("3 times", 18),
        ("2 fennel bulbs", 12),
        ("5 fennel bulbs", 30),
        ("1 kg feta", 70),
    ],
)
def test_a_size_as_a_cook_says_it(
    dishes: dict[str, Appraisal], knowledge: Knowledge, said: str, servings: int
) -> None:
    """The salad serves six and holds one bulb of fennel and three ounces of feta."""
    salad = next(d for name, d in dishes.items() if name.startswith("Lentil"))
    reader = Reader(knowledge.pantry, knowledge.preparations)
    assert size_said(said, salad, reader) == (servings, None)


def test_a_size_by_weight_or_volume_of_what_is_made(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    dip = next(d for name, d in dishes.items() if name.startswith("Beet"))
    reader = Reader(knowledge.pantry, knowledge.preparations)
    by_weight, _ = size_said("2 kg", dip, reader)
    assert by_weight == int(2000 / dip.totals.serving_grams)
    assert size_said("8 jars of 250 g", dip, reader) == (by_weight, None)
    assert 0.8 < size_said("2 l", dip, reader)[0] / by_weight < 1.25
    for wrong in ("", "lots", "0 kg", "12 anvils"):
        with pytest.raises(RecipeError):
            size_said(wrong, dip, reader)
