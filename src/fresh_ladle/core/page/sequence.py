"""The likeliest kinds of all lines of a page together: what each line shows, and what follows what
(Viterbi, 1967)."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping, Sequence

from fresh_ladle.core.page.kinds import LineKind

KINDS = tuple(LineKind)
Weights = Mapping[str, Mapping[str, float]]
"""By sign, or by the kind that goes before (`after item`, `after item and a blank`), what it speaks
for each kind."""
IMPOSSIBLE = -1e9


def weights_of(table: str) -> dict[str, dict[str, float]]:
    """The weights of a table: `sign: kind weight, kind weight`, going on in lines that are set
    in."""
    rows = re.sub(r"\n +", " ", table).strip().splitlines()
    return {
        sign: {
            kind: float(value) for kind, value in (pair.rsplit(" ", 1) for pair in told.split(", "))
        }
        for sign, _, told in (row.rpartition(": ") for row in rows)
    }


def scores(signs: frozenset[str], weights: Weights) -> list[float]:
    """What a line's own signs speak for each kind, in the order of KINDS."""
    total = [0.0] * len(KINDS)
    for sign in signs:
        row = weights.get(sign)
        if row:
            for place, kind in enumerate(KINDS):
                total[place] += row.get(kind, 0.0)
    return total


def follows(before: LineKind, blank: bool) -> tuple[str, ...]:
    """The names under which it is weighed what follows a kind; `blank` where a blank line stands
    between."""
    return (f"after {before}", f"after {before} and a blank") if blank else (f"after {before}",)


def likeliest(
    evidence: Sequence[frozenset[str]],
    blanks: Sequence[bool],
    weights: Weights,
    possible: Sequence[Collection[LineKind]],
) -> list[tuple[LineKind, float]]:
    """The kinds of all lines, of those `possible` for each, with a margin: how far the best whole
    page lies behind in which the line is another thing to the recipe."""
    if not evidence:
        return []
    own = [
        _allowed(scores(signs, weights), kinds)
        for signs, kinds in zip(evidence, possible, strict=True)
    ]
    after = {blank: _steps(blank, weights) for blank in (False, True)}
    steps = [after[blank] for blank in blanks]
    forth = _sums(own, steps)
    back = _sums_back(own, steps)
    whole = [[f + b for f, b in zip(forth[n], back[n], strict=True)] for n in range(len(own))]
    found = []
    for row in whole:
        best = max(range(len(KINDS)), key=row.__getitem__)
        other = max(
            value for place, value in enumerate(row) if place != best and not _alike(place, best)
        )
        found.append((KINDS[best], row[best] - other))
    return found


UNEATEN = frozenset({LineKind.AROUND, LineKind.NOTE, LineKind.TIME, LineKind.LIST, LineKind.METHOD})
"""Kinds between which it makes no difference to the recipe."""


def _alike(one: int, other: int) -> bool:
    return KINDS[one] in UNEATEN and KINDS[other] in UNEATEN


def _allowed(row: list[float], possible: Collection[LineKind]) -> list[float]:
    return [value if KINDS[place] in possible else IMPOSSIBLE for place, value in enumerate(row)]


def _steps(blank: bool, weights: Weights) -> list[list[float]]:
    """What speaks for a kind after another, from the row of the one before."""
    names = [follows(kind, blank) for kind in KINDS]
    return [
        [sum(weights.get(name, {}).get(kind, 0.0) for name in row) for kind in KINDS]
        for row in names
    ]


def _sums(
    own: Sequence[Sequence[float]], steps: Sequence[Sequence[Sequence[float]]]
) -> list[list[float]]:
    """The best sum of all lines up to each, by its kind."""
    found = [list(own[0])]
    for place in range(1, len(own)):
        before, step = found[-1], steps[place]
        found.append(
            [
                own[place][kind]
                + max(before[last] + step[last][kind] for last in range(len(KINDS)))
                for kind in range(len(KINDS))
            ]
        )
    return found


def _sums_back(
    own: Sequence[Sequence[float]], steps: Sequence[Sequence[Sequence[float]]]
) -> list[list[float]]:
    """The best sum of all lines after each, by its kind."""
    found = [[0.0] * len(KINDS)]
    for place in range(len(own) - 1, 0, -1):
        after, step = found[-1], steps[place]
        found.append(
            [
                max(step[kind][then] + own[place][then] + after[then] for then in range(len(KINDS)))
                for kind in range(len(KINDS))
            ]
        )
    return found[::-1]
