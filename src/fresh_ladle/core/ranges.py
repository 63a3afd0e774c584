"""A typical value with the low and high ends of its 90% range."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

Z90 = 1.6448536269514722
"""Standard deviations from the middle to either end of a 90% range (normal quantile of 0.95)."""


@dataclass(frozen=True, slots=True)
class Range:
    """A figure with doubt: `low <= value <= high`, the ends holding about nine cases in ten.

    Raises ValueError when the three are out of order.
    """

    value: float
    low: float
    high: float

    def __post_init__(self) -> None:
        if not self.low <= self.value <= self.high:
            raise ValueError(f"range out of order: {self.low} ≤ {self.value} ≤ {self.high}")

    @classmethod
    def exact(cls, value: float) -> Range:
        return cls(value, value, value)

    @classmethod
    def around(cls, value: float, share: float) -> Range:
        """A symmetric range of ± `share` (0.1 is ±10%)."""
        return cls(value, value * (1 - share), value * (1 + share))

    def scaled(self, factor: float) -> Range:
        """The range times a non-negative factor that is itself free of doubt."""
        return Range(self.value * factor, self.low * factor, self.high * factor)

    def times(self, other: Range) -> Range:
        """The product of two independent ranges, to first order on each side."""
        value = self.value * other.value
        down = sqrt((self.down_share) ** 2 + (other.down_share) ** 2)
        up = sqrt((self.up_share) ** 2 + (other.up_share) ** 2)
        return Range(value, value * max(0.0, 1 - down), value * (1 + up))

    @property
    def down_share(self) -> float:
        """Distance from the value to the low end, as a share of the value."""
        return (self.value - self.low) / self.value if self.value else 0.0

    @property
    def up_share(self) -> float:
        return (self.high - self.value) / self.value if self.value else 0.0

    @property
    def sd_down(self) -> float:
        """Standard deviation of the lower half, in the unit of the value."""
        return (self.value - self.low) / Z90

    @property
    def sd_up(self) -> float:
        return (self.high - self.value) / Z90
