"""Makes an exercise of a kind: the same for the same seed and the same ground."""

from __future__ import annotations

from collections.abc import Callable
from random import Random

from fresh_ladle.core.practice import amounts, changes, dishes
from fresh_ladle.core.practice.exercise import Exercise, NoExercise
from fresh_ladle.core.practice.ground import Ground

TRIES = 400
KINDS: dict[str, tuple[str, Callable[[Random, Ground], Exercise]]] = {
    "weigh": ("how many grams a measure of a food is", amounts.weigh),
    "carries": ("which line carries a figure", dishes.carries),
    "serving": ("what a serving holds", dishes.serving),
    "saves": ("which swap saves more", changes.saves),
    "tasted": ("which swap will be tasted", changes.tasted),
    "steps": ("how many noticeable steps a change is", changes.steps),
    "missing": ("what a dish lacks", dishes.missing),
    "word": ("whether a word may stand on the card", dishes.word),
    "keep": ("how long a dish keeps", dishes.keep),
    "label": ("what a label says of 100 g", amounts.label),
    "scale": ("a line for more people", amounts.scale),
    "weigh-first": ("which line to weigh first", dishes.weigh_first),
}
"""Kinds of exercises with what they ask."""


def exercise(kind: str, seed: int, ground: Ground) -> Exercise:
    """One exercise. Raises NoExercise where no such kind is known, or nothing of it can be asked of
    this ground."""
    if kind not in KINDS:
        raise NoExercise(f"no exercise is called {kind!r}: choose one of {', '.join(KINDS)}")
    dice = Random(f"{kind} {seed}")
    for _ in range(TRIES):
        try:
            return KINDS[kind][1](dice, ground)
        except NoExercise:
            continue
    raise NoExercise(f"nothing can be asked of the kind {kind!r} with these recipes")
