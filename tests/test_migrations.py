"""Schemas of the past: what has landed never changes, and a practice kept by any of them opens
whole."""

from __future__ import annotations

import hashlib
import json
import sqlite3
from contextlib import closing
from importlib.resources import files
from pathlib import Path

import pytest

from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.edits import condensed, edit_words, edits_words
from fresh_ladle.core.recipes.pinning import changed_foods, pinned_figures
from fresh_ladle.store.database import (
    StoreError,
    apply_migrations,
    connect,
    migrations,
    newest_schema,
    open_database,
)
from fresh_ladle.store.files.bundle import TABLES, everything, restore_everything
from fresh_ladle.store.recipes.drafts import draft, edit, edits_since_version, redo, undo
from fresh_ladle.store.recipes.recipes import put_away, versions

LANDED_FILES = Path(__file__).parent / "landed"
LANDED = {
    "0001_first.sql": "6131aed6e2dff988",
    "0002_own_foods.sql": "a17272bf79cedb82",
    "0003_imported_foods.sql": "1b76256177909c1e",
    "0004_plans.sql": "7ef9825f29e52278",
    "m0006_figures_by_name.py": "6107de7866768427",
    "m0007_edits.py": "fdbb37d0a9a86c84",
    "0005_workbench.sql": "e337cac2af954655",
    "0008_bench.sql": "26bc1a351156dbd0",
    "0009_tasting.sql": "ce530da67d37b4dd",
    "0010_thickness.sql": "f2d424daf186f57e",
    "0011_service.sql": "cad60d659f7290a9",
    "0012_service_more.sql": "9cccc6f82d15fc2f",
    "0013_card.sql": "041f15d7265494e7",
    "0014_incoming_foods.sql": "c2d43fc48d70b0c0",
    "0015_people.sql": "6d733b8976e3d990",
    "0016_shelf_forms.sql": "216d6221feaaf331",
    "0017_practice.sql": "25bae838170e57a1",
    "0018_practice_class.sql": "a0eff63321b0040a",
    "0019_pours.sql": "2e6f9e9d5a1954e5",
    "m0020_clean_texts.py": "779e805462d64a2a",
    "0021_waiting.sql": "db2808322a610de5",
}
"""Hashes of the migrations that practices have gone through. To change the schema, add a migration
and its hash."""


def test_what_has_landed_stays() -> None:
    folder = files("fresh_ladle.store") / "migrations"
    found = {
        m.name: hashlib.sha256((folder / m.name).read_bytes()).hexdigest()[:16]
        for m in migrations()
    }
    assert {name: found[name] for name in LANDED} == LANDED
    assert [m.number for m in migrations()] == list(range(1, len(migrations()) + 1))


def landed_practice(path: Path) -> Path:
    """The small practice that schema 5 kept, in a file of that schema."""
    with closing(connect(path)) as old:
        apply_migrations(old, upto=5)
        old.executescript((LANDED_FILES / "schema_5.sql").read_text(encoding="utf-8"))
    return path


def test_a_practice_of_the_landed_schema_opens_edits_and_undoes(
    tmp_path: Path, pantry: Pantry
) -> None:
    path = landed_practice(tmp_path / "old.db")
    with closing(open_database(path)) as now:
        work = draft(now, 1)
        assert (edits_words(work.undo or ()), work.recipe.title) == (
            "swap: more lemon",
            "Lemon-tahini pour-over, thin",
        )
        told = [edit_words(edit) for edit in condensed(versions(now, 1)[1].edits)]
        assert told[:2] == ["Salt: 1/2 tsp → 1/4 tsp", "Depot mustard left out"], (
            "steps kept as sentences are one step"
        )
        assert told[2:] == [
            "called Lemon-tahini pour-over, thin",
            "8 servings → 10 servings",
            "Water: 50% eaten and 1 more",
        ]
        assert [edit_words(edit) for edit in edits_since_version(now, 1)] == [
            "added 1 Tbsp parsley",
            "swap: more lemon",
        ]
        again = redo(now, 1, work.revision)
        assert again.recipe.line("l2").amount == "1/2 cup", "what was undone is still there"
        back = undo(now, 1, again.revision)
        edited = edit(now, 1, back.revision, lambda recipe: recipe.without_line("l1"))
        assert undo(now, 1, edited.revision).recipe == work.recipe
        original = versions(now, 1)[0]
        pinned = json.loads(original.pinned)
        assert pinned["tahini"]["fat_g"] == pantry["tahini"].per_100_g["fat_g"]
        assert set(pinned["tahini"]) == set(NUTRIENT_IDS)
        assert changed_foods(pinned, pantry) == []
        with pytest.raises(sqlite3.IntegrityError, match="cannot be changed"):
            now.execute("UPDATE version SET name = 'forged'")
    assert path.with_name(f"old.db.before-schema-{newest_schema()}").exists()


def test_a_database_made_between_two_forms_of_schema_5_is_mended(tmp_path: Path) -> None:
    path = landed_practice(tmp_path / "between.db")
    with closing(connect(path)) as old:
        old.execute("ALTER TABLE recipe DROP COLUMN put_away")
    with closing(open_database(path)) as now:
        put_away(now, 1, True)
        assert now.execute("SELECT put_away FROM recipe").fetchone()[0] == 1


def test_everything_of_the_landed_schema_comes_back(tmp_path: Path) -> None:
    old = (LANDED_FILES / "everything_5.json").read_text(encoding="utf-8")
    with closing(open_database(tmp_path / "new.db")) as now:
        assert restore_everything(now, old) == 1
        assert edits_words(draft(now, 1).undo or ()) == "swap: more lemon"
        assert json.loads(versions(now, 1)[1].pinned)["tahini"]["fat_g"] == 62.4
        again = everything(now)
    rows = json.loads(again)
    assert all(isinstance(row, dict) for table in TABLES for row in rows[table]), (
        "rows name their columns"
    )
    rows["price"][0]["colour"] = "red"
    with closing(open_database(tmp_path / "third.db")) as third:
        with pytest.raises(StoreError, match="price has no colour"):
            restore_everything(third, json.dumps(rows))
        assert restore_everything(third, again) == 1
        assert everything(third) == again


def test_a_step_that_fails_leaves_the_schema_where_it_was(tmp_path: Path) -> None:
    path = landed_practice(tmp_path / "old.db")
    with closing(connect(path)) as old:
        old.execute("DROP TRIGGER version_is_immutable")
        with pytest.raises(TypeError):
            apply_migrations(old)
        assert old.execute("PRAGMA user_version").fetchone()[0] == 5
        assert not old.in_transaction


def test_pinned_figures_do_not_depend_on_the_order_or_number_of_nutrients(
    pantry: Pantry, kitchen
) -> None:  # type: ignore[no-untyped-def]
    oil = pantry["olive-oil-extra-virgin"]
    pinned = pinned_figures(kitchen.recipe({oil.key: "30 g"}), pantry)
    backwards = {oil.key: dict(reversed(pinned[oil.key].items()))}
    assert changed_foods(backwards, pantry) == []
    fewer = {
        oil.key: (
            {n: v for n, v in pinned[oil.key].items() if n != "vitamin_k_ug"}
            | {"fat_g": 90.0, "moonlight_mg": 3.0}
        )
    }
    (changed,) = changed_foods(fewer, pantry)
    assert changed.per_100_g["fat_g"] == 90.0
    assert changed.per_100_g["vitamin_k_ug"] == oil.per_100_g["vitamin_k_ug"], (
        "not carried then: the figure of today"
    )
    assert set(changed.per_100_g) == set(oil.per_100_g)
