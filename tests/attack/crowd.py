"""Eight at once on the same few recipes: edits are made or refused, none is lost, nothing
breaks."""

from __future__ import annotations

import re
import threading
from dataclasses import dataclass, field
from time import monotonic, sleep

from tests.attack.server import Server

PEOPLE, RECIPES = 8, (1, 2, 4)


@dataclass
class Edits:
    """Edits that were made, by recipe, and those that came too late or could not be."""

    made: dict[int, int] = field(default_factory=lambda: dict.fromkeys(RECIPES, 0))
    refused: int = 0
    lock: threading.Lock = field(default_factory=threading.Lock)


def edits_while_searching(
    server: Server, searches: int, seconds: float
) -> tuple[list[float], list[float]]:
    """Seconds each edit took, one after the other: with nothing else going on, and while searches
    run."""
    idle = edits_of(server, 1, seconds / 2)
    for recipe in range(2, 2 + searches):
        limits = {
            "nutrient": "sodium_mg",
            "most": "60",
            "least": "",
            "basis": "serving",
            "firmness": "hard",
        }
        assert server.ask("POST", f"/recipes/{recipe}/plans", limits).status == 200
    return idle, edits_of(server, 1, seconds)


def edits_of_people(server: Server, people: int, seconds: float) -> list[float]:
    """Seconds each edit took while so many people make one a second, each in another recipe, and
    look at the Shelf."""
    took: list[list[float]] = [[] for _ in range(people)]

    def work(person: int) -> None:
        took[person] = edits_of(server, person + 1, seconds, pause=1.0, looks_at="/")

    threads = [threading.Thread(target=work, args=(person,)) for person in range(people)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return [one for person in took for one in person]


def edits_of(
    server: Server, recipe: int, seconds: float, pause: float = 0.0, looks_at: str = ""
) -> list[float]:
    """Seconds each edit of one recipe took."""
    took: list[float] = []
    end, steps = monotonic() + seconds, 1
    revision = server.revision(recipe)
    while not took or monotonic() < end:
        began, steps = monotonic(), -steps
        form = {"steps": str(steps), "revision": revision}
        answer = server.ask(
            "POST", f"/recipes/{recipe}/lines/l1/nudge", form, headers={"HX-Request": "true"}
        )
        took.append(monotonic() - began)
        found = re.search(r'data-revision="(\d+)"', answer.body)
        assert found, answer.status
        revision = found[1]
        if looks_at:
            server.ask("GET", looks_at)
        sleep(pause)
    return took


def crowded(server: Server, seconds: float) -> tuple[Edits, list[str]]:
    """Everybody edits for so long. Returns what was made, and where the count of revisions
    disagrees with it."""
    before = {recipe: int(server.revision(recipe)) for recipe in RECIPES}
    edits, end = Edits(), monotonic() + seconds
    people = [threading.Thread(target=_edit, args=(server, edits, n, end)) for n in range(PEOPLE)]
    for one in people:
        one.start()
    for one in people:
        one.join()
    wrong = [
        f"recipe {recipe}: {edits.made[recipe]} edits were made,"
        f" {int(server.revision(recipe)) - before[recipe]} count"
        for recipe in RECIPES
        if int(server.revision(recipe)) - before[recipe] != edits.made[recipe]
    ]
    return edits, wrong


def _edit(server: Server, edits: Edits, person: int, end: float) -> None:
    turn = 0
    while monotonic() < end:
        recipe = RECIPES[(person + turn) % len(RECIPES)]
        turn += 1
        revision = server.revision(recipe)
        amount = f"{person + 1}{turn % 7 + 1} g"
        answer = server.ask(
            "POST", f"/recipes/{recipe}/lines/l1/amount", {"revision": revision, "amount": amount}
        )
        with edits.lock:
            if answer.status == 303:
                edits.made[recipe] += 1
            else:
                edits.refused += 1
        server.ask("GET", ("/", f"/recipes/{recipe}/card", "/foods?q=bean")[turn % 3])
        assert re.fullmatch(r"\d+", revision)
