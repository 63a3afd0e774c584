"""A probe thermometer that is not there: its pan cools by Newton's law, and can be left too long or
pulled out of."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from math import exp
from random import Random
from time import monotonic

ROOM, REFRIGERATOR, ICE = 21.0, 3.0, 0.5
NOISE_C = 0.15
COOLED_PER_HOUR = {"flat pan": 1.6, "deep bowl": 0.45}
"""After an hour in still air e to the minus that is left of the distance to what is around it
(estimate)."""
FASTER_IN = {"room": 1.0, "refrigerator": 1.3, "ice bath, stirred": 6.0}
AROUND = {"room": ROOM, "refrigerator": REFRIGERATOR, "ice bath, stirred": ICE}


@dataclass
class StandInProbe:
    """One probe in one pan. `speed` is how many times faster than the clock its hours pass. All may
    be called from several threads; `now` gives the seconds of a clock."""

    vessel: str = "flat pan"
    place: str = "room"
    speed: float = 1.0
    in_food: bool = True
    plugged: bool = True
    fahrenheit: bool = False
    seed: int = 1
    now: Callable[[], float] = monotonic

    def __post_init__(self) -> None:
        self._lock = threading.RLock()
        self._rng = Random(self.seed)
        self._celsius, self._since = 82.0, self.now()

    def food_celsius(self) -> float:
        """What the food has now, without the noise of the probe."""
        with self._lock:
            hours = (self.now() - self._since) * self.speed / 3600
            rate = COOLED_PER_HOUR[self.vessel] * FASTER_IN[self.place]
            around = AROUND[self.place]
            return around + (self._celsius - around) * exp(-rate * hours)

    def change(self, what: str, value: str | float | bool) -> None:
        """Puts the pan elsewhere, into another vessel, or lets its hours pass faster. Raises
        KeyError for what is not there."""
        with self._lock:
            if (what == "vessel" and value not in COOLED_PER_HOUR) or (
                what == "place" and value not in AROUND
            ):
                raise KeyError(value)
            self._celsius, self._since = self.food_celsius(), self.now()
            setattr(self, what, value)

    def heat(self, celsius: float = 82.0) -> None:
        """The pan comes off the heat anew."""
        with self._lock:
            self._celsius, self._since = celsius, self.now()

    def line(self) -> str:
        """What it prints just now."""
        with self._lock:
            shown = (self.food_celsius() if self.in_food else ROOM) + self._rng.gauss(0.0, NOISE_C)
        return f"T {shown * 1.8 + 32:.1f} F" if self.fahrenheit else f"T {shown:.1f} C"

    def hear(self, heard: bytes) -> None:
        """It takes no commands."""
