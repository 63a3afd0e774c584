"""The ways lines take through a method: each line as one strand, or several where it is shared out,
and in which order they lie beside each other so that what is brought together is beside each
other."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.method.process import Fate, Operation, Process

NEARLY_NONE = 0.02
"""The share of a line under which nothing of it is said to be eaten."""


@dataclass(frozen=True, slots=True)
class Way:
    """One way of a line: the ids of the operations it goes through, in order, and the share of the
    line that goes it. `forks` is whether it begins at its first operation, where it parts from
    another way of the line; `ends` whether it ends before the dish, at its last operation."""

    line: str
    operations: tuple[int, ...]
    share: float = 1.0
    forks: bool = False
    ends: bool = False


@dataclass(frozen=True, slots=True)
class Leaving:
    """What leaves a line on its way: how much of it, how, and at which operation (None where no
    step says it)."""

    line: str
    fate: Fate
    share: float
    operation: int | None


def ways_of(process: Process, lines: Sequence[str]) -> list[Way]:
    """The ways of all lines, in an order in which what comes together lies together. A line that no
    operation touches has a way with none."""
    before = {o.id: process.before(o.id) for o in process.operations}
    found = [way for line in lines for way in _ways_of_line(line, process, before)]
    return _beside_each_other(found, process.operations)


def leavings(process: Process) -> list[Leaving]:
    """What is not eaten, by line and fate; what is taken up by a grain is eaten with it."""
    return [
        Leaving(line, fate, share.value, _where(process, line, outcome.because.get(fate, "")))
        for line, outcome in process.outcomes.items()
        for fate, share in outcome.fates.items()
        if fate is not Fate.TAKEN_UP and share.value >= NEARLY_NONE
    ]


def _where(process: Process, line: str, words: str) -> int | None:
    own = [o.id for o in process.operations if o.text == words]
    return next((o for o in own if line in process.operations[o].lines), own[0] if own else None)


def _ways_of_line(line: str, process: Process, before: Mapping[int, set[int]]) -> list[Way]:
    """As few ways as go through all operations on a line."""
    own = [o.id for o in process.operations if line in o.lines]
    follows = {one: [other for other in own if one in before[other]] for one in own}
    # What is kept for another time ends there, whatever is done after it.
    ends = {one for one in own if process.operations[one].text == _kept_by(line, process)}
    follows |= {one: [] for one in ends}
    # Of two operations on a line, the later follows the earlier straight unless a third stands
    # between.
    straight = {
        one: sorted(
            (o for o in after if not any(o in follows[x] for x in after)),
            key=lambda o: (o in ends, o),
        )
        for one, after in follows.items()
    }
    follow_something = {other for after in straight.values() for other in after}
    paths: list[tuple[int, ...]] = []
    covered: set[int] = set()
    for start in [o for o in own if o not in follow_something]:
        paths.append(_path(start, straight, covered))
    forks: list[tuple[int, ...]] = []
    for one in own:
        if one not in covered:
            parts_at = max(o for o in own if one in straight[o])
            forks.append((parts_at, *_path(one, straight, covered)))
    found = [_begun(line, path, process, alone=len(paths) == 1) for path in paths]
    return [*found, *(_forked(line, path, process) for path in forks)] or [
        Way(line, (), ends=_is_gone(line, process))
    ]


def _path(start: int, straight: Mapping[int, Sequence[int]], covered: set[int]) -> tuple[int, ...]:
    """A way from an operation to the end: into the dish where it can, and through what no other way
    goes through."""
    path, here = [start], start
    while straight[here]:
        first = straight[here][0]
        here = next((o for o in straight[here] if o not in covered and straight[o]), first)
        path.append(here)
    covered.update(path)
    return tuple(path)


def _begun(line: str, path: tuple[int, ...], process: Process, alone: bool) -> Way:
    """A way that begins with the line itself; its share is that of its first operation."""
    share = 1.0 if alone else process.operations[path[0]].lines[line].value
    return Way(line, path, share, ends=_ends(line, path[-1], process))


def _forked(line: str, path: tuple[int, ...], process: Process) -> Way:
    """A way that parts from another: half a dressing that is kept."""
    share = process.operations[path[1]].lines[line].value
    return Way(line, path, share, forks=True, ends=_ends(line, path[-1], process))


def _ends(line: str, operation: int, process: Process) -> bool:
    """Whether a way with this last operation ends there."""
    return _is_gone(line, process) or process.operations[operation].text == _kept_by(line, process)


def _kept_by(line: str, process: Process) -> str:
    """The words of the step that keeps part of a line for another time; empty for none."""
    return process.outcomes[line].because.get(Fate.KEPT, "") if line in process.outcomes else ""


def _is_gone(line: str, process: Process) -> bool:
    outcome = process.outcomes.get(line)
    return outcome is not None and outcome.eaten.value < NEARLY_NONE


def _beside_each_other(ways: Sequence[Way], operations: Sequence[Operation]) -> list[Way]:
    """Ways in groups that grow as operations bring them together."""
    groups = [[way] for way in ways]
    for operation in operations:
        touched = [g for g in groups if any(operation.id in way.operations for way in g)]
        if len(touched) > 1:
            place = groups.index(touched[0])
            groups = [g for g in groups if g not in touched]
            groups.insert(place, [way for group in touched for way in group])
    return [way for group in groups for way in group]
