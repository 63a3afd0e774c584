"""A made-up panel for the demo and for practice: tasters with thresholds and noise, from the flavor
model alone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from random import Random

from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.liking import LIKED, RANK
from fresh_ladle.core.tasting.round import Cup

D_PRIME_OF_A_STEP = 0.95
"""One noticeable step side by side is told in three of four pairs."""
USUAL_LIKING, LOST_PER_STEP, TASTER_SPREAD, CUP_NOISE = 6.8, 0.6, 0.8, 1.0
"""Points of liking: of a dish inside its windows, lost with each step out of them, and the scatter
(grade C)."""
JAR_PER_STEP = 0.5
"""Points of just-about-right with each step from where the kind of dish is well liked (grade C)."""


def simulated_answers(
    question: Question, seats: Mapping[int, Sequence[Cup]], steps: float, seed: int
) -> dict[int, int]:
    """The code that each seat of a made-up panel would choose, when B lies `steps` noticeable steps
    from A.

    Each taster has a sensitivity of their own and noise at each cup; one step side by side is told
    in three of four pairs (d' about 0.95). In a triangle the cup farthest from the other two is
    chosen."""
    rng = Random(seed)
    chosen = {}
    for seat, cups in sorted(seats.items()):
        apart = D_PRIME_OF_A_STEP * steps * rng.lognormvariate(0.0, 0.4)
        felt = [(rng.gauss(apart if cup.sample == "B" else 0.0, 1.0), cup.code) for cup in cups]
        if question is Question.TRIANGLE:
            chosen[seat] = max(felt, key=lambda one: sum(abs(one[0] - other[0]) for other in felt))[
                1
            ]
        else:
            chosen[seat] = max(felt)[1]
    return chosen


def simulated_scores(
    seats: Mapping[int, Sequence[Cup]],
    question: Question,
    outside: Mapping[str, Mapping[str, float]],
    attributes: Sequence[str],
    seed: int,
) -> dict[int, dict[int, dict[str, int]]]:
    """What each seat of a made-up panel would say of its cups, by code: liking with what is just
    about right, or ranks.

    `outside` are the signed steps by which each sample leaves its windows on each axis; above is
    too much."""
    rng = Random(seed)
    found = {}
    for seat, cups in sorted(seats.items()):
        usual = rng.gauss(USUAL_LIKING, TASTER_SPREAD)
        liked = {
            cup.code: usual
            - LOST_PER_STEP * sum(map(abs, outside[cup.sample].values()))
            + rng.gauss(0.0, CUP_NOISE)
            for cup in cups
        }
        if question is Question.RANKING:
            order = sorted(liked, key=lambda code: -liked[code])
            found[seat] = {code: {RANK: place} for place, code in enumerate(order, start=1)}
            continue
        found[seat] = {
            cup.code: {LIKED: min(9, max(1, round(liked[cup.code])))}
            | {
                a: min(
                    5,
                    max(
                        1,
                        round(
                            3 + JAR_PER_STEP * outside[cup.sample].get(a, 0.0) + rng.gauss(0.0, 0.6)
                        ),
                    ),
                )
                for a in attributes
            }
            for cup in cups
        }
    return found
