"""A scale that is not there: things are put on its pan and taken off, it settles, drifts, and can
be made to fail.

It speaks lines as many bench scales do, over TCP on this machine alone, so that nothing in the
workbench knows that it is none."""

from __future__ import annotations

import socket
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from math import exp
from random import Random
from time import monotonic
from typing import Protocol

MOST_G = 5000.0
STEP_G = 0.1
SETTLES_SECONDS = 0.2
NOISE_G, DRIFT_G_PER_MINUTE = 0.03, 0.02
STABLE_WITHIN_G = 0.05
LINES_A_SECOND = 8
OUNCE_G = 28.349523125


@dataclass
class Thing:
    """What can stand on the pan: `empty_g` of vessel and `holds_g` of what is in it; `pinch_g` goes
    at a time."""

    name: str
    empty_g: float
    holds_g: float
    pinch_g: float

    @property
    def grams(self) -> float:
        return self.empty_g + self.holds_g


def shelf() -> dict[str, Thing]:
    """What stands beside the stand-in."""
    return {
        "salt": Thing("salt cellar", 180.0, 120.0, 0.4),
        "oil": Thing("oil bottle", 410.0, 480.0, 4.5),
        "lemon": Thing("half a lemon", 12.0, 46.0, 2.5),
        "honey": Thing("honey jar", 230.0, 300.0, 7.0),
        "bowl": Thing("empty bowl", 620.0, 0.0, 0.0),
    }


@dataclass
class StandInScale:
    """One scale with its pan. All may be called from several threads."""

    things: dict[str, Thing] = field(default_factory=shelf)
    on_pan: set[str] = field(default_factory=set)
    ounces: bool = False
    plugged: bool = True
    garbage: bool = False
    extra_g: float = 0.0
    seed: int = 1

    def __post_init__(self) -> None:
        self._lock = threading.RLock()
        self._rng = Random(self.seed)
        self._zero_g, self._from_g, self._since, self._began = 0.0, 0.0, -1e9, monotonic()

    def put(self, thing: str) -> None:
        """Raises KeyError for what does not stand beside it, as do the next two."""
        self._known(thing)
        self._move(lambda: self.on_pan.add(thing))

    def take(self, thing: str) -> None:
        self._known(thing)
        self._move(lambda: self.on_pan.discard(thing))

    def use(self, thing: str) -> None:
        """A pinch, a glug, a squeeze of what is in it goes into the dish."""

        found = self._known(thing)

        def less() -> None:
            spread = self._rng.uniform(0.8, 1.25)
            found.holds_g = max(0.0, found.holds_g - found.pinch_g * spread)

        self._move(less)

    def _known(self, thing: str) -> Thing:
        return self.things[thing]

    def load(self, grams: float) -> None:
        """Something heavy besides, to overload it; 0 takes it off."""

        def loaded() -> None:
            self.extra_g = grams

        self._move(loaded)

    def tare(self) -> None:
        with self._lock:
            self._zero_g = self._true_g()

    def _move(self, change: Callable[[], None]) -> None:
        with self._lock:
            self._from_g = self._shown_g(noisy=False)
            change()
            self._since = monotonic()

    def _true_g(self) -> float:
        return self.extra_g + sum(self.things[t].grams for t in self.on_pan)

    def _shown_g(self, noisy: bool = True) -> float:
        since = monotonic() - self._since
        goes_on = exp(-since / SETTLES_SECONDS)
        shown = self._true_g() + (self._from_g - self._true_g()) * goes_on
        if not noisy:
            return shown
        drift = DRIFT_G_PER_MINUTE * (monotonic() - self._began) / 60 % 0.2
        return shown + drift + self._rng.gauss(0.0, NOISE_G)

    def hear(self, heard: bytes) -> None:
        """`T` sets it to zero."""
        if b"T" in heard:
            self.tare()

    def line(self) -> str:
        """What it prints just now: `ST   123.4 g`, `US ...` while it settles, `OL` or `UL`."""
        with self._lock:
            if self.garbage:
                return "".join(self._rng.choice("#~%&xyz") for _ in range(9))
            shown = self._shown_g() - self._zero_g
            if self._true_g() > MOST_G:
                return "OL"
            if shown < -MOST_G:
                return "UL"
            settled = abs(self._shown_g(noisy=False) - self._true_g()) < STABLE_WITHIN_G
            value, unit = (shown / OUNCE_G, "oz") if self.ounces else (shown, "g")
            digits = f"{value:.3f}" if self.ounces else f"{round(value / STEP_G) * STEP_G:.1f}"
            return f"{'ST' if settled else 'US'} {digits:>8} {unit}"


class Printer(Protocol):
    """What prints lines while it is plugged in, and hears what is sent to it."""

    plugged: bool

    def line(self) -> str: ...

    def hear(self, heard: bytes) -> None: ...


class LineServer:
    """Prints the lines of a stand-in to whoever connects, on this machine alone."""

    def __init__(self, printer: Printer, port: int = 0) -> None:
        self.printer = printer
        self._socket = socket.create_server(("127.0.0.1", port))
        self.port = int(self._socket.getsockname()[1])
        self._stopped = threading.Event()
        threading.Thread(target=self._accept, daemon=True).start()

    def stop(self) -> None:
        self._stopped.set()
        self._socket.close()

    def _accept(self) -> None:
        while not self._stopped.is_set():
            try:
                connection, _ = self._socket.accept()
            except OSError:
                return
            threading.Thread(target=self._speak, args=(connection,), daemon=True).start()

    def _speak(self, connection: socket.socket) -> None:
        connection.settimeout(1 / LINES_A_SECOND)
        with connection:
            while not self._stopped.is_set() and self.printer.plugged:
                try:
                    connection.sendall(f"{self.printer.line()}\r\n".encode("ascii"))
                    if not (heard := connection.recv(16)):
                        return
                    self.printer.hear(heard)
                except TimeoutError:
                    continue
                except OSError:
                    return
