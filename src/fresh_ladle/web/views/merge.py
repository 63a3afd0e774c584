"""An edit that came too late: what changed meanwhile, what it would change, and what has to be decided."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass

from fresh_ladle.core.recipes.changes import changes_between
from fresh_ladle.core.recipes.edits import edit_words
from fresh_ladle.core.recipes.merge import Conflict, merge
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.wording import display_amount
from fresh_ladle.store.document import to_document
from fresh_ladle.store.drafts import draft


@dataclass(frozen=True, slots=True)
class MergeView:
    """`mine` is the recipe as the late edit would make it, as a document; `base` the revision both edits began from."""

    base: int
    mine: str
    theirs: list[str]
    mine_changes: list[str]
    conflicts: list[Conflict]


def merge_view(
    connection: sqlite3.Connection, recipe_id: int, base_revision: int, base: Recipe, mine: Recipe
) -> MergeView:
    theirs = draft(connection, recipe_id).recipe
    conflicts = [
        Conflict(c.id, c.name, display_amount(c.theirs), display_amount(c.mine))
        for c in merge(base, mine, theirs).conflicts
    ]
    return MergeView(
        base_revision,
        to_document(mine),
        _changes(base, theirs) or ["the same as before, by way of other edits"],
        _changes(base, mine),
        conflicts,
    )


def _changes(before: Recipe, after: Recipe) -> list[str]:
    return [display_amount(edit_words(edit)) for edit in changes_between(before, after)]
