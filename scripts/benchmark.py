"""Speed as ratios measured in one run, so that the machine does not matter. Prints a table; asserts
nothing."""

from __future__ import annotations

import io
import math
import resource
import sqlite3
import statistics
import sys
import tempfile
import time
import tracemalloc
import zipfile
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from contextlib import closing
from dataclasses import replace
from functools import lru_cache
from pathlib import Path

import numpy as np
from fastapi import FastAPI
from fastapi.responses import HTMLResponse
from fastapi.testclient import TestClient
from jinja2 import Template
from scipy.sparse import csr_array

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.flavor.parameters import BY_ID as AXIS
from fresh_ladle.core.flavor.parameters import POTENCY_BASE, SODIUM_SHARE_OF_SALT
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.form import WIDTH, form_figures
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import Search, plans_for
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.data.tables import toml_of
from fresh_ladle.formats.composition import Release
from fresh_ladle.store.database import open_database
from fresh_ladle.store.foods.foods import search_foods
from fresh_ladle.store.foods.imported_foods import import_release
from fresh_ladle.store.foods.own_foods import OwnFood, save_own_food
from fresh_ladle.store.recipes.drafts import create_recipe, draft
from fresh_ladle.store.recipes.shelf import (
    Meeting,
    Order,
    ShelfQuery,
    cards_sql,
    shelf_page,
    shelf_sql,
)
from fresh_ladle.store.recipes.shelf_forms import take_changed_figures
from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo
from fresh_ladle.web.state import Workbench

PLANNED = (3, 4, 7, 8, 9, 11, 12)
"""Demo recipes whose sodium can come down by a quarter."""
MANY_PLANS, BUSY_SECONDS = 15, 8.0
"""Times each of them is planned for in one go, and how long edits go on beside searches."""
QUERIES = (
    "tah",
    "white beans",
    "rocket",
    "low sodium soy",
    "chick",
    "feta",
    "olive oil",
    "lemon j",
    "yog",
    "miso",
)


def seconds(work: Callable[[], object], rounds: int = 30) -> float:
    """Median wall time of one call after a warm-up."""
    work()
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def row(name: str, ours: float, base: float, meant: str) -> None:
    print(f"{name:58} {ours * 1000:9.3f} ms {base * 1000:9.3f} ms {ours / base:7.2f}×   {meant}")


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Path(folder) / "bench.db")
        workbench = app.state.workbench
        with workbench.store() as connection:
            load_demo(connection, workbench)
        print(f"{'what':58} {'ours':>12} {'base':>12} {'ratio':>8}")
        _edit(app, workbench)
        _search(workbench)
        _reading(workbench)
        _importing(Path(folder))
        _plans(workbench)
        _shelf(app, workbench)
        _library(workbench)
        _statements(workbench)
        _painted(workbench.database)
        workbench.close()
        _crowded(workbench.database)


def _plans(workbench: Workbench) -> None:
    """Plans for the demo: time to the first, to all of them, and what building costs against
    solving."""
    first, whole, built = [], [], []
    for number in PLANNED:
        with workbench.store() as connection:
            recipe = draft(connection, number).recipe
        now = workbench.appraise(recipe)
        limit = Target("sodium_mg", Side.AT_MOST, 0.75 * now.totals.serving["sodium_mg"].value)
        start, came = time.perf_counter(), list[float]()
        request = PlanRequest((limit,))
        plans_for(
            now,
            now,
            request,
            workbench.knowledge,
            lambda _, s=start, c=came: c.append(time.perf_counter() - s),
        )
        whole.append(time.perf_counter() - start)
        first += came[:1]
        built.append(
            seconds(lambda n=now, r=request: Search(n, n, r, workbench.knowledge), rounds=3)
        )
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(
        f"{'first plan of a recipe, and all of them (median)':58}"
        f" {statistics.median(first or [math.nan]):9.2f} s  {statistics.median(whole):9.2f} s"
    )
    row(
        "laying out what a plan may do, against looking",
        sum(built),
        sum(whole) - sum(built),
        "within 0.2",
    )
    print(f"{'most memory so far':58} {memory:9.0f} MB")
    start = time.perf_counter()
    with ProcessPoolExecutor() as pool:
        found = sum(pool.map(_one_plan, list(PLANNED) * MANY_PLANS))
    name = f"a plan for each of {len(PLANNED) * MANY_PLANS} recipes, both cores"
    print(f"{name:58} {time.perf_counter() - start:9.1f} s  {found} found")


def _one_plan(number: int) -> bool:
    """The closest plan of one demo recipe, in a process of its own."""
    row_ = toml_of("demo.toml")["recipe"][number - 1]
    knowledge = load_knowledge()
    now = appraise(read_recipe(row_["text"], _reader(), kind=row_["kind"]).recipe, knowledge)
    limit = Target("sodium_mg", Side.AT_MOST, 0.75 * now.totals.serving["sodium_mg"].value)
    return bool(plans_for(now, now, PlanRequest((limit,)), knowledge, only_closest=True)[0])


@lru_cache(maxsize=1)
def _reader() -> Reader:
    return Reader(load_knowledge().pantry, load_knowledge().preparations)


def _statements(workbench: Workbench) -> None:
    """How many statements of cooks the flavor model bears out, against stimuli taken linearly and
    nothing else."""
    sys.path.insert(0, str(Path(__file__).parent.parent))
    from tests.conftest import Kitchen
    from tests.core.statements import GIVEN, LATER, OURS, Statement, holds
    from tests.core.test_pairwise import steps

    kitchen = Kitchen(workbench.knowledge)

    def naive(one: Statement) -> float:
        """Ranks and grams as they stand, Weber steps side by side, no interaction and no
        temperature."""
        amounts = []
        for mix in (one.first, one.second):
            mass, total = sum(mix.values()), 0.0
            for key, grams in mix.items():
                food = workbench.knowledge.pantry[key.removesuffix(", on top")]
                taste = food.taste
                assert taste is not None
                plain = {
                    "salt": (food.per_100_g["sodium_mg"] or 0) / 1000 / SODIUM_SHARE_OF_SALT,
                    "rich": food.per_100_g["fat_g"] or 0,
                    "sour": taste.acid_pct,
                    "sweet": taste.sweet_pct,
                    "savory": taste.glutamate_mg,
                    "bitter": taste.bitter,
                    "hot": taste.heat,
                    "aroma": taste.aroma,
                    "body": taste.body,
                }
                total += plain[one.axis] * grams / mass
            amounts.append(total)
        floor = (
            min(AXIS[one.axis].floor, 0.05) if one.axis in POTENCY_BASE else AXIS[one.axis].floor
        )
        return math.log((amounts[0] + floor) / (amounts[1] + floor)) / math.log(
            1 + AXIS[one.axis].weber_side_by_side
        )

    for name, table in (("given", GIVEN), ("our own", OURS), ("written later", LATER)):
        ours, base = (
            sum(holds(s, steps(kitchen, s)) for s in table),
            sum(holds(s, naive(s)) for s in table),
        )
        print(
            f"{'statements of cooks borne out, ' + name:58} {ours:4} of {len(table)}, taken"
            f" linearly {base}"
        )


def _edit(app: FastAPI, workbench: Workbench) -> None:
    """One amount edited at the Counter against a page of the same size through the same server."""
    client, htmx = TestClient(app), {"HX-Request": "true", "Accept-Encoding": "identity"}
    step = [1]

    def edit() -> str:
        with workbench.store() as connection:
            revision = draft(connection, 1).revision
        step[0] = -step[0]
        return client.post(
            "/recipes/1/lines/l7/nudge", data={"steps": step[0], "revision": revision}, headers=htmx
        ).text

    blank = "x" * len(edit())

    @app.get("/workbench-blank")
    def blank_page() -> HTMLResponse:
        return HTMLResponse(Template("{{ text }}").render(text=blank))

    grams = [20.0]

    def fresh_edit() -> str:
        with workbench.store() as connection:
            revision = draft(connection, 1).revision
        grams[0] += 0.3
        amount = {"amount": f"{grams[0]:.1f} g", "revision": revision}
        return client.post("/recipes/1/lines/l7/amount", data=amount, headers=htmx).text

    empty = seconds(lambda: client.get("/workbench-blank", headers=htmx).text)
    row(
        "one amount edited back and forth, request to HTML, 11 lines",
        seconds(edit),
        empty,
        "within 2",
    )
    row("the same to an amount not seen before", seconds(fresh_edit), empty, "within 5")


PAINTED = """async () => {
  const times = [];
  for (let n = 0; n < 21; n += 1) {
    const field = document.querySelector("#amount-l7");
    const start = performance.now();
    const painted = new Promise((done) => document.addEventListener("htmx:afterSettle", () =>
      requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - start))), { once: true }));
    field.dispatchEvent(new KeyboardEvent("keydown", { key: n % 2 ? "ArrowUp" : "ArrowDown", bubbles: true }));
    times.push(await painted);
    await new Promise((rest) => setTimeout(rest, 100));
  }
  return times.slice(1).sort((a, b) => a - b);
}"""
WEIGHED = (
    "performance.getEntries().reduce((sum, entry) => sum + (entry.transferSize || 0), 0) / 1000"
)


def _painted(database: Path) -> None:
    """From a key pressed in an amount to the next but one frame after all has changed, and what
    pages weigh."""
    sys.path.insert(0, str(Path(__file__).parent.parent))
    from playwright.sync_api import sync_playwright
    from tests.web.conftest import CHROMIUM, CHROMIUM_ARGS, served

    with served(create_app(database)) as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
        page = browser.new_page()
        page.goto(f"{address}/recipes/1", wait_until="networkidle")
        first = page.evaluate(WEIGHED)
        times = page.evaluate(PAINTED)
        page.goto(f"{address}/recipes/2", wait_until="networkidle")
        later = page.evaluate(WEIGHED)
        browser.close()
    name = "an edit painted in Chromium, median and slowest of twenty"
    print(f"{name:58} {statistics.median(times):9.0f} ms {times[-1]:9.0f} ms            within 100")
    print(
        f"{'a first visit, and a page after it':58} {first:9.0f} kB {later:9.0f} kB           "
        " within 300 and 40"
    )


def _search(workbench: Workbench) -> None:
    with workbench.store() as connection:
        bare = (
            "SELECT key FROM food_text WHERE food_text MATCH ? ORDER BY bm25(food_text, 4.0, 1.5)"
            " LIMIT 25"
        )

        def base() -> None:
            for query in QUERIES:
                connection.execute(bare, (" ".join(f'"{w}"*' for w in query.split()),)).fetchall()

        row(
            "food search, ten queries over 4,500 foods",
            seconds(lambda: [search_foods(connection, q) for q in QUERIES]),
            seconds(base),
            "within 3",
        )


SHELF = 10_000
"""Recipes on the shelf that is sifted."""
OWN = "own-house-oil"


def _shelf(app: FastAPI, workbench: Workbench) -> None:
    """Filters over 10,000 recipes, request to HTML, against the bare query of the same filter."""
    with workbench.store() as connection:
        save_own_food(connection, _own_oil(1.0))
        workbench.stock_own_foods(connection)
        demo = [draft(connection, n) for n in range(1, 16)]
        for number in range(SHELF - len(demo)):
            like = demo[number % len(demo)]
            servings = like.recipe.servings * (1 + number % 7 / 10)
            lines = tuple(
                replace(line, food=OWN) if line.food == "olive-oil-extra-virgin" else line
                for line in like.recipe.lines
            )
            named = replace(
                like.recipe, title=f"{like.recipe.title} {number}", servings=servings, lines=lines
            )
            create_recipe(connection, named, like.profile_id, pinned=workbench.pin(named))
    start = time.perf_counter()
    left = workbench.work_out_shelf_rows(SHELF)
    print(
        f"{'recipes worked out for the shelf':58} {SHELF / (time.perf_counter() - start):9.0f} a"
        f" second, {left} left"
    )
    client, htmx = TestClient(app), {"HX-Request": "true", "Accept-Encoding": "identity"}
    asked = {
        "": ShelfQuery(),
        "meeting=meets": ShelfQuery(meeting=Meeting.MEETS),
        "q=fennel": ShelfQuery(text="fennel"),
        "free=milk&free=sesame": ShelfQuery(free_from=("milk", "sesame")),
        "order=to-do": ShelfQuery(order=Order.MOST_TO_DO),
        "state=to+adapt&kind=slaw": ShelfQuery(state="to adapt", kind="slaw"),
    }
    with workbench.store() as connection:
        for address, question in asked.items():
            sql, values = shelf_sql(question)

            def bare(sql: str = sql, values: dict[str, object] = values) -> None:
                found = connection.execute(sql, {**values, "limit": 24, "offset": 0}).fetchall()
                for cards in cards_sql(len(found)):
                    connection.execute(cards, [row[0] for row in found]).fetchall()

            name = f"shelf of 10,000, {address or 'all of it'}"
            base = seconds(bare)
            row(
                name, seconds(lambda q=question: shelf_page(connection, q, 0, 24)), base, "within 3"
            )  # type: ignore[misc]
            row(
                "  the same, request to HTML",
                seconds(lambda a=address: client.get("/?" + a, headers=htmx)),
                base,
                "",
            )  # type: ignore[misc]
    whole = client.get("/", headers={"Accept-Encoding": "identity"})
    print(f"{'the shelf as a page':58} {len(whole.content) / 1000:9.0f} kB, within 500")


def _own_oil(sodium_mg: float) -> OwnFood:
    figures = {
        **dict.fromkeys(NUTRIENT_IDS),
        "energy_kcal": 884.0,
        "fat_g": 100.0,
        "sodium_mg": sodium_mg,
    }
    return OwnFood(
        key=OWN,
        name="House oil",
        like="olive-oil-extra-virgin",
        per_100_g=figures,
        source="made up",
    )


def _library(workbench: Workbench) -> None:
    """The library recomputed: all figures of all recipes, and what the Shelf takes after a food has
    changed. Against a product of recipes × foods by foods × 18 figures, and reading the rows of the
    practice."""
    with workbench.store() as connection:
        used = connection.execute("SELECT recipe_id, number FROM shelf_form_food").fetchall()
        rows, columns = [row[0] for row in used], [row[1] for row in used]
        shape = (max(rows) + 1, max(columns) + 1)
        grams = csr_array(
            (np.random.default_rng(1).random(len(used)), (rows, columns)), shape=shape
        )
        foods = np.random.default_rng(2).random((shape[1], 18))
        numbered = connection.execute("SELECT number, key FROM shelf_food").fetchall()
        number_of = {key: number for number, key in numbered}
        food_of = {number: workbench.knowledge.pantry[key] for number, key in numbered}

        def read() -> list[tuple[int, bytes]]:
            return connection.execute("SELECT recipe_id, form FROM shelf_form").fetchall()

        def recomputed() -> None:
            table = np.frombuffer(b"".join(row[1] for row in read()), dtype=np.float64).reshape(
                -1, WIDTH
            )
            form_figures(table, NUTRIENT_IDS, food_of)

        least = seconds(lambda: (read(), grams @ foods), rounds=10)
        print(
            f"{'  of that, the product alone':58} {seconds(lambda: grams @ foods) * 1000:9.3f} ms"
        )
        row(
            "all 7 figures of 10,000 recipes, with all their ranges",
            seconds(recomputed, rounds=10),
            least,
            "",
        )
        for key, name in ((OWN, "a food of a quarter"), ("lemon-juice-fresh", "a food of most")):
            count = sum(1 for number in columns if number == number_of[key])
            took = seconds(_one_figure_changed(workbench, connection, key), rounds=10)
            row(f"one figure of {name} ({count:,}), written", took, least, "within 3")


def _one_figure_changed(
    workbench: Workbench, connection: sqlite3.Connection, key: str
) -> Callable[[], None]:
    """Another sodium of a food, until the Shelf is right and it is on disk."""
    turn = [1.0]

    def change() -> None:
        turn[0] = 3.0 - turn[0]
        before = workbench.knowledge.pantry
        now = before.with_foods(
            [replace(before[key], per_100_g={**before[key].per_100_g, "sodium_mg": turn[0]})]
        )
        take_changed_figures(connection, before, now, [key], list(workbench.schools.values()))
        workbench.knowledge = replace(workbench.knowledge, pantry=now)

    return change


def _crowded(database: Path) -> None:
    """Edits over the wire in a practice of 10,000 recipes: alone, beside eight searches, and by
    eight people."""
    sys.path.insert(0, str(Path(__file__).parent.parent))
    from tests.attack.crowd import edits_of, edits_of_people, edits_while_searching
    from tests.attack.server import running

    with running(database) as server:
        idle, busy = edits_while_searching(server, searches=8, seconds=BUSY_SECONDS)
        _ends("an edit while eight searches run, against idle", busy, idle, "within 2")
    with running(database) as server:
        edits_of(server, 1, 1.0)  # What is made the first time is made.
        _ends(
            "an edit of eight people, one a second each, against one",
            edits_of_people(server, 8, BUSY_SECONDS),
            idle,
            "",
        )
        print(f"{'most memory of the server':58} {server.most_memory_mb:9.0f} MB")


def _ends(name: str, ours: list[float], base: list[float], meant: str) -> None:
    row(name, statistics.median(ours), statistics.median(base), meant)
    row("  nineteen of twenty", *(sorted(took)[int(0.95 * len(took))] for took in (ours, base)), "")


def _reading(workbench: Workbench) -> None:
    with workbench.store() as connection:
        lines = [
            line.text for recipe in range(1, 12) for line in draft(connection, recipe).recipe.lines
        ]
    took = seconds(lambda: [workbench.reader.read_line(line) for line in lines], rounds=5)
    print(f"{'lines read':58} {len(lines) / took:9.0f} a second")


def _importing(folder: Path) -> None:
    """A made-up release of 4,000 foods with 20 figures each, and the most memory it took."""
    foods = "".join(f"{n},sr,Food number {n},x\n" for n in range(4000))
    figures = "".join(f"{n * 20 + k},{n},{k},{k}\n" for n in range(4000) for k in range(1, 21))
    numbers = [
        "208",
        "203",
        "204",
        "205",
        "307",
        "291",
        "606",
        "269",
        "306",
        "301",
        "303",
        "304",
        "305",
        "401",
        "320",
        "430",
        "601",
    ]
    nutrients = "".join(f"{k},N{k},G,{number}\n" for k, number in enumerate(numbers, start=1))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("food.csv", "fdc_id,data_type,description,food_category_id\n" + foods)
        archive.writestr("nutrient.csv", "id,name,unit_name,nutrient_nbr\n" + nutrients)
        archive.writestr("food_nutrient.csv", "id,fdc_id,nutrient_id,amount\n" + figures)
    with closing(open_database(folder / "import.db")) as connection:
        tracemalloc.start()
        start = time.perf_counter()
        report = import_release(connection, Release(out.getvalue()), "workbench")
        took, peak = time.perf_counter() - start, tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
    print(
        f"{'import of 4,000 foods':58} {report.figures / took:9.0f} figures a second,"
        f" {peak / 1e6:.1f} MB at most"
    )


if __name__ == "__main__":
    main()
