"""Plans through the routes: asked for, watched, taken in part, set aside, many at once."""

from __future__ import annotations

import re
from html import unescape
from time import monotonic, sleep

import pytest
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from tests.web.test_routes import revision_of

HTMX = {"HX-Request": "true"}
ASKED: dict[str, str | list[str]] = {
    "nutrient": ["sodium_mg"],
    "least": [""],
    "most": ["330"],
    "basis": ["serving"],
    "firmness": ["hard"],
    "school": "keep-good-fat",
    "max_changes": "4",
    "chance": "0.8",
    "most_steps": "2",
}


def settled(client: TestClient, url: str, at_work: str) -> str:
    """The state of a search once it is done; one that does not end in three minutes fails the
    test."""
    end = monotonic() + 180
    while monotonic() < end:
        text = client.get(url, headers=HTMX).text
        if at_work not in text:
            return text
        sleep(0.05)
    raise AssertionError("the search did not end")


def looked_for(client: TestClient, recipe: int, **asked: str | list[str]) -> tuple[str, str]:
    page = client.post(f"/recipes/{recipe}/plans", data={**ASKED, **asked})
    assert page.status_code == 200
    job = re.search(r"/plans/(\d+)", page.text.split('id="plans"')[1])
    assert job
    return job[1], settled(client, f"/plans/{job[1]}", 'hx-trigger="load')


def fingerprint(shown: str) -> str:
    """What a page says of the plan it shows."""
    found = re.search(r'name="fingerprint" value="([^"]+)"', shown)
    assert found
    return unescape(found[1])


def test_plans_are_found_shown_and_taken_in_part(client: TestClient) -> None:
    job, shown = looked_for(client, 8, most=["250"])
    assert "Use less" in shown
    assert "A smaller serving" in shown
    assert "A serving weighs" in shown
    assert "Taste against sodium" in shown
    steps = re.findall(r'name="step" value="([^"]+)"', shown)
    assert len(steps) >= 2
    wrong = client.post(
        f"/plans/{job}/take",
        data={"step": steps[:1], "fingerprint": "Another plan"},
        follow_redirects=False,
    )
    assert wrong.status_code == 404
    sent = {"step": steps[:1], "fingerprint": fingerprint(shown)}
    taken = client.post(f"/plans/{job}/take", data=sent, follow_redirects=False)
    assert taken.headers["location"] == "/recipes/8"
    counter = client.get("/recipes/8").text
    assert "draft, from" in counter
    assert "From the plan “use less”, 1 of its" in counter
    assert (
        "draft, from"
        not in client.post(
            "/recipes/8/undo", data={"revision": revision_of(client, 8)}, headers=HTMX
        ).text
    )
    client.post(
        "/recipes/8/lines",
        data={"text": "1 tbsp capers", "revision": revision_of(client, 8)},
        headers=HTMX,
    )
    late = client.post(f"/plans/{job}/take", data=sent, follow_redirects=False)
    assert late.status_code == 303
    both = client.get("/recipes/8").text
    assert "From the plan “use less”, 1 of its" in both
    assert "Capers" in both, "another line was changed meanwhile: it is put together with that"


def test_unticking_a_step_works_all_of_it_out_again(client: TestClient) -> None:
    job, shown = looked_for(client, 8, most=["250"])
    steps = re.findall(r'name="step" value="([^"]+)"', shown)
    asked = {"fingerprint": fingerprint(shown)}
    whole = client.get(f"/plans/{job}/part", params={**asked, "step": steps}, headers=HTMX).text
    some = client.get(f"/plans/{job}/part", params={**asked, "step": steps[:1]}, headers=HTMX).text
    none = client.get(f"/plans/{job}/part", params=asked, headers=HTMX).text
    sodium = [float(re.findall(r"<b>(\d+) mg</b> sodium", part)[0]) for part in (whole, some, none)]
    assert sodium == sorted(sodium)
    assert sodium[2] == 368, "as it stands"
    assert "not met" in none or "meets 0" in none or "times in 10" in none
    assert (
        client.get(
            f"/plans/{job}/part", params={"fingerprint": "another"}, headers=HTMX
        ).status_code
        == 404
    )


def test_no_plan_says_why_and_offers_what_would_do(client: TestClient) -> None:
    _, shown = looked_for(client, 8, most=["60"])
    assert "No plan holds" in shown
    assert "60 mg a serving" in shown
    assert "Ask for sodium at most" in shown


@pytest.mark.parametrize(
    ("sent", "said"),
    [
        ({"most": [""], "school": ""}, "a target, a school or something to leave out"),
        ({"most": ["lots"]}, "is not a number"),
        ({"max_changes": "99"}, "Changes: a whole number from 1 to 12"),
        ({"max_changes": "1e999"}, "is not a number"),
        ({"chance": "nan"}, "is not a number"),
        ({"also": "gravel"}, "neither an allergen nor a food"),
    ],
)
def test_what_cannot_be_asked_is_refused_in_words(
    sent: dict[str, str | list[str]], said: str, client: TestClient
) -> None:
    answer = client.post("/recipes/8/plans", data={**ASKED, **sent})
    assert answer.status_code == 422
    assert said in answer.text


def test_a_plan_set_aside_is_reviewed_on_the_draft_as_it_is(client: TestClient) -> None:
    job, shown = looked_for(client, 8)
    steps = re.findall(r'name="step" value="([^"]+)"', shown)
    assert (
        client.post(f"/plans/{job}/keep", data={"fingerprint": fingerprint(shown)}).status_code
        == 200
    )
    listed = client.get("/recipes/8/plans").text
    kept = re.search(r"/saved-plans/(\d+)", listed)
    assert kept
    client.post(
        "/recipes/8/lines",
        data={"text": "1 tbsp capers", "revision": revision_of(client, 8)},
        headers=HTMX,
    )
    review = client.get(f"/saved-plans/{kept[1]}").text
    assert "The draft has changed since" in review
    revision = re.search(r'name="revision" value="(\d+)"', review)
    assert revision
    client.post(f"/saved-plans/{kept[1]}/take", data={"revision": revision[1], "step": steps})
    assert "From the plan “use less”." in client.get("/recipes/8").text
    assert client.get(f"/saved-plans/{kept[1]}").status_code == 404


def test_many_recipes_at_once_change_nothing(client: TestClient) -> None:
    before = {n: revision_of(client, n) for n in (3, 4, 8)}
    page = client.post(
        "/plan-many",
        data={"target": "sodium <= 330", "recipe": ["3", "4", "8"], "max_changes": "4"},
    ).text
    job = re.search(r"/plan-many/(\d+)", page.split('id="many"')[1])
    assert job
    done = settled(client, f"/plan-many/{job[1]}", 'hx-trigger="load')
    assert done.count("<tr>") == 4
    assert "review each before anything changes" in done
    assert re.search(r"/saved-plans/\d+", done)
    assert {n: revision_of(client, n) for n in before} == before
    assert client.post("/plan-many", data={"target": "", "recipe": ["3"]}).status_code == 422


def test_a_school_of_ones_own_can_be_planned_with(client: TestClient) -> None:
    client.post(
        "/schools",
        data={
            "name": "Depot lean",
            "creed": "Oil by the teaspoon, nothing salty.",
            "refuses": ["oil", "salt"],
        },
    )
    assert "Depot lean" in client.get("/recipes/8/plans").text
    _, shown = looked_for(client, 8, school="own-depot-lean", most=["350"])
    assert "Only towards Depot lean" in shown, "feta, olives and oil would have to go"
    assert "Nothing was saved" in client.post("/schools", data={"name": "!!"}).text


def test_a_plan_in_the_browser(page: Page) -> None:
    page.goto("/recipes/7")
    page.keyboard.press("p")
    expect(page.locator("#drawer #plans:not([hx-get])")).to_be_visible(timeout=60_000)
    expect(page.locator("#drawer")).to_contain_text("No plan holds")
    page.get_by_role("button", name=re.compile("^Ask for")).first.click()
    expect(page.locator("#drawer .plan-row").first).to_be_visible(timeout=60_000)
    page.get_by_role("link", name="other limits").click()
    expect(page.get_by_role("heading", name="Plans", exact=True)).to_be_visible()
    for name in ("energy_kcal", "fat_g", "fiber_g"):
        page.fill(f"#most-{name}", "")
    page.fill("#most-sodium_mg", "270")
    page.get_by_role("button", name="Look for plans").click()
    expect(page.locator(".plan-steps li").first).to_be_visible(timeout=30_000)
    expect(page.locator("#plans:not([hx-get])")).to_be_visible(timeout=60_000)
    page.locator(".plan-row").last.click()
    expect(page.locator(".plan-row").last).to_have_attribute("aria-current", "true")
    page.locator(".plan-row").first.click()
    from axe_playwright_python.sync_playwright import Axe

    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_role("button", name="Take the ticked steps to the Counter").click()
    expect(page.locator("#counter")).to_contain_text("draft, from")
    page.wait_for_load_state()
    page.keyboard.press("u")
    expect(page.locator("#counter")).not_to_contain_text("draft, from")
