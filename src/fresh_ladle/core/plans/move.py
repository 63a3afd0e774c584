"""What a plan may do, as values: a way to change something, a move, and all moves of one recipe
with their rows.

A slot is one thing that can be changed: a line, one of the components, or something that may come
in. A move is one state of a slot other than how it is now; a plan takes at most one move of each
slot. What a move does to the bowl is a row of differences (see `sums`). How moves are made is in
`moves`."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.incoming import Timing
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.plans.ladder import Rung
from fresh_ladle.core.plans.sums import Rows
from fresh_ladle.core.recipes.recipe import Line


@dataclass(frozen=True, slots=True)
class Part:
    """One food that comes in: grams for each gram taken out, or per 100 g of mix for one dose."""

    food: Food
    ratio: float
    how: str = ""


@dataclass(frozen=True, slots=True)
class Way:
    """One kind of change, of the `line` it takes from. `kind` is cut, raise, measure, swap, repair,
    stretch or component."""

    id: str
    kind: str
    reason: str
    line: str | None = None
    parts: tuple[Part, ...] = ()
    noticed_at: float = 1.0
    fails_at: float = 1.0
    when: str = ""
    timing: Timing = Timing.WITH_THE_BASE


@dataclass(frozen=True, slots=True)
class Move:
    """One state of a slot. `left` is the amount a line comes to, None when it goes or is not one;
    `added` what comes in for it; `share` the part of a component that is still used. `cost` is in
    steps of taste."""

    slot: str
    ways: tuple[Way, ...]
    left: str | None = None
    added: tuple[tuple[Part, Rung], ...] = ()
    share: float = 1.0
    cost: float = 0.0
    gone: float = 0.0
    """The share of a line that is taken out."""

    @property
    def changes(self) -> int:
        return len(self.ways)


@dataclass(frozen=True)
class Slot:
    """One line that may change: the least and most grams it may end with. `must_go` when it is to
    be left out, `identity` when it makes the dish what it is."""

    portion: Portion
    grams: float
    least: float
    most: float
    must_go: bool
    identity: bool

    @property
    def id(self) -> str:
        return self.portion.line.id


@dataclass(frozen=True)
class Moves:
    """All moves with their rows. `slot_of` numbers the slot of each; `must` holds the numbers of
    slots that have to change. `stuck` names lines that are to be left out and may not change: then
    nothing can hold."""

    moves: tuple[Move, ...]
    rows: Rows
    slot_of: np.ndarray[tuple[int], np.dtype[np.int64]]
    slots: tuple[str, ...]
    lines: tuple[Slot, ...]
    must: tuple[int, ...]
    stuck: tuple[str, ...]
    helped: Rows
    """By what share of the largest open gap each brings its figure nearer, below 0 where it
    does."""
    apart: tuple[frozenset[int], ...]
    """For each slot those that cannot change beside it, itself among them: a component and the
    lines in it, and what brings in the same food."""

    @property
    def cost(self) -> Rows:
        return np.array([m.cost for m in self.moves])

    @property
    def changes(self) -> Rows:
        return np.array([float(m.changes) for m in self.moves])


def added_line(line_id: str, part: Part, rung: Rung, component: str) -> Line:
    """The line that an amount of a food that comes in makes in the recipe."""
    how = f", {part.how}" if part.how else ""
    return Line(
        line_id,
        f"{rung.text} {part.food.kitchen_name}{how}",
        rung.text,
        part.food.key,
        component,
        remarks=(part.how,) if part.how else (),
        named=part.food.kitchen_name,
    )
