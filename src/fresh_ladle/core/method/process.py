"""What a method was read into: operations on things, in which order, and what becomes of each
line."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from fresh_ladle.core.method.clauses import Sort
from fresh_ladle.core.method.lexicon import VerbClass
from fresh_ladle.core.ranges import Range


class Fate(StrEnum):
    """What becomes of a part of a line that is not simply eaten."""

    TAKEN_UP = "taken up"
    POURED_OFF = "poured off"
    LEFT_ON_METAL = "left on the tray or in the pan"
    THROWN_AWAY = "thrown away"
    KEPT = "kept for another time"


@dataclass(frozen=True, slots=True)
class Said:
    """One clause as it was read. `step` counts from 0; `operation` is the id of the work it is,
    None where it is none."""

    text: str
    sort: Sort
    step: int
    operation: int | None = None


@dataclass(frozen=True, slots=True)
class Operation:
    """One thing a cook does. `lines` are the ids of the lines in it with the share of each; `named`
    those that its words name. `after` are the operations that must be over before. `minutes` and
    `celsius` are what is said of it, `sign` how its end is told; `sure` is false where it was not
    clear what it is done to."""

    id: int
    text: str
    verb: str
    kind: VerbClass
    step: int
    lines: Mapping[str, Range]
    named: tuple[str, ...]
    after: tuple[int, ...]
    minutes: Range | None = None
    celsius: float | None = None
    sign: str = ""
    sure: bool = True


@dataclass(frozen=True, slots=True)
class Outcome:
    """What becomes of one line. `eaten` is the share of it that its figures count for, `weight` the
    share that weighs in the bowl by itself (water a grain took up is in the weight of the grain);
    `fates` are the shares that go another way, `because` the words of the step by which each does;
    `done` the verbs done to it, in order."""

    eaten: Range
    weight: Range
    fates: Mapping[Fate, Range] = field(default_factory=dict)
    because: Mapping[Fate, str] = field(default_factory=dict)
    done: tuple[str, ...] = ()

    @property
    def is_plain(self) -> bool:
        """Whether all of it is eaten."""
        return not self.fates


@dataclass(frozen=True, slots=True)
class Process:
    """A method, read. `unused` are the ids of operations whose product goes nowhere."""

    said: tuple[Said, ...]
    operations: tuple[Operation, ...]
    outcomes: Mapping[str, Outcome]
    unused: tuple[int, ...] = ()

    def before(self, operation: int) -> set[int]:
        """All operations that must be over before one, however far back."""
        found: set[int] = set()
        waiting = list(self.operations[operation].after)
        while waiting:
            one = waiting.pop()
            if one not in found:
                found.add(one)
                waiting += self.operations[one].after
        return found
