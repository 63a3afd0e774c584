"""The first tour: a sample adapted in five small steps, each ticked off by what was really done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.recipes.edits import Edit, EditKind


@dataclass(frozen=True, slots=True)
class TourStep:
    title: str
    text: str
    done: bool


@dataclass(frozen=True, slots=True)
class TourView:
    """The steps and the number, from 1, of the one to do next; past the last when all are done."""

    steps: list[TourStep]
    number: int


def tour_view(where: str, recipe_id: int, lens: str, versions: int, edits: Sequence[Edit]) -> TourView | None:
    """The tour as it stands on this recipe; None when it is over or belongs to another recipe. `edits` are those since
    the last version."""
    if where != str(recipe_id):
        return None
    swapped = any(edit.kind in (EditKind.SWAP, EditKind.PLAN) for edit in edits)
    nudged = any(edit.kind is EditKind.AMOUNT for edit in edits)
    adapted = versions > 1
    steps = [
        TourStep(
            "Find the culprit",
            "Press 2, or tap sodium: each line shows its share of the sodium in a serving. One of them leads.",
            lens == "sodium_mg" or swapped or adapted,
        ),
        TourStep(
            "Swap it",
            "Tap the swaps of the line that leads. Each says what it does to the figures and to the taste. Take one.",
            swapped or adapted,
        ),
        TourStep(
            "Nudge an amount",
            "Put the cursor in an amount and press ↑ or ↓: one kitchen step more or less. The rungs and the balance"
            " follow.",
            nudged or adapted,
        ),
        TourStep("Keep it", "Press k, give the version a name, and keep it. The original stays as it was.", adapted),
        TourStep("Compare and print", "Side by side shows what changed; the Card is the sheet to hand out.", False),
    ]
    number = next((n for n, step in enumerate(steps, 1) if not step.done), len(steps))
    return TourView(steps, number)
