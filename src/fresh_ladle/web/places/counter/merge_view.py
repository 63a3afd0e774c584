"""An edit that waits: whose it is, what changed meanwhile, what it would change, and what has to be
decided."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from fresh_ladle.core.nutrients.wording import display_amount
from fresh_ladle.core.recipes.changes import changes_between
from fresh_ladle.core.recipes.edits import edit_words
from fresh_ladle.core.recipes.merge import Conflict, merge
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.store.recipes.waiting_edits import WaitingEdit


@dataclass(frozen=True, slots=True)
class MergeView:
    """One edit that waits; `others` is how many more do. `late` is one that has just come, on this
    page."""

    id: int
    whose: str
    theirs: list[str]
    mine_changes: list[str]
    conflicts: list[Conflict]
    others: int
    late: bool


def merge_view(
    waiting: Sequence[WaitingEdit], theirs: Recipe, late: int | None
) -> MergeView | None:
    """The edit that is decided next: the one that has just come, or the oldest. None where none
    waits."""
    if not waiting:
        return None
    chosen = next((one for one in waiting if one.id == late), waiting[0])
    base = chosen.base or theirs
    try:
        conflicts = merge(base, chosen.mine, theirs).conflicts
    except RecipeError:
        conflicts = ()
    return MergeView(
        chosen.id,
        _whose(chosen),
        changes_words(base, theirs) or ["the same as before, by way of other edits"],
        [*changes_words(base, chosen.mine), *(["other targets chosen"] if chosen.profile else [])],
        [
            Conflict(c.id, c.name, display_amount(c.theirs), display_amount(c.mine))
            for c in conflicts
        ],
        len(waiting) - 1,
        chosen.id == late,
    )


def _whose(waiting: WaitingEdit) -> str:
    at = datetime.fromisoformat(waiting.at).astimezone()
    return f"{waiting.initials or 'made here'}, {at:%d %B, %H:%M}"


def changes_words(before: Recipe, after: Recipe) -> list[str]:
    """What differs, one sentence for each, as amounts are shown."""
    return [display_amount(edit_words(edit)) for edit in changes_between(before, after)]
