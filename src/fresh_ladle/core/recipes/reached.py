"""What a method makes of one line: how much of it is eaten, and what was done to it."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.ranges import Range


@dataclass(frozen=True, slots=True)
class Reached:
    """Of a line, the share that its figures count for (`eaten`), the share that weighs in the bowl
    by itself (`weight`: nothing where a grain drank it), and the ids of all preparations it has
    gone through, said by the line or by the method; `done` are the verbs that steps do to it, in
    order."""

    eaten: Range
    weight: Range
    preparations: tuple[str, ...] = ()
    done: tuple[str, ...] = ()
