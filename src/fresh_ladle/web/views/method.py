"""The steps of a method as the screen shows them: the words, what was read of them, what does not fit any more."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.service.steps import method_steps
from fresh_ladle.core.wording import oven_heat


@dataclass(frozen=True, slots=True)
class StepView:
    """One step: its words, what was read of it as short marks, the names of its lines, and what no longer fits."""

    text: str
    marks: tuple[str, ...]
    names: tuple[str, ...]
    changed: str
    read: bool


def step_views(dish: Appraisal, former: Mapping[str, str] | None = None) -> list[StepView]:
    """The steps in their order; `former` are the names that lines had before, by id."""
    return [
        StepView(
            step.text,
            (*step.times, *(oven_heat(celsius) for celsius in step.celsius), *step.uses),
            step.names,
            step.changed,
            step.read,
        )
        for step in method_steps(dish, former)
    ]
