"""What a practice's own eaters have shown: where they like a taste, and whether they notice what
the model foretells.

A small panel moves a window a little, a large one more: the steps by which eaters would have it
otherwise are held back by the size of the panel (shrinkage; grade C for its constant and for the
steps of a mark)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from math import sqrt
from statistics import mean

import scipy

from fresh_ladle.core.flavor.drift import steps_between
from fresh_ladle.core.flavor.parameters import BY_ID, Setting, weber
from fresh_ladle.core.flavor.windows import Window, Windows
from fresh_ladle.core.tasting.difference import Question, right_share_range
from fresh_ladle.core.tasting.simulated import D_PRIME_OF_A_STEP, JAR_PER_STEP
from fresh_ladle.core.tasting.verdict import adjective

HELD_BACK_BY = 30
"""Tasters for which half of what they show is taken over."""
LEAST_SHIFT = 0.05
"""Steps below which a window stays where it is."""
MOST_SHOWN = 5.0
"""Steps from which nearly every taster is right: more cannot be told by a forced choice."""


@dataclass(frozen=True, slots=True)
class Finding:
    """What closed round number `round` says of one taste of one sample: `stimulus` is what the
    model finds in it, `mark` the mean answer from −2, much too little, to 2, much too much."""

    round: int
    kind: str
    axis: str
    stimulus: float
    tasters: int
    mark: float


@dataclass(frozen=True, slots=True)
class Leaning:
    """By how many noticeable steps eaters like a kind of dish more (above 0) or less of a taste
    than its window has it, held back by the size of the panels; seen in so many rounds, by so many
    tasters in all."""

    kind: str
    axis: str
    steps: float
    times: int
    tasters: int

    @property
    def words(self) -> str:
        """`0.2 steps less salty; seen twice, 31 tasters`."""
        times = {1: "once", 2: "twice"}.get(self.times, f"{self.times} times")
        more = "more" if self.steps > 0 else "less"
        return (
            f"{abs(self.steps):.1f} steps {more} {adjective(self.axis)}; seen {times},"
            f" {self.tasters} tasters"
        )


def steps_beyond(finding: Finding, window: Window) -> float:
    """Steps by which what these eaters ask for lies beyond the window; 0 inside it: there they bear
    it out."""
    per_step = 1 + weber(BY_ID[finding.axis], Setting.FROM_MEMORY)
    floor = BY_ID[finding.axis].floor
    asked_for = max(
        0.0, (finding.stimulus + floor) * per_step ** (-finding.mark / JAR_PER_STEP) - floor
    )
    edge = min(max(asked_for, window.low), window.high)
    return steps_between(asked_for, edge, finding.axis, Setting.FROM_MEMORY)


def leanings(findings: Iterable[Finding], windows: Windows) -> list[Leaning]:
    """What all findings of each kind of dish and taste come to, by kind and axis. Samples of one
    round count once together, since the same people tasted them; findings without a window to move
    are left out."""
    gathered: dict[tuple[str, str], dict[int, list[Finding]]] = {}
    for finding in findings:
        if finding.axis in windows.get(finding.kind, {}):
            gathered.setdefault((finding.kind, finding.axis), {}).setdefault(
                finding.round, []
            ).append(finding)
    found = []
    for (kind, axis), rounds in sorted(gathered.items()):
        panels = {number: max(f.tasters for f in seen) for number, seen in rounds.items()}
        shown = sum(
            panels[number] * mean(steps_beyond(f, windows[kind][axis]) for f in seen)
            for number, seen in rounds.items()
        )
        tasters = sum(panels.values())
        found.append(Leaning(kind, axis, shown / (tasters + HELD_BACK_BY), len(rounds), tasters))
    return found


def leaned(windows: Windows, learned: Sequence[Leaning]) -> dict[str, dict[str, Window]]:
    """The windows with both ends moved as eaters lean; each moved one says so in `eaters`."""
    found = {kind: dict(by_axis) for kind, by_axis in windows.items()}
    for leaning in learned:
        if abs(leaning.steps) >= LEAST_SHIFT:
            window = found[leaning.kind][leaning.axis]
            low, high = (_moved(end, leaning) for end in (window.low, window.high))
            found[leaning.kind][leaning.axis] = replace(
                window, low=low, high=high, eaters=leaning.words
            )
    return found


def _moved(end: float, leaning: Leaning) -> float:
    """An end of a window so many steps on; none of a taste stays none: there the window is open
    below."""
    if end == 0:
        return 0.0
    axis = BY_ID[leaning.axis]
    factor: float = (1 + weber(axis, Setting.FROM_MEMORY)) ** leaning.steps
    return max(0.0, (end + axis.floor) * factor - axis.floor)


@dataclass(frozen=True, slots=True)
class StepsShown:
    """Noticeable steps, side by side, that a forced choice shows, with their 95% range;
    `open_above` where more right answers could not have told more."""

    steps: float
    low: float
    high: float

    @property
    def open_above(self) -> bool:
        return self.high >= MOST_SHOWN


def right_share(steps: float, question: Question) -> float:
    """The share of right answers when versions lie so many steps apart: Φ(d′/√2) in a pair; in a
    triangle 2∫[Φ(−z√3 + d′√⅔) + Φ(−z√3 − d′√⅔)]φ(z)dz over z ≥ 0 (Thurstone's model, equal
    scatter)."""
    d = D_PRIME_OF_A_STEP * steps
    if question is not Question.TRIANGLE:
        return float(scipy.stats.norm.cdf(d / sqrt(2)))
    apart = d * sqrt(2 / 3)

    def density(z: float) -> float:
        both = scipy.stats.norm.cdf(-z * sqrt(3) + apart) + scipy.stats.norm.cdf(
            -z * sqrt(3) - apart
        )
        return float(both * scipy.stats.norm.pdf(z))

    return 2 * float(scipy.integrate.quad(density, 0, 8)[0])


def steps_shown(question: Question, n: int, right: int) -> StepsShown:
    """What `right` of `n` answers come to in steps. In a pair steps below 0 say that the other one
    is the stronger."""
    low, high = right_share_range(n, right)
    return StepsShown(_steps(right / n, question), _steps(low, question), _steps(high, question))


def _steps(share: float, question: Question) -> float:
    least = 0.0 if question is Question.TRIANGLE else -MOST_SHOWN
    if share >= right_share(MOST_SHOWN, question):
        return MOST_SHOWN
    if share <= right_share(least, question):
        return least
    return float(
        scipy.optimize.brentq(
            lambda steps: right_share(steps, question) - share, least, MOST_SHOWN, xtol=1e-6
        )
    )


@dataclass(frozen=True, slots=True)
class Foretold:
    """What the model foretold for closed round number `round`, and what its panel showed, in steps
    side by side."""

    round: int
    question: Question
    attribute: str
    foretold: float
    shown: StepsShown
    tasters: int

    @property
    def borne_out(self) -> bool:
        """Whether the answers allow what was foretold."""
        return self.shown.low <= self.foretold <= self.shown.high or (
            self.shown.open_above and self.foretold >= self.shown.low
        )


def borne_out_sentence(rounds: Sequence[Foretold]) -> str:
    """How often the answers of a panel allowed what the model foretold."""
    count = sum(r.borne_out for r in rounds)
    if len(rounds) == 1:
        return (
            f"The answers of one round {'allow' if count else 'do not allow'} what the model"
            " foretold."
        )
    return (
        f"The answers of {count or 'none'} of {len(rounds)} rounds allow what the model foretold."
    )
