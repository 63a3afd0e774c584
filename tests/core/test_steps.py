"""Steps of a method tied to lines: what was read of each, and what no longer fits after a swap or a
line taken out."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.service.steps import MethodStep, method_steps
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.service.times import stretch_words
from fresh_ladle.core.service.usual import USUAL
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

TEXT = """Squash and yogurt dip
Serves 6
500 g butternut squash, cubed
2 tbsp olive oil
150 g Greek yogurt
1 tbsp lemon juice

Method
Heat the oven to 200 °C. Toss the squash with the oil and roast it 25 to 35 min.
Blend everything with the yogurt and lemon for 90 s.
Think of summer.
"""


@pytest.fixture
def dip(knowledge: Knowledge) -> Appraisal:
    return appraise(
        read_recipe(TEXT, Reader(knowledge.pantry, knowledge.preparations)).recipe, knowledge
    )


def steps(
    dish: Appraisal, knowledge: Knowledge, original: Appraisal | None = None
) -> list[MethodStep]:
    former = former_names(original.recipe, dish.recipe) if original else None
    return method_steps(appraise(dish.recipe, knowledge, former), former)


def test_each_step_has_its_times_heat_equipment_and_lines(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    roast, blend, idle = steps(dip, knowledge)
    assert (roast.times, roast.celsius, roast.uses) == (("25 to 35 min",), (200.0,), ("oven",))
    assert [line.id for line in dip.recipe.lines][:2] == list(roast.lines)
    assert (blend.times, blend.uses) == (("90 s",), ("blender",))
    assert len(blend.names) == 4
    assert not idle.read
    assert (idle.names, idle.times) == ((), ())


def test_a_line_swapped_or_gone_shows_in_the_step_that_used_it_and_in_no_other(
    dip: Appraisal, knowledge: Knowledge
) -> None:
    assert [step.changed for step in steps(dip, knowledge, dip)] == ["", "", ""]
    yogurt = dip.recipe.lines[2]
    silken = replace(yogurt, text="150 g silken tofu", named="silken tofu", food="tofu-silken-firm")
    swapped = appraise(dip.recipe.with_line(silken), knowledge)
    assert [step.changed for step in steps(swapped, knowledge, dip)] == [
        "",
        "Greek yogurt is silken tofu here",
        "",
    ]
    gone = appraise(replace(dip.recipe, lines=dip.recipe.lines[:3]), knowledge)
    assert [step.changed for step in steps(gone, knowledge, dip)] == ["", "", ""]
    without_yogurt = appraise(
        replace(dip.recipe, lines=(*dip.recipe.lines[:2], dip.recipe.lines[3])), knowledge
    )
    assert steps(without_yogurt, knowledge, dip)[1].changed == "no Greek yogurt in this version"


@pytest.mark.parametrize(
    ("low", "high", "said"),
    [(1.5, 1.5, "90 s"), (25, 35, "25 to 35 min"), (120, 120, "2 h"), (120, 180, "2 to 3 h"),
     (90, 150, "1 h 30 min to 2 h 30 min"), (1, 1, "1 min")],
)  # fmt: skip
def test_a_stretch_of_time_as_a_method_says_it(low: float, high: float, said: str) -> None:
    assert stretch_words(Range((low + high) / 2, low, high)) == said


@pytest.mark.parametrize(
    ("page", "steps"),
    [
        (
            "Bean salad\n1 can chickpeas\n2 tbsp olive oil\n1 tbsp vinegar",
            [("whisk", 2), ("toss", 3)],
        ),
        ("Leafy salad\n100 g arugula\n1 tbsp olive oil", [("toss", 2)]),
        ("Hummus\n1 can chickpeas\n2 tbsp tahini", [("purée", 2)]),
        ("Yogurt dip\n200 g yogurt\n1 tbsp dill", [("stir", 2)]),
        ("Guacamole\n2 avocados\n1 tbsp lime juice", [("mash", 2)]),
        ("Vinaigrette\n3 tbsp olive oil\n1 tbsp vinegar\n1 tsp mustard", [("whisk", 3)]),
        ("Bean salad\n1 can chickpeas", []),
    ],
)
def test_a_dish_without_a_method_is_made_the_usual_way_and_says_so(
    page: str, steps: list[tuple[str, int]], reader: Reader, knowledge: Knowledge
) -> None:
    dish = appraise(read_recipe(page, reader).recipe, knowledge)
    *work, portioned = dish_tasks(dish, 1.0, knowledge.work, Kitchen())
    usual = [task for task in work if task.text.endswith(USUAL)]
    assert [(task.verb, len(task.lines)) for task in usual] == steps
    assert all(
        later.after == (earlier.id,) for earlier, later in pairwise([*usual, portioned]) if usual
    )
