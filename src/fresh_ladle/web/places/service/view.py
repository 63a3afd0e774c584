"""A service as the screen shows it: the day, amounts, batches, what is bought, what it costs, how
long it keeps."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import groupby

from markupsafe import Markup

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE, Nutrient
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.nutrients.wording import counted, oven_heat
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.service.buying import PackPrice, Purchase
from fresh_ladle.core.service.comparing import (
    PerHundred,
    bought_per_100_g,
    cost_changes,
    made_per_100_g,
)
from fresh_ladle.core.service.day import DishPlan, Service
from fresh_ladle.core.service.plate import plate_rows, together
from fresh_ladle.core.service.readings import readings_due
from fresh_ladle.core.service.scaling import ServiceLine, weight_words
from fresh_ladle.core.service.schedule import Placed, Schedule
from fresh_ladle.core.service.steps import reach_words
from fresh_ladle.core.service.times import minutes_words
from fresh_ladle.core.service.wholes import whole_choices
from fresh_ladle.core.service.words import impossible_words
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.services.services import KeptService
from fresh_ladle.web.places.service.day_lanes import day_lanes
from fresh_ladle.web.shared.money import cost_words, money

MOST_DRAWN_MINUTES = 2160
"""How long before eating the picture of the day begins at most; earlier work stands in the list
alone."""


@dataclass(frozen=True, slots=True)
class StepRow:
    """One step of the day: its number in the picture, when, who, what, and what is to be known of
    it."""

    number: int
    task: int
    start: str
    when: str
    """The start, with the day where that is not the day of the meal."""
    end: str
    cook: str
    text: str
    dish: str
    notes: tuple[str, ...]
    done: bool
    active: int
    waiting: int


@dataclass(frozen=True, slots=True)
class ReadingRow:
    """One reading that the day asks for: when, of which dish, what it must show; `kind` of the
    record it belongs to."""

    when: str
    dish: str
    words: str
    kind: str


def reading_rows(found: Service) -> list[ReadingRow]:
    """The readings that the day asks for; none where there is no day."""
    if not isinstance(found.order, Schedule):
        return []
    eaten = found.clock.minute(found.ask.eaten)
    return [
        ReadingRow(
            _on_its_day(found.ask.eaten, found.clock.moment(due.minute)),
            due.dish,
            due.words,
            due.kind or "",
        )
        for due in readings_due(found.order.placed, eaten)
    ]


@dataclass(frozen=True, slots=True)
class DayView:
    """The day: steps by date, the lanes, or why there is no day that works."""

    steps: list[tuple[str, list[StepRow]]]
    lanes: Markup
    problem: str
    starts: str
    next_steps: list[StepRow]
    """The first step that is left for each cook."""
    undone_before: int
    """Steps that should be over by now and are not."""
    readings: list[ReadingRow]


@dataclass(frozen=True, slots=True)
class DishView:
    """One dish at its size."""

    title: str
    made: str
    components: list[tuple[str, list[ServiceLine]]]
    batches: list[tuple[str, list[str]]]
    starts_with_less: list[str]
    keeps: str
    discard: str
    freezes: str
    parts: list[str]
    never: str
    cost: str


def day_view(found: Service, kept: KeptService, now: datetime) -> DayView:
    """The order of work, with what is done, what is next and what is late."""
    order = found.order
    if not isinstance(order, Schedule):
        return DayView([], Markup(""), impossible_words(order), "", [], 0, [])
    placed = sorted(order.placed, key=lambda p: (p.start, p.cook))
    numbers = {p.task.id: n for n, p in enumerate(placed, start=1)}
    rows = [(found.clock.moment(p.start), _step(found, p, numbers, kept)) for p in placed]
    days = [
        (f"{date:%A, %d %B}".replace(" 0", " "), [row for _, row in of_day])
        for date, of_day in groupby(rows, key=lambda item: item[0].date())
    ]
    first = found.clock.moment(order.start)
    title = (
        f"The day from {first:%H:%M}: {counted(len(placed), 'step')},"
        f" {counted(found.ask.kitchen.cooks, 'cook')}"
    )
    eaten = found.clock.minute(found.ask.eaten)
    drawn = [p for p in placed if p.start >= eaten - MOST_DRAWN_MINUTES]
    lanes = day_lanes(drawn, found.ask.kitchen.cooks, eaten, found.clock.moment, numbers, title)
    left: dict[str, StepRow] = {}
    for _, row in rows:
        if not row.done:
            left.setdefault(row.cook, row)
    late = sum(1 for p in placed if p.task.id not in kept.done and found.clock.moment(p.end) < now)
    return DayView(
        days,
        lanes,
        "",
        f"{first:%A %H:%M}",
        [left[cook] for cook in sorted(left)],
        late if now < found.ask.eaten else 0,
        reading_rows(found),
    )


def _step(found: Service, p: Placed, numbers: Mapping[int, int], kept: KeptService) -> StepRow:
    task = p.task
    notes = [task.changed] if task.changed else []
    notes += [reach_words(reach.words) for reach in task.reach]
    if task.waiting:
        notes.append(
            f"{minutes_words(task.active)} of work, {minutes_words(task.waiting)} on its own"
        )
    if task.celsius and task.uses == "oven" and "°" not in task.text:
        notes.append(oven_heat(task.celsius))
    if task.in_rounds:
        notes.append(f"the first of {task.batches} rounds; the next while they eat")
    elif task.batches > 1:
        notes.append(f"in {task.batches} {'loads' if task.uses == 'oven' else 'fillings'}")
    if task.id in kept.minutes:
        notes.append("time set here")
    elif task.timed and not task.said:
        notes.append(f"time learned from {counted(task.timed, 'timed step')}")
    elif not task.said:
        notes.append("time estimated")
    return StepRow(
        numbers[task.id],
        task.id,
        f"{found.clock.moment(p.start):%H:%M}",
        _on_its_day(found.ask.eaten, found.clock.moment(p.start)),
        _on_its_day(found.clock.moment(p.start), found.clock.moment(p.end)),
        chr(65 + p.cook),
        task.text,
        task.dish,
        tuple(notes),
        task.id in kept.done,
        task.active,
        task.waiting,
    )


def _on_its_day(day: datetime, moment: datetime) -> str:
    """A time, with its day where that is another."""
    return f"{moment:%H:%M}" if moment.date() == day.date() else f"{moment:%a %H:%M}"


def base_views(found: Service) -> list[tuple[str, str, list[ServiceLine]]]:
    """Bases that are made once: name, for what, and their lines."""
    return [
        (b.appraisal.recipe.title, f"made once, for {listed(b.names)}", list(b.lines))
        for b in found.bases
    ]


@dataclass(frozen=True, slots=True)
class PlateView:
    """One row of what a guest eats who takes of everything."""

    name: str
    grams: str
    figures: list[str]


def plate_views(found: Service) -> list[PlateView]:
    """Each dish, what it comes with, and all of it; nothing where that is one dish alone."""
    plans = (*found.plans, found.beside) if found.beside is not None else found.plans
    rows = plate_rows(plans)
    if len(rows) < 2:
        return []
    return [
        PlateView(
            row.name,
            f"{row.grams:,.0f} g",
            [figure_words(row.figures[n], BY_ID[n]) for n in HEADLINE],
        )
        for row in (*rows, together(rows))
    ]


def figure_words(figure: Figure, nutrient: Nutrient) -> str:
    """`412`, or `at least 412` where something is not known."""
    said = f"{figure.value:,.0f}" if nutrient.decimals == 0 else f"{figure.value:,.1f}"
    return said if figure.complete else f"at least {said}"


@dataclass(frozen=True, slots=True)
class WholeView:
    """One way to take whole cans: as servings, or on its line with what that does to a serving."""

    line: str
    cans: int
    needs: str
    servings: int
    moved: str
    changes: list[str]


def whole_views(
    found: Service, plan: DishPlan, appraise: Callable[[Recipe], Appraisal]
) -> list[WholeView]:
    """The ways to take whole cans in a dish."""
    dish = plan.dish
    views = []
    for c in whole_choices(dish.appraisal, dish.factor, dish.servings, found.ask.region, appraise):
        changes = [
            f"{BY_ID[n].name} {figure_words(before, BY_ID[n])} → {figure_words(after, BY_ID[n])}"
            for n, (before, after) in c.figures.items()
            if figure_words(before, BY_ID[n]) != figure_words(after, BY_ID[n])
        ]
        cans = counted(c.cans, c.pack)
        needs = f"{c.name}: {c.needed:.1f} {c.pack}s are needed"
        views.append(
            WholeView(c.line, c.cans, needs, c.servings, f"{cans} for {dish.servings:g}", changes)
        )
    return views


def dish_view(found: Service, plan: DishPlan, currency: str) -> DishView:
    """Amounts, batches, keep time and cost of one dish."""
    components = [
        (name, list(lines)) for name, lines in groupby(plan.lines, key=lambda line: line.component)
    ]
    less = [
        f"{weight_words(line.start_grams)} {line.name}"
        for line in plan.lines
        if line.start_share < 1 and line.grams.value >= 1
    ]
    batches = [
        (
            (
                f"{task[0].task}: {counted(task[0].of, 'filling')} of {weight_words(task[0].grams)}"
                f" ({task[0].millilitres:.0f} ml{', hot: half full' if task[0].hot else ''})"
            ),
            [f"{weight_words(grams)} {name}" for _, name, grams in task[0].lines],
        )
        for _, fillings in groupby(plan.batches, key=lambda b: b.task)
        if (task := list(fillings))[0].of > 1
    ]
    keep = plan.keeping
    last = found.keep_by(plan)
    keeps = (
        "the same meal only"
        if keep.days == 0
        else f"{counted(keep.days, 'day')}, to {last:%A %d %B}".replace(" 0", " ")
    )
    return DishView(
        plan.dish.appraisal.recipe.title,
        f"{plan.dish.servings:g} servings,"
        f" {weight_words(sum(line.grams.value for line in plan.lines))} as weighed in",
        components,
        batches,
        less,
        f"{keeps} at 5 °C (41 °F) or below: {keep.decided_by}",
        keep.parts[0].rule.discard if keep.parts else "",
        keep.parts[0].rule.freezes if keep.parts else "",
        [
            f"{p.rule.component}: {'the same meal' if p.days == 0 else counted(p.days, 'day')}"
            for p in keep.parts[1:]
        ],
        (
            f"Not for guests at risk: {listed(keep.never_for_at_risk)}."
            if keep.never_for_at_risk
            else ""
        ),
        cost_words(plan.cost, currency),
    )


def shopping_sections(bought: Sequence[Purchase]) -> list[tuple[str, list[Purchase]]]:
    """The list by part of the store."""
    return [(section, list(rows)) for section, rows in groupby(bought, key=lambda p: p.section)]


@dataclass(frozen=True, slots=True)
class CostView:
    """What a dish costs beside its original and beside a bought one."""

    recipe_id: int
    title: str
    now: str
    against: str
    changes: list[str]
    hundred: list[PerHundred]
    bought: str


def cost_view(
    plan: DishPlan,
    recipe_id: int,
    original: Appraisal,
    prices: Mapping[str, PackPrice],
    bought: Food | None,
    currency: str,
) -> CostView:
    """`original` is the first version; the range of the cost comes from that of the amounts."""
    dish = plan.dish.appraisal
    more, changes = cost_changes(original, dish, prices)
    if not changes:
        against = "as the original"
    elif more is None:
        against = "against the original: not known, since a price is missing"
    else:
        word = "more" if more > 0 else "less"
        against = f"{money(abs(more), currency)} {word} a serving than the original"
    said = [
        f"{c.food} {'no price' if c.more is None else f'{c.more:+.2f}'.replace('-', '−')}"
        for c in changes
    ]
    cost = None if plan.cost.unknown or not plan.cost.value else plan.cost.value
    hundred = [made_per_100_g(dish, cost)]
    if bought is not None:
        hundred.append(bought_per_100_g(bought, prices.get(bought.key)))
    return CostView(
        recipe_id,
        dish.recipe.title,
        cost_words(plan.cost, currency),
        against,
        said,
        hundred,
        bought.key if bought is not None else "",
    )
