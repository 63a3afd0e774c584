"""Moves through the routes: goals, comparing, repairs, and a cut spread over dates."""

from __future__ import annotations

import re
from html import unescape

import pytest
from fastapi.testclient import TestClient

from tests.web.test_routes import revision_of

HTMX = {"HX-Request": "true"}


def test_swaps_for_a_goal_can_be_compared_and_taken(client: TestClient) -> None:
    shown = client.get("/recipes/8/moves?goal=less:sodium_mg", headers=HTMX).text
    picks = re.findall(r'name="pick" value="([^"]+)"', shown)
    assert len(picks) >= 3
    table = client.get("/recipes/8/moves/compare", params={"pick": picks[:3]}, headers=HTMX).text
    assert "3 swaps beside each other" in table
    assert table.count("Take it</button>") == 3
    line, swap, share = picks[0].split(":")
    data = {"revision": revision_of(client, 8), "share": share}
    after = client.post(f"/recipes/8/lines/{line}/swaps/{swap}", data=data, headers=HTMX).text
    assert "draft, from" in after
    assert client.post("/recipes/8/undo", headers=HTMX).text.count("draft, from") == 0


def test_swaps_of_a_line_come_in_order_of_sense(client: TestClient) -> None:
    """First whole the few that stay this dish, then the rest as lines; what turns it into another
    dish is folded."""
    shown = client.get("/recipes/1/lines/l3/swaps", headers=HTMX).text
    assert 1 <= shown.count("data-take") <= 3
    assert len(shown) < 40_000
    stays, _, other = shown.partition("Turns it into another dish")
    assert other
    cards = re.findall(r'hx-get="(/recipes/1/lines/l3/swaps/[^"]+)"', shown)
    assert len(cards) >= 10
    for url in re.findall(r'hx-get="(/recipes/1/lines/l3/swaps/[^"]+)"', other)[:6]:
        card = client.get(unescape(url), headers=HTMX).text
        moved = [
            float(step) for step in re.findall(r'class="chip">[^<]*?([\d.]+) (?:more|less)', card)
        ]
        assert max(moved) > 1.9, url
    assert "purée" not in stays.split("These stay this dish as well")[0].lower()


def test_one_swap_is_opened_whole_and_a_wrong_one_is_refused(client: TestClient) -> None:
    card = client.get(
        "/recipes/6/lines/l1/swaps/oil-to-water-dilution?share=0.25", headers=HTMX
    ).text
    assert card.count("data-take") == 1
    assert (
        client.get("/recipes/6/lines/l1/swaps/gravel?share=0.25", headers=HTMX).status_code == 422
    )
    assert (
        client.get(
            "/recipes/6/lines/l1/swaps/oil-to-water-dilution?share=7", headers=HTMX
        ).status_code
        == 422
    )


def test_the_goal_follows_the_lens(client: TestClient) -> None:
    client.get("/recipes/8?lens=fiber_g")
    assert "Swaps for more fiber" in client.get("/recipes/8/moves", headers=HTMX).text


@pytest.mark.parametrize(
    "query",
    [
        "",
        "pick=l1:oil-to-tahini:0.5",
        "pick=l6:nothing:0.5&pick=l6:oil-to-zest-and-herb:0.4",
        "pick=a&pick=b",
    ],
)
def test_what_cannot_be_compared_is_refused_in_words(query: str, client: TestClient) -> None:
    answer = client.get(f"/recipes/8/moves/compare?{query}", headers=HTMX)
    assert answer.status_code in (404, 422)
    assert "Nothing was changed" in answer.text


def test_a_food_can_be_done_without(client: TestClient) -> None:
    shown = client.get("/recipes/2/moves", headers=HTMX).text
    assert '<option value="without:tahini"' in shown
    found = client.get("/recipes/2/moves?goal=without:tahini", headers=HTMX).text
    assert "Swaps for without" not in found
    assert "Swaps without tahini" in found
    assert found.count("Leave out ¼ cup") >= 2


def test_a_goal_nobody_has_is_refused(client: TestClient) -> None:
    assert client.get("/recipes/8/moves?goal=warmer:soup", headers=HTMX).status_code == 422


def test_thin_and_sharp_is_called_out_and_mended(client: TestClient) -> None:
    data = {"revision": revision_of(client, 6), "share": "0.5"}
    shown = client.get("/recipes/6/lines/l1/swaps?share=0.5", headers=HTMX).text
    assert "Sharp, thin, no cling" in shown
    assert "makes the dressing cling" in shown
    after = client.post(
        "/recipes/6/lines/l1/swaps/oil-to-water-dilution", data=data, headers=HTMX
    ).text
    assert "leaner" in after
    repairs = client.get("/recipes/6/repairs", headers=HTMX).text
    first = re.search(r"hx-post=\"/recipes/6/repairs/([\w-]+)\" hx-vals='([^']*)'", repairs)
    assert first
    dose = re.search(r'"dose": "([\d.]+)"', first[2])
    assert dose
    total = r"([\d.]+) noticeable steps in all"
    mended = client.post(
        f"/recipes/6/repairs/{first[1]}",
        data={"revision": revision_of(client, 6), "dose": dose[1]},
        headers=HTMX,
    ).text
    before_steps, after_steps = re.search(total, after), re.search(total, mended)
    assert before_steps
    assert after_steps
    assert float(after_steps[1]) < float(before_steps[1])


def test_a_repair_that_does_not_exist_is_refused(client: TestClient) -> None:
    data = {"revision": revision_of(client, 6), "dose": "1"}
    assert client.post("/recipes/6/repairs/magic", data=data, headers=HTMX).status_code == 422
    assert (
        client.post(
            "/recipes/6/repairs/lemon-for-acid", data={**data, "dose": "900"}, headers=HTMX
        ).status_code
        == 422
    )


def test_a_cut_over_dates_can_be_begun(client: TestClient) -> None:
    shown = client.get(
        "/recipes/4/lines/l9/reduction?first=2027-01-04&cut=0.5&days=21", headers=HTMX
    ).text
    assert "Mon 04 Jan 2027" in shown
    assert "Mon 25 Jan 2027" in shown
    assert "Begin: set it to" in shown
    assert client.get("/recipes/4/lines/l9/reduction?first=soon", headers=HTMX).status_code == 422
    assert (
        client.get(
            "/recipes/4/lines/l9/reduction?first=9999-12-31&days=180", headers=HTMX
        ).status_code
        == 422
    )
    assert (
        client.get("/recipes/4/lines/l9/reduction?first=2027-01-04&cut=2", headers=HTMX).status_code
        == 422
    )


def test_served_colder_is_a_property_of_the_recipe(client: TestClient) -> None:
    form = {
        "revision": revision_of(client, 1),
        "size": "13",
        "by": "count",
        "kind": "creamy-dressing",
        "served_celsius": "4",
    }
    assert client.post("/recipes/1/serving", data=form, headers=HTMX).status_code == 200
    assert 'value="4"' in client.get("/recipes/1").text
    form["revision"] = revision_of(client, 1)
    answer = client.post("/recipes/1/serving", data={**form, "served_celsius": "hot"}, headers=HTMX)
    assert "temperature: “hot” is not a number" in answer.text


def test_every_number_of_the_flavor_model_is_shown(client: TestClient) -> None:
    page = client.get("/taste").text
    assert page.count("grade") >= 25
    assert "Yamaguchi" in page
    assert "Pasta or potato salad" in page
