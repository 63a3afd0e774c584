"""Asks what changes the answer, most important first: what is unclear, times how far it moves the chosen figure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.ambiguity import Ambiguity
from fresh_ladle.core.amounts.bowl import Portion, food_ambiguity, read_as
from fresh_ladle.core.amounts.kitchen import kitchen_amount
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.totals import Totals, line_figures
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.sentences import capitalized

MIN_SHARE = 0.01
"""A question that moves the figure by less than this share of it is not worth a tap."""
VAGUE = 0.15
"""An amount whose range is wider than ± this share is asked about."""


@dataclass(frozen=True, slots=True)
class Answer:
    """One answer in a few words, and the line as it is when that is the answer."""

    label: str
    line: Line


@dataclass(frozen=True, slots=True)
class Question:
    """A question about one line. `stake` is how far the answer may move the figure per serving, either way."""

    line_id: str
    about: str
    text: str
    stake: float
    answers: tuple[Answer, ...]


def questions(
    weighed: Sequence[Portion], figures: Totals, nutrient: str, pantry: Pantry, doubts: Sequence[Ambiguity]
) -> list[Question]:
    """Open questions about food and amount, the one that moves the figure furthest first. Skipped ones stay out."""
    # Wording the answers takes far longer than weighing the stake, so what is not worth asking is dropped first.
    least = MIN_SHARE * figures.serving[nutrient].value
    found = []
    for portion in weighed:
        if portion.known and portion.food is not None and portion.batch_line is None:
            found += _about_food(portion, figures, nutrient, pantry, doubts) + _about_amount(
                portion, figures, nutrient, least
            )
    return sorted((q for q in found if q.stake > least), key=lambda q: (-q.stake, q.line_id, q.about))


def _about_food(
    portion: Portion, figures: Totals, nutrient: str, pantry: Pantry, doubts: Sequence[Ambiguity]
) -> list[Question]:
    line, food = portion.line, portion.food
    if food is None or not portion.other_readings or "food skipped" in line.settled:
        return []
    doubt = food_ambiguity(line, food, pantry, doubts)
    if doubt is None:
        return []
    values = [line_figures(p)[nutrient] or 0.0 for p in (portion, *portion.other_readings)]
    settled = line.settled | {"food"}
    answers = tuple(
        Answer(label, replace(read_as(line, pantry[key]), settled=settled, confidence=max(line.confidence, 0.95)))
        for key, label in doubt.options(food, pantry).items()
    )
    stake = (max(values) - min(values)) / 2 / figures.servings
    text = doubt.question
    named = line.named or food.kitchen_name
    return [
        Question(
            line.id,
            "food",
            (
                text
                if named.split()[-1].rstrip("s").lower() in text.lower()
                else f"{capitalized(named)}: {text[:1].lower()}{text[1:]}"
            ),
            stake,
            answers,
        )
    ]


def _about_amount(portion: Portion, figures: Totals, nutrient: str, least: float) -> list[Question]:
    line, food, grams = portion.line, portion.food, portion.counted
    if food is None or grams.value <= 0 or {"amount", "amount skipped"} & line.settled:
        return []
    if (grams.high - grams.low) / 2 / grams.value < VAGUE:
        return []
    value = figures.per_line[line.id][nutrient] or 0.0
    stake = value * (grams.high - grams.low) / 2 / grams.value / figures.servings
    if stake <= least:
        return []
    measured = portion.measured
    wordings = dict.fromkeys(
        kitchen_amount(food, g, line.remarks) for g in _likely(measured.low, measured.value, measured.high)
    )
    settled = line.settled | {"amount"}
    answers = tuple(
        Answer(w, replace(line, amount=w, settled=settled, confidence=max(line.confidence, 0.95))) for w in wordings
    )
    named = line.named or food.kitchen_name
    said = f"“{line.amount}”" if line.amount else line.said_amount
    return [Question(line.id, "amount", f"{capitalized(named)}, {said}: about how much?", stake, answers)]


def _likely(low: float, typical: float, high: float) -> list[float]:
    """Four amounts across the range, for a person to pick the nearest."""
    return [max(low, typical * 0.1) or typical / 2, typical, (typical + high) / 2, high]
