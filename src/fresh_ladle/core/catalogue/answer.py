"""What answers a taster's word: a food that moves a taste the right way."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Answer:
    """`food` moves `axis` up (`up`) or down for a bowl that tastes as `word` says (a cook's
    judgement, grade C)."""

    word: str
    food: str
    axis: str
    up: bool
    why: str
