"""Killed in the middle of writes, again and again: what was acknowledged is there afterwards."""

from __future__ import annotations

import random
import threading
from dataclasses import dataclass, field
from http.client import HTTPException
from pathlib import Path
from time import monotonic, sleep

from tests.attack.server import Server, running

WRITERS = 4


@dataclass
class Kept:
    """What was acknowledged over all rounds, and what of it was lost."""

    rounds: int = 0
    acknowledged: dict[str, str] = field(default_factory=dict)
    """The title of each recipe, by its address."""
    lost: list[str] = field(default_factory=list)


def killed_rounds(database: Path, seconds: float, at_least: int = 1) -> Kept:
    """Rounds of writing and SIGKILL until the time is over; every recipe that was acknowledged is
    looked for."""
    kept, dice, end = Kept(), random.Random(5), monotonic() + seconds
    while kept.rounds < at_least or monotonic() < end:
        kept.rounds += 1
        with running(database) as server:
            stop = threading.Event()
            writers = [
                threading.Thread(target=_write, args=(server, kept, n, stop))
                for n in range(WRITERS)
            ]
            for writer in writers:
                writer.start()
            sleep(dice.uniform(0.2, 1.0))
            server.process.kill()
            stop.set()
            for writer in writers:
                writer.join()
    with running(database) as server:
        for address, title in kept.acknowledged.items():
            answer = server.ask("GET", address)
            if answer.status != 200 or title not in answer.body:
                kept.lost.append(address)
    return kept


def _write(server: Server, kept: Kept, writer: int, stop: threading.Event) -> None:
    number = 0
    while not stop.is_set():
        title = f"Dip {kept.rounds}-{writer}-{number}"
        form = {"title": title, "kind": "legume-dip", "servings": "4", "line": "1 cup chickpeas",
                "region": "us"}  # fmt: skip
        try:
            answer = server.ask("POST", "/read-in/keep", form)
        except (OSError, HTTPException):
            return
        if answer.status == 303:
            kept.acknowledged[answer.location] = title
        number += 1
