"""How long before eating each task may begin, and what is done in rounds because it does not fit
into that time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import ceil

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.kitchen_work import KeepRule, KitchenWork
from fresh_ladle.core.hold.keeping import dish_rules, part_rules
from fresh_ladle.core.service.task import LAST_MINUTES, Task, line_of
from fresh_ladle.core.service.verbs import MERGING, RESTING
from fresh_ladle.core.whole.appraisal import Appraisal

TABLE_MINUTES = 10
"""Minutes kept free before eating, for plates and late comers."""
MOST_ROUNDS = 12
LONG_WAIT_MINUTES = 240
"""A wait from which on it is work of its own that food needs, and no keeping."""


def with_windows(tasks: Sequence[Task], appraisal: Appraisal, work: KitchenWork) -> list[Task]:
    """The tasks of a dish with how long before eating each may begin."""
    whole = dish_rules(appraisal, work)
    mixing = {t.id for t in tasks if t.verb in MERGING and len(t.lines) > 1}
    dressed = _dressed_from(tasks, appraisal, mixing, whole)
    ahead = {
        line_of(p): _part_minutes(p, appraisal, work)
        for p in appraisal.portions
        if p.food is not None
    }
    early = _before_long_waits(tasks)
    found = []
    for task in tasks:
        limits = [task.from_minutes]
        if task.id in dressed:
            limits += [
                max(rule.dress_window[0], task.minutes) for rule in whole if rule.dress_window
            ]
        if task.id in mixing:
            limits += [
                round(60 * r.ahead_hours) for r in whole if not r.dress_window or task.id in dressed
            ]
        elif task.verb not in RESTING and task.id not in early:
            limits += [ahead.get(line) for line in task.lines]
        known = [limit for limit in limits if limit is not None]
        found.append(replace(task, from_minutes=min(known) if known else None))
    return _in_rounds(found)


def _before_long_waits(tasks: Sequence[Task]) -> set[int]:
    """Tasks that lead up to a wait of hours, and it: what sprouts, soaks or hangs for days is no
    part that was made ready and keeps."""
    after = {task.id: task.after for task in tasks}
    found: set[int] = set()
    waiting = [task.id for task in tasks if task.waiting >= LONG_WAIT_MINUTES]
    while waiting:
        one = waiting.pop()
        if one not in found:
            found.add(one)
            waiting += after[one]
    return found


def _in_rounds(tasks: Sequence[Task]) -> list[Task]:
    """Where what may only be done shortly before eating takes longer than that, it is done in
    rounds, the first before the guests sit down, the next while they eat; the plan holds the
    first."""
    late = {
        task.id
        for task in tasks
        if task.from_minutes is not None and task.from_minutes <= LAST_MINUTES
    }
    for task in tasks:
        if late & set(task.after):
            late.add(task.id)
    at_last = [task for task in tasks if task.id in late]
    room = LAST_MINUTES - TABLE_MINUTES
    if sum(task.minutes for task in at_last) <= room:
        return list(tasks)
    rounds = 2
    while rounds < MOST_ROUNDS and sum(_of_rounds(task, rounds).minutes for task in at_last) > room:
        rounds += 1
    return [_of_rounds(task, rounds) if task.id in late else task for task in tasks]


def _of_rounds(task: Task, rounds: int) -> Task:
    """The first of so many rounds of a task."""
    return replace(task, active=ceil(task.active / rounds), batches=rounds, in_rounds=True)


def _part_minutes(portion: Portion, appraisal: Appraisal, work: KitchenWork) -> int | None:
    """How long before eating a part of a salad may be made ready at most."""
    assert portion.food is not None
    hours = [rule.ahead_hours for rule in part_rules(portion.food, appraisal, work)]
    return round(60 * min(hours)) if hours else None


def _dressed_from(
    tasks: Sequence[Task], appraisal: Appraisal, mixing: set[int], rules: Sequence[KeepRule]
) -> set[int]:
    """Tasks from the one on in which the body of a salad meets its dressing."""
    if not any(rule.dress_window for rule in rules):
        return set()
    weighed = [p for p in appraisal.portions if p.known and p.food is not None]
    leaves = {line_of(p) for p in weighed if p.food is not None and p.food.group == "leafy"}
    heaviest = max(weighed, key=lambda p: p.in_bowl.value, default=None)
    if heaviest is None:
        return set()
    body = leaves if appraisal.recipe.kind == "leafy-salad" and leaves else {line_of(heaviest)}
    first = next((t.id for t in tasks if t.id in mixing and body & set(t.lines)), None)
    return {t.id for t in tasks if first is not None and t.id >= first}
