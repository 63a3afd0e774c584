"""How a recipe stands on the Shelf, worked out here or in a process."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Callable, Iterable, Sequence
from contextlib import closing
from dataclasses import replace

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import School
from fresh_ladle.core.recipes.pinning import changed_foods, foods_of
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.store.database import connect
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import Version, version
from fresh_ladle.store.recipes.shelf import ShelfRow, save_shelf_rows, shelf_row_of
from fresh_ladle.web.work.processes import Telling
from fresh_ladle.web.work.stock import StockMark, knowledge_at

AT_ONCE = 50
"""Recipes kept in one transaction."""


def appraised_as_pinned(
    recipe: Recipe, pinned: str, knowledge: Knowledge, now: Callable[[Recipe], Appraisal]
) -> Appraisal:
    """A version worked out with the figures pinned to it as JSON; `now` works one out with those of
    today."""
    changed = changed_foods(json.loads(pinned), knowledge.pantry)
    if not changed:
        return now(recipe)
    return appraise(recipe, replace(knowledge, pantry=knowledge.pantry.with_foods(changed)))


def standing_of(
    connection: sqlite3.Connection,
    recipe_id: int,
    schools: Iterable[School],
    now: Callable[[Recipe], Appraisal],
    as_pinned: Callable[[Version], Appraisal],
) -> ShelfRow:
    """One recipe as the Shelf shows it."""
    work, first = draft(connection, recipe_id), version(connection, recipe_id, 1)
    pinned = set(json.loads(first.pinned)) >= set(foods_of(first.recipe))
    return shelf_row_of(work, now(work.recipe), as_pinned(first), schools, pinned)


def work_out_standings(
    telling: Telling, stock: StockMark, recipe_ids: Sequence[int], schools: Sequence[School]
) -> None:
    """Works out how recipes stand and keeps it, in a process of searches."""
    knowledge = knowledge_at(stock)

    def now(recipe: Recipe) -> Appraisal:
        return appraise(recipe, knowledge)

    def as_pinned(one: Version) -> Appraisal:
        return appraised_as_pinned(one.recipe, one.pinned, knowledge, now)

    with closing(connect(stock.database)) as connection:
        for start in range(0, len(recipe_ids), AT_ONCE):
            part = recipe_ids[start : start + AT_ONCE]
            if telling.stopped():
                return
            save_shelf_rows(
                connection, [standing_of(connection, one, schools, now, as_pinned) for one in part]
            )
