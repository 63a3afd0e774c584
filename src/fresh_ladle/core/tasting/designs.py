"""Blind codes and serving orders: other codes for each taster, none patterned, and orders that
balance place and what came before."""

from __future__ import annotations

from random import Random

from fresh_ladle.core.recipes.recipe import RecipeError

MAX_SAMPLES, MAX_TASTERS = 6, 300
TRIANGLES: tuple[str, ...] = ("AAB", "ABA", "BAA", "BBA", "BAB", "ABB")
"""The six ways to serve two of one and one of the other; the odd one stands in each place twice."""
TALKED_OF = frozenset({"007", "420", "666", "777", "911", "999"})
"""Numbers people have a feeling about."""


def is_patterned(code: int) -> bool:
    """Whether a code would be remembered or liked for its own sake: repeated digits, runs, round
    numbers."""
    digits = f"{code:03d}"
    a, b, c = (int(d) for d in digits)
    runs = (b - a, c - b) in ((1, 1), (-1, -1), (2, 2), (-2, -2))
    return len(set(digits)) < 3 or runs or digits.endswith("0") or digits in TALKED_OF


_CODES = tuple(code for code in range(100, 1000) if not is_patterned(code))


def blind_codes(tasters: int, samples: int, seed: int) -> list[list[int]]:
    """Three-digit codes, a row for each taster: none stands twice before all have been used.

    Raises RecipeError for a panel that cannot be.
    """
    _check(tasters, samples)
    rng = Random(seed)
    pool: list[int] = []
    found = []
    for _ in range(tasters):
        row: list[int] = []
        while len(row) < samples:
            if not pool:
                pool = list(_CODES)
                rng.shuffle(pool)
            code = pool.pop()
            if code not in row:
                row.append(code)
        found.append(row)
    return found


def williams(samples: int) -> list[tuple[int, ...]]:
    """Orders in which each sample stands in each place equally often and after each other equally
    often: as many orders as samples, twice as many where their number is odd."""
    first = [0]
    low, high = 1, samples - 1
    while len(first) < samples:
        first.append(low if len(first) % 2 else high)
        low, high = (low + 1, high) if len(first) % 2 == 0 else (low, high - 1)
    square = [tuple((s + shift) % samples for s in first) for shift in range(samples)]
    return square if samples % 2 == 0 else [*square, *(tuple(reversed(row)) for row in square)]


def serving_orders(tasters: int, samples: int, seed: int) -> list[tuple[int, ...]]:
    """An order for each taster: whole Williams squares as often as they go in, then some of one
    more, mixed so that neighbors do not see a pattern. Raises RecipeError for a panel that cannot
    be."""
    _check(tasters, samples)
    rng = Random(seed)
    square = williams(samples)
    found: list[tuple[int, ...]] = []
    while len(found) < tasters:
        rows = list(square)
        rng.shuffle(rows)
        found += rows[: tasters - len(found)] if len(found) + len(rows) > tasters else rows
    rng.shuffle(found)
    return found


def triangles(tasters: int, seed: int) -> list[str]:
    """For each taster one of the six triangles, each used as often as the others, give or take
    one."""
    _check(tasters, 2)
    rng = Random(seed)
    found: list[str] = []
    while len(found) < tasters:
        # The odd one is A as often as B, and in each place, for a part of the six as well.
        rows = list(_BALANCED[rng.randrange(len(_BALANCED))])
        found += rows[: tasters - len(found)]
    rng.shuffle(found)
    return found


_BALANCED = (("AAB", "BAB", "BAA", "BBA", "ABA", "ABB"), ("BBA", "ABA", "ABB", "AAB", "BAB", "BAA"))
"""The six triangles so that any first few of them alternate the odd one and its place."""


def _check(tasters: int, samples: int) -> None:
    if not 2 <= samples <= MAX_SAMPLES:
        raise RecipeError(f"a tasting is of 2 to {MAX_SAMPLES} samples; {samples} were asked")
    if not 1 <= tasters <= MAX_TASTERS:
        raise RecipeError(f"a panel has 1 to {MAX_TASTERS} tasters; {tasters} were asked")
