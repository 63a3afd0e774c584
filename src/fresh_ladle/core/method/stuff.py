"""What stands about in a kitchen while a method is done: lines not touched yet, bowls, pans, what
was poured off."""

from __future__ import annotations

from dataclasses import dataclass, field

from fresh_ladle.core.ranges import Range

NONE = Range(0.0, 0.0, 0.0)
WHOLE = Range(1.0, 1.0, 1.0)


def product(one: Range, other: Range) -> Range:
    return Range(one.value * other.value, one.low * other.low, one.high * other.high)


def total(one: Range, other: Range) -> Range:
    return Range(one.value + other.value, one.low + other.low, one.high + other.high)


def left(whole: Range, taken: Range) -> Range:
    """What is left when `taken` goes, at least nothing."""
    return Range(
        max(0.0, whole.value - taken.value),
        max(0.0, whole.low - taken.high),
        max(0.0, whole.high - taken.low),
    )


@dataclass(eq=False)
class Stuff:
    """One thing: the share of each line in it, the operations it waits for, and what was done to it
    since it was brought together (`treated`). `mixed` tells whether things were brought together in
    it; `water` whether it stands in water that no line brings; `liquor` that it is what was poured
    off from something."""

    parts: dict[str, Range]
    waits: set[int] = field(default_factory=set)
    mixed: bool = False
    water: bool = False
    liquor: bool = False
    away: bool = False
    """Kept for another time; something of it may still be asked for."""
    component: str = ""
    called: frozenset[str] = frozenset()
    """What a step calls it: "whisk to a dressing"."""
    said: str = ""
    """The words of the step by which it was poured off or put by."""
    treated: list[str] = field(default_factory=list)
    before: dict[str, Range] = field(default_factory=dict)
    """The shares of what dissolves, as they were before anything was poured off."""

    @property
    def is_empty(self) -> bool:
        return not self.parts

    def split(self, share: Range) -> Stuff:
        """Takes a share of all of it out, as a thing of its own."""
        taken = {line: product(part, share) for line, part in self.parts.items()}
        self.parts = {line: left(part, taken[line]) for line, part in self.parts.items()}
        return Stuff(
            taken, set(self.waits), self.mixed, self.water, self.liquor, component=self.component,
            called=self.called, treated=[*self.treated],
        )  # fmt: skip
