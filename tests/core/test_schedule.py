"""The order of work, against a checker that knows nothing of how it was made: it walks through the
day minute by minute."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.service.clock import AHEAD, MOST_AHEAD, ahead_for
from fresh_ladle.core.service.schedule import (
    SAME_OVEN_CELSIUS,
    Hours,
    Impossible,
    OrderAsk,
    Placed,
    Schedule,
    minutes_left,
    schedule,
)
from fresh_ladle.core.service.task import Kitchen, Task
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.service.windows import TABLE_MINUTES
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.service.demo import demo_recipes

NOON = 1440 + 12 * 60
HOURS = Hours(NOON, ((8 * 60, 18 * 60), (1440 + 6 * 60, NOON)))
"""The day before from 8 to 18, and from 6 on the day itself."""


def faults(found: Schedule, tasks: Sequence[Task], kitchen: Kitchen, hours: Hours) -> list[str]:
    """Whatever in a day could not be done so."""
    said = []
    if sorted(p.task.id for p in found.placed) != sorted(t.id for t in tasks):
        said.append("a task is missing or stands there twice")
    said += [fault for p in found.placed for fault in faults_of_one(p, found, hours)]
    for minute in range(0, hours.eaten):
        said += [f"{fault} at {minute}" for fault in faults_at(minute, found, kitchen)]
    return sorted(set(said))


def faults_of_one(placed: Placed, found: Schedule, hours: Hours) -> list[str]:
    task, start, end = placed.task, placed.start, placed.end
    ends = {p.task.id: p.end for p in found.placed}
    late = [before for before in task.after if before in ends and ends[before] > start]
    wrong = {
        f"before {late}": bool(late),
        "too early": task.from_minutes is not None and start < hours.eaten - task.from_minutes,
        "out of the day": end > hours.eaten or start < hours.now,
        "while the kitchen is closed": not any(
            a <= start and placed.hands_free <= b for a, b in hours.open
        ),
        "takes another time": (
            end - start != task.active + task.waiting or placed.hands_free - start < task.active
        ),
    }
    return [f"{task.text}: {word}" for word, is_so in wrong.items() if is_so]


def faults_at(minute: int, found: Schedule, kitchen: Kitchen) -> list[str]:
    at_work = [p.cook for p in found.placed if p.start <= minute < p.hands_free]
    now = [p.task for p in found.placed if p.start <= minute < p.end]
    used = {name: [t for t in now if t.uses == name] for name in ("oven", "burner", "blender")}
    heats = [t.celsius for t in used["oven"] if t.celsius is not None]
    trays = kitchen.ovens * kitchen.trays
    wrong = {
        "a cook does two things": len(set(at_work)) != len(at_work) or len(at_work) > kitchen.cooks,
        "more trays than the oven holds": sum(min(t.demand, trays) for t in used["oven"]) > trays,
        "one oven at two heats": (
            kitchen.ovens == 1 and len(heats) > 1 and max(heats) - min(heats) > 10
        ),
        "more pots than burners": (
            sum(min(t.demand, kitchen.burners) for t in used["burner"]) > kitchen.burners
        ),
        "one blender twice": len(used["blender"]) > 1,
    }
    return [word for word, is_so in wrong.items() if is_so]


def tasks_of(
    dishes: Sequence[Appraisal], servings: float, knowledge: Knowledge, kitchen: Kitchen
) -> list[Task]:
    found: list[Task] = []
    for one in dishes:
        found += dish_tasks(
            one, servings / one.recipe.servings, knowledge.work, kitchen, len(found)
        )
    return found


@pytest.fixture(scope="module")
def dishes(knowledge: Knowledge) -> dict[str, Appraisal]:
    return {recipe.title: appraise(recipe, knowledge) for recipe in demo_recipes(knowledge)}


def test_three_dishes_for_forty_by_two_cooks(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    kitchen = Kitchen(cooks=2)
    three = [a for name, a in dishes.items() if name.startswith(("Lentil", "Charred", "Celery"))]
    tasks = tasks_of(three, 40, knowledge, kitchen)
    found = schedule(tasks, kitchen, HOURS)
    assert isinstance(found, Schedule)
    assert faults(found, tasks, kitchen, HOURS) == []
    assert found == schedule(tasks, kitchen, HOURS), "the same day gives the same plan"


def test_the_checker_finds_what_is_wrong(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    kitchen = Kitchen(cooks=2)
    tasks = tasks_of(
        [a for name, a in dishes.items() if name.startswith("Lentil")], 40, knowledge, kitchen
    )
    found = schedule(tasks, kitchen, HOURS)
    assert isinstance(found, Schedule)
    first, *rest = found.placed
    late = replace(
        first,
        start=NOON - 5,
        hands_free=NOON - 5 + first.task.active,
        end=NOON - 5 + first.task.minutes,
    )
    assert faults(Schedule((late, *rest)), tasks, kitchen, HOURS)
    assert faults(Schedule(tuple(rest)), tasks, kitchen, HOURS)
    one_cook = tuple(replace(p, cook=0) for p in found.placed)
    assert any("two things" in fault for fault in faults(Schedule(one_cook), tasks, kitchen, HOURS))


@settings(max_examples=12, deadline=None)
@given(data=st.data())
def test_any_day_that_is_found_can_be_done(
    dishes: dict[str, Appraisal], knowledge: Knowledge, data: st.DataObject
) -> None:
    kitchen = Kitchen(
        cooks=data.draw(st.integers(1, 4)),
        ovens=data.draw(st.integers(1, 2)),
        trays=data.draw(st.integers(1, 3)),
        burners=data.draw(st.integers(1, 4)),
        blender_ml=data.draw(st.sampled_from([600.0, 1500.0, 4000.0])),
    )
    chosen = data.draw(
        st.lists(st.sampled_from(sorted(dishes)), min_size=1, max_size=4, unique=True)
    )
    tasks = tasks_of(
        [dishes[name] for name in chosen], data.draw(st.integers(2, 80)), knowledge, kitchen
    )
    found = schedule(tasks, kitchen, HOURS)
    if isinstance(found, Schedule):
        assert faults(found, tasks, kitchen, HOURS) == []
    else:
        assert found.why


def baked(number: int, celsius: float) -> Task:
    return Task(
        number, "Dish", "", f"Bake {number}", "bake", (), 5, 55, False, "oven", celsius, (), True
    )


def test_what_cannot_be_is_named_with_what_would_do() -> None:
    """Two heats in one oven, an hour each, begun 80 minutes before: with another oven, or an hour
    later, it works."""
    tasks, late = [baked(0, 180), baked(1, 220)], replace(HOURS, now=NOON - 80)
    found = schedule(tasks, Kitchen(), late)
    assert isinstance(found, Impossible)
    assert found.why == "the oven is needed more than once at a time"
    assert found.would_do == ("one more oven",)
    assert found.later == 60
    assert isinstance(schedule(tasks, Kitchen(ovens=2), late), Schedule)
    same_heat = [baked(0, 180), baked(1, 180)]
    assert isinstance(schedule(same_heat, Kitchen(), late), Schedule)


def test_what_takes_longer_than_there_is_says_so() -> None:
    found = schedule([baked(0, 180)], Kitchen(), replace(HOURS, now=NOON - 40))
    assert isinstance(found, Impossible)
    takes = "takes 1 h, one after the other: longer than there is until it is eaten"
    assert found.why == f"“Bake 0”, with what waits for it, {takes}"
    assert found.would_do == ()
    assert found.later == 30


def test_made_again_from_now_without_what_is_done(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    kitchen = Kitchen(cooks=2)
    three = [a for name, a in dishes.items() if name.startswith(("Lentil", "Charred", "Celery"))]
    tasks = tasks_of(three, 40, knowledge, kitchen)
    first = schedule(tasks, kitchen, HOURS)
    assert isinstance(first, Schedule)
    now = 1440 + 10 * 60 + 40
    done = {p.task.id for p in first.placed if p.end <= now}
    left = [t for t in tasks if t.id not in done]
    again = schedule(left, kitchen, replace(HOURS, now=now))
    assert isinstance(again, Schedule) or again.later is not None
    if isinstance(again, Schedule):
        assert (
            faults(
                again,
                [replace(t, after=tuple(a for a in t.after if a not in done)) for t in left],
                kitchen,
                HOURS,
            )
            == []
        )


def test_orders_of_a_dish(dishes: dict[str, Appraisal], knowledge: Knowledge) -> None:
    """A person's reading of the lentil salad: what must come before what."""
    salad = next(a for name, a in dishes.items() if name.startswith("Lentil"))
    tasks = dish_tasks(salad, 40 / 6, knowledge.work, Kitchen(cooks=2))

    def before(task: int) -> set[int]:
        after = next(t.after for t in tasks if t.id == task)
        return set(after).union(*(before(a) for a in after)) if after else set()

    by_verb = {task.verb: task.id for task in tasks}
    assert {by_verb["boil"], by_verb["cool"], by_verb["soak"], by_verb["whisk"]} <= before(
        by_verb["toss"]
    )
    assert by_verb["dice"] in before(by_verb["soak"])
    assert by_verb["boil"] not in before(by_verb["whisk"]), "the dressing waits for no lentil"
    assert before(by_verb["portion"]) == {t.id for t in tasks} - {by_verb["portion"]}


def test_leaves_are_dressed_at_the_last(dishes: dict[str, Appraisal], knowledge: Knowledge) -> None:
    salad = next(a for name, a in dishes.items() if name.startswith("Chicory"))
    tasks = dish_tasks(salad, 10, knowledge.work, Kitchen(cooks=2))
    toss = next(t for t in tasks if t.verb == "toss")
    assert toss.from_minutes is not None
    assert toss.from_minutes <= 30
    assert toss.in_rounds, "forty plates are not dressed at once"
    found = schedule(tasks, Kitchen(cooks=2), HOURS)
    assert isinstance(found, Schedule)


def test_a_chain_that_takes_longer_than_it_may_is_named_and_one_that_fits_is_not() -> None:
    def of(minutes: int) -> tuple[Task, ...]:
        mash = replace(
            baked(0, 200.0), uses="", waiting=0, text="Mash the avocado", active=3, from_minutes=60
        )
        return mash, replace(
            baked(1, 200.0), uses="", waiting=0, text="Portion the dip", active=minutes, after=(0,)
        )

    hours = Hours(600, ((0, 600),))
    found = schedule(of(48), Kitchen(), hours)
    assert isinstance(found, Impossible)
    assert found.why.startswith("“Mash the avocado” may begin 1 h before eating")
    assert found.why.endswith("it takes 1 h 1 min")
    assert isinstance(schedule(of(47), Kitchen(), hours), Schedule)


def task(number: int, dish: str = "Salad", minutes: int = 10, **more: object) -> Task:
    """A task of a cook's hands that waits for nothing."""
    plain = Task(
        number, dish, "", f"task {number}", "stir", (), minutes, 0, True, "", None, (), True
    )
    return replace(plain, **more)  # type: ignore[arg-type]


def test_everything_is_done_as_late_as_it_can_be() -> None:
    done_by = NOON - TABLE_MINUTES
    alone = schedule([task(0)], Kitchen(), HOURS)
    assert isinstance(alone, Schedule)
    assert [p.end for p in alone.placed] == [done_by]
    two = schedule([task(0), task(1, after=(0,))], Kitchen(), HOURS)
    assert isinstance(two, Schedule)
    assert [(p.start, p.end) for p in two.placed] == [
        (done_by - 20, done_by - 10),
        (done_by - 10, done_by),
    ]


@pytest.mark.parametrize(
    ("apart", "together"), [(SAME_OVEN_CELSIUS, True), (SAME_OVEN_CELSIUS + 1, False)]
)
def test_one_oven_takes_two_trays_at_heats_that_are_near(apart: float, together: bool) -> None:
    trays = [
        task(n, uses="oven", celsius=180 + n * apart, attended=False, active=1, waiting=30)
        for n in (0, 1)
    ]
    found = schedule(trays, Kitchen(cooks=2, ovens=1, trays=2), HOURS)
    assert isinstance(found, Schedule)
    first, second = sorted(found.placed, key=lambda p: p.start)
    assert (second.start < first.end) is together
    assert isinstance(schedule(trays, Kitchen(cooks=2, ovens=2, trays=1), HOURS), Schedule)


def test_a_cook_stays_with_the_dish_that_was_begun() -> None:
    tasks = (task(0, "Salad"), task(1, "Dip"), task(2, "Dip"), task(3, "Salad"))
    found = OrderAsk(tasks, Kitchen(cooks=2), HOURS).schedule_from({0: 100, 1: 100, 2: 120, 3: 121})
    cook = {p.task.id: p.cook for p in found.placed}
    assert cook[0] != cook[1]
    assert (cook[2], cook[3]) == (cook[1], cook[0])


def test_work_of_days_begins_as_many_days_before_and_no_long_wait_is_too_early(
    reader: Reader, knowledge: Knowledge
) -> None:
    text = (
        "Sprout salad\nServes 4\n150 g green lentils\n1 carrot\n\nSoak the lentils for 12 hours."
        " Drain and let them sprout for 2 days.\nGrate the carrot. Toss the sprouts with the"
        " carrot."
    )
    dish = appraise(read_recipe(text, reader).recipe, knowledge)
    tasks = {t.text: t for t in dish_tasks(dish, 1.0, knowledge.work, Kitchen())}
    assert tasks["Soak the lentils for 12 hours"].from_minutes is None
    assert tasks["Let them sprout for 2 days"].waiting == 2880
    chain = max(minutes_left(list(tasks.values())).values())
    assert ahead_for(chain) == AHEAD + timedelta(days=2)


@pytest.mark.parametrize(
    ("minutes", "ahead"),
    [
        (1440, AHEAD),
        (1441, AHEAD + timedelta(days=1)),
        (2880, AHEAD + timedelta(days=2)),
        (60_000, MOST_AHEAD),
    ],
)
def test_how_long_before_a_meal_work_may_begin(minutes: int, ahead: timedelta) -> None:
    assert ahead_for(minutes) == ahead
