"""Draws docs/screenshots from the demo data: one current picture of each main view."""

from __future__ import annotations

import tempfile
import threading
from pathlib import Path

import uvicorn
from playwright.sync_api import Page, sync_playwright

from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo

PORT = 8499
TARGET = Path(__file__).parent.parent / "docs" / "screenshots"
ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
SAMPLE = (
    "Smoky chickpea spread\nServes 8\n2 (15 oz) cans chickpeas, drained\n1/3 cup tahini\njuice of 2"
    " lemons\n1 tsp smoked paprika\nsalt and pepper to taste\n2 tbsp wumpus juise\n"
)


def _swaps(page: Page) -> None:
    page.locator(".line.leads [data-swaps]").click()
    page.wait_for_selector(".swap")


def _work(page: Page) -> None:
    page.keyboard.press("h")
    page.wait_for_selector("#drawer .work-table")


def _read(page: Page) -> None:
    page.fill("#text", SAMPLE)
    page.get_by_role("button", name="Read it").click()
    page.wait_for_selector("#reading")


def _composed(page: Page) -> None:
    page.get_by_role("button", name="Propose").click()
    page.wait_for_selector("#proposals:not([hx-get])", timeout=60_000)


def _plans(page: Page) -> None:
    page.fill("#most-sodium_mg", "280")
    page.get_by_role("button", name="Look for plans").click()
    page.wait_for_selector("#plans:not([hx-get])", timeout=60_000)


def _many(page: Page) -> None:
    page.fill("#many-target", "sodium <= 150")
    page.get_by_role("button", name="Look for them all").click()
    page.wait_for_selector("#many:not([hx-get])", timeout=180_000)


def _day(page: Page) -> None:
    """The order of work is worked out beside the page."""
    page.wait_for_selector(".day-tray", timeout=120_000)


def _merging(page: Page) -> None:
    """The same recipe in two tabs; the second edits a line that the first has changed."""
    other = page.context.new_page()
    other.goto(page.url)
    other.fill("#amount-l8", "1/4 tsp")
    other.keyboard.press("Enter")
    other.wait_for_selector("#amount-l8[value='¼ tsp']")
    other.close()
    page.fill("#amount-l8", "3/4 tsp")
    page.keyboard.press("Enter")
    page.wait_for_selector(".merging")


def _bench(page: Page) -> None:
    """A bowl with something in it, something struck out, and an answer to a taster's word."""
    page.get_by_role("button", name="All that is measured is in").click()
    for said in ("another squeeze of lemon", "1/4 tsp salt", "2 Tbsp water"):
        page.fill("#goes-in", said)
        page.keyboard.press("Enter")
        page.locator(".bench-text b", has_text=said).wait_for()
    page.get_by_role("button", name="Strike out: 2 Tbsp water").click()
    page.locator(".struck").wait_for()
    page.get_by_role("button", name="flat", exact=True).click()
    page.locator("#what-next li").first.wait_for()


def _tasting(page: Page) -> None:
    page.locator(".round-row a").last.click()
    page.locator(".result").wait_for()


def _people(page: Page) -> None:
    """The first owner chooses a password; then three more are added. It comes last: from here on
    everybody signs in."""

    def add(initials: str, role: str) -> None:
        page.get_by_label("Initials").fill(initials)
        page.locator(f"input[name=role][value={role}]").check()
        page.get_by_role("button", name="Add, and make a link").click()

    add("KH", "owner")
    page.goto(page.locator(".door-link").input_value())
    for field in ("Password", "once more"):
        page.get_by_label(field).fill("plum tin ladder 4")
    page.get_by_role("button", name="Take it").click()
    page.goto(f"http://127.0.0.1:{PORT}/people")
    for initials, role in (("MB", "dietitian"), ("TS", "cook"), ("RA", "reader")):
        add(initials, role)


def _practice(page: Page) -> None:
    """Some ranges given, so that it can be said how they hold."""
    for seed in range(12):
        page.goto(f"http://127.0.0.1:{PORT}/practice/weigh/{seed}")
        page.fill("[name=low]", "30")
        page.fill("[name=high]", "120")
        page.keyboard.press("Enter")
        page.wait_for_selector(".practice-result")


VIEWS = {
    "shelf": ("/", None),
    "read-in": ("/read-in", _read),
    "counter": ("/recipes/4", None),
    "counter-swaps": ("/recipes/8", _swaps),
    "counter-method": ("/recipes/8", _work),
    "side-by-side": ("/compare?x=4.1&x=4.2", None),
    "card": ("/recipes/4/card", None),
    "stores-food": ("/foods/feta", None),
    "targets": ("/targets", None),
    "plans": ("/recipes/8/plans", _plans),
    "plans-many": ("/plan-many", _many),
    "service": ("/services/1", _day),
    "first": ("/first", None),
    "counter-merging": ("/recipes/3", _merging),
    "compose": ("/compose?sample=1", _composed),
    "bench": ("/recipes/6/bench", _bench),
    "tasting": ("/recipes/4/tastings", _tasting),
    "practice": ("/practice/weigh/12", _practice),
    "people": ("/people", _people),
}


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Path(folder) / "shots.db")
        with app.state.workbench.store() as connection:
            load_demo(connection, app.state.workbench)
        server = uvicorn.Server(
            uvicorn.Config(app, host="127.0.0.1", port=PORT, log_level="warning")
        )
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGS)
            page = browser.new_context(
                viewport={"width": 1280, "height": 800}, reduced_motion="reduce"
            ).new_page()
            for name, (path, act) in VIEWS.items():
                page.goto(f"http://127.0.0.1:{PORT}{path}")
                if act:
                    act(page)
                page.evaluate("document.fonts.ready")
                page.screenshot(path=TARGET / f"{name}.png")
            browser.close()
        server.should_exit = True
        thread.join()


if __name__ == "__main__":
    main()
