"""Practice on screen: by keyboard and on a phone, kept whatever happens, told how ranges hold; no recipe moves."""

from __future__ import annotations

import json
import re
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from fastapi import FastAPI
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from fresh_ladle.core.people.role import Role
from fresh_ladle.core.practice.making import KINDS, exercise
from fresh_ladle.store import practice as store
from fresh_ladle.store.bundle import everything
from fresh_ladle.store.database import connect
from fresh_ladle.web.practice_ground import ground_of
from tests.attack.server import running
from tests.web.signed_in import signed_in


def app_of(client: TestClient) -> FastAPI:
    assert isinstance(client.app, FastAPI)
    return client.app


def asked_on(page: str) -> str:
    found = re.search(r'name="asked" value="([^"]+)"', page)
    assert found, page[:500]
    return found[1]


def answered(client: TestClient, kind: str, seed: int, **form: str) -> str:
    asked = asked_on(client.get(f"/practice/{kind}/{seed}").text)
    return client.post(f"/practice/{kind}/{seed}", data={"asked": asked, **form}).text


def test_every_kind_is_asked_answered_and_worked_out(client: TestClient) -> None:
    ground = ground_of(app_of(client).state.workbench)
    for kind in KINDS:
        made = exercise(kind, 4, ground)
        if made.choices:
            wrong = (made.right + 1) % len(made.choices)
            assert f"No: {made.choices[made.right]}" in answered(client, kind, 4, choice=str(wrong)), kind
            page = answered(client, kind, 4, choice=str(made.right))
            assert f"Right: {made.choices[made.right]}" in page, kind
        else:
            low, high = f"{made.answer.value * 0.9:.4f}", f"{made.answer.value * 1.1:.4f}"
            page = answered(client, kind, 4, low=low, high=high)
            assert "It holds" in page, kind
            assert "Missed" in answered(
                client, kind, 4, low=f"{made.answer.value + 5}", high=f"{made.answer.value + 6}"
            )
        assert "practice-working" in page


def test_what_cannot_be_an_answer_counts_for_nothing_and_stays_typed(client: TestClient) -> None:
    wrong = (("9", "3", "the low end comes first"), ("x", "3", "low end"), ("-1", "3", "not below 0"), ("", "", "end"))
    for low, high, says in wrong:
        page = answered(client, "weigh", 1, low=low, high=high)
        assert says in page.lower(), (low, high)
        assert "Nothing was counted" in page
        assert f'value="{low}"' in page
    assert "choose one of them" in answered(client, "carries", 1).lower()
    assert client.get("/practice/juggle/1").status_code == 404
    with app_of(client).state.workbench.store() as connection:
        assert store.ranges_given(connection, "", 9) == []


def test_the_same_page_sent_twice_is_one_answer(client: TestClient) -> None:
    asked = asked_on(client.get("/practice/weigh/1").text)
    for _ in range(3):
        page = client.post("/practice/weigh/1", data={"asked": asked, "low": "1", "high": "2"}).text
        assert "Missed" in page
    with app_of(client).state.workbench.store() as connection:
        assert len(store.ranges_given(connection, "", 9)) == 1


def test_what_was_missed_comes_again_when_it_is_due_and_what_was_known_later(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    ground = ground_of(app_of(client).state.workbench)
    known = exercise("keep", 2, ground)
    answered(client, "keep", 2, low=str(known.answer.value), high=str(known.answer.value))
    answered(client, "weigh", 7, low="9000", high="9001")
    now = datetime.now(UTC)

    def due_after(minutes: float) -> tuple[str, int] | None:
        monkeypatch.setattr(store, "now_text", lambda: (now + timedelta(minutes=minutes)).isoformat(timespec="seconds"))
        with app_of(client).state.workbench.store() as connection:
            return store.due_exercise(connection, "")

    assert due_after(0) is None
    assert due_after(10) == ("weigh", 7), "missed: soon"
    assert client.get("/practice", follow_redirects=False).headers["location"] == "/practice/weigh/7"
    assert client.get("/practice?kind=keep", follow_redirects=False).headers["location"].startswith("/practice/keep/")
    with app_of(client).state.workbench.store() as connection:
        dues = dict(connection.execute("SELECT kind, due FROM practice_card").fetchall())
    assert dues["keep"] > dues["weigh"]


def test_thirty_narrow_ranges_are_told_so_each_to_whom_they_belong(client: TestClient) -> None:
    app = app_of(client)
    cook, reader = signed_in(app, Role.COOK), signed_in(app, Role.READER)
    ground = ground_of(app.state.workbench)
    for seed in range(30):
        value = exercise("weigh", seed, ground).answer.value
        middle = value * (0.8 if seed % 2 else 1.3)
        page = answered(cook, "weigh", seed, low=f"{middle * 0.95:.2f}", high=f"{middle * 1.05:.2f}")
    assert "Yours are too narrow: about" in page
    assert "0 of 30 ranges held" in page
    assert 'class="ranges"' in page
    assert "No range yet" in reader.get("/practice/weigh/1").text


def test_practice_touches_no_recipe(client: TestClient) -> None:
    def of_recipes() -> dict[str, object]:
        with app_of(client).state.workbench.store() as connection:
            rows = json.loads(everything(connection))
        return {table: kept for table, kept in rows.items() if not table.startswith("practice_")}

    before = of_recipes()
    for kind in KINDS:
        answered(client, kind, 3, low="1", high="2", choice="0")
    assert of_recipes() == before


def test_an_answer_that_was_shown_survives_a_kill(tmp_path: Path) -> None:
    with running(tmp_path / "a.db", "demo") as server:
        asked = asked_on(server.ask("GET", "/practice/weigh/5").body)
        form = {"asked": asked, "low": "10", "high": "20"}
        assert "practice-result" in server.ask("POST", "/practice/weigh/5", form).body
        server.process.kill()
    with closing(connect(tmp_path / "a.db")) as connection:
        assert len(store.ranges_given(connection, "", 9)) == 1
    with running(tmp_path / "a.db", "serve") as server:
        assert "practice-result" in server.ask("POST", "/practice/weigh/5", form).body, "sent once more after a restart"
    with closing(connect(tmp_path / "a.db")) as connection:
        assert len(store.ranges_given(connection, "", 9)) == 1


@pytest.mark.parametrize("width", [1280, 390])
def test_by_keyboard_alone_and_on_a_phone(width: int, page: Page) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto("/practice/weigh/12?only=1")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    for _ in range(4):
        page.keyboard.type("10")
        page.keyboard.press("Tab")
        page.keyboard.type("400")
        page.keyboard.press("Enter")
        expect(page.locator(".practice-result")).to_be_visible()
        assert page.evaluate("document.activeElement.textContent.trim()") == "Next"
        page.keyboard.press("Enter")
        expect(page.locator("[name=low]")).to_be_focused()
    page.goto("/practice/carries/3")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator(".practice-result")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
