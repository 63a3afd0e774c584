"""What eaters have shown, as the screen says it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.flavor.parameters import BY_ID
from fresh_ladle.core.flavor.windows import Windows
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.tasting.eaters import LEAST_SHIFT, Foretold, Leaning, leaned
from fresh_ladle.core.tasting.verdict import adjective
from fresh_ladle.core.words.sentences import capitalized


@dataclass(frozen=True, slots=True)
class LeaningRow:
    """One kind of dish and taste: what was shown, and the window before and after."""

    dish: str
    taste: str
    words: str
    before: str
    after: str
    moves: bool


@dataclass(frozen=True, slots=True)
class ForetoldRow:
    """One round: its dish, what was asked, the steps foretold and shown, and whether they agree."""

    round: int
    dish: str
    asked: str
    foretold: str
    shown: str
    tasters: int
    borne_out: bool


def leaning_rows(found: Sequence[Leaning], windows: Windows) -> list[LeaningRow]:
    """`windows` are those of the model, before anything moved them."""
    after = leaned(windows, found)
    rows = []
    for leaning in found:
        moves = abs(leaning.steps) >= LEAST_SHIFT
        old, new = windows[leaning.kind][leaning.axis], after[leaning.kind][leaning.axis]
        words = leaning.words if moves else f"as the model has it; {leaning.words.split('; ')[1]}"
        unit = BY_ID[leaning.axis].unit
        rows.append(
            LeaningRow(
                capitalized(KINDS[leaning.kind].name),
                BY_ID[leaning.axis].name,
                words,
                f"{old.low:.3g} to {old.high:.3g} {unit}",
                f"{new.low:.3g} to {new.high:.3g} {unit}",
                moves,
            )
        )
    return rows


def _steps(steps: float) -> str:
    return f"{steps:.1f}".replace("-", "−")


def foretold_rows(rounds: Sequence[Foretold], dishes: Mapping[int, str]) -> list[ForetoldRow]:
    """`dishes` are the titles of what was served, by round."""
    rows = []
    for r in rounds:
        asked = f"more {adjective(r.attribute)}?" if r.attribute else "different?"
        more = " or more" if r.shown.open_above else ""
        shown = (
            f"{_steps(r.shown.steps)}, between {_steps(r.shown.low)} and"
            f" {_steps(r.shown.high)}{more}"
        )
        rows.append(
            ForetoldRow(
                r.round, dishes[r.round], asked, _steps(r.foretold), shown, r.tasters, r.borne_out
            )
        )
    return rows
