"""Asks what changes the answer, most important first: what is unclear, times how far it moves the
chosen figure."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.ambiguity import Ambiguity
from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.bowl import Portion, eaten_by_method, food_ambiguity, read_as
from fresh_ladle.core.amounts.kitchen import kitchen_amount
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.method.states import BOILED
from fresh_ladle.core.method.stuff import WHOLE
from fresh_ladle.core.nutrients.targets import Basis, Target, Verdict, target_status
from fresh_ladle.core.nutrients.totals import Totals, line_figures
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.words.sentences import capitalized

MIN_WORTH = 0.01
"""A question that moves no figure by more than this share of what counts is not worth a tap."""
NEAR_A_LIMIT = 0.1
"""A figure this near its limit, as a share of it, is no easier to decide when it comes nearer
still."""
VAGUE = 0.15
"""An amount whose range is wider than ± this share is asked about."""


@dataclass(frozen=True, slots=True)
class Answer:
    """One answer in a few words, and the line as it is when that is the answer."""

    label: str
    line: Line


@dataclass(frozen=True, slots=True)
class Question:
    """A question about one line. `stake` is how far the answer may move `nutrient` per serving,
    either way: the figure among those watched for which that is worth most. `worth` is that stake
    as a share of what counts."""

    line_id: str
    about: str
    text: str
    nutrient: str
    stake: float
    worth: float
    answers: tuple[Answer, ...]


Watched = Mapping[str, float]
"""Figures that answers are wanted for, each with how far it would have to move to matter, per
serving."""


def watched_figures(figures: Totals, nutrient: str, targets: Sequence[Target] = ()) -> Watched:
    """The figure looked at, and those of targets that are not surely met: the nearer the limit, the
    more it matters."""
    found = {nutrient: figures.serving[nutrient].value}
    for target in targets:
        figure = figures.serving[target.nutrient]
        if (
            target.basis is not Basis.SERVING
            or target_status(figure, target).verdict is Verdict.MEETS
        ):
            continue
        room = max(abs(figure.value - target.limit), NEAR_A_LIMIT * max(target.limit, figure.value))
        found[target.nutrient] = min(room, found.get(target.nutrient, room))
    return {n: scale for n, scale in found.items() if scale > 0}


def questions(
    weighed: Sequence[Portion],
    figures: Totals,
    watched: Watched,
    pantry: Pantry,
    doubts: Sequence[Ambiguity],
) -> list[Question]:
    """Open questions about food and amount, the one worth most to any watched figure first. Skipped
    ones stay out."""
    found = []
    for portion in weighed:
        if portion.known and portion.food is not None and portion.batch_line is None:
            kinds = _kinds(portion, pantry, doubts)
            found += _about_food(portion, figures, watched, pantry, doubts)
            if Aside.OPTIONAL in portion.line.asides or not _kind_settles_amount(
                portion.line, kinds
            ):
                found += _about_amount(portion, figures, watched)
            found += _about_what_stays(portion, figures, watched)
    return sorted(
        (q for q in found if q.worth > MIN_WORTH), key=lambda q: (-q.worth, q.line_id, q.about)
    )


def _worth_most(stakes: Mapping[str, float], watched: Watched) -> tuple[float, str]:
    """The greatest share of what counts that a stake comes to, and the figure it does so for."""
    return max((stakes[n] / scale, n) for n, scale in watched.items()) if watched else (0.0, "")


def _about_food(
    portion: Portion, figures: Totals, watched: Watched, pantry: Pantry, doubts: Sequence[Ambiguity]
) -> list[Question]:
    line, food = portion.line, portion.food
    if food is None or not portion.other_readings or "food skipped" in line.settled:
        return []
    doubt = food_ambiguity(line, food, pantry, doubts)
    if doubt is None or _cooked_by_method(line, food):
        return []
    readings = [line_figures(p) for p in (portion, *portion.other_readings)]
    stakes = {}
    for nutrient in watched:
        values = [reading[nutrient] or 0.0 for reading in readings]
        stakes[nutrient] = (max(values) - min(values)) / 2 / figures.servings
    worth, nutrient = _worth_most(stakes, watched)
    if worth <= MIN_WORTH:
        return []
    settled = line.settled | {"food"}
    answers = tuple(
        Answer(
            label,
            replace(
                read_as(line, pantry[key]), settled=settled, confidence=max(line.confidence, 0.95)
            ),
        )
        for key, label in doubt.options(food, pantry).items()
    )
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
            nutrient,
            stakes[nutrient],
            worth,
            answers,
        )
    ]


def _cooked_by_method(line: Line, food: Food) -> bool:
    """Whether the method boils what may have been measured dry or cooked: then it was measured
    dry."""
    return food.form == "dry" and line.reached is not None and bool(BOILED & set(line.reached.done))


def _kinds(portion: Portion, pantry: Pantry, doubts: Sequence[Ambiguity]) -> list[Food]:
    """The foods a bare word on this line may mean, whether that was asked already or not."""
    line, food = portion.line, portion.food
    if food is None or not portion.other_readings:
        return []
    doubt = food_ambiguity(line, food, pantry, doubts)
    return [pantry[key] for key in doubt.options(food, pantry)] if doubt else []


def _kind_settles_amount(line: Line, kinds: Sequence[Food]) -> bool:
    """Whether an amount is vague only while the kind of food is open: a teaspoon of one salt or of
    another."""
    if not line.amount or not kinds:
        return False
    for food in kinds:
        try:
            grams = weigh(parse_amount(line.amount), food, line.remarks).grams
        except UnitMisfit:
            return False
        if (grams.high - grams.low) / 2 / grams.value >= VAGUE:
            return False
    return True


def _about_amount(portion: Portion, figures: Totals, watched: Watched) -> list[Question]:
    line, food = portion.line, portion.food
    # What the method leaves open is asked by itself.
    grams = portion.measured if _parts_by_method(portion) else portion.counted
    if food is None or grams.value <= 0 or {"amount", "amount skipped"} & line.settled:
        return []
    if (grams.high - grams.low) / 2 / grams.value < VAGUE:
        return []
    doubt = (grams.high - grams.low) / 2 / grams.value / figures.servings
    stakes = {n: (figures.per_line[line.id][n] or 0.0) * doubt for n in watched}
    worth, nutrient = _worth_most(stakes, watched)
    # Wording the answers takes far longer than weighing the stake, so what is not worth asking is
    # dropped first.
    if worth <= MIN_WORTH:
        return []
    if Aside.OPTIONAL in line.asides:
        return [_about_optional(line, food, nutrient, stakes[nutrient], worth)]
    measured = portion.measured
    wordings = dict.fromkeys(
        kitchen_amount(food, g, line.remarks)
        for g in _likely(measured.low, measured.value, measured.high)
    )
    settled = line.settled | {"amount"}
    answers = tuple(
        Answer(w, replace(line, amount=w, settled=settled, confidence=max(line.confidence, 0.95)))
        for w in wordings
    )
    named = line.named or food.kitchen_name
    said = f"“{line.amount}”" if line.amount else line.said_amount
    text = f"{capitalized(named)}, {said}: about how much?"
    return [Question(line.id, "amount", text, nutrient, stakes[nutrient], worth, answers)]


def _parts_by_method(portion: Portion) -> bool:
    """Whether part of a line leaves it by the method, and nobody has said how much."""
    reached = portion.line.reached
    return (
        reached is not None
        and reached.eaten != WHOLE
        and eaten_by_method(portion.line, portion.preparations)
    )


def _about_what_stays(portion: Portion, figures: Totals, watched: Watched) -> list[Question]:
    """How much of a line stays that the method drains, squeezes or leaves on a tray."""
    line, food = portion.line, portion.food
    if (
        food is None
        or line.reached is None
        or not _parts_by_method(portion)
        or "eaten skipped" in line.settled
    ):
        return []
    eaten = line.reached.eaten
    if eaten.value <= 0 or (eaten.high - eaten.low) / 2 / eaten.value < VAGUE:
        return []
    doubt = (eaten.high - eaten.low) / 2 / eaten.value / figures.servings
    stakes = {n: (figures.per_line[line.id][n] or 0.0) * doubt for n in watched}
    worth, nutrient = _worth_most(stakes, watched)
    settled = line.settled | {"eaten"}
    shares = dict.fromkeys(round(share, 2) for share in (eaten.low, eaten.value, eaten.high, 1.0))
    answers = tuple(
        Answer(
            "all of it" if share == 1 else f"about {share:.0%}",
            replace(line, eaten=share, settled=settled),
        )
        for share in shares
    )
    text = (
        f"{capitalized(line.named or food.kitchen_name)}: how much of it stays, once the method is"
        " done?"
    )
    return [Question(line.id, "eaten", text, nutrient, stakes[nutrient], worth, answers)]


def _about_optional(line: Line, food: Food, nutrient: str, stake: float, worth: float) -> Question:
    settled = line.settled | {"amount"}
    answers = (
        Answer("it is in", replace(line, asides=line.asides - {Aside.OPTIONAL}, settled=settled)),
        Answer("left out", replace(line, eaten=0.0, settled=settled)),
    )
    text = f"{capitalized(line.named or food.kitchen_name)}, optional: is it in?"
    return Question(line.id, "amount", text, nutrient, stake, worth, answers)


def _likely(low: float, typical: float, high: float) -> list[float]:
    """Four amounts across the range, for a person to pick the nearest."""
    return [max(low, typical * 0.1) or typical / 2, typical, (typical + high) / 2, high]
