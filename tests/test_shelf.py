"""The Shelf's own table: its verdicts are those of the core, its filters find what they say, and it
never lags behind."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.catalogue.school import SCHOOLS
from fresh_ladle.core.nutrients import targets as judging
from fresh_ladle.core.nutrients.targets import Basis, Side, Target, target_status
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.practice.pours import OwnMeasure
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.store.database import apply_migrations, open_database
from fresh_ladle.store.foods.own_foods import save_own_food
from fresh_ladle.store.practice.pours import take_pour
from fresh_ladle.store.recipes.drafts import create_recipe, draft, edit, save_version
from fresh_ladle.store.recipes.marks import MarkKind, mark_version
from fresh_ladle.store.recipes.profiles import save_profile
from fresh_ladle.store.recipes.recipes import recipes_using
from fresh_ladle.store.recipes.shelf import (
    Meeting,
    Order,
    ShelfFigure,
    ShelfQuery,
    ShelfRow,
    recipes_called,
    save_shelf_rows,
    shelf_page,
    shelf_row_of,
    stale_recipe_ids,
)
from fresh_ladle.web.state import Workbench
from tests.conftest import Kitchen
from tests.test_imports import own

RECIPE = Recipe("Dip", (Line("l1", "1 cup tahini", "1 cup", "tahini"),), "legume-dip", 8)
DISHES = {
    "Tahini dip": {"tahini": "60 g", "table-salt": "4 g", "lemon-juice-fresh": "30 g"},
    "Bean dip": {
        "cannellini-beans-cooked": "300 g",
        "olive-oil-extra-virgin": "20 g",
        "table-salt": "0.5 g",
    },
    "Cucumber salad": {"cucumber": "300 g", "greek-yogurt-nonfat": "100 g", "dill": "5 g"},
}


@pytest.fixture
def shelf(tmp_path: Path, kitchen: Kitchen) -> sqlite3.Connection:
    """Three dishes against a profile: at most 140 mg of sodium."""
    database = open_database(tmp_path / "shelf.db")
    profile = save_profile(
        database, "low", "dip", "keep-good-fat", (Target("sodium_mg", Side.AT_MOST, 140),)
    )
    for title, grams in DISHES.items():
        create_recipe(
            database, replace(kitchen.recipe(grams, kind="legume-dip"), title=title), profile
        )
    work_out(database, kitchen)
    return database


def work_out(database: sqlite3.Connection, kitchen: Kitchen) -> None:
    for recipe_id in stale_recipe_ids(database):
        work = draft(database, recipe_id)
        now = kitchen.work_out(work.recipe)
        save_shelf_rows(database, [shelf_row_of(work, now, now, SCHOOLS)])


def found(database: sqlite3.Connection, **asked: object) -> list[str]:
    question = ShelfQuery(order=Order.NAME, **asked)  # type: ignore[arg-type]
    return [row.title for row in shelf_page(database, question, 0, 10).rows]


@given(
    st.lists(st.floats(0, 20), min_size=3, max_size=3).map(sorted),
    st.booleans(),
    st.lists(
        st.tuples(st.sampled_from(Side), st.one_of(st.floats(0, 20), st.sampled_from([0.0, 5.0]))),
        min_size=1,
        max_size=2,
        unique_by=lambda t: t[0],
    ),
)
def test_the_shelf_judges_as_the_core_does(
    ends: list[float], complete: bool, limits: list[tuple[Side, float]]
) -> None:
    low, value, high = ends
    figure = Figure(value, low, high, () if complete else ("x",))
    targets = tuple(Target("fat_g", side, limit) for side, limit in limits)
    standings = [target_status(figure, t).verdict for t in targets]
    wanted = (
        Meeting.MISSES
        if judging.Verdict.MISSES in standings
        else Meeting.MEETS
        if set(standings) == {judging.Verdict.MEETS}
        else Meeting.CLOSE
    )
    database = sqlite3.connect(":memory:", isolation_level=None)
    database.row_factory = sqlite3.Row
    apply_migrations(database)
    profile = save_profile(database, "p", "dip", "keep-good-fat", targets)
    recipe_id = create_recipe(database, RECIPE, profile)
    figures = {("fat_g", basis): ShelfFigure(figure, value) for basis in Basis}
    save_shelf_rows(
        database, [ShelfRow(recipe_id, 1, "Dip", "legume-dip", 8, 60, False, 0, True, figures)]
    )
    for meeting in Meeting:
        answer = shelf_page(database, ShelfQuery(meeting=meeting), 0, 5)
        assert (answer.total == 1) == (meeting is wanted), (meeting, wanted)
    database.close()


def test_filters_find_what_they_say(shelf: sqlite3.Connection) -> None:
    assert found(shelf) == ["Bean dip", "Cucumber salad", "Tahini dip"]
    assert found(shelf, text="tahi") == ["Tahini dip"]
    assert found(shelf, text="salt") == ["Bean dip", "Tahini dip"], "an ingredient is found too"
    assert found(shelf, meeting=Meeting.MISSES) == ["Tahini dip"]
    assert found(shelf, meeting=Meeting.MEETS) == ["Bean dip", "Cucumber salad"]
    assert found(shelf, free_from=("sesame", "milk")) == ["Bean dip"]
    assert found(shelf, school="no-added-oil-salt-sugar") == ["Cucumber salad"]
    assert found(shelf, kind="slaw") == []
    assert {title for _, title in recipes_called(shelf, "di", 5)} == {"Bean dip", "Tahini dip"}
    assert recipes_called(shelf, 'dip" OR', 5) == []
    sodium = shelf_page(shelf, ShelfQuery(order=Order.LEAST_SODIUM), 0, 10).rows
    assert [row.title for row in sodium] == ["Cucumber salad", "Bean dip", "Tahini dip"]
    first = shelf_page(shelf, ShelfQuery(order=Order.MOST_TO_DO), 0, 1)
    assert ([row.title for row in first.rows], first.total) == (["Tahini dip"], 3)
    assert [row.title for row in shelf_page(shelf, ShelfQuery(order=Order.NAME), 1, 1).rows] == [
        "Cucumber salad"
    ]


def test_another_profile_and_what_it_leaves_out_decide(shelf: sqlite3.Connection) -> None:
    strict = save_profile(
        shelf,
        "strict",
        "dip",
        "keep-good-fat",
        (Target("sodium_mg", Side.AT_MOST, 2000),),
        exclusions=frozenset({"milk"}),
    )
    assert found(shelf, profile_id=strict, meeting=Meeting.MEETS) == ["Bean dip", "Tahini dip"]
    assert found(shelf, profile_id=strict, meeting=Meeting.MISSES) == ["Cucumber salad"]
    per_100_g = save_profile(
        shelf,
        "thin",
        "dip",
        "keep-good-fat",
        (Target("fat_g", Side.AT_MOST, 9, Basis.HUNDRED_GRAMS),),
    )
    assert found(shelf, profile_id=per_100_g, meeting=Meeting.MEETS) == [
        "Bean dip",
        "Cucumber salad",
    ]


def test_what_may_hold_anything_is_never_said_to_be_free_of_it(
    tmp_path: Path, kitchen: Kitchen
) -> None:
    """A row of the composition table has no allergens on record, and a line not understood may
    bring any; some makers put sesame in a pita."""
    workbench = Workbench(tmp_path / "bench.db")
    bare = next(food.key for food in workbench.knowledge.pantry if not food.in_pantry)
    limits = (Target("sodium_mg", Side.AT_MOST, 2000),)
    with workbench.store() as connection:
        strict = save_profile(
            connection, "p", "dip", "keep-good-fat", limits, exclusions=frozenset({"sesame"})
        )
        known = create_recipe(connection, kitchen.recipe({"cucumber-peeled": "100 g"}), strict)
        table_only = create_recipe(
            connection, kitchen.recipe({"cucumber-peeled": "100 g", bare: "1 g"}), strict
        )
        lost = replace(kitchen.recipe({"cucumber-peeled": "100 g"}).lines[0], id="l2", food=None)
        unread = create_recipe(
            connection, kitchen.recipe({"cucumber-peeled": "100 g"}).with_added([lost]), strict
        )
        pita = create_recipe(connection, kitchen.recipe({"pita-white": "20 g"}), strict)
        assert workbench.work_out_shelf_rows() == 0

        def ids(**asked: object) -> set[int]:
            return {row.recipe_id for row in shelf_page(connection, ShelfQuery(**asked), 0, 9).rows}  # type: ignore[arg-type]

        assert ids() == {known, table_only, unread, pita}
        assert ids(free_from=("sesame",)) == {known}
        assert shelf_page(connection, ShelfQuery(free_from=("sesame",)), 0, 9).unsure == 3
        assert ids(meeting=Meeting.MEETS) == {known}
        assert ids(meeting=Meeting.CLOSE) == {table_only, unread, pita}


def test_states_follow_the_newest_version(shelf: sqlite3.Connection) -> None:
    assert found(shelf, state="to adapt") == ["Bean dip", "Cucumber salad", "Tahini dip"]
    now = edit(shelf, 1, 1, lambda r: r.without_line("l2"))
    save_version(shelf, 1, now.revision, "", "")
    assert found(shelf, state="adapted") == ["Tahini dip"]
    mark_version(shelf, 1, 2, MarkKind.TASTED, "P2", "")
    assert found(shelf, state="tasted") == ["Tahini dip"]
    mark_version(shelf, 1, 2, MarkKind.APPROVED, "D1", "")
    assert found(shelf, state="approved") == ["Tahini dip"]


def test_an_edit_and_a_changed_food_are_worked_out_again(tmp_path: Path, kitchen: Kitchen) -> None:
    workbench = Workbench(tmp_path / "bench.db")
    with workbench.store() as connection:
        recipe_id = create_recipe(
            connection, kitchen.recipe({"table-salt": "4 g", "tahini": "60 g"}), None
        )
        other = create_recipe(connection, kitchen.recipe({"tahini": "60 g"}), None)
        assert workbench.work_out_shelf_rows() == 0
        assert stale_recipe_ids(connection) == []
        before = shelf_page(connection, ShelfQuery(), 0, 5).rows
        edit(connection, recipe_id, 1, lambda r: r.without_line("l1"))
        assert stale_recipe_ids(connection) == [recipe_id]
        workbench.work_out_shelf_rows()
        after = next(
            r for r in shelf_page(connection, ShelfQuery(), 0, 5).rows if r.recipe_id == recipe_id
        )
        sodium = ("sodium_mg", Basis.SERVING)
        assert (
            after.figures[sodium].figure.value
            < 100
            < next(r for r in before if r.recipe_id == recipe_id).figures[sodium].figure.value
        )
        assert after.figures[sodium].original > 300
        save_own_food(connection, own(100.0))
        workbench.stock_own_foods(connection)
        assert stale_recipe_ids(connection) == [], "a new food changes no recipe"
        made = edit(connection, other, 1, lambda r: kitchen.recipe({"own-house-tahini": "60 g"}))
        workbench.work_out_shelf_rows()
        assert recipes_using(connection, "own-house-tahini") == [(other, made.recipe.title)]
        save_own_food(connection, own(200.0))
        workbench.stock_own_foods(connection)
        assert stale_recipe_ids(connection) == [other]


def test_figures_that_change_come_from_a_product_and_are_those_worked_out(
    tmp_path: Path, kitchen: Kitchen
) -> None:
    workbench = Workbench(tmp_path / "bench.db")
    with workbench.store() as connection:
        save_own_food(connection, own(100.0))
        workbench.stock_own_foods(connection)
        for number in range(1, 6):
            recipe = kitchen.recipe(
                {"own-house-tahini": f"{60 * number} g", "lemon-juice-fresh": "30 g"}
            )
            create_recipe(connection, recipe, None, pinned=workbench.pin(recipe))
        other = kitchen.recipe({"tahini": "60 g"})
        create_recipe(connection, other, None, pinned=workbench.pin(other))
        workbench.work_out_shelf_rows()

        def figures() -> dict[int, object]:
            return {
                row.recipe_id: row.figures
                for row in shelf_page(connection, ShelfQuery(), 0, 9).rows
            }

        before = figures()
        save_own_food(connection, own(200.0))
        workbench.stock_own_foods(connection)
        assert stale_recipe_ids(connection) == [], "nothing has to be worked out again"
        product = figures()
        connection.execute("DELETE FROM shelf_row")
        workbench.work_out_shelf_rows()
        worked_out = figures()
        changed = {i for i in before if product[i] != before[i]}
        assert changed == {1, 2, 3, 4, 5}
        for recipe_id, found in product.items():
            for place, shown in found.items():  # type: ignore[attr-defined]
                other_way = worked_out[recipe_id][place]  # type: ignore[index]
                assert shown.original == pytest.approx(other_way.original, rel=1e-9), (
                    "the original keeps its own"
                )
                ends = [(f.figure.value, f.figure.low, f.figure.high) for f in (shown, other_way)]
                assert ends[0] == pytest.approx(ends[1], rel=1e-9)
                assert shown.figure.complete == other_way.figure.complete
        heavier = own(200.0).model_copy(update={"like": "peanuts-raw"})
        save_own_food(connection, heavier)
        workbench.stock_own_foods(connection)
        assert set(stale_recipe_ids(connection)) == {1, 2, 3, 4, 5}, (
            "allergens are another food's: all anew"
        )


def test_a_word_that_weighs_otherwise_moves_the_recipes_that_say_it(tmp_path: Path) -> None:
    workbench = Workbench(tmp_path / "bench.db")
    with workbench.store() as connection:
        poured = read_recipe(
            "Oil\nServes 1\na glug of olive oil", workbench.reader, kind="vinaigrette"
        ).recipe
        create_recipe(connection, poured, None, pinned=workbench.pin(poured))
        workbench.work_out_shelf_rows()
        take_pour(connection, OwnMeasure("glug", "fat-oil", 7.0, 5.0, 9.0, 12))
        workbench.stock_own_foods(connection)
        workbench.work_out_shelf_rows()
        (row,) = shelf_page(connection, ShelfQuery(), 0, 5).rows
        assert row.figures["fat_g", Basis.SERVING].figure.value == pytest.approx(7.0, rel=0.02)


def test_standings_worked_out_while_foods_change_are_worked_out_again(
    tmp_path: Path, kitchen: Kitchen, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Else a process could keep how a recipe stood with the figures of before, after they have
    changed."""
    workbench, runs = Workbench(tmp_path / "bench.db"), list[list[int]]()

    def run(work: object, mark: object, due: list[int], *_: object, **__: object) -> None:
        with workbench.store() as connection:
            save_shelf_rows(connection, [workbench._standing(connection, one) for one in due])
            if not runs:
                save_own_food(connection, own(100.0))
                workbench.stock_own_foods(connection)
        runs.append(due)

    monkeypatch.setattr("fresh_ladle.web.state.SEARCHES.run", run)
    with workbench.store() as connection:
        for _ in range(70):
            create_recipe(connection, kitchen.recipe({"tahini": "60 g"}), None)
        assert workbench.refresh_shelf() == 10
        for thread in workbench.jobs._threads:
            thread.join(20)
        assert runs == [runs[0], runs[0]], "once more, and no further"
        assert stale_recipe_ids(connection) == []
