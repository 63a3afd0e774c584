"""One round of a blind tasting: which cups stand before each seat, and what its answers come to once it is closed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from random import Random

from fresh_ladle.core.tasting.designs import blind_codes, serving_orders, triangles
from fresh_ladle.core.tasting.difference import DifferenceResult, Question, difference, most_allowed_for_similar, power

SAMPLES = ("A", "B")
SHOWN_SHARES = (0.3, 0.5, 0.7)
"""Shares of tasters who can really tell, for which it is said beforehand how often that is found."""
SIMILAR_SHARE = 0.3
"""Two versions are similar enough when fewer than this share can tell."""


@dataclass(frozen=True, slots=True)
class Cup:
    """One cup before a seat: its blind code, and what is in it, which no ballot ever shows."""

    code: int
    sample: str


def served(question: Question, tasters: int, seed: int) -> list[tuple[Cup, ...]]:
    """The cups of each seat from left to right, the first seat first. Raises RecipeError for a panel that cannot be."""
    if question is Question.TRIANGLE:
        rows = [tuple(row) for row in triangles(tasters, seed)]
    else:
        rows = [tuple(SAMPLES[n] for n in order) for order in serving_orders(tasters, 2, seed)]
    codes = blind_codes(tasters, len(rows[0]), seed + 1)
    return [
        tuple(Cup(code, sample) for code, sample in zip(numbers, row, strict=True))
        for numbers, row in zip(codes, rows, strict=True)
    ]


def is_right(question: Question, cups: Sequence[Cup], chosen: int, expected: str) -> bool:
    """Whether a chosen code is the odd one in a triangle, else the sample that was expected (or counted).

    Raises ValueError for a code that was not before this seat.
    """
    cup = next((c for c in cups if c.code == chosen), None)
    if cup is None:
        raise ValueError(f"there is no cup {chosen} at this seat")
    if question is Question.TRIANGLE:
        return sum(c.sample == cup.sample for c in cups) == 1
    return cup.sample == expected


@dataclass(frozen=True, slots=True)
class RoundResult:
    """What a closed round says. `right` tells for each seat that answered whether it was right; `leans` for a
    preference which sample more of them chose. `warnings` are to be read with it."""

    difference: DifferenceResult
    right: Mapping[int, bool]
    leans: str
    similar: bool
    warnings: tuple[str, ...]


def read_round(
    question: Question, seats: Mapping[int, Sequence[Cup]], answers: Mapping[int, int], expected: str
) -> RoundResult:
    """Reads the answers of a round: the code each seat chose. Raises ValueError without answers, or for an answer that
    cannot be."""
    if not answers:
        raise ValueError("no ballot has come in")
    right = {seat: is_right(question, seats[seat], code, expected) for seat, code in sorted(answers.items())}
    count, n, leans = sum(right.values()), len(right), expected
    if question is Question.PREFERENCE and 2 * count < n:
        count, leans = n - count, next(s for s in SAMPLES if s != expected)
    allowed = most_allowed_for_similar(n, SIMILAR_SHARE) if question is Question.TRIANGLE else -1
    by_chance = n * question.guess
    similar = question is Question.TRIANGLE and allowed >= by_chance and count <= allowed
    return RoundResult(
        difference(n, count, question), right, leans, similar, _warnings(question, seats, answers, right, count)
    )


def _warnings(
    question: Question,
    seats: Mapping[int, Sequence[Cup]],
    answers: Mapping[int, int],
    right: Mapping[int, bool],
    count: int,
) -> tuple[str, ...]:
    n = len(answers)
    found = []
    if (missing := len(seats) - n) > 0:
        found.append(
            f"{missing} {'ballot is' if missing == 1 else 'ballots are'} missing: the orders are not balanced."
        )
    result = difference(n, count, question)
    if result.needed is None:
        found.append("Too few tasters: not even if all were right would it be found.")
    elif power(n, 0.5, question) < 0.5:
        found.append("A small panel: a difference that half of them can tell is missed more often than found.")
    first = sum(seats[seat][0].code == code for seat, code in answers.items())
    share = 1 / len(next(iter(seats.values())))
    if n >= 8 and abs(first / n - share) > 0.35:
        word = "first" if first / n > share else "later"
        found.append(f"{first} of {n} chose the first cup: the order may have decided, the {word} ones were favored.")
    if result.needed is not None and count in (result.needed, result.needed - 1):
        found.append("One taster decides it: one answer more or less, and it would read the other way.")
    return tuple(found)


def foretold(question: Question, tasters: int) -> list[tuple[float, float]]:
    """What a panel of this size can show, before anyone tastes: for shares who can really tell, how often a difference
    is found."""
    return [(share, power(tasters, share, question)) for share in SHOWN_SHARES]


def simulated_answers(
    question: Question, seats: Mapping[int, Sequence[Cup]], steps: float, seed: int
) -> dict[int, int]:
    """The code that each seat of a made-up panel would choose, when B lies `steps` noticeable steps from A.

    Each taster has a sensitivity of their own and noise at each cup; one step side by side is told in three of four
    pairs (d' about 0.95). In a triangle the cup farthest from the other two is chosen.
    """
    rng = Random(seed)
    chosen = {}
    for seat, cups in sorted(seats.items()):
        apart = 0.95 * steps * rng.lognormvariate(0.0, 0.4)
        felt = [(rng.gauss(apart if cup.sample == "B" else 0.0, 1.0), cup.code) for cup in cups]
        if question is Question.TRIANGLE:
            chosen[seat] = max(felt, key=lambda one: sum(abs(one[0] - other[0]) for other in felt))[1]
        else:
            chosen[seat] = max(felt)[1]
    return chosen
