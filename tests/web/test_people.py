"""Accounts and sessions: links used once, sign-in that slows, tokens that change and end, a server
for others."""

from __future__ import annotations

import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from fastapi import FastAPI
from fastapi.testclient import TestClient
from playwright.sync_api import Browser, Page, expect

from fresh_ladle.core.people.password import why_refused
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.people.slowing import seconds_to_wait
from fresh_ladle.store import clock
from fresh_ladle.store.people import sessions as store
from fresh_ladle.store.people.activity import activities
from fresh_ladle.store.people.people import (
    PeopleError,
    add_person,
    change_role,
    end_account,
    people,
)
from fresh_ladle.web.door.identity import PLAIN_COOKIE
from fresh_ladle.web.places.people.sign_in_routes import local_address
from tests.attack.server import running
from tests.web.conftest import demo_app
from tests.web.conftest import served as served_at
from tests.web.signed_in import person_with, signed_in

PASSWORD = "plum tin ladder 4"


def app_of(client: TestClient) -> FastAPI:
    assert isinstance(client.app, FastAPI)
    return client.app


def invited(client: TestClient, initials: str, role: str) -> str:
    """The key of the link an owner is shown."""
    found = re.search(
        r"/welcome/([\w-]+)", client.post("/people", data={"initials": initials, "role": role}).text
    )
    assert found
    return found[1]


def welcomed(client: TestClient, key: str, password: str = PASSWORD, again: str = PASSWORD):  # type: ignore[no-untyped-def]
    return client.post(
        f"/welcome/{key}", data={"password": password, "again": again}, follow_redirects=False
    )


def sign_in(client: TestClient, initials: str, password: str = PASSWORD, then: str = "/"):  # type: ignore[no-untyped-def]
    form = {"initials": initials, "password": password, "then": then}
    return client.post("/sign-in", data=form, follow_redirects=False)


def test_from_no_account_to_two(client: TestClient) -> None:
    app = app_of(client)
    refused = client.post("/people", data={"initials": "KH", "role": "cook"})
    assert "The first account is an owner" in refused.text
    key = invited(client, "kh", "owner")
    assert client.get("/").status_code == 200, "open until the password is chosen"
    assert "are not the same" in welcomed(client, key, again="plum tin ladder 5").text
    assert "at least 12" in welcomed(client, key, "short", "short").text
    assert welcomed(client, key).status_code == 303
    assert "band-who" in client.get("/").text, "signed in with the link"
    assert welcomed(client, key).status_code == 404, "a link is used once"
    assert "no use any more" in client.get(f"/welcome/{key}").text

    other = TestClient(app, follow_redirects=False)
    assert (
        other.get("/recipes/1?lens=fat_g").headers["location"]
        == "/sign-in?then=%2Frecipes%2F1%3Flens%3Dfat_g"
    )
    late = other.post("/recipes/1/undo", data={"revision": "1"}, headers={"HX-Request": "true"})
    assert (late.status_code, "not signed in any more" in late.text) == (401, True)
    assert welcomed(other, invited(client, "MB", "reader")).status_code == 303
    assert other.get("/recipes/1").status_code == 200
    assert other.get("/people").status_code == 403


def test_signing_in_says_one_thing_for_both_ways_of_being_wrong_and_slows(
    client: TestClient,
) -> None:
    app = app_of(client)
    welcomed(client, invited(client, "KH", "owner"))
    stranger = TestClient(app)
    wrong, unknown = sign_in(stranger, "KH", "not this one at all"), sign_in(stranger, "ZZ")
    assert wrong.status_code == unknown.status_code == 401
    assert (
        re.findall("These initials and this password", wrong.text + unknown.text)
        == ["These initials and this password"] * 2
    )
    assert sign_in(stranger, "kh", then="/recipes/3").headers["location"] == "/recipes/3"
    assert PLAIN_COOKIE in stranger.cookies
    moment = datetime.now(UTC)
    with clock.another_clock(lambda: moment):
        for _ in range(4):
            assert sign_in(stranger, "KH", "not this one at all").status_code == 401
        held = sign_in(stranger, "KH")
        assert (held.status_code, "in 2 seconds" in held.text) == (429, True), (
            "the right one waits too"
        )
        assert sign_in(TestClient(app), "ZZ").status_code == 401, "others do not wait"
    with clock.another_clock(lambda: moment + timedelta(seconds=1.9)):
        assert sign_in(stranger, "KH").status_code == 429
    with clock.another_clock(lambda: moment + timedelta(seconds=2)):
        assert sign_in(stranger, "KH").status_code == 303


def test_waits_grow_to_a_minute_and_are_forgotten() -> None:
    assert [seconds_to_wait([100.0] * n, 100.0) for n in (0, 3, 4, 5, 6, 9, 200)] == [
        0,
        0,
        2,
        4,
        8,
        60,
        60,
    ]
    assert seconds_to_wait([100.0] * 4, 102.0) == 0
    assert seconds_to_wait([100.0] * 50, 1001.0) == 0
    tries = sum(1 for _ in tries_in_an_hour())
    assert tries < 100, "at most a hundred guesses an hour at one account"


def tries_in_an_hour():  # type: ignore[no-untyped-def]
    """The times at which somebody who guesses as fast as is let gets an answer."""
    now, failed = 0.0, list[float]()
    while now < 3600:
        now += seconds_to_wait(failed, now) + 0.001
        failed.append(now)
        yield now


@pytest.mark.parametrize(
    ("password", "why"),
    [
        ("short one", "at least 12"),
        ("x" * 129, "at most 128"),
        ("aaaaaaaaaaaaaaab", "one letter over and over"),
        ("qwerty123456", "tried first"),
        ("password2027!", "tried first"),
        ("KHplumtinlad", "initials"),
        ("plum tin ladder", ""),
        ("pässe über øre", ""),
        ("x7$kQ!9vLm2p", ""),
        ("correct KH horse staple", ""),
    ],
)
def test_passwords_are_long_and_not_everybodys_and_that_is_all(password: str, why: str) -> None:
    refused = why_refused(password, "KH")
    assert (why in refused) if why else refused == ""


def test_after_signing_in_nobody_is_led_away() -> None:
    for then in (
        "//evil.example",
        "/\\evil.example",
        "https://evil.example",
        "",
        "/a\r\nSet-Cookie: x",
    ):
        assert local_address(then) == "/"
    assert local_address("/recipes/1?lens=fat_g") == "/recipes/1?lens=fat_g"


def at(monkeypatch: pytest.MonkeyPatch, later: timedelta) -> None:
    moment = datetime.now(UTC) + later
    monkeypatch.setattr(clock, "_asked", lambda: moment)


def test_a_token_changes_each_hour_and_the_one_before_is_good_for_a_minute(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    app = app_of(client)
    browser = signed_in(app, Role.COOK)
    first = browser.cookies[PLAIN_COOKIE]
    assert "set-cookie" not in browser.get("/").headers
    at(monkeypatch, timedelta(minutes=61))
    assert browser.get("/recipes/999").status_code == 404
    assert browser.cookies[PLAIN_COOKIE] == first, "an error changes nothing"
    given = browser.get("/").headers["set-cookie"]
    assert "HttpOnly" in given
    assert "SameSite=lax" in given
    second = re.search(rf"{PLAIN_COOKIE}=([^;]+)", given)
    assert second
    assert second[1] != first

    def reached(token: str) -> bool:
        other = TestClient(app, follow_redirects=False)
        other.cookies.set(PLAIN_COOKIE, token)
        return other.get("/").status_code == 200

    assert reached(first), "on its way"
    assert reached(second[1])
    at(monkeypatch, timedelta(minutes=63))
    assert not reached(first)
    assert reached(second[1])
    at(monkeypatch, timedelta(hours=6))
    assert not reached(second[1]), "four hours without use"


def test_a_session_ends_after_twelve_hours_however_it_is_used(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    browser = signed_in(app_of(client), Role.COOK)
    for minutes in range(30, 12 * 60, 30):
        at(monkeypatch, timedelta(minutes=minutes))
        assert browser.get("/").status_code == 200, minutes
    at(monkeypatch, timedelta(hours=12, minutes=1))
    assert browser.get("/").status_code == 303


def test_two_requests_at_the_hour_do_not_sign_anybody_out(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    app = app_of(client)
    person = person_with(app, Role.COOK)
    with app.state.workbench.store() as connection:
        token = store.begin_session(connection, person)
        at(monkeypatch, timedelta(minutes=61))
        one, two = store.session_of(connection, token), store.session_of(connection, token)
        assert one
        assert two
        new = store.renewed_token(connection, one, token)
        assert new
        assert store.renewed_token(connection, two, token) == "", "the other answer gives no cookie"
        assert store.session_of(connection, new)


def test_a_cookie_that_was_not_signed_here_is_nobody(client: TestClient) -> None:
    app = app_of(client)
    browser = signed_in(app, Role.COOK)
    token, signature = browser.cookies[PLAIN_COOKIE].split(".")
    for forged in (token, f"{token}.{signature[:-2]}xx", f"{token}x.{signature}", "", "é"):
        other = TestClient(app, follow_redirects=False)
        assert (
            other.get("/", headers={"cookie": f"{PLAIN_COOKIE}={forged}".encode()}).status_code
            == 303
        )
    with app.state.workbench.store() as connection:
        kept = [row[0] for row in connection.execute("SELECT token_hash FROM session")]
    assert token not in kept, "the file does not hold what a browser sends"


def test_another_password_ends_all_other_sessions_and_signing_out_ends_this_one(
    client: TestClient,
) -> None:
    app = app_of(client)
    welcomed(client, invited(client, "KH", "owner"))
    other = TestClient(app, follow_redirects=False)
    assert sign_in(other, "KH").status_code == 303
    wrong = client.post(
        "/account/password",
        data={"now": "wrong", "password": PASSWORD + "5", "again": PASSWORD + "5"},
    )
    assert "The password of now is another" in wrong.text
    assert other.get("/").status_code == 200
    new = {"now": PASSWORD, "password": PASSWORD + "5", "again": PASSWORD + "5"}
    assert client.post("/account/password", data=new).status_code == 200
    assert other.get("/").status_code == 303
    assert client.get("/account").status_code == 200
    assert sign_in(other, "KH").status_code == 401
    assert sign_in(other, "KH", PASSWORD + "5").status_code == 303
    before = client.cookies[PLAIN_COOKIE]
    client.post("/account/sessions")
    assert other.get("/").status_code == 303
    out = client.post("/sign-out", follow_redirects=False)
    assert out.headers["clear-site-data"] == '"cache"'
    client.cookies.set(PLAIN_COOKIE, before)
    assert client.get("/", follow_redirects=False).status_code == 303, (
        "a cookie that was kept opens nothing"
    )


def test_a_role_counts_from_the_next_request_and_an_account_that_ends_is_out(
    client: TestClient,
) -> None:
    app = app_of(client)
    owner, cook = signed_in(app, Role.OWNER), signed_in(app, Role.COOK)
    whose = person_with(app, Role.COOK)
    assert cook.get("/people").status_code == 403
    owner.post(f"/people/{whose.id}/role", data={"role": "owner"})
    assert cook.get("/people").status_code == 200
    owner.post(f"/people/{whose.id}/leave")
    assert cook.get("/").status_code == 303
    with app.state.workbench.store() as connection:
        last = person_with(app, Role.OWNER)
        for change in (
            lambda: end_account(connection, last.id),
            lambda: change_role(connection, last.id, Role.COOK),
        ):
            with pytest.raises(PeopleError, match="last owner"):
                change()
        with pytest.raises(PeopleError, match="has the initials"):
            add_person(connection, "ow", Role.READER)
        for typed in ("", "K", "1AB", "<b>", "toolong1"):
            with pytest.raises(PeopleError, match="two to six"):
                add_person(connection, typed, Role.READER)
        key = add_person(connection, "CK", Role.READER)
        assert key
        assert next(p for p in people(connection) if p.initials == "CK").id == whose.id, (
            "the same initials, the same row"
        )


def test_what_is_refused_and_who_was_not_let_in_is_in_the_log(client: TestClient) -> None:
    app = app_of(client)
    reader, owner = signed_in(app, Role.READER), signed_in(app, Role.OWNER)
    assert reader.post("/recipes/1/undo", data={"revision": "1"}).status_code == 403
    sign_in(TestClient(app), "RD", "not this one at all")
    sign_in(TestClient(app), "<script>", "not this one at all")
    with app.state.workbench.store() as connection:
        newest = [(a.initials, a.did, a.about) for a in activities(connection, None, "", 3)]
    assert newest == [
        ("", "was not let in", ""),
        ("RD", "was not let in", ""),
        ("RD", "was refused", "/recipes/1/undo"),
    ]
    assert "not this one" not in owner.get("/log").text


def test_pages_of_people_are_not_kept_by_browsers_and_an_error_has_a_number(
    client: TestClient, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    assert (
        client.get("/people").headers["cache-control"]
        == client.get("/log").headers["cache-control"]
        == "no-store"
    )
    assert client.get("/recipes/1").headers["cache-control"] == "private, no-cache"

    def broken(*_: object) -> None:
        raise RuntimeError("secret detail")

    monkeypatch.setattr("fresh_ladle.web.places.shelf.routes.shelf_page", broken)
    answer = client.get("/")
    assert (answer.status_code, "secret detail" in answer.text) == (500, False)
    number = re.search(r"under (\w{8})", answer.text)
    assert number
    assert f"error {number[1]}: GET /" in capsys.readouterr().err


def test_the_log_only_grows(client: TestClient) -> None:
    app = app_of(client)
    signed_in(app, Role.OWNER)
    with app.state.workbench.store() as connection:
        for forged in ("UPDATE activity SET initials = 'XX'", "DELETE FROM activity"):
            with pytest.raises(Exception, match="what is in the log"):
                connection.execute(forged)


def test_copies_are_made_listed_and_taken_away_by_an_owner(client: TestClient) -> None:
    assert "None yet" in client.get("/copies").text
    page = client.post("/copies").text
    name = re.search(r"/copies/(by-hand-[\d-]+\.db)", page)
    assert name
    assert client.get(f"/copies/{name[1]}").content.startswith(b"SQLite format 3")
    for wrong in ("..%2Fdemo.db", "demo.db", "by-hand-20270101-000000.db"):
        assert client.get(f"/copies/{wrong}").status_code == 404
    assert "made a copy of the database" in client.get("/log").text


def served(tmp_path: Path, *words: str) -> subprocess.CompletedProcess[str]:
    command = [
        sys.executable,
        "-m",
        "fresh_ladle.cli",
        *words,
        "--database",
        str(tmp_path / "a.db"),
    ]
    return subprocess.run(
        command, capture_output=True, text=True, timeout=60, check=False, input=f"{PASSWORD}\n"
    )


@pytest.mark.parametrize(
    "beyond", ["--host 0.0.0.0", "--name kitchen.example", "--behind-proxy 127.0.0.1"]
)
def test_others_are_not_let_in_before_there_is_an_account(tmp_path: Path, beyond: str) -> None:
    run = served(tmp_path, "serve", "--port", "0", *beyond.split())
    assert (run.returncode, run.stdout) == (1, "")
    assert "./ladle person add INITIALS --role owner" in run.stderr


def test_behind_a_proxy_its_word_counts_and_nobody_elses(tmp_path: Path) -> None:
    assert served(tmp_path, "person", "add", "KH").returncode == 1, "the first is an owner"
    assert served(tmp_path, "person", "add", "KH", "--role", "owner").returncode == 0
    assert served(tmp_path, "person", "password", "KH").returncode == 0
    form = {"initials": "KH", "password": PASSWORD}
    told = {
        "X-Forwarded-Proto": "https",
        "X-Forwarded-For": "198.51.100.7",
        "Host": "kitchen.example",
    }
    with running(
        tmp_path / "a.db", "serve", "--name", "kitchen.example", "--behind-proxy", "127.0.0.1"
    ) as server:
        answer = server.ask("POST", "/sign-in", form, headers=told)
        assert answer.status == 303
        assert "__Host-signed-in=" in answer.headers["set-cookie"]
        assert "Secure" in answer.headers["set-cookie"]
        assert answer.headers["strict-transport-security"].startswith("max-age=")
    with running(tmp_path / "a.db", "serve", "--name", "kitchen.example") as server:
        answer = server.ask("POST", "/sign-in", form, headers=told)
        assert answer.headers["set-cookie"].startswith(f"{PLAIN_COOKIE}=")
        assert "strict-transport-security" not in answer.headers
        assert server.ask("GET", "/", headers={"Host": "evil.example"}).status == 400


def sound(page: Page) -> None:
    """Accessible at both widths, and not cut off when zoomed to twice the size."""
    for width in (1280, 820):
        page.set_viewport_size({"width": width, "height": 800})
        results = Axe().run(page)
        assert results.violations_count == 0, results.generate_report()
    page.set_viewport_size({"width": 410, "height": 800})
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
    page.set_viewport_size({"width": 1280, "height": 800})


@pytest.mark.slow
def test_by_keyboard_from_the_first_account_to_a_reader(tmp_path: Path, chromium: Browser) -> None:
    app = demo_app(tmp_path / "demo.db")
    with served_at(app) as address:
        page = chromium.new_page(base_url=address)
        page.goto("/people")
        page.get_by_label("Initials").press_sequentially("kh")
        page.keyboard.press("Enter")
        page.goto(page.locator(".door-link").input_value())
        sound(page)
        expect(page.locator("#password")).to_be_focused()
        page.keyboard.type("short")
        page.keyboard.press("Tab")
        page.keyboard.type("short")
        page.keyboard.press("Enter")
        assert page.evaluate("document.activeElement.id") == "password", (
            "the browser says it is too short"
        )
        page.keyboard.press("Control+a")
        for _ in range(2):
            page.keyboard.type(PASSWORD)
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        page.get_by_role("link", name="your account").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="KH, owner")).to_be_visible()
        sound(page)
        page.get_by_role("button", name="Sign out", exact=True).press("Enter")
        page.wait_for_url("**/sign-in*")
        page.go_back()
        page.reload()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        page.get_by_label("Initials").press_sequentially("KH")
        page.keyboard.press("Tab")
        page.keyboard.type("not this one at all")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert").filter(has_text="do not go together")).to_be_visible()
        sound(page)
        page.get_by_label("show what is typed").check()
        page.get_by_label("Password").fill(PASSWORD)
        assert page.get_by_label("Password").get_attribute("type") == "text"
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="KH, owner")).to_be_visible()
        page.goto("/people")
        sound(page)

        reader = signed_in(app, Role.READER)
        other = chromium.new_page(base_url=address)
        other.context.add_cookies(
            [{"name": PLAIN_COOKIE, "value": reader.cookies[PLAIN_COOKIE], "url": address}]
        )
        other.goto("/recipes/1")
        expect(other.locator("#amount-l1")).to_be_disabled()
        sound(other)
        with app.state.workbench.store() as connection:
            change_role(connection, person_with(app, Role.READER).id, Role.COOK)
        other.reload()
        expect(other.locator("#amount-l1")).to_be_enabled()
        with app.state.workbench.store() as connection:
            change_role(connection, person_with(app, Role.READER).id, Role.READER)
        other.locator("#amount-l1").fill("3 cups")
        other.keyboard.press("Enter")
        expect(other.locator("#notice")).to_contain_text("This is for a cook")
        expect(other.locator("#amount-l1")).to_have_value("3 cups")
