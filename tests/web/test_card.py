"""The card on screen and on paper: one page in every form, the same figure everywhere, choices,
marked words."""

from __future__ import annotations

import io
import json
import re
from html import unescape

import pypdfium2
import pytest
from axe_playwright_python.sync_playwright import Axe
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from fresh_ladle.core.nutrients.labels import us_label
from fresh_ladle.formats.card_sheet import FORMS
from tests.web.test_routes import read_in

SALAD = 4
DEMO = range(1, 16)


def pages(pdf: bytes) -> list[str]:
    """The text of each page, its lines joined."""
    document = pypdfium2.PdfDocument(io.BytesIO(pdf))
    return [re.sub(r"\s+", " ", page.get_textpage().get_text_range()) for page in document]


def plain(html: str) -> str:
    return re.sub(r"\s+", " ", unescape(re.sub(r"<[^>]+>", " ", html)))


@pytest.mark.parametrize("form", FORMS, ids=lambda f: f.id)
def test_every_demo_recipe_prints_on_one_page_with_nothing_cut(
    form: object, client: TestClient
) -> None:
    for number in DEMO:
        shown = (
            client.get(f"/recipes/{number}/card")
            .text.split('class="card-sheet"')[1]
            .split("</article>")[0]
        )
        (page,) = pages(client.get(f"/recipes/{number}/card.pdf?form={form.id}").content)  # type: ignore[attr-defined]
        flat = page.replace("￾", "").replace(" ", "").replace("-", "")
        needed = [
            *re.findall(r"<b>([^<]+)</b></td>\s*<td>([^<]+)</td>", shown),
            *[
                (step,)
                for step in re.findall(r"<li>\s*([^<]+?)\s*</li>", shown.split("card-method")[1])
            ],
            *[(c,) for c in re.findall(r'class="contains"><b>([^<]+)</b>', shown)],
            *[(c,) for c in re.findall(r"<footer>([^<]+)</footer>", shown)],
        ]
        assert len(needed) > 8
        for words in needed:
            for word in words:
                said = re.sub(r"[\s￾-]+", "", unescape(word).strip())
                assert said in flat, f"{word!r} is not on the {form.id} card of {number}"  # type: ignore[attr-defined]


def test_a_card_says_that_there_is_more_exactly_where_a_caution_was_left_off(
    client: TestClient,
) -> None:
    """Also where none of them is for the readers that were named: honey, on a card for older
    people."""
    more, seen = "There is more to know about this dish", set()
    for number in (1, SALAD, 7, read_in(client, "Topping\nServes 6\n2 tbsp honey\n")):
        for audience in ("general", "older people", "small children"):
            client.post(
                f"/recipes/{number}/card", data={"version_number": "1", "audience": [audience]}
            )
            shown = client.get(f"/recipes/{number}/card").text
            (page,) = pages(client.get(f"/recipes/{number}/card.pdf").content)
            left_off = "Cautions not on this card" in shown
            assert (more in shown, more in page) == (left_off, left_off), (number, audience)
            seen.add((left_off, 'class="card-cautions"' in shown))
    assert seen >= {(True, True), (True, False), (False, True)}


def test_the_same_number_wherever_it_stands(client: TestClient) -> None:
    """The Counter shows it as worked out, JSON-LD to three digits; card and paper round both as
    labels do."""
    for number in (1, 4, 7, 11):
        card = client.get(f"/recipes/{number}/card").text
        sodium, fat = (
            re.search(rf'<span class="big">([^<]+) <small>\w+</small></span>\s*<b>{name}</b>', card)
            for name in ("Sodium", "Fat")
        )
        assert sodium is not None
        assert fat is not None
        (page,) = pages(client.get(f"/recipes/{number}/card.pdf").content)
        assert f"{sodium[1]}mgSodium" in page.replace(" ", "")
        assert f"{fat[1]}gFat" in page.replace(" ", "")
        exported = json.loads(client.get(f"/recipes/{number}/export/jsonld").text)["nutrition"]
        exact = float(exported["sodiumContent"].split()[0])
        assert us_label("sodium_mg", exact) == sodium[1]
        counter = plain(client.get(f"/recipes/{number}").text)
        assert re.search(rf"Sodium [^.]{{0,80}}\b{exact:,.0f}\b", counter)


def test_the_same_card_has_the_same_bytes_and_many_make_a_booklet(client: TestClient) -> None:
    first = client.get(f"/recipes/{SALAD}/card.pdf?form=a4").content
    assert client.get(f"/recipes/{SALAD}/card.pdf?form=a4").content == first
    assert len(pages(client.get("/cards.pdf?form=half").content)) == len(DEMO)
    assert (
        len(pages(client.get("/cards.pdf?form=half&two=true&recipe=1&recipe=2&recipe=3").content))
        == 2
    )
    two = pypdfium2.PdfDocument(
        io.BytesIO(client.get(f"/recipes/{SALAD}/card.pdf?form=half&two=true").content)
    )
    assert [round(x / 72 * 25.4) for x in two[0].get_size()] == [279, 216]
    assert client.get(f"/recipes/{SALAD}/card.png?form=half").content.startswith(b"\x89PNG")
    for wrong in ("card.pdf?form=poster", "card.doc", "card.pdf?form=letter&two=true"):
        assert client.get(f"/recipes/{SALAD}/{wrong}").status_code == 422
    assert client.get("/cards.pdf?recipe=999").status_code == 404


def test_what_is_chosen_stands_on_the_card_and_on_paper(client: TestClient) -> None:
    before = client.get(f"/recipes/{SALAD}/card").text
    assert "small children" in before
    keys = re.findall(r'name="variation" value="([^"]+)"', before)
    sent = {
        "version_number": "2", "label": "us", "audience": ["blood thinner"],
        "variation": [unescape(keys[-1])],
        "fact": ["fiber-share", "nonsense"], "note": "Bring a lemon & a <b>spoon</b>.",
    }  # fmt: skip
    assert client.post(f"/recipes/{SALAD}/card", data=sent).status_code == 200
    after = client.get(f"/recipes/{SALAD}/card").text
    sheet = after.split('class="card-sheet"')[1].split("</article>")[0]
    assert "Bring a lemon &amp; a &lt;b&gt;spoon&lt;/b&gt;." in sheet
    assert "people on warfarin" in plain(sheet)
    assert (
        "Worth knowing A serving brings 5 g of fiber: 18% of the US Daily Value of 28 g."
        in plain(sheet)
    )
    assert plain(sheet).count("No ") == 1
    (page,) = pages(client.get(f"/recipes/{SALAD}/card.pdf").content)
    assert "Bring a lemon & a <b>spoon</b>." in page
    client.post(f"/recipes/{SALAD}/card", data={"version_number": "2", "variation": []})
    assert "In place of</h2>" not in client.get(f"/recipes/{SALAD}/card").text
    assert client.post("/recipes/999/card", data={"version_number": "1"}).status_code == 404


def test_marked_words_are_the_educators_to_decide(client: TestClient) -> None:
    sent = {"version_number": "2", "note": "A superfood lunch, low in sodium."}
    client.post(
        f"/recipes/{SALAD}/card", data={**sent, "note": "A superfood lunch with low-sodium charm."}
    )
    shown = plain(client.get(f"/recipes/{SALAD}/card").text)
    assert "“superfood” in your words" in shown
    assert "It does not hold: sodium" in shown
    kept = {"rule": "superfood", "words": "superfood", "version_number": "2"}
    client.post(f"/recipes/{SALAD}/card/let-stand", data=kept)
    after = plain(client.get(f"/recipes/{SALAD}/card").text)
    assert "you let it stand on" in after
    (page,) = pages(client.get(f"/recipes/{SALAD}/card.pdf").content)
    assert "let it stand" not in page
    assert (
        client.post(
            f"/recipes/{SALAD}/card/let-stand", data={**kept, "rule": "nonsense"}
        ).status_code
        == 422
    )


def test_what_may_go_in_instead_is_named_as_it_is_bought(client: TestClient) -> None:
    """`pomegranate syrup, no sugar added` is the name of a food, no claim of the dish."""
    pasted = "Pepper spread\n\n2 red peppers\n3/4 cup walnuts\n1 tbsp pomegranate molasses"
    card = plain(client.get(f"/recipes/{read_in(client, pasted)}/card").text)
    assert "pomegranate syrup, no sugar added" in card
    assert "“no sugar added”" not in card


def test_claims_by_both_rules_and_never_on_what_is_not_known(client: TestClient) -> None:
    us = plain(client.get(f"/recipes/{SALAD}/card?label=us").text)
    assert "By US rules, on 100 g of salad" in us
    assert "reduced sodium sodium 35.4% less than Lentil and fennel salad" in us
    eu = plain(client.get(f"/recipes/{SALAD}/card?label=eu").text)
    assert "By EU and UK rules, on 100 g" in eu
    assert "source of fibre" in eu


@pytest.mark.parametrize("width", [1280, 820])
def test_the_card_is_reached_by_everybody(page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 900})
    page.goto(f"/recipes/{SALAD}/card")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_label("pregnancy").press("Space")
    page.get_by_label("Your own words").fill("Taste it cold.")
    page.get_by_role("button", name="Put it on the card").press("Enter")
    expect(page.locator(".card-sheet")).to_contain_text("Taste it cold.")
    assert page.evaluate("document.documentElement.scrollWidth") <= width


def test_a_class_from_a_dish_on_screen_on_paper_and_on_the_wall(client: TestClient) -> None:
    shown = plain(client.get("/recipes/8/class").text)
    assert "45 minutes, 6 tables of 4" in shown
    assert "Contains: milk and gluten (cereals)." in shown
    assert re.search(r"The most sodium, \d+%, comes with the \w", shown)
    part = read_in(client, "Dip\nServes 4\n1 cup tahini\n1/2 tsp salt\n1/2 tsp salt\n30 g wumpus\n")
    said = plain(client.get(f"/recipes/{part}/class").text)
    assert re.search(r"The most sodium, \d+% of what is counted, comes with the salt", said)
    text = " ".join(pages(client.get("/recipes/8/class.pdf?minutes=60&tables=3").content))
    for heading in (
        "The class",
        "Before",
        "Each table",
        "Amounts",
        "Shopping",
        "60 minutes, 3 tables of 4",
    ):
        assert heading in text
    for wrong in ("minutes=10", "tables=0", "at=2020-01-01T10:00", "at=soon", "minutes=many"):
        assert client.get(f"/recipes/8/class?{wrong}").status_code == 422
    wall = plain(client.get(f"/recipes/{SALAD}/class/wall").text)
    assert "Sodium in a serving: 500 mg as usual, 320 mg now" in wall
    assert "Fiber in a serving" in plain(
        client.get(f"/recipes/{SALAD}/class/wall?figure=fiber_g").text
    )


@pytest.mark.parametrize("where", ["class", "class/wall"])
def test_a_class_is_reached_by_everybody(page: Page, where: str) -> None:
    for width in (1280, 820):
        page.set_viewport_size({"width": width, "height": 900})
        page.goto(f"/recipes/{SALAD}/{where}")
        assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
        assert page.evaluate("document.documentElement.scrollWidth") <= width


def test_a_browser_prints_every_card_on_one_page_and_nothing_else(page: Page) -> None:
    for number in DEMO:
        page.goto(f"/recipes/{number}/card")
        for paper in ("A4", "Letter"):
            printed = pages(page.pdf(format=paper, prefer_css_page_size=True))
            assert len(printed) == 1, (number, paper, printed[1])
            (text,) = printed
            assert "Side by side" not in text
            assert "What stands on it" not in text
            assert "licensed practice decide" in text
