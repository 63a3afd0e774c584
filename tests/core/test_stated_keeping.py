"""A stated keep time is held against the rule: the shorter is printed, once."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.card.content import CardChoices, card_of
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.hold.keeping import keeping
from fresh_ladle.core.hold.stated_keeping import stated_freezing, stated_keeping
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

BEANS = (
    "White bean salad\nServes 4\n1 can white beans\n1 clove garlic\n2 tbsp olive oil\n1 tbsp"
    " vinegar\n"
)
SAID = [
    ("Keeps a week in the fridge.", 7, 3),
    ("It will keep for up to 10 days, covered.", 10, 3),
    ("Best eaten within 2 days.", 2, 2),
    ("Keeps for a month.", 30, 3),
    ("Lasts two to three months.", 90, 3),
    ("Store in the refrigerator for 3 to 4 days.", 4, 3),
    ("Can be made 5 days ahead.", 5, 3),
    ("Keeps indefinitely.", 3650, 3),
    ("Refrigerate for up to two weeks.", 14, 3),
    ("Leftovers keep one day.", 1, 1),
]
NOT_SAID = ["Chill for 2 hours.", "Serve at once.", "Tastes better the next day."]


@pytest.fixture
def beans(reader: Reader, knowledge: Knowledge) -> Appraisal:
    return appraise(read_recipe(BEANS, reader).recipe, knowledge)


def saying(beans: Appraisal, words: str, knowledge: Knowledge) -> Appraisal:
    return appraise(
        replace(beans.recipe, method=(f"Toss the beans with the rest. {words}",)), knowledge
    )


@pytest.mark.parametrize(("words", "stated", "days"), SAID, ids=[one[0] for one in SAID])
def test_the_shorter_counts_and_stands_on_the_card_once(
    words: str, stated: float, days: int, beans: Appraisal, knowledge: Knowledge
) -> None:
    dish = saying(beans, words, knowledge)
    assert [one.days for one in stated_keeping(dish.process)] == [stated]
    assert keeping(beans, knowledge.work).days == 3
    assert keeping(dish, knowledge.work).days == days
    card = card_of(dish, dish, CardChoices(), knowledge)
    assert card.steps[0].text == "Toss the beans with the rest."
    assert card.keeps.startswith(f"Keeps {days} day")
    assert ("as the recipe says" in card.keeps) == (stated < 3)
    assert (f"The recipe says “{words.rstrip('.')}”: the shorter counts." in card.keeps) == (
        stated > 3
    )


@pytest.mark.parametrize("words", NOT_SAID)
def test_what_says_no_time_in_the_cold_stays_as_it_is(
    words: str, beans: Appraisal, knowledge: Knowledge
) -> None:
    dish = saying(beans, words, knowledge)
    assert stated_keeping(dish.process) == []
    card = card_of(dish, dish, CardChoices(), knowledge)
    assert card.steps[0].text.endswith(words)
    assert "The recipe says" not in card.keeps


def test_for_guests_at_risk_a_stated_time_is_shortened_as_well(
    beans: Appraisal, knowledge: Knowledge
) -> None:
    dish = saying(beans, "Keeps 2 days.", knowledge)
    assert keeping(dish, knowledge.work, at_risk=True).days == 1


FROZEN = [
    ("Will keep 2 to 3 days in the fridge or 3 months in the freezer.", [3], [90]),
    ("Freezes for 6 months.", [], [180]),
    ("Keeps 4 days.", [4], []),
]


@pytest.mark.parametrize(("words", "cold", "frozen"), FROZEN, ids=[one[0] for one in FROZEN])
def test_what_is_said_of_the_cold_and_of_freezing_is_told_apart_and_printed_once(
    words: str, cold: list[float], frozen: list[float], beans: Appraisal, knowledge: Knowledge
) -> None:
    dish = saying(beans, words, knowledge)
    assert [one.days for one in stated_keeping(dish.process)] == cold
    assert [one.days for one in stated_freezing(dish.process)] == frozen
    card = card_of(dish, dish, CardChoices(), knowledge)
    assert card.steps[0].text == "Toss the beans with the rest."
    assert card.keeps.count("Frozen:") + card.keeps.count("freeze well") == 1


@pytest.mark.parametrize(
    ("step", "left"),
    [
        (
            "Cover and refrigerate; it keeps a week. Do not freeze.",
            "Cover and refrigerate. Do not freeze.",
        ),
        ("Stir it well and store in the fridge for up to 3 weeks.", "Stir it well."),
    ],
)
def test_a_step_without_its_keep_time_is_still_a_sentence(
    step: str, left: str, beans: Appraisal, knowledge: Knowledge
) -> None:
    dish = appraise(
        replace(beans.recipe, method=("Toss the beans with the rest.", step)), knowledge
    )
    assert card_of(dish, dish, CardChoices(), knowledge).steps[1].text == left


def test_eggs_that_were_boiled_keep_as_boiled_eggs(reader: Reader, knowledge: Knowledge) -> None:
    text = "Egg salad\nServes 4\n4 eggs\n1 can white beans\n2 tbsp vinegar\n\nMethod\n"
    for method, decides in (
        ("Boil the eggs 11 minutes. Peel. Toss with the rest.", "fish, egg or poultry in it"),
        (
            "Whisk the eggs with the vinegar. Toss with the beans.",
            "raw egg that is not pasteurized",
        ),
    ):
        dish = appraise(read_recipe(text + method, reader).recipe, knowledge)
        assert keeping(dish, knowledge.work).decided_by == decides
