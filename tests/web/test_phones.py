"""Phones in the room: what they read with their camera, what they reach, and what they do not."""

from __future__ import annotations

from collections.abc import Iterator
from io import BytesIO
from pathlib import Path

import httpx2 as httpx
import pytest
import zxingcpp
from fastapi.testclient import TestClient
from PIL import Image
from playwright.sync_api import Browser, Page, expect

from fresh_ladle.core.errors import Refused
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.recipes import RecipeMissing
from fresh_ladle.store.short_links import (
    ALPHABET,
    LENGTH,
    ballot_code,
    card_code,
    card_of_code,
    path_of,
)
from fresh_ladle.store.tastings.tastings import tasting
from fresh_ladle.web.work import lane
from fresh_ladle.web.work.lane import Lane
from tests.web.conftest import demo_app, served

PHONE = {"width": 390, "height": 800}


@pytest.fixture
def room(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[str]:
    """A demo of its own on a machine whose network is itself."""
    monkeypatch.setattr(lane, "addresses", lambda: ["127.0.0.1", "127.0.0.2"])
    monkeypatch.setattr(lane, "_of_the_room", lambda: "127.0.0.2")
    app = demo_app(tmp_path / "room.db")
    with served(app) as address:
        yield address
        app.state.workbench.lane.shut()


def read_by_a_camera(page: Page) -> str:
    """What a phone reads in the first code on a page."""
    picture = Image.open(BytesIO(page.locator(".qr, .qr-small").first.screenshot()))
    (code,) = zxingcpp.read_barcodes(picture)
    return code.text


def test_two_phones_answer_a_class(room: str, chromium: Browser) -> None:
    with chromium.new_context(base_url=room, reduced_motion="reduce") as laptop:
        page = laptop.new_page()
        page.goto("/practice")
        page.get_by_text("Practice with a class").click()
        page.get_by_label("Seats").fill("2")
        page.get_by_role("button", name="Begin").click()
        expect(page.get_by_text("Phones cannot reach this page")).to_be_visible()
        page.get_by_role("button", name="Open the lane for phones").click()
        expect(page.locator(".band-lane")).to_contain_text("lane open until")
        address = read_by_a_camera(page)
        assert address in page.locator(".phone-address").inner_text()
        for seat in ("1", "2"):
            with chromium.new_context(viewport=PHONE, has_touch=True) as phone:  # type: ignore[arg-type]
                own = phone.new_page()
                own.goto(address)
                expect(own.get_by_role("navigation")).to_have_count(0)
                own.locator("[name=seat]").fill(seat)
                own.keyboard.press("Enter")
                expect(own.get_by_text("question 1 of")).to_be_visible()
                if own.locator("[name=low]").count():
                    own.locator("[name=low]").fill("1")
                    own.locator("[name=high]").fill("900")
                    own.keyboard.press("Enter")
                else:
                    own.locator("main form button").first.tap()
                expect(own.get_by_text("You said")).to_be_visible()
        expect(page.get_by_text("2 of 2 have answered")).to_be_visible()
        page.get_by_role("button", name="Shut the lane").click()
        expect(page.get_by_text("Phones cannot reach this page")).to_be_visible()
        expect(page.locator(".band-lane")).to_have_count(0)


def test_the_lane_shows_what_is_for_phones_and_nothing_else(room: str) -> None:
    with httpx.Client(base_url=room) as own:
        seen = own.get("/recipes/1/card").text
        assert "Phones cannot reach this page" in seen
        assert own.post("/lane", data={"back": "//elsewhere"}).headers["location"] == "/"
        seen = own.get("/recipes/1/card").text
    address = seen.split('class="phone-address"><b>')[1].split("<")[0]
    base = address.rpartition("/go/")[0]
    with httpx.Client(base_url=base, follow_redirects=True) as phone:
        card = phone.get(address).text
        assert "What goes in" in card
        assert "Keys" not in card.split("<main")[1].split("</main>")[0]
        for path in ("/", "/recipes/1", "/settings", "/recipes/1/card", "/practice", "/lane"):
            assert phone.get(path).status_code == 404, path
        assert phone.get("/go/nowhere9").status_code == 404
        assert phone.get("/handout/nowhere9").status_code == 404
        assert phone.post("/lane").status_code == 404
        other = phone.get("/go/nowhere9", headers={"host": "elsewhere.example"})
        assert other.status_code == 400
        foreign = phone.post("/ballot/x", headers={"origin": "http://elsewhere.example"})
        assert foreign.status_code == 403


def test_a_short_link_leads_to_its_page_however_it_is_typed(client: TestClient) -> None:
    workbench = client.app.state.workbench  # type: ignore[attr-defined]
    with workbench.store() as connection:
        key = next(seat.key for seat in tasting(connection, 2).seats)
        codes = [card_code(connection, 1, 1), card_code(connection, 2, 1), ballot_code(key)]
        assert len(set(codes)) == 3
        letters = [code.rpartition("-")[2] for code in codes]
        assert all(len(drawn) == LENGTH and set(drawn) <= set(ALPHABET) for drawn in letters)
        assert path_of(connection, f" {codes[2].upper()} ") == f"/ballot/{key}"
        assert card_of_code(connection, codes[1]) == (2, 1)
        assert path_of(connection, "zzzzzzzz") == ""
        with pytest.raises(RecipeMissing):
            card_code(connection, 1, 99)
        for code in (f"1-2-{letters[0]}", "1-1-aaaaaaaa", "1-1"):
            with pytest.raises(RecipeMissing):
                card_of_code(connection, code)
    led = client.get(f"/go/{codes[0]}", follow_redirects=False)
    assert (led.status_code, led.headers["location"]) == (303, f"/handout/{codes[0]}")


def test_a_machine_in_no_network_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(lane, "addresses", lambda: ["127.0.0.1", "::1"])
    with pytest.raises(Refused, match="no network"):
        Lane().open(lambda *_: None)  # type: ignore[arg-type]


def test_every_seat_of_a_round_has_a_code_that_leads_to_its_ballot(
    room: str, chromium: Browser
) -> None:
    with httpx.Client(base_url=room) as own:
        own.post("/lane", data={"back": "/"})
    with chromium.new_context(base_url=room) as laptop:
        page = laptop.new_page()
        page.goto("/tastings/2/pouring")
        expect(page.locator(".qr-small")).to_have_count(12)
        address = read_by_a_camera(page)
        with chromium.new_context(viewport=PHONE) as phone:  # type: ignore[arg-type]
            ballot = phone.new_page()
            ballot.goto(address)
            expect(ballot.get_by_role("button", name="I may eat this")).to_be_visible()


def test_a_card_that_is_not_to_go_out_tells_a_stranger_nothing(client: TestClient) -> None:
    workbench = client.app.state.workbench  # type: ignore[attr-defined]
    with workbench.store() as connection:
        code = card_code(connection, 2, 1)
        with writing(connection):
            connection.execute(
                "UPDATE profile SET exclusions = '[\"sesame\"]', name = 'MX' WHERE id = 2"
            )
    answer = client.get(f"/handout/{code}")
    assert answer.status_code == 422
    assert "not handed out just now" in answer.text
    assert "MX" not in answer.text.split("<main")[1]
