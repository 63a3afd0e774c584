"""One round of a blind tasting: which cups stand before each seat, and what its answers come to
once it is closed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.tasting.designs import blind_codes, serving_orders, triangles
from fresh_ladle.core.tasting.difference import DifferenceResult, Question, difference
from fresh_ladle.core.tasting.verdict import panel_warnings

SAMPLES = ("A", "B", "C", "D")


@dataclass(frozen=True, slots=True)
class Cup:
    """One cup before a seat: its blind code, and what is in it, which no ballot ever shows."""

    code: int
    sample: str


def served(question: Question, tasters: int, seed: int, samples: int = 2) -> list[tuple[Cup, ...]]:
    """The cups of each seat from left to right, the first seat first. Raises RecipeError for a
    panel that cannot be, or more samples than the question can compare."""
    if not 2 <= samples <= question.most_samples:
        many = "two versions" if question.forced else f"two to {question.most_samples} versions"
        raise RecipeError(f"this question compares {many}; {samples} were chosen")
    if question is Question.TRIANGLE:
        rows = [tuple(row) for row in triangles(tasters, seed)]
    else:
        rows = [
            tuple(SAMPLES[n] for n in order) for order in serving_orders(tasters, samples, seed)
        ]
    codes = blind_codes(tasters, len(rows[0]), seed + 1)
    return [
        tuple(Cup(code, sample) for code, sample in zip(numbers, row, strict=True))
        for numbers, row in zip(codes, rows, strict=True)
    ]


def is_right(question: Question, cups: Sequence[Cup], chosen: int, expected: str) -> bool:
    """Whether a chosen code is the odd one in a triangle, else the sample that was expected (or
    counted).

    Raises ValueError for a code that was not before this seat.
    """
    cup = next((c for c in cups if c.code == chosen), None)
    if cup is None:
        raise Refused(f"there is no cup {chosen} at this seat")
    if question is Question.TRIANGLE:
        return sum(c.sample == cup.sample for c in cups) == 1
    return cup.sample == expected


@dataclass(frozen=True, slots=True)
class RoundResult:
    """What a closed round says. `right` tells for each seat that answered whether it was right;
    `leans` for a preference which sample more of them chose. `warnings` are to be read with it."""

    difference: DifferenceResult
    right: Mapping[int, bool]
    leans: str
    warnings: tuple[str, ...]


def read_round(
    question: Question,
    seats: Mapping[int, Sequence[Cup]],
    answers: Mapping[int, int],
    expected: str,
) -> RoundResult:
    """Reads the answers of a round: the code each seat chose. Raises ValueError without answers, or
    for an answer that cannot be."""
    if not answers:
        raise Refused("no ballot has come in")
    right = {
        seat: is_right(question, seats[seat], code, expected)
        for seat, code in sorted(answers.items())
    }
    count, n, leans = sum(right.values()), len(right), expected
    if question is Question.PREFERENCE and 2 * count < n:
        count, leans = n - count, next(s for s in SAMPLES if s != expected)
    return RoundResult(
        difference(n, count, question), right, leans, _warnings(question, seats, answers, count)
    )


def _warnings(
    question: Question,
    seats: Mapping[int, Sequence[Cup]],
    answers: Mapping[int, int],
    count: int,
) -> tuple[str, ...]:
    n = len(answers)
    found = []
    if (missing := len(seats) - n) > 0:
        found.append(
            f"{missing} {'ballot is' if missing == 1 else 'ballots are'} missing: the orders are"
            " not balanced."
        )
    first = sum(seats[seat][0].code == code for seat, code in answers.items())
    share = 1 / len(next(iter(seats.values())))
    if n >= 8 and abs(first / n - share) > 0.35:
        word = "first" if first / n > share else "later"
        found.append(
            f"{first} of {n} chose the first cup: the order may have decided, the {word} ones were"
            " favored."
        )
    found += panel_warnings(question, n, count)
    return tuple(found)
