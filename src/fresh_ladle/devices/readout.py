"""What a scale or a thermometer says, and how it fails: the interface the workbench knows, whatever
is plugged in."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol


class Trouble(StrEnum):
    """Why there is no reading, as a person is told."""

    GONE = "the scale does not answer: see that it is on and plugged in, or type the weight"
    OVERLOAD = "there is more on the scale than it can carry: take something off"
    UNDER = "the scale stands below nothing: something was taken off after it was set to zero"
    NOT_SETTLED = "the scale does not settle: keep hands and drafts away, and try again"
    GARBAGE = "the scale sends what is no weight: look at its pattern in Settings"
    PROBE_GONE = (
        "the thermometer does not answer: see that it is on and plugged in, or type what it shows"
    )
    PROBE_GARBAGE = "the thermometer sends what is no temperature: type what it shows"
    TWO = "two things answer there at once: plug one of them off"


class ReadoutError(Exception):
    """There is no reading; `trouble` says why."""

    def __init__(self, trouble: Trouble) -> None:
        super().__init__(str(trouble))
        self.trouble = trouble


@dataclass(frozen=True, slots=True)
class Weight:
    """Grams on the pan since it was set to zero; `stable` when the scale says that it has settled.
    `step_g` is the smallest step the scale shows."""

    grams: float
    stable: bool
    step_g: float


class Scale(Protocol):
    """A scale. Both raise ReadoutError."""

    def weight(self) -> Weight:
        """A settled weight."""

    def tare(self) -> None:
        """Sets what is on the pan to zero."""
