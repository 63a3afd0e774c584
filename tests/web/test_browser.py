"""The real interface in Chromium: one journey from paste to card, keys alone, and accessibility of
every view."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.web.app import create_app
from tests.web.conftest import served

pytestmark = pytest.mark.browser

PASTED = """Smoky chickpea spread
Serves 8
## Base
2 (15 oz) cans chickpeas, drained
1/3 cup tahini
3 Tbsp extra-virgin olive oil
juice of 2 lemons
3 cloves garlic
1 tsp smoked paprika
1/4 tsp salt
2-4 Tbsp water, to thin
## Top
a handful of parsley, chopped
1 Tbsp toasted sesame seeds
"""


def number(text: str | None) -> float:
    found = re.search(r"[\d,.]+", text or "")
    assert found, text
    return float(found[0].replace(",", ""))


def read_in(page: Page, text: str) -> None:
    page.goto("/read-in")
    page.get_by_label("Recipe", exact=True).fill(text)
    page.get_by_role("button", name="Read it").click()


def test_paste_see_swap_keep_compare_print(
    page: Page, reader: Reader, knowledge: Knowledge
) -> None:
    read_in(page, PASTED)
    expect(page.get_by_role("heading", name="What was understood")).to_be_visible()
    expect(page.locator(".read-row.problem")).to_have_count(0)
    with page.expect_response("**/read-in/again"):
        page.get_by_label("Targets").select_option(label="Night-shift dip, 60 g")
    expect(page.get_by_label("Targets").locator("option:checked")).to_have_text(
        "Night-shift dip, 60 g"
    )
    page.get_by_role("button", name="To the Counter").click()

    # figures within 3% of a sum over the same rows and grams
    appraisal = appraise(read_recipe(PASTED, reader).recipe, knowledge)
    for name, nutrient in (
        ("Calories", "energy_kcal"),
        ("Sodium", "sodium_mg"),
        ("Protein", "protein_g"),
    ):
        shown = number(page.locator(".rung", has_text=name).locator(".rung-value").text_content())
        by_hand = (
            sum(
                p.counted.value / 100 * (p.food.per_100_g[nutrient] or 0)
                for p in appraisal.portions
                if p.food
            )
            / 8
        )
        assert shown == pytest.approx(by_hand, rel=0.03)

    # the sodium lens names the culprit
    page.wait_for_load_state()
    page.locator("h1").click()
    page.keyboard.press("2")
    expect(page.locator(".line.leads .what")).to_contain_text("Chickpeas")

    # the swap moves rungs and tilt without a page load
    page.evaluate("window.sameDocument = true")
    before = number(page.locator(".rung", has_text="Sodium").locator(".rung-value").text_content())
    page.locator(".line.leads [data-swaps]").click()
    page.locator(".swap", has_text="no-salt-added kind").get_by_role("button", name="Take").click()
    expect(page.locator("#drawer")).to_be_hidden()
    expect(page.get_by_role("heading", name="Smoky chickpea spread")).to_be_visible()
    after = number(page.locator(".rung", has_text="Sodium").locator(".rung-value").text_content())
    assert after < 0.85 * before, "half of the beans, so that it stays this dish"
    expect(page.locator(".stem", has_text="salt").locator(".stem-step")).to_contain_text("less")
    assert page.evaluate("window.sameDocument") is True

    # every figure opens to row, source and grade
    page.locator(".rung", has_text="Sodium").click()
    expect(page.locator("#drawer")).to_contain_text("SR Legacy: Salt, table")
    expect(page.locator("#drawer")).to_contain_text("grade C, estimate")
    page.keyboard.press("Escape")
    expect(page.locator("#drawer")).to_be_hidden()

    # kept, compared, printed on one page
    page.locator("summary", has_text="Keep this version").click()
    page.get_by_label("Its name").fill("no-salt chickpeas")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("heading", name="Side by side")).to_be_visible()
    expect(page.locator("tr", has=page.locator(".cell-new"))).to_contain_text("hickpeas")
    page.get_by_role("link", name="Card").last.click()
    expect(page.locator(".contains")).to_contain_text("sesame")
    pdf = page.pdf(format="A4", prefer_css_page_size=True)
    assert len(re.findall(rb"/Type\s*/Page[^s]", pdf)) == 1


def test_by_keyboard_alone(page: Page) -> None:
    page.goto("/recipes/2")
    page.locator("#amount-l8").focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator("#amount-l8")).to_have_value("½ tsp")
    expect(page.locator("#amount-l8")).to_be_focused()
    page.keyboard.press("ArrowDown")
    expect(page.locator("#amount-l8")).to_have_value("¼ tsp")
    page.locator("#amount-l8").select_text()
    page.keyboard.type("2 grams")
    page.keyboard.press("Enter")
    expect(page.locator("[data-line=l8] .grams")).to_have_text("2.0 g")
    sent: list[str] = []
    page.on("request", lambda r: sent.append(r.url) if r.method == "POST" else None)
    page.keyboard.press("Tab")
    page.locator("#amount-l8").focus()
    assert sent == [], "leaving a field that was taken with Enter is no second edit"
    page.locator("#amount-l8").fill("two handfulls of nothing")
    page.keyboard.press("Enter")
    expect(page.locator("#counter .notice")).to_contain_text("Nothing was changed")
    page.locator("[data-line=l8] [data-swaps]").focus()
    page.keyboard.press("s")
    expect(page.locator("#drawer .swap").first).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("[data-line=l8] [data-swaps]")).to_be_focused()
    page.keyboard.press("u")
    expect(page.locator("#amount-l8")).to_have_value("¼ tsp")
    page.reload()
    page.keyboard.press("u")
    expect(page.locator("#amount-l8")).to_have_value("½ tsp")
    page.keyboard.press("n")
    page.keyboard.type("1 tbsp lemon juice")
    page.keyboard.press("Enter")
    expect(page.locator(".lines")).to_contain_text("Lemon juice")
    page.locator("h1").click()
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    page.keyboard.type("rocket")
    expect(page.locator("#found")).to_contain_text("Arugula")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Arugula")).to_be_visible()


def test_two_tabs_do_not_overwrite_each_other(page: Page) -> None:
    page.goto("/recipes/3")
    other = page.context.new_page()
    other.goto(page.url)
    page.locator("#amount-l8").fill("1/4 tsp")
    page.keyboard.press("Enter")
    expect(page.locator("#amount-l8")).to_have_value("¼ tsp")
    other.locator("#amount-l8").fill("2 tsp")
    other.keyboard.press("Enter")
    expect(other.locator(".merging")).to_contain_text("was changed in both")
    assert Axe().run(other).violations_count == 0, Axe().run(other).generate_report()
    expect(other.locator("#amount-l8")).to_have_value("¼ tsp")
    other.get_by_label("yours:").check()
    other.get_by_role("button", name="Put both together as chosen").click()
    expect(other.locator("#amount-l8")).to_have_value("2 tsp")
    # another line in the first tab, which is now the late one: put together unasked
    page.locator("#amount-l1").fill("1 cup")
    page.keyboard.press("Enter")
    expect(page.locator("#amount-l1")).to_have_value("1 cup")
    expect(page.locator("#amount-l8")).to_have_value("2 tsp")


def test_lines_are_opened_moved_by_keys_and_dragged(page: Page) -> None:
    page.goto("/recipes/11")

    def order() -> list[str]:
        return [line.get_attribute("data-line") or "" for line in page.locator("[data-line]").all()]

    before = order()
    page.locator(f"#amount-{before[1]}").focus()
    page.keyboard.press("Alt+ArrowUp")
    expect(page.locator("[data-line]").first).to_have_attribute("data-line", before[1])
    expect(page.locator(f"#amount-{before[1]}")).to_be_focused()
    page.locator(f"#name-{before[1]}").focus()
    page.keyboard.press("e")
    expect(page.locator(f"[data-panel={before[1]}]")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.locator(f"#eaten-{before[1]}").fill("50")
    page.keyboard.press("Enter")
    expect(page.locator(f"[data-line={before[1]}]")).to_contain_text("50% eaten")
    page.locator(f"#name-{before[1]}").click()
    expect(page.locator(f"[data-panel={before[1]}]")).to_have_count(0)
    grip, below = (
        page.locator(f"[data-line={before[0]}] [data-grip]"),
        page.locator(f"[data-line={before[3]}]"),
    )
    start, end = grip.bounding_box(), below.bounding_box()
    assert start
    assert end
    page.mouse.move(start["x"] + 5, start["y"] + 10)
    page.mouse.down()
    page.mouse.move(start["x"] + 5, start["y"] + 40, steps=4)
    page.mouse.move(start["x"] + 5, end["y"] + end["height"] - 6, steps=8)
    with page.expect_response("**/place"):
        page.mouse.up()
    expect(page.locator("[data-line]").nth(3)).to_have_attribute("data-line", before[0])
    page.reload()
    assert order() == [before[1], before[2], before[3], before[0], *before[4:]]


def test_a_newcomer_is_led_through_the_sample(page: Page, tmp_path: Path) -> None:
    """The first tour on an empty practice, by keys and taps, from welcome to the printed card."""
    with served(create_app(tmp_path / "empty.db")) as address:
        page.goto(address)
        expect(
            page.get_by_role("heading", name="Adapt your first recipe in three minutes")
        ).to_be_visible()
        assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
        page.get_by_role("button", name="Begin with the sample").click()
        expect(page.locator(".tour")).to_contain_text("1 of 10")
        page.wait_for_load_state()
        page.wait_for_load_state()  # keys are heard once the scripts are there
        page.keyboard.press("2")
        expect(page.locator(".tour")).to_contain_text("2 of 10")
        assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
        page.locator(".line.leads [data-swaps]").click()
        page.locator(".swap").first.get_by_role("button", name="Take").click()
        expect(page.locator(".tour")).to_contain_text("3 of 10")
        page.locator("#amount-l2").focus()
        page.keyboard.press("ArrowDown")
        expect(page.locator(".tour")).to_contain_text("4 of 10")
        page.locator("h1").click()
        page.keyboard.press("k")
        page.keyboard.type("milder")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Side by side")).to_be_visible()
        for place in ("Plans", "Bench", "Tasting", "Service", "Card"):
            page.get_by_role("button", name="Next step").click()
            expect(page.get_by_role("heading", level=1, name=place, exact=True)).to_be_visible()
            assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
        expect(page.locator(".card-sheet")).to_be_visible()
        page.get_by_role("button", name="End the tour").click()
        expect(page.locator(".tour")).to_have_count(0)
        page.goto(address)
        expect(page.locator(".shelf-card")).to_have_count(1)


def test_the_shelf_is_sifted_as_one_types_and_back_goes_back(page: Page) -> None:
    page.goto("/")
    expect(page.locator(".shelf-card")).not_to_have_count(1)
    page.get_by_label("Name or ingredient").fill("fennel")
    expect(page.locator(".shelf-card")).to_have_count(1)
    page.get_by_role("link", name="Lentil and fennel salad").click()
    expect(page.locator("#counter")).to_be_visible()
    page.go_back()
    expect(page.locator(".shelf-card")).to_have_count(1)
    page.get_by_label("Name or ingredient").fill("")
    page.locator("summary", has_text="Free from").click()
    page.get_by_label("milk", exact=True).check()
    expect(page.locator(".found-count")).to_contain_text("free from milk")
    page.keyboard.press("Escape")
    expect(page.locator("summary", has_text="Free from")).to_be_focused()


def test_a_slow_press_on_a_link_follows_it_though_the_list_is_made_anew_under_it(
    page: Page,
) -> None:
    page.goto("/")
    page.get_by_label("Name or ingredient").fill("fennel")
    expect(page.locator(".shelf-card")).to_have_count(1)
    page.get_by_label("Name or ingredient").press_sequentially(" ")
    page.get_by_role("link", name="Lentil and fennel salad").hover()
    page.mouse.down()
    page.wait_for_timeout(700)
    page.mouse.up()
    expect(page.locator("#counter")).to_be_visible()


def test_a_line_that_is_not_understood_is_mended_on_screen(page: Page) -> None:
    read_in(page, "Odd dip\nServes 4\n1 cup tahini\n2 tbsp wumpus juise\n")
    expect(page.locator(".read-row.problem")).to_have_count(1)
    page.wait_for_load_state()
    page.locator(".read-row.problem textarea").fill("2 tbsp lemon juise")
    page.keyboard.press("Tab")
    expect(page.locator(".read-row.problem")).to_have_count(0)
    page.get_by_role("button", name="To the Counter").click()
    expect(page.locator(".lines")).to_contain_text("Lemon juice")


VIEWS = {
    "shelf": "/",
    "read-in": "/read-in",
    "counter": "/recipes/2",
    "beside": "/recipes/4/compare?a=1&b=2",
    "card": "/recipes/4/card",
    "stores": "/foods?q=beans",
    "food": "/foods/tahini",
    "own-food": "/foods/new?like=feta",
    "targets": "/targets",
    "target": "/targets?edit=1",
    "settings": "/settings",
    "beside-three": "/compare?x=4.1&x=4.2&x=5.draft",
    "beside-none": "/compare",
    "taste": "/taste",
    "eaters": "/eaters",
    "plans": "/recipes/2/plans",
    "plan-many": "/plan-many",
    "compose": "/compose?sample=1",
    "bench": "/recipes/9/bench",
    "tastings": "/recipes/4/tastings",
    "variants": "/recipes/7/variants",
    "ratio": "/recipes/7/ratio?first=l1&second=l2",
    "ratio-wrong": "/recipes/7/ratio?first=l1&second=l1",
    "problem": "/recipes/999",
    "people": "/people",
    "log": "/log",
    "copies": "/copies",
    "service": "/services/1",
    "amounts": "/services/1/amounts",
    "shopping": "/services/1/buy",
    "labels": "/services/1/labels",
    "record": "/services/1/record",
    "service-new": "/recipes/4/services",
    "tasting": "/tastings/1",
    "class": "/recipes/4/class",
    "wall": "/recipes/4/class/wall",
    "practice": "/practice",
    "pour": "/practice-pour",
    "first": "/first",
    "sign-in": "/sign-in",
}


@pytest.mark.parametrize("view", VIEWS)
def test_every_view_is_accessible_and_fits(view: str, page: Page) -> None:
    page.goto(VIEWS[view])
    results = Axe().run(page)
    assert results.violations_count == 0, results.generate_report()
    for width in (1280, 820, 640, 410):  # half as wide is what zooming to 200% makes of it
        page.set_viewport_size({"width": width, "height": 800})
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), (
            f"cut off at {width}"
        )


def test_the_dark_kitchen_is_chosen_stays_and_is_legible(page: Page) -> None:
    page.goto("/settings")
    page.get_by_label("dark kitchen").check()
    page.get_by_role("button", name="Light it so").click()
    expect(page.locator("html")).to_have_attribute("data-look", "dark")
    for view in ("shelf", "counter", "beside", "plans", "target"):
        page.goto(VIEWS[view])
        assert page.evaluate("getComputedStyle(document.body).backgroundColor") == "rgb(13, 20, 36)"
        results = Axe().run(page)
        assert results.violations_count == 0, results.generate_report()


def test_the_states_of_the_counter_are_accessible(page: Page) -> None:
    page.goto("/recipes/2")
    page.locator("[data-line=l3] [data-swaps]").click()
    expect(page.locator(".swap").first).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    for pick in range(2):
        page.locator("#drawer input[name=pick]").nth(pick).check()
    page.get_by_role("button", name="Compare the ticked").click()
    expect(page.locator("table.compare")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.locator("[data-close]").click()
    page.keyboard.press("f")
    expect(page.locator("#drawer .swap").first).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.locator("[data-close]").click()
    page.keyboard.press("v")
    expect(page.locator("#drawer .version").first).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.locator("[data-close]").click()
    page.keyboard.press("t")
    expect(page.locator("#set-profile")).to_be_focused()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.keyboard.press("Escape")
    page.locator(".twin summary").click()
    page.locator(".stem").first.click()
    expect(page.locator("#drawer .account")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()
    page.goto("/read-in")
    page.get_by_label("Recipe", exact=True).fill(PASTED + "3 frobs of wumpus\n")
    page.get_by_role("button", name="Read it").click()
    expect(page.locator(".read-row.problem")).to_be_visible()
    assert Axe().run(page).violations_count == 0, Axe().run(page).generate_report()


TRANSFERRED = "performance.getEntries().reduce((sum, entry) => sum + (entry.transferSize || 0), 0)"


def test_pages_are_light(page: Page) -> None:
    page.goto("/recipes/2")
    page.wait_for_load_state("networkidle")
    assert 10_000 < page.evaluate(TRANSFERRED) < 300_000
    page.goto("/recipes/3")
    page.wait_for_load_state("networkidle")
    assert page.evaluate(TRANSFERRED) < 40_000
