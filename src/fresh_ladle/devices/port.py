"""A port that prints lines: a serial one here, or a TCP one in the house. Opened for each question,
then let go."""

from __future__ import annotations

import ipaddress
import re
from collections.abc import Iterator
from time import monotonic
from typing import Any

import serial

MAX_LINE = 120
BAUD = 9600
_TCP = re.compile(r"(?P<host>\[[0-9a-f:]+\]|[0-9.]+|localhost):(?P<port>\d{1,5})", re.I)
_SERIAL = re.compile(r"/dev/[A-Za-z0-9._/-]{1,60}|COM\d{1,3}", re.I)


class PortGone(Exception):
    """Nothing answers there; `busy` where something else holds the port."""

    def __init__(self, busy: bool = False) -> None:
        super().__init__("the port is gone")
        self.busy = busy


def checked_address(address: str, what: str = "scale") -> str:
    """The address of an instrument as it is opened: `127.0.0.1:8177`, `/dev/ttyUSB0` or `COM3`.

    Raises ValueError, in words, for another, for two at once, and for an address outside of the
    house."""
    address = address.strip()
    if re.search(r"[,;\s]", address):
        raise ValueError(
            f"one {what} at a time: the workbench would not know which of two is meant"
        )
    if _SERIAL.fullmatch(address) and ".." not in address:
        return address
    found = _TCP.fullmatch(address)
    if found is None or not 1 <= int(found["port"]) <= 65535:
        raise ValueError(
            f"a {what} is at an address such as 127.0.0.1:8177, or at a port such as /dev/ttyUSB0"
        )
    host = found["host"].strip("[]")
    try:
        inside = host.lower() == "localhost" or _is_inside(host)
    except ValueError:
        raise ValueError(f"{host} is no address") from None
    if not inside:
        raise ValueError(f"a {what} is in the house: only addresses of the own network are asked")
    return f"socket://{found['host']}:{found['port']}"


def _is_inside(host: str) -> bool:
    found = ipaddress.ip_address(host)
    return (
        found.is_loopback or found.is_private or found.is_link_local
    ) and not found.is_unspecified


def opened(address: str) -> Any:
    """The port at an address as `checked_address` gives it. Raises PortGone."""
    try:
        return serial.serial_for_url(address, baudrate=BAUD, timeout=0.4, write_timeout=1.0)
    except (OSError, ValueError, serial.SerialException) as error:
        raise PortGone("busy" in str(error).lower() or "exclusive" in str(error).lower()) from None


def sent(port: Any, command: bytes) -> None:
    """Sends a command. Raises PortGone."""
    try:
        port.write(command)
    except (OSError, serial.SerialException):
        raise PortGone from None


def lines_of(port: Any, patience_seconds: float) -> Iterator[str]:
    """Whole lines until patience ends. Raises PortGone where the port is gone."""
    end, held = monotonic() + patience_seconds, b""
    while monotonic() < end:
        try:
            held += port.read(1)
            held += port.read(min(port.in_waiting or 0, 4 * MAX_LINE))
        except (OSError, serial.SerialException):
            raise PortGone from None
        *whole, held = re.split(rb"[\r\n]+", held)
        held = held[-MAX_LINE:]
        for line in whole:
            if line.strip():
                yield line.decode("ascii", errors="replace")
