"""Plans as the screen shows them: steps with what each does, the whole with its doubt and taste,
and the front."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from markupsafe import Markup

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.allergens import allergen_group
from fresh_ladle.core.flavor.texture import texture_words
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.nutrients.wording import (
    counted,
    display_amount,
    nutrient_amount,
    range_text,
    signed,
)
from fresh_ladle.core.plans.plan import Plan, PlanStep, with_steps
from fresh_ladle.core.plans.refusal import Relaxation
from fresh_ladle.core.plans.search import hardest
from fresh_ladle.core.plans.servings import helping_words
from fresh_ladle.core.swaps.effect import effect_of
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.whole.costs import Prices, change_of_cost
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.web.places.plans.pareto_front import Mark, front_picture
from fresh_ladle.web.shared.figure_view import FigureView
from fresh_ladle.web.shared.target_status import Tilt, tilt_view

LETTERS = "ABCDEFGHIJKLMN"


class Group(StrEnum):
    """Where a version stands in the list."""

    HOLDS = "holds"
    BETWEEN = "between"
    OTHERWISE = "otherwise"
    NEAREST = "nearest"
    WOULD_DO = "would do"
    STAGE = "stage"


@dataclass(frozen=True, slots=True)
class Listed:
    """One version in the list. `asks` is the request under which it holds, where that is another;
    `before` the version its steps begin from, where that is not the draft; `on` the date of a
    stage."""

    plan: Plan
    group: Group
    asks: Relaxation | None = None
    before: Appraisal | None = None
    on: date | None = None


@dataclass(frozen=True, slots=True)
class StepView:
    """One step, with what it does to a serving when taken alone. `changes` pairs a figure's name
    with its change."""

    id: str
    number: int
    text: str
    reason: str
    when: str
    changes: list[tuple[str, str]]


@dataclass(frozen=True, slots=True)
class PlanView:
    """One plan whole."""

    number: int
    letter: str
    name: str
    why: str
    summary: str
    steps: list[StepView]
    figures: list[FigureView]
    helping: str
    texture: str
    total: str
    buy: list[str]
    tilt: Tilt
    brings: list[str]
    packs_to_read: list[str]
    cautions: list[str]
    pitfalls: list[str]
    cost: str
    fingerprint: str
    stays: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class PlanRow:
    """One version in the list. `asks` as in `Listed`."""

    number: int
    letter: str
    name: str
    why: str
    summary: str
    group: Group
    asks: Relaxation | None


def plan_fingerprint(steps: Sequence[PlanStep]) -> str:
    """The steps of a plan in one line, by which a page says which plan it shows."""
    return " / ".join(step.text for step in steps)


def plan_rows(listed: Sequence[Listed], now: Appraisal, targets: Sequence[Target]) -> list[PlanRow]:
    """The versions for the list; those that hold have letters."""
    hard = hardest(now, tuple(targets))
    return [
        PlanRow(
            n,
            letter_of(listed, n),
            _row_name(one),
            one.plan.why,
            _summary(one.plan, hard),
            one.group,
            one.asks,
        )
        for n, one in enumerate(listed)
    ]


def letter_of(listed: Sequence[Listed], number: int) -> str:
    return LETTERS[number % len(LETTERS)] if listed[number].group is Group.HOLDS else ""


def _row_name(one: Listed) -> str:
    if one.on is not None:
        return f"{one.plan.name}, {one.on.day} {one.on:%B}"
    return one.asks.text if one.asks is not None else one.plan.name


def _summary(plan: Plan, hard: Target | None) -> str:
    figure = (
        ""
        if hard is None
        else (
            f" · {nutrient_amount(hard.nutrient, plan.after.figure_for(hard).value)}"
            f" {BY_ID[hard.nutrient].unit}"
        )
    )
    grams = f"{plan.after.totals.serving_grams:.0f} g a serving"
    return (
        f"{counted(plan.changes, 'change')} · {grams} · {plan.drift.total:.1f} steps in all{figure}"
    )


def plan_view(
    plan: Plan,
    number: int,
    letter: str,
    now: Appraisal,
    original: Appraisal,
    knowledge: Knowledge,
    prices: Prices,
    exclusions: Collection[str],
) -> PlanView:
    steps = []
    for place, step in enumerate(plan.steps, start=1):
        alone = effect_of(now, with_steps(now.recipe, (step,)), original, knowledge)
        changes = [
            (BY_ID[n].name, text)
            for n in HEADLINE
            if (text := signed(n, alone.change[n]))[0] in "+−"
        ]
        steps.append(
            StepView(step.id, place, display_amount(step.text), step.reason, step.when, changes)
        )
    figures = []
    for nutrient in HEADLINE:
        figure = plan.after.totals.serving[nutrient]
        chances = [p for t, p in plan.meets.items() if t.nutrient == nutrient]
        figures.append(
            FigureView(
                BY_ID[nutrient].name,
                f"{nutrient_amount(nutrient, figure.value)} {BY_ID[nutrient].unit}",
                range_text(nutrient, figure),
                _chance_words(chances),
            )
        )
    hard = hardest(now, tuple(plan.meets))
    return PlanView(
        number,
        letter,
        plan.name,
        plan.why,
        _summary(plan, hard),
        steps,
        figures,
        _helping_words(plan.after, now),
        _texture_words(plan),
        f"{plan.drift.total:.1f}",
        _bought(plan, now, knowledge),
        tilt_view(plan.after, original, knowledge=knowledge),
        [a.said for a in plan.brings],
        [
            f"{a.name} ({', '.join(a.foods)})"
            for a in plan.after.may_contain
            if {a.id, allergen_group(a.id)} & set(exclusions)
        ],
        [c.caution.text for c in plan.cautions],
        [t.text for t in plan.pitfalls],
        cost_text(now, plan.after, prices),
        plan_fingerprint(plan.steps),
        plan.stays,
    )


def _helping_words(after: Appraisal, now: Appraisal) -> str:
    """What a serving weighs, and what it did where that is another weight."""
    said, before = helping_words(after), helping_words(now)
    return f"A serving weighs {said}" + (
        ", as before." if said == before else f"; before it was {before}."
    )


def _texture_words(plan: Plan) -> str:
    """What is missed of texture; empty where nothing is."""
    said = texture_words(plan.drift.texture)
    return f"Texture, by one cook's figures: {listed(said)}." if said else ""


def _bought(plan: Plan, now: Appraisal, knowledge: Knowledge) -> list[str]:
    """Foods that come in and were not in the dish."""
    there = {line.food for line in now.recipe.lines} | {"water"}
    keys = dict.fromkeys(
        line.food for step in plan.steps for line in step.added if line.food not in there
    )
    return [knowledge.pantry[key].kitchen_name for key in keys if key is not None]


def _chance_words(chances: Sequence[float]) -> str:
    """How often the limits on a figure are met, by the one that is met least."""
    if not chances:
        return ""
    least = min(chances)
    return (
        "meets"
        if least >= 0.985
        else f"meets {int(least * 10)} times in 10"
        if least >= 0.1
        else "not met"
    )


def cost_text(now: Appraisal, after: Appraisal, prices: Prices) -> str:
    """What a serving costs more or less, when every food that changes has a price; empty without
    prices."""
    if not prices:
        return ""
    change = change_of_cost(now, after, prices)
    if change is None:
        return "Its cost is not known: some of what changes has no price yet."
    if abs(change) < 0.005:
        return "It costs the same."
    return f"A serving costs {abs(change):.2f} {'more' if change > 0 else 'less'}."


def pareto_view(
    listed: Sequence[Listed],
    now: Appraisal,
    original: Appraisal,
    targets: Sequence[Target],
    job_id: int,
    tail: str,
) -> Markup:
    """The front as a picture from which a version is chosen; empty without a target."""
    hard = hardest(now, tuple(targets))
    if hard is None or not listed:
        return Markup("")
    unit = BY_ID[hard.nutrient].unit
    marks = [
        Mark(
            letter_of(listed, n),
            one.plan.drift.total,
            one.plan.after.figure_for(hard).value,
            f"/plans/{job_id}?shown={n}{tail}",
            f"{_row_name(one)}: {one.plan.drift.total:.1f} steps,"
            f" {nutrient_amount(hard.nutrient, one.plan.after.figure_for(hard).value)} {unit}",
        )
        for n, one in enumerate(listed)
        if one.group is not Group.STAGE
    ]
    name = BY_ID[hard.nutrient].said
    title = f"Steps of taste against {name}: " + "; ".join(m.title for m in marks)
    start = now.figure_for(hard).value
    here = Mark("", drift_between(now, original).total, start, "", "as it stands")
    return front_picture(marks, here, hard.limit, hard.side is Side.AT_MOST, name, unit, title)
