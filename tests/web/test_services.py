"""A service through the screen: planned, done step by step, planned again, printed, and refused
with a sentence."""

from __future__ import annotations

import re
import threading
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from html import unescape

import pytest
from axe_playwright_python.sync_playwright import Axe
from fastapi.testclient import TestClient
from playwright.sync_api import Page, expect

from fresh_ladle.core.service.schedule import OrderAsk
from fresh_ladle.store.services.services import service
from fresh_ladle.web.app import create_app
from fresh_ladle.web.places.service import days as service_days
from fresh_ladle.web.work.processes import Overrun
from tests.web.conftest import PageReader
from tests.web.paper import words_of
from tests.web.sent import own_food, page_form

SALAD = 4
"""The lentil salad of the demo."""
IN_TWO_WEEKS = f"{datetime.now(UTC) + timedelta(days=14):%Y-%m-%d}T12:00"
ASKED = {
    "at": IN_TWO_WEEKS, "zone": "CET", "cooks": "2", "ovens": "1", "trays": "2", "burners": "4",
    "blender_ml": "1500",
    "name": "Lunch for forty",
}  # fmt: skip


def planned(
    client: TestClient, dishes: tuple[str, ...] = ("4.2", "2.1", "3.1"), **changed: str
) -> int:
    sent = {**ASKED, "dish": list(dishes), "servings": ["40"] * len(dishes), **changed}
    answer = client.post(f"/recipes/{SALAD}/services", data=sent, follow_redirects=False)
    assert answer.status_code == 303, unescape(answer.text)
    return int(answer.headers["location"].rsplit("/", 1)[1])


def test_a_day_is_planned_done_and_planned_again(client: TestClient) -> None:
    number = planned(client)
    shown = unescape(client.get(f"/services/{number}").text)
    assert "Boil the lentils in plenty of unsalted water" in shown
    assert "day-lanes" in shown
    assert "Fold in the parsley and feta last" in shown
    steps = re.findall(r'action="/services/\d+/done/(\d+)"', shown)
    client.post(f"/services/{number}/done/{steps[0]}")
    ticked = client.get(f"/services/{number}").text
    assert ticked.count("is-done") == 1
    client.post(f"/services/{number}/done/{steps[0]}", data={"done": "false"})
    assert client.get(f"/services/{number}").text.count("is-done") == 0
    for step in dict.fromkeys(steps[1:12]):
        client.post(f"/services/{number}/done/{step}")
    before = set(re.findall(r"/done/(\d+)", client.get(f"/services/{number}").text))
    client.post(f"/services/{number}/again")
    after = unescape(client.get(f"/services/{number}").text)
    left = set(re.findall(r"/done/(\d+)", after))
    assert left < before
    assert re.search(r"Planned again from \d\d:\d\d", after)
    client.post(f"/services/{number}/again", data={"moment": "first"})
    assert set(re.findall(r"/done/(\d+)", client.get(f"/services/{number}").text)) == before


def test_a_step_says_what_is_another_thing_in_this_version(client: TestClient) -> None:
    """The mustard of the dressing is another kind now; a line that is taken out is no longer in the
    dish."""
    shown = unescape(client.get(f"/services/{planned(client, ('1.2',))}").text)
    assert "Dijon mustard is unsalted mustard here" in shown
    assert "Stir in lemon juice: no step of the method names it" in shown


def test_amounts_buying_and_cost(client: TestClient) -> None:
    number = planned(client)
    amounts = unescape(client.get(f"/services/{number}/amounts").text)
    assert "1.3 kg (6¾ cups) dry French green lentils" in amounts
    assert "4 fillings of" in amounts
    assert re.search(r"\d\.\d\d cr a serving \(\d\.\d\d to \d\.\d\d\)", amounts)
    buy = unescape(client.get(f"/services/{number}/buy").text)
    assert "Vegetables and fruit" in buy
    assert "left over" in buy
    assert "no price" not in buy


def test_a_dish_beside_its_original_and_a_bought_one(client: TestClient) -> None:
    number = planned(client)
    shown = unescape(client.get(f"/services/{number}/buy").text)
    assert re.search(r"\d\.\d\d cr (more|less) a serving than the original", shown)
    assert re.search(r"feta −0\.\d\d", shown)
    assert "as the original" in shown, "the dip and the slaw were not adapted"
    made = client.post(
        "/foods/new", data=own_food(name="Tub of lentil salad", like="lentils-brown-cooked")
    )
    key = made.url.path.rsplit("/", 1)[1]
    client.post(f"/foods/{key}/price", data={"amount": "3.20", "pack_grams": "400"})
    client.post(f"/services/{number}/against/4", data={"food": key})
    shown = unescape(client.get(f"/services/{number}/buy").text)
    assert "Tub of lentil salad" in shown
    assert '<td class="num">0.80</td>' in shown
    refused = client.post(f"/services/{number}/against/4", data={"food": "feta"})
    assert refused.status_code == 422


def test_what_is_in_the_house_comes_off_the_list(client: TestClient) -> None:
    number = planned(client)
    before = unescape(client.get(f"/services/{number}/buy").text)
    assert re.search(r"<b>1 pack of 227 g</b>\s*feta|<b>2 packs of 227 g</b>\s*feta", before)
    shown = unescape(
        client.post(f"/services/{number}/stock", data={"food": "feta", "grams": "5000"}).text
    )
    assert re.search(r"enough in the house:</b>\s*feta", shown)
    for wrong in ({"food": "feta", "grams": "-3"}, {"food": "no-such", "grams": "3"}):
        assert client.post(f"/services/{number}/stock", data=wrong).status_code == 422


def test_a_base_of_two_dishes_is_made_once(client: TestClient) -> None:
    """Half of the dressing in the lentils, a quarter of it in the slaw: one batch, before either is
    dressed."""
    for recipe, part in ((SALAD, "half"), (3, "1/4")):
        revision = re.search(r'data-revision="(\d+)"', client.get(f"/recipes/{recipe}").text)
        assert revision
        sent = {"source": "1", "part": part, "revision": revision[1]}
        answer = client.post(
            f"/recipes/{recipe}/batches", data=sent, headers={"HX-Request": "true"}
        )
        assert answer.status_code == 200, answer.text[:300]
    number = planned(client, (f"{SALAD}.draft", "3.draft"))
    amounts = unescape(client.get(f"/services/{number}/amounts").text)
    assert "made once, for Lentil and fennel salad and Celery-root and apple slaw" in amounts
    day = unescape(client.get(f"/services/{number}").text)
    assert day.count("Whisk in the yogurt until smooth") in (
        1,
        2,
    ), "once in the list, perhaps as the next step"


def test_the_hours_of_the_kitchen_and_where_weights_lead(client: TestClient) -> None:
    """A kitchen that opens at eleven cannot have it ready by noon on the day; it is begun the day
    before."""
    number = planned(client)
    kitchen = {"region": "us", "weights": "grams", "label": "us", "rounding": "label"}
    client.post(
        "/settings", data={**kitchen, "opens": "11:00", "closes": "16:00", "weights_from": "5"}
    )
    amounts = unescape(client.get(f"/services/{number}/amounts").text)
    assert "199 g (¾ cup plus 1½ Tbsp) sherry vinegar" in amounts
    day = unescape(client.get(f"/services/{number}").text)
    assert day.count('class="steps-list"') == 2 or "No order of work." in day
    for wrong in ({"opens": "20:00", "closes": "06:00"}, {"opens": "noon"}, {"weights_from": "-3"}):
        refused = client.post("/settings", data={**kitchen, **wrong})
        assert refused.status_code == 422
        assert "Nothing was saved" in refused.text


def test_a_dish_that_always_comes_back_says_so(client: TestClient) -> None:
    for place in range(2):
        number = planned(client, ("4.2",))
        client.post(f"/services/{number}/leftover/0", data={"grams": "1300"})
        shown = unescape(client.get(f"/recipes/{SALAD}/services").text)
        assert ("It always comes back: 2 of 2 times" in shown) is (place == 1)
    assert "21% of it at least" in shown
    third = planned(client, ("4.2",))
    client.post(f"/services/{third}/leftover/0", data={"grams": "0"})
    shown = unescape(client.get(f"/recipes/{SALAD}/services").text)
    assert "a tenth or more 2 of 3 times" in shown
    for wrong in ("-1", "9999999", "some"):
        assert (
            client.post(f"/services/{number}/leftover/0", data={"grams": wrong}).status_code == 422
        )
    assert 'value="1300"' in client.get(f"/services/{number}/amounts").text


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"servings": ["0"]}, "1 to 5,000 servings"),
        ({"servings": ["3.5"]}, "make it 3 or 4"),
        ({"servings": ["50000"]}, "50,000 were asked for"),
        ({"servings": ["many"]}, "is no size"),
        ({"servings": ["12 heads of lettuce"]}, "there is no"),
        ({"servings": ["1 g"]}, "less than one serving"),
        ({"at": "2020-01-01T12:00"}, "is over"),
        ({"at": ""}, "no date and time"),
        ({"dish": [""]}, "choose 1 to 12 dishes"),
        ({"dish": ["999.1"]}, "choose a dish from the list"),
        ({"beside": "2 handfuls of moon rock"}, "is not understood"),
        ({"servings": ["40 of 9000 g"]}, "a serving weighs"),
        ({"zone": "Atlantis"}, "no time zone"),
        ({"cooks": "0"}, "cooks: a whole number from 1 to 20"),
        ({"blender_ml": "0", "dish": ["2.1"]}, "needs a blender"),
        ({"ovens": "0", "dish": ["2.1"]}, "needs an oven, and there is none"),
    ],
)
def test_a_service_that_cannot_be_is_not_kept(
    client: TestClient, changed: dict[str, object], said: str
) -> None:
    sent = {**ASKED, "dish": ["4.2"], "servings": ["40"], **changed}
    answer = client.post(f"/recipes/{SALAD}/services", data=sent)
    assert answer.status_code == 422
    assert said.lower() in unescape(answer.text).lower()
    assert (
        "Lunch for forty"
        not in client.get(f"/recipes/{SALAD}/services").text.split('id="services-title"')[1]
    )


def test_more_dishes_than_hours_is_named(client: TestClient) -> None:
    """Kept all the same: it can be changed; the page says what stands in the way."""
    dishes = ("2.1", "5.1", "10.1", "7.1", "3.1", "13.1")
    number = planned(client, dishes, cooks="1", servings=["400"] * 6)  # type: ignore[arg-type]
    shown = unescape(client.get(f"/services/{number}").text)
    assert "No order of work." in shown
    assert client.get(f"/services/{number}/amounts").status_code == 200


def test_a_service_is_changed_and_its_ticks_are_forgotten(client: TestClient) -> None:
    number = planned(client)
    client.post(f"/services/{number}/done/0")
    form = unescape(client.get(f"/recipes/{SALAD}/services?change={number}").text)
    assert 'value="Lunch for forty"' in form
    assert f'name="service_id" value="{number}"' in form
    changed = {
        **ASKED,
        "dish": ["4.2"],
        "servings": ["24"],
        "cooks": "1",
        "service_id": str(number),
    }
    client.post(f"/recipes/{SALAD}/services", data=changed)
    shown = client.get(f"/services/{number}").text
    assert re.search(r"24 <a [^>]*>lentil and fennel salad", shown)
    assert "is-done" not in shown
    refused = client.post(f"/recipes/{SALAD}/services", data={**changed, "cooks": "0"})
    assert refused.status_code == 422
    assert f'name="service_id" value="{number}"' in refused.text
    assert re.search(r"24 <a [^>]*>lentil and fennel salad", client.get(f"/services/{number}").text)


def test_the_same_in_a_week(client: TestClient) -> None:
    number = planned(client)
    client.post(f"/services/{number}/copy")
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        first, later = service(connection, number), service(connection, number + 1)
    apart = datetime.fromisoformat(later.eaten_at) - datetime.fromisoformat(first.eaten_at)
    assert apart == timedelta(days=7)
    assert later.dishes == first.dishes
    assert later.done == {}


def test_a_service_by_keyboard(page: Page) -> None:
    page.goto(f"/recipes/{SALAD}/services")
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_label("Called").fill("Workshop")
    page.get_by_label("Servings of Lentil").fill("zero")
    page.get_by_role("button", name="Plan it").press("Enter")
    expect(page.locator(".notice")).to_contain_text("is no size")
    expect(page.get_by_label("Called")).to_have_value("Workshop")
    page.get_by_label("Servings of Lentil").fill("24")
    page.get_by_role("button", name="Plan it").press("Enter")
    expect(page.get_by_role("heading", name="Workshop")).to_be_visible()
    page.set_viewport_size({"width": 820, "height": 1180})
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.get_by_role("button", name="Done:").first.press("Enter")
    expect(page.locator(".is-done")).to_have_count(1)
    for tab in ("Amounts", "Shopping", "Labels", "Record"):
        page.get_by_role("link", name=tab).press("Enter")
        expect(page.get_by_role("link", name=tab)).to_have_attribute("aria-current", "page")
        assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()


def minutes_of(client: TestClient, number: int, words: str) -> tuple[str, str, str]:
    """The id of the step with these words, and what stands in its fields of minutes."""
    steps = re.findall(r"<li\b(?:(?!<li\b|</li>).)*", client.get(f"/services/{number}").text, re.S)
    step = next(one for one in steps if words in one and "/minutes/" in one)
    found = re.search(
        r'/minutes/(\d+)".*?name="active"[^>]*value="(\d+)".*?name="waiting"[^>]*value="(\d+)"',
        step,
        re.S,
    )
    assert found is not None
    return found[1], found[2], found[3]


def test_minutes_are_set_in_place_and_what_was_timed_is_remembered(client: TestClient) -> None:
    number = planned(client, ("4.2",))
    task, active, _ = minutes_of(client, number, "Boil the lentils")
    client.post(f"/services/{number}/minutes/{task}", data={"active": "9", "waiting": "41"})
    assert minutes_of(client, number, "Boil the lentils") == (task, "9", "41")
    assert "time set here" in client.get(f"/services/{number}").text
    assert minutes_of(client, planned(client, ("4.2",)), "Boil the lentils")[2] != "41", (
        "set is not timed"
    )
    slice_task, slice_active, _ = minutes_of(client, number, "Slice the fennel")
    for step, sent in (
        (task, {"active": "9", "waiting": "41"}),
        (slice_task, {"active": f"{4 * int(slice_active)}"}),
    ):
        client.post(f"/services/{number}/minutes/{step}", data={**sent, "timed": "true"})
    second = planned(client, ("4.2",))
    _, now_active, now_waiting = minutes_of(client, second, "Boil the lentils")
    assert (now_active, now_waiting) != ("9", "41")
    assert now_waiting == "41"
    slower = int(minutes_of(client, second, "Slice the fennel")[1])
    assert int(slice_active) < slower < 4 * int(slice_active)
    assert "time learned from 1 timed step" in client.get(f"/services/{second}").text
    assert int(active) > 0
    for bad in ({"active": "0"}, {"active": "many"}, {"active": "5", "waiting": "99999"}):
        assert client.post(f"/services/{number}/minutes/{task}", data=bad).status_code == 422
    assert client.post(f"/services/{number}/minutes/9999", data={"active": "5"}).status_code == 422
    assert minutes_of(client, number, "Boil the lentils") == (task, "9", "41")


def test_what_it_comes_with_counts_on_the_plate_and_on_the_list(client: TestClient) -> None:
    number = planned(
        client, ("4.2", "2.1"), beside="40 g pita chips", servings=["30", "20 of 60 g"]
    )  # type: ignore[arg-type]
    amounts = unescape(client.get(f"/services/{number}/amounts").text)
    assert "1.2 kg pita chips" in amounts
    assert "Together" in amounts
    assert re.search(r"carrot and harissa dip</th>\s*<td class=\"num\">60 g", amounts, re.I)
    assert "pita chips" in client.get(f"/services/{number}/buy").text
    paper = words_of(client.get(f"/services/{number}/day.pdf").content)
    assert "What it comes with" in paper
    assert "1.2 kg pita chips" in paper
    assert "Begin with" in paper
    assert "in each, liquid first" in paper
    change = client.get(f"/recipes/{SALAD}/services?change={number}").text
    assert "40 g pita chips</textarea>" in change
    assert 'value="20 of 60 g"' in change


def test_one_list_for_the_week_and_the_same_again_each_week(client: TestClient) -> None:
    number = planned(client, ("4.2",))
    alone = client.get(f"/services/{number}/shopping.csv").text
    assert client.get(f"/services/{number}/shopping.csv?week=true").text == alone
    planned(client, ("2.1",), at=IN_TWO_WEEKS.replace("T12", "T18"), name="Supper")
    week = unescape(client.get(f"/services/{number}/buy?week=true").text)
    assert "For the week: Lunch for forty, Supper." in week
    assert "harissa" in client.get(f"/services/{number}/shopping.csv?week=true").text
    assert "harissa" not in alone
    client.post(f"/services/{number}/copy", data={"weeks": "3"})
    listed = client.get(f"/recipes/{SALAD}/services").text.split('id="services-title"')[1]
    first = datetime.fromisoformat(IN_TWO_WEEKS)
    for week_later in range(4):
        assert f"{first + timedelta(weeks=week_later):%Y-%m-%d}, 12:00" in listed
    assert client.post(f"/services/{number}/copy", data={"weeks": "27"}).status_code == 422


def test_a_batch_is_moved_to_whole_cans(client: TestClient) -> None:
    """The artichoke dip for 37 takes 3.7 cans of beans: 4 of them make 40 servings, or go into
    37."""
    number = planned(client, ("7.1",), servings=["37"])  # type: ignore[arg-type]
    shown = unescape(client.get(f"/services/{number}/amounts").text)
    assert "Cannellini beans: 3.7 cans are needed." in shown
    assert "4: make 40 servings" in shown
    line = re.search(r'name="line" value="(\w+)"', shown)
    assert line is not None
    sent = {"line": line[1], "cans": "4", "move": "line"}
    client.post(f"/services/{number}/wholes/0", data=sent)
    moved = unescape(client.get(f"/services/{number}/amounts").text)
    assert "1.04 kg cannellini beans" in moved
    assert "Cannellini beans: 3.7 cans" not in moved
    assert client.post(f"/services/{number}/wholes/0", data=sent).status_code == 422, (
        "nothing to move any more"
    )


def test_dishes_are_found_by_name(client: TestClient) -> None:
    found = client.get(
        f"/recipes/{SALAD}/services/dishes?q=carrot", headers={"HX-Request": "true"}
    ).text
    assert "Charred carrot" in found
    assert "Lentil" not in found
    row = client.get(f"/recipes/{SALAD}/services/dishes/2", headers={"HX-Request": "true"}).text
    assert 'value="2.1" selected' in row
    assert client.get(f"/recipes/{SALAD}/services/dishes/999").status_code == 404


def days_worked_out(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """How many tasks each day had that is worked out from now on."""
    asked: list[int] = []
    run = service_days.DAYS.run

    def counted(work: object, ask: OrderAsk, **how: object) -> object:
        asked.append(len(ask.tasks))
        return run(work, ask, **how)  # type: ignore[arg-type]

    monkeypatch.setattr(service_days.DAYS, "run", counted)
    return asked


def test_a_day_is_worked_out_once_beside_the_page_and_kept_over_a_restart(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked = days_worked_out(monkeypatch)
    number = planned(client)
    with ThreadPoolExecutor(8) as pool:
        pages = list(pool.map(lambda _: client.get(f"/services/{number}").text, range(8)))
    assert len(asked) == 1, "eight people who look at one day wait for one day"
    assert all("The order of work" in page for page in pages)
    app = client.app
    again = create_app(app.state.workbench.database)  # type: ignore[attr-defined]
    other = PageReader(again)
    assert [
        other.get(f"/services/{number}{tail}").status_code for tail in ("", "/day.pdf", "/labels")
    ] == [200] * 3
    assert len(asked) == 1, "what was kept is not worked out after a restart"
    lanes = re.compile(r'<div class="scroll" tabindex="0".*?</svg>', re.S)
    assert lanes.findall(other.get(f"/services/{number}").text) == lanes.findall(pages[0])
    again.state.workbench.close()
    client.post(f"/services/{number}/again", data={"moment": "first"})
    client.get(f"/services/{number}")
    assert len(asked) == 1, "the same day as before"


def test_a_page_does_not_wait_for_the_day_and_says_so(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    number = planned(client)
    held = threading.Event()
    run = service_days.DAYS.run

    def slow(*args: object, **how: object) -> object:
        held.wait(20)
        return run(*args, **how)  # type: ignore[arg-type]

    monkeypatch.setattr(service_days.DAYS, "run", slow)
    monkeypatch.setattr(service_days, "SHORTLY_S", 0.0)
    for tail in ("", "/amounts", "/labels", "/record"):
        assert "The day is being worked out" in client.get(f"/services/{number}{tail}").text
    assert "The day is being worked out" not in client.get(f"/services/{number}/buy").text
    waits = client.get(f"/services/{number}/awaited")
    assert (waits.status_code, "HX-Refresh" in waits.headers) == (204, False)
    monkeypatch.setattr(service_days, "AT_MOST_S", 0.0)
    refused = client.get(f"/services/{number}/day.pdf")
    assert refused.status_code == 503
    assert "still being worked out" in refused.text
    held.set()
    monkeypatch.setattr(service_days, "AT_MOST_S", 50.0)
    assert client.get(f"/services/{number}/day.pdf").status_code == 200
    assert client.get(f"/services/{number}/awaited").headers["HX-Refresh"] == "true"


def test_a_day_that_could_not_be_worked_out_says_so_and_is_tried_again(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    number = planned(client)

    def broken(*_: object, **__: object) -> object:
        raise Overrun("it takes more than 45 seconds")

    with monkeypatch.context() as patched:
        patched.setattr(service_days.DAYS, "run", broken)
        answer = client.get(f"/services/{number}")
        assert answer.status_code == 503
        assert "It takes more than 45 seconds" in answer.text
    assert "The order of work" in client.get(f"/services/{number}").text


def test_what_guests_at_risk_may_not_eat_is_not_planned_for_them_and_is_said_of_what_was(
    client: TestClient,
) -> None:
    text = "Yolk dressing\nServes 4\n2 egg yolks\n1 cup olive oil\n2 tbsp vinegar\n"
    shown = page_form(client.post("/read-in", data={"text": text}).text)
    recipe = client.post("/read-in/keep", data=shown, follow_redirects=False).headers["location"]
    asked = {
        **ASKED,
        "dish": [recipe.rsplit("/", 1)[1] + ".1"],
        "servings": ["12"],
        "at_risk": "true",
    }
    refused = client.post(f"{recipe}/services", data=asked)
    assert refused.status_code == 422
    assert "not served to guests at risk" in refused.text
    assert "with pasteurized egg" in refused.text
    planned = client.post(
        f"{recipe}/services", data={**asked, "at_risk": "false"}, follow_redirects=False
    )
    assert planned.status_code == 303, planned.text
    with client.app.state.workbench.store() as connection:  # type: ignore[attr-defined]
        connection.execute("UPDATE service SET at_risk = 1")
    kept = planned.headers["location"]
    for page in ("", "/amounts", "/record"):
        assert "not served to guests at risk" in client.get(kept + page).text, page
    copied = client.post(f"{kept}/copy", data={"weeks": "1"}, follow_redirects=False)
    assert "not served to guests at risk" in client.get(copied.headers["location"]).text
