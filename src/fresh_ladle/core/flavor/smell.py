"""What a mix smells of, by family of smell, and how far two mixes of like strength smell apart.

The aroma axis counts how strong a mix smells; this tells of what. Each food's part of the aroma is
shared equally between its one or two families. To compare two mixes, the one is brought to the
strength of the other, so that neither more of everything nor plain water is a change of smell. Each
family then has its noticeable steps, as an axis has, and families that are alike count less apart
(quadratic form over their likeness, 1 less their distance). All grade C."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.flavor.parameters import BY_ID, Setting, weber
from fresh_ladle.core.flavor.stimuli import Stimulus

Rows = NDArray[np.float64]

FAMILIES: dict[str, str] = {
    "green": "green",
    "citrus": "citrus",
    "anise": "anise",
    "minty": "mint",
    "camphor-pine": "pine",
    "floral": "flowers",
    "fruity": "fruit",
    "earthy": "earth",
    "smoky": "smoke",
    "toasted-nutty": "toasted nuts",
    "roasted-sweet": "roasting",
    "pungent-allium": "garlic and onion",
    "pungent-mustard": "mustard",
    "warm-spice": "warm spice",
    "peppery": "pepper",
    "resinous": "resin and wood",
    "cheesy-dairy": "dairy",
    "fermented-savory": "ferment",
    "marine": "the sea",
    "eggy-sulfur": "sulfur",
    "vinegary": "vinegar",
}
"""The families of smell, each with the word for it in “smells more of …”."""
FAMILY_IDS: tuple[str, ...] = tuple(FAMILIES)
NO_SMELL = "none"
FLOOR = 1.0
"""Aroma index below which a family alone is not smelled (C): a third of that of the aroma as a
whole."""


MOST_SHIFT = 4.0
"""What a smell of something else altogether comes to (C): plainly noticed, but not by itself
another dish."""


@dataclass(frozen=True, eq=False)
class Likeness:
    """How alike the families are: 1 for the same, 0 for nothing in common, shape (families,
    families)."""

    matrix: Rows

    @classmethod
    def of(cls, distances: Mapping[tuple[str, str], float]) -> Likeness:
        """From distances of 0 to 1 by pair. What is left of negative after eigenvalues are cut at 0
        is none."""
        plain = np.eye(len(FAMILY_IDS))
        for (a, b), distance in distances.items():
            i, j = FAMILY_IDS.index(a), FAMILY_IDS.index(b)
            plain[i, j] = plain[j, i] = 1 - distance
        values, vectors = np.linalg.eigh(plain)
        return cls(vectors @ np.diag(np.maximum(values, 0.0)) @ vectors.T)


UNRELATED = Likeness(np.eye(len(FAMILY_IDS)))
"""Every family by itself: where no table of distances is at hand."""


@dataclass(frozen=True, eq=False)
class Smell:
    """The aroma index of a mix by family, per 100 g, and how alike families are."""

    by_family: Rows
    likeness: Likeness


def families_of(portion: Portion) -> Sequence[str]:
    """The families a line smells of, as it was prepared; none where nobody said."""
    taste = portion.taste or (portion.food.taste if portion.food is not None else None)
    return [f for f in taste.smells if f != NO_SMELL] if taste is not None else ()


def smell_of(portions: Sequence[Portion], aroma: Stimulus, likeness: Likeness) -> Smell:
    """What a mix smells of, from what each line brings to its aroma."""
    found = np.zeros(len(FAMILY_IDS))
    for portion in portions:
        found += shared_between(families_of(portion), aroma.by_line.get(portion.line.id, 0.0))
    return Smell(found, likeness)


def shared_between(families: Sequence[str], amount: float) -> Rows:
    """An amount of aroma shared equally between families."""
    found = np.zeros(len(FAMILY_IDS))
    for family in families:
        found[FAMILY_IDS.index(family)] += amount / len(families)
    return found


def family_steps(now: Rows, before: Rows, setting: Setting) -> Rows:
    """Signed noticeable steps of each family at like strength, shape (mixes, families); `now` has a
    row for each mix.

    None where one of the two has no smell: then only the strength differs, and the aroma axis tells
    it."""
    strength = before.sum()
    total = now.sum(axis=1, keepdims=True)
    alike = now * np.divide(strength, total, out=np.zeros_like(total), where=total > FLOOR)
    steps: Rows = np.log((alike + FLOOR) / (before + FLOOR)) / np.log(
        1 + weber(BY_ID["aroma"], setting)
    )
    return np.where((total > FLOOR) & (strength > FLOOR), steps, 0.0)


def aroma_shifts(steps: Rows, likeness: Likeness) -> Rows:
    """Noticeable steps by which each mix smells of something else, from its steps by family: 0 to
    `MOST_SHIFT`; small ones keep their size."""
    plain = np.sqrt(np.maximum(((steps @ likeness.matrix) * steps).sum(axis=1), 0.0))
    found: Rows = MOST_SHIFT * (1 - np.exp(-plain / MOST_SHIFT))
    return found


def aroma_shift(now: Smell, before: Smell, setting: Setting) -> tuple[float, dict[str, float]]:
    """The steps by which one mix smells of something else than another, and the signed steps by
    family."""
    steps = family_steps(now.by_family[None, :], before.by_family, setting)
    shift = float(aroma_shifts(steps, before.likeness)[0])
    return shift, dict(zip(FAMILY_IDS, steps[0].tolist(), strict=True))
