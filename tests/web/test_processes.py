"""Work in processes: what it tells, how it is stopped and bounded, whose turn it is, and that edits
go on meanwhile."""

from __future__ import annotations

import os
import threading
from collections.abc import Iterator
from time import monotonic

import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.people.role import Role
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.web.work.jobs import Jobs, TooMuchWaiting
from fresh_ladle.web.work.line import MOST_OF_ONE, Waiting, next_in_line
from fresh_ladle.web.work.processes import SEARCHES, Overrun, Processes, Telling
from fresh_ladle.web.work.stock import StockMark, knowledge_at
from tests.web.sent import own_food
from tests.web.signed_in import signed_in


def counted(telling: Telling, upto: int) -> str:
    for number in range(upto):
        telling.say(number)
    return f"{upto} in {os.getpid()}"


def until_stopped(telling: Telling) -> str:
    telling.say("begun")
    while not telling.stopped():
        pass
    return "stopped when asked"


def deaf(telling: Telling) -> None:
    telling.say("begun")
    while True:
        pass


def failing(telling: Telling) -> None:
    raise RecipeError("there is no such line")


def hungry(telling: Telling) -> int:
    return len(bytearray(3_000_000_000))


def dying(telling: Telling) -> None:
    os._exit(3)


def unsendable(telling: Telling) -> None:
    class Odd(Exception):
        pass

    raise Odd("of its own kind")


@pytest.fixture(scope="module")
def processes() -> Iterator[Processes]:
    made = Processes(at_once=1, seconds=60.0, memory_bytes=2_500_000_000)
    yield made
    made.stop()


def test_what_is_found_is_told_in_order_in_one_process_that_is_kept(processes: Processes) -> None:
    told: list[int] = []
    first = processes.run(counted, 50, said=told.append)
    assert told == list(range(50))
    assert first == processes.run(counted, 50), "the same process"
    assert str(os.getpid()) not in first


def test_what_fails_fails_here_and_the_process_goes_on(processes: Processes) -> None:
    before = processes.run(counted, 1)
    with pytest.raises(RecipeError, match="no such line"):
        processes.run(failing)
    with pytest.raises(RuntimeError, match="Odd: of its own kind"):
        processes.run(unsendable)
    with pytest.raises(Overrun, match="more memory"):
        processes.run(hungry)
    assert processes.run(counted, 1) == before


def test_work_stops_when_asked_and_is_ended_when_it_does_not_hear(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr("fresh_ladle.web.work.processes.STOPS_WITHIN_S", 0.5)
    made, begun = Processes(at_once=1), threading.Event()
    try:
        assert (
            made.run(until_stopped, said=lambda _: begun.set(), stop_asked=begun.is_set)
            == "stopped when asked"
        )
        with pytest.raises(Overrun, match="was stopped"):
            made.run(deaf, stop_asked=lambda: True)
        with pytest.raises(Overrun, match="ended before"):
            made.run(dying)
        made.seconds = 0.3
        with pytest.raises(Overrun, match=r"more than 0\.3 seconds"):
            made.run(deaf)
        made.seconds = 60
        assert made.run(counted, 2).startswith("2 in"), "another takes its place"
    finally:
        made.stop()


@given(st.lists(st.sampled_from("abcd"), min_size=1, max_size=40), st.integers(1, 3))
def test_turns_are_fair(came: list[str], at_once: int) -> None:
    """Everybody who waits is served again before anybody is served twice more; one person's own
    keep their order."""
    waiting, running, served, order = (
        [Waiting(n, of) for n, of in enumerate(came)],
        list[Waiting](),
        {},
        [],
    )
    turn = 0
    while waiting or running:
        while (
            len(running) < at_once and (one := next_in_line(waiting, running, served)) is not None
        ):
            waiting.remove(one)
            running.append(one)
            served[one.of] = turn
            order.append(one)
            turn += 1
        running.pop(0)
    assert sorted(one.id for one in order) == list(range(len(came)))
    for person in set(came):
        own = [one.id for one in order if one.of == person]
        assert own == sorted(own)
        first = next(n for n, one in enumerate(order) if one.of == person)
        others = len(set(came)) - 1
        assert first <= others + at_once - 1, "the first of each comes before the second of anybody"
    assert next_in_line([], running, served) is None


def test_one_person_may_have_so_much_in_line_and_others_still_come_in() -> None:
    jobs, go = Jobs(at_once=1), threading.Event()
    held = [jobs.start(lambda job: go.wait(20), in_line=True, of="KH") for _ in range(MOST_OF_ONE)]
    with pytest.raises(TooMuchWaiting):
        jobs.start(lambda job: None, in_line=True, of="KH")
    done: list[str] = []
    other = jobs.start(lambda job: done.append(job.progress), in_line=True, of="MB")
    held[-1].stop_asked.set()
    go.set()
    jobs.stop_all(20)
    assert all(job.done for job in (*held, other))
    assert done


def searches(client: TestClient, recipes: range) -> list[int]:
    answers = []
    for recipe in recipes:
        answer = client.post(f"/recipes/{recipe}/plans", data={"nutrient": "sodium_mg",
            "most": "20", "least": "",
                             "basis": "serving", "firmness": "hard"})  # fmt: skip
        answers.append(answer.status_code)
    return answers


def test_a_seventh_search_of_one_person_is_refused_in_words_and_edits_go_on(
    client: TestClient,
) -> None:
    app = client.app
    assert isinstance(app, FastAPI)
    cook, other = signed_in(app, Role.COOK), signed_in(app, Role.DIETITIAN)
    assert set(searches(cook, range(1, 1 + MOST_OF_ONE))) == {200}
    refused = cook.get("/recipes/9/plans")
    assert "several searches of yours are waiting" in refused.text.lower()
    assert searches(cook, range(9, 10)) == [429]
    assert searches(other, range(9, 10)) == [200]
    page = cook.get("/recipes/4").text
    revision = page.split('data-revision="')[1].split('"')[0]
    began = monotonic()
    assert (
        cook.post("/recipes/4/lines/l1/nudge", data={"steps": 1, "revision": revision}).status_code
        == 303
    )
    assert monotonic() - began < 5


def food_named(telling: Telling, stock: StockMark, key: str) -> str:
    found = knowledge_at(stock).pantry.get(key)
    return found.name if found else ""


def test_a_process_knows_what_the_practice_knows_now(client: TestClient) -> None:
    app = client.app
    assert isinstance(app, FastAPI)
    workbench = app.state.workbench
    before = workbench.stock_mark
    assert SEARCHES.run(food_named, before, "tahini") == "Tahini, unsalted"
    saved = client.post(
        "/foods/new", data=own_food(name="Tahini of the house"), follow_redirects=False
    )
    key = saved.headers["location"].removeprefix("/foods/")
    assert workbench.stock_mark != before
    assert SEARCHES.run(food_named, workbench.stock_mark, key) == "Tahini of the house"
