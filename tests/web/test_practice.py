"""Practice on screen: by keyboard and on a phone, kept whatever happens, told how ranges hold; no
recipe moves."""

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

from fresh_ladle.core.amounts.loose import loose_piece
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.practice.making import KINDS, exercise
from fresh_ladle.store.database import connect
from fresh_ladle.store.files.bundle import everything
from fresh_ladle.store.practice import practice as store
from fresh_ladle.web.places.practice.ground import ground_of
from fresh_ladle.web.state import Workbench
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
            assert f"No: {made.choices[made.right]}" in answered(
                client, kind, 4, choice=str(wrong)
            ), kind
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
    wrong = (
        ("9", "3", "the low end comes first"),
        ("x", "3", "low end"),
        ("-1", "3", "not below 0"),
        ("", "", "end"),
    )
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
        monkeypatch.setattr(
            store,
            "now_text",
            lambda: (now + timedelta(minutes=minutes)).isoformat(timespec="seconds"),
        )
        with app_of(client).state.workbench.store() as connection:
            return store.due_exercise(connection, "")

    assert due_after(0) is None
    assert due_after(10) == ("weigh", 7), "missed: soon"
    assert (
        client.get("/practice", follow_redirects=False).headers["location"] == "/practice/weigh/7"
    )
    assert (
        client.get("/practice?kind=keep", follow_redirects=False)
        .headers["location"]
        .startswith("/practice/keep/")
    )
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
        page = answered(
            cook, "weigh", seed, low=f"{middle * 0.95:.2f}", high=f"{middle * 1.05:.2f}"
        )
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
        assert "practice-result" in server.ask("POST", "/practice/weigh/5", form).body, (
            "sent once more after a restart"
        )
    with closing(connect(tmp_path / "a.db")) as connection:
        assert len(store.ranges_given(connection, "", 9)) == 1


@pytest.mark.parametrize("width", [1280, 390])
def test_by_keyboard_alone_and_on_a_phone(width: int, page: Page) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto("/practice/weigh/12?only=1")
    expect(page.locator("[name=low]")).to_be_focused()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    for _ in range(4):
        page.keyboard.type("10")
        page.keyboard.press("Tab")
        page.keyboard.type("400")
        page.keyboard.press("Enter")
        expect(page.locator(".practice-result")).to_be_visible()
        expect(page.get_by_role("link", name="Next", exact=True)).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.locator("[name=low]")).to_be_focused()
    page.goto("/practice/carries/3")
    expect(page.locator(".practice-choices button").first).to_be_focused()
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page.locator(".practice-result")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")


def begun(client: TestClient, **form: str | list[str]) -> tuple[str, str]:
    """The page to project, and that of the seats, of a new class."""
    wall = client.post("/practice-class", data=form, follow_redirects=False).headers["location"]
    found = re.search(r"/practice-seat/[\w-]+", client.get(wall).text)
    assert found
    return wall, found[0]


def test_a_class_answers_by_seat_and_sees_the_answer_only_when_it_is_shown(
    client: TestClient,
) -> None:
    app = app_of(client)
    leader, table = signed_in(app, Role.COOK), TestClient(app)
    wall, seats = begun(leader, seats="3", questions="2", kind=["weigh", "carries"])
    assert "Which seat is yours?" in table.get(seats).text
    page = table.get(f"{seats}?seat=2").text
    assert "band-who" not in page
    assert "practice-working" not in page
    said = table.post(f"{seats}/2", data={"number": "1", "low": "1", "high": "9000"})
    assert "You said <b>1 to 9,000 g" in said.text
    table.post(f"{seats}/2", data={"number": "1", "low": "7", "high": "8"})
    table.post(f"{seats}/3", data={"number": "1", "low": "9000", "high": "9001"})
    assert (
        "seats go from 1 to 3"
        in table.post(f"{seats}/4", data={"number": "1", "low": "1", "high": "2"}).text.lower()
    )
    assert (
        "low end comes first"
        in table.post(f"{seats}/1", data={"number": "1", "low": "9", "high": "2"}).text
    )
    shown = leader.get(wall).text
    assert "2 of 3 have answered" in shown
    assert "practice-working" not in shown, "nothing is given away"
    part, stands = {"HX-Request": "true"}, re.search(r"\?since=([\w-]+)", shown)
    assert stands
    assert leader.get(f"{wall}?since={stands[1]}", headers=part).status_code == 204, (
        "nothing moves under a finger"
    )
    assert leader.get(f"{wall}?since=1-0-False", headers=part).status_code == 200
    leader.post(f"{wall}/show", data={"number": "1"})
    table.post(f"{seats}/1", data={"number": "1", "low": "1", "high": "9000"})
    shown = leader.get(wall).text
    assert "1 of 2 ranges hold it" in shown, (
        "the first answer of a seat counts, a late one does not"
    )
    assert "practice-working" in shown
    assert "The answer is on the wall" in table.get(f"{seats}?seat=1").text
    leader.post(f"{wall}/next", data={"number": "1"})
    leader.post(f"{wall}/next", data={"number": "1"})
    assert "question 2 of 2" in table.get(f"{seats}?seat=1").text, (
        "a page that is behind does not skip one"
    )
    table.post(f"{seats}/1", data={"number": "2", "choice": "0"})
    leader.post(f"{wall}/show", data={"number": "2"})
    assert re.search(r"[01] of 1 chose it", leader.get(wall).text)
    leader.post(f"{wall}/next", data={"number": "2"})
    assert "That was all of it" in leader.get(wall).text
    assert "That was all of it" in table.get(f"{seats}?seat=3").text
    assert table.get("/practice-seat/none").status_code == 404
    assert signed_in(app, Role.READER).get(wall).status_code == 403
    for seats_typed in ("0", "61"):
        assert leader.post("/practice-class", data={"seats": seats_typed}).status_code == 422


def test_a_class_on_two_screens(page: Page) -> None:
    page.goto("/practice")
    page.get_by_text("Practice with a class").click()
    page.get_by_label("Seats").fill("2")
    page.get_by_role("button", name="Begin").click()
    link = page.get_by_role("link", name="Open a seat").get_attribute("href") or ""
    with page.expect_response(lambda answer: "since=" in answer.url and answer.status == 204):
        pass
    expect(page.get_by_text("0 of 2 have answered")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    table = page.context.new_page()
    table.set_viewport_size({"width": 390, "height": 800})
    table.goto(link)
    expect(table.locator("[name=seat]")).to_be_focused()
    table.keyboard.type("1")
    table.keyboard.press("Enter")
    expect(table.get_by_role("heading", level=1)).to_be_visible()
    assert Axe().run(table).violations_count == 0, Axe().run(table).generate_report()
    expect(table.locator("[autofocus]").first).to_be_focused()
    if table.locator("[name=low]").count():
        table.keyboard.type("1")
        table.keyboard.press("Tab")
        table.keyboard.type("500")
    table.keyboard.press("Enter")
    expect(table.get_by_text("You said")).to_be_visible()
    expect(page.get_by_text("1 of 2 have answered")).to_be_visible()
    page.bring_to_front()
    page.get_by_role("button", name="Show the answer").click()
    expect(page.locator(".practice-working").first).to_be_visible()
    expect(table.get_by_text("The answer is on the wall")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_role("button", name="Next").click()
    expect(table.get_by_text("question 2 of")).to_be_visible()


def poured(client: TestClient, place: int, grams: float) -> str:
    asked = asked_on(client.get(f"/practice-pour?n={place}").text)
    return client.post(
        "/practice-pour", data={"n": str(place), "asked": asked, "grams": f"{grams:.2f}"}
    ).text


def test_what_trained_eyes_pour_is_offered_taken_over_and_given_back(client: TestClient) -> None:
    app = app_of(client)
    cook, dietitian = signed_in(app, Role.COOK), signed_in(app, Role.DIETITIAN)
    workbench = app.state.workbench
    assert "the table has 14 g" in poured(cook, 0, 9)
    for grams in range(5, 16):
        poured(cook, 0, grams)
    assert "trained eyes pour" not in cook.get("/practice-pour").text, (
        "nobody knows yet whether this eye is trained"
    )
    ground = ground_of(workbench)
    for seed in range(20):
        value = exercise("weigh", seed, ground).answer.value
        middle = value * (1.25 if seed % 2 else 0.8)
        answered(cook, "weigh", seed, low=f"{middle * 0.72:.3f}", high=f"{middle * 1.35:.3f}")
    page = dietitian.get("/practice-pour").text
    assert re.search(r"12 weighed; trained eyes pour 9\.\d+ g", page), page
    assert cook.post("/practice-pour/take", data={"n": "0"}).status_code == 403

    before = loose_grams(workbench)
    assert dietitian.post("/practice-pour/take", data={"n": "0"}).status_code == 303
    assert loose_grams(workbench) == pytest.approx(9.6, abs=0.6)
    assert before == 14
    assert "counts as 9." in cook.get("/practice-pour").text
    assert dietitian.post("/practice-pour/back", data={"n": "0"}).status_code == 303
    assert loose_grams(workbench) == before
    refused = dietitian.post("/practice-pour/take", data={"n": "1"})
    assert "nothing is offered yet" in refused.text
    for typed in ("0", "-3", "501", "x"):
        asked = asked_on(cook.get("/practice-pour?n=0").text)
        answer = cook.post("/practice-pour", data={"n": "0", "asked": asked, "grams": typed})
        assert "Nothing was counted" in answer.text, typed


def loose_grams(workbench: Workbench) -> float:
    found = loose_piece(workbench.knowledge.pantry["olive-oil-extra-virgin"], "glug", None)
    assert found
    return found.value


def test_pouring_is_accessible(page: Page) -> None:
    page.goto("/practice-pour?n=2")
    expect(page.locator("[name=grams]")).to_be_focused()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.keyboard.type("7")
    page.keyboard.press("Enter")
    expect(page.locator(".practice-result")).to_contain_text("7 g")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.set_viewport_size({"width": 390, "height": 800})
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
