"""Read-in: the page as it was understood, told otherwise row by row, and what is kept of it."""

from __future__ import annotations

import re
from html import unescape

import pytest
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import versions
from tests.web.sent import page_form

HTMX = {"HX-Request": "true"}
PAGE = """Home | Recipes
Pea and Mint Dip
Serves 4 to 6

2 cups frozen peas
Dressing
juice and zest of 1 lemon
1 tsp salt

Blend the peas with 2 tbsp tahini and stir in the dressing.
Keeps for two days.
"""
Sent = dict[str, list[str]]


def shown(client: TestClient, text: str = PAGE) -> Sent:
    return page_form(client.post("/read-in", data={"text": text}).text)


def again(client: TestClient, sent: Sent, **act: str) -> Sent:
    answer = client.post(
        "/read-in/again",
        data={**sent, **{name: [value] for name, value in act.items()}},
        headers=HTMX,
    )
    assert answer.status_code == 200, answer.text
    return page_form(answer.text)


def kept(client: TestClient, sent: Sent) -> Recipe:
    answer = client.post("/read-in/keep", data=sent, follow_redirects=False)
    assert answer.status_code == 303, answer.text
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        return draft(connection, int(answer.headers["location"].rsplit("/", 1)[1])).recipe


def place_of(sent: Sent, text: str) -> int:
    return int(sent["place"][sent["line"].index(text)])


def foods(recipe: Recipe) -> list[tuple[str, str | None]]:
    return [(line.component, line.food) for line in recipe.lines]


def test_a_page_is_shown_by_parts_steps_and_the_rest_beside_what_was_pasted(
    client: TestClient,
) -> None:
    html = unescape(client.post("/read-in", data={"text": PAGE}).text)
    sent = page_form(html)
    assert sent["title"] == ["Pea and Mint Dip"]
    assert sent["servings"] == ["4 to 6"]
    assert dict(zip(sent["line"], sent["sort"], strict=True)) == {
        "2 tbsp tahini": "item",
        "2 cups frozen peas": "item",
        "Dressing": "heading",
        "juice of 1 lemon": "item",
        "zest of 1 lemon": "item",
        "1 tsp salt": "item",
        "Blend the peas with 2 tbsp tahini and stir in the dressing.": "step",
        "Keeps for two days.": "note",
        "Home | Recipes": "around",
        "Pea and Mint Dip": "title",
        "Serves 4 to 6": "yield",
    }
    assert "Look at these first" in html
    assert html.index("Look at these first") < html.index('name="title"')
    first = html[html.index("Look at these first") : html.index('name="title"')]
    assert "2 tbsp tahini" in first, "measured in a step alone"
    pasted = re.findall(r'<li id="paste-(\d+)"[^>]*>(?:<a href="#row-(\d+)"[^>]*>)?([^<]*)', html)
    assert [text.strip() for _, _, text in pasted] == [line.strip() for line in PAGE.split("\n")]
    became = {text: int(row) for _, row, text in pasted if row}
    assert became["juice and zest of 1 lemon"] == place_of(sent, "juice of 1 lemon")
    recipe = kept(client, sent)
    assert foods(recipe) == [
        ("", "tahini"),
        ("", "green-peas-frozen"),
        ("Dressing", "lemon-juice-fresh"),
        ("Dressing", "lemon-zest"),
        ("Dressing", "table-salt"),
    ]
    assert recipe.servings_range == (4, 6)
    assert recipe.method == ("Blend the peas with 2 tbsp tahini and stir in the dressing.",)


def test_notes_are_kept_with_the_first_version(client: TestClient) -> None:
    answer = client.post("/read-in/keep", data=shown(client), follow_redirects=False)
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        first = versions(connection, int(answer.headers["location"].rsplit("/", 1)[1]))[0]
    assert first.note == "as read in\nKeeps for two days."


@pytest.mark.parametrize("kind", ["heading", "step", "note", "around", "title"])
def test_a_line_is_told_to_be_something_else_and_back(kind: str, client: TestClient) -> None:
    sent = shown(client)
    place = place_of(sent, "1 tsp salt")
    other = again(client, sent, turn=f"{place}:{kind}")
    assert other["sort"][other["place"].index(str(place))] == kind
    if kind == "title":
        assert other["title"] == ["1 tsp salt"]
        assert other["sort"][other["line"].index("Pea and Mint Dip")] == "around"
    assert ("Dressing", "table-salt") not in foods(kept(client, other))
    back = again(client, other, turn=f"{place}:item")
    if kind == "title":
        assert back["title"] == ["Pea and Mint Dip"], "the likeliest of what is left"
    assert ("Dressing", "table-salt") in foods(kept(client, back))


def test_lines_are_parted_joined_added_cleared_and_their_food_chosen(client: TestClient) -> None:
    sent = shown(client)
    place = place_of(sent, "2 cups frozen peas")
    two = again(client, sent, split=f"{place}:7")
    assert two["line"].count("2 cups") == two["line"].count("frozen peas") == 1
    one = again(client, two, join=str(place + 1))
    assert one["line"] == sent["line"]
    added = again(client, one, add="3 tbsp olive oil")
    assert ("Dressing", "olive-oil-refined") in foods(kept(client, added))
    at = added["line"].index("3 tbsp olive oil")
    added["line"][at] = " "
    added["choice"][added["line"].index("1 tsp salt")] = "honey"
    less = again(client, added)
    assert foods(kept(client, less))[-1] == ("Dressing", "honey")
    assert again(client, less)["choice"] == less["choice"], "what was chosen by hand stands"


def test_what_cannot_be_is_said_and_nothing_is_kept(client: TestClient) -> None:
    sent, shelf = shown(client), client.get("/").text
    for wrong, says in (
        ({"sort": sent["sort"][1:]}, "the form was incomplete"),
        ({"place": ["0"] * len(sent["line"])}, "the form was incomplete"),
        ({"kind": ["stew"]}, "choose a kind"),
        ({"sort": ["around"] * len(sent["line"])}, "keep at least one ingredient"),
    ):
        answer = client.post("/read-in/again", data={**sent, **wrong}, headers=HTMX)
        assert answer.status_code == 422, wrong
        assert says in answer.text.lower()
        refused = client.post("/read-in/keep", data={**sent, **wrong})
        assert refused.status_code == 422
        assert "Blend the peas" in refused.text, "what was pasted is given back"
    mended = again(client, sent, turn=f"{place_of(sent, '1 tsp salt')}:note")
    given_back = unescape(client.post("/read-in/keep", data={**mended, "servings": ["0"]}).text)
    assert "Notes\n1 tsp salt" in given_back or "Notes 1 tsp salt" in given_back, (
        "as it was told, not as it was pasted"
    )
    assert "Home | Recipes" not in given_back
    for act in ("999:item", "x:item", "1:stew", "-1:item"):
        assert again(client, sent, turn=act)["sort"] == sent["sort"]
    for act in ("999:3", "1:9999", ":"):
        assert again(client, sent, split=act)["line"] == sent["line"]
    for act in ("0", "999", "x"):
        assert again(client, sent, join=act)["line"] == sent["line"]
    assert client.get("/").text == shelf


def test_a_line_that_uses_a_part_says_how_much(client: TestClient) -> None:
    bowl = (
        "Bowl\nServes 2\n1 kg cucumber\n1/4 cup of the dressing below\nDressing\n1/2 cup olive"
        " oil\n1 tsp salt"
    )
    assert "59 g of Dressing" in unescape(client.post("/read-in", data={"text": bowl}).text)


def test_a_guess_is_said_to_be_one_until_it_is_set(client: TestClient) -> None:
    first = client.post(
        "/read-in", data={"text": "Weeknight thing\n1 cup chickpeas\n2 tbsp oil"}
    ).text
    assert "so this is a guess" in first
    assert "a guess: set it right" in first
    sent = page_form(first)
    mended = client.post(
        "/read-in/again",
        data={**sent, "line": ["Weeknight thing", "1 cup chickpeas", "1 tbsp oil"]},
    )
    assert "so this is a guess" in mended.text, "another line was mended, not this"
    said = client.post("/read-in/again", data={**sent, "servings": "7", "kind": "slaw"}).text
    assert "so this is a guess" not in said
    assert "a guess: set it right" not in said


@pytest.mark.browser
def test_marks_by_their_letters_and_lines_parted_and_joined_by_keys(page: Page) -> None:
    page.goto("/read-in")
    page.get_by_label("Recipe", exact=True).fill(PAGE)
    page.get_by_role("button", name="Read it").click()
    salt = page.locator(".read-item", has_text="1 tsp salt").locator(
        ".kind-mark[aria-checked=true]"
    )
    salt.focus()
    page.keyboard.press("n")
    expect(page.locator("#group-notes")).to_contain_text("1 tsp salt")
    expect(page.locator(".kind-mark:focus")).to_have_attribute("aria-label", "note")
    page.keyboard.press("i")
    expect(page.locator(".read-item", has_text="1 tsp salt")).to_have_count(1)
    peas = page.locator(".read-item textarea", has_text="2 cups frozen peas")
    place = int((peas.get_attribute("id") or "").rsplit("-", 1)[1])
    peas.focus()
    page.keyboard.press("Home")
    for _ in "2 cups":
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.locator(f"#line-{place + 1}")).to_have_value("frozen peas")
    expect(page.locator(f"#line-{place + 1}")).to_be_focused()
    page.keyboard.press("Backspace")
    expect(page.locator(f"#line-{place}")).to_have_value("2 cups frozen peas")
    expect(page.locator(f"#line-{place}")).to_be_focused()
    page.locator(".paste-rows a", has_text="1 tsp salt").click()
    expect(page.locator("textarea:focus")).to_have_value("1 tsp salt")
    expect(page.locator(".paste-rows .here")).to_have_text("1 tsp salt")
    page.get_by_role("button", name="To the Counter").click()
    expect(page.get_by_role("heading", name="Pea and Mint Dip")).to_be_visible()
