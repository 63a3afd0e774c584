"""How far a recipe has come, and what is said to come next."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fresh_ladle.core.recipes.progress import Facts, next_step, steps

READ = Facts(
    0, 0, targets=False, adapted=False, seasoned=False, tasted=False, kept=False, approved=False
)


@pytest.mark.parametrize(
    ("facts", "to_do"),
    [
        (replace(READ, problems=1, questions=3), "mend 1 line"),
        (replace(READ, questions=1), "answer 1 question"),
        (replace(READ, questions=3), "answer 3 questions"),
        (READ, "set targets"),
        (replace(READ, targets=True), "adapt it"),
        (replace(READ, targets=True, adapted=True), "season it"),
        (replace(READ, questions=2, adapted=True, kept=True), "approve it for the card"),
        (replace(READ, targets=True, adapted=True, tasted=True), "keep a version"),
    ],
)
def test_what_comes_next_is_the_first_open_condition_then_what_follows_the_last_thing_done(
    facts: Facts, to_do: str
) -> None:
    coming = next_step(steps(facts))
    assert coming is not None
    assert coming.to_do == to_do


def test_nothing_comes_after_the_card_and_eight_steps_are_named_in_their_order() -> None:
    way = steps(replace(READ, targets=True, adapted=True, approved=True))
    assert next_step(way) is None
    assert [step.said for step in way] == [
        "read", "answered", "targets set", "adapted", "seasoned", "tasted", "kept", "approved",
    ]  # fmt: skip
    assert {step.place for step in way} == {"counter", "plans", "bench", "tastings", "card"}
