"""What right answers in a forced choice mean: exact binomial p, how many can really tell, and what
a panel can show.

All figures are exact binomial sums (SciPy). `guess` is the chance of a right answer without
tasting: a third in a triangle, a half in a pair."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

import scipy

from fresh_ladle.core.errors import Refused

ALPHA = 0.05
POWER, STAYS_FOR = 0.8, 8


class Question(StrEnum):
    """What a round asks."""

    TRIANGLE = "is there a difference"
    PAIR = "which is stronger"
    PREFERENCE = "which is preferred"
    LIKING = "how much is each liked"
    RANKING = "which is best, which next"

    @property
    def forced(self) -> bool:
        """Whether one cup is chosen, so that guessing has a chance; else each is scored or
        ranked."""
        return self not in (Question.LIKING, Question.RANKING)

    @property
    def most_samples(self) -> int:
        """How many versions can be put before the panel at once."""
        return 2 if self.forced else 4

    @property
    def guess(self) -> float:
        """The chance of a right answer without tasting; for questions that force a choice."""
        return 1 / 3 if self is Question.TRIANGLE else 1 / 2

    @property
    def two_sided(self) -> bool:
        return self is Question.PREFERENCE


@dataclass(frozen=True, slots=True)
class DifferenceResult:
    """`right` of `n`. `p` is the chance of so many or more by guessing alone; `tell` the share who
    can really tell with its 95% range (two-sided), each 0 to 1. For a preference, `right` is the
    larger side, and `tell` the lean of the panel, from even to all."""

    question: Question
    n: int
    right: int
    p: float
    needed: int | None
    tell: tuple[float, float, float]

    @property
    def found(self) -> bool:
        """Whether a difference was found, at five in a hundred."""
        return self.needed is not None and self.right >= self.needed


def chance_by_guessing(n: int, right: int, question: Question) -> float:
    """The chance of so many right or more when nobody can tell; for a preference on either side."""
    one = _at_least(right, n, question.guess)
    return min(1.0, 2 * one) if question.two_sided else one


def needed_right(n: int, question: Question, alpha: float = ALPHA) -> int | None:
    """The fewest right answers that are found at `alpha`; None where not even all are enough."""
    most_by_chance = n // 2 if question.two_sided else 0
    return next(
        (x for x in range(most_by_chance, n + 1) if chance_by_guessing(n, x, question) <= alpha),
        None,
    )


def power(n: int, tell: float, question: Question, alpha: float = ALPHA) -> float:
    """The chance that a difference is found of which a share `tell` of all tasters can really
    tell."""
    needed = needed_right(n, question, alpha)
    if needed is None:
        return 0.0
    right = question.guess + (1 - question.guess) * tell
    return _at_least(needed, n, right)


@lru_cache(maxsize=64)
def panel_needed(
    tell: float, question: Question, wanted: float = POWER, alpha: float = ALPHA, most: int = 400
) -> int:
    """The smallest panel from which the power stays reached for eight more tasters; `most` where
    none is.

    Power goes up and down from one size to the next, since needed answers are whole numbers.
    """
    in_a_row = 0
    for n in range(3, most + 9):
        in_a_row = in_a_row + 1 if power(n, tell, question, alpha) >= wanted else 0
        if in_a_row > STAYS_FOR:
            return n - STAYS_FOR
    return most


def difference(n: int, right: int, question: Question) -> DifferenceResult:
    """Reads a closed round. Raises ValueError for answers that cannot be."""
    if not 0 <= right <= n or n < 1:
        raise Refused(f"{right} right answers of {n} cannot be")
    low, high = right_share_range(n, right)
    ends = tuple(_tell(share, question) for share in (right / n, low, high))
    return DifferenceResult(
        question,
        n,
        right,
        chance_by_guessing(n, right, question),
        needed_right(n, question),
        (ends[0], ends[1], ends[2]),
    )


def _at_least(right: int, n: int, share: float) -> float:
    """The chance of so many right answers or more of n, each right with this chance: the exact
    binomial."""
    return float(scipy.special.bdtrc(right - 1, n, share))


def right_share_range(n: int, right: int, sure: float = 0.95) -> tuple[float, float]:
    """The exact range of the share of right answers (Clopper and Pearson)."""
    tail = (1 - sure) / 2
    low = 0.0 if right == 0 else float(scipy.stats.beta.ppf(tail, right, n - right + 1))
    high = 1.0 if right == n else float(scipy.stats.beta.ppf(1 - tail, right + 1, n - right))
    return low, high


def _tell(share: float, question: Question) -> float:
    """The share who can really tell, when the others guess."""
    return max(0.0, (share - question.guess) / (1 - question.guess))


def most_allowed_for_similar(
    n: int, tell: float, question: Question = Question.TRIANGLE, sure: float = 0.95
) -> int:
    """The most right answers for which fewer than `tell` can be said to tell, at `sure`; -1 where
    none is few enough.

    Below what guessing alone brings, the panel is too small to say so.
    """
    right = question.guess + (1 - question.guess) * tell
    return max(
        (x for x in range(n + 1) if float(scipy.special.bdtr(x, n, right)) <= 1 - sure + 1e-12),
        default=-1,
    )
