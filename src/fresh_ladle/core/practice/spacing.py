"""When an exercise comes again: just before it is likely to be forgotten, by a kept scheduler of
spaced repetition."""

from __future__ import annotations

from datetime import datetime

from fsrs import Card, Rating, Scheduler

from fresh_ladle.core.practice.scoring import Answered, interval_score

SHARP, BROAD = 1.0, 3.0
"""Interval scores, as a share of the figure: up to the first an answer is easy, past the second
hard though it held."""
_SCHEDULER = Scheduler(enable_fuzzing=False)


def rating_of(right: bool, answered: Answered | None = None) -> Rating:
    """How well it was known: a wrong choice, or a range that missed, comes again soonest."""
    if not right:
        return Rating.Again
    if answered is None:
        return Rating.Good
    score = interval_score(answered)
    return Rating.Easy if score <= SHARP else Rating.Hard if score > BROAD else Rating.Good


def next_time(memory: str | None, rating: Rating, now: datetime) -> tuple[str, datetime]:
    """What the scheduler keeps of an exercise after an answer, as JSON, and when it is due. `now`
    is in UTC."""
    card = Card.from_json(memory) if memory else Card()
    card, _ = _SCHEDULER.review_card(card, rating, now)
    return card.to_json(), card.due
