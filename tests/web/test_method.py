"""The method on screen: its steps as they were read, marked where a line changed, and changed as
text."""

from __future__ import annotations

import re
from html import unescape

from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from tests.web.sent import page_form

HTMX = {"HX-Request": "true"}


def revision(page: str) -> str:
    found = re.search(r'data-revision="(\d+)"', page)
    assert found is not None
    return found[1]


def test_a_line_taken_out_is_counted_on_the_counter_and_named_in_its_step(
    client: TestClient,
) -> None:
    before = client.get("/recipes/4").text
    assert "what has changed" not in before
    assert "no feta" not in client.get("/recipes/4/method", headers=HTMX).text
    feta = re.search(r'data-line="(\w+)"(?:(?!data-line).)*>Feta<', before, re.S)
    assert feta is not None
    client.post(
        f"/recipes/4/lines/{feta[1]}/remove", data={"revision": revision(before)}, headers=HTMX
    )
    assert "1 step names what has changed" in re.sub(r"\s+", " ", client.get("/recipes/4").text)
    assert "no feta in this version" in client.get("/recipes/4/method", headers=HTMX).text


def test_the_method_is_changed_as_text_and_brought_back_by_undo(client: TestClient) -> None:
    first = client.get("/recipes/4").text
    sent = {"revision": revision(first), "text": "Chill it 2 h.\n\n  Serve <b>cold</b>.  "}
    changed = client.post("/recipes/4/method", data=sent, headers=HTMX)
    assert changed.status_code == 200
    shown = client.get("/recipes/4/method", headers=HTMX).text
    assert "<b>cold</b>" not in shown
    assert "Serve &lt;b&gt;cold&lt;/b&gt;." in shown
    assert '<b class="step-mark">2 h</b>' in shown
    client.post("/recipes/4/undo", data={"revision": revision(changed.text)}, headers=HTMX)
    assert "Boil the lentils" in client.get("/recipes/4/method", headers=HTMX).text


def test_read_in_shows_what_was_read_of_the_method(client: TestClient) -> None:
    text = (
        "Pea dip\nServes 4\n400 g frozen peas\n2 tbsp tahini\n\nMethod\nBoil the peas for 3"
        " min.\nBlend everything."
    )
    shown = unescape(client.post("/read-in", data={"text": text}).text)
    assert '<b class="step-mark">3 min</b> <b class="step-mark">burner</b>' in shown


def test_a_step_is_set_right_in_the_drawer_and_as_it_reads_again(client: TestClient) -> None:
    page = client.get("/recipes/4").text
    told = {"revision": revision(page),
        "words": "Boil the lentils in plenty of unsalted water 20 to 25 minutes, until"
            " tender but whole", "nth": "0", "read_as": "advice"}  # fmt: skip
    changed = client.post("/recipes/4/method/steps", data=told, headers=HTMX)
    assert "a step of the method set right" in unescape(changed.text)
    shown = client.get("/recipes/4/method", headers=HTMX).text
    assert "advice, set by you" in shown
    again = {**told, "revision": revision(changed.text), "read_as": "as it reads"}
    client.post("/recipes/4/method/steps", data=again, headers=HTMX)
    assert "set by you" not in client.get("/recipes/4/method", headers=HTMX).text


def test_a_step_that_is_not_said_or_a_line_that_is_not_there_changes_nothing(
    client: TestClient,
) -> None:
    told = {
        "revision": revision(client.get("/recipes/4").text),
        "words": "Fly away",
        "nth": "0",
        "read_as": "wait",
    }
    answer = client.post("/recipes/4/method/steps", data=told, headers=HTMX)
    assert "the method does not say this any more" in answer.text
    nowhere = {**told, "words": "Boil the lentils", "line": "l99"}
    assert "there is no line" in unescape(
        client.post("/recipes/4/method/steps", data=nowhere, headers=HTMX).text
    )
    assert (
        client.post(
            "/recipes/4/method/steps", data={**told, "read_as": "magic"}, headers=HTMX
        ).status_code
        == 422
    )


def test_what_is_eaten_goes_back_to_the_method_when_its_field_is_emptied(
    client: TestClient,
) -> None:
    page = client.get("/recipes/8").text
    sent = {"revision": revision(page), "percent": "90"}
    told = client.post("/recipes/8/lines/l9/eaten", data=sent, headers=HTMX).text
    assert "90% eaten" in told
    emptied = client.post(
        "/recipes/8/lines/l9/eaten", data={"revision": revision(told)}, headers=HTMX
    ).text
    assert "poured off" not in told
    assert "poured off" in emptied


def test_a_step_that_read_in_sets_right_goes_with_the_recipe(client: TestClient) -> None:
    text = "Beans\nServes 2\n1 can white beans\n\nMethod\nRinse the beans.\nFrobnicate gently."
    shown = client.post("/read-in", data={"text": text}).text
    assert "1 not understood" in shown

    def told(page: str, what: str) -> str:
        sent = {**page_form(page), "rule": [f"0:{what}:Frobnicate gently."]}
        return client.post("/read-in/again", data=sent, headers=HTMX).text

    again = told(shown, "wait")
    assert "wait, set by you" in again
    assert "set by you" not in told(again, "as it reads")
    kept = client.post("/read-in/keep", data=page_form(again), follow_redirects=False)
    assert "wait, set by you" in client.get(f"{kept.headers['location']}/method", headers=HTMX).text


def test_the_picture_and_the_table_say_the_same(client: TestClient) -> None:
    shown = client.get("/recipes/8/method", headers=HTMX).text
    rings = re.findall(r'<g class="way-step" data-way-step="(\d+)" data-lines="([^"]*)"', shown)
    rows = re.findall(r'<tr class="[^"]*"\s+data-way-step="(\d+)"', shown)
    assert [number for number, _ in rings] == rows
    strands = set(re.findall(r'data-way-line="(\w+)"\s+data-ways="[^"]*">', shown))
    assert strands == set(re.findall(r'data-line="(\w+)"', client.get("/recipes/8").text))


def test_every_key_on_the_counter_does_one_thing_and_is_told(client: TestClient) -> None:
    page = client.get("/recipes/4").text
    keys = re.findall(r'data-key="(.)"', page)
    assert len(keys) == len(set(keys))
    told = "".join(re.findall(r"<dt>([^<]+)</dt>", page))
    assert set(keys) - set("123456789") <= set(told)
    assert "1 to 9" in told


KALE = """Kale bowl
Serves 2
1 bunch kale
1 tsp salt
2 tbsp olive oil
1 cucumber

Slice the cucumber, toss with half the salt and let it stand 10 minutes, then squeeze it.
Massage the kale with the rest of the salt and the oil. Frobnicate gently.
Toss everything.
"""


def test_a_line_lights_up_its_steps_and_a_step_its_lines_and_a_step_is_set_right_by_keys(
    page: Page,
) -> None:
    page.goto("/read-in")
    page.get_by_label("Recipe", exact=True).fill(KALE)
    page.get_by_role("button", name="Read it").click()
    page.get_by_role("button", name="To the Counter").first.click()
    expect(page.locator("#counter")).to_be_visible()
    page.wait_for_load_state()
    page.keyboard.press("h")
    oil = page.get_by_role("button", name="olive oil", exact=True)
    oil.press("Enter")
    expect(oil).to_have_attribute("aria-pressed", "true")
    assert page.locator(".ring-button.lit").all_inner_texts() == ["5", "7"]
    page.get_by_role("button", name="Step 4: light it up").press("Enter")
    expect(oil).to_have_attribute("aria-pressed", "false")
    assert page.locator(".way-chip.lit").all_inner_texts() == ["salt", "cucumber"]
    row = page.locator(".work-table tr", has_text="Frobnicate")
    expect(row).to_contain_text("not understood")
    row.locator("summary").press("Enter")
    row.get_by_role("button", name="no work").press("Enter")
    expect(page.locator(".work-table tr", has_text="Frobnicate")).to_contain_text(
        "no work, set by you"
    )
    expect(page.locator("#drawer")).to_be_visible()
    eaten = page.locator(".leaving", has_text="poured off").get_by_role("textbox")
    eaten.fill("100")
    eaten.press("Enter")
    expect(page.locator(".leaving")).to_contain_text("told otherwise")
    expect(page.locator(".leaving input")).to_have_value("100")
    page.keyboard.press("Escape")
    expect(page.locator("#drawer")).to_be_hidden()
    with page.expect_response("**/undo"):
        page.keyboard.press("u")
    page.keyboard.press("h")
    expect(page.locator(".leaving input")).to_have_value("75")
    expect(page.locator(".leaving")).not_to_contain_text("told otherwise")
