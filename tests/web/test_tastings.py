"""Tastings through the routes: planned, served blind, answered once, closed, read; the key never
leaves the kitchen."""

from __future__ import annotations

import re
import socket
import subprocess
import sys
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing, contextmanager, suppress
from html import unescape
from pathlib import Path
from shutil import copy
from time import monotonic, sleep
from urllib.parse import urlencode
from urllib.request import Request, urlopen

import pytest
from axe_playwright_python.sync_playwright import Axe
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from fresh_ladle.core.flavor.windows import Window
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.store.database import connect
from fresh_ladle.store.tastings.tastings import Tasting, tasting

RECIPE = 4
"""The lentil salad of the demo, which has an adapted version."""


def planned(
    client: TestClient, question: str = "TRIANGLE", tasters: str = "12", **sent: str
) -> int:
    form = {
        "a": "1",
        "b": "2",
        "question": question,
        "tasters": tasters,
        "attribute": "salt",
        "expected": "A",
        **sent,
    }
    answer = client.post(f"/recipes/{RECIPE}/tastings", data=form, follow_redirects=False)
    assert answer.status_code == 303, unescape(answer.text)
    return int(answer.headers["location"].rsplit("/", 1)[1])


def kept(client: TestClient, number: int) -> Tasting:
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        return tasting(connection, number)


def test_what_a_panel_can_show_is_said_before_anyone_tastes(client: TestClient) -> None:
    shown = client.get(f"/recipes/{RECIPE}/tastings").text
    assert "A difference that 5 in 10 of them can really tell is found 6 times in 10." in shown
    more = client.post(
        f"/recipes/{RECIPE}/tastings/foretell", data={"question": "TRIANGLE", "tasters": "60"}
    ).text
    assert "5 in 10 of them can really tell is found nearly always" in more
    assert (
        client.post(f"/recipes/{RECIPE}/tastings/foretell", data={"tasters": "many"}).text.strip()
        == ""
    )


def test_a_triangle_is_served_answered_closed_and_read(client: TestClient) -> None:
    number = planned(client)
    client.post(f"/tastings/{number}/open")
    seats = kept(client, number).seats
    for seat in seats:
        odd = next(c.code for c in seat.cups if sum(o.sample == c.sample for o in seat.cups) == 1)
        other = next(c.code for c in seat.cups if c.code != odd)
        client.post(f"/ballot/{seat.key}/agree")
        client.post(f"/ballot/{seat.key}", data={"code": str(odd if seat.number <= 9 else other)})
    during = client.get(f"/tastings/{number}").text
    assert "The answers stay closed" in during
    assert "9 of 12" not in during
    client.post(f"/tastings/{number}/close")
    read = unescape(client.get(f"/tastings/{number}").text)
    assert "They taste different: 9 of 12 picked the odd one" in read
    assert "<dt>needed</dt><dd>8</dd>" in read
    late = client.post(f"/ballot/{seats[0].key}", data={"code": str(seats[0].cups[0].code)})
    assert "Your answer is in" in late.text or "closed" in late.text


def test_the_first_ballot_counts_and_two_tablets_at_once_lose_none(client: TestClient) -> None:
    number = planned(client, "PREFERENCE", "20")
    client.post(f"/tastings/{number}/open")
    seats = kept(client, number).seats

    def send(place: int) -> None:
        client.post(f"/ballot/{seats[place].key}/agree")
        for cup in seats[place].cups:
            client.post(f"/ballot/{seats[place].key}", data={"code": str(cup.code)})

    with ThreadPoolExecutor(4) as pool:
        list(pool.map(send, range(20)))
    now = kept(client, number)
    assert now.ballots == 20
    assert all(s.answer == s.cups[0].code for s in now.seats)


def test_a_printed_ballot_is_typed_in_by_its_seat(client: TestClient) -> None:
    number = planned(client, "PAIR", "3")
    client.post(f"/tastings/{number}/open")
    seat = kept(client, number).seats[0]
    assert client.post(f"/tastings/{number}/enter/1", data={"code": "7"}).status_code == 422
    client.post(f"/tastings/{number}/enter/1", data={"code": str(seat.cups[1].code)})
    assert kept(client, number).seats[0].answer == seat.cups[1].code
    again = client.post(f"/tastings/{number}/enter/1", data={"code": str(seat.cups[0].code)})
    assert "the first ballot counts" in again.text
    client.post(f"/tastings/{number}/close")
    read = unescape(client.get(f"/tastings/{number}").text)
    assert "2 ballots are missing" in read
    assert "Too few tasters" in read


def test_a_made_up_panel_is_marked_for_good(client: TestClient) -> None:
    number = planned(client, "PAIR", "18")
    client.post(f"/tastings/{number}/simulate")
    client.post(f"/tastings/{number}/close")
    now = kept(client, number)
    assert (now.simulated, now.ballots, now.question) == (True, 18, Question.PAIR)
    shown = unescape(client.get(f"/tastings/{number}").text)
    assert "Nobody tasted this" in shown
    assert "simulated" in client.get(f"/recipes/{RECIPE}/tastings").text


def scored(client: TestClient, key: str, cup: int, liking: int, **asked: int) -> str:
    client.post(f"/ballot/{key}/agree")
    sent = {"cup": str(cup), "liking": str(liking), **{name: str(n) for name, n in asked.items()}}
    return unescape(client.post(f"/ballot/{key}/score", data=sent).text)


def test_liking_is_scored_one_cup_at_a_time_and_read_with_what_is_just_about_right(
    client: TestClient,
) -> None:
    number = planned(client, "LIKING", "12", asked="salt")
    client.post(f"/tastings/{number}/open")
    for seat in kept(client, number).seats:
        first, second = seat.cups
        assert f"Cup {first.code}" in client.get(f"/ballot/{seat.key}").text or not seat.agreed
        for cup in (first, second):
            better = cup.sample == "B"
            liked = 7 + seat.number % 2 if better else 5 + seat.number % 3
            shown = scored(
                client, seat.key, cup.code, liked, salt=3 if better or seat.number > 5 else 5
            )
        assert "Your answer is in" in shown
    again = scored(
        client,
        kept(client, number).seats[0].key,
        kept(client, number).seats[0].cups[0].code,
        1,
        salt=1,
    )
    assert "Your answer is in" in again
    assert (
        kept(client, number).seats[0].scores[kept(client, number).seats[0].cups[0].code]["liking"]
        > 1
    )
    client.post(f"/tastings/{number}/close")
    read = unescape(client.get(f"/tastings/{number}").text)
    assert re.search(
        r"version 2, [^<]* is liked clearly more than version 1, original, by 1\.\d points of nine",
        read,
    )
    assert "signed ranks, 12 tasters" in read
    assert "salt: too much for 42% of them" in read
    assert "a difference of half a point takes about" in read


def test_a_score_that_is_not_whole_is_asked_for_again(client: TestClient) -> None:
    number = planned(client, "LIKING", "3", asked="sour")
    client.post(f"/tastings/{number}/open")
    seat = kept(client, number).seats[0]
    cup = seat.cups[0].code
    assert "say how much you like it" in scored(client, seat.key, cup, 12).lower()
    assert "too little or too much: sour" in scored(client, seat.key, cup, 6).lower()
    assert "there is no cup 7" in scored(client, seat.key, 7, 6, sour=3).lower()
    client.post(f"/ballot/{seat.key}/agree")
    assert "Each cup is scored" in client.post(f"/ballot/{seat.key}", data={"code": str(cup)}).text
    scored(client, seat.key, cup, 6, sour=3)
    scored(client, seat.key, seat.cups[1].code, 6, sour=3)
    client.post(f"/tastings/{number}/close")
    assert "Too little came in to be read" in client.get(f"/tastings/{number}").text


def test_three_versions_are_put_in_order(client: TestClient) -> None:
    number = planned(client, "RANKING", "6")
    client.post(f"/tastings/{number}/open")
    for seat in kept(client, number).seats:
        client.post(f"/ballot/{seat.key}/agree")
        twice = client.post(
            f"/ballot/{seat.key}/rank", data={f"rank-{c.code}": "1" for c in seat.cups}
        )
        assert "Give each cup another number" in twice.text
        ranked = {f"rank-{c.code}": "1" if c.sample == "B" else "2" for c in seat.cups}
        assert "Your answer is in" in client.post(f"/ballot/{seat.key}/rank", data=ranked).text
    client.post(f"/tastings/{number}/close")
    read = unescape(client.get(f"/tastings/{number}").text)
    assert re.search(r"version 2, [^<]* is ranked before version 1, original\.", read)
    assert client.get(f"/tastings/{number}/answers.csv").text.splitlines()[:2] == [
        "seat,a,b",
        "1,2,1",
    ]


def test_more_versions_than_a_question_compares_are_refused(client: TestClient) -> None:
    form = {"a": "1", "b": "2", "c": "2", "question": "TRIANGLE", "tasters": "6"}
    answer = client.post(f"/recipes/{RECIPE}/tastings", data=form)
    assert answer.status_code == 422
    assert "the same version stands there twice" in answer.text.lower()


def sent_sheet(client: TestClient, number: int, text: str) -> str:
    return unescape(
        client.post(f"/tastings/{number}/sheet", files={"sheet": ("b.csv", text.encode())}).text
    )


def test_a_sheet_of_printed_ballots_is_taken_whole_or_not_at_all(client: TestClient) -> None:
    number = planned(client, "TRIANGLE", "6")
    client.post(f"/tastings/{number}/open")
    seats = kept(client, number).seats
    rows = [f"{s.number},{s.cups[0].code}" for s in seats]
    wrong = sent_sheet(client, number, "\n".join(["seat,cup", *rows[:-1], "6,7"]))
    assert "Seat 6: there is no cup 7" in wrong
    assert "Nothing of the sheet was kept" in wrong
    assert "marked more than one cup" in sent_sheet(
        client, number, f"seat,cup\n1,{seats[0].cups[0].code}\n1,9\n"
    )
    assert kept(client, number).ballots == 0
    assert client.get(f"/tastings/{number}/answers.csv").status_code == 422
    sent_sheet(client, number, "\n".join(["seat,cup", *rows]))
    assert kept(client, number).ballots == 6
    client.post(f"/tastings/{number}/close")
    out = client.get(f"/tastings/{number}/answers.csv").text.splitlines()
    assert (out[0], len(out)) == ("seat,correct", 7)


def test_scores_of_a_sheet_come_out_as_they_went_in(client: TestClient) -> None:
    number = planned(client, "LIKING", "4", asked="salt")
    client.post(f"/tastings/{number}/open")
    rows = [f"{s.number},{c.code},{5 + s.number % 3},{-1 if c.sample == 'A' else 2}" for s in kept(client, number).seats
            for c in s.cups]  # fmt: skip
    assert "the names of this sheet are seat,cup,liking,salt" in sent_sheet(
        client, number, "seat,cup\n1,2"
    )
    sent_sheet(client, number, "\n".join(["seat,cup,liking,salt", *rows]))
    client.post(f"/tastings/{number}/close")
    just = client.get(f"/tastings/{number}/answers.csv", params={"cup": "B"}).text.splitlines()
    assert just == ["seat,liking,salt", "1,6,2", "2,7,2", "3,5,2", "4,6,2"]


@pytest.mark.parametrize("question", ["LIKING", "RANKING"])
def test_a_made_up_panel_scores_too(client: TestClient, question: str) -> None:
    number = planned(client, question, "10", asked="salt")
    client.post(f"/tastings/{number}/simulate")
    client.post(f"/tastings/{number}/close")
    assert kept(client, number).ballots == 10
    assert "Nobody tasted this" in client.get(f"/tastings/{number}").text


WRONG = [
    ({"b": "1"}, "the same version stands there twice"),
    ({"b": "99"}, "choose two versions"),
    ({"tasters": "0"}, "tasters: a whole number from 1 to 300"),
    ({"tasters": "many"}, "is not a number"),
    ({"question": "GUESS"}, "choose a question"),
]


@pytest.mark.parametrize(("sent", "said"), WRONG, ids=[said for _, said in WRONG])
def test_a_round_that_cannot_be_is_not_planned(
    client: TestClient, sent: dict[str, str], said: str
) -> None:
    form = {"a": "1", "b": "2", "question": "TRIANGLE", "tasters": "12", **sent}
    answer = client.post(f"/recipes/{RECIPE}/tastings", data=form)
    assert answer.status_code == 422
    assert said.lower() in unescape(answer.text).lower()


def test_a_round_without_ballots_is_not_closed_and_a_key_that_is_none_opens_nothing(
    client: TestClient,
) -> None:
    number = planned(client)
    assert "no ballot has come in" in client.post(f"/tastings/{number}/close").text.lower()
    assert client.get("/ballot/none").status_code == 404
    assert client.post(f"/tastings/{number}/explode").status_code == 422
    seat = kept(client, number).seats[0]
    assert (
        "has not begun"
        in client.post(f"/ballot/{seat.key}", data={"code": str(seat.cups[0].code)}).text
    )


def test_a_seat_answers_at_the_table(page: Page) -> None:
    page.goto(f"/recipes/{RECIPE}/tastings")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_label("Tasters").fill("8")
    expect(page.locator("#foretold")).to_contain_text(
        "5 in 10 of them can really tell is found 5 times in 10"
    )
    page.get_by_role("button", name="Plan it").press("Enter")
    page.get_by_role("button", name="Open the round").press("Enter")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_role("link", name="Pour").click()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_role("link", name="Back to the round").press("Enter")
    page.get_by_role("button", name="Taste").press("Enter")
    page.get_by_role("button", name="I may eat this, and want to taste").press("Enter")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.locator(".ballot-codes button").nth(1).press("Enter")
    expect(page.locator("main")).to_contain_text("Your answer is in")
    page.go_back()
    page.reload()
    expect(page.locator("main")).to_contain_text("Your answer is in")


def test_printed_ballots_of_liking_have_room_for_every_score(client: TestClient) -> None:
    printed = client.get(f"/tastings/{planned(client, 'LIKING', '3', asked='body')}/ballots").text
    assert printed.count("<small>liking <i>") == printed.count("<small>thickness <i>") == 6
    assert "−2 much too little" in printed
    ranked = client.get(f"/tastings/{planned(client, 'RANKING', '3')}/ballots").text
    assert ranked.count("<small>rank <i>") == 6
    assert "much too little" not in ranked


def test_the_pour_sheet_says_how_much_on_what_and_how_warm(client: TestClient) -> None:
    shown = client.get(f"/tastings/{planned(client)}/pouring").text
    assert (
        "20 to 30 g each, all parts of it in every cup, all as cold as it is eaten, in like cups."
        " Water" in shown
    )
    dressing = client.post("/recipes/1/tastings", data={"a": "1", "b": "2", "tasters": "3"})
    assert (
        "5 to 8 g each, on 15 to 20 g of leaves" in client.get(f"{dressing.url.path}/pouring").text
    )


def answered_round(client: TestClient, question: str, **asked: int) -> int:
    """A round of twelve, answered by every seat in the same way, and closed: each cup of middling
    liking and with what is asked, or A chosen."""
    number = planned(client, question, asked="salt")
    client.post(f"/tastings/{number}/open")
    for seat in kept(client, number).seats:
        for cup in seat.cups:
            if asked:
                scored(client, seat.key, cup.code, 5, **asked)
            elif cup.sample == "A":
                client.post(f"/ballot/{seat.key}/agree")
                client.post(f"/ballot/{seat.key}", data={"code": str(cup.code)})
    client.post(f"/tastings/{number}/close")
    assert kept(client, number).ballots == 12
    return number


def test_closed_rounds_move_the_windows_until_that_is_switched_off(client: TestClient) -> None:
    assert "Nothing yet" in client.get("/eaters").text
    model = windows(client)
    number = answered_round(client, "LIKING", salt=1)
    assert windows(client).low > model.low
    shown = unescape(client.get("/eaters").text)
    assert re.search(r"\d\.\d steps more salty; seen once, 12 tasters", shown)
    assert "No triangle or pair is closed yet" in shown
    counter = unescape(client.get(f"/recipes/{RECIPE}").text)
    assert "steps more salty; seen once, 12 tasters. The windows above are moved so." in re.sub(
        r"\s+", " ", counter
    )
    assert f'href="/tastings/{number}"' in client.get(f"/recipes/{RECIPE}/versions").text
    client.post("/eaters", data={"use": "false"})
    assert windows(client) == model
    assert "Switched off" in client.get("/eaters").text
    assert "The windows above are moved" not in client.get(f"/recipes/{RECIPE}").text
    client.post(
        "/settings", data={"region": "us", "weights": "grams", "label": "us", "rounding": "label"}
    )
    assert windows(client) == model
    client.post("/eaters", data={"use": "true"})
    assert windows(client).low > model.low


def windows(client: TestClient) -> Window:
    """The window of salt of the recipe's kind of dish."""
    found: Window = client.app.state.workbench.knowledge.windows["bean-salad"]["salt"]  # type: ignore[attr-defined]
    return found


def test_what_was_foretold_stands_beside_what_was_shown(client: TestClient) -> None:
    answered_round(client, "PAIR")
    shown = unescape(client.get("/eaters").text)
    assert "Of one round" not in shown
    assert re.search(r"The answers of one round (do not )?allow what the model foretold\.", shown)
    assert "more salty?" in shown
    assert "foretold-stem" in shown


def test_a_made_up_panel_teaches_nothing(client: TestClient) -> None:
    number = planned(client, "LIKING", asked="salt")
    client.post(f"/tastings/{number}/simulate")
    client.post(f"/tastings/{number}/close")
    assert "Nothing yet" in client.get("/eaters").text


def test_a_recipe_says_how_far_it_has_come(client: TestClient) -> None:
    """A made-up panel is no step on the way."""
    shown = client.get(f"/recipes/{RECIPE}").text
    assert re.search(r"Versions\s*<span class=\"station-done\" title=\"kept\"", shown)
    assert "next: approve it for the card" in shown
    simulated = planned(client)
    client.post(f"/tastings/{simulated}/simulate")
    client.post(f"/tastings/{simulated}/close")
    tasted = re.compile(r"Tasting\s*<span class=\"station-done\" title=\"tasted\"")
    assert not tasted.search(client.get(f"/recipes/{RECIPE}").text)
    answered_round(client, "PAIR")
    assert tasted.search(client.get(f"/recipes/{RECIPE}").text)
    client.post(
        f"/recipes/{RECIPE}/versions/1/mark", data={"kind": "approved", "by": "D2", "remark": ""}
    )
    shown = client.get(f"/recipes/{RECIPE}").text
    assert re.search(r"Card\s*<span class=\"station-done\" title=\"approved\"", shown)
    assert 'class="to-do"' not in shown


def test_three_tablets_at_once(page: Page) -> None:
    """One answers, one reloads in the middle and goes on, one sends its ballot twice: three ballots
    come in."""
    page.goto(f"/recipes/{RECIPE}/tastings")
    page.get_by_label("Which is preferred?").check()
    page.get_by_label("Tasters").fill("3")
    page.get_by_role("button", name="Plan it").click()
    page.get_by_role("button", name="Open the round").click()
    browser, base = page.context.browser, page.url
    assert browser is not None
    page.get_by_role("link", name="Pour").click()
    page.get_by_role("link", name="hand out this link").first.wait_for()
    seats = [
        link.get_attribute("href")
        for link in page.get_by_role("link", name="hand out this link").all()
    ]
    page.go_back()
    origin = base.split("/tastings")[0]
    tablets = [browser.new_context().new_page() for _ in seats]
    for tablet, seat in zip(tablets, seats, strict=True):
        tablet.goto(f"{origin}{seat}")
        tablet.get_by_role("button", name="I may eat this").click()
    tablets[1].reload()
    first = [tablet.locator(".ballot-codes button").first.inner_text() for tablet in tablets]
    again = tablets[2].context.new_page()
    again.goto(f"{origin}{seats[2]}")
    again.locator(".ballot-codes button").nth(1).click()
    for tablet in tablets:
        tablet.locator(".ballot-codes button").first.click()
        expect(tablet.locator("main")).to_contain_text("Your answer is in")
    assert len(set(first)) == 3
    page.reload()
    expect(page.locator(".under").first).to_contain_text("3 ballots of 3 in")
    for tablet in (*tablets, again):
        tablet.close()


def test_a_killed_server_loses_no_ballot(tmp_path: Path, demo_database: Path) -> None:
    """Ballots that were thanked for are there after the server dies in the middle of a round; the
    round goes on."""
    path = tmp_path / "round.db"
    copy(demo_database, path)
    with running(path) as (process, address):
        form = urlencode(
            {"a": "1", "b": "2", "question": "PREFERENCE", "tasters": "8", "expected": "A"}
        ).encode()
        asked = urlopen(Request(f"{address}/recipes/{RECIPE}/tastings", form))
        number = int(asked.url.rsplit("/", 1)[1])
        urlopen(Request(f"{address}/tastings/{number}/open", b""))
        with closing(connect(path)) as connection:
            seats = tasting(connection, number).seats
        for seat in seats[:6]:
            urlopen(Request(f"{address}/ballot/{seat.key}/agree", b""))
        for seat in seats[:5]:
            sent = urlencode({"code": seat.cups[0].code}).encode()
            assert (
                b"Your answer is in"
                in urlopen(Request(f"{address}/ballot/{seat.key}", sent)).read()
            )
        process.kill()
        process.wait()
    with closing(connect(path)) as connection:
        assert tasting(connection, number).ballots == 5
    with running(path) as (_, address):
        sent = urlencode({"code": seats[5].cups[1].code}).encode()
        assert (
            b"Your answer is in"
            in urlopen(Request(f"{address}/ballot/{seats[5].key}", sent)).read()
        )
    with closing(connect(path)) as connection:
        assert tasting(connection, number).ballots == 6


@contextmanager
def running(path: Path) -> Iterator[tuple[subprocess.Popen[str], str]]:
    """A server of its own process over a database, and its address; it is killed at the end."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [
        sys.executable,
        "-m",
        "fresh_ladle.cli",
        "serve",
        "--port",
        str(port),
        "--database",
        str(path),
    ]
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    address = f"http://127.0.0.1:{port}"
    try:
        deadline = monotonic() + 30
        while monotonic() < deadline:  # it may take a moment until the port answers
            with suppress(OSError):
                urlopen(f"{address}/eaters", timeout=5)
                break
            sleep(0.1)
        yield server, address
    finally:
        server.kill()
        server.wait()
        assert server.stdout is not None
        server.stdout.close()
