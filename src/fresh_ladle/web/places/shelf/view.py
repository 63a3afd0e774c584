"""A card of the Shelf: the dish, a small rung for each limit of the targets in mind, and its state."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.nutrients.targets import Basis, Target
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.recipes import dishes
from fresh_ladle.store.recipes.profiles import Profile
from fresh_ladle.store.recipes.shelf import ShelfRow
from fresh_ladle.web.shared.target_status import Rung, VersionFigures, rung_views


@dataclass(frozen=True, slots=True)
class ShelfCard:
    id: int
    title: str
    kind: str
    servings: str
    serving_grams: str
    profile: str
    state: str
    changed: bool
    versions: int
    problems: int
    waiting: int
    rungs: list[Rung]


def shelf_cards(
    rows: Sequence[ShelfRow], profiles: Mapping[int, Profile], against: int | None, waiting: Mapping[int, int]
) -> list[ShelfCard]:
    """Cards against one profile, or without `against` each against its own; `waiting` are edits to be decided."""
    return [_card(row, profiles.get(against or row.profile_id or 0), waiting.get(row.recipe_id, 0)) for row in rows]


def _card(row: ShelfRow, profile: Profile | None, waiting: int) -> ShelfCard:
    def figure_for(target: Target) -> Figure:
        return row.figures[target.nutrient, target.basis].figure

    figures = {n: (f.figure, f.original) for (n, basis), f in row.figures.items() if basis is Basis.SERVING}
    version = VersionFigures(row.serving_grams, figures, figure_for)
    return ShelfCard(
        row.recipe_id,
        row.title,
        dishes.BY_ID[row.kind].name,
        f"{row.servings:.3g}",
        f"{row.serving_grams:,.0f} g",
        profile.name if profile else "",
        row.state,
        row.changed,
        row.versions,
        row.problems,
        waiting,
        rung_views(version, profile.targets if profile else (), small=True),
    )
