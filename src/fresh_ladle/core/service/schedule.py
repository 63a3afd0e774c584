"""The order of work: every task gets its time and its cook, backwards from when it is eaten.

A constraint program (CP-SAT, one worker, fixed seed, so that the same day gives the same plan)
keeps orders, hands, equipment, hours and how long before eating a thing may be done; within them
everything is done as late as it can be. Minutes count forward from `Hours.first`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import TYPE_CHECKING

from fresh_ladle.core.service.task import Kitchen, Task
from fresh_ladle.core.service.times import minutes_words
from fresh_ladle.core.service.windows import TABLE_MINUTES

if TYPE_CHECKING:  # The solver takes longer to load than a page to make; days are planned seldom.
    from ortools.sat.python import cp_model

SAME_OVEN_CELSIUS = 10.0
"""What needs heats farther apart than this does not share an oven."""
QUARTERS_LATER = 32
"""Quarters of an hour by which a later meal is tried."""
SECONDS = 0.4
"""Effort after which the best plan so far is taken; counted by the solver in work done, not in time
that passed."""


@dataclass(frozen=True, slots=True)
class Hours:
    """When a kitchen works, as minutes on one line: eating is at `eaten`, `open` are stretches in
    which hands may work, in order; nothing begins before 0 or, when the day has begun, before
    `now`."""

    eaten: int
    open: tuple[tuple[int, int], ...]
    now: int = 0


@dataclass(frozen=True, slots=True)
class Placed:
    """A task in its place: `start`, `hands_free` when the cook turns to something else, `end` when
    it is done, and the number of the cook, from 0."""

    task: Task
    start: int
    hands_free: int
    end: int
    cook: int


@dataclass(frozen=True, slots=True)
class Schedule:
    """A day that works, in the order of the work."""

    placed: tuple[Placed, ...]

    @property
    def start(self) -> int:
        return min((p.start for p in self.placed), default=0)


@dataclass(frozen=True, slots=True)
class Impossible:
    """No day was found: `why` names what stands in the way, or that it was not decided; `would_do`
    is what makes it work, each tried. `later` is how many minutes later it works, None where no
    later hour was found."""

    why: str
    would_do: tuple[str, ...]
    later: int | None


@dataclass(frozen=True, slots=True)
class Awaited:
    """The order of work is still being worked out."""


@dataclass(frozen=True, slots=True)
class OrderAsk:
    """All that an order of work follows from."""

    tasks: tuple[Task, ...]
    kitchen: Kitchen
    hours: Hours

    def solved(self) -> Schedule | Impossible:
        """The order, worked out; that may take seconds."""
        return schedule(self.tasks, self.kitchen, self.hours)

    def schedule_from(self, starts: Mapping[int, int]) -> Schedule:
        """The order in which each task, by id, begins at such a minute."""
        return Schedule(_with_cooks(self.tasks, starts, self.kitchen.cooks))


def schedule(tasks: Sequence[Task], kitchen: Kitchen, hours: Hours) -> Schedule | Impossible:
    """Places every task, or says why that cannot be, with what would do: each was tried."""
    try:
        placed = _solved(tasks, kitchen, hours)
        why = "" if placed is not None else _what_stands_in_the_way(tasks, kitchen, hours)
    except _Undecided:
        placed, why = None, "no order of work was found, though none was proved impossible"
    if placed is not None:
        return Schedule(placed)
    would_do = []
    more = (
        (replace(kitchen, cooks=kitchen.cooks + 1), "one more cook"),
        (replace(kitchen, ovens=kitchen.ovens + 1), "one more oven"),
        (replace(kitchen, burners=kitchen.burners + 2), "two more burners"),
    )
    for larger, words in more:
        if _works(tasks, larger, hours):
            would_do.append(words)
    return Impossible(why, tuple(would_do), _minutes_later(tasks, kitchen, hours))


class _Undecided(Exception):
    """The effort ran out before a day was found, or none was proved to be."""


def _works(tasks: Sequence[Task], kitchen: Kitchen, hours: Hours) -> bool:
    """Whether a day was found; what was not decided was not found."""
    try:
        return _solved(tasks, kitchen, hours) is not None
    except _Undecided:
        return False


def _minutes_later(tasks: Sequence[Task], kitchen: Kitchen, hours: Hours) -> int | None:
    """By how many minutes eating may move so that a day is found, to a quarter of an hour; None
    where none is found within eight hours."""
    short, long = 0, QUARTERS_LATER
    if not _works(tasks, kitchen, _longer(hours, 15 * long)):
        return None
    while long - short > 1:
        middle = (short + long) // 2
        if _works(tasks, kitchen, _longer(hours, 15 * middle)):
            long = middle
        else:
            short = middle
    return 15 * long


def _longer(hours: Hours, later: int) -> Hours:
    *days, (start, end) = hours.open
    return replace(
        hours, eaten=hours.eaten + later, open=(*days, (start, max(end, hours.eaten + later)))
    )


def minutes_left(tasks: Sequence[Task]) -> dict[int, int]:
    """How long each task takes, by id, with all that waits for it, where nobody ever has to wait
    for hands."""
    left: dict[int, int] = {}
    for task in reversed(tasks):
        waiting = [left[later.id] for later in tasks if task.id in later.after and later.id in left]
        left[task.id] = task.minutes + max(waiting, default=0)
    return left


def _longest(tasks: Sequence[Task]) -> tuple[Task, Task, int]:
    """The first task of what takes longest, the longest task of all that waits for it, and the
    minutes in all."""
    left = minutes_left(tasks)
    first = max(tasks, key=lambda t: left[t.id])
    own, waiting = {first.id}, [first]
    for task in tasks:
        if own & set(task.after):
            own.add(task.id)
            waiting.append(task)
    return first, max(waiting, key=lambda t: t.minutes), left[first.id]


def _chain_too_long(tasks: Sequence[Task]) -> str:
    """The task that may begin only so long before eating while it takes longer, with what waits for
    it, whoever works; the one that lacks most. Empty where there is none."""
    left = minutes_left(tasks)
    limited = [
        (left[t.id] + TABLE_MINUTES - t.from_minutes, t)
        for t in tasks
        if t.from_minutes is not None
    ]
    if not limited or max(lacks for lacks, _ in limited) <= 0:
        return ""
    _, task = max(limited, key=lambda one: one[0])
    return (
        f"“{task.text}” may begin {minutes_words(task.from_minutes or 0)} before eating at the"
        f" earliest; with what follows, and {TABLE_MINUTES} min to the table, it takes"
        f" {minutes_words(left[task.id] + TABLE_MINUTES)}"
    )


def _what_stands_in_the_way(tasks: Sequence[Task], kitchen: Kitchen, hours: Hours) -> str:
    """Which limit it is: found by letting go of each."""
    if chain := _chain_too_long(tasks):
        return chain
    plenty = replace(kitchen, cooks=99, ovens=99, burners=99)
    free = [replace(task, from_minutes=None) for task in tasks]
    if _solved(free, kitchen, hours) is not None:
        return "what may only be done shortly before eating does not fit into that time"
    if _solved(tasks, plenty, hours) is None:
        first, longest, minutes = _longest(tasks)
        said = f"“{first.text}”, with what waits for it, takes"
        if first is not longest:
            said = f"“{first.text}”, “{longest.text}” and what follows take"
        return (
            f"{said} {minutes_words(minutes)}, one after the other: longer than there is until it"
            " is eaten"
        )
    for name, larger in (
        ("hands", replace(kitchen, cooks=99)),
        ("the oven", replace(kitchen, ovens=99)),
        ("burners", replace(kitchen, burners=99)),
    ):
        if _solved(tasks, larger, hours) is not None:
            return f"{name} {'are' if name != 'the oven' else 'is'} needed more than once at a time"
    return "hands and equipment together do not reach"


@dataclass(frozen=True, slots=True)
class _Placing:
    """The variables of one task."""

    start: cp_model.IntVar
    hands: cp_model.IntervalVar
    whole: cp_model.IntervalVar


def _solved(tasks: Sequence[Task], kitchen: Kitchen, hours: Hours) -> tuple[Placed, ...] | None:
    """The tasks in their places; None where it is proved that there is no such day. Raises
    _Undecided."""
    if not tasks:
        return ()
    from ortools.sat.python import cp_model

    model = cp_model.CpModel()
    done_by = hours.eaten - TABLE_MINUTES
    placings = {}
    for task in tasks:
        placing = _placing(model, task, hours, done_by)
        if placing is None:
            return None
        placings[task.id] = placing
    by_id = {task.id: task for task in tasks}
    for task in tasks:
        for before in task.after:
            if before in by_id:
                model.add(placings[task.id].start >= placings[before].start + by_id[before].minutes)
    model.add_cumulative([p.hands for p in placings.values()], [1] * len(tasks), kitchen.cooks)
    _share_equipment(model, tasks, placings, kitchen)
    model.maximize(sum(p.start for p in placings.values()))
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = SECONDS
    status = solver.solve(model)
    if status == cp_model.INFEASIBLE:
        return None
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise _Undecided
    return _with_cooks(
        tasks, {number: solver.value(p.start) for number, p in placings.items()}, kitchen.cooks
    )


def _hands(task: Task) -> int:
    return task.minutes if task.attended else task.active


def _placing(model: cp_model.CpModel, task: Task, hours: Hours, done_by: int) -> _Placing | None:
    """The variables of a task within the hours of hands and how early it may begin; None where it
    fits nowhere."""
    hands = _hands(task)
    earliest = max(
        hours.now, 0, hours.eaten - task.from_minutes if task.from_minutes is not None else 0
    )
    latest = done_by - task.minutes
    allowed = [
        [max(start, earliest), min(end - hands, latest)]
        for start, end in hours.open
        if max(start, earliest) <= min(end - hands, latest)
    ]
    if not allowed:
        return None
    from ortools.sat.python import cp_model

    start = model.new_int_var_from_domain(
        cp_model.Domain.from_intervals(allowed), f"start {task.id}"
    )
    return _Placing(
        start,
        model.new_fixed_size_interval_var(start, hands, f"hands {task.id}"),
        model.new_fixed_size_interval_var(start, task.minutes, f"whole {task.id}"),
    )


def _share_equipment(
    model: cp_model.CpModel,
    tasks: Sequence[Task],
    placings: Mapping[int, _Placing],
    kitchen: Kitchen,
) -> None:
    for name, room in (
        ("oven", kitchen.ovens * kitchen.trays),
        ("burner", kitchen.burners),
        ("blender", 1),
    ):
        using = [task for task in tasks if task.uses == name]
        if using:
            demands = [min(task.demand, room) for task in using]
            model.add_cumulative([placings[task.id].whole for task in using], demands, room)
    ovens = [task for task in tasks if task.uses == "oven" and task.celsius is not None]
    if kitchen.ovens == 1:
        for one, other in combinations(ovens, 2):
            if abs((one.celsius or 0) - (other.celsius or 0)) > SAME_OVEN_CELSIUS:
                model.add_no_overlap([placings[one.id].whole, placings[other.id].whole])


def _with_cooks(tasks: Sequence[Task], starts: Mapping[int, int], cooks: int) -> tuple[Placed, ...]:
    """The tasks with a cook each: whoever is free, the one who was at this dish first."""
    free_at, dish_of = [-(10**6)] * cooks, [""] * cooks
    found = []
    for task in sorted(tasks, key=lambda t: (starts[t.id], t.id)):
        start = starts[task.id]
        free = [cook for cook in range(cooks) if free_at[cook] <= start]
        cook = next((c for c in free if dish_of[c] == task.dish), free[0])
        free_at[cook], dish_of[cook] = start + _hands(task), task.dish
        found.append(Placed(task, start, start + _hands(task), start + task.minutes, cook))
    return tuple(found)
