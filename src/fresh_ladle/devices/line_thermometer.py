"""A probe thermometer that prints lines such as `T 63.4 C` to a serial port or a TCP port."""

from __future__ import annotations

import re
from contextlib import closing
from dataclasses import dataclass

from fresh_ladle.devices.port import PortGone, lines_of, opened
from fresh_ladle.devices.readout import ReadoutError, Trouble

LINES, PATIENCE_SECONDS = 3, 3.0
"""How many readings the middle one is taken of: one may be torn, or a draft."""
COLDEST, HOTTEST = -40.0, 300.0
_READING = re.compile(r"(?P<number>[+\-]?\d{1,3}(?:[.,]\d{1,2})?)\s*°?\s*(?P<unit>[CF])\b", re.I)


def celsius_of(line: str) -> float:
    """A line as °C. Raises ReadoutError for what is no temperature."""
    found = _READING.search(line)
    if found is None:
        raise ReadoutError(Trouble.PROBE_GARBAGE)
    number = float(found["number"].replace(",", "."))
    celsius = number if found["unit"].upper() == "C" else (number - 32) / 1.8
    if not COLDEST <= celsius <= HOTTEST:
        raise ReadoutError(Trouble.PROBE_GARBAGE)
    return celsius


@dataclass(frozen=True, slots=True)
class LineThermometer:
    """A thermometer at an address as `checked_address` gives it."""

    address: str
    patience_seconds: float = PATIENCE_SECONDS

    def celsius(self) -> float:
        """The middle of a few readings. Raises ReadoutError."""
        found, trouble = list[float](), Trouble.PROBE_GONE
        try:
            with closing(opened(self.address)) as port:
                for line in lines_of(port, self.patience_seconds):
                    try:
                        found.append(celsius_of(line))
                    except ReadoutError as error:
                        trouble = error.trouble
                    if len(found) >= LINES:
                        return sorted(found)[LINES // 2]
        except PortGone:
            raise ReadoutError(Trouble.PROBE_GONE) from None
        raise ReadoutError(trouble)
