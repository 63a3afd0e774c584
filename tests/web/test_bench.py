"""The bench through the routes: what goes in is kept at once, struck out, answered, and becomes the
recipe."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from html import unescape
from pathlib import Path
from shutil import copy

import pytest
from axe_playwright_python.sync_playwright import Axe
from fastapi.testclient import TestClient
from playwright.sync_api import Browser, Page, expect

from fresh_ladle.devices.stand_in import LineServer, StandInScale
from fresh_ladle.store.recipes.drafts import draft, edit
from fresh_ladle.store.settings import save_settings, settings
from fresh_ladle.web.app import create_app
from tests.web.conftest import PATIENCE_MS, served

HTMX = {"HX-Request": "true"}


def token_of(shown: str) -> str:
    found = re.search(r'name="token" value="([0-9a-f]+)"', shown)
    assert found
    return found[1]


def begun(client: TestClient, recipe: int, full: str = "true", by: str = "A") -> str:
    return client.post(f"/recipes/{recipe}/bench/start", data={"full": full, "by": by}).text


def put_in(client: TestClient, recipe: int, text: str, token: str = "") -> str:
    token = token or token_of(client.get(f"/recipes/{recipe}/bench").text)
    return unescape(
        client.post(
            f"/recipes/{recipe}/bench/add", data={"text": text, "token": token}, headers=HTMX
        ).text
    )


def log_of(shown: str) -> list[str]:
    return re.findall(r'class="bench-text"><b>([^<]*)</b>', shown)


def test_a_bowl_is_seasoned_and_becomes_the_recipe_which_can_be_undone(client: TestClient) -> None:
    recipe = 13
    assert "Nothing has gone in yet" in begun(client, recipe)
    shown = put_in(client, recipe, "another squeeze of lime")
    shown = put_in(client, recipe, "1/4 tsp salt")
    assert log_of(shown) == ["1/4 tsp salt", "another squeeze of lime"]
    assert "sodium +" in shown
    struck = client.post(f"/recipes/{recipe}/bench/strike", data={"seq": "1"}, headers=HTMX).text
    assert "struck out: counts for nothing" in struck
    done = client.post(f"/recipes/{recipe}/bench/finish", follow_redirects=False)
    assert done.headers["location"] == f"/recipes/{recipe}"
    counter = client.get(f"/recipes/{recipe}").text
    assert (
        "Seasoned at the bench, 1 addition" in counter
        or "seasoned at the bench, 1 addition" in counter
    )
    assert "squeeze" not in counter
    former = client.get(f"/recipes/{recipe}/bench").text
    assert "Begin a bowl" in former
    assert "cook A" in former
    revision = re.search(r'data-revision="(\d+)"', counter)
    assert revision
    client.post(f"/recipes/{recipe}/undo", data={"revision": revision[1]}, headers=HTMX)


def test_the_same_form_sent_twice_counts_once_and_two_tabs_share_the_bowl(
    client: TestClient,
) -> None:
    recipe = 14
    begun(client, recipe)
    put_in(client, recipe, "1 pinch salt", "one")
    assert log_of(put_in(client, recipe, "1 pinch salt", "one")) == ["1 pinch salt"]
    assert log_of(put_in(client, recipe, "1 pinch salt", "other")) == [
        "1 pinch salt",
        "1 pinch salt",
    ]
    assert "1 pinch salt" in begun(client, recipe)
    client.post(f"/recipes/{recipe}/bench/leave")
    gone = client.post(f"/recipes/{recipe}/bench/add", data={"text": "1 pinch salt", "token": "x"})
    assert gone.status_code == 404


def test_an_empty_bowl_is_worked_down_the_lines(client: TestClient) -> None:
    recipe = 12
    shown = begun(client, recipe, "false", "B")
    assert "Still to go in" in shown
    line = re.search(r'name="line" value="([^"]+)"', shown)
    assert line
    sent = {"line": line[1], "token": f"{token_of(shown)}-{line[1]}"}
    after = client.post(f"/recipes/{recipe}/bench/line", data=sent, headers=HTMX).text
    assert len(log_of(after)) == 1
    assert f'name="line" value="{line[1]}"' not in after
    client.post(f"/recipes/{recipe}/bench/leave")


WRONG = [
    ("add", {"text": "salt"}, "how much salt"),
    ("add", {"text": "1 tsp wumpus"}, "is not understood"),
    ("weigh", {"thing": "salt", "before": "200", "after": "210"}, "nothing left the vessel"),
    ("weigh", {"thing": "salt", "before": "much", "after": "210"}, "is not a number"),
    ("line", {"line": "l99"}, "there is no line"),
]


@pytest.mark.parametrize(("what", "sent", "said"), WRONG, ids=[said for *_, said in WRONG])
def test_what_cannot_go_in_is_said_and_nothing_went_in(
    client: TestClient, what: str, sent: dict[str, str], said: str
) -> None:
    begun(client, 11)
    shown = client.post(f"/recipes/11/bench/{what}", data={**sent, "token": "t"}, headers=HTMX).text
    assert said.lower() in unescape(shown).lower()
    assert "Nothing went in." in shown
    assert log_of(shown) == []


def test_before_the_spoon_it_is_said_what_a_limit_leaves(client: TestClient) -> None:
    begun(client, 1)
    said = unescape(client.post("/recipes/1/bench/preview", data={"text": "2 tsp salt"}).text)
    assert "Sodium: " in said
    assert "over" in said
    assert "Taste: " in said
    assert "how much salt" in client.post("/recipes/1/bench/preview", data={"text": "salt"}).text
    assert client.post("/recipes/1/bench/preview", data={"text": ""}).text.strip() == ""
    weighed = {"thing": "salt", "before": "212", "after": "209", "token": "w"}
    assert (
        "1.6 to 4.4 g salt"
        in client.post("/recipes/1/bench/weigh", data=weighed, headers=HTMX).text
    )
    client.post("/recipes/1/bench/leave")


def test_two_cooks_logs_are_set_side_by_side(client: TestClient) -> None:
    for by, said in (("A", "1/4 tsp salt"), ("B", "1/2 tsp salt")):
        begun(client, 15, by=by)
        put_in(client, 15, said)
        client.post("/recipes/15/bench/leave")
    ids = re.findall(r'name="log" value="(\d+)"', client.get("/recipes/15/bench").text)
    shown = client.get("/recipes/15/bench?" + "&".join(f"log={i}" for i in ids)).text
    assert "cook A" in shown
    assert re.search(r"3\.0 g.*1\.5 g|1\.5 g.*3\.0 g", shown, re.S)


def test_the_bench_by_keyboard(page: Page) -> None:
    page.goto("/recipes/3/bench")
    page.get_by_role("button", name="All that is measured is in").press("Enter")
    expect(page.locator("#goes-in")).to_be_focused()
    page.keyboard.type("1 tsp lemon jiuce")
    expect(page.locator("#before-the-spoon")).to_contain_text("Taste")
    page.keyboard.press("Enter")
    expect(page.locator(".bench-log li")).to_have_count(1)
    expect(page.locator("#goes-in")).to_be_focused()
    page.get_by_role("button", name="flat", exact=True).press("Enter")
    expect(page.locator("#what-next li").first).to_be_visible()
    results = Axe().run(page)
    assert results.violations_count == 0, results.generate_report()
    page.locator("#what-next button").first.press("Enter")
    expect(page.locator(".bench-log li")).to_have_count(2)
    page.reload()
    expect(page.locator(".bench-log li")).to_have_count(2)
    page.get_by_role("button", name=re.compile("^Strike out")).first.press("Enter")
    expect(page.locator(".struck")).to_have_count(1)
    page.once("dialog", lambda dialog: dialog.accept())
    page.get_by_role("button", name="Leave it").press("Enter")
    expect(page.get_by_role("heading", name="Begin a bowl")).to_be_visible()


def read_thickness(client: TestClient, recipe: int, token: str, **sent: str) -> str:
    return unescape(
        client.post(
            f"/recipes/{recipe}/bench/thickness", data={"token": token, **sent}, headers=HTMX
        ).text
    )


def test_readings_tell_how_much_more_water_and_what_standing_does(client: TestClient) -> None:
    recipe = 7
    shown = unescape(begun(client, recipe))
    assert "A guess from the recipe alone" in shown
    assert "thickens on standing" in shown
    first = read_thickness(client, recipe, "r1", value="1.5", celsius="18")
    assert "A guess from the recipe alone" not in first
    assert re.search(r"About [0-9½]+ Tbsp more water for a run of 2 cm|No more water", first)
    thinner = unescape(
        client.get(f"/recipes/{recipe}/bench/thickness", params={"wanted": "6"}).text
    )
    assert re.search(r"About [0-9½]+ Tbsp more water for a run of 6 cm", thinner)
    assert re.search(r"A spoonful of 15 g then: calories [0-9]+ → [0-9]+ kcal", thinner)
    again = read_thickness(client, recipe, "r1", value="1.5", celsius="18")
    assert again.count("1.5 cm") == first.count("1.5 cm"), "a form sent twice counts once"
    put_in(client, recipe, "4 Tbsp water")
    cold = read_thickness(client, recipe, "r2", value="5", celsius="5", minutes="60")
    assert "should not be held together" in cold
    assert "60 minutes after blending" in cold
    number = re.search(r"thickness/(\d+)/strike", cold)
    assert number
    struck = client.post(
        f"/recipes/{recipe}/bench/thickness/{number[1]}/strike", data={"struck": "true"}
    ).text
    assert "should not be held together" not in struck
    assert "count again" in struck
    client.post(f"/recipes/{recipe}/bench/leave")


WRONG_READINGS = [
    ({"value": "a lot"}, "“a lot” is not a number"),
    ({"value": "40"}, "0 to 14 cm beyond the ring"),
    ({"how": "SECONDS", "value": "0"}, "does not run through a hole"),
    ({"value": "5", "minutes": "-5"}, "minutes since blending"),
]


@pytest.mark.parametrize(("sent", "said"), WRONG_READINGS, ids=[s for _, s in WRONG_READINGS])
def test_a_reading_that_cannot_be_is_said_and_not_kept(
    client: TestClient, sent: dict[str, str], said: str
) -> None:
    begun(client, 9)
    shown = read_thickness(client, 9, "wrong", **sent)
    assert said in shown.lower() or said in shown
    assert "Nothing was kept" in shown
    assert 'aria-label="Readings"' not in shown
    client.post("/recipes/9/bench/leave")


def test_an_empty_bowl_has_no_thickness(client: TestClient) -> None:
    assert "When something is in the bowl" in begun(client, 2, full="false")
    assert "When something is in the bowl" in read_thickness(client, 2, "e", value="3")
    client.post("/recipes/2/bench/leave")
    assert client.get("/recipes/2/bench/thickness").status_code == 404


def test_a_salad_has_no_thickness_and_a_dip_has(client: TestClient) -> None:
    assert "thickness-title" not in begun(client, 4)
    assert "thickness-title" in begun(client, 2)


def test_the_ringed_sheet_prints_at_its_true_size(page: Page) -> None:
    page.goto("/ring-sheet")
    assert page.locator("svg.ring-sheet").get_attribute("width") == "192mm"
    assert page.locator("circle.ring-start").get_attribute("r") == "25"
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()


@contextmanager
def scaled_kitchen(demo_database: Path, tmp_path: Path) -> Iterator[tuple[str, StandInScale]]:
    """A workbench of its own with the stand-in named in its Settings, and the carrot dip at half
    its salt."""
    copy(demo_database, tmp_path / "scale.db")
    app, scale = create_app(tmp_path / "scale.db"), StandInScale()
    lines = LineServer(scale)
    with app.state.workbench.store() as connection:
        save_settings(connection, replace(settings(connection), scale=f"127.0.0.1:{lines.port}"))
        now = draft(connection, CARROT)
        salt = next(x for x in now.recipe.lines if x.named == "salt")
        half = replace(salt, amount="3/8 tsp", text="3/8 tsp salt")
        lines_now = tuple(half if x == salt else x for x in now.recipe.lines)
        edit(connection, CARROT, now.revision, lambda r: replace(r, lines=lines_now))
    try:
        with served(app) as address:
            yield address, scale
    finally:
        lines.stop()


CARROT = 2


@pytest.mark.parametrize(
    ("width", "touch"), [(820, True), (1280, False)], ids=["by touch", "by keyboard"]
)
def test_a_cook_seasons_from_half_the_salt_with_the_scale(
    demo_database: Path, tmp_path: Path, chromium: Browser, width: int, touch: bool
) -> None:
    with scaled_kitchen(demo_database, tmp_path) as (address, scale):
        context = chromium.new_context(
            viewport={"width": width, "height": 1000}, has_touch=touch, base_url=address
        )
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)

        def press(name: str) -> None:
            button = page.get_by_role("button", name=name, exact=True)
            if touch:
                button.tap()
            else:
                button.focus()
                page.keyboard.press("Enter")

        page.goto(f"/recipes/{CARROT}/bench")
        press("All that is measured is in")
        held = scale.things["salt"].holds_g
        scale.put("salt")
        press("Weigh before")
        expect(page.locator("#weigh-before")).to_contain_text("Settled")
        for _ in range(3):
            scale.use("salt")
        press("Weigh after")
        expect(page.locator("#weigh-after")).to_contain_text("Settled")
        press_in = page.locator(".weigh form button.primary")
        press_in.tap() if touch else press_in.press("Enter")
        expect(page.locator(".bench-log li")).to_have_count(1)
        went_in = held - scale.things["salt"].holds_g
        said = page.locator(".bench-text b").inner_text()
        low, high = (float(n) for n in re.findall(r"\d+\.\d", said)[:2])
        assert low - 0.05 <= went_in <= high + 0.05, said
        # The scale goes; the log stays, and the rest is typed.
        scale.plugged = False
        press("Weigh before")
        expect(page.locator("#weigh-before")).to_contain_text("type the weight")
        expect(page.locator(".bench-log li")).to_have_count(1)
        page.locator("#goes-in").fill("1 tsp lemon juice")
        page.locator("#goes-in").press("Enter")
        expect(page.locator(".bench-log li")).to_have_count(2)
        at_bench = page.locator(".rung-value").all_inner_texts()
        press("Make this the recipe")
        expect(page).to_have_url(re.compile(rf"/recipes/{CARROT}$"))
        for at_counter, before in zip(
            page.locator(".rung-value").all_inner_texts()[:5], at_bench, strict=True
        ):
            assert float(at_counter.split()[0]) == pytest.approx(float(before.split()[0]), rel=0.02)
        context.close()


def test_no_scale_or_one_that_mumbles_is_said_and_nothing_is_lost(client: TestClient) -> None:
    begun(client, 9)
    assert "No scale is set" in client.get("/scale/weight").text
    assert "No scale is set" in client.post("/scale/tare").text
    workbench = client.app.state.workbench  # type: ignore[attr-defined]
    scale = StandInScale(garbage=True)
    lines = LineServer(scale)
    with workbench.store() as connection:
        save_settings(connection, replace(settings(connection), scale=f"127.0.0.1:{lines.port}"))
    put_in(client, 9, "1 pinch salt")
    assert "sends what is no weight" in client.get("/scale/weight", params={"typed": "180"}).text
    assert 'value="180"' in client.get("/scale/weight", params={"typed": "180"}).text
    scale.garbage = False
    scale.put("bowl")
    scale.tare()
    scale.take("bowl")
    assert "set it to zero with the vessel off" in client.get("/scale/weight").text
    assert log_of(unescape(client.get("/recipes/9/bench").text)) == ["1 pinch salt"]
    lines.stop()


SCALES = [
    ("127.0.0.1:1, 127.0.0.1:2", "", "one scale at a time"),
    ("10.0.0.1:99999", "", "an address such as"),
    ("8.8.8.8:22", "", "in the house"),
    ("127.0.0.1:1", "{grams}", "only {weight}, {unit}, {state} are known"),
]


@pytest.mark.parametrize(("scale", "pattern", "said"), SCALES, ids=[s for _, _, s in SCALES])
def test_a_scale_that_cannot_be_is_not_saved(
    client: TestClient, scale: str, pattern: str, said: str
) -> None:
    sent = {"region": "us", "weights": "grams", "label": "us", "rounding": "label", "scale": scale}
    answer = client.post("/settings", data={**sent, "scale_pattern": pattern})
    assert answer.status_code == 422
    assert said in unescape(answer.text)
