"""What work takes in this kitchen: learned from the steps that were timed, by verb.

The pace of a verb is the geometric mean of what its steps took to what the tables say of them,
drawn towards the tables as if two more steps had taken just that (grade C): two fast mornings do
not halve every other one."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from math import exp, log

from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.task import Task

AS_THE_TABLES = 2.0
"""Timed steps that the tables count for."""
SLOWEST, FASTEST = 4.0, 0.25
MOST_ACTIVE, MOST_WAITING = 600, 2880
"""Minutes of work, and of waiting, that one step takes at most."""


@dataclass(frozen=True, slots=True)
class TimedStep:
    """A step that was timed: its verb, the minutes of work that the tables give, and those it
    took."""

    verb: str
    usual: float
    took: float


@dataclass(frozen=True, slots=True)
class Minutes:
    """Minutes of a step as somebody set them: of work, and going on by itself. Raises RecipeError
    for what no step takes."""

    active: int
    waiting: int

    def __post_init__(self) -> None:
        if not 1 <= self.active <= MOST_ACTIVE or not 0 <= self.waiting <= MOST_WAITING:
            raise RecipeError(
                f"a step takes 1 to {MOST_ACTIVE} minutes of work and goes on for 0 to"
                f" {MOST_WAITING:,} by itself; {self.active:,} and {self.waiting:,} were given"
            )


def paces(timed: Iterable[TimedStep]) -> dict[str, tuple[float, int]]:
    """The pace of each verb that was timed, 1 for that of the tables, and how often it was
    timed."""
    logs: dict[str, list[float]] = defaultdict(list)
    for step in timed:
        if step.usual > 0 and step.took > 0:
            logs[step.verb].append(
                min(log(SLOWEST), max(log(FASTEST), log(step.took / step.usual)))
            )
    return {
        verb: (exp(sum(found) / (len(found) + AS_THE_TABLES)), len(found))
        for verb, found in logs.items()
    }


def at_own_pace(work: KitchenWork, learned: Mapping[str, tuple[float, int]]) -> KitchenWork:
    """The tables with the verbs at the pace of this kitchen."""
    verbs = tuple(
        (
            replace(verb, pace=learned[verb.verb][0], timed=learned[verb.verb][1])
            if verb.verb in learned
            else verb
        )
        for verb in work.verbs
    )
    return replace(work, verbs=verbs)


def with_minutes(task: Task, minutes: Minutes | None) -> Task:
    """A task with the minutes that somebody set for it; what may only begin late begins as early as
    it must."""
    if minutes is None:
        return task
    free = task.from_minutes
    changed = replace(task, active=minutes.active, waiting=minutes.waiting, said=True, timed=0)
    return replace(changed, from_minutes=None if free is None else max(free, changed.minutes))
