"""What a service says: only what was proved, on both sides of each sentence."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.service import schedule as scheduling
from fresh_ladle.core.service.buying import PackPrice
from fresh_ladle.core.service.clock import hours_until
from fresh_ladle.core.service.comparing import bought_per_100_g, cost_changes, made_per_100_g
from fresh_ladle.core.service.schedule import Hours, Impossible, schedule
from fresh_ladle.core.service.task import Kitchen, Task
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.service.times import minutes_words
from fresh_ladle.core.service.words import came_back_words, impossible_words
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

CENTRAL = ZoneInfo("CET")


def dish(knowledge: Knowledge, text: str, servings: float = 4) -> Appraisal:
    reader = Reader(knowledge.pantry, knowledge.preparations)
    return appraise(read_recipe(text, reader, servings).recipe, knowledge)


@pytest.mark.parametrize(
    ("order", "said"),
    [
        (Impossible("hands are needed more than once at a time", ("one more cook",), 30),
         "Hands are needed more than once at a time. With one more cook it works. Eaten 30 min later, it works as it"
         " is."),
        (Impossible("why", ("one more cook", "one more oven"), None),
         "Why. With one more cook or with one more oven it works."),
        (Impossible("why", (), 90), "Why. Eaten 1 h 30 min later, it works as it is."),
        (Impossible("why", (), None),
         "Why. No later hour was found either, up to eight hours on; less of it takes less time."),
    ],
)  # fmt: skip
def test_why_there_is_no_day(order: Impossible, said: str) -> None:
    assert impossible_words(order) == said


def test_what_the_solver_did_not_decide_is_not_called_impossible(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """Without any effort nothing is found and nothing is proved: that is what is said."""
    monkeypatch.setattr(scheduling, "SECONDS", 0.0)
    hard = [
        Task(n, "Dish", "", f"Do {n}", "stir", (), 7, n, False, "oven", 180.0, (), True)
        for n in range(40)
    ]
    found = schedule(hard, Kitchen(cooks=3), Hours(400, ((0, 400),)))
    assert isinstance(found, Impossible)
    assert found.why == "no order of work was found, though none was proved impossible"


@pytest.mark.parametrize(
    ("minutes", "said"), [(0, "0 min"), (45, "45 min"), (60, "1 h"), (150, "2 h 30 min")]
)
def test_minutes_in_words(minutes: int, said: str) -> None:
    assert minutes_words(minutes) == said


@pytest.mark.parametrize(
    ("weighed", "said"),
    [
        ([], ""),
        ([(40, 400)], "10% of it came back last time; a tenth or more 1 of 1 times."),
        ([(40, 399)], "10% of it came back last time; a tenth or more 0 of 1 times."),
        (
            [(40, 400), (20, 300)],
            "It always comes back: 2 of 2 times, 10% of it at least. Make so much less.",
        ),
        ([(40, 0), (20, 300)], "0% of it came back last time; a tenth or more 1 of 2 times."),
    ],
)
def test_what_came_back(weighed: list[tuple[float, float]], said: str) -> None:
    assert came_back_words(weighed, 100.0) == said


def test_what_an_adaptation_costs_food_by_food(knowledge: Knowledge) -> None:
    """200 g of feta at 12 a kilogram against 100 g of it and 100 g of ricotta at 6: a serving of
    four is 0.15 less."""
    before = dish(knowledge, "Salad\n200 g feta\n100 g olive oil")
    after = dish(knowledge, "Salad\n100 g feta\n100 g whole-milk ricotta\n100 g olive oil")
    prices = {"feta": PackPrice(6.0, 500.0), "ricotta-whole": PackPrice(3.0, 500.0)}
    more, changes = cost_changes(before, after, prices)
    assert more == pytest.approx(-0.15)
    assert [(c.food, round(c.more or 0, 3)) for c in changes] == [("feta", -0.3), ("ricotta", 0.15)]
    unknown, changes = cost_changes(before, after, {"feta": prices["feta"]})
    assert unknown is None
    assert any(c.more is None for c in changes)
    assert cost_changes(before, before, {}) == (0, [])


def test_100_g_of_it_and_of_a_bought_one(knowledge: Knowledge) -> None:
    made = made_per_100_g(dish(knowledge, "Dip\n100 g tahini\n100 g water"), 0.5)
    tahini = bought_per_100_g(knowledge.pantry["tahini"], PackPrice(5.0, 400.0))
    assert tahini.cost == pytest.approx(1.25)
    assert made.figures["energy_kcal"] == pytest.approx(
        (tahini.figures["energy_kcal"] or 0) / 2, rel=0.01
    )
    assert made.cost == pytest.approx(1.0), "a serving of 50 g costs 0.5"
    assert bought_per_100_g(knowledge.pantry["tahini"], None).cost is None


def test_hands_work_while_the_kitchen_is_open() -> None:
    """From the evening before to the meal; on the day itself until it is eaten, however late that
    is."""
    eaten = datetime(2027, 3, 4, 21, 30, tzinfo=CENTRAL)
    hours, clock = hours_until(eaten, eaten - timedelta(days=9), time(8), time(18))
    said = [
        (clock.moment(a).strftime("%d %H:%M"), clock.moment(b).strftime("%d %H:%M"))
        for a, b in hours.open
    ]
    assert said == [("03 09:30", "03 18:00"), ("04 08:00", "04 21:30")]
    late, _ = hours_until(eaten, eaten - timedelta(hours=2), time(8), time(18))
    assert late.now == late.eaten - 120
    night, clock = hours_until(
        datetime(2027, 3, 4, 1, 0, tzinfo=CENTRAL), datetime(2027, 1, 1, tzinfo=UTC)
    )
    assert [clock.moment(a).strftime("%H:%M") for a, _ in night.open][-1] == "19:00"


def test_a_step_names_what_is_something_else_now(knowledge: Knowledge) -> None:
    before = dish(
        knowledge,
        "Dip\n100 g tahini\n1 tsp Dijon mustard\n1/2 tsp salt\nMethod\nWhisk the tahini and"
        " mustard.",
    )
    mustard = before.recipe.lines[1]
    former = {mustard.id: mustard.named}
    other = replace(
        mustard,
        id="l9",
        food="mustard-no-salt",
        named="unsalted mustard",
        text="1 tsp unsalted mustard",
    )
    swapped = replace(before.recipe, lines=(before.recipe.lines[0], other, before.recipe.lines[2]))
    tasks = dish_tasks(
        appraise(swapped, knowledge, former), 2, knowledge.work, Kitchen(), 0, former
    )
    assert tasks[0].changed == "Dijon mustard is unsalted mustard here"
    assert tasks[1].text == "Stir in salt: no step of the method names it"
    gone = replace(before.recipe, lines=(before.recipe.lines[0],))
    tasks = dish_tasks(appraise(gone, knowledge, former), 2, knowledge.work, Kitchen(), 0, former)
    assert tasks[0].changed == "no Dijon mustard in this version"
