"""Copies out and back in: what is not a whole workbench never replaces one, and no former copy is
lost."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fresh_ladle.cli import main
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.store.database import StoreError, only_one, open_database
from fresh_ladle.store.files.backups import back_up, check_copy, checksum_file, restore
from fresh_ladle.store.files.daily_backups import (
    back_up_today,
    backup_folder,
    clear_unfinished,
    copies,
    copy_by_hand,
    worth_keeping,
)
from fresh_ladle.store.recipes.drafts import StaleEdit, create_recipe, draft, edit
from fresh_ladle.store.recipes.recipes import versions


def practice(path: Path, title: str) -> Path:
    """A workbench with one recipe."""
    with closing(open_database(path)) as connection:
        create_recipe(
            connection,
            Recipe(title, (Line("l1", "1 cup tahini", "1 cup", "tahini"),), "legume-dip", 8),
            None,
        )
    return path


def title(path: Path) -> str:
    with closing(open_database(path)) as connection:
        return versions(connection, 1)[0].recipe.title


def truncated(path: Path) -> None:
    path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])


def another_programs(path: Path) -> None:
    path.unlink()
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("CREATE TABLE songs (title TEXT)")
        connection.execute("PRAGMA user_version = 3")
        connection.commit()


def newer(path: Path) -> None:
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("PRAGMA user_version = 99")


def dangling(path: Path) -> None:
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("UPDATE draft SET recipe_id = 77")
        connection.commit()


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda path: path.unlink(), "is not there"),
        (lambda path: path.write_bytes(b""), "holds no workbench"),
        (lambda path: path.write_bytes(b"junk" * 999), "cannot be read"),
        (another_programs, "another program's"),
        (truncated, "damaged|cannot be read"),
        (newer, "newer version"),
        (dangling, "damaged"),
    ],
    ids=["mistyped", "empty", "junk", "another program's", "truncated", "newer", "dangling"],
)
def test_what_is_not_a_whole_workbench_replaces_nothing(
    spoil, says: str, tmp_path: Path, capsys
) -> None:  # type: ignore[no-untyped-def]
    live, copy = practice(tmp_path / "live.db", "Live"), practice(tmp_path / "copy.db", "Copy")
    spoil(copy)
    with pytest.raises(StoreError, match=says):
        restore(copy, live)
    assert main(["restore", str(copy), "--database", str(live)]) == 1
    assert "Nothing was changed" in capsys.readouterr().err
    assert title(live) == "Live"
    assert not list(tmp_path.glob("*.before-restore*"))


def test_every_former_copy_is_kept(tmp_path: Path) -> None:
    live, copy = practice(tmp_path / "live.db", "Live"), practice(tmp_path / "copy.db", "Copy")
    other = practice(tmp_path / "other.db", "Other")
    first, second = restore(copy, live), restore(other, live)
    assert title(live) == "Other"
    assert first is not None
    assert second is not None
    assert (title(first), title(second)) == ("Live", "Copy")


def test_a_copy_is_read_and_left_as_it_was(tmp_path: Path) -> None:
    copy = practice(tmp_path / "shelf" / "copy.db", "Copy")
    before = copy.read_bytes()
    assert restore(copy, tmp_path / "new.db") is None
    assert title(tmp_path / "new.db") == "Copy"
    assert copy.read_bytes() == before
    assert list(copy.parent.iterdir()) == [copy]


def test_a_damaged_database_is_kept_as_it_is_when_a_copy_replaces_it(tmp_path: Path) -> None:
    copy, live = practice(tmp_path / "copy.db", "Copy"), tmp_path / "live.db"
    live.write_bytes(b"not a database " * 400)
    former = restore(copy, live)
    assert title(live) == "Copy"
    assert former is not None
    assert former.read_bytes().startswith(b"not a database")


def test_a_workbench_that_runs_meanwhile_sees_what_was_restored(tmp_path: Path) -> None:
    live, copy = practice(tmp_path / "live.db", "Live"), practice(tmp_path / "copy.db", "Copy")
    with closing(open_database(live)) as running:
        restore(copy, live)
        assert versions(running, 1)[0].recipe.title == "Copy"


def test_a_backup_is_of_something_and_overwrites_nothing(tmp_path: Path, capsys) -> None:  # type: ignore[no-untyped-def]
    live, copy = practice(tmp_path / "live.db", "Live"), tmp_path / "copy.db"
    back_up(live, copy)
    assert title(copy) == "Live"
    for command, database, target in (
        ("backup", tmp_path / "missing.db", tmp_path / "new.db"),
        ("export", tmp_path / "missing.db", tmp_path / "new.json"),
        ("backup", live, copy),
        ("backup", live, live),
    ):
        assert main([command, str(target), "--database", str(database)]) == 1
    assert "is not there" in capsys.readouterr().err
    assert not (tmp_path / "missing.db").exists()
    assert not (tmp_path / "new.db").exists()
    assert title(live) == "Live"


def test_another_programs_file_is_not_taken_for_a_new_workbench(tmp_path: Path) -> None:
    path = tmp_path / "songs.db"
    path.touch()
    another_programs(path)
    with pytest.raises(StoreError, match="another program's"):
        open_database(path)
    with closing(sqlite3.connect(path)) as connection:
        assert connection.execute("SELECT count(*) FROM sqlite_master").fetchone()[0] == 1


def test_a_copy_a_day_that_opens_and_no_second_one(tmp_path: Path) -> None:
    database, day = practice(tmp_path / "kitchen.db", "Hummus"), date(2027, 3, 4)
    made = back_up_today(database, day)
    assert made is not None
    assert title(made) == "Hummus"
    assert back_up_today(database, day) is None
    assert max(backup_folder(database).glob("????-??-??.db")) == made
    restore(made, tmp_path / "again.db")
    assert title(tmp_path / "again.db") == "Hummus"


def test_copies_are_kept_by_day_week_and_month_and_others_let_go(tmp_path: Path) -> None:
    database, first = practice(tmp_path / "kitchen.db", "Hummus"), date(2026, 1, 1)
    folder = backup_folder(database)
    folder.mkdir()
    days = [first + timedelta(days=n) for n in range(500)]
    for day in days:
        (folder / f"{day}.db").write_bytes(b"")
    (folder / "notes.txt").write_text("mine", encoding="utf-8")
    back_up_today(database, days[-1] + timedelta(days=1))
    left = sorted(date.fromisoformat(p.stem) for p in folder.glob("????-??-??.db"))
    assert left[-7:] == [days[-1] + timedelta(days=1 - n) for n in range(7)][::-1]
    assert 7 + 4 + 12 - 1 <= len(left) <= 7 + 4 + 12, "a week may begin with a month"
    months = {(day.year, day.month) for day in left}
    assert len(months) >= 12
    assert (folder / "notes.txt").exists()


@given(st.sets(st.dates(date(2020, 1, 1), date(2030, 12, 31)), max_size=60))
def test_the_newest_week_of_copies_is_always_worth_keeping(days: set[date]) -> None:
    kept = worth_keeping(days)
    assert set(sorted(days)[-7:]) <= kept <= days
    assert worth_keeping(kept) <= kept
    assert len(kept) <= 7 + 4 + 12


def test_a_copy_of_a_damaged_workbench_is_not_kept(tmp_path: Path) -> None:
    database = practice(tmp_path / "kitchen.db", "Hummus")
    good = back_up_today(database, date(2027, 3, 4))
    truncated(database)
    with pytest.raises(StoreError):
        back_up_today(database, date(2027, 3, 5))
    assert max(backup_folder(database).glob("????-??-??.db")) == good
    assert {p.name for p in backup_folder(database).iterdir()} == {
        "2027-03-04.db",
        "2027-03-04.db.sha256",
    }


def test_a_copy_carries_its_checksum_and_one_that_was_changed_is_not_put_back(
    tmp_path: Path,
) -> None:
    database, copy = practice(tmp_path / "kitchen.db", "Hummus"), tmp_path / "copy.db"
    back_up(database, copy)
    (stands, name) = checksum_file(copy).read_text().split()
    assert (len(stands), name) == (64, "copy.db")
    check_copy(copy)
    with closing(sqlite3.connect(copy)) as connection:
        connection.execute("UPDATE recipe SET title = 'Other'")
        connection.commit()
    for refused in (check_copy, lambda path: restore(path, database)):
        with pytest.raises(StoreError, match="not as it was made"):
            refused(copy)
    assert title(database) == "Hummus"
    day = back_up_today(database, date(2027, 3, 4))
    assert day is not None
    assert checksum_file(day).read_text().split()[1] == "2027-03-04.db"
    for number in range(1, 40):
        back_up_today(database, date(2027, 3, 4) + timedelta(days=number))
    left = {path.name for path in backup_folder(database).iterdir()}
    assert {name.removesuffix(".sha256") for name in left} == {
        copy.name for copy in copies(database)
    }
    assert len(left) == 2 * len(copies(database)), "a copy and its checksum go together"


def test_what_a_killed_copy_has_left_is_cleared_at_the_start(tmp_path: Path) -> None:
    database = practice(tmp_path / "kitchen.db", "Hummus")
    kept = copy_by_hand(database)
    folder = backup_folder(database)
    for name in (
        "2027-03-04.being-made",
        "2027-03-04.being-made-journal",
        "by-hand-20270304-120000.being-made",
    ):
        (folder / name).write_bytes(b"half")
    (tmp_path / ".restoring-abc").mkdir()
    (tmp_path / ".restoring-abc" / "staged.db").write_bytes(b"half")
    clear_unfinished(database)
    assert {path.name for path in folder.iterdir()} == {kept.name, checksum_file(kept).name}
    assert not (tmp_path / ".restoring-abc").exists()


def test_one_workbench_holds_a_file_by_whatever_name_it_is_called_and_none_is_put_back_under_it(
    tmp_path: Path,
) -> None:
    database, copy = practice(tmp_path / "kitchen.db", "Hummus"), tmp_path / "copy.db"
    back_up(database, copy)
    (tmp_path / "elsewhere").mkdir()
    link = tmp_path / "elsewhere" / "link.db"
    link.symlink_to(database)
    with only_one(database):
        with pytest.raises(StoreError, match="another workbench is running"), only_one(link):
            pass
        for name in (database, link):
            with pytest.raises(StoreError, match="another workbench is running"):
                restore(copy, name)
    restore(copy, database)


def test_a_revision_is_never_used_twice_after_a_copy_is_put_back(tmp_path: Path) -> None:
    """A page drawn before it is not taken for one of what came after, nor one of a recipe that is
    gone for another."""
    database, copy = practice(tmp_path / "kitchen.db", "Hummus"), tmp_path / "copy.db"
    back_up(database, copy)
    with closing(open_database(database)) as connection:
        seen = edit(connection, 1, 1, lambda recipe: replace(recipe, servings=6)).revision
        gone = create_recipe(connection, draft(connection, 1).recipe, None)
    for _ in range(2):
        restore(copy, database)
        with closing(open_database(database)) as connection:
            begins = draft(connection, 1).revision
            assert begins > seen
            with pytest.raises(StaleEdit):
                edit(connection, 1, seen, lambda recipe: replace(recipe, title="Another"))
            made = edit(connection, 1, begins, lambda recipe: replace(recipe, servings=5))
            other = create_recipe(connection, made.recipe, None)
            assert other == gone
            with pytest.raises(StaleEdit):
                edit(connection, other, 1, lambda recipe: replace(recipe, title="Another"))
            seen = made.revision


def test_of_what_is_older_the_newest_weeks_and_months_are_kept() -> None:
    """Two years of a copy each day: the first of each of the last four weeks and twelve months
    before the newest seven days."""
    last = date(2027, 6, 30)
    kept = worth_keeping([last - timedelta(days=n) for n in range(730)])
    newest = {last - timedelta(days=n) for n in range(7)}
    mondays = {date(2027, 6, 21), date(2027, 6, 14), date(2027, 6, 7), date(2027, 5, 31)}
    firsts = {date(2027, month, 1) for month in range(1, 7)} | {
        date(2026, month, 1) for month in range(7, 13)
    }
    assert kept == newest | mondays | firsts
