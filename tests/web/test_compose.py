"""Compose and the ratio through the routes: asked for, watched, taken, kept to be tasted; and all
that goes wrong."""

from __future__ import annotations

import re
from html import unescape

import pytest
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from tests.web.sent import limits
from tests.web.test_plans import settled
from tests.web.test_routes import revision_of

HTMX = {"HX-Request": "true"}
HOUSE = (
    "2 leeks, 1 can white beans, some chicory, the end of a Parmesan (today), olive oil, cider"
    " vinegar"
)
DIP = 7
"""The artichoke and white-bean dip of the demo."""


def proposed(client: TestClient, **asked: str | list[str]) -> str:
    """What a search shows when it is done."""
    sent = {"kind": "bean-salad", "servings": "4", "house": HOUSE, **limits(), **asked}
    started = client.post("/compose", data=sent, follow_redirects=False)
    assert started.status_code == 303, started.text
    at = started.headers["location"]
    assert "What is in the house" in client.get(at).text
    return settled(client, at, 'hx-trigger="load')


def documents(shown: str) -> list[str]:
    return [unescape(d) for d in re.findall(r'name="document" value="([^"]+)"', shown)]


def test_a_dish_is_proposed_and_taken_as_a_recipe_like_any_other(client: TestClient) -> None:
    shown = proposed(client)
    assert "each all that was asked" in shown
    assert "White bean and" in shown
    assert "goes today" in shown
    taken = client.post(
        "/compose/take", data={"document": documents(shown)[0]}, follow_redirects=False
    )
    counter = client.get(taken.headers["location"]).text
    assert "White bean and" in counter
    assert "bean salad" in counter
    assert "as composed" in client.get(f"{taken.headers['location']}/versions").text


def test_what_is_typed_is_read_while_it_is_typed_and_says_what_it_is_enough_for(
    client: TestClient,
) -> None:
    read = client.post(
        "/compose/read", data={"kind": "bean-salad", "house": f"{HOUSE}, wumpus juise, no lemon"}
    ).text
    assert "leeks <small>178 g</small>" in " ".join(read.split())
    assert "Not understood: “wumpus juise”" in read
    assert "There is no lemon." in read
    assert "<b>bean salad</b>" in read
    assert "avocado dip" not in read


def test_foods_are_put_on_the_roles_of_another_kind(client: TestClient) -> None:
    roles = client.post(
        "/compose/roles", data={"kind": "vinaigrette", "role": ["acid"], "on_role": ["lime juice"]}
    ).text
    assert 'value="lime juice"' in roles
    assert "emulsifier" in roles
    shown = proposed(
        client,
        kind="vinaigrette",
        house="",
        role=["fat", "acid", "sweet"],
        on_role=["walnut oil", "sherry vinegar", "honey"],
    )
    for food in ("walnut oil", "sherry vinegar", "honey"):
        assert food in shown


def test_limits_that_cannot_hold_with_the_tastes_are_said_with_the_nearest(
    client: TestClient,
) -> None:
    shown = proposed(
        client, kind="vinaigrette", house="olive oil, lemon, shallot", **limits(sodium_mg_most="5")
    )
    assert "No dish was found" in shown
    assert "mg over" in shown
    assert "Little salt" in shown


def test_a_house_that_is_not_enough_is_told_what_would_be(client: TestClient) -> None:
    shown = proposed(client, kind="avocado-dip", house="harissa", to_buy="0")
    assert "Nothing in the house is the base or an acid" in " ".join(shown.split())
    assert "With more to buy it would hold" in shown
    assert "to buy" in shown


BAD: list[tuple[dict[str, str | list[str]], str]] = [
    ({"servings": "0"}, "1 to 5000 servings"),
    ({"servings": "many"}, "“many” is not a number"),
    ({"kind": "pudding"}, "No kind of dish is called"),
    ({"to_buy": "99"}, "Things to buy: a whole number from 0 to 6"),
    ({"also": "wumpus"}, "neither an allergen nor a food"),
    ({"house": "x " * 5000}, "characters long"),
    (limits(sodium_mg_most="soft"), "“soft” is not a number"),
]


@pytest.mark.parametrize(("asked", "words"), BAD, ids=[words for _, words in BAD])
def test_what_cannot_be_is_said_and_what_was_typed_stays(
    client: TestClient, asked: dict[str, str | list[str]], words: str
) -> None:
    sent = {"kind": "bean-salad", "servings": "4", "house": HOUSE, **asked}
    answer = client.post("/compose", data=sent)
    assert answer.status_code == 422
    assert words in unescape(answer.text)
    assert str(sent["house"])[:40] in unescape(answer.text)


def test_a_proposal_that_did_not_arrive_whole_is_not_taken(client: TestClient) -> None:
    for document in ("{}", '{"title": 3}', "x"):
        assert client.post("/compose/take", data={"document": document}).status_code == 422
    first, *_ = documents(proposed(client))
    unknown = first.replace("white-beans", "quicksilver").replace("great-northern", "quicksilver")
    assert client.post("/compose/take", data={"document": unknown}).status_code == 422


def test_a_search_of_before_the_restart_says_so(client: TestClient) -> None:
    gone = client.get("/compose/9999")
    assert gone.status_code == 422
    assert "since the workbench was started again" in gone.text


def test_a_ratio_is_drawn_put_on_the_counter_and_undone(client: TestClient) -> None:
    drawn = client.get(f"/recipes/{DIP}/ratio?first=l1&second=l2").text
    assert "None of the 14 steps worked out meets" in drawn
    assert drawn.count('data-point="') == 14
    sent = {"first": "l1", "second": "l2", "point": "9", "revision": revision_of(client, DIP)}
    assert (
        client.post(f"/recipes/{DIP}/ratio/take", data=sent, follow_redirects=False).status_code
        == 303
    )
    counter = client.get(f"/recipes/{DIP}").text
    assert "draft, from" in counter
    again = client.post(f"/recipes/{DIP}/ratio/take", data=sent)
    assert again.status_code in (409, 422)
    client.post(f"/recipes/{DIP}/undo", data={"revision": revision_of(client, DIP)}, headers=HTMX)


def test_two_steps_are_kept_side_by_side_and_the_draft_stays(client: TestClient) -> None:
    before = client.get(f"/recipes/{DIP}").text
    sent = {
        "first": "l1",
        "second": "",
        "other": "celery root",
        "revision": revision_of(client, DIP),
    }
    kept = client.post(
        f"/recipes/{DIP}/ratio/keep", data={**sent, "point": ["0", "3"]}, follow_redirects=False
    )
    assert kept.status_code == 303
    beside = client.get(kept.headers["location"]).text
    assert "celery root" in beside
    after = client.get(f"/recipes/{DIP}").text
    assert re.findall(r'id="amount-[^"]+"[^>]*value="([^"]*)"', before) == re.findall(
        r'id="amount-[^"]+"[^>]*value="([^"]*)"', after
    )
    sent["revision"] = revision_of(client, DIP)
    tasted = client.post(
        f"/recipes/{DIP}/ratio/keep", data={**sent, "point": ["0", "2", "3"], "then": "tasting"}
    )
    chosen = re.findall(r'<option value="(\d+)" selected>', tasted.text)
    assert len(set(chosen)) == 3, "the three kept steps stand in the plan of the next round"
    assert re.search(r'value="LIKING"\s+checked', tasted.text)
    too_few = client.post(f"/recipes/{DIP}/ratio/keep", data={**sent, "point": ["0"]})
    assert too_few.status_code == 422
    assert "mark two or three steps" in too_few.text.lower()


WRONG = [
    ("first=l1&second=l1", "are the same line"),
    ("first=l1&other=quicksilver", "no food either"),
    ("first=l99", "No line or part of"),
]


@pytest.mark.parametrize(("asked", "words"), WRONG)
def test_a_ratio_that_cannot_be_says_why(client: TestClient, asked: str, words: str) -> None:
    answer = client.get(f"/recipes/{DIP}/ratio?{asked}")
    assert answer.status_code == 422
    assert words in unescape(answer.text)


def test_the_slider_goes_by_keyboard_and_shows_its_step(page: Page) -> None:
    page.goto(f"/recipes/{DIP}/ratio?first=l1&second=l2")
    slider = page.locator("#walk-at")
    before = page.locator(".walk-here").get_attribute("x1")
    slider.focus()
    page.keyboard.press("ArrowRight")
    expect(page.locator(".walk-here")).not_to_have_attribute("x1", before or "")
    shown = page.locator("[data-point]:visible")
    expect(shown).to_have_count(1)
    expect(shown.locator(".walk-said")).to_contain_text("1¼ cups cannellini beans")
    expect(slider).to_have_attribute("aria-valuetext", re.compile("1¼ cups"))
    shown.get_by_role("button", name="Put it on the Counter").press("Enter")
    expect(page.locator("#counter")).to_be_visible()
    expect(page.locator("#amount-l1")).to_have_value("1¼ cups")
    page.wait_for_load_state()
    page.locator("h1").click()
    page.keyboard.press("u")
    expect(page.locator("#counter")).not_to_contain_text("draft, from")


def test_a_dish_is_composed_by_keyboard_alone(page: Page) -> None:
    page.goto("/compose")
    page.get_by_label("Kind of dish").select_option("grain-salad")
    page.get_by_label("What is in the house").focus()
    page.keyboard.type("bulgur, 1 cucmber, 3 tomatoes, parsley!, lemon, olive oil, wumpus")
    expect(page.locator("#house-read")).to_contain_text("Not understood: “wumpus”")
    expect(page.get_by_label("parsley", exact=True)).to_be_checked()
    page.get_by_role("button", name="Propose").press("Enter")
    expect(page.locator(".proposal").first).to_be_visible(timeout=20_000)
    expect(page.get_by_label("What is in the house")).to_have_value(re.compile("bulgur"))
    page.get_by_role("button", name="Take it to the Counter").first.press("Enter")
    expect(page.locator("#counter")).to_be_visible()
    expect(page.locator(".lines")).to_contain_text("ulgur")
    page.go_back()
    expect(page.locator(".proposal").first).to_be_visible()


def test_what_is_left_of_a_dish_goes_into_another_as_part_of_its_batch(client: TestClient) -> None:
    shown = proposed(
        client,
        kind="leafy-salad",
        house="romaine, cucumber, olive oil, lemon",
        left_recipe=["4", "1"],
        left_part=["400 g", ""],
    )
    assert "of Lentil and fennel salad" in shown
    taken = client.post(
        "/compose/take", data={"document": documents(shown)[0]}, follow_redirects=False
    )
    assert "of Lentil and fennel salad" in client.get(taken.headers["location"]).text
    wrong = client.post(
        "/compose",
        data={
            "kind": "leafy-salad",
            "house": "romaine",
            "left_recipe": ["4"],
            "left_part": ["much"],
        },
    )
    assert wrong.status_code == 422
    assert "is not part of a batch" in unescape(wrong.text)


def variants(client: TestClient, base: int, **sent: str) -> str:
    asked = {
        "title": "With dill",
        "part": "1/2",
        "servings": "4",
        "adds": "1/4 cup dill\n1/4 cup Greek yogurt",
    }
    answer = client.post(
        f"/recipes/{base}/variants", data={**asked, "revision": revision_of(client, base), **sent}
    )
    return unescape(answer.text)


def test_a_base_is_edited_once_and_its_variants_are_brought_up_to_it(client: TestClient) -> None:
    base = 10
    shown = variants(client, base)
    assert "With dill" in shown
    assert "holds the base as it was" not in shown
    held = re.search(r'<a href="/recipes/(\d+)">With dill', shown)
    assert held
    before = client.get(f"/recipes/{held[1]}").text
    line = re.search(r'id="amount-([^"]+)"', client.get(f"/recipes/{base}").text)
    assert line
    client.post(
        f"/recipes/{base}/lines/{line[1]}/amount",
        data={"amount": "2 lb", "revision": revision_of(client, base)},
        headers=HTMX,
    )
    behind = client.get(f"/recipes/{base}/variants").text
    assert "holds the base as it was" in behind
    assert "Bring 1 variant up" in " ".join(behind.split())
    brought = client.post(
        f"/recipes/{base}/variants/bring", data={"revision": revision_of(client, base)}
    ).text
    assert "holds the base as it was" not in brought
    assert client.get(f"/recipes/{held[1]}").text != before


WRONG_VARIANTS = [
    ({"title": " "}, "A variant needs a name"),
    ({"part": "much"}, "is not part of a batch"),
    ({"servings": "0"}, "servings must be more than 0"),
    ({"servings": "x"}, "is not a number"),
]


@pytest.mark.parametrize(
    ("sent", "words"), WRONG_VARIANTS, ids=[words for _, words in WRONG_VARIANTS]
)
def test_a_variant_that_cannot_be_says_why_and_keeps_what_was_typed(
    client: TestClient, sent: dict[str, str], words: str
) -> None:
    shown = variants(client, 9, **sent)
    assert words.lower() in shown.lower()
    assert "1/4 cup dill" in shown
    assert client.get("/recipes/9/variants").text.count('scope="row"') == 1
