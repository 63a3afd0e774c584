"""Plans of the demo as a cook would judge them: nothing idle, the helping kept, no new allergen, no
other diet."""

from __future__ import annotations

import pytest
from scripts.plans_sense import HELPING, judged, texts

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.texture import texture_steps
from fresh_ladle.core.swaps.belonging import belonging_of
from fresh_ladle.data.demo_recipes import demo_recipes
from tests.conftest import Kitchen


@pytest.mark.slow
@pytest.mark.parametrize(
    "number", range(0, len(demo_recipes()), 2), ids=lambda n: texts()[n][0].splitlines()[0]
)
def test_first_plans_of_the_demo_are_such_as_a_cook_would_make(number: int) -> None:
    for plan in judged(number):
        if not plan.met:
            continue
        assert not plan.idle, plan.told
        assert not plan.brings, plan.told
        assert plan.keeps_diet, plan.told
        assert plan.named or (plan.changes <= 3 and abs(plan.heavier) <= HELPING + 0.001), plan.told


def test_a_bowl_of_fruit_takes_nothing_savory(kitchen: Kitchen, knowledge: Knowledge) -> None:
    fruit = {"strawberry": "300 g", "pineapple": "300 g", "honey": "40 g", "mint": "5 g"}
    belonging = belonging_of(kitchen.appraise(fruit, "leafy-salad"), knowledge)
    pantry = knowledge.pantry
    assert not any(
        belonging.takes(pantry[key])
        for key in ("chickpeas-cooked", "romaine", "parmesan", "garlic")
    )
    assert all(
        belonging.takes(pantry[key]) for key in ("raspberry", "lime-juice-fresh", "sugar-white")
    )
    with_feta = belonging_of(kitchen.appraise({**fruit, "feta": "40 g"}, "leafy-salad"), knowledge)
    assert with_feta.takes(pantry["romaine"]), "with cheese in it, it is a salad"


HALF, ALL = 0.5, 1.0
OIL, WALNUTS, CRUMBS = "olive-oil-refined", "walnuts", "breadcrumbs-dry"
VINAIGRETTE = {OIL: 60, "vinegar-red-wine": 30, "mustard-dijon": 6, "water": 4}
PEPPER_DIP = {
    "roasted-red-pepper-jar": 52,
    WALNUTS: 20,
    OIL: 12,
    CRUMBS: 10,
    "lemon-juice-fresh": 6,
}
HUMMUS = {"chickpeas-canned-drained": 62, "tahini": 16, "lemon-juice-fresh": 10, OIL: 6, "water": 6}
SLAW = {"cabbage-green": 70, "carrot": 14, "mayonnaise": 16}
GREEN = {"romaine": 70, "feta": 10, "croutons-plain": 8, OIL: 8, "lemon-juice-fresh": 4}
SAID = [
    # kind, bowl, what goes and how much of it, what comes in, steps at least and at most
    ("vinaigrette", VINAIGRETTE, {OIL: 0.25}, {}, 0.0, 1.0),
    ("vinaigrette", VINAIGRETTE, {OIL: HALF}, {}, 1.0, 3.0),
    ("vinaigrette", VINAIGRETTE, {OIL: HALF}, {"water": 30}, 1.0, 3.0),
    (
        "vinaigrette",
        VINAIGRETTE,
        {OIL: HALF},
        {"vegetable-stock-no-salt": 30, "xanthan-gum": 0.1},
        0.0,
        0.5,
    ),
    ("vinaigrette", VINAIGRETTE, {OIL: ALL}, {"water": 60}, 4.0, 6.0),
    ("vinaigrette", VINAIGRETTE, {"mustard-dijon": ALL}, {}, 2.0, 3.0),
    ("vegetable-dip", PEPPER_DIP, {OIL: ALL}, {}, 3.0, 5.0),
    ("vegetable-dip", PEPPER_DIP, {CRUMBS: ALL}, {}, 4.0, 5.0),
    ("vegetable-dip", PEPPER_DIP, {CRUMBS: ALL}, {"oats-rolled": 9}, 0.0, 0.5),
    ("vegetable-dip", PEPPER_DIP, {WALNUTS: HALF}, {}, 1.0, 3.0),
    ("vegetable-dip", PEPPER_DIP, {OIL: HALF}, {}, 1.0, 3.0),
    ("vegetable-dip", PEPPER_DIP, {OIL: HALF}, {"cannellini-beans-canned-no-salt": 9}, 0.0, 0.5),
    ("legume-dip", HUMMUS, {"tahini": HALF}, {}, 1.0, 2.0),
    ("legume-dip", HUMMUS, {OIL: HALF}, {}, 1.0, 2.0),
    ("slaw", SLAW, {"mayonnaise": HALF}, {"greek-yogurt-low-fat": 8}, 0.0, 0.5),
    ("slaw", SLAW, {"mayonnaise": ALL}, {}, 4.0, 5.0),
    ("leafy-salad", GREEN, {"croutons-plain": HALF}, {}, 1.0, 2.0),
    ("leafy-salad", GREEN, {"croutons-plain": ALL}, {}, 3.0, 4.0),
    ("leafy-salad", GREEN, {"feta": HALF}, {}, 1.0, 2.0),
    ("leafy-salad", GREEN, {"lemon-juice-fresh": ALL}, {}, 0.0, 0.0),
]


@pytest.mark.parametrize(("kind", "bowl", "goes", "comes", "least", "most"), SAID)
def test_what_cooks_say_of_texture_is_what_is_counted(
    kind: str,
    bowl: dict[str, float],
    goes: dict[str, float],
    comes: dict[str, float],
    least: float,
    most: float,
    knowledge: Knowledge,
) -> None:
    after = {key: grams * (1 - goes.get(key, 0.0)) for key, grams in bowl.items()}
    for key, grams in comes.items():
        after[key] = after.get(key, 0.0) + grams
    steps = texture_steps(bowl, after, knowledge.sense.carriers[kind])
    assert least - 0.26 <= max(steps.values()) <= most + 0.26, steps


def test_of_two_carriers_gone_the_steps_add_up(knowledge: Knowledge) -> None:
    after = {**PEPPER_DIP, OIL: 0.0, CRUMBS: 0.0}
    assert (
        sum(texture_steps(PEPPER_DIP, after, knowledge.sense.carriers["vegetable-dip"]).values())
        >= 6
    )
