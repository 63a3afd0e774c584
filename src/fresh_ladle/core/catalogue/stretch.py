"""A stretch as data: something light that belongs to a kind of dish, and more of which makes the
same dish lighter."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Stretch:
    """A food that may come in: grams per 100 g of mix for one dose (a cook's judgement, grade
    C)."""

    food: str
    per_100_g: float
    how: str
    reason: str
