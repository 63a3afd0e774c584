"""Who is next when work has to wait: turn by turn between people, and of one person what came
first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

MOST_OF_ONE, MOST_WITHOUT_ACCOUNTS = 6, 24
"""Pieces of work one person may have waiting or under way, and all together where nobody has an
account."""


@dataclass(frozen=True, slots=True)
class Waiting:
    """A piece of work in line. `of` is whose it is."""

    id: int
    of: str


def next_in_line(
    waiting: Sequence[Waiting], running: Sequence[Waiting], served: Mapping[str, int]
) -> Waiting | None:
    """The piece of work that goes next; None where nothing waits. `waiting` is in the order it came
    in.

    It is of the person with the least under way, and among those of who has waited longest since
    the last turn; `served` tells at which turn each person was served last."""
    if not waiting:
        return None
    under_way = {one.of: sum(r.of == one.of for r in running) for one in waiting}
    return min(waiting, key=lambda one: (under_way[one.of], served.get(one.of, -1)))


def most_in_line(of: str) -> int:
    return MOST_OF_ONE if of else MOST_WITHOUT_ACCOUNTS
