"""The workbench as one thing: late edits merged, the Shelf sifted, versions with their story,
settings, the first tour."""

from __future__ import annotations

import html
import re
import socket
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing, suppress
from dataclasses import replace
from html import unescape
from pathlib import Path
from shutil import copy
from time import monotonic
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import Request, urlopen

import pypdfium2
import pytest
from fastapi.testclient import TestClient

from fresh_ladle.store.database import connect
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.settings import save_settings, settings
from fresh_ladle.web.app import create_app
from tests.web.conftest import PageReader
from tests.web.sent import limits
from tests.web.test_routes import HTMX, read_in, revision_of


def amount(client: TestClient, recipe: int, line: str, text: str, revision: str) -> str:
    answer = client.post(
        f"/recipes/{recipe}/lines/{line}/amount",
        data={"amount": text, "revision": revision},
        headers=HTMX,
    )
    assert answer.status_code == 200
    return answer.text


def shown(client: TestClient, recipe: int, line: str) -> str:
    found = re.search(
        rf'id="amount-{line}" name="amount" value="([^"]*)"', client.get(f"/recipes/{recipe}").text
    )
    assert found
    return found[1]


def waits(text: str) -> dict[str, str]:
    """The form of the edit that waits on a page, as it is sent without a choice."""
    found = re.search(r'name="waiting" value="(\d+)"', text)
    assert found, "no edit waits on this page"
    return {"waiting": found[1], "decided": "put"}


def test_late_edits_of_other_lines_are_put_together_unasked(client: TestClient) -> None:
    seen = revision_of(client, 2)
    amount(client, 2, "l8", "1/4 tsp", seen)
    late = amount(client, 2, "l2", "2 tbsp", seen)
    assert "put together with what was changed elsewhere" in late
    assert "¾ tsp → ¼ tsp" in late
    assert 'class="tray merging"' not in late
    assert (shown(client, 2, "l8"), shown(client, 2, "l2")) == ("¼ tsp", "2 Tbsp")


def test_eight_people_on_eight_lines_lose_nothing(client: TestClient) -> None:
    seen = revision_of(client, 2)
    lines = [f"l{number}" for number in range(1, 9)]

    def change(place: int) -> None:
        amount(client, 2, lines[place], f"{place + 11} g", seen)

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(change, range(8)))
    assert [shown(client, 2, line) for line in lines] == [f"{place + 11} g" for place in range(8)]


@pytest.mark.parametrize(
    ("choice", "stands"),
    [({}, "¼ tsp"), ({"choose-l8": "theirs"}, "¼ tsp"), ({"choose-l8": "mine"}, "1 tsp")],
)
def test_where_both_changed_one_line_somebody_chooses_and_till_then_it_waits(
    choice: dict[str, str], stands: str, client: TestClient
) -> None:
    seen = revision_of(client, 2)
    amount(client, 2, "l8", "1/4 tsp", seen)
    late = amount(client, 2, "l8", "1 tsp", seen)
    assert "was changed in both" in late
    shelf = client.get("/?q=zzz").text
    assert 'href="/recipes/2#waiting"' in shelf, (
        "whoever moves on finds it on the Shelf, whatever is sifted there"
    )
    later = client.get("/recipes/2").text
    assert "An edit waits to be decided" in later
    assert waits(later) == waits(late)
    assert shown(client, 2, "l8") == "¼ tsp", "nothing is made before it is chosen"
    client.post("/recipes/2/merge", data={**waits(later), **choice}, headers=HTMX)
    assert shown(client, 2, "l8") == stands
    assert ("An edit waits" in client.get("/").text) is (not choice), (
        "without a choice it goes on waiting"
    )


def test_an_edit_that_waits_may_be_left_out_and_is_kept_once(client: TestClient) -> None:
    seen = revision_of(client, 2)
    amount(client, 2, "l8", "1/4 tsp", seen)
    late = [amount(client, 2, "l8", "1 tsp", seen) for _ in range(2)]
    assert waits(late[0]) == waits(late[1])
    left = client.post(
        "/recipes/2/merge", data={**waits(late[0]), "decided": "left"}, headers=HTMX
    ).text
    assert "left out: the edit that waited" in left
    assert "An edit waits" not in client.get("/").text
    gone = client.post("/recipes/2/merge", data=waits(late[0]), headers=HTMX)
    assert gone.status_code == 404
    assert "somebody has decided" in gone.text
    assert shown(client, 2, "l8") == "¼ tsp"


def test_targets_chosen_with_a_serving_go_with_it_whatever_other_tabs_did(
    client: TestClient,
) -> None:
    """Together, when another tab has kept a version meanwhile; and with the edit that waits, where
    it has to."""
    seen = revision_of(client, 2)
    form = {"revision": seen, "size": "3", "by": "count", "kind": "grain-salad", "profile_id": "2"}
    client.post("/recipes/2/keep", data={"revision": seen, "name": "one"}, follow_redirects=False)
    client.post("/recipes/2/serving", data=form, headers=HTMX)
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        now = draft(connection, 2)
    assert (now.recipe.servings, now.profile_id) == (3, 2)
    client.post("/recipes/2/serving", data={**form, "size": "5", "profile_id": "1"}, headers=HTMX)
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        now = draft(connection, 2)
    assert (now.recipe.servings, now.profile_id) == (3, 2), "it clashes: neither is kept, both wait"
    page = client.get("/recipes/2").text
    assert "other targets chosen" in page
    client.post("/recipes/2/merge", data={**waits(page), "choose-dish": "mine"}, headers=HTMX)
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        now = draft(connection, 2)
    assert (now.recipe.servings, now.profile_id) == (5, 1)


def test_a_broken_merge_and_a_late_undo_change_nothing(client: TestClient) -> None:
    seen = revision_of(client, 2)
    amount(client, 2, "l8", "1/4 tsp", seen)
    for wrong in ({"waiting": "77"}, {"waiting": "x"}, {"waiting": "9" * 30}, {}):
        assert client.post("/recipes/2/merge", data=wrong, headers=HTMX).status_code in (404, 422)
    undone = client.post("/recipes/2/undo", data={"revision": seen}, headers=HTMX).text
    assert "nothing was undone" in undone
    assert shown(client, 2, "l8") == "¼ tsp"
    kept = client.post(
        "/recipes/2/keep", data={"revision": seen, "name": "mild one", "note": "for D2"}
    )
    assert kept.status_code == 409
    assert 'value="mild one"' in kept.text, "the words of the version are still there"


def test_a_tab_that_was_overtaken_and_came_back_is_not_bothered(client: TestClient) -> None:
    seen = revision_of(client, 2)
    amount(client, 2, "l8", "1/4 tsp", seen)
    client.post("/recipes/2/undo", data={"revision": revision_of(client, 2)}, headers=HTMX)
    assert "was changed elsewhere" not in amount(client, 2, "l2", "2 tbsp", seen)
    assert shown(client, 2, "l2") == "2 Tbsp"


def test_a_line_is_opened_prepared_eaten_in_part_moved_and_placed(client: TestClient) -> None:
    opened = client.get("/recipes/8?open=l2", headers=HTMX).text
    assert 'data-panel="l2"' in opened
    assert "a cut over dates" in opened, "a line without a swap can be taken down slowly too"

    def post(what: str, **data: str) -> str:
        return client.post(
            f"/recipes/8/lines/l2/{what}?open=l2",
            data={**data, "revision": revision_of(client, 8)},
            headers=HTMX,
        ).text

    assert "80% eaten" in post("eaten", percent="80")
    assert "choose a food from the list" in post("food", food="gravel")
    as_other = post("food", food="cucumber-peeled")
    assert '<option value="cucumber-peeled">' in as_other
    assert "80% eaten" in as_other, "what was said of the line stays"
    assert "between 0 and 100%" in post("eaten", percent="120")
    assert "“most” is not a number" in post("eaten", percent="most")
    assert "peel" in post("preparation", preparation="peel")
    moved = post("move", by="-1")
    assert moved.index('data-line="l2"') < moved.index('data-line="l1"')
    placed = post("place", component="On top")
    assert 'data-group="On top"' in placed
    assert 'data-panel="l2"' in placed, "the line stays open"


def test_versions_tell_their_story_and_come_back(client: TestClient) -> None:
    amount(client, 2, "l8", "1/2 tsp", revision_of(client, 2))
    amount(client, 2, "l8", "1/4 tsp", revision_of(client, 2))
    client.post(
        "/recipes/2/keep",
        data={"revision": revision_of(client, 2), "name": "milder", "note": "for the night shift"},
    )
    told = client.get("/recipes/2/versions").text
    assert "¾ tsp → ¼ tsp" in told, "two steps of one amount are told as one"
    marked = client.post(
        "/recipes/2/versions/2/mark",
        data={"kind": "tasted", "by": "P4", "remark": "flat at the end"},
    ).text
    assert "flat at the end" in marked
    assert "tasted" in client.get("/?state=tasted").text
    back = client.post("/recipes/2/versions/1/back", headers=HTMX).text
    assert 'value="¾ tsp"' in back
    assert client.post("/recipes/2/versions/9/back", headers=HTMX).status_code == 404


def test_a_recipe_is_put_away_and_brought_back(client: TestClient) -> None:
    client.post("/recipes/4/put-away", data={"away": "true"})
    assert "Lentil and fennel salad" not in cards(client, "")
    assert cards(client, "state=put+away") == ["Lentil and fennel salad"]
    assert "recipes/4" not in client.get("/find?q=lentil").text
    assert "Put it back on the shelf" in client.get("/recipes/4/versions").text
    client.post("/recipes/4/put-away", data={"away": "false"})
    assert "Lentil and fennel salad" in cards(client, "")
    assert client.post("/recipes/999/put-away", data={"away": "true"}).status_code == 404


def cards(client: TestClient, query: str) -> list[str]:
    page = client.get("/?" + query).text
    return [
        html.unescape(t) for t in re.findall(r'<h2><a href="/recipes/\d+"[^>]*>([^<]+)</a>', page)
    ]


def test_the_shelf_is_sifted(client: TestClient) -> None:
    everything = cards(client, "")
    assert len(everything) == 15
    assert cards(client, "q=fennel") == ["Lentil and fennel salad"]
    assert cards(client, "order=name") == sorted(everything)
    free = cards(client, "free=milk&free=sesame")
    assert free
    assert set(free) < set(everything)
    meets, misses, close = (
        set(cards(client, f"meeting={m}")) for m in ("meets", "misses", "close")
    )
    assert meets | misses | close == set(everything)
    assert len(meets) + len(misses) + len(close) == len(everything)
    assert cards(client, "q=zzz") == []
    assert (
        cards(client, "kind=nonsense&state=odd&against=x&order=q&meeting=z&free=y&school=w")
        == everything
    )
    part = client.get("/?q=fennel", headers=HTMX).text
    assert "<html" not in part
    assert (
        "<html"
        in client.get("/?q=fennel", headers={**HTMX, "HX-History-Restore-Request": "true"}).text
    )


def test_many_cards_come_a_page_at_a_time(client: TestClient) -> None:
    for number in range(12):
        read_in(client, f"Dip number {number}\nServes 6\n1 cup tahini\n{number + 1} tsp salt\n")
    page = client.get("/?order=name").text
    assert page.count("shelf-card") == 24
    assert len(page) < 500_000
    more = re.search(r'hx-get="(/\?[^"]*start=24[^"]*)"', page)
    assert more
    rest = client.get(html.unescape(more[1]), headers=HTMX).text
    assert rest.count("shelf-card") == 3
    assert "shelf-more" not in rest


def test_side_by_side_takes_two_or_three_of_any_recipes(client: TestClient) -> None:
    page = client.get("/compare?x=4.1&x=4.2&x=5.draft&per=100 g").text
    assert "Walnut and red-pepper dip" in page
    assert "In 100 g" in page
    assert "Cost a serving" in page
    assert "names no version" in client.get("/compare?x=4.1&x=nonsense").text
    assert client.get("/compare?x=4.77").status_code == 404
    assert "/compare?x=4.1&amp;x=7.draft" in client.get("/compare/find?q=artichoke&x=4.1").text
    assert client.get("/compare").status_code == 200


def test_settings_hold_and_what_cannot_be_is_refused(client: TestClient) -> None:
    good = {
        "region": "metric",
        "weights": "ounces",
        "label": "eu",
        "rounding": "both",
        "school": "lean-dairy",
        "practice": "Depot kitchen",
    }
    assert "Saved" in client.post("/settings", data=good).text
    card = client.get("/recipes/4/card").text
    for said in ("Depot kitchen", "In 100 g", " kJ, ", "As worked out", " oz"):
        assert said in card
    assert 'value="metric" selected' in client.get("/read-in").text
    assert "oz" in client.get("/recipes/4").text
    assert client.post("/settings", data={**good, "weights": "stones"}).status_code == 422
    assert client.post("/settings", data={**good, "region": "moon"}).status_code == 422
    assert 'value="metric" checked' in client.get("/settings").text


def test_an_empty_practice_opens_on_the_tour_once(tmp_path: Path) -> None:
    client = PageReader(create_app(tmp_path / "empty.db"))
    assert "three minutes" in client.get("/").text
    counter = client.post("/first/begin")
    recipe = int(str(counter.url).rsplit("/", 1)[1])
    assert "1 of 10: Find the culprit" in counter.text
    assert "2 of 10: Swap it" in client.get(f"/recipes/{recipe}?lens=sodium_mg").text
    swap = re.search(
        r'hx-post="(/recipes/\d+/lines/\w+/swaps/[^"]+)" hx-vals=.(\{[^}]*\})',
        client.get(f"/recipes/{recipe}/lines/l6/swaps").text,
    )
    assert swap
    taken = client.post(
        swap[1], data={"revision": revision_of(client, recipe), "share": "0.5"}, headers=HTMX
    ).text
    assert "3 of 10: Nudge an amount" in taken or "4 of 10: Keep it" in taken
    client.post(
        f"/recipes/{recipe}/lines/l2/nudge",
        data={"steps": "-1", "revision": revision_of(client, recipe)},
        headers=HTMX,
    )
    assert "4 of 10: Keep it" in client.get(f"/recipes/{recipe}").text
    client.post(
        f"/recipes/{recipe}/keep", data={"revision": revision_of(client, recipe), "name": "milder"}
    )
    walked = [
        client.post(f"/recipes/{recipe}/tour/left", data={"step": str(n)}) for n in range(4, 10)
    ]
    assert [str(one.url).rsplit("/", 1)[1].split("?")[0] for one in walked] == [
        "compare", "plans", "bench", "tastings", "services", "card",
    ]  # fmt: skip
    assert "10 of 10: Print the card" in walked[-1].text
    assert "Next step" not in walked[-1].text
    assert "of 10:" not in client.get("/recipes/999").text
    client.post(f"/recipes/{recipe}/tour/over")
    assert "of 10:" not in client.get(f"/recipes/{recipe}").text
    assert "three minutes" not in client.get("/").text


def test_the_tour_can_be_skipped_for_good(tmp_path: Path) -> None:
    client = PageReader(create_app(tmp_path / "empty.db"))
    assert "The shelf is empty" in client.post("/first/skip").text
    assert "The shelf is empty" in client.get("/").text


def test_what_the_shelf_finds_can_be_planned_for_and_used(client: TestClient) -> None:
    link = re.search(r'href="(/plan-many[^"]*)">plans for it', client.get("/?q=fennel").text)
    assert link
    many = client.get(html.unescape(link[1])).text
    assert many.count('name="recipe"') == 1
    assert "Lentil and fennel salad" in many
    offered = client.get("/recipes/4/batch?q=tarragon", headers=HTMX).text
    assert offered.count("<option") == 1
    assert "Tarragon-buttermilk dressing" in offered


def test_a_server_killed_during_an_edit_has_lost_nothing_it_acknowledged(
    demo_database: Path, tmp_path: Path
) -> None:
    path = tmp_path / "killed.db"
    copy(demo_database, path)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [
        str(Path(sys.executable).parent / "fresh-ladle"),
        "serve",
        "--port",
        str(port),
        "--database",
        str(path),
    ]
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    assert server.stdout is not None
    server.stdout.readline()  # printed just before it listens
    sent, acknowledged = revision_in(path), 0

    def nudge(revision: int, patience: float) -> int:
        body = urlencode({"steps": 1 if revision % 2 else -1, "revision": revision}).encode()
        request = Request(
            f"http://127.0.0.1:{port}/recipes/2/lines/l8/nudge", body, {"HX-Request": "true"}
        )
        found = re.search(
            r'data-revision="(\d+)"', urlopen(request, timeout=patience).read().decode()
        )
        assert found
        return int(found[1])

    try:
        deadline = monotonic() + 20
        while (
            not acknowledged and monotonic() < deadline
        ):  # it may take a moment until the port answers
            with suppress(URLError):
                sent = acknowledged = nudge(sent, 10)
        for _ in range(5):
            sent = acknowledged = nudge(sent, 10)
        with suppress(URLError, TimeoutError):
            nudge(sent, 0.005)  # on its way when the server dies
    finally:
        server.kill()
        server.wait()
        server.stdout.close()
    assert revision_in(path) in (acknowledged, acknowledged + 1)


def revision_in(path: Path) -> int:
    with closing(connect(path)) as connection:
        return draft(connection, 2).revision


BEYOND = "9" * 30


@pytest.mark.parametrize(
    "address",
    [
        f"/?start={BEYOND}",
        f"/recipes/{BEYOND}",
        f"/compare?x={'9' * 18}.1",
        f"/recipes/4/card?version_number={BEYOND}",
    ],
)
def test_a_number_that_nothing_has_is_not_found(address: str, client: TestClient) -> None:
    assert client.get(address).status_code == 404


def test_a_profile_taken_away_in_another_tab_is_no_stumbling_block(client: TestClient) -> None:
    gone = "777"
    serving = {
        "size": "4",
        "by": "count",
        "kind": "slaw",
        "profile_id": gone,
        "revision": revision_of(client, 4),
    }
    assert client.post("/recipes/4/serving", data=serving, headers=HTMX).status_code == 200
    changed = {
        "id": gone,
        "name": "Again",
        "eaten_as": "dip",
        "school": "lean-dairy",
        **limits(sodium_mg_most="90"),
    }
    assert "sodium at most 90 mg" in client.post("/targets", data=changed).text


def test_words_are_spelled_as_the_practice_says(client: TestClient) -> None:
    assert "Fiber" in client.get("/recipes/4").text
    good = {
        "region": "us",
        "weights": "grams",
        "label": "eu",
        "rounding": "label",
        "spelling": "british",
    }
    assert client.post("/settings", data={**good, "spelling": "scots"}).status_code == 422
    client.post("/settings", data=good)
    shown = client.get("/recipes/4").text
    assert "Fibre" in shown
    assert "Fiber" not in re.sub(r"<[^>]*>", "", shown)
    assert "/figures/fiber_g" in shown, "addresses stay"
    paper = client.get("/recipes/4/card.pdf?form=a4").content
    text = " ".join(
        page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(paper)
    ).lower()
    assert "fibre" in text
    assert "fiber" not in text


def test_british_spelling_leaves_what_was_typed(client: TestClient) -> None:
    form = {"title": "Colorado flavor bomb", "kind": "legume-dip", "servings": "4", "region": "us",
            "line": ["1 cup chickpeas, for color", "Literally blend it for more flavor."],
            "sort": ["item", "step"]}  # fmt: skip
    address = client.post("/read-in/keep", data=form, follow_redirects=False).headers["location"]
    kept = address.rsplit("/", 1)[1]
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        save_settings(connection, replace(settings(connection), spelling="british"))
    client.app.state.workbench.spelling = "british"  # type: ignore[attr-defined]
    for address in (f"/recipes/{kept}", f"/recipes/{kept}/card", "/"):
        told = re.sub(r"<[^>]*>", " ", unescape(client.get(address).text))
        assert "Colorado flavor bomb" in told, address
        assert not re.search(
            r"Colourado|Litreally|flavour bomb|for colour\b|more flavour\.", told
        ), address
    assert "for more flavor" in client.get(f"/recipes/{kept}/card").text
    paper = client.get(f"/recipes/{kept}/card.pdf").content
    said = " ".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(paper))
    assert "Colorado flavor bomb" in said
    assert "for more flavor" in said
    assert "Fibre" in said


def test_what_an_edit_did_is_told_to_who_does_not_see_it(client: TestClient) -> None:
    sent = {"steps": "-1", "revision": revision_of(client, 4)}
    told = client.post("/recipes/4/lines/l9/nudge", data=sent, headers=HTMX).text
    said = re.search(r'role="status" aria-live="polite">([^<]*)</p>', told)
    assert said
    assert "→" in said[1], "the line, and its amount before and after"
    seen = re.search(r'role="status" aria-live="polite">([^<]*)</p>', client.get("/recipes/4").text)
    assert seen
    assert seen[1] == "", "nothing was done on this page"


def test_boiled_from_dry_is_said_of_what_was_dry(client: TestClient) -> None:
    text = "Bowl\n6 hard boiled eggs\n{}"
    assert (
        "boiled from dry"
        not in client.post("/read-in", data={"text": text.format("1 tbsp mayo")}).text
    )
    assert (
        "boiled from dry"
        in client.post("/read-in", data={"text": text.format("1 cup quinoa, boiled")}).text
    )
