"""The sums a plan is searched by are the workbench's own figures: for any version, what many rows
say at once is what the recipe worked out whole says."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.nutrients.targets import Basis, Side, Target, target_status
from fresh_ladle.core.plans.moves import moves_for
from fresh_ladle.core.plans.plan import steps_of, with_steps
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.sums import Bowl, Rows
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.data.load import load_knowledge
from tests.recipes.read import ten

TARGETS = (
    Target("sodium_mg", Side.AT_MOST, 200),
    Target("fat_g", Side.AT_MOST, 6, Basis.HUNDRED_GRAMS),
    Target("fiber_g", Side.AT_LEAST, 3),
)
SERVED: tuple[dict[str, object], ...] = (
    {},
    {"serving_grams": 45.0},
    {"serving_ml": 30.0},
    {"serving_ml": 30.0, "yield_ml": 400.0},
    {"yield_grams": 480.0},
    {"servings": 4.0, "servings_range": (3.0, 6.0)},
    {"served_celsius": 4.0},
)


def agrees(bowl: Bowl, row: Rows, after: Appraisal, original: Appraisal, chance: float) -> None:
    told = bowl.tasted(row[None])
    drift = drift_between(after, original)
    assert told.drift[0] == pytest.approx(drift.total, abs=1e-6)
    assert list(told.steps[0]) == pytest.approx([drift.steps[a] for a in AXIS_IDS], abs=1e-6)
    for place, target in enumerate(bowl.targets):
        figure = after.figure_for(target)
        assert told.values[0, place] == pytest.approx(figure.value, rel=1e-6, abs=1e-9)
        sure = target_status(figure, target).probability
        if abs(sure - chance) > 0.02:
            assert (told.misses[0, place] <= 0) == (sure >= chance), target


@pytest.mark.parametrize("served", SERVED, ids=lambda s: "-".join(s) or "counted")
@pytest.mark.parametrize("number", range(10))
def test_rows_say_what_the_recipe_says(
    number: int, served: dict[str, object], knowledge: Knowledge
) -> None:
    recipe = replace(ten()[number], **served)  # type: ignore[arg-type]
    original = appraise(recipe, knowledge)
    bowl = Bowl(original, original, TARGETS, 0.8)
    agrees(bowl, bowl.start, original, original, 0.8)
    lines = tuple(
        replace(x, eaten=x.eaten * (0.4 if n % 3 == 0 else 1.0)) for n, x in enumerate(recipe.lines)
    )
    after = appraise(replace(recipe, lines=lines), knowledge)
    agrees(bowl, bowl.sums(after.portions), after, original, 0.8)


@pytest.mark.slow
@settings(max_examples=50)
@given(
    st.integers(0, 9), st.integers(0, 6), st.lists(st.integers(0, 10_000), min_size=1, max_size=4)
)
def test_any_moves_add_up_to_the_version_they_make(
    number: int, served: int, picks: list[int]
) -> None:
    """Moves of different slots, added as rows, against the recipe with their steps taken."""
    knowledge = load_knowledge()
    recipe = replace(ten()[number], **SERVED[served])  # type: ignore[arg-type]
    now = appraise(recipe, knowledge)
    bowl = Bowl(now, now, TARGETS, 0.8)
    moves = moves_for(now, PlanRequest(TARGETS), knowledge, bowl)
    taken: list[int] = []
    for pick in picks:
        move = pick % len(moves.moves)
        if all(int(moves.slot_of[move]) not in moves.apart[int(moves.slot_of[t])] for t in taken):
            taken.append(move)
    after = appraise(
        with_steps(recipe, steps_of(recipe, [moves.moves[t] for t in taken])), knowledge
    )
    told = bowl.tasted((bowl.start + moves.rows[taken].sum(axis=0))[None])
    assert told.drift[0] == pytest.approx(drift_between(after, now).total, abs=0.02)
    for place, target in enumerate(TARGETS):
        assert told.values[0, place] == pytest.approx(
            after.figure_for(target).value, rel=0.01, abs=0.02
        )
