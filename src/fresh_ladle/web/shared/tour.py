"""The first tour: a sample adapted, then shown round its places. A step is done by doing it, or
left for the next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.recipes.edits import Edit, EditKind


@dataclass(frozen=True, slots=True)
class TourStep:
    """`tail` is where it is done, below the recipe's own address."""

    title: str
    text: str
    tail: str
    done: bool = False


@dataclass(frozen=True, slots=True)
class TourView:
    """The steps and the number, from 1, of the one to do next."""

    steps: list[TourStep]
    number: int


def tour_view(
    where: str, recipe_id: int, lens: str, version: int, edits: Sequence[Edit]
) -> TourView | None:
    """The tour as it stands on this recipe; None when it is over or belongs to another. `where` is
    the recipe's id, and after a colon the last step that was left; `version` the number of the
    draft's, `edits` those since."""
    mine, _, left = where.partition(":")
    if mine != str(recipe_id):
        return None
    swapped = any(edit.kind in (EditKind.SWAP, EditKind.PLAN) for edit in edits)
    nudged = any(edit.kind is EditKind.AMOUNT for edit in edits)
    kept = version > 1
    steps = [
        TourStep(
            "Find the culprit",
            "Press 2, or tap sodium: each line shows its share of the sodium in a serving. One of"
            " them leads.",
            "",
            lens == "sodium_mg" or swapped or kept,
        ),
        TourStep(
            "Swap it",
            "Tap the swaps of the line that leads. Each says what it does to figures and taste."
            " Take one.",
            "",
            swapped or kept,
        ),
        TourStep(
            "Nudge an amount",
            "Put the cursor in an amount and press ↑ or ↓: one kitchen step more or less. Rungs and"
            " balance follow.",
            "",
            nudged or kept,
        ),
        TourStep(
            "Keep it",
            "Press k, give the version a name, and keep it. The original stays as it was.",
            "",
            kept,
        ),
        *_ROUND,
    ]
    number = next(
        (n for n, step in enumerate(steps, 1) if not step.done and n > int(left or 0)), len(steps)
    )
    return TourView(steps, number)


_ROUND = (
    TourStep("Compare", "The original beside what you kept: lines, figures, taste.", "/compare"),
    TourStep(
        "Ask for a plan",
        "Name a limit, and let it look for ways to meet it that keep the taste.",
        "/plans",
    ),
    TourStep(
        "Season it",
        "Type what goes into the bowl, as it goes in; the room left in each target follows.",
        "/bench",
    ),
    TourStep("Taste blind", "Plan a tasting: codes, ballots and sums are seen to.", "/tastings"),
    TourStep(
        "Serve many",
        "Say how many eat and when: amounts, the day, shopping, labels and records.",
        "/services",
    ),
    TourStep(
        "Print the card", "The sheet to hand out; the educator picks what stands on it.", "/card"
    ),
)
"""A look round the places, each left with a tap."""
