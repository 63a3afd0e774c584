"""The store: versions never change, drafts undo across restarts, stale edits are refused, nothing
is half saved."""

from __future__ import annotations

import os
import signal
import sqlite3
import subprocess
import sys
from collections.abc import Iterable
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.targets import Basis, Firmness, Side, Target
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.edits import Edit, EditKind, edit_words
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.store.database import (
    StoreError,
    backup,
    connect,
    migrate,
    newest_schema,
    open_database,
    schema_version,
)
from fresh_ladle.store.foods.foods import load_shipped_foods, search_foods
from fresh_ladle.store.foods.own_schools import own_schools, save_school
from fresh_ladle.store.people.people import (
    PeopleError,
    add_person,
    change_role,
    choose_password_by_link,
    end_account,
    people,
)
from fresh_ladle.store.recipes.document import from_document, to_document
from fresh_ladle.store.recipes.drafts import (
    StaleEdit,
    create_recipe,
    draft,
    edit,
    edits_since_version,
    recipe_at,
    redo,
    restore_version,
    save_version,
    undo,
)
from fresh_ladle.store.recipes.marks import MarkKind, mark_version, marks
from fresh_ladle.store.recipes.profiles import all_profiles, delete_profile, save_profile
from fresh_ladle.store.recipes.recipes import RecipeMissing, version, versions

RECIPE = Recipe(
    "Dip",
    (
        Line("l1", "1 cup tahini", "1 cup", "tahini"),
        Line("l2", "salt", "", "table-salt", asides=frozenset({Aside.TO_TASTE})),
    ),
    "legume-dip",
    8,
)


@pytest.fixture
def database(tmp_path: Path) -> sqlite3.Connection:
    return open_database(tmp_path / "test.db")


def words(edits: Iterable[Edit] | None) -> list[str]:
    return [edit_words(edit) for edit in edits or ()]


def named(text: str) -> Edit:
    return Edit(EditKind.SWAP, {"title": text})


def retitled(title: str):  # type: ignore[no-untyped-def]
    return lambda recipe: replace(recipe, title=title)


text = st.text(st.characters(codec="utf-8", exclude_characters="\x00"), max_size=30)


@given(
    st.lists(st.tuples(text, text, st.booleans(), st.floats(0, 1)), max_size=5),
    st.floats(0.1, 5000),
)
def test_a_document_reads_back_as_the_same_recipe(
    parts: list[tuple[str, str, bool, float]], servings: float
) -> None:
    lines = tuple(
        Line(f"l{n}", t, a, "tahini" if known else None, eaten=eaten, named=t)
        for n, (t, a, known, eaten) in enumerate(parts)
    )
    recipe = Recipe("Någon", lines, "slaw", servings)
    assert from_document(to_document(recipe)) == recipe


def test_the_original_is_kept_and_work_happens_in_a_draft(database: sqlite3.Connection) -> None:
    recipe_id = create_recipe(database, RECIPE, None)
    now = edit(database, recipe_id, 1, retitled("Better dip"))
    assert now.changed
    assert version(database, recipe_id, 1).recipe == RECIPE
    kept = save_version(database, recipe_id, now.revision, "better", "why not")
    assert (kept.number, kept.recipe.title) == (2, "Better dip")
    assert not draft(database, recipe_id).changed
    assert [v.name for v in versions(database, recipe_id)] == ["original", "better"]


def test_an_accepted_version_cannot_be_changed(database: sqlite3.Connection) -> None:
    create_recipe(database, RECIPE, None)
    with pytest.raises(sqlite3.IntegrityError, match="cannot be changed"):
        database.execute("UPDATE version SET name = 'forged'")


def test_undo_and_redo_survive_a_restart(tmp_path: Path) -> None:
    path = tmp_path / "undo.db"
    with closing(open_database(path)) as first:
        recipe_id = create_recipe(first, RECIPE, None)
        for title in ("one", "two"):
            edit(
                first,
                recipe_id,
                draft(first, recipe_id).revision,
                retitled(title),
                named(f"to {title}"),
            )
    with closing(open_database(path)) as second:
        assert words(draft(second, recipe_id).undo) == ["swap: to two"]

        def step(go):  # type: ignore[no-untyped-def]
            return go(second, recipe_id, draft(second, recipe_id).revision).recipe

        assert step(undo).title == "one"
        assert step(undo) == RECIPE
        assert step(undo) == RECIPE
        assert step(redo).title == "one"
        edit(
            second, recipe_id, draft(second, recipe_id).revision, retitled("three"), named("branch")
        )
        assert draft(second, recipe_id).redo is None
        assert words(edits_since_version(second, recipe_id)) == ["swap: to one", "swap: branch"]
        assert [step(undo).title, step(undo).title] == ["one", "Dip"]
        assert [step(redo).title, step(redo).title] == [
            "one",
            "three",
        ], "the newest branch is done again"
        kept = second.execute(
            "SELECT count(*) FROM draft_state WHERE edits LIKE '%to two%'"
        ).fetchone()[0]
        assert kept == 1, "what was undone is not thrown away"


def test_a_second_tab_cannot_overwrite_silently(database: sqlite3.Connection) -> None:
    recipe_id = create_recipe(database, RECIPE, None)
    seen = draft(database, recipe_id).revision
    edit(database, recipe_id, seen, retitled("first"), named("first tab"))
    with pytest.raises(StaleEdit):
        edit(database, recipe_id, seen, retitled("second"), named("second tab"))
    with pytest.raises(StaleEdit):
        save_version(database, recipe_id, seen, "stale", "")
    for go in (undo, redo):
        with pytest.raises(StaleEdit):
            go(database, recipe_id, seen)
    assert draft(database, recipe_id).recipe.title == "first"
    assert recipe_at(database, recipe_id, seen) == RECIPE
    after = restore_version(database, recipe_id, 1)
    assert words(edits_since_version(database, recipe_id)) == [
        "swap: first tab",
        "version 1 brought back",
    ]
    assert after.revision > seen + 1, "a page drawn before the restore is stale too"
    assert undo(database, recipe_id, after.revision).recipe.title == "first", (
        "bringing a version back can be undone"
    )


def test_a_version_keeps_the_story_of_its_edits(database: sqlite3.Connection) -> None:
    recipe_id = create_recipe(database, RECIPE, None)
    now = edit(
        database, recipe_id, 1, lambda r: r.with_line(replace(r.line("l1"), amount="1/2 cup"))
    )
    now = edit(database, recipe_id, now.revision, lambda r: r.without_line("l2"), named("half"))
    kept = save_version(database, recipe_id, now.revision, "less", "for D2")
    assert words(kept.edits) == ["1 cup tahini: 1 cup → 1/2 cup", "swap: half"]
    assert edits_since_version(database, recipe_id) == []
    mark_version(database, recipe_id, 2, MarkKind.TASTED, "P4", "flat")
    mark_version(database, recipe_id, 2, MarkKind.APPROVED, "D1", "")
    assert [(m.number, m.kind, m.by, m.remark) for m in marks(database, recipe_id)] == [
        (2, "tasted", "P4", "flat"),
        (2, "approved", "D1", ""),
    ]


def test_an_edit_that_fails_leaves_nothing_behind(database: sqlite3.Connection) -> None:
    recipe_id = create_recipe(database, RECIPE, None)
    before = draft(database, recipe_id)
    with pytest.raises(ZeroDivisionError):
        edit(
            database, recipe_id, 1, lambda recipe: replace(recipe, servings=1 / 0), named("breaks")
        )
    assert draft(database, recipe_id) == before


def test_missing_recipes_say_so(database: sqlite3.Connection) -> None:
    with pytest.raises(RecipeMissing):
        draft(database, 99)


def test_an_acknowledged_edit_survives_kill_9(tmp_path: Path) -> None:
    path = tmp_path / "killed.db"
    with closing(open_database(path)) as connection:
        recipe_id = create_recipe(connection, RECIPE, None)
    script = f"""
import sys
from dataclasses import replace
from pathlib import Path
from fresh_ladle.store.database import open_database
from fresh_ladle.store.recipes.drafts import draft, edit
connection = open_database(Path({str(path)!r}))
for n in range(1000):
    edit(connection, {recipe_id}, draft(connection, {recipe_id}).revision, lambda r: replace(r, title=f"edit {{n}}"))
    print(n, flush=True)
"""
    process = subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    acknowledged = -1
    for line in process.stdout:
        acknowledged = int(line)
        if acknowledged == 12:
            os.kill(process.pid, signal.SIGKILL)
            break
    acknowledged = max([acknowledged, *(int(x) for x in process.stdout.read().split())])
    process.wait()
    with closing(open_database(path)) as connection:
        kept = int(draft(connection, recipe_id).recipe.title.split()[1])
    assert kept >= acknowledged


def test_every_past_schema_migrates_and_is_backed_up_first(tmp_path: Path) -> None:
    newest = newest_schema()
    for number in range(1, newest + 1):
        path = tmp_path / f"from{number}.db"
        with closing(connect(path)) as old:
            migrate(old, path, upto=number)
            assert schema_version(old) == number
        with closing(open_database(path)) as now:
            assert schema_version(now) == newest
        assert path.with_name(f"{path.name}.before-schema-{newest}").exists() == (number < newest)


def test_a_file_that_is_no_database_and_a_newer_one_are_refused(tmp_path: Path) -> None:
    junk = tmp_path / "junk.db"
    junk.write_bytes(b"this is not a database at all" * 40)
    with pytest.raises(StoreError, match="cannot be used"):
        open_database(junk)
    newer = tmp_path / "newer.db"
    with closing(open_database(newer)) as connection:
        connection.execute("PRAGMA user_version = 99")
    with pytest.raises(StoreError, match="newer version"):
        open_database(newer)


def test_a_backup_is_a_whole_copy(database: sqlite3.Connection, tmp_path: Path) -> None:
    recipe_id = create_recipe(database, RECIPE, None)
    backup(database, tmp_path / "copy.db")
    with closing(open_database(tmp_path / "copy.db")) as copy:
        assert draft(copy, recipe_id).recipe == RECIPE


def test_foods_load_once_and_are_found_as_typed(
    database: sqlite3.Connection, pantry: Pantry
) -> None:
    assert load_shipped_foods(database, pantry)
    assert not load_shipped_foods(database, pantry)
    feta = pantry["feta"]
    for told in (
        {"traits": replace(feta.traits, may_contain=frozenset({"egg"}))},
        {"measures": feta.measures[1:]},
        {"taste": None},
    ):
        changed = pantry.with_foods([replace(feta, **told)])
        assert load_shipped_foods(database, changed), (
            "standings rest on it, so they are worked out anew"
        )
        assert not load_shipped_foods(database, changed)
    assert search_foods(database, "rocket")[0].key == "arugula"
    assert search_foods(database, "rocket")[0].matched == "rocket"
    assert search_foods(database, 'tah" OR 1=1 --') == []
    unknown = database.execute(
        "SELECT count(*) FROM food_figure WHERE per_100_g IS NULL"
    ).fetchone()[0]
    assert unknown > 1000


def test_profiles_keep_their_targets(database: sqlite3.Connection) -> None:
    targets = (
        Target("fiber_g", Side.AT_LEAST, 3, firmness=Firmness.SOFT),
        Target("sodium_mg", Side.AT_MOST, 140, Basis.HUNDRED_GRAMS),
        Target("sodium_mg", Side.AT_LEAST, 10),
    )
    out = frozenset({"sesame", "feta"})
    number = save_profile(database, "side dish", "side", "keep-good-fat", targets, exclusions=out)
    (kept,) = all_profiles(database)
    assert set(kept.targets) == set(targets)
    assert kept.exclusions == out
    save_profile(
        database, "side dish, again", "side", "keep-good-fat", targets[:1], profile_id=number
    )
    assert [(p.name, p.targets) for p in all_profiles(database)] == [
        ("side dish, again", targets[:1])
    ]
    recipe_id = create_recipe(database, RECIPE, number)
    save_profile(database, "side dish", "side", "keep-good-fat", targets)
    assert delete_profile(database, number) == 1
    assert draft(database, recipe_id).profile_id is None
    with pytest.raises(sqlite3.IntegrityError):
        save_profile(database, "side dish", "side", "keep-good-fat", targets)
    assert len(all_profiles(database)) == 1


def test_schools_are_told_apart_by_their_names(database: sqlite3.Connection) -> None:
    names = ["Depot lean", "Dépôt lean", "depot-lean", "塩なし"]
    for name in names:
        save_school(database, name, name, True, False, False, False)
    assert {s.name for s in own_schools(database)} == set(names)
    save_school(database, "DEPOT LEAN", "changed", False, False, False, False)
    assert [s.creed for s in own_schools(database) if s.id == "own-depot-lean"] == ["changed"]
    with pytest.raises(ValueError, match="needs a name"):
        save_school(database, "  ", "", True, False, False, False)


def test_redo_is_called_by_what_it_does_the_newest_edit_undone_here(
    database: sqlite3.Connection,
) -> None:
    recipe_id = create_recipe(database, RECIPE, None)
    for servings in (5, 6, 7):
        now = draft(database, recipe_id)
        made = edit(
            database,
            recipe_id,
            now.revision,
            lambda recipe, n=servings: replace(recipe, servings=n),
        )
        undo(database, recipe_id, made.revision)
    now = draft(database, recipe_id)
    assert words(now.redo)[0].endswith("7 servings")
    assert redo(database, recipe_id, now.revision).recipe.servings == 7


def test_an_owner_who_has_no_password_yet_does_not_count_as_one_that_is_left(
    database: sqlite3.Connection,
) -> None:
    first, second = (add_person(database, initials, Role.OWNER) for initials in ("AA", "BB"))
    choose_password_by_link(database, first, "plum tin ladder 4")
    one, other = people(database)
    for leave in (
        lambda person: change_role(database, person, Role.COOK),
        lambda person: end_account(database, person),
    ):
        with pytest.raises(PeopleError, match="last owner"):
            leave(one.id)
    choose_password_by_link(database, second, "plum tin ladder 5")
    change_role(database, one.id, Role.COOK)
    with pytest.raises(PeopleError, match="last owner"):
        end_account(database, other.id)
