"""Refusals: the nearest version is a plan, what is said to bind was lifted and then there is a
plan, and "cannot" is said only where no way exists."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import SALT_BY_ID
from fresh_ladle.core.nutrients.targets import Side, Target, target_status
from fresh_ladle.core.plans.decision import Lever
from fresh_ladle.core.plans.plan import with_steps
from fresh_ladle.core.plans.refusal import Refusal, refusal_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import ONLY_FURTHER, plans_for
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from tests.conftest import Kitchen

pytestmark = pytest.mark.slow

DRESSING = {
    "olive-oil-refined": "1/2 cup",
    "vinegar-red-wine": "1/4 cup",
    "mustard-dijon": "1 tsp",
    "table-salt": "1 tsp",
}
BOWL = {
    "barley-pearled-cooked": "3 cup",
    "cucumber": "1 large",
    "feta": "1/2 cup",
    "olive-oil-extra-virgin": "3 tbsp",
    "lemon-juice-fresh": "3 tbsp",
    "table-salt": "1/2 tsp",
}
FETA_BOWL = {
    "feta": "200 g",
    "romaine": "1 head",
    "cucumber": "1 large",
    "lemon-juice-fresh": "2 tbsp",
}


def sodium(first: Appraisal, share: float) -> Target:
    return Target(
        "sodium_mg", Side.AT_MOST, round(first.totals.serving["sodium_mg"].value * share, 1)
    )


def refused(first: Appraisal, request: PlanRequest, knowledge: Knowledge) -> Refusal:
    """The refusal of a request that has no plan, with everything it says held to what it shows."""
    assert plans_for(first, first, request, knowledge)[0] == []
    told = refusal_for(first, first, request, knowledge)
    assert told.conflicts
    for easing in told.relaxations:
        after = appraise(with_steps(first.recipe, easing.plan.steps), knowledge)
        for target in easing.request.hard_targets:
            assert (
                target_status(after.figure_for(target), target).probability >= easing.request.chance
            )
        worst = max(map(abs, drift_between(after, first).steps.values()))
        assert worst <= easing.request.most_steps + 0.03
        assert easing.plan.changes <= easing.request.max_changes
    for plan in told.otherwise:
        assert plan.holds(request.chance)
        further = (
            plan.name == ONLY_FURTHER
            and request.most_steps < plan.most_steps <= request.most_steps + 1.05
        )
        assert (
            further
            or plan.changes > request.max_changes
            or plan.lever in (Lever.SMALLER, Lever.LARGER)
        )
    for plan in told.nearest:
        assert appraise(with_steps(first.recipe, plan.steps), knowledge).totals == plan.after.totals
    bound = {r.binds for r in told.relaxations}
    assert all(c.binds in bound or c.binds in ("", "unknown", "targets") for c in told.conflicts)
    for conflict in told.conflicts:
        assert ("cannot" in conflict.text) <= conflict.proved
    return told


@pytest.mark.parametrize(
    ("dish", "kind", "share", "limits", "binds"),
    [
        (DRESSING, "vinaigrette", 0.6, {}, "taste:"),
        (DRESSING, "vinaigrette", 0.8, {"locked": frozenset({"l4"})}, "lock:l4"),
        (
            DRESSING,
            "vinaigrette",
            0.8,
            {"locked": frozenset({"l4", "l1"}), "max_changes": 8},
            "lock:l4",
        ),
        (BOWL, "grain-salad", 0.5, {"max_changes": 1, "most_steps": 3.0}, "changes"),
        (BOWL, "grain-salad", 0.68, {"locked": frozenset({"l3"})}, "lock:l3"),
        (FETA_BOWL, "leafy-salad", 0.3, {"most_steps": 5.0, "max_changes": 3}, "identity:l1"),
        (BOWL, "grain-salad", 0.9, {"school": SCHOOLS["no-added-oil-salt-sugar"]}, "school"),
        (
            BOWL,
            "grain-salad",
            0.9,
            {"salt_school": SALT_BY_ID["none-added"], "most_steps": 1.0},
            "school",
        ),
        (
            DRESSING,
            "vinaigrette",
            0.9,
            {"exclude": frozenset({"mustard", "vinegar-red-wine"}), "max_changes": 1},
            "",
        ),
    ],
)
def test_what_binds_was_lifted_and_then_there_is_a_plan(
    dish: dict[str, str],
    kind: str,
    share: float,
    limits: dict[str, object],
    binds: str,
    kitchen: Kitchen,
    knowledge: Knowledge,
) -> None:
    title = "Feta bowl" if dish is FETA_BOWL else "Dish"
    first = kitchen.work_out(replace(kitchen.recipe(dish, kind, 6), title=title))
    request = PlanRequest((sodium(first, share),), **limits)  # type: ignore[arg-type]
    told = refused(first, request, knowledge)
    if binds:
        assert told.conflicts[0].binds.startswith(binds)
        lifted = next(r for r in told.relaxations if r.binds == told.conflicts[0].binds)
        assert plans_for(first, first, lifted.request, knowledge, only_closest=True)[0]


def test_measures_and_doubt_are_lifted_too(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = kitchen.appraise(BOWL, "grain-salad", 6)
    told = refused(first, PlanRequest((sodium(first, 0.72),), locked=frozenset({"l3"})), knowledge)
    lifted = {r.binds.partition(":")[0]: r for r in told.relaxations}
    assert {"measures", "doubt"} <= set(lifted)
    assert all(
        line.amount.endswith(" g") for s in lifted["measures"].plan.steps for line in s.added
    )


def test_cannot_is_said_only_where_nothing_can(kitchen: Kitchen, knowledge: Knowledge) -> None:
    """A proof is checked by taking every way of every slot to its best, whatever that does to
    taste."""
    first = kitchen.appraise(DRESSING, "vinaigrette", 8)
    nothing = refused(first, PlanRequest((Target("fiber_g", Side.AT_LEAST, 30),)), knowledge)
    assert nothing.conflicts[0].proved
    assert "cannot be reached" in nothing.conflicts[0].text
    far = refused(first, PlanRequest((sodium(first, 0.4),)), knowledge)
    assert not far.conflicts[0].proved, "salt may simply be left out"
    assert "No way was found" in far.conflicts[0].text


def test_the_nearest_comes_nearer_when_more_is_allowed(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = kitchen.appraise(BOWL, "grain-salad", 6)
    told = refused(first, PlanRequest((sodium(first, 0.35),), max_changes=3), knowledge)
    figures = [plan.after.totals.serving["sodium_mg"].value for plan in told.nearest]
    assert figures[0] < 0.75 * first.totals.serving["sodium_mg"].value
    assert figures == sorted(figures, reverse=True)


def test_stages_lead_there_within_a_step_of_the_one_before(
    kitchen: Kitchen, knowledge: Knowledge
) -> None:
    first = kitchen.appraise(DRESSING, "vinaigrette", 8)
    told = refused(first, PlanRequest((sodium(first, 0.5),)), knowledge)
    assert len(told.stages) >= 2
    before, last = first, first.totals.serving["sodium_mg"].value
    for stage in told.stages:
        after = appraise(with_steps(before.recipe, stage.steps), knowledge)
        assert after.recipe == stage.after.recipe
        assert max(map(abs, drift_between(after, before).steps.values())) <= 1.23
        assert after.totals.serving["sodium_mg"].value < last
        before, last = after, after.totals.serving["sodium_mg"].value
    assert last < told.nearest[0].after.totals.serving["sodium_mg"].value


def test_what_holds_already_is_said(kitchen: Kitchen, knowledge: Knowledge) -> None:
    first = kitchen.appraise(BOWL, "grain-salad", 6)
    told = refusal_for(first, first, PlanRequest((sodium(first, 2.0),)), knowledge)
    assert told.conflicts[0].text == "All of this holds already: nothing has to change."
