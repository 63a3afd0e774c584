"""A scale that prints lines of ASCII to a serial port or a TCP port.

Each question opens the port, waits for a line that has settled, and lets go of it again: a scale
that is unplugged in between, or asked by two tablets in turn, is no trouble."""

from __future__ import annotations

from contextlib import closing
from dataclasses import dataclass

from fresh_ladle.devices.pattern import USUAL_PATTERN, compiled, weight_of
from fresh_ladle.devices.port import PortGone, lines_of, opened, sent
from fresh_ladle.devices.readout import ReadoutError, Trouble, Weight

PATIENCE_SECONDS = 4.0
SETTLED_LINES = 2
"""Settled lines in a row that agree, before one is believed: a single one may be from before the
spoon."""
GARBAGE_LINES = 6
TARE = b"T\r\n"


@dataclass(frozen=True, slots=True)
class LineScale:
    """A scale at an address as `checked_address` gives it."""

    address: str
    pattern: str = USUAL_PATTERN
    patience_seconds: float = PATIENCE_SECONDS

    def weight(self) -> Weight:
        """A settled weight, of lines that agree. Raises ReadoutError."""
        try:
            return self._settled()
        except PortGone as gone:
            raise ReadoutError(Trouble.TWO if gone.busy else Trouble.GONE) from None

    def _settled(self) -> Weight:
        pattern, agreed, last, wrong = compiled(self.pattern), 0, None, 0
        seen = Trouble.GONE
        with closing(opened(self.address)) as port:
            for line in lines_of(port, self.patience_seconds):
                try:
                    found = weight_of(line, pattern)
                except ReadoutError as error:
                    wrong, seen, agreed = wrong + 1, error.trouble, 0
                    # The first line may be the tail of one.
                    if wrong >= (GARBAGE_LINES if error.trouble is Trouble.GARBAGE else 2):
                        raise
                    continue
                seen = Trouble.NOT_SETTLED
                near = last is not None and abs(found.grams - last.grams) <= 1.5 * found.step_g
                agreed = (agreed + 1 if near else 1) if found.stable else 0
                last = found
                if agreed >= SETTLED_LINES:
                    return found
        raise ReadoutError(seen)

    def tare(self) -> None:
        """Sets what is on the pan to zero. Raises ReadoutError."""
        try:
            with closing(opened(self.address)) as port:
                sent(port, TARE)
        except PortGone as gone:
            raise ReadoutError(Trouble.TWO if gone.busy else Trouble.GONE) from None
