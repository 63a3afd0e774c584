"""A made-up blend for practice, with a truth of its own that the model of thickness does not know.

Its yield stress follows a power of the solids that differs from blend to blend, and their crowding
besides (it rises without end where they touch), which the model's straight line leaves out; the
sheet is read to a quarter of a centimeter, with the scatter of a hand."""

from __future__ import annotations

from dataclasses import dataclass
from math import exp
from random import Random

RING_CM, PACKED = 2.5, 0.72
"""Radius of the ring; share of solids at which nothing runs any more."""
STANDING_HOURS = 2.5


@dataclass(frozen=True, slots=True)
class HiddenBlend:
    """`solids` is their share when blended; `power` how fast the stress grows with them; `firmness`
    sets the scale; `swells` is the share by which solids swell on standing."""

    solids: float
    power: float
    firmness: float
    swells: float

    @classmethod
    def made_up(cls, seed: int) -> HiddenBlend:
        """A blend that is a dip before any water goes in: it runs half a centimeter to three."""
        rng = Random(seed)
        solids, power, run = rng.uniform(0.25, 0.5), rng.uniform(3.5, 6.0), rng.uniform(0.5, 3.0)
        firmness = ((RING_CM + run) / RING_CM) ** 5 * _stress(solids, power)
        return cls(solids, power, firmness, rng.uniform(0.02, 0.08))

    def run_cm(self, water_share: float, hours: float = 0.0) -> float:
        """How far it truly runs with so much water to the gram of blend, after so many hours."""
        swollen = self.solids * (1 + self.swells * (1 - exp(-hours / STANDING_HOURS)))
        solids = min(PACKED - 0.01, swollen / (1 + water_share))
        radius = RING_CM * float((self.firmness / _stress(solids, self.power)) ** 0.2)
        return max(0.0, radius - RING_CM)

    def reading_cm(self, water_share: float, hours: float, rng: Random) -> float:
        """What is read off the sheet."""
        run = self.run_cm(water_share, hours)
        off = rng.gauss(0.0, 0.03) * (RING_CM + run)
        return max(0.0, round((run + off) * 4) / 4)


def _stress(solids: float, power: float) -> float:
    return float(solids**power / (1 - solids / PACKED))
