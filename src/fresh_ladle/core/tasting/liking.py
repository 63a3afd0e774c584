"""Liking, just-about-right and ranks: is the difference between versions more than the tasters' own
scatter."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import sqrt

import numpy as np
import scipy

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.tasting.difference import ALPHA

WORTH_ACTING, CLEAR = 0.5, 1.0
"""Points of liking worth acting on, and clear (grade C)."""
SMALL_PANEL = 15
JAR_SHARE, JAR_DROP = 0.2, 1.0
"""A side of just-about-right is acted on from this share of the panel and this drop in liking."""
LIKING_WORDS = (
    "dislike extremely", "dislike very much", "dislike", "dislike a little", "neither",
    "like a little", "like",
    "like very much", "like extremely",
)  # fmt: skip
JAR_WORDS = ("much too little", "too little", "just right", "too much", "much too much")


@dataclass(frozen=True, slots=True)
class LikingResult:
    """How much more the second of two versions is liked: points on the 9-point scale with a 95%
    range, p of the paired t test and of the signed ranks, and which of them decides."""

    n: int
    means: tuple[float, float]
    difference: float
    low: float
    high: float
    p_t: float
    p_ranks: float
    by_ranks: bool

    @property
    def p(self) -> float:
        return self.p_ranks if self.by_ranks else self.p_t


def liking(first: Sequence[float], second: Sequence[float]) -> LikingResult:
    """Reads paired scores. Signed ranks decide in small or skewed panels. Raises ValueError for
    scores that do not pair, or fewer than three."""
    if len(first) != len(second) or len(first) < 3:
        raise Refused(
            f"{len(first)} and {len(second)} scores: both versions need one from each of three"
            " tasters"
        )
    a, b = np.asarray(first, float), np.asarray(second, float)
    apart = b - a
    n, mean, sd = len(apart), float(apart.mean()), float(apart.std(ddof=1))
    half = float(scipy.stats.t.ppf(0.975, n - 1)) * sd / sqrt(n)
    if sd == 0:
        same = 1.0 if mean == 0 else 0.0
        return LikingResult(
            n, (float(a.mean()), float(b.mean())), mean, mean, mean, same, same, True
        )
    p_t = float(scipy.stats.ttest_rel(b, a).pvalue)
    p_ranks = (
        float(scipy.stats.wilcoxon(apart, zero_method="wilcox").pvalue) if np.any(apart) else 1.0
    )
    by_ranks = n < SMALL_PANEL or abs(float(scipy.stats.skew(apart))) > 1
    means = float(a.mean()), float(b.mean())
    return LikingResult(n, means, mean, mean - half, mean + half, p_t, p_ranks, by_ranks)


def panel_for_liking(
    points: float, sd: float = 1.8, alpha: float = 0.05, wanted: float = 0.8
) -> int:
    """Tasters needed to find a difference of so many points (normal formula; sd of paired
    differences 1.5 to 2.2 is usual, grade C)."""
    z = float(scipy.stats.norm.ppf(1 - alpha / 2) + scipy.stats.norm.ppf(wanted))
    return int(np.ceil((z * sd / points) ** 2 + 2))


@dataclass(frozen=True, slots=True)
class Penalty:
    """One side of just-about-right: its share of the panel, and how much less those like it than
    those for whom it is just right. `act` when it is both large and costly."""

    side: str
    share: float
    drop: float

    @property
    def act(self) -> bool:
        return self.share >= JAR_SHARE and self.drop >= JAR_DROP


def penalties(just_right: Sequence[int], scores: Sequence[float]) -> list[Penalty]:
    """Too little and too much of one attribute, from answers 1 to 5 beside the liking of each
    taster. Empty where nobody found it just right: there is nothing to compare with."""
    answers, liked = np.asarray(just_right), np.asarray(scores, float)
    right = liked[answers == 3]
    if not len(right):
        return []
    found = []
    for side, which in (("too little", answers < 3), ("too much", answers > 3)):
        if which.any():
            found.append(
                Penalty(side, float(which.mean()), float(right.mean() - liked[which].mean()))
            )
    return found


@dataclass(frozen=True, slots=True)
class RankResult:
    """Rank sums by sample, the p of Friedman's test, and by how much two sums must differ to be
    told apart."""

    n: int
    sums: tuple[float, ...]
    p: float
    least_difference: float

    def apart(self, one: int, other: int) -> bool:
        """Whether two samples, by their place, are told apart: only where the ranks as a whole are
        no chance."""
        return self.p <= ALPHA and abs(self.sums[one] - self.sums[other]) >= self.least_difference


def ranks(rows: Sequence[Sequence[int]]) -> RankResult:
    """Reads rankings, a row for each taster with the rank of each sample, 1 the best. T =
    12/(nk(k+1))·ΣR² − 3n(k+1) against χ² with k − 1 degrees, without ties. Raises ValueError for a
    row that is no ranking, or fewer than three."""
    samples = len(rows[0]) if rows else 0
    if (
        samples < 2
        or len(rows) < 3
        or any(sorted(row) != list(range(1, samples + 1)) for row in rows)
    ):
        raise Refused(
            "each of three tasters or more ranks every sample, from 1 for the best on, none twice"
        )
    n, sums = len(rows), np.asarray(rows, float).sum(axis=0)
    t = 12 / (n * samples * (samples + 1)) * float((sums**2).sum()) - 3 * n * (samples + 1)
    least = 1.96 * sqrt(n * samples * (samples + 1) / 6)
    return RankResult(
        n, tuple(float(s) for s in sums), float(scipy.stats.chi2.sf(t, samples - 1)), least
    )


def corrected(p_values: Mapping[str, float]) -> dict[str, float]:
    """The same when several questions were asked at once (Holm): the smallest is multiplied by
    their number, and so on."""
    ordered = sorted(p_values.items(), key=lambda item: item[1])
    found, highest = dict[str, float](), 0.0
    for place, (name, p) in enumerate(ordered):
        highest = max(highest, min(1.0, p * (len(ordered) - place)))
        found[name] = highest
    return found


@dataclass(frozen=True, slots=True)
class LikingPair:
    """How much more `second` is liked than `first`; `p` is corrected for all pairs that were
    compared."""

    first: str
    second: str
    result: LikingResult
    p: float

    @property
    def found(self) -> bool:
        return self.p <= ALPHA

    @property
    def better(self) -> tuple[str, str]:
        """The one that is liked more, then the other."""
        return (
            (self.second, self.first) if self.result.difference >= 0 else (self.first, self.second)
        )


@dataclass(frozen=True, slots=True)
class LikingRound:
    """A closed round of scores: the mean of each sample, every pair of them, for each sample the
    sides of what is just about right. `by_seat` are the scores of the seats that scored all."""

    means: Mapping[str, float]
    pairs: Sequence[LikingPair]
    by_seat: Mapping[int, Mapping[str, float]]
    penalties: Mapping[tuple[str, str], list[Penalty]]


Scores = Mapping[str, int]
"""What one seat said of one sample: `liking` 1 to 9, and 1 to 5 for each attribute that was
asked."""


def read_liking(
    scores: Mapping[int, Mapping[str, Scores]],
    samples: Sequence[str],
    attributes: Sequence[str] = (),
) -> LikingRound:
    """Reads scores by seat and sample, of seats that scored all. Raises ValueError for fewer than
    three of them."""
    whole = {seat: by for seat, by in sorted(scores.items()) if set(samples) <= by.keys()}
    by_seat = {seat: {s: float(by[s][LIKED]) for s in samples} for seat, by in whole.items()}
    columns = {s: [row[s] for row in by_seat.values()] for s in samples}
    read = {(a, b): liking(columns[a], columns[b]) for a, b in combinations(samples, 2)}
    honest = corrected({f"{a} {b}": found.p for (a, b), found in read.items()})
    pairs = [LikingPair(a, b, found, honest[f"{a} {b}"]) for (a, b), found in read.items()]
    sides = {
        (s, attribute): penalties([by[s][attribute] for by in whole.values()], columns[s])
        for s in samples
        for attribute in attributes
    }
    means = {s: sum(column) / len(column) for s, column in columns.items()}
    return LikingRound(means, pairs, by_seat, sides)


LIKED, RANK = "liking", "rank"


def checked_ranks(said: Mapping[int, int]) -> dict[int, dict[str, int]]:
    """The ranks of all cups of a seat, by code. Raises ValueError where one is missing or given
    twice."""
    if sorted(said.values()) != list(range(1, len(said) + 1)):
        raise Refused(f"give each cup another number, from 1 for the best to {len(said)}")
    return {code: {RANK: rank} for code, rank in said.items()}


def checked_scores(scores: Scores, attributes: Sequence[str]) -> dict[str, int]:
    """The scores of one cup, all of them and no others. Raises ValueError naming what is missing or
    cannot be."""
    if not 1 <= scores.get(LIKED, 0) <= len(LIKING_WORDS):
        raise Refused("say how much you like it")
    for attribute in attributes:
        if not 1 <= scores.get(attribute, 0) <= len(JAR_WORDS):
            raise Refused(f"say whether it is too little or too much: {attribute}")
    return {name: scores[name] for name in (LIKED, *attributes)}
