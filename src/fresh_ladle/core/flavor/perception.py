"""How strong each axis is perceived: its stimulus, changed by what else is in the mix and by how
cold it is served."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.flavor.parameters import (
    AROMA_PER_DEGREE,
    AXIS_IDS,
    INTERACTIONS,
    MAX_SALT_LIFT,
    SWEET_PER_DEGREE,
    USUAL_CELSIUS,
    Interaction,
)
from fresh_ladle.core.flavor.stimuli import Stimulus

Rows = NDArray[np.float64]


class _Effects:
    """Pair effects that all lift or all hold, side by side in the order of the axes they act on."""

    def __init__(self, effects: Sequence[Interaction]) -> None:
        effects = sorted(effects, key=lambda e: AXIS_IDS.index(e.on))
        self._by = [AXIS_IDS.index(e.by) for e in effects]
        self._size = np.array([e.size for e in effects])
        self._half = np.array([e.half for e in effects])
        on = [AXIS_IDS.index(e.on) for e in effects]
        self.on = sorted(set(on))
        self._starts = [on.index(axis) for axis in self.on]

    def factors(self, plain: Rows) -> Rows:
        """What they do together to each axis of `on`: shape (mixes, axes acted on)."""
        amount = plain[:, self._by]
        return np.multiply.reduceat(
            1 + self._size * amount / (amount + self._half), self._starts, axis=1
        )


_LIFTING = _Effects([e for e in INTERACTIONS if e.size > 0])
_HOLDING = _Effects([e for e in INTERACTIONS if e.size <= 0])
_AROMA, _SWEET = AXIS_IDS.index("aroma"), AXIS_IDS.index("sweet")


def effective(stimuli: Mapping[str, Stimulus], celsius: float = USUAL_CELSIUS) -> dict[str, float]:
    """The concentration that would taste as strong on its own, by axis, in the unit of the
    stimulus."""
    plain = np.array([[stimuli[axis].value for axis in AXIS_IDS]])
    return dict(zip(AXIS_IDS, perceived(plain, celsius)[0].tolist(), strict=True))


def perceived(plain: Rows, celsius: float = USUAL_CELSIUS) -> Rows:
    """The same for many mixes at once, from plain stimuli of shape (mixes, axes).

    All effects start from the plain stimuli, so their order does not matter. An axis never goes
    below 0."""
    found = plain.copy()
    found[:, _LIFTING.on] *= np.minimum(_LIFTING.factors(plain), MAX_SALT_LIFT)
    found[:, _HOLDING.on] *= _HOLDING.factors(plain)
    warmer = celsius - USUAL_CELSIUS
    found[:, _AROMA] *= max(0.2, 1 + AROMA_PER_DEGREE * warmer)
    found[:, _SWEET] *= max(0.5, 1 + SWEET_PER_DEGREE * warmer)
    return found
