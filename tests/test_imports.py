"""Composition releases, own foods, prices, pinned figures, and everything as one file."""

from __future__ import annotations

import io
import json
import sqlite3
import tracemalloc
import zipfile
from contextlib import closing
from pathlib import Path

import pytest

from fresh_ladle.cli import main
from fresh_ladle.core.foods.label import LabelError, Rounding, figures_from_label
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.plans.plan import PlanStep
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.formats.composition import Release
from fresh_ladle.formats.limits import FileError
from fresh_ladle.store.database import StoreError, open_database
from fresh_ladle.store.files.bundle import everything, restore_everything
from fresh_ladle.store.foods.foods import search_foods
from fresh_ladle.store.foods.imported_foods import finish_import, import_release, imported_foods
from fresh_ladle.store.foods.own_foods import OwnFood, Price, price, save_own_food, save_price
from fresh_ladle.store.foods.own_schools import own_schools, save_school
from fresh_ladle.store.recipes.drafts import create_recipe, draft, edit, save_version, undo
from fresh_ladle.store.recipes.profiles import all_profiles
from fresh_ladle.store.recipes.recipes import recipes_using, version
from fresh_ladle.store.recipes.saved_plans import save_plan, saved_plans
from fresh_ladle.web.state import Workbench
from tests.conftest import Kitchen

NUTRIENT = (
    "id,name,unit_name,nutrient_nbr\n1,Energy,KCAL,208\n2,Protein,G,203\n3,Fat,G,204\n4,Carbohydrate,G,205\n"
    "5,Sodium,MG,307\n6,Ash,G,207\n7,Fiber,G,291\n8,Energy,kJ,268\n"
)


def release(food: str, figures: str, portions: str = "", **without: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(
            "release/food.csv", "fdc_id,data_type,description,food_category_id\n" + food
        )
        archive.writestr("release/nutrient.csv", without.get("nutrient", NUTRIENT))
        archive.writestr("release/food_nutrient.csv", "id,fdc_id,nutrient_id,amount\n" + figures)
        archive.writestr(
            "release/food_portion.csv", "id,fdc_id,amount,modifier,gram_weight\n" + portions
        )
    return out.getvalue()


GOOD = "10,sr,Moon beans,x\n11,sr,Odd beans,x\n12,sr,Moon beans,x\n13,sr,Bare beans,x\n,sr,,\n"
FIGURES = (
    "1,10,1,120\n2,10,2,8\n3,10,3,1\n4,10,4,20\n5,10,5,3\n"
    "6,11,1,900\n7,11,2,1\n8,11,3,1\n9,11,4,1\n10,13,1,50\n11,10,7,-4\n12,10,5,many\n13,99,1,5\n"
)
PORTIONS = '1,10,1,"cup, mashed",200\n2,10,2,tbsp,25\n3,10,1,tsp,-4\n4,10,1,package,300\n'


@pytest.fixture
def database(tmp_path: Path) -> sqlite3.Connection:
    return open_database(tmp_path / "i.db")


def test_good_rows_come_in_and_bad_rows_are_reported(database: sqlite3.Connection) -> None:
    report = import_release(database, Release(release(GOOD, FIGURES, PORTIONS)), "test release")
    moon, odd = imported_foods(database)
    assert (moon.name, moon.per_100_g["energy_kcal"], moon.per_100_g["vitamin_k_ug"]) == (
        "Moon beans",
        120,
        None,
    )
    assert {m.unit: m.grams for m in moon.measures} == {"cup mashed": 200, "tbsp": 12.5}
    assert odd.name == "Odd beans"
    said = "\n".join(report.left_out)
    for reason in (
        "stands twice",
        "no id or no description",
        "fiber_g of -4",
        "'many' is not a number",
        "a portion of -4 g",
        "Bare beans: no energy",
    ):
        assert reason in said
    assert "Odd beans: energy 900 kcal" in report.flagged[0]
    assert report.foods == 2
    assert search_foods(database, "moon be")[0].key == moon.key
    import_release(database, Release(release(GOOD, FIGURES, PORTIONS)), "test release")
    assert len(search_foods(database, "moon")) == 1, "the same release again replaces itself"


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"junk", "not a readable archive"),
        (
            release(GOOD, FIGURES, nutrient="id,name\n1,Energy\n"),
            "nutrient.csv has no column nutrient_nbr",
        ),
    ],
)
def test_a_release_that_is_none_is_refused(data: bytes, says: str) -> None:
    with pytest.raises(FileError, match=says):
        Release(data)


def test_a_release_without_a_file_is_refused() -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("food.csv", "fdc_id,description\n")
    with pytest.raises(FileError, match=r"nutrient\.csv is missing"):
        Release(out.getvalue())


def test_a_stopped_import_leaves_nothing(database: sqlite3.Connection) -> None:
    def stop(what: str, count: int) -> None:
        if what == "figures":
            raise InterruptedError

    with pytest.raises(InterruptedError):
        import_release(database, Release(release(GOOD, FIGURES)), "test", stop)
    assert list(imported_foods(database)) == []


@pytest.mark.slow
def test_memory_stays_flat_for_four_thousand_foods(database: sqlite3.Connection) -> None:
    def peak_mb(foods: int) -> float:
        names = "".join(f"{n},sr,Food {n},x\n" for n in range(foods))
        figures = "".join(f"{n},{n},{k},{k}\n" for n in range(foods) for k in range(1, 8))
        data = Release(release(names, figures))
        tracemalloc.start()
        import_release(database, data, f"r{foods}")
        peak = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
        return peak / 1e6

    assert peak_mb(4000) < 40


def test_label_rounding_is_undone_into_a_range() -> None:
    found = figures_from_label(
        {"energy_kcal": 180, "sodium_mg": 35, "fat_g": 16, "fiber_g": 0}, 30, Rounding.US
    )
    assert found.per_100_g["energy_kcal"] == pytest.approx(600)
    assert found.ranges["energy_kcal"] == pytest.approx((175 / 0.3, 185 / 0.3))
    assert found.ranges["sodium_mg"] == pytest.approx((32.5 / 0.3, 37.5 / 0.3))
    assert found.ranges["fiber_g"] == pytest.approx((0, 0.5 / 0.3))
    assert found.per_100_g["vitamin_k_ug"] is None
    assert figures_from_label({"fat_g": 16}, 100, Rounding.EXACT).ranges == {}


@pytest.mark.parametrize(
    ("nutrient", "printed", "low", "high"),
    [
        ("potassium_mg", 120, 115, 125),
        ("potassium_mg", 0, 0, 94),
        ("calcium_mg", 260, 255, 265),
        ("iron_mg", 1.4, 1.35, 1.45),
        ("magnesium_mg", 40, 37.5, 42.5),
        ("protein_g", 0, 0, 0.5),
        ("protein_g", 7, 6.5, 7.5),
        ("cholesterol_mg", 0, 0, 2),
        ("cholesterol_mg", 15, 12.5, 17.5),
        ("fat_g", 4.5, 4.25, 4.75),
        ("fat_g", 5, 4.5, 5.5),
        ("sodium_mg", 140, 137.5, 142.5),
        ("sodium_mg", 150, 145, 155),
        ("energy_kcal", 50, 47.5, 52.5),
        ("energy_kcal", 60, 55, 65),
    ],
)
def test_each_printed_figure_hides_its_own_step(
    nutrient: str, printed: float, low: float, high: float
) -> None:
    assert figures_from_label({nutrient: printed}, 100, Rounding.US).ranges[
        nutrient
    ] == pytest.approx((low, high))


@pytest.mark.parametrize(
    ("printed", "serving"),
    [({"fat_g": -1}, 30), ({"fat_g": 40}, 30), ({"fat_g": 1}, 0), ({"energy_kcal": 500}, 30)],
)
def test_a_label_that_cannot_be_is_refused(printed: dict[str, float], serving: float) -> None:
    with pytest.raises(LabelError):
        figures_from_label(printed, serving, Rounding.US)


def own(sodium: float) -> OwnFood:
    figures = {
        **dict.fromkeys(NUTRIENT_IDS),
        "energy_kcal": 600.0,
        "sodium_mg": sodium,
        "fat_g": 53.0,
        "fiber_g": 10.0,
        "protein_g": 20.0,
    }
    return OwnFood(
        key="own-house-tahini",
        name="House tahini",
        like="tahini",
        per_100_g=figures,
        ranges={"sodium_mg": (80, 120)},
        source="label",
    )


def test_an_own_food_is_read_searched_priced_and_pinned(tmp_path: Path, kitchen: Kitchen) -> None:
    workbench = Workbench(tmp_path / "b.db")
    with workbench.store() as connection:
        save_own_food(connection, own(100))
        workbench.stock_own_foods(connection)
        (reading,) = workbench.reader.read_line("2 tbsp house tahini")
        assert reading.line.food == "own-house-tahini"
        assert search_foods(connection, "house tah")[0].key == "own-house-tahini"
        save_price(connection, "own-house-tahini", Price(4.5, 300))
        found = price(connection, "own-house-tahini")
        assert found is not None
        assert found.per_100_g == pytest.approx(1.5)

        recipe = kitchen.recipe({"own-house-tahini": "100 g"}, "nut-dressing", 1)
        recipe_id = create_recipe(connection, recipe, None, pinned=workbench.pin(recipe))
        assert recipes_using(connection, "own-house-tahini") == [(recipe_id, "Test dish")]
        save_own_food(connection, own(400))
        workbench.stock_own_foods(connection)
        kept = version(connection, recipe_id, 1)
        assert workbench.appraise_version(kept).totals.serving["sodium_mg"].value == pytest.approx(
            100
        )
        assert workbench.appraise(recipe).totals.serving["sodium_mg"].value == pytest.approx(400)
        assert [f.name for f in workbench.newer_figures(kept)] == ["House tahini"]


def test_a_rounded_label_widens_the_range(tmp_path: Path, kitchen: Kitchen) -> None:
    workbench = Workbench(tmp_path / "b.db")
    with workbench.store() as connection:
        save_own_food(connection, own(100))
        workbench.stock_own_foods(connection)
    figure = workbench.appraise(
        kitchen.recipe({"own-house-tahini": "100 g"}, "nut-dressing", 1)
    ).totals.serving["sodium_mg"]
    assert figure.low < 82
    assert figure.high > 118


def test_everything_goes_out_and_comes_back_without_loss(tmp_path: Path, kitchen: Kitchen) -> None:
    with closing(open_database(tmp_path / "a.db")) as first:
        recipe_id = create_recipe(first, kitchen.recipe({"tahini": "100 g"}), None)
        now = edit(first, recipe_id, 1, lambda r: kitchen.recipe({"tahini": "50 g"}))
        save_version(first, recipe_id, now.revision, "half", "less")
        save_own_food(first, own(1))
        save_price(first, "tahini", Price(3, 250))
        step = PlanStep(
            "x:l1",
            "Tahini: less",
            "because",
            "last",
            "l1",
            "1 tbsp",
            (Line("l9", "2 g salt", "2 g", "table-salt"),),
        )
        save_plan(
            first,
            recipe_id,
            3,
            "Closest in taste",
            "why",
            (step,),
            (Target("sodium_mg", Side.AT_MOST, 90),),
        )
        save_school(first, "Depot lean", "oil by the teaspoon", True, False, False, True)
        text = everything(first)
    with closing(open_database(tmp_path / "b.db")) as second:
        assert restore_everything(second, text) == 1
        assert everything(second) == text
        assert draft(second, recipe_id).recipe.lines[0].amount == "50 g"
        assert saved_plans(second, recipe_id)[0].steps == (step,)
        assert own_schools(second)[0].refuses_full_fat_dairy
        with pytest.raises(StoreError, match="already"):
            restore_everything(second, text)


def test_a_file_of_an_older_schema_comes_back_too(tmp_path: Path) -> None:
    """Rows as bare lists, shorter by the columns that came later; tables that were not there
    yet."""
    landed = json.loads(
        (Path(__file__).parent / "landed" / "everything_5.json").read_text(encoding="utf-8")
    )
    lengths = {"recipe": 4, "profile": 5, "target": 4, "version": 8, "draft": 4, "draft_state": 5}
    old = {"form": landed["form"], "schema": 3} | {
        table: [row[: lengths.get(table, 99)] for row in landed[table]]
        for table in (
            "profile",
            "target",
            "recipe",
            "version",
            "draft",
            "draft_state",
            "own_food",
            "price",
        )
    }
    with closing(open_database(tmp_path / "b.db")) as second:
        assert restore_everything(second, json.dumps(old)) == 1
        now = draft(second, 1)
        assert undo(second, 1, now.revision).recipe.line("l2").amount == "1/4 cup"
        assert {t.nutrient for t in all_profiles(second)[0].targets} == {"sodium_mg", "fiber_g"}


@pytest.mark.parametrize(
    "text",
    [
        "{}",
        "nonsense",
        '{"form": "fresh-ladle everything", "schema": 99}',
        '{"form": "fresh-ladle everything", "schema": 1}',
    ],
)
def test_a_file_that_is_not_everything_changes_nothing(
    text: str, database: sqlite3.Connection
) -> None:
    with pytest.raises(StoreError):
        restore_everything(database, text)


def test_backup_and_restore_by_command(tmp_path: Path, kitchen: Kitchen) -> None:
    live, copy = tmp_path / "live.db", tmp_path / "copy.db"
    with closing(open_database(live)) as connection:
        recipe_id = create_recipe(connection, kitchen.recipe({"tahini": "100 g"}), None)
    assert main(["backup", str(copy), "--database", str(live)]) == 0
    with closing(open_database(live)) as connection:
        edit(connection, recipe_id, 1, lambda r: kitchen.recipe({"honey": "1 kg"}))
    assert main(["restore", str(copy), "--database", str(live)]) == 0
    with closing(open_database(live)) as connection:
        assert draft(connection, recipe_id).recipe.lines[0].food == "tahini"
    (tmp_path / "junk").write_text("junk" * 999)
    assert main(["restore", str(tmp_path / "junk"), "--database", str(live)]) == 1


def test_export_and_import_by_command(tmp_path: Path, kitchen: Kitchen) -> None:
    with closing(open_database(tmp_path / "a.db")) as connection:
        create_recipe(connection, kitchen.recipe({"tahini": "100 g"}), None)
    assert main(["export", str(tmp_path / "all.json"), "--database", str(tmp_path / "a.db")]) == 0
    assert json.loads((tmp_path / "all.json").read_text())["recipe"]
    assert main(["import", str(tmp_path / "all.json"), "--database", str(tmp_path / "b.db")]) == 0
    (tmp_path / "r.zip").write_bytes(release(GOOD, FIGURES, PORTIONS))
    assert main(["import", str(tmp_path / "r.zip"), "--database", str(tmp_path / "b.db")]) == 0


def test_an_own_food_whose_like_is_gone_keeps_its_figures_and_stops_nothing(tmp_path: Path) -> None:
    workbench = Workbench(tmp_path / "bench.db")
    with workbench.store() as connection:
        saved = save_own_food(connection, own(300).model_copy(update={"like": "tahini"}))
        connection.execute(
            'UPDATE own_food SET document = replace(document, \'"like":"tahini"\','
            ' \'"like":"a-food-of-old"\')'
        )
        connection.commit()
    again = Workbench(tmp_path / "bench.db")
    food = again.knowledge.pantry[saved.key]
    assert food.per_100_g["sodium_mg"] == 300
    assert not food.in_pantry, "no measures, no taste, and allergens nobody knows"
    assert "no longer there" in food.note


def many(count: int, word: str = "Bean") -> bytes:
    """A release of so many foods with three figures each."""
    foods = "".join(f"{n},sr,{word} {n},x\n" for n in range(count))
    figures = "".join(
        f"{n}{k},{n},{nutrient},{amount}\n"
        for n in range(count)
        for k, nutrient, amount in ((1, 1, 120), (2, 2, 8), (3, 3, 1))
    )
    return release(foods, figures)


def test_others_write_while_a_release_comes_in_and_see_the_old_foods_until_it_is_whole(
    tmp_path: Path,
) -> None:
    path = tmp_path / "kitchen.db"
    with closing(open_database(path)) as connection, closing(open_database(path)) as other:
        other.execute("PRAGMA busy_timeout = 0")
        import_release(connection, Release(many(700, "Old bean")), "sr")
        import_release(connection, Release(many(3, "Kept bean")), "other")
        seen: dict[str, set[str]] = {}

        def write(what: str, _: int) -> None:
            other.execute(
                "INSERT INTO stock VALUES (?, 1, 'now') ON CONFLICT DO UPDATE SET grams ="
                " grams + 1",
                (what,),
            )
            name = other.execute(
                "SELECT name FROM imported_food WHERE key = 'import-650'"
            ).fetchone()
            seen.setdefault(what, set()).add(name["name"].split()[0])

        import_release(connection, Release(many(2600)), "sr", write)
        assert seen["foods"] == seen["figures"] == {"Old"}, (
            "nothing of the new is seen before all of it is there"
        )
        assert seen["foods made findable"] == {"Bean"}
        assert other.execute("SELECT sum(grams) FROM stock").fetchone()[0] > 6, (
            "a write between any two steps"
        )
        assert [f.name for f in search_foods(other, "bean 2599")] == ["Bean 2599"]
        assert search_foods(other, "old bean") == []
        assert other.execute("SELECT count(*) FROM incoming_food").fetchone()[0] == 0
        assert other.execute("PRAGMA foreign_key_check").fetchall() == []


def test_an_import_cut_off_leaves_what_was_or_is_finished(tmp_path: Path) -> None:
    path = tmp_path / "kitchen.db"
    with closing(open_database(path)) as connection:
        import_release(connection, Release(many(5, "Old bean")), "sr")
        for stage, name in (("figures", "Old bean 1"), ("foods made findable", "Bean 1")):

            def cut(what: str, _: int, at: str = stage) -> None:
                if what == at:
                    raise KeyboardInterrupt

            with pytest.raises(KeyboardInterrupt):
                import_release(connection, Release(many(5)), "sr", cut)
            assert {f.name for f in imported_foods(connection)} >= {name}
        finish_import(connection)
        assert [f.name for f in search_foods(connection, "bean 4")] == ["Bean 4"]
        import_release(connection, Release(many(5, "New bean")), "sr")
        assert {f.name for f in imported_foods(connection)} == {f"New bean {n}" for n in range(5)}


def test_one_import_at_a_time(tmp_path: Path) -> None:
    path = tmp_path / "kitchen.db"
    with closing(open_database(path)) as connection, closing(open_database(path)) as other:

        def second(*_: object) -> None:
            with pytest.raises(StoreError, match="another import is running"):
                import_release(other, Release(many(2)), "sr")

        import_release(connection, Release(many(2)), "sr", second)
