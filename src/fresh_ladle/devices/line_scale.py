"""A scale that prints lines of ASCII to a serial port or a TCP port.

Each question opens the port, waits for a line that has settled, and lets go of it again: a scale that is unplugged in
between, or asked by two tablets in turn, is no trouble. Ports are serial ones here, or TCP ones in the house.
"""

from __future__ import annotations

import ipaddress
import re
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass
from time import monotonic
from typing import Any

import serial

from fresh_ladle.devices.pattern import MAX_LINE, USUAL_PATTERN, compiled, weight_of
from fresh_ladle.devices.readout import ReadoutError, Trouble, Weight

PATIENCE_SECONDS = 4.0
SETTLED_LINES = 2
"""Settled lines in a row that agree, before one is believed: a single one may be from before the spoon."""
GARBAGE_LINES = 6
BAUD = 9600
TARE = b"T\r\n"
_TCP = re.compile(r"(?P<host>\[[0-9a-f:]+\]|[0-9.]+|localhost):(?P<port>\d{1,5})", re.I)
_SERIAL = re.compile(r"/dev/[A-Za-z0-9._/-]{1,60}|COM\d{1,3}", re.I)


def checked_address(address: str) -> str:
    """The address of a scale as it is opened: `127.0.0.1:8177`, `/dev/ttyUSB0` or `COM3`.

    Raises ValueError, in words, for another, for two at once, and for an address outside of the house.
    """
    address = address.strip()
    if re.search(r"[,;\s]", address):
        raise ValueError("one scale at a time: the workbench would not know which of two is meant")
    if _SERIAL.fullmatch(address) and ".." not in address:
        return address
    found = _TCP.fullmatch(address)
    if found is None or not 1 <= int(found["port"]) <= 65535:
        raise ValueError("a scale is at an address such as 127.0.0.1:8177, or at a port such as /dev/ttyUSB0")
    host = found["host"].strip("[]")
    try:
        inside = host.lower() == "localhost" or _is_inside(host)
    except ValueError:
        raise ValueError(f"{host} is no address") from None
    if not inside:
        raise ValueError("a scale is in the house: only addresses of the own network are asked")
    return f"socket://{found['host']}:{found['port']}"


def _is_inside(host: str) -> bool:
    found = ipaddress.ip_address(host)
    return (found.is_loopback or found.is_private or found.is_link_local) and not found.is_unspecified


@dataclass(frozen=True, slots=True)
class LineScale:
    """A scale at an address as `checked_address` gives it."""

    address: str
    pattern: str = USUAL_PATTERN
    patience_seconds: float = PATIENCE_SECONDS

    def weight(self) -> Weight:
        """A settled weight, of lines that agree. Raises ReadoutError."""
        pattern, agreed, last, wrong = compiled(self.pattern), 0, None, 0
        seen = Trouble.GONE
        with closing(self._opened()) as port:
            for line in self._lines(port):
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
        with closing(self._opened()) as port:
            try:
                port.write(TARE)
            except (OSError, serial.SerialException):
                raise ReadoutError(Trouble.GONE) from None

    def _opened(self) -> Any:
        try:
            return serial.serial_for_url(self.address, baudrate=BAUD, timeout=0.4, write_timeout=1.0)
        except (OSError, ValueError, serial.SerialException) as error:
            busy = "busy" in str(error).lower() or "exclusive" in str(error).lower()
            raise ReadoutError(Trouble.TWO if busy else Trouble.GONE) from None

    def _lines(self, port: Any) -> Iterator[str]:
        """Whole lines until patience ends. Raises ReadoutError where the port is gone."""
        end, held = monotonic() + self.patience_seconds, b""
        while monotonic() < end:
            try:
                held += port.read(1)
                held += port.read(min(port.in_waiting or 0, 4 * MAX_LINE))
            except (OSError, serial.SerialException):
                raise ReadoutError(Trouble.GONE) from None
            *whole, held = re.split(rb"[\r\n]+", held)
            held = held[-MAX_LINE:]
            for line in whole:
                if line.strip():
                    yield line.decode("ascii", errors="replace")
