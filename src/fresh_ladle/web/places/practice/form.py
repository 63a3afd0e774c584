"""An answer as a page of practice sends it."""

from __future__ import annotations

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.practice.exercise import Exercise
from fresh_ladle.core.practice.scoring import Answered
from fresh_ladle.store.practice.practice import Given
from fresh_ladle.web.shared.typed import number_typed


def given_by(made: Exercise, low: str, high: str, choice: int | None) -> Given:
    """Raises ValueError for a range or a choice that is none."""
    if made.choices:
        if choice is None or choice >= len(made.choices):
            raise Refused("choose one of them")
        return Given(choice=choice)
    ends = number_typed(low, "low end"), number_typed(high, "high end")
    if not 0 <= ends[0] <= ends[1]:
        raise Refused("the low end comes first and is not below 0")
    return Given(Answered(ends[0], ends[1], made.answer.value, made.subject))
