"""A working week in the real interface, from an empty practice: keys alone, with slips of the pen,
the back button, two tabs, a tablet's width, and a server that is killed twice."""

from __future__ import annotations

import re
import socket
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, Locator, Page, expect

from fresh_ladle.devices.stand_in import LineServer, StandInScale

pytestmark = [pytest.mark.slow, pytest.mark.browser]

LAPTOP, TABLET = {"width": 1280, "height": 800}, {"width": 820, "height": 1180}
SEARCH_MS = 90_000
COPIED = """Home | Recipes | About | Newsletter

Jump to recipe. Every summer we make this one, and friends always ask. Read more...

Warm bean & potato salad with caper dressing

Prep time: 20 mins. Cook time: 25 mins. Serves 6

Ingredients
For the salad
1 1/2 lbs baby potatoes, halved
2 (15 oz) cans cannellini beans, drained and rinsed
1 small red onion, thinly sliced
2 celery stalks, sliced
a big handfull of parsly, chopped
2 tbsp wumpus
For the dressing
1/2 cup extra virgin olive oil
1/4 cup red wine vinegar
2 Tbsp capers, drained
1 Tbsp Dijon mustard
2 cloves garlic, minced
1 tsp kosher salt, or to taste
freshly ground black pepper
Instructions
Boil the potatoes in salted water until tender, about 15 minutes. Drain.
Whisk the oil, vinegar, mustard, garlic and salt until thick; stir in the capers.
Toss the warm potatoes and beans with the onion, celery and the dressing. Let stand 10 minutes.
Fold in the parsley and serve.
Did you make this? Leave a comment! 4.8 from 212 votes
"""
OTHERS = (
    (
        "Carrot and cumin dip\nServes 10\n2 lb carrots, roasted\n1/4 cup tahini\njuice of 1"
        " lemon\n2 Tbsp olive oil\n1 tsp cumin\n3/4 tsp salt\nMethod\nRoast the carrots at 425 F"
        " for 30 minutes.\nBlend everything until smooth.\n"
    ),
    (
        "Cabbage and apple slaw\nServes 8\n1/2 head green cabbage, shredded\n2 apples, grated\n1/3"
        " cup plain yogurt\n2 Tbsp cider vinegar\n1 tsp honey\n1/2 tsp salt\nMethod\nShred the"
        " cabbage and grate the apples.\nToss with the rest.\n"
    ),
)


class Workplace:
    """A workbench in a process of its own that can be killed and started again where it was."""

    def __init__(self, database: Path) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = str(probe.getsockname()[1])
        self.address = f"http://127.0.0.1:{port}"
        self._started = [
            sys.executable,
            "-m",
            "fresh_ladle.cli",
            "serve",
            "--port",
            port,
            "--database",
            str(database),
        ]
        self.start()

    def start(self) -> None:
        self._process = subprocess.Popen(
            self._started, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
        )
        assert self._process.stdout is not None
        while "is at" not in self._process.stdout.readline():
            assert self._process.poll() is None, "the server did not start"

    def kill(self) -> None:
        self._process.kill()
        self._process.wait()


@pytest.fixture
def workplace(tmp_path: Path) -> Iterator[Workplace]:
    found = Workplace(tmp_path / "week.db")
    yield found
    found.kill()


class Cook:
    """Somebody who works by keys alone. Pages that come by themselves in `test_browser` are only
    seen to fit here; the states of a week's work are looked at by the accessibility checker."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def opens(self, path: str) -> None:
        self.page.goto(path)
        self.fits()

    def looks(self) -> None:
        self.fits()
        found = Axe().run(self.page)
        assert found.violations_count == 0, found.generate_report()

    def fits(self) -> None:
        self.page.wait_for_load_state()
        fits = "document.documentElement.scrollWidth <= window.innerWidth"
        assert self.page.evaluate(fits), f"cut off: {self.page.url}"

    def presses(
        self, name: str | re.Pattern[str], role: str = "button", last: bool = False
    ) -> None:
        found = self.page.get_by_role(role, name=name, exact=isinstance(name, str))  # type: ignore[arg-type]
        self._enter(found.last if last else found.first)

    def goes_to(self, name: str | re.Pattern[str], role: str = "link") -> None:
        """By a link, or a button that leads to another page."""
        with self.page.expect_navigation():
            self.presses(name, role)
        self.fits()

    def _enter(self, there: Locator) -> None:
        there.focus()
        expect(there).to_be_focused()
        self.page.keyboard.press("Enter")

    def types(self, label: str, words: str, exact: bool = False) -> None:
        field = self.page.get_by_label(label, exact=exact).first
        field.focus()
        field.press("Control+a")
        self.page.keyboard.insert_text(words)

    def chooses(self, field: str, choice: str) -> None:
        self.page.locator(f"select[name={field}]").first.select_option(label=choice)

    def keeps(self, name: str) -> None:
        self.page.locator("#main").focus()
        self.page.keyboard.press("k")
        expect(self.page.locator("#keep-name")).to_be_focused()
        self.page.keyboard.type(name)
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", name="Side by side")).to_be_visible()

    def reads_in(self, text: str) -> None:
        self.opens("/read-in")
        self.types("Recipe", text, exact=True)
        self.goes_to("Read it", "button")
        expect(self.page.locator(".read-row.problem")).to_have_count(0)
        self.goes_to("To the Counter", "button")

    def says(self, words: str) -> None:
        expect(self.page.locator("main")).to_contain_text(words)

    def has_done(self, *steps: str) -> None:
        for step in steps:
            expect(self.page.locator(".so-far")).to_contain_text(step)


@pytest.fixture
def cook(workplace: Workplace, chromium: Browser) -> Iterator[Cook]:
    context = chromium.new_context(
        viewport=LAPTOP, base_url=workplace.address, reduced_motion="reduce"
    )  # type: ignore[arg-type]
    page = context.new_page()
    page.on("dialog", lambda dialog: dialog.accept())
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    yield Cook(page)
    context.close()
    assert errors == []


def monday(cook: Cook, workplace: Workplace) -> None:
    """A recipe from a web page, targets, questions, plans under two schools, one in stages; a kill
    in the middle."""
    page = cook.page
    cook.opens("/")
    cook.goes_to("Paste a recipe of my own")
    cook.types("Recipe", COPIED, exact=True)
    cook.goes_to("Read it", "button")
    expect(page.locator("#title")).to_have_value("Warm bean & potato salad with caper dressing")
    expect(page.locator("#servings")).to_have_value("6")
    expect(page.locator("#group-rest")).to_contain_text("what is no part of the recipe")
    expect(page.locator(".read-row.problem")).to_have_count(1)
    cook.looks()
    page.locator(".read-row.problem textarea").focus()
    page.keyboard.press("Control+a")
    page.keyboard.insert_text("2 tbsp pumkin seeds")
    page.keyboard.press("Tab")
    expect(page.locator(".read-row.problem")).to_have_count(0)
    cook.goes_to("To the Counter", "button")
    expect(page.locator(".lines")).to_contain_text("Parsley")
    expect(page.locator(".to-do")).to_contain_text("question")
    for _ in range(8):
        if not page.locator("form.question").count():
            break
        before = page.locator("#counter").get_attribute("data-revision") or ""
        answer = page.locator("form.question .answers button").first
        answer.focus()
        page.keyboard.press("Enter")
        expect(page.locator("#counter")).not_to_have_attribute("data-revision", before)
    cook.has_done("answered")
    cook.presses("next: set targets", "link")
    expect(page.get_by_role("link", name="set some")).to_be_focused()
    with page.expect_navigation():
        page.keyboard.press("Enter")
    cook.looks()
    cook.goes_to(re.compile("^begin from it.*Side"))
    cook.types("Name, or a client", "Side salad")
    cook.goes_to(re.compile("^Save the profile for Warm bean"), "button")
    expect(page.locator(".rung", has_text="Sodium")).to_contain_text("over")
    cook.has_done("targets set")
    cook.presses("Plans", "link")
    expect(page.locator("#plans")).to_contain_text("In stages", timeout=SEARCH_MS)
    expect(page.locator("#plans:not([hx-get])")).to_be_visible(timeout=SEARCH_MS)
    cook.looks()
    cook.presses(re.compile("^Stage 1"))
    expect(page.locator("#plan-title")).to_contain_text("Stage 1")
    cook.presses("Set aside for review")
    expect(page.locator("#plan-kept")).not_to_be_empty()
    page.locator(".asking summary", has_text="What stays").press("Enter")
    cook.chooses("school", "lean dairy")
    cook.presses("Look for plans")
    expect(page.locator("#plans:not([hx-get])")).to_be_visible(timeout=SEARCH_MS)
    cook.looks()
    cook.presses("Set aside for review")
    expect(page.locator("#plan-kept")).not_to_be_empty()
    workplace.kill()
    workplace.start()
    page.goto("/recipes/1/plans")
    cook.presses("Stop")
    cook.goes_to(re.compile("Stage 1"))
    cook.goes_to(re.compile("^Take"), "button")
    expect(page.locator("#counter")).to_contain_text("draft, from")
    cook.has_done("adapted")
    cook.keeps("first stage")
    cook.looks()


def tuesday(cook: Cook, workplace: Workplace) -> None:
    """Seasoned at the bench on a tablet with the scale, which is pulled out; thinned to pour; two
    tabs."""
    page, scale = cook.page, StandInScale()
    lines = LineServer(scale)
    page.set_viewport_size(TABLET)  # type: ignore[arg-type]
    cook.opens("/settings")
    cook.types("Scale at the bench", f"127.0.0.1:{lines.port}")
    cook.goes_to("Save", "button")
    cook.opens("/recipes/1")
    cook.goes_to("Bench")
    cook.goes_to("All that is measured is in", "button")
    held = scale.things["salt"].holds_g
    scale.put("salt")
    cook.presses("Weigh before")
    expect(page.locator("#weigh-before")).to_contain_text("Settled")
    scale.use("salt")
    cook.presses("Weigh after")
    expect(page.locator("#weigh-after")).to_contain_text("Settled")
    page.locator(".weigh form button.primary").first.press("Enter")
    expect(page.locator(".bench-log li")).to_have_count(1)
    assert held > scale.things["salt"].holds_g
    scale.plugged = False
    cook.presses("Weigh before")
    expect(page.locator("#weigh-before")).to_contain_text("type the weight")
    for said, lines_now in (
        ("another squeeze of lemmon", 2),
        ("1 wumpus", 0),
        ("2 Tbsp watter", 3),
    ):
        page.locator("#goes-in").focus()
        page.keyboard.press("Control+a")
        page.keyboard.insert_text(said)
        page.keyboard.press("Enter")
        if lines_now:
            expect(page.locator(".bench-log li")).to_have_count(lines_now)
        else:
            expect(page.locator(".notice")).to_contain_text("Nothing went in")
    other = page.context.new_page()
    other.goto(page.url)
    expect(other.locator(".bench-log li")).to_have_count(3)
    other.close()
    cook.presses("flat")
    expect(page.locator("#what-next li").first).to_be_visible()
    expect(page.locator("#thickness")).to_have_count(0)
    workplace.kill()
    workplace.start()
    page.reload()
    expect(page.locator(".bench-log li")).to_have_count(3)
    cook.looks()
    cook.goes_to("Make this the recipe", "button")
    cook.has_done("seasoned")
    cook.looks()
    cook.keeps("seasoned")
    cook.reads_in(OTHERS[0])
    cook.goes_to("Bench")
    cook.goes_to("All that is measured is in", "button")
    page.locator("#thickness select[name=wanted]").select_option(index=1)
    expect(page.locator(".thick-answer")).to_contain_text("more water")
    lines.stop()
    page.set_viewport_size(LAPTOP)  # type: ignore[arg-type]


def wednesday(cook: Cook, _: Workplace) -> None:
    """A triangle with eighteen, then liking; both by a simulated panel, which teaches nothing."""
    page = cook.page
    cook.opens("/recipes/1")
    cook.goes_to("Tasting")
    page.locator("input[name=question][value=TRIANGLE]").focus()
    page.keyboard.press("Space")
    cook.types("Tasters", "18o")
    cook.presses("Plan it")
    expect(page.locator(".notice")).to_be_visible()
    cook.types("Tasters", "18")
    expect(page.locator("#foretold")).to_contain_text("can really tell")
    cook.goes_to("Plan it", "button")
    cook.goes_to("Open the round", "button")
    seat = page.context.new_page()
    seat.goto(page.url)
    seat.get_by_role("button", name="Taste").press("Enter")
    seat.get_by_role("button", name="I may eat this").press("Enter")
    seat.locator(".ballot-codes button").first.press("Enter")
    expect(seat.locator(".ballot-said")).to_contain_text("Your answer is in")
    assert Axe().run(seat).violations_count == 0
    seat.close()
    cook.goes_to("Simulate a panel", "button")
    cook.goes_to("Close it and read", "button")
    expect(page.locator("#result-title")).to_be_visible()
    cook.says("simulated")
    cook.looks()
    cook.opens("/recipes/1/tastings")
    page.locator("input[name=question][value=LIKING]").focus()
    page.keyboard.press("Space")
    page.locator("input[name=asked]").first.check()
    cook.types("Tasters", "18")
    cook.goes_to("Plan it", "button")
    cook.goes_to("Open the round", "button")
    cook.goes_to("Simulate a panel", "button")
    cook.goes_to("Close it and read", "button")
    cook.says("tasters")
    cook.opens("/eaters")
    cook.says("A made-up panel teaches nothing")
    expect(page.locator(".so-far")).to_have_count(0)


def thursday(cook: Cook, _: Workplace) -> None:
    """Forty servings with two other dishes: the day, amounts, shopping, labels, a cooling
    record."""
    page = cook.page
    cook.reads_in(OTHERS[1])
    cook.opens("/recipes/1")
    cook.goes_to("Service")
    cook.types("Called", "Thursday for forty")
    cook.types("Servings of Warm bean", "forty")
    cook.presses("Plan it")
    expect(page.locator(".notice")).to_contain_text("Nothing was kept")
    expect(page.get_by_label("Called")).to_have_value("Thursday for forty")
    cook.types("Servings of Warm bean", "40")
    for name in ("Carrot and cumin dip", "Cabbage and apple slaw"):
        page.locator("#dish-q").focus()
        page.keyboard.press("Control+a")
        page.keyboard.type(name[:5])
        cook.presses(name)
        cook.types(f"Servings of {name}", "40")
    version = page.get_by_label("Version of Warm bean")
    original = next(
        text for text in version.locator("option").all_inner_texts() if "original" in text
    )
    version.select_option(label=original)
    cook.goes_to("Plan it", "button")
    expect(page.get_by_role("heading", level=1)).to_have_text("Thursday for forty")
    expect(page.locator(".day-tray svg")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Done:")).first.press("Enter")
    expect(page.locator(".is-done")).to_have_count(1)
    cook.goes_to("Amounts")
    cook.goes_to("Shopping")
    cook.says("cannellini")
    cook.goes_to("Labels")
    expect(page.locator(".tub-label")).to_have_count(3)
    with page.expect_download() as sheet:
        cook.presses("Labels as PDF")
    assert Path(sheet.value.path()).read_bytes().startswith(b"%PDF")
    cook.goes_to("Record")
    cook.goes_to("Open it", "button")
    for celsius, said in (("6o", "Nothing was written"), ("60", "60.0 °C"), ("24", "24.0 °C")):
        cook.types("°C", celsius)
        cook.goes_to("Write it down", "button")
        cook.says(said)
    page.go_back()
    page.go_forward()
    cook.goes_to("Close the record", "button")
    cook.says("cannot be closed yet")
    for celsius in ("18", "4.5"):
        cook.types("°C", celsius)
        cook.goes_to("Write it down", "button")
    cook.goes_to("Close the record", "button")
    cook.says("only added to")
    cook.looks()


def friday(cook: Cook, _: Workplace) -> None:
    """The card in two forms, a class of 45 minutes, practice."""
    page = cook.page
    cook.opens("/recipes/1/card")
    expect(page.locator(".card-sheet h1")).to_have_text(
        "Warm bean & potato salad with caper dressing"
    )
    for form in ("Letter", "Index card"):
        link = page.get_by_role("link", name=re.compile(form, re.I)).first
        with page.expect_download() as paper:
            link.press("Enter")
        assert Path(paper.value.path()).read_bytes().startswith(b"%PDF")
    cook.goes_to(re.compile("class", re.I))
    cook.types("Minutes, 20 to 90", "450")
    cook.goes_to("Plan the class", "button")
    expect(page.locator(".notice")).to_be_visible()
    cook.types("Minutes, 20 to 90", "45")
    cook.goes_to("Plan the class", "button")
    expect(page.locator("#run-title")).to_be_visible()
    cook.looks()
    cook.goes_to("A page for the wall")
    cook.opens("/practice")
    for _n in range(3):
        ranged = page.locator("[name=low]")
        if ranged.count():
            ranged.fill("30")
            page.locator("[name=high]").fill("120")
            with page.expect_navigation():
                page.keyboard.press("Enter")
        else:
            choice = page.locator(".practice-ask [type=submit]").first
            with page.expect_navigation():
                choice.press("Enter")
        expect(page.locator(".practice-result")).to_be_visible()
        cook.goes_to("Next")


WEEK = (monday, tuesday, wednesday, thursday, friday)


def test_a_working_week(cook: Cook, workplace: Workplace) -> None:
    for day in WEEK:
        day(cook, workplace)
