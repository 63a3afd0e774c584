"""What must not be in it comes first: on the Shelf, at the Counter, and before anything leaves the
kitchen."""

from __future__ import annotations

import re

import pytest
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from fresh_ladle.store.people.activity import activities
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.profiles import save_profile
from fresh_ladle.store.recipes.recipes import ids_by_title, set_profile
from fresh_ladle.web.state import Workbench

TAHINI, PLAIN = "Lemon-tahini pour-over", "Charred carrot and harissa dip"


def bench_of(client: TestClient) -> Workbench:
    found = client.app.state.workbench  # type: ignore[attr-defined]
    assert isinstance(found, Workbench)
    return found


def without(client: TestClient, name: str, *exclusions: str) -> int:
    """A profile of exclusions alone, by its id."""
    with bench_of(client).store() as connection:
        return save_profile(
            connection, name, "dressing", "keep-good-fat", (), exclusions=frozenset(exclusions)
        )


def recipe_for(client: TestClient, title: str, profile_id: int | None) -> int:
    with bench_of(client).store() as connection:
        row = connection.execute("SELECT id FROM recipe WHERE title = ?", (title,)).fetchone()
        set_profile(connection, row["id"], profile_id)
        assert row["id"] in ids_by_title(connection, 50)
    return int(row["id"])


def test_the_shelf_says_first_what_it_is_not_for(client: TestClient) -> None:
    mx = without(client, "MX", "sesame")
    cards = client.get(f"/?against={mx}").text.split("<article")[1:]
    holding = [card for card in cards if "Not for MX" in card]
    assert any(TAHINI in card for card in holding)
    assert all(card.index("Not for MX") < card.index("shelf-foot") for card in holding)
    kept = client.get(f"/?against={mx}&meeting=meets").text
    assert TAHINI not in kept
    assert "free of what MX leaves out" in kept, "a profile of exclusions alone can be met"
    assert "Not for MX" not in kept
    assert TAHINI in client.get(f"/?against={mx}&meeting=misses").text


def test_the_counter_lights_the_line_that_brings_it(client: TestClient) -> None:
    recipe = recipe_for(client, TAHINI, without(client, "MX", "sesame"))
    page = client.get(f"/recipes/{recipe}").text
    assert "✕ Not for MX:" in page
    assert page.index("Not for MX") < page.index("Contains")
    lit = [
        line
        for line in page.split('<div class="line ')[1:]
        if line.split('"')[0].split().count("breaks")
    ]
    assert [re.search(r'aria-label="Amount of ([^"]+)"', line)[1] for line in lit] == ["Tahini"]  # type: ignore[index]
    several = recipe_for(client, TAHINI, without(client, "the table", "milk", "egg"))
    assert "Not for the table" not in client.get(f"/recipes/{several}").text


def test_nothing_leaves_the_kitchen_until_somebody_says_why(client: TestClient) -> None:
    recipe = recipe_for(client, TAHINI, without(client, "MX", "sesame"))
    card = f"/recipes/{recipe}/card"
    assert "Not for MX" in client.get(card).text
    assert "Not for MX" in client.get(f"/recipes/{recipe}/bench").text, "and wherever the recipe is"
    assert 'class="card-sheet no-print"' in client.get(card).text, (
        "the browser prints no card either"
    )
    for way in (
        f"/recipes/{recipe}/export/csv",
        f"{card}.pdf",
        f"{card}.png",
        f"/recipes/{recipe}/class",
        f"/recipes/{recipe}/class.pdf",
    ):
        refused = client.get(way)
        assert refused.status_code == 422, way
        assert "sesame" in refused.text
    sent = {"version_number": "1", "reason": " "}
    assert client.post(f"{card}/all-the-same", data=sent).status_code == 422
    assert client.get(f"{card}.pdf").status_code == 422
    opened = client.post(
        f"{card}/all-the-same", data={**sent, "reason": "for the staff, not for MX"}
    )
    assert "for the staff, not for MX" in opened.text
    assert client.get(f"{card}.pdf").status_code == 200
    with bench_of(client).store() as connection:
        assert "handed out all the same" in " ".join(
            entry.did for entry in activities(connection, None, "", 20)
        )
    assert client.get("/cards.pdf").status_code == 200


def test_a_service_says_it_and_prints_no_labels(client: TestClient) -> None:
    page = client.get("/services/1").text
    assert "Not for" not in page
    with bench_of(client).store() as connection:
        dish = connection.execute(
            "SELECT recipe_id FROM service_dish WHERE service_id = 1"
        ).fetchone()["recipe_id"]
        held = {
            p.food.key
            for p in bench_of(client).appraise(draft(connection, dish).recipe).portions
            if p.food
        }
        set_profile(connection, dish, without(client, "MX", sorted(held)[0]))
    assert "✕ Not for MX:" in client.get("/services/1").text
    refused = client.post("/services/1/labels.pdf", data={"counts": ["1"], "days": ["1"]})
    assert refused.status_code == 422
    assert "MX" in refused.text


def test_what_only_a_pack_can_tell_is_a_state_of_its_own(client: TestClient) -> None:
    recipe = recipe_for(client, PLAIN, without(client, "MX", "sulphite"))
    page = client.get(f"/recipes/{recipe}").text
    assert "? Perhaps not for MX:" in page or "✕ Not for MX:" not in page


@pytest.mark.browser
def test_walked_from_the_shelf_to_the_card(page: Page) -> None:
    """A client allergic to sesame: at no point does anything look right that is not."""
    page.goto("/targets?new=1#form")
    page.fill("#p-name", "MX")
    page.locator("input[name=out][value=sesame]").check()
    page.locator("#form").get_by_role("button", name="Save").click()
    page.goto("/")
    page.locator("select[name=against]").select_option(label="MX")
    card = page.locator(".shelf-card", has_text=TAHINI)
    expect(card.locator(".not-for")).to_contain_text("✕ Not for MX: sesame")
