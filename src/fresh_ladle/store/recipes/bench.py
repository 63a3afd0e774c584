"""Bowls at the bench: each event is on disk before the screen answers, and none is ever deleted."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.bench.log import BenchEvent, BenchLog
from fresh_ladle.core.recipes.recipe import Line, RecipeError
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.document import (
    from_document,
    line_from_json,
    line_to_json,
    to_document,
)
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import RecipeMissing

MAX_EVENTS = 150


@dataclass(frozen=True, slots=True)
class Bench:
    """One bowl of a recipe. `by` is the cook's code, never a name; `ended_as` is empty while it is
    open, else whether it became the `recipe` or was `left`."""

    id: int
    recipe_id: int
    base_revision: int
    by: str
    started_at: str
    ended_at: str
    ended_as: str
    log: BenchLog


def start_bench(connection: sqlite3.Connection, recipe_id: int, full: bool, by: str) -> Bench:
    """Opens a bowl on the draft as it stands, unless one is open already: then that one. Raises
    RecipeMissing."""
    with writing(connection):
        now = draft(connection, recipe_id)
        if (there := open_bench(connection, recipe_id)) is not None:
            return there
        connection.execute(
            "INSERT INTO bench (recipe_id, base, base_revision, full, by_code, started_at) VALUES"
            " (?, ?, ?, ?, ?, ?)",
            (recipe_id, to_document(now.recipe), now.revision, int(full), by, now_text()),
        )
    found = open_bench(connection, recipe_id)
    assert found is not None
    return found


def open_bench(connection: sqlite3.Connection, recipe_id: int) -> Bench | None:
    """The bowl that is being seasoned, if any."""
    row = connection.execute(
        "SELECT * FROM bench WHERE recipe_id = ? AND ended_at IS NULL", (recipe_id,)
    ).fetchone()
    return _bench(connection, row) if row else None


def benches(connection: sqlite3.Connection, recipe_id: int) -> list[Bench]:
    """All bowls of a recipe, the latest first."""
    rows = connection.execute(
        "SELECT * FROM bench WHERE recipe_id = ? ORDER BY id DESC", (recipe_id,)
    ).fetchall()
    return [_bench(connection, row) for row in rows]


def bench(connection: sqlite3.Connection, bench_id: int) -> Bench:
    """Raises RecipeMissing when there is no such bowl."""
    row = connection.execute("SELECT * FROM bench WHERE id = ?", (bench_id,)).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no bowl {bench_id}")
    return _bench(connection, row)


def add_event(
    connection: sqlite3.Connection, bench_id: int, text: str, line: Line, token: str
) -> Bench:
    """Adds what went in; the same form sent twice, known by its token, counts once. Raises
    RecipeMissing, and RecipeError for a bowl that is closed or full."""
    with writing(connection):
        now = _opened(connection, bench_id)
        known = connection.execute(
            "SELECT 1 FROM bench_event WHERE bench_id = ? AND token = ?", (bench_id, token)
        ).fetchone()
        if known is None:
            if len(now.log.events) >= MAX_EVENTS:
                raise RecipeError(
                    f"a bowl takes at most {MAX_EVENTS} additions: make it the recipe, and go on"
                    " from there"
                )
            seq = max((e.seq for e in now.log.events), default=0) + 1
            connection.execute(
                "INSERT INTO bench_event (bench_id, seq, at, text, line, token) VALUES (?, ?, ?, ?,"
                " ?, ?)",
                (bench_id, seq, now_text(), text, line_to_json(line), token),
            )
    return bench(connection, bench_id)


def strike_event(connection: sqlite3.Connection, bench_id: int, seq: int, struck: bool) -> Bench:
    """Strikes an event out, or lets it count again. Raises RecipeMissing, and RecipeError for a
    bowl that is closed."""
    with writing(connection):
        _opened(connection, bench_id)
        connection.execute(
            "UPDATE bench_event SET struck_at = ? WHERE bench_id = ? AND seq = ?",
            (now_text() if struck else None, bench_id, seq),
        )
    return bench(connection, bench_id)


def end_bench(connection: sqlite3.Connection, bench_id: int, ended_as: str) -> None:
    """Closes a bowl, as the recipe or left; its log stays. Raises RecipeMissing and RecipeError."""
    with writing(connection):
        _opened(connection, bench_id)
        connection.execute(
            "UPDATE bench SET ended_at = ?, ended_as = ? WHERE id = ?",
            (now_text(), ended_as, bench_id),
        )


def _opened(connection: sqlite3.Connection, bench_id: int) -> Bench:
    now = bench(connection, bench_id)
    if now.ended_at:
        raise RecipeError("this bowl is closed: begin another")
    return now


def _bench(connection: sqlite3.Connection, row: sqlite3.Row) -> Bench:
    events = connection.execute(
        "SELECT * FROM bench_event WHERE bench_id = ? ORDER BY seq", (row["id"],)
    )
    log = BenchLog(
        from_document(row["base"]),
        bool(row["full"]),
        tuple(
            BenchEvent(
                e["seq"], e["at"], e["text"], line_from_json(e["line"]), e["struck_at"] is not None
            )
            for e in events
        ),
    )
    return Bench(
        row["id"],
        row["recipe_id"],
        row["base_revision"],
        row["by_code"],
        row["started_at"],
        row["ended_at"] or "",
        row["ended_as"] or "",
        log,
    )
