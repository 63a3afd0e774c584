"""A practice kept by any schema opens, answers on every page, and comes out as one file the
same."""

from __future__ import annotations

import re
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from fresh_ladle.store.database import apply_migrations, connect, newest_schema, open_database
from fresh_ladle.store.files.bundle import everything, restore_everything
from fresh_ladle.web.app import create_app
from fresh_ladle.web.door.access import access_table
from tests.test_migrations import landed_practice

SCHEMAS = range(1, newest_schema() + 1)
MAIN = ("/", "/recipes/{recipe_id}", "/recipes/{recipe_id}/card", "/foods", "/log")
ASKED_ALL = (1, 4, 5, newest_schema())
"""Where practices of each shape begin and end, every page is asked; once migrated, those between
are the same."""


def practice_of(schema: int, folder: Path) -> Path:
    """The landed practice as a file of a schema: older ones hold what they had tables and columns
    for."""
    newer = landed_practice(folder / "schema_5.db")
    if schema >= 5:
        with closing(connect(newer)) as connection:
            apply_migrations(connection, upto=schema)
        return newer
    path = folder / "older.db"
    with closing(connect(newer)) as full, closing(connect(path)) as older:
        apply_migrations(older, upto=schema)
        older.execute("PRAGMA foreign_keys = OFF")
        for (table,) in older.execute(
            "SELECT name FROM sqlite_master WHERE type = 'table' AND sql LIKE '%STRICT%'"
        ):
            _copy_rows(full, older, table)
    return path


def _copy_rows(full: sqlite3.Connection, older: sqlite3.Connection, table: str) -> None:
    columns = [row[1] for row in older.execute(f"PRAGMA table_info({table})")]
    rows = full.execute(f"SELECT {', '.join(columns)} FROM {table}").fetchall()
    marks = ", ".join("?" * len(columns))
    older.executemany(f"INSERT INTO {table} VALUES ({marks})", [tuple(row) for row in rows])


def asked(path: str) -> str:
    given = {
        "key": "tahini",
        "nutrient": "sodium_mg",
        "line_id": "l1",
        "form": "csv",
        "kind": "pdf",
    }
    return re.sub(r"\{(\w+)\}", lambda match: given.get(match[1], "1"), path)


@pytest.mark.slow
@pytest.mark.parametrize("schema", SCHEMAS)
def test_a_practice_of_any_schema_opens_answers_and_comes_out_the_same(
    schema: int, tmp_path: Path
) -> None:
    path = practice_of(schema, tmp_path)
    with closing(connect(path)) as before:
        assert before.execute("PRAGMA user_version").fetchone()[0] == schema
        titles = [row[0] for row in before.execute("SELECT title FROM recipe")]
    app = create_app(path)
    client = TestClient(app, raise_server_exceptions=False, follow_redirects=False)
    pages = (
        [row.path for row in access_table().values() if row.method == "GET"]
        if schema in ASKED_ALL
        else MAIN
    )
    answers = {path: client.get(asked(path)).status_code for path in pages}
    app.state.workbench.close()
    assert {path: status for path, status in answers.items() if status >= 500} == {}
    assert {answers[place] for place in MAIN} == {200}
    with (
        closing(open_database(path)) as now,
        closing(open_database(tmp_path / "again.db")) as again,
    ):
        assert [row[0] for row in now.execute("SELECT title FROM recipe")] == titles != []
        out = everything(now)
        assert restore_everything(again, out) == len(titles)
        assert everything(again) == out
    if schema >= 5:
        with closing(open_database(landed_practice(tmp_path / "straight.db"))) as straight:
            assert everything(straight) == out, "every step on the way is the same as all at once"
