"""What a way costs by its place in the order in which the field tries ways, for a kind of dish and
a goal."""

from __future__ import annotations

from collections.abc import Collection

from fresh_ladle.core.catalogue.sense import Sense
from fresh_ladle.core.nutrients.targets import Side
from fresh_ladle.core.plans.request import PlanRequest

PER_LEVER, NO_LEVER = 0.03, 0.25
"""Steps of taste: for each place further down in the field's order, and for what stands nowhere in
it."""
GOAL_WORDS = {
    "sodium_mg": "sodium",
    "energy_kcal": "energy",
    "fat_g": "fat",
    "saturated_fat_g": "saturated fat",
    "sugars_g": "sugar",
    "added_sugar_g": "sugar",
    "fiber_g": "fiber",
    "protein_g": "protein",
}


class LeverCosts:
    """The order of the field for one kind of dish and what is asked of it."""

    def __init__(self, kind: str, request: PlanRequest, sense: Sense) -> None:
        self._levers = [
            lever for goal in goals_of(request) for lever in sense.levers.get((kind, goal), ())
        ]

    def of(self, out: str, into: Collection[str], more: bool = False) -> float:
        """Steps of taste that a way costs which takes of the food `out` (empty: of none), brings
        `into`, or makes `more` of `out`; keys of foods. 0 where the field has no order."""
        if not self._levers:
            return 0.0
        coming = {*into, out} if more else set(into)
        places = [
            lever.order
            for lever in self._levers
            if (more or out in lever.out or not (lever.out or out))
            and (bool(coming & lever.into) if coming else not lever.into)
        ]
        return PER_LEVER * (min(places) - 1) if places else NO_LEVER


def goals_of(request: PlanRequest) -> list[str]:
    """What is asked in the words of the field's table: `less sodium`, `more fiber`."""
    return [
        f"{'less' if target.side is Side.AT_MOST else 'more'} {GOAL_WORDS[target.nutrient]}"
        for target in request.targets
        if target.nutrient in GOAL_WORDS
    ]
