"""Brings a composition release into the database: good rows in, bad rows reported, all of it or
nothing."""

from __future__ import annotations

import fcntl
import sqlite3
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from fresh_ladle.core.foods.food import Food, Grade, Measure, Source
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.formats.composition import Release, portion_unit
from fresh_ladle.store.database import StoreError, writing

CHUNK, FOODS_AT_ONCE = 400, 60
"""Rows, and whole foods, that are written in one transaction: about a hundredth of a second."""
PAUSE_S = 0.01
MAX_REPORTED = 200
MEASURE_DOUBT = 0.15
Progress = Callable[[str, int], None]


@dataclass
class ImportReport:
    """What came in and what did not. `left_out` and `flagged` name row and reason, the first 200 of
    each."""

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
    connection: sqlite3.Connection,
    release: Release,
    source: str,
    progress: Progress = lambda *_: None,
) -> ImportReport:
    """Replaces the foods imported from this source. Raises FileError; then nothing is changed.

    Everything is read into tables of its own in small transactions, between which others write; the
    tables then take the place of those in use in one step. Raises StoreError while another import
    runs."""
    report = ImportReport()
    with _only_import(connection):
        _clear_incoming(connection)
        _carry_over(connection, source)
        known = _foods(connection, release, source, report, progress)
        _figures(connection, release, known, report, progress)
        _portions(connection, release, known, report, progress)
        _check(connection, source, report)
        _change_places(connection)
        _make_findable(connection, progress)
        _clear_incoming(connection)
    return report


@contextmanager
def _a_little(connection: sqlite3.Connection) -> Iterator[None]:
    """One small transaction, and room for others after it: who waits for the lock asks for it only
    now and then."""
    with writing(connection):
        yield
    time.sleep(PAUSE_S)


@contextmanager
def _only_import(connection: sqlite3.Connection) -> Iterator[None]:
    """One import at a time to a file; the hold ends with the process."""
    path = connection.execute("PRAGMA database_list").fetchone()["file"]
    with Path(f"{path}.importing").open("w", encoding="utf-8") as handle:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise StoreError("another import is running: wait for it, or stop it first") from None
        yield


def _clear_incoming(connection: sqlite3.Connection) -> None:
    """Empties the tables a release is read to, a little at a time."""
    while connection.execute("SELECT 1 FROM incoming_food LIMIT 1").fetchone() is not None:
        with _a_little(connection):
            connection.execute(
                "DELETE FROM incoming_food WHERE key IN (SELECT key FROM incoming_food LIMIT ?)",
                (FOODS_AT_ONCE,),
            )


def _carry_over(connection: sqlite3.Connection, source: str) -> None:
    """Copies what was imported from other sources, which stays."""
    last = ""
    while True:
        keys = [
            row["key"]
            for row in connection.execute(
                "SELECT key FROM imported_food WHERE source <> ? AND key > ? ORDER BY key LIMIT ?",
                (source, last, FOODS_AT_ONCE),
            )
        ]
        if not keys:
            return
        marks, last = ", ".join("?" * len(keys)), keys[-1]
        with _a_little(connection):
            for name, key in (("food", "key"), ("figure", "food_key"), ("portion", "food_key")):
                connection.execute(
                    f"INSERT INTO incoming_{name} SELECT * FROM imported_{name} WHERE {key} IN"
                    f" ({marks})",
                    keys,
                )


def _foods(
    connection: sqlite3.Connection,
    release: Release,
    source: str,
    report: ImportReport,
    progress: Progress,
) -> set[str]:
    """Ids of the foods taken in. The same name twice is left out the second time."""
    known: set[str] = set()
    names: set[str] = set()
    chunk: list[tuple[str, str, str, str]] = []
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
            chunk.append((f"import-{fdc_id}", name, group, source))
            report.foods += 1
            if len(chunk) >= CHUNK:
                _insert(connection, "incoming_food", chunk)
                progress("foods", report.foods)
    _insert(connection, "incoming_food", chunk)
    progress("foods", report.foods)
    return known


def _insert(connection: sqlite3.Connection, table: str, chunk: list[Any]) -> None:
    """Puts rows in, in one transaction, and empties the list. A release may give energy by several
    methods, or a portion twice; the first one stands."""
    if chunk:
        marks = ", ".join("?" * len(chunk[0]))
        with _a_little(connection):
            connection.executemany(
                f"INSERT INTO {table} VALUES ({marks}) ON CONFLICT DO NOTHING", chunk
            )
        chunk.clear()


def _figures(
    connection: sqlite3.Connection,
    release: Release,
    known: set[str],
    report: ImportReport,
    progress: Progress,
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
            report.leave_out(
                f"food_nutrient.csv row {row.number}: {row.values['amount']!r} is not a number"
            )
            continue
        if (
            amount < 0
            or amount != amount
            or amount > (1000 if nutrient == "energy_kcal" else 100_000)
        ):
            report.leave_out(
                f"food_nutrient.csv row {row.number}: {nutrient} of {amount:g} cannot be"
            )
            continue
        chunk.append((f"import-{row.values['fdc_id']}", nutrient, amount))
        report.figures += 1
        if len(chunk) >= CHUNK:
            _insert(connection, "incoming_figure", chunk)
            progress("figures", report.figures)
    _insert(connection, "incoming_figure", chunk)
    progress("figures", report.figures)


def _portions(
    connection: sqlite3.Connection,
    release: Release,
    known: set[str],
    report: ImportReport,
    progress: Progress,
) -> None:
    chunk: list[tuple[str, str, float]] = []
    for row in release.rows("food_portion.csv"):
        unit = portion_unit(row.values)
        if row.values.get("fdc_id") not in known or unit is None:
            continue
        try:
            grams, amount = (
                float(row.values.get("gram_weight", "")),
                float(row.values.get("amount") or 1),
            )
        except ValueError:
            report.leave_out(f"food_portion.csv row {row.number}: weight is not a number")
            continue
        if grams <= 0 or amount <= 0:
            report.leave_out(
                f"food_portion.csv row {row.number}: a portion of {grams:g} g cannot be"
            )
            continue
        chunk.append((f"import-{row.values['fdc_id']}", unit, grams / amount))
        report.portions += 1
        if len(chunk) >= CHUNK:
            _insert(connection, "incoming_portion", chunk)
            progress("portions", report.portions)
    _insert(connection, "incoming_portion", chunk)
    progress("portions", report.portions)


def _check(connection: sqlite3.Connection, source: str, report: ImportReport) -> None:
    """Leaves out foods without energy, protein and fat; flags energy that contradicts the
    macronutrients."""
    bare: list[str] = []
    for food in _foods_of(connection, "incoming", source):
        if any(food.per_100_g[n] is None for n in ("energy_kcal", "protein_g", "fat_g")):
            report.leave_out(f"{food.name}: no energy, protein or fat figure")
            report.foods -= 1
            bare.append(food.key)
        elif (gap := energy_disagreement(food)) and len(report.flagged) < MAX_REPORTED:
            report.flagged.append(
                f"{food.name}: energy {gap.stated_kcal:.0f} kcal against {gap.reckoned_kcal:.0f}"
                " from its macronutrients"
            )
    for at in range(0, len(bare), FOODS_AT_ONCE):
        with _a_little(connection):
            connection.executemany(
                "DELETE FROM incoming_food WHERE key = ?",
                [(key,) for key in bare[at : at + FOODS_AT_ONCE]],
            )


def _change_places(connection: sqlite3.Connection) -> None:
    """What came in takes the place of what was there, by its name: one step, however much it is."""
    with writing(connection):
        for name in ("food", "figure", "portion"):
            connection.execute(f"ALTER TABLE imported_{name} RENAME TO leaving_{name}")
            connection.execute(f"ALTER TABLE incoming_{name} RENAME TO imported_{name}")
            connection.execute(f"ALTER TABLE leaving_{name} RENAME TO incoming_{name}")


def _make_findable(connection: sqlite3.Connection, progress: Progress) -> None:
    """The search knows what came in and forgets what is gone, a little at a time."""
    gone = (
        "SELECT key FROM incoming_food WHERE key NOT IN (SELECT key FROM imported_food)"
        " AND key IN (SELECT key FROM food) LIMIT ?"
    )
    while keys := [row["key"] for row in connection.execute(gone, (FOODS_AT_ONCE,))]:
        with _a_little(connection):
            for table in ("food", "food_text"):
                connection.execute(
                    f"DELETE FROM {table} WHERE key IN ({', '.join('?' * len(keys))})", keys
                )
    last, found = "", 0
    while rows := connection.execute(
        "SELECT i.key, i.name, i.food_group, f.name AS known FROM imported_food i LEFT JOIN food f"
        " ON f.key = i.key WHERE i.key > ? ORDER BY i.key LIMIT ?",
        (last, FOODS_AT_ONCE),
    ).fetchall():
        fresh = [row for row in rows if row["known"] != row["name"]]
        with _a_little(connection):
            _put_findable(connection, fresh)
        last, found = rows[-1]["key"], found + len(rows)
        progress("foods made findable", found)


def finish_import(connection: sqlite3.Connection) -> None:
    """Makes findable what an import that was cut off has brought in already."""
    missing = "SELECT 1 FROM imported_food WHERE key NOT IN (SELECT key FROM food) LIMIT 1"
    if connection.execute(missing).fetchone() is not None:
        _make_findable(connection, lambda *_: None)


def _put_findable(connection: sqlite3.Connection, rows: list[sqlite3.Row]) -> None:
    renamed = [row["key"] for row in rows if row["known"] is not None]
    if renamed:
        connection.execute(
            f"DELETE FROM food_text WHERE key IN ({', '.join('?' * len(renamed))})", renamed
        )
    connection.executemany(
        "INSERT INTO food (key, name, aliases, food_group, stocked, note) VALUES (?, ?, '', ?, 0,"
        " '') ON CONFLICT (key) DO UPDATE SET name = excluded.name, food_group ="
        " excluded.food_group",
        [(row["key"], row["name"], row["food_group"]) for row in rows],
    )
    connection.executemany(
        "INSERT INTO food_text (name, aliases, key) VALUES (?, '', ?)",
        [(row["name"], row["key"]) for row in rows],
    )


def imported_foods(connection: sqlite3.Connection, source: str | None = None) -> Iterator[Food]:
    """Imported foods as the core knows foods: figures and portions, no taste."""
    return _foods_of(connection, "imported", source)


def _foods_of(connection: sqlite3.Connection, tables: str, source: str | None) -> Iterator[Food]:
    """The foods of one set of tables by key, some at a time."""
    last = ""
    while rows := connection.execute(
        f"SELECT * FROM {tables}_food WHERE (:source IS NULL OR source = :source) AND key > :last"
        " ORDER BY key LIMIT :most",
        {"source": source, "last": last, "most": FOODS_AT_ONCE},
    ).fetchall():
        last = rows[-1]["key"]
        for row in rows:
            yield _food(connection, tables, row)


def _food(connection: sqlite3.Connection, tables: str, row: sqlite3.Row) -> Food:
    key = (row["key"],)
    figures = dict(
        connection.execute(
            f"SELECT nutrient, per_100_g FROM {tables}_figure WHERE food_key = ?", key
        ).fetchall()
    )
    portions = connection.execute(
        f"SELECT unit, grams FROM {tables}_portion WHERE food_key = ?", key
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
    return Food(
        key=row["key"],
        name=row["name"],
        group=row["food_group"],
        per_100_g={n: figures.get(n) for n in NUTRIENT_IDS},
        source=Source(f"{row['source']}: {row['name']}", Grade.A),
        measures=measures,
    )
