"""What steps must reach stands at the step; what may not be served to guests at risk is refused,
with what would do."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.card.steps import card_steps
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.hold.at_risk import refused_at_risk
from fresh_ladle.core.hold.temperature import RecordKind
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.day import Ask, ServiceDish, check_at_risk, planned_service
from fresh_ladle.core.service.readings import readings_due
from fresh_ladle.core.service.schedule import Placed
from fresh_ladle.core.service.steps import method_steps
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.reach import load_reach

COLD = "21 °C (70 °F) within 2 hours, 5 °C (41 °F) within 6"
CASES = [
    (
        "500 g raw chicken breasts",
        "Poach the chicken 15 minutes. Cool it.",
        "Poach the chicken 15 minutes",
        "74 °C",
    ),
    ("2 cups cooked chicken", "Warm the chicken.", "", ""),
    (
        "1 lb ground beef",
        "Fry the beef until browned.",
        "Fry the beef until browned",
        "71 °C (160 °F) all through",
    ),
    ("50 g ground walnuts", "Fry the walnuts.", "", ""),
    (
        "400 g salmon fillet",
        "Bake the salmon 15 minutes.",
        "Bake the salmon 15 minutes",
        "63 °C (145 °F) inside",
    ),
    ("1 can salmon, drained", "Warm the salmon.", "", ""),
    (
        "3 eggs\n1 cup milk",
        "Whisk the eggs and milk. Simmer until thick.",
        "Simmer until thick",
        "71 °C",
    ),
    ("3 eggs", "Boil the eggs 11 minutes.", "", ""),
    (
        "1 cup dry kidney beans",
        "Soak overnight. Boil for an hour.",
        "Boil for an hour",
        "a hard boil for 30 minutes",
    ),
    ("1 can kidney beans, drained", "Boil the beans 5 minutes.", "", ""),
    ("1 cup dry farro", "Boil the farro 25 minutes. Cool it on a tray.", "Cool it on a tray", COLD),
    ("1 can chickpeas, drained", "Cool the chickpeas.", "", ""),
]


def read(text: str, reader: Reader, knowledge: Knowledge) -> Appraisal:
    return appraise(read_recipe(text, reader).recipe, knowledge)


@pytest.mark.parametrize(("lines", "method", "step", "words"), CASES, ids=[c[0] for c in CASES])
def test_what_a_step_must_reach_stands_at_it_and_at_no_other(
    lines: str, method: str, step: str, words: str, reader: Reader, knowledge: Knowledge
) -> None:
    dish = read(f"Dish\nServes 4\n{lines}\n\nMethod\n{method}", reader, knowledge)
    found = {
        dish.process.operations[number].text: tuple(reach.words for reach in said)
        for number, said in dish.reach.items()
    }
    if not step:
        assert not found
        return
    assert any(said.startswith(words) for said in found[step])
    (of_step,) = [s for s in method_steps(dish) if step in s.text]
    assert set(found[step]) <= set(of_step.reach)
    assert all(f"reach {said}" in card_steps(dish, {})[0].note for said in found[step])
    tasks = dish_tasks(dish, 1.0, knowledge.work, Kitchen())
    of_task = next(task.reach for task in tasks if task.text == step)
    assert tuple(reach.words for reach in of_task) == found[step]


def test_every_reach_has_its_words_and_its_source() -> None:
    for rule in load_reach():
        assert rule.words
        assert rule.source
        assert rule.verbs


RISKY = [
    ("2 egg yolks\n1 cup olive oil", "pasteurized egg", "2 pasteurized eggs\n1 cup olive oil"),
    ("300 g raw salmon", "cooked to 63 °C", "1 can salmon, drained"),
    ("1 cup alfalfa sprouts", "steaming hot", "1 cup romaine lettuce"),
    ("1 cup unpasteurized apple juice", "pasteurized juice", "1 cup apple juice"),
]


@pytest.mark.parametrize(("lines", "possible", "instead"), RISKY, ids=[c[0] for c in RISKY])
def test_what_is_raw_is_refused_to_guests_at_risk_with_what_would_do(
    lines: str, possible: str, instead: str, reader: Reader, knowledge: Knowledge
) -> None:
    def planned(text: str, at_risk: bool) -> None:
        dish = read(f"Dish\nServes 4\n{text}", reader, knowledge)
        eaten = datetime(2027, 3, 4, 12, tzinfo=ZoneInfo("Europe/Paris"))
        ask = Ask((ServiceDish(dish, 12),), eaten, Kitchen(), at_risk)
        check_at_risk(
            planned_service(ask, knowledge.work, eaten.astimezone(UTC) - timedelta(days=3))
        )

    with pytest.raises(RecipeError, match="not served to guests at risk") as refused:
        planned(lines, at_risk=True)
    assert possible in str(refused.value)
    planned(lines, at_risk=False)
    planned(instead, at_risk=True)
    assert refused_at_risk(read(f"Dish\nServes 4\n{instead}", reader, knowledge)) == ""


def test_a_day_asks_for_its_readings_at_the_stove_and_in_both_stages_of_cooling(
    reader: Reader, knowledge: Knowledge
) -> None:
    lines = "500 g raw chicken breasts\n1 cup dry farro"
    method = (
        "Poach the chicken 15 minutes.\nBoil the farro 25 minutes. Cool it on a tray for 8 hours."
        " Stir in the chicken."
    )
    dish = read(f"Dish\nServes 4\n{lines}\n\nMethod\n{method}", reader, knowledge)
    placed, at = [], 0
    for task in dish_tasks(dish, 1.0, knowledge.work, Kitchen()):
        placed.append(Placed(task, at, at + task.active, at + task.minutes, 0))
        at += task.minutes
    poached = next(p for p in placed if p.task.text.startswith("Poach"))
    cooled = next(p for p in placed if p.task.text.startswith("Cool"))
    due = readings_due(placed, at)
    assert {(r.minute, r.kind) for r in due} == {
        (poached.end, None),
        (cooled.start + 120, RecordKind.COOLING),
        (cooled.start + 360, RecordKind.COOLING),
    }
    assert [r.minute for r in due] == sorted(r.minute for r in due)
    assert "74 °C" in next(r.words for r in due if r.kind is None)
    assert [r.words.split(": ")[1] for r in due if r.kind] == [
        "21 °C or below by then",
        "5 °C or below by then",
    ]
    assert all(r.minute <= cooled.start + 200 for r in readings_due(placed, cooled.start + 200))
