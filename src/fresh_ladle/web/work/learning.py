"""What closed tastings of a practice teach: findings for the windows, and what was foretold against
what was shown.

Rounds of a made-up panel teach nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable

from fresh_ladle.core.flavor.parameters import BY_ID, Setting
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.eaters import Finding, Foretold, steps_shown
from fresh_ladle.core.tasting.liking import JAR_WORDS
from fresh_ladle.core.tasting.round import is_right
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.store.tastings.tastings import Tasting

Appraise = Callable[[Recipe], Appraisal]


def learned_from(rounds: Iterable[Tasting]) -> list[Tasting]:
    """The rounds that real tasters have answered and that are closed."""
    return [t for t in rounds if t.state == "closed" and not t.simulated]


def findings(rounds: Iterable[Tasting], appraise: Appraise) -> list[Finding]:
    """What was just about right or not in each sample, where it was asked."""
    found = []
    middle = (1 + len(JAR_WORDS)) // 2
    for t in learned_from(rounds):
        if t.question is not Question.LIKING:
            continue
        for sample in t.samples:
            said = [
                place.scores[cup.code]
                for place in t.seats
                for cup in place.cups
                if cup.sample == sample.letter and cup.code in place.scores
            ]
            flavor = appraise(sample.recipe).flavor if said and t.attributes else {}
            for axis in t.attributes:
                if axis in BY_ID and said:
                    mark = sum(one[axis] for one in said) / len(said) - middle
                    found.append(
                        Finding(t.id, sample.recipe.kind, axis, flavor[axis].value, len(said), mark)
                    )
    return found


def foretold(rounds: Iterable[Tasting], appraise: Appraise) -> list[Foretold]:
    """The steps between two versions that the model foretold, beside those that the panel
    showed."""
    found = []
    for t in learned_from(rounds):
        if t.question not in (Question.TRIANGLE, Question.PAIR):
            continue
        right = [
            is_right(t.question, s.cups, s.answer, t.expected)
            for s in t.seats
            if s.answer is not None
        ]
        named, other = sorted(t.samples, key=lambda s: s.letter != t.expected)[:2]
        drift = drift_between(appraise(named.recipe), appraise(other.recipe), Setting.SIDE_BY_SIDE)
        triangle = t.question is Question.TRIANGLE
        if not triangle and t.attribute not in drift.steps:
            continue
        steps = drift.total if triangle else drift.steps[t.attribute]
        shown = steps_shown(t.question, len(right), sum(right))
        found.append(
            Foretold(t.id, t.question, "" if triangle else t.attribute, steps, shown, len(right))
        )
    return found
