"""A card of the Shelf: the dish, a small rung for each limit of the targets in mind, and its
state."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_group, allergen_name
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.targets import Basis, Target
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.whole.exclusions import Broken
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
    broken: list[Broken]
    """What must not be in it for whom it is, and is."""


def shelf_cards(
    rows: Sequence[ShelfRow],
    profiles: Mapping[int, Profile],
    against: int | None,
    waiting: Mapping[int, int],
    pantry: Pantry,
) -> list[ShelfCard]:
    """Cards against one profile, or without `against` each against its own; `waiting` are edits to
    be decided."""
    return [
        _card(
            row, profiles.get(against or row.profile_id or 0), waiting.get(row.recipe_id, 0), pantry
        )
        for row in rows
    ]


def _card(row: ShelfRow, profile: Profile | None, waiting: int, pantry: Pantry) -> ShelfCard:
    def figure_for(target: Target) -> Figure:
        return row.figures[target.nutrient, target.basis].figure

    figures = {
        n: (f.figure, f.original) for (n, basis), f in row.figures.items() if basis is Basis.SERVING
    }
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
        _broken(row, profile.exclusions, pantry) if profile else [],
    )


def _broken(row: ShelfRow, exclusions: Collection[str], pantry: Pantry) -> list[Broken]:
    """What of these a recipe holds, by the tags of its row: for certain first, then where only
    packs can tell."""

    def name(what: str) -> str:
        food = pantry.get(what)
        return food.kitchen_name if food is not None else allergen_name(what)

    found = []
    for what in sorted(exclusions):
        sure = bool(row.tags & {f"allergen:{what}", f"food:{what}"})
        unread = allergen_group(what) in ALLERGENS and not row.allergens_known
        if sure or unread or f"perhaps:{what}" in row.tags:
            found.append(Broken(name(what), (name(what),), frozenset(), sure))
    return sorted(found, key=lambda one: not one.sure)
