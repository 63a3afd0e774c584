"""Plans, checked by means of their own: nothing here knows how the program behind them is built."""

from __future__ import annotations

import re
from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import SALT_BY_ID, School, allows
from fresh_ladle.core.nutrients.targets import Basis, Firmness, Side, Target, target_status
from fresh_ladle.core.plans.decision import Lever
from fresh_ladle.core.plans.ladder import rungs_of_line
from fresh_ladle.core.plans.parsing import exclusion_of, lines_called, target_of, typed_target
from fresh_ladle.core.plans.plan import Plan, with_steps
from fresh_ladle.core.plans.refusal import refusal_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import FURTHER, ONLY_FURTHER, ONLY_WITH_MORE, plans_for
from fresh_ladle.core.plans.slots import identity_lines
from fresh_ladle.core.plans.textured import texture_between
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Line, Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from tests.conftest import Kitchen

pytestmark = pytest.mark.slow

SODIUM = "sodium_mg"
SALAD = {
    "barley-pearled-cooked": "3 cup",
    "cucumber": "1 large",
    "feta": "1/2 cup",
    "olives-kalamata": "1/4 cup",
    "olive-oil-extra-virgin": "3 tbsp",
    "lemon-juice-fresh": "3 tbsp",
    "mint": "1/4 cup",
    "table-salt": "1/2 tsp",
}
DIP = {
    "chickpeas-canned-drained": "2 cup",
    "tahini": "1/4 cup",
    "lemon-juice-fresh": "3 tbsp",
    "garlic": "2 clove",
    "cumin": "1 tsp",
    "olive-oil-refined": "2 tbsp",
    "table-salt": "1/2 tsp",
}
SPOON = re.compile(
    r"^(?:(?:⅛|¼|½|¾|1|1½|2) tsp|(?:1|1½|2|2½|3) Tbsp|1 Tbsp plus 1 tsp|[¼½] tsp plus ⅛ tsp|(?:¼|½)"
    r" cup plus [12] Tbsp"
    r"|(?:\d*[¼⅓½⅔¾]|\d+) cups?|(?:½|\d+½?) (?:cloves?|large|heads?|handfuls?)|[¼½¾] (?:large|head)"
    r"|\d+ g|\d+½? oz|1 pinch)$"
)
"""Amounts a cook would measure: one spoon or cup, or two that nest."""


def dish(
    kitchen: Kitchen,
    grams: dict[str, str],
    kind: str,
    title: str = "Test dish",
    servings: float = 6,
) -> Appraisal:
    return kitchen.work_out(replace(kitchen.recipe(grams, kind, servings), title=title))


def at_most(version: Appraisal, share: float, nutrient: str = SODIUM) -> Target:
    return Target(nutrient, Side.AT_MOST, round(version.totals.serving[nutrient].value * share, 1))


def checked(plan: Plan, first: Appraisal, request: PlanRequest, knowledge: Knowledge) -> None:
    """Works the plan out from its steps alone and holds it to everything that was asked."""
    recipe = with_steps(first.recipe, plan.steps)
    after = appraise(recipe, knowledge)
    assert after.recipe == plan.after.recipe
    for target in request.targets:
        chance = target_status(after.figure_for(target), target).probability
        assert chance >= request.chance or target.soft
        assert plan.meets[target] == pytest.approx(chance)
    taste = drift_between(after, first)
    most_steps = request.most_steps + (FURTHER if plan.name == ONLY_FURTHER else 0)
    assert max(map(abs, taste.steps.values())) <= most_steps + 0.05
    if not request.exclude and request.school is None:
        assert taste.aroma_shift <= most_steps + 0.05
        texture = texture_between(after, first, knowledge.sense.carriers[first.recipe.kind])
        assert max(texture.values()) <= most_steps + 0.05
    assert plan.changes <= request.max_changes or plan.name == ONLY_WITH_MORE
    assert plan.why.endswith(".")
    assert not plan.brings
    helping = after.totals.serving_grams / first.totals.serving_grams
    if plan.lever is Lever.SMALLER:
        assert helping < 1
        assert plan.why.startswith("Serve")
        return
    assert 0.969 <= helping <= (1.51 if plan.lever is Lever.LARGER else 1.031)
    old = {line.id: line for line in first.recipe.lines}
    for line in recipe.lines:
        if line.id in old:
            assert line == old[line.id] or line.id not in request.locked
            if line.amount != old[line.id].amount:
                assert SPOON.match(line.amount), line.amount
            continue
        food = knowledge.pantry[line.food or ""]
        assert SPOON.match(line.amount), line.amount
        assert request.school is None or "on top" in line.text or allows(request.school, food), (
            food.name
        )
    for what in request.exclude:
        assert what not in {a.id.partition(":")[0] for a in after.allergens} | {
            line.food for line in recipe.lines
        }
    assert 0.849 <= after.totals.batch_grams.value / first.totals.batch_grams.value <= 1.51
    for line_id in identity_lines(first):
        left = next((p.measured.value for p in after.portions if p.line.id == line_id), 0.0)
        if not request.exclude:
            assert left >= 0.49 * first.portion(line_id).measured.value


@pytest.mark.parametrize("school", [None, *SCHOOLS.values()], ids=lambda s: s.id if s else "any")
@pytest.mark.parametrize(
    ("grams", "kind"), [(SALAD, "grain-salad"), (DIP, "legume-dip")], ids=["salad", "dip"]
)
def test_every_plan_holds_and_they_differ(
    grams: dict[str, str], kind: str, school: School | None, kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = dish(kitchen, grams, kind)
    request = PlanRequest(
        (at_most(first, 0.8),), school=school, max_changes=3 if school is None else 5
    )
    seen: list[Plan] = []
    plans, _ = plans_for(first, first, request, knowledge, seen.append)
    if school is not None and school.refuses_salt:
        # No dish of salt, feta and olives tastes within two steps of itself without them: it is
        # refused, with a way on.
        assert not plans
        towards = next(
            r
            for r in refusal_for(first, first, request, knowledge).relaxations
            if r.change == "school"
        )
        assert towards.plan.stays
        return
    assert len(plans) >= (2 if school is None else 1), "more than one lever is looked for"
    assert len(seen) == len(plans)
    for plan in plans:
        checked(plan, first, request, knowledge)
    assert len(plans) <= 4
    assert len({plan.lever for plan in plans}) == len(plans), "each by another lever"


def test_the_same_question_gets_the_same_plans(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    request = PlanRequest((at_most(first, 0.7),), seconds=120)
    one, other = (plans_for(first, first, request, knowledge)[0] for _ in range(2))
    assert [[s.text for s in p.steps] for p in one] == [[s.text for s in p.steps] for p in other]


def test_locks_exclusions_and_several_targets_hold_together(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    request = PlanRequest(
        (
            at_most(first, 0.85),
            Target("fiber_g", Side.AT_LEAST, 4),
            at_most(first, 0.98, "energy_kcal"),
        ),
        exclude=frozenset({"tree-nut", "soy"}),
        locked=frozenset({"l3"}),
        max_changes=4,
    )
    plans, _ = plans_for(first, first, request, knowledge)
    assert plans
    for plan in plans:
        checked(plan, first, request, knowledge)


def test_what_is_excluded_leaves_the_dish(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = dish(kitchen, DIP, "legume-dip")
    request = PlanRequest((), exclude=frozenset({"sesame"}), most_steps=3)
    plans, _ = plans_for(first, first, request, knowledge)
    assert plans
    checked(plans[0], first, request, knowledge)


def test_schools_of_salt(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    early = PlanRequest((at_most(first, 0.8),), salt_school=SALT_BY_ID["season-early"])
    for plan in plans_for(first, first, early, knowledge)[0]:
        salt = sum(p.measured.value for p in plan.after.portions if p.line.food == "table-salt")
        assert salt >= 0.65 * first.portion("l8").measured.value
    none = PlanRequest((at_most(first, 0.9),), salt_school=SALT_BY_ID["none-added"], most_steps=4)
    plans, _ = plans_for(first, first, none, knowledge)
    assert plans
    assert all(line.food != "table-salt" for line in plans[0].after.recipe.lines)


def test_served_by_weight_the_limit_is_on_the_weight(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    recipe = replace(kitchen.recipe(DIP, "legume-dip", 6), serving_grams=60.0)
    first = kitchen.work_out(recipe)
    request = PlanRequest((at_most(first, 0.7),))
    plans, _ = plans_for(first, first, request, knowledge)
    assert plans
    for plan in plans:
        assert (plan.after.totals.serving_grams == pytest.approx(60)) == (
            plan.lever is not Lever.SMALLER
        )
        checked(plan, first, request, knowledge)


@pytest.mark.parametrize("served", [{}, {"serving_grams": 60.0}, {"yield_grams": 500.0}])
def test_a_limit_in_100_g_holds_however_it_is_served(
    served: dict[str, float], kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = kitchen.work_out(replace(kitchen.recipe(DIP, "legume-dip", 8), **served))  # type: ignore[arg-type]
    held = first.figure_for(Target(SODIUM, Side.AT_MOST, 0, Basis.HUNDRED_GRAMS)).value
    request = PlanRequest((Target(SODIUM, Side.AT_MOST, round(held * 0.8), Basis.HUNDRED_GRAMS),))
    plans, _ = plans_for(first, first, request, knowledge)
    assert plans
    for plan in plans:
        checked(plan, first, request, knowledge)
        grams = plan.after.totals.batch_grams.value
        in_100_g = plan.after.totals.batch[SODIUM].value / grams * 100
        assert in_100_g <= request.targets[0].limit


def test_a_soft_limit_gives_way_to_taste_and_a_hard_one_does_not(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    hard, fat = at_most(first, 0.8), first.totals.serving["fat_g"].value
    plain = plans_for(first, first, PlanRequest((hard,)), knowledge, only_closest=True)[0][0]
    reachable = Target("fat_g", Side.AT_MOST, round(fat * 0.8, 1), firmness=Firmness.SOFT)
    beyond = Target("fat_g", Side.AT_MOST, 0, firmness=Firmness.SOFT)
    for soft in (reachable, beyond):
        request = PlanRequest((hard, soft))
        (plan,), _ = plans_for(first, first, request, knowledge, only_closest=True)
        checked(plan, first, request, knowledge)
        assert (
            plan.after.totals.serving["fat_g"].value
            <= plain.after.totals.serving["fat_g"].value + 0.01
        )
    strict = PlanRequest((hard, replace(beyond, firmness=Firmness.HARD)))
    assert plans_for(first, first, strict, knowledge, only_closest=True)[0] == []


def test_some_steps_of_a_plan_can_be_taken_alone(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    plan = max(
        plans_for(first, first, PlanRequest((at_most(first, 0.65),)), knowledge)[0],
        key=lambda p: len(p.steps),
    )
    assert len(plan.steps) >= 2
    for step in plan.steps:
        part = with_steps(first.recipe, plan.steps, {step.id})
        assert part != first.recipe
        untouched = {line.id for line in first.recipe.lines} - {step.line}
        assert all(part.line(i) == first.recipe.line(i) for i in untouched)


# ---------------------------------------------------------------- against brute force

SMALL = {
    "water": "200 g",
    "tomato-canned-diced-no-salt": "1 cup",
    "olive-oil-refined": "1 tbsp",
    "table-salt": "1/2 tsp",
}


def test_brute_force_finds_nothing_better(kitchen: Kitchen, knowledge: Knowledge) -> None:
    """Salt alone may change: by less of it, in any amount a spoon holds, worked out one by one."""
    first = dish(kitchen, SMALL, "vinaigrette", servings=4)
    request = PlanRequest(
        (at_most(first, 0.78),),
        locked=frozenset({"l1", "l2", "l3"}),
        chance=0.5,
        max_changes=1,
        most_steps=3,
    )
    plans, _ = plans_for(first, first, request, knowledge, only_closest=True)
    line = first.recipe.line("l4")
    drifts = []
    for rung in rungs_of_line(line, knowledge.pantry["table-salt"], first.recipe.region):
        after = appraise(first.recipe.with_line(replace(line, amount=rung.text)), knowledge)
        if after.figure_for(request.targets[0]).value <= request.targets[0].limit:
            drifts.append(drift_between(after, first).total)
    assert plans[0].drift.total <= min(drifts) + 0.05


# ---------------------------------------------------------------- when there is none


def test_a_limit_out_of_reach_is_named_with_the_nearest_one_that_works(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    request = PlanRequest((Target(SODIUM, Side.AT_MOST, 60),), locked=frozenset({"l3"}))
    assert plans_for(first, first, request, knowledge)[0] == []
    told = refusal_for(first, first, request, knowledge)
    assert told.conflicts[0].proved
    assert (
        "Sodium at most 60 mg a serving cannot be reached by any 3 of the changes"
        in told.conflicts[0].text
    )
    easing = next(r for r in told.relaxations if r.change == "target")
    plans, _ = plans_for(first, first, easing.request, knowledge)
    assert plans
    checked(plans[0], first, easing.request, knowledge)
    assert easing.request.targets[0].limit == pytest.approx(told.conflicts[0].nearest)


def test_a_lock_in_the_way_is_found(kitchen: Kitchen, knowledge: Knowledge) -> None:
    simple = {
        "olive-oil-refined": "1/2 cup",
        "vinegar-red-wine": "1/4 cup",
        "mustard-dijon": "1 tsp",
        "table-salt": "1 tsp",
    }
    first = dish(kitchen, simple, "vinaigrette")
    request = PlanRequest((at_most(first, 0.78),), locked=frozenset({"l4"}))
    assert {plan.lever for plan in plans_for(first, first, request, knowledge)[0]} <= {
        Lever.SMALLER
    }
    told = refusal_for(first, first, request, knowledge)
    unlock = next(r for r in told.relaxations if r.change == "unlock")
    assert unlock.value == "l4"
    assert plans_for(first, first, unlock.request, knowledge)[0]


def test_what_can_never_be_is_said_at_once(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    everything = frozenset(line.id for line in first.recipe.lines)
    locked = refusal_for(
        first, first, PlanRequest((at_most(first, 0.5),), locked=everything), knowledge
    )
    assert (
        "Every line is locked, and nothing that could be added does it." in locked.conflicts[0].text
    )
    assert locked.conflicts[0].binds == "lock:all"
    both = PlanRequest((Target("fiber_g", Side.AT_LEAST, 9), Target("fiber_g", Side.AT_MOST, 3)))
    assert (
        "cannot be at least 9 and at most 3"
        in refusal_for(first, first, both, knowledge).conflicts[0].text
    )
    gone = PlanRequest(
        (at_most(first, 0.9),), exclude=frozenset({"gluten"}), locked=frozenset({"l1"})
    )
    assert plans_for(first, first, gone, knowledge)[0] == []
    told = refusal_for(first, first, gone, knowledge)
    assert told.conflicts[0].text.startswith("To be left out, and yet not to change: barley")
    fishy = dish(
        kitchen,
        {"potato-boiled": "500 g", "trout-smoked": "170 g", "sour-cream": "80 g", "dill": "8 g"},
        "pasta-potato-salad",
    )
    without = PlanRequest((), exclude=frozenset({"fish", "milk"}))
    assert any(
        "Without fish and milk" in c.text
        for c in refusal_for(
            fishy, fishy, replace(without, targets=(at_most(fishy, 0.9),)), knowledge
        ).conflicts
    )


def test_the_widest_request_has_nothing_left_to_widen(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    widest = PlanRequest((Target(SODIUM, Side.AT_MOST, 0),), max_changes=12, most_steps=6.0)
    assert plans_for(first, first, widest, knowledge)[0] == []
    told = refusal_for(first, first, widest, knowledge)
    assert told.conflicts
    assert not {"steps", "changes"} & {r.change for r in told.relaxations}


@pytest.mark.parametrize(
    "grams",
    [
        {"romaine": "1 head"},
        {"table-salt": "2 tsp", "water": "1 cup"},
        {"parsley": "1 handful", "olive-oil-refined": "1 drizzle", "table-salt": "1 pinch"},
    ],
)
def test_odd_little_dishes_get_a_plan_or_a_reason(
    grams: dict[str, str], kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = dish(kitchen, grams, "leafy-salad", servings=2)
    for target in (
        Target(SODIUM, Side.AT_MOST, 50),
        Target("fiber_g", Side.AT_LEAST, 5),
        Target("energy_kcal", Side.AT_MOST, 0),
    ):
        request = PlanRequest((target,))
        plans, _ = plans_for(first, first, request, knowledge)
        for plan in plans:
            checked(plan, first, request, knowledge)
        assert plans or refusal_for(first, first, request, knowledge).conflicts


def test_a_dish_without_weight_is_told_so(kitchen: Kitchen, knowledge: Knowledge) -> None:
    line = Line("l1", "salt to taste", "", "table-salt", asides=frozenset({Aside.TO_TASTE}))
    empty = kitchen.work_out(Recipe("Nothing yet", (line,), "vinaigrette", 4))
    request = PlanRequest((Target(SODIUM, Side.AT_MOST, 50),))
    assert plans_for(empty, empty, request, knowledge)[0] == []
    assert "has a weight yet" in refusal_for(empty, empty, request, knowledge).conflicts[0].text


def test_an_unknown_figure_can_never_be_said_to_meet_a_limit(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    blank = next(f for f in knowledge.pantry.stocked if f.per_100_g["vitamin_k_ug"] is None)
    first = dish(kitchen, {**SALAD, blank.key: "20 g"}, "grain-salad")
    told = refusal_for(
        first, first, PlanRequest((Target("vitamin_k_ug", Side.AT_MOST, 10),)), knowledge
    )
    assert blank.name in told.conflicts[0].text


def test_a_request_out_of_bounds_is_refused(kitchen: Kitchen, knowledge: Knowledge) -> None:
    for wrong in ({"max_changes": 0}, {"chance": 1.0}, {"most_steps": 0.1}):
        with pytest.raises(RecipeError):
            PlanRequest((Target(SODIUM, Side.AT_MOST, 100),), **wrong)  # type: ignore[arg-type]
    first = dish(kitchen, SALAD, "grain-salad")
    with pytest.raises(RecipeError, match="needs a target"):
        plans_for(first, first, PlanRequest(()), knowledge)


@pytest.mark.parametrize(
    ("text", "target"),
    [
        ("sodium_mg<=140", Target(SODIUM, Side.AT_MOST, 140)),
        ("sodium <= 140 mg", Target(SODIUM, Side.AT_MOST, 140)),
        ("fiber≥3,5", Target("fiber_g", Side.AT_LEAST, 3.5)),
        ("Saturated fat <= 2", Target("saturated_fat_g", Side.AT_MOST, 2)),
        ("calories<=90", Target("energy_kcal", Side.AT_MOST, 90)),
        ("sodium <= 300 mg per 100 g", Target(SODIUM, Side.AT_MOST, 300, Basis.HUNDRED_GRAMS)),
        ("fiber>=3 g, soft", Target("fiber_g", Side.AT_LEAST, 3, firmness=Firmness.SOFT)),
    ],
)
def test_targets_as_people_type_them(text: str, target: Target) -> None:
    assert target_of(text) == target
    assert target_of(typed_target(target)) == target


def test_names_as_people_type_them(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = dish(kitchen, SALAD, "grain-salad")
    assert lines_called("feta", first) == {"l3"}
    assert exclusion_of("tree nuts", knowledge.pantry) == {"tree-nut"}
    assert "feta" in exclusion_of("feta", knowledge.pantry)
    for wrong in (
        lambda: target_of("sodium=3"),
        lambda: target_of("joy<=3"),
        lambda: lines_called("gravel", first),
        lambda: exclusion_of("gravel", knowledge.pantry),
    ):
        with pytest.raises(RecipeError):
            wrong()
