"""How far a recipe has come in the order of the work: what is done of it, and what comes next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

CONDITIONS = 3
"""The first steps tell how the recipe stands; the others tell what has been done with it."""


@dataclass(frozen=True, slots=True)
class Facts:
    """What is known of a recipe: lines that were not understood, questions nobody has answered or
    set aside, and what has been done."""

    problems: int
    questions: int
    targets: bool
    adapted: bool
    seasoned: bool
    tasted: bool
    kept: bool
    approved: bool


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the work. `place` is where it is done; `said` tells that it is done, `to_do` what
    to do."""

    place: str
    said: str
    to_do: str
    done: bool


def steps(facts: Facts) -> list[Step]:
    """The eight steps, in their order."""
    lines = "1 line" if facts.problems == 1 else f"{facts.problems} lines"
    asked = "1 question" if facts.questions == 1 else f"{facts.questions} questions"
    return [
        Step("counter", "read", f"mend {lines}", not facts.problems),
        Step("counter", "answered", f"answer {asked}", not facts.questions),
        Step("counter", "targets set", "set targets", facts.targets),
        Step("plans", "adapted", "adapt it", facts.adapted),
        Step("bench", "seasoned", "season it", facts.seasoned),
        Step("tastings", "tasted", "taste it", facts.tasted),
        Step("counter", "kept", "keep a version", facts.kept),
        Step("card", "approved", "approve it for the card", facts.approved),
    ]


def next_step(way: Sequence[Step]) -> Step | None:
    """What to do next: until something was done with the recipe, the first condition that is open;
    then whatever follows the last thing done, since steps may be left out. None when the last is
    done."""
    made = [number for number, step in enumerate(way) if step.done and number >= CONDITIONS]
    if made:
        return way[made[-1] + 1] if made[-1] + 1 < len(way) else None
    return next((step for step in way if not step.done), None)
