"""What a change does to the texture of a recipe; and what a whole version does."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.flavor.texture import TEXTURES, Carrier, texture_steps
from fresh_ladle.core.whole.appraisal import Appraisal


def grams_by_food(portions: Iterable[Portion]) -> dict[str, float]:
    """Grams in the bowl by the key of the food."""
    found: dict[str, float] = {}
    for portion in portions:
        if portion.food is not None and portion.in_bowl.value > 0:
            found[portion.food.key] = found.get(portion.food.key, 0.0) + portion.in_bowl.value
    return found


def texture_between(
    after: Appraisal, original: Appraisal, carriers: Sequence[Carrier]
) -> dict[str, float]:
    """Steps of texture by axis from the original to a version."""
    return texture_steps(grams_by_food(original.portions), grams_by_food(after.portions), carriers)


class TextureOf:
    """The texture of one recipe: `start` its steps from the original as it stands, by the order of
    TEXTURES."""

    def __init__(self, original: Appraisal, now: Appraisal, carriers: Sequence[Carrier]) -> None:
        self._portions = now.portions
        self._before, self._now = grams_by_food(original.portions), grams_by_food(now.portions)
        self._carriers = [c for c in carriers if c.foods & self._before.keys()]
        self._carrying = (
            frozenset().union(*(c.foods for c in self._carriers))
            if self._carriers
            else frozenset[str]()
        )
        self.start = self._steps(self._now)

    def change(self, left: Mapping[str, float], added: Mapping[str, float]) -> NDArray[np.float64]:
        """Steps by which each axis changes where shares of lines are `left`, by their id, and grams
        of foods, by their key, are `added`."""
        touched = [p for p in self._portions if p.line.id in left and p.food is not None]
        if not any(p.food is not None and p.food.key in self._carrying for p in touched):
            return np.zeros(len(TEXTURES))
        after = dict(self._now)
        for portion in touched:
            key = portion.food.key if portion.food is not None else ""
            after[key] = max(
                0.0, after.get(key, 0.0) - portion.in_bowl.value * (1 - left[portion.line.id])
            )
        for key, grams in added.items():
            after[key] = after.get(key, 0.0) + grams
        return self._steps(after) - self.start

    def _steps(self, grams: Mapping[str, float]) -> NDArray[np.float64]:
        steps = texture_steps(self._before, grams, self._carriers)
        return np.array([steps[axis] for axis in TEXTURES])
