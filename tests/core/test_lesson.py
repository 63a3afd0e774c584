"""A class: its parts fill its minutes, nobody waits for heat, and the tables' amounts come to what
is bought."""

from __future__ import annotations

from collections import defaultdict
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.schedule import Schedule
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.teaching.lesson import HANDS, ClassAsk, Lesson, lesson
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.service.demo import demo_recipes

THREE = datetime(2027, 3, 4, 15, tzinfo=ZoneInfo("CET"))


@pytest.fixture(scope="module")
def dishes(knowledge: Knowledge) -> dict[str, Appraisal]:
    return {recipe.title: appraise(recipe, knowledge) for recipe in demo_recipes(knowledge)}


def planned(
    dish: Appraisal, knowledge: Knowledge, minutes: int = 45, tables: int = 6, at_table: int = 4
) -> Lesson:
    ask = ClassAsk(THREE, minutes, tables, at_table)
    now = THREE.astimezone(UTC) - timedelta(hours=37)
    return lesson(dish, dish, ask, knowledge.work, knowledge.handouts.class_blocks, now)


@pytest.mark.parametrize(
    ("minutes", "tables", "at_table"), [(20, 1, 1), (45, 6, 4), (60, 3, 8), (90, 12, 2)]
)
def test_every_demo_dish_makes_a_class(
    minutes: int, tables: int, at_table: int, dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    for title, dish in dishes.items():
        found = planned(dish, knowledge, minutes, tables, at_table)
        ends = [0, *(part.end for part in found.parts)]
        assert [part.start for part in found.parts] == ends[:-1], title
        assert ends[-1] == minutes
        names = [part.block.id for part in found.parts]
        assert names[:3] == ["welcome", "wash", "usual"]
        assert names[-2:] == ["plate", "card"]
        work = next(part for part in found.parts if part.block.id == "work")
        assert max((p.end for p in found.at_tables), default=0) <= work.end - work.start, title
        assert isinstance(found.before, Schedule), title
        begins = found.clock.minute(THREE)
        assert all(p.end <= begins for p in found.before_placed), (
            "what is done before is over before"
        )
        check_tables(found, dish, knowledge)


def check_tables(found: Lesson, dish: Appraisal, knowledge: Knowledge) -> None:
    """Independent of the planner: every task once, none before what it waits for, no heat at a
    table, hands enough."""
    tasks = dish_tasks(dish, found.ask.at_table / dish.totals.servings, knowledge.work, Kitchen())
    at_tables, early = (
        {p.task.id: p for p in found.at_tables},
        {p.task.id for p in found.before_placed},
    )
    assert {task.id for task in tasks} == set(at_tables) | early
    assert not set(at_tables) & early
    for task in tasks:
        for before in task.after:
            if task.id in early:
                assert before in early, "nothing done before waits for the class"
            elif before in at_tables:
                assert at_tables[before].end <= at_tables[task.id].start
        if task.id in at_tables:
            assert task.uses not in ("oven", "burner"), "nobody waits for the oven"
    for minute in range(max((p.end for p in found.at_tables), default=0)):
        assert sum(p.start <= minute < p.hands_free for p in found.at_tables) <= min(
            HANDS, found.ask.at_table
        )


def test_amounts_of_the_tables_come_to_what_is_bought(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    for dish in dishes.values():
        found = planned(dish, knowledge)
        assert found.sets == 7, "six tables, and the educator's own"
        used: dict[str, float] = defaultdict(float)
        for line in found.table_lines:
            used[line.food or ""] += line.grams.value * found.sets
        for one in found.shopping:
            trim = one.food.edible_share
            assert one.grams.value >= used[one.food.key] - 1e-6
            if trim is None:
                assert one.grams.value == pytest.approx(used[one.food.key])
        whole = sum(p.measured.value for p in dish.portions) * 4 / dish.totals.servings * 7
        assert sum(used.values()) == pytest.approx(whole)


def test_what_a_dish_gives_to_talk_about(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    def blocks(title: str) -> set[str]:
        return {part.block.id for part in planned(dishes[title], knowledge, 90).parts}

    tahini = blocks("Lemon-tahini pour-over")
    assert {"seeds", "acid"} <= tahini
    assert not {"leaves", "massage", "rinse"} & tahini
    beans = blocks("Artichoke and white-bean dip")
    assert "rinse" in beans
    assert "seeds" not in beans
    assert "measure" not in blocks("Orange and ginger splash"), "there is no oil in it"
    assert "cost" not in beans, "without prices nothing is said of cost"


def test_the_oven_goes_on_before_anybody_comes(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    roasted = planned(dishes["Charred carrot and harissa dip"], knowledge)
    assert roasted.oven_on is not None
    assert roasted.oven_on < THREE
    assert [b.instead for b in roasted.by_hand if "oast" in b.step]
    assert planned(dishes["Lemon-tahini pour-over"], knowledge).oven_on is None


@pytest.mark.parametrize(
    ("minutes", "tables", "people"), [(19, 6, 4), (91, 6, 4), (45, 0, 4), (45, 31, 4), (45, 6, 13)]
)
def test_a_class_that_cannot_be(minutes: int, tables: int, people: int) -> None:
    with pytest.raises(RecipeError, match="a class has"):
        ClassAsk(THREE, minutes, tables, people)
