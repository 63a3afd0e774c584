"""Brings two edits of one recipe together, line by line, so that neither is lost.

Both edits began from the same state. What only one of them changed is taken; where both changed the
same thing in different ways there is a conflict, which stands as theirs until somebody chooses
mine."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, fields, replace
from typing import TypeVar

from fresh_ladle.core.recipes.changes import changes_between, line_changes, name_of
from fresh_ladle.core.recipes.edits import edit_words
from fresh_ladle.core.recipes.recipe import Line, Recipe

DISH = "dish"
"""The id under which a conflict about the dish itself goes, beside the ids of lines."""
Whole = TypeVar("Whole", Line, Recipe)


@dataclass(frozen=True, slots=True)
class Conflict:
    """Something both edits changed: a line by its id, or the dish. `theirs` and `mine` say what
    each made of it."""

    id: str
    name: str
    theirs: str
    mine: str


@dataclass(frozen=True, slots=True)
class Merged:
    """The recipe with both edits in it, and what had to be decided."""

    recipe: Recipe
    conflicts: tuple[Conflict, ...]


def merge(base: Recipe, mine: Recipe, theirs: Recipe, choose_mine: Collection[str] = ()) -> Merged:
    """Both edits together; `choose_mine` holds ids of conflicts to settle my way. Raises
    RecipeError when the whole cannot be a recipe, such as with too many lines."""
    mine = _with_own_ids(base, mine, theirs)
    old, own, other = ({line.id: line for line in r.lines} for r in (base, mine, theirs))
    kept: dict[str, Line] = {}
    conflicts: list[Conflict] = []
    for line_id in dict.fromkeys([*other, *own, *old]):
        was, ours, their = old.get(line_id), own.get(line_id), other.get(line_id)
        line, clash = _line(was, ours, their)
        if clash:
            named = was or ours or their
            assert named is not None
            conflicts.append(
                Conflict(line_id, name_of(named), _line_words(was, their), _line_words(was, ours))
            )
            line = ours if line_id in choose_mine else their
        if line is not None:
            kept[line_id] = line
    dish, clash = _fields(
        replace(base, lines=()), replace(mine, lines=()), replace(theirs, lines=())
    )
    if clash:
        before = replace(base, lines=())
        conflicts.insert(
            0,
            Conflict(
                DISH,
                "The dish",
                _dish_words(before, replace(theirs, lines=())),
                _dish_words(before, replace(mine, lines=())),
            ),
        )
        dish = replace(mine if DISH in choose_mine else theirs, lines=())
    return Merged(replace(dish, lines=_in_order(base, mine, theirs, kept)), tuple(conflicts))


def _with_own_ids(base: Recipe, mine: Recipe, theirs: Recipe) -> Recipe:
    """Mine, with new ids for lines that both edits brought in under the same id."""
    old, other = {line.id for line in base.lines}, {line.id: line for line in theirs.lines}
    clashing = [n for n in mine.lines if n.id not in old and n.id in other and other[n.id] != n]
    both = replace(
        mine, lines=tuple(line for line in mine.lines if line.id not in other) + theirs.lines
    )
    fresh = dict(zip((n.id for n in clashing), both.fresh_ids(len(clashing)), strict=True))
    return replace(
        mine, lines=tuple(replace(line, id=fresh.get(line.id, line.id)) for line in mine.lines)
    )


def _line(was: Line | None, mine: Line | None, theirs: Line | None) -> tuple[Line | None, bool]:
    """The line both edits make, and whether they clash."""
    if mine == theirs or theirs == was:
        return mine, False
    if mine == was:
        return theirs, False
    if was is None or mine is None or theirs is None:
        return theirs, True
    return _fields(was, mine, theirs)


def _fields(was: Whole, mine: Whole, theirs: Whole) -> tuple[Whole, bool]:
    """Field by field; a clash on one of them is a clash of the whole."""
    taken = {}
    for field in (f for f in fields(was) if f.compare):
        old, own, other = (getattr(x, field.name) for x in (was, mine, theirs))
        if own != other and own != old and other != old and field.name != "settled":
            return theirs, True
        taken[field.name] = (
            own | other if field.name == "settled" else own if other == old else other
        )
    return replace(theirs, **taken), False


def _in_order(
    base: Recipe, mine: Recipe, theirs: Recipe, kept: dict[str, Line]
) -> tuple[Line, ...]:
    """Their order, or mine where only mine moved lines; what the other brought in follows the line
    it followed there."""
    common = [line.id for line in base.lines if line.id in kept]
    moved = [i for i in (line.id for line in theirs.lines) if i in common] != [
        i for i in common if any(line.id == i for line in theirs.lines)
    ]
    first, second = (theirs, mine) if moved else (mine, theirs)
    order = [line.id for line in first.lines if line.id in kept]
    previous: str | None = None
    for line in second.lines:
        if line.id in kept and line.id not in order:
            order.insert(
                order.index(previous) + 1
                if previous in order
                else 0
                if previous is None
                else len(order),
                line.id,
            )
        previous = line.id
    return tuple(kept[i] for i in order)


def _line_words(was: Line | None, now: Line | None) -> str:
    if now is None:
        return "left out"
    if was is None:
        return f"added {now.text}"
    return "; ".join(edit_words(edit, named=False) for edit in line_changes(was, now))


def _dish_words(before: Recipe, after: Recipe) -> str:
    return "; ".join(edit_words(edit) for edit in changes_between(before, after))
