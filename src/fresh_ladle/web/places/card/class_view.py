"""A class as the screen and the sheet show it, and the page for the wall."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

from fresh_ladle.core.card.figures import card_figures, declared, name_in
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.wording import counted
from fresh_ladle.core.service.preparing import CUTTING
from fresh_ladle.core.service.scaling import weight_words
from fresh_ladle.core.service.schedule import Impossible, Placed
from fresh_ladle.core.service.steps import reach_words
from fresh_ladle.core.service.words import impossible_words
from fresh_ladle.core.teaching.lesson import Lesson
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.formats.paper import PaperTable
from fresh_ladle.web.places.card.made_card import MadeCard
from fresh_ladle.web.shared.money import cost_words

MOST_POINTS = 4
MOST_WALL_LINES = 5


@dataclass(frozen=True, slots=True)
class PartRow:
    """One part of the class, with the clock time it begins and what to say in it."""

    clock: str
    minutes: str
    title: str
    educator: str
    group: str
    materials: str
    safety: str
    says: list[str]


@dataclass(frozen=True, slots=True)
class LessonView:
    """The run sheet."""

    under: str
    parts: list[PartRow]
    before: list[tuple[str, str, str]]
    problem: str
    oven: str
    at_tables: list[tuple[str, str, str]]
    amounts: list[tuple[str, str]]
    by_hand: list[tuple[str, str]]
    shopping: list[tuple[str, str]]
    cost: str
    contains: str


def lesson_view(found: Lesson, made: MadeCard, currency: str) -> LessonView:
    """The class in words. Talking points are facts of the dish that the educator picked, else the
    first of each topic."""
    ask, clock = found.ask, found.clock
    first = clock.minute(ask.begins)
    oven = found.oven_on
    blades = {by_hand.step for by_hand in found.by_hand}
    problem = impossible_words(found.before) if isinstance(found.before, Impossible) else ""
    return LessonView(
        f"{ask.begins:%A %d %B %Y, %H:%M}, {ask.minutes} minutes, {counted(ask.tables, 'table')} of"
        f" {ask.at_table}",
        [
            PartRow(
                f"{clock.moment(first + part.start):%H:%M}",
                f"{part.end - part.start} min",
                part.block.title,
                part.block.educator,
                part.block.group,
                ", ".join(part.block.materials),
                part.block.safety,
                _said_in(part.block.id, made),
            )
            for part in found.parts
        ],
        [
            (
                f"{clock.moment(p.start):%a %H:%M}",
                p.task.text,
                (
                    f"{p.task.active} min of"
                    f" work{f', {p.task.waiting} on its own' if p.task.waiting else ''}"
                    f"{': hot' if p.task.uses in ('oven', 'burner') else ''}{_reach_of(p)}"
                ),
            )
            for p in found.before_placed
        ],
        problem,
        (
            f"The oven goes on at {oven:%H:%M}, before anybody comes; nobody waits for it."
            if oven
            else ""
        ),
        [(f"minute {p.start}", p.task.text, _who_and_mind(p, blades)) for p in found.at_tables],
        [
            (line.text, f"{weight_words(line.grams.value * found.sets)} in all")
            for line in found.table_lines
        ],
        [(b.step, b.instead) for b in found.by_hand],
        [(p.words, p.food.kitchen_name) for p in found.shopping if p.grams.value > 0],
        cost_words(found.cost, currency),
        made.card.contains,
    )


def _who_and_mind(placed: Placed, blades: set[str]) -> str:
    """Whose hands, and where they may be cut."""
    mind = "knife" if placed.task.verb in CUTTING else "blade" if placed.task.text in blades else ""
    return f"hands {placed.cook + 1}{f': {mind}' if mind else ''}{_reach_of(placed)}"


def _reach_of(placed: Placed) -> str:
    """What a step must reach to be safe; empty for most."""
    return "".join(f"; {reach_words(reach.words)}" for reach in placed.task.reach)


def _said_in(block: str, made: MadeCard) -> list[str]:
    """What there is to say, with its numbers."""
    if block == "welcome":
        return [made.card.contains]
    if block == "usual":
        said = [f.said for f in card_figures(made.usual, made.choices.regime)]
        against = [made.card.against] if made.card.against else []
        return [f"A serving as usual: {', '.join(said)}. {_top_line(made.usual)}", *against]
    if block == "card":
        return list(made.card.cautions)
    if block == "work":
        return _points(made)
    return []


def _top_line(dish: Appraisal) -> str:
    """What brings the most sodium, of all that is counted; a food that stands on two lines counts
    once."""
    shares: dict[str, float] = defaultdict(float)
    for portion in dish.portions:
        named = portion.line.named or portion.line.text
        shares[named] += dish.totals.per_line[portion.line.id]["sodium_mg"] or 0.0
    total = sum(shares.values())
    if total <= 0:
        return ""
    name = max(shares, key=lambda n: shares[n])
    of_counted = "" if dish.totals.serving["sodium_mg"].complete else " of what is counted"
    return f"The most sodium, {shares[name] / total * 100:.0f}%{of_counted}, comes with the {name}."


def _points(made: MadeCard) -> list[str]:
    if made.card.facts:
        return list(made.card.facts)
    by_topic = {fact.topic: fact.says for fact in reversed(made.card.offered_facts)}
    return list(reversed(list(by_topic.values())))[:MOST_POINTS]


def lesson_tables(shown: LessonView) -> list[PaperTable]:
    """The run sheet as tables to print."""
    parts = tuple(
        (p.clock, p.minutes, f"{p.title}: {p.educator}", p.group, " ".join((p.safety, *p.says)))
        for p in shown.parts
    )
    tables = [
        PaperTable(
            "The class", ("At", "For", "You", "They", "Mind, and say"), parts, (0, 0, 1.2, 1, 1.2)
        ),
        PaperTable("Before", ("From", "What", "How long"), tuple(shown.before), (0, 1, 0)),
        PaperTable("Each table", ("Begins", "Step", "Who"), tuple(shown.at_tables), (0, 1, 0)),
        PaperTable("Amounts", ("Each table", "All tables and yours"), tuple(shown.amounts), (1, 0)),
        PaperTable("Shopping", ("How much", "Food"), tuple(shown.shopping), (0, 1)),
    ]
    if shown.by_hand:
        tables.append(
            PaperTable("With no equipment", ("Step", "Instead"), tuple(shown.by_hand), (1, 1))
        )
    return [table for table in tables if table.rows]


@dataclass(frozen=True, slots=True)
class WallBar:
    """One line of the dish: what it brings as usual and now, in words and as percent of the longest
    bar."""

    name: str
    usual: str
    now: str
    usual_percent: float
    now_percent: float


@dataclass(frozen=True, slots=True)
class WallView:
    """The wall page: the figure as usual and now, and the lines that bring most of it."""

    title: str
    figure: str
    usual: str
    now: str
    bars: list[WallBar]
    choices: list[tuple[str, str]]
    chosen: str
    foot: str


def wall_view(made: MadeCard, figure: str) -> WallView:
    """Through the lens of one figure; sodium where no such figure is known."""
    nutrient = figure if figure in HEADLINE else "sodium_mg"
    regime = made.choices.regime
    now, usual = _by_name(made.dish, nutrient), _by_name(made.usual, nutrient)
    names = sorted({*now, *usual}, key=lambda n: -max(now.get(n, 0), usual.get(n, 0)))[
        :MOST_WALL_LINES
    ]
    longest = max((max(now.get(n, 0), usual.get(n, 0)) for n in names), default=0) or 1.0

    def said(value: float) -> str:
        text, unit = declared(nutrient, value, regime)
        return f"{text} {unit}"

    return WallView(
        made.card.title,
        name_in(nutrient, regime),
        said(made.usual.totals.serving[nutrient].value),
        said(made.dish.totals.serving[nutrient].value),
        [
            WallBar(
                name,
                said(usual.get(name, 0.0)),
                said(now.get(name, 0.0)),
                usual.get(name, 0.0) / longest * 100,
                now.get(name, 0.0) / longest * 100,
            )
            for name in names
        ],
        [(n, BY_ID[n].name) for n in HEADLINE],
        nutrient,
        made.card.foot,
    )


def _by_name(dish: Appraisal, nutrient: str) -> dict[str, float]:
    """What each line brings to a serving, by what it is called."""
    found: dict[str, float] = {}
    for p in dish.portions:
        name = p.line.named or p.line.text
        value = dish.totals.per_line[p.line.id][nutrient] or 0.0
        found[name] = found.get(name, 0.0) + value / dish.totals.servings
    return found
