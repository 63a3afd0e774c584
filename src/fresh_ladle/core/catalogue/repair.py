"""A repair as data: what mends an axis that drifted, how much of it, and when it goes in."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.catalogue.incoming import Placement, Timing


@dataclass(frozen=True, slots=True)
class Addition:
    """A food that a repair adds: grams per 100 g of mix for one dose."""

    food: str
    per_100_g: float
    how: str = ""
    placement: Placement = Placement.MIXED_IN


@dataclass(frozen=True, slots=True)
class Repair:
    """One repair, offered when `axis` is too low or too high (`mends`): a taste, or a figure a
    target asks more of. Without additions it is a way of working.

    `to_surface` is the share of the salt that is kept back and scattered on top at the end.
    """

    id: str
    title: str
    axis: str
    mends: str
    additions: tuple[Addition, ...]
    courses: frozenset[str]
    when: str
    reason: str
    timing: Timing = Timing.WITH_THE_BASE
    to_surface: float = 0.0

    @property
    def computed(self) -> bool:
        """Whether it changes amounts, so that its effect can be worked out."""
        return bool(self.additions) or self.to_surface > 0
