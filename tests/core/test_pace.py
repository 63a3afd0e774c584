"""What a kitchen learns from the steps it timed: nothing from none, little from one, most from
many."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.day import Ask, Service, ServiceDish, planned_service, task_of
from fresh_ladle.core.service.pace import Minutes, TimedStep, at_own_pace, paces
from fresh_ladle.core.service.schedule import Schedule
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from tests.service.demo import demo_recipes

NOON = datetime(2027, 3, 4, 12, tzinfo=ZoneInfo("CET"))


@pytest.fixture(scope="module")
def dishes(knowledge: Knowledge) -> dict[str, Appraisal]:
    return {recipe.title: appraise(recipe, knowledge) for recipe in demo_recipes(knowledge)}


def test_the_pace_of_a_verb_worked_by_hand() -> None:
    """One step at twice the table's time counts a third of the way, on a scale of ratios: 2 to the
    power of 1/3."""
    assert paces([]) == {}
    pace, times = paces([TimedStep("dice", 6, 12)])["dice"]
    assert (pace, times) == (pytest.approx(2 ** (1 / 3)), 1)
    many = paces([TimedStep("dice", 6, 12)] * 30)["dice"][0]
    assert 1.9 < many < 2
    assert paces([TimedStep("dice", 6, 12), TimedStep("dice", 6, 3)])["dice"][0] == pytest.approx(1)
    assert paces([TimedStep("dice", 1, 600)] * 40)["dice"][0] < 4, (
        "one forgotten clock does not rule"
    )


@given(st.lists(st.floats(0.5, 60), min_size=1, max_size=9), st.floats(0.3, 3))
def test_a_pace_lies_between_the_table_and_what_was_timed(usual: list[float], ratio: float) -> None:
    pace, _ = paces([TimedStep("chop", minutes, minutes * ratio) for minutes in usual])["chop"]
    assert min(1, ratio) - 1e-9 <= pace <= max(1, ratio) + 1e-9


def test_a_learned_pace_moves_its_verb_and_no_other(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    salad = dishes["Lentil and fennel salad"]
    slow = at_own_pace(knowledge.work, {"slice thinly": (3.0, 9)})
    before = dish_tasks(salad, 40 / 6, knowledge.work, Kitchen())
    after = dish_tasks(salad, 40 / 6, slow, Kitchen())
    for one, other in zip(before, after, strict=True):
        if one.verb == "slice thinly":
            assert other.active == pytest.approx(3 * one.active, abs=3)
            assert other.timed == 9
            assert other.usual == one.usual, "what is learned next is measured against the tables"
        else:
            assert one == other
    assert any(one.verb == "slice thinly" for one in before)


def service(dishes: dict[str, Appraisal], knowledge: Knowledge, **changed: object) -> Service:
    dish = ServiceDish(dishes["Lentil and fennel salad"], 40, waits=changed.pop("waits", {}))  # type: ignore[arg-type]
    ask = Ask((dish,), NOON, Kitchen(cooks=2), **changed)  # type: ignore[arg-type]
    return planned_service(ask, knowledge.work, NOON.astimezone(UTC) - timedelta(hours=40))


def test_minutes_that_somebody_set_hold_in_the_day(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    first = service(dishes, knowledge)
    boil = next(t for t in first.plans[0].tasks if t.verb == "boil")
    changed = service(dishes, knowledge, minutes={boil.id: Minutes(7, 44)})
    owner = task_of(changed, boil.id)
    assert owner is not None
    assert owner[0] == 0
    assert (owner[1].active, owner[1].waiting, owner[1].said) == (7, 44, True)
    assert isinstance(changed.order, Schedule)
    placed = next(p for p in changed.order.placed if p.task.id == boil.id)
    assert placed.end - placed.start == 51
    assert task_of(changed, 9999) is None


def test_a_wait_that_was_timed_is_remembered_by_the_words_of_its_step(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    words = next(t.text for t in service(dishes, knowledge).plans[0].tasks if t.verb == "boil")
    remembered = service(dishes, knowledge, waits={words: 55, "Boil something else": 99})
    assert [t.waiting for t in remembered.plans[0].tasks if t.verb == "boil"] == [55]


@pytest.mark.parametrize(("active", "waiting"), [(0, 10), (-3, 0), (601, 0), (5, -1), (5, 9999)])
def test_minutes_that_no_step_takes(active: int, waiting: int) -> None:
    with pytest.raises(RecipeError, match="a step takes 1 to 600 minutes"):
        Minutes(active, waiting)


def test_a_chilled_dip_stands_out_twenty_minutes_before_it_is_eaten(
    dishes: dict[str, Appraisal], knowledge: Knowledge
) -> None:
    out = {
        title: [
            t
            for t in dish_tasks(dish, 5, knowledge.work, Kitchen())
            if "out of the refrigerator" in t.text
        ]
        for title, dish in dishes.items()
    }
    chilled = {title for title, found in out.items() if found}
    assert chilled
    for title, dish in dishes.items():
        cold = dish.recipe.kind.endswith("dip") and any(
            "hill" in step for step in dish.recipe.method
        )
        assert (title in chilled) == cold, title
    assert all(
        found[0].waiting == 20 and found[0].from_minutes == 60 for found in out.values() if found
    )


def test_what_goes_on_a_chilled_dip_at_the_last_moment_goes_on_when_it_stands_out(
    knowledge: Knowledge,
) -> None:
    text = (
        "Bean dip\nServes 8\n2 cans black beans, drained\n2 Tbsp olive oil\na handful of"
        " cilantro\n\nMethod\nBlend the beans with the oil.\nChill 1 h. Scatter the cilantro over"
        " it just before serving."
    )
    reader = Reader(knowledge.pantry, knowledge.preparations)
    dip = ServiceDish(appraise(read_recipe(text, reader).recipe, knowledge), 40)
    found = planned_service(
        Ask((dip,), NOON, Kitchen()), knowledge.work, NOON.astimezone(UTC) - timedelta(hours=40)
    )
    assert isinstance(found.order, Schedule)
    ends = {p.task.text: (p.start, p.end) for p in found.order.placed}
    out = ends["Take bean dip out of the refrigerator"]
    scatter = next(ends[words] for words in ends if words.startswith("Scatter"))
    assert ends["Chill 1 h"][1] <= out[0]
    assert out[1] <= scatter[0]
