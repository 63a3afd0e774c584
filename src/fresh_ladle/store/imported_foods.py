"""Brings a composition release into the database: good rows in, bad rows reported, all in one transaction."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

from fresh_ladle.core.foods.food import Food, Grade, Measure, Source
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.formats.composition import Release, portion_unit
from fresh_ladle.store.database import writing

CHUNK = 2000
MAX_REPORTED = 200
MEASURE_DOUBT = 0.15
Progress = Callable[[str, int], None]


@dataclass
class ImportReport:
    """What came in and what did not. `left_out` and `flagged` name row and reason, the first 200 of each."""

    foods: int = 0
    figures: int = 0
    portions: int = 0
    left_out_count: int = 0
    left_out: list[str] = field(default_factory=list)
    flagged: list[str] = field(default_factory=list)

    def leave_out(self, reason: str) -> None:
        self.left_out_count += 1
        if len(self.left_out) < MAX_REPORTED:
            self.left_out.append(reason)


def import_release(
    connection: sqlite3.Connection, release: Release, source: str, progress: Progress = lambda *_: None
) -> ImportReport:
    """Replaces the foods imported from this source. Raises FileError; then nothing is changed."""
    report = ImportReport()
    with writing(connection):
        _forget(connection, source)
        known = _foods(connection, release, source, report, progress)
        _figures(connection, release, known, report, progress)
        _portions(connection, release, known, report, progress)
        _check(connection, source, report)
        _make_findable(connection, source)
    return report


def _forget(connection: sqlite3.Connection, source: str) -> None:
    for table in ("food_text", "food"):
        connection.execute(
            f"DELETE FROM {table} WHERE key IN (SELECT key FROM imported_food WHERE source = ?)", (source,)
        )
    connection.execute("DELETE FROM imported_food WHERE source = ?", (source,))


def _foods(
    connection: sqlite3.Connection, release: Release, source: str, report: ImportReport, progress: Progress
) -> set[str]:
    """Ids of the foods taken in. The same name twice is left out the second time."""
    known: set[str] = set()
    names: set[str] = set()
    for row in release.rows("food.csv"):
        fdc_id, name = row.values.get("fdc_id", ""), row.values.get("description", "")[:200]
        if not fdc_id or not name:
            report.leave_out(f"food.csv row {row.number}: no id or no description")
        elif name.lower() in names:
            report.leave_out(f"food.csv row {row.number}: {name!r} stands twice")
        else:
            names.add(name.lower())
            known.add(fdc_id)
            group = row.values.get("food_category_id", "") or "imported"
            connection.execute(
                "INSERT INTO imported_food VALUES (?, ?, ?, ?)", (f"import-{fdc_id}", name, group, source)
            )
            report.foods += 1
            if report.foods % CHUNK == 0:
                progress("foods", report.foods)
    progress("foods", report.foods)
    return known


def _figures(
    connection: sqlite3.Connection, release: Release, known: set[str], report: ImportReport, progress: Progress
) -> None:
    nutrients = release.nutrient_ids()
    chunk: list[tuple[str, str, float]] = []
    for row in release.rows("food_nutrient.csv"):
        nutrient = nutrients.get(row.values["nutrient_id"])
        if nutrient is None or row.values["fdc_id"] not in known or not row.values["amount"]:
            continue
        try:
            amount = float(row.values["amount"])
        except ValueError:
            report.leave_out(f"food_nutrient.csv row {row.number}: {row.values['amount']!r} is not a number")
            continue
        if amount < 0 or amount != amount or amount > (1000 if nutrient == "energy_kcal" else 100_000):
            report.leave_out(f"food_nutrient.csv row {row.number}: {nutrient} of {amount:g} cannot be")
            continue
        chunk.append((f"import-{row.values['fdc_id']}", nutrient, amount))
        report.figures += 1
        if len(chunk) >= CHUNK:
            _insert_figures(connection, chunk)
            chunk = []
            progress("figures", report.figures)
    _insert_figures(connection, chunk)
    progress("figures", report.figures)


def _insert_figures(connection: sqlite3.Connection, chunk: list[tuple[str, str, float]]) -> None:
    # A release may give energy by several methods; the first one stands.
    connection.executemany("INSERT INTO imported_figure VALUES (?, ?, ?) ON CONFLICT DO NOTHING", chunk)


def _portions(
    connection: sqlite3.Connection, release: Release, known: set[str], report: ImportReport, progress: Progress
) -> None:
    for row in release.rows("food_portion.csv"):
        unit = portion_unit(row.values)
        if row.values.get("fdc_id") not in known or unit is None:
            continue
        try:
            grams, amount = float(row.values.get("gram_weight", "")), float(row.values.get("amount") or 1)
        except ValueError:
            report.leave_out(f"food_portion.csv row {row.number}: weight is not a number")
            continue
        if grams <= 0 or amount <= 0:
            report.leave_out(f"food_portion.csv row {row.number}: a portion of {grams:g} g cannot be")
            continue
        connection.execute(
            "INSERT INTO imported_portion VALUES (?, ?, ?) ON CONFLICT DO NOTHING",
            (f"import-{row.values['fdc_id']}", unit, grams / amount),
        )
        report.portions += 1
    progress("portions", report.portions)


def _check(connection: sqlite3.Connection, source: str, report: ImportReport) -> None:
    """Leaves out foods without energy, protein and fat; flags energy that contradicts the macronutrients."""
    for food in imported_foods(connection, source):
        if any(food.per_100_g[n] is None for n in ("energy_kcal", "protein_g", "fat_g")):
            report.leave_out(f"{food.name}: no energy, protein or fat figure")
            report.foods -= 1
            connection.execute("DELETE FROM imported_food WHERE key = ?", (food.key,))
        elif (gap := energy_disagreement(food)) and len(report.flagged) < MAX_REPORTED:
            report.flagged.append(
                f"{food.name}: energy {gap.stated_kcal:.0f} kcal against {gap.reckoned_kcal:.0f} from its"
                " macronutrients"
            )


def _make_findable(connection: sqlite3.Connection, source: str) -> None:
    connection.execute(
        "INSERT OR IGNORE INTO food (key, name, aliases, food_group, stocked, note) SELECT key, name, '', food_group,"
        " 0, '' FROM imported_food WHERE source = ?",
        (source,),
    )
    connection.execute(
        "INSERT INTO food_text (name, aliases, key) SELECT name, '', key FROM imported_food WHERE source = ?", (source,)
    )


def imported_foods(connection: sqlite3.Connection, source: str | None = None) -> Iterator[Food]:
    """Imported foods as the core knows foods: figures and portions, no taste."""
    rows = connection.execute(
        "SELECT * FROM imported_food WHERE ? IS NULL OR source = ? ORDER BY key", (source, source)
    ).fetchall()
    for row in rows:
        figures = dict(
            connection.execute(
                "SELECT nutrient, per_100_g FROM imported_figure WHERE food_key = ?", (row["key"],)
            ).fetchall()
        )
        portions = connection.execute(
            "SELECT unit, grams FROM imported_portion WHERE food_key = ?", (row["key"],)
        ).fetchall()
        measures = tuple(
            Measure(
                p["unit"],
                p["grams"],
                p["grams"] * (1 - MEASURE_DOUBT),
                p["grams"] * (1 + MEASURE_DOUBT),
                Grade.B,
                "portion of the release",
            )
            for p in portions
        )
        yield Food(
            key=row["key"],
            name=row["name"],
            group=row["food_group"],
            per_100_g={n: figures.get(n) for n in NUTRIENT_IDS},
            source=Source(f"{row['source']}: {row['name']}", Grade.A),
            measures=measures,
        )
