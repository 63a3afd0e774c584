"""Where a number comes from: line by line, with the row, the source and the grade behind each
part."""

from __future__ import annotations

from dataclasses import dataclass, field

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.parameters import BY_ID as AXIS
from fresh_ladle.core.flavor.parameters import INTERACTIONS
from fresh_ladle.core.flavor.stimuli import is_derived, per_100_g_of_food
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.wording import (
    figure_text,
    grams_range_text,
    grams_text,
    nutrient_amount,
    range_text,
    step_text,
)
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_ranges, windows_of
from fresh_ladle.core.words.sentences import capitalized


@dataclass(frozen=True, slots=True)
class Origin:
    """One line of the account. `weighed_by` says how its grams came about, `changed_by` what
    preparation did."""

    name: str
    food: str | None
    grams: str
    grams_range: str
    weighed_by: str
    changed_by: str
    per_100_g: str
    part: str
    source: str
    grade: Grade | None


@dataclass(frozen=True, slots=True)
class Account:
    """The whole account of one number."""

    title: str
    value: str
    range: str
    how: str
    per: str
    origins: list[Origin]
    missing: tuple[str, ...]
    interactions: list[str] = field(default_factory=list)


def figure_account(appraisal: Appraisal, nutrient: str) -> Account:
    """How a figure per serving adds up."""
    totals, meta = appraisal.totals, NUTRIENT[nutrient]
    figure = totals.serving[nutrient]
    origins = []
    for p in appraisal.portions:
        value = totals.per_line[p.line.id][nutrient]
        source = p.food.figure_source(nutrient) if p.food else None
        per_100_g = p.food.per_100_g[nutrient] if p.food else None
        factor = p.factors.get(nutrient)
        origins.append(
            Origin(
                p.food.name if p.food else p.line.text,
                p.line.food,
                grams_text(p.counted),
                grams_range_text(p.counted),
                p.route or (p.problem or ""),
                (
                    f"× {factor:g},"
                    f" {', '.join(x.label for x in p.preparations if nutrient in x.factors)}"
                    if factor
                    else ""
                ),
                (
                    "not determined"
                    if per_100_g is None
                    else f"{nutrient_amount(nutrient, per_100_g)} {meta.unit}"
                ),
                (
                    "unknown"
                    if value is None
                    else f"{nutrient_amount(nutrient, value / totals.servings)} {meta.unit}"
                ),
                source.label if source else "",
                source.grade if source else None,
            )
        )
    how = (
        "Each line: grams ÷ 100 × the figure per 100 g. The sum of the batch is divided by"
        f" {totals.servings:.3g} servings. The range holds nine cases in ten: what the amounts may"
        " vary, and what foods differ from the table (5% for goods, 10% for produce: defaults)."
    )
    return Account(
        meta.name,
        figure_text(nutrient, figure),
        f"{range_text(nutrient, figure)} {meta.unit}",
        how,
        f"{meta.unit} per 100 g",
        origins,
        figure.missing,
    )


def axis_account(
    now: Appraisal, original: Appraisal, axis_id: str, knowledge: Knowledge
) -> Account:
    """Who makes a taste axis, and what its concentration was in the original."""
    axis, stimulus, before = AXIS[axis_id], now.flavor[axis_id], original.flavor[axis_id]
    origins = []
    for p in now.portions:
        if p.food is None:
            continue
        in_100_g = per_100_g_of_food(p.food, axis_id)
        part = stimulus.by_line.get(p.line.id)
        taste = p.food.taste
        if is_derived(p.food, axis_id):
            nutrient = {"salt": "sodium_mg", "rich": "fat_g", "sweet": "sugars_g"}[axis_id]
            source, grade = (
                f"derived from {NUTRIENT[nutrient].said}: {p.food.figure_source(nutrient).label}",
                p.food.figure_source(nutrient).grade,
            )
        else:
            ranked = axis_id in ("bitter", "hot", "aroma", "body")
            source = "rank of potency, a cook's estimate" if ranked else "taste table"
            grade = Grade.C if ranked or taste is None else taste.grade
            if p.taste is not None:
                done = ", ".join(step.label for step in p.preparations if step.changes_form)
                source, grade = f"{source}, as {done}", Grade.C
        origins.append(
            Origin(
                p.food.name,
                p.line.food,
                grams_text(p.counted),
                grams_range_text(p.counted),
                p.route,
                "",
                "not known" if in_100_g is None else f"{in_100_g:.3g}",
                "unknown" if part is None else f"{part:.3g}",
                source,
                grade,
            )
        )
    how = (
        f"{stimulus.value:.3g} {axis.unit} comes from the foods below; the original had"
        f" {before.value:.3g}. One noticeable step is a change of"
        f" {axis.weber_from_memory * 100:.0f}% from memory, {axis.weber_side_by_side * 100:.0f}%"
        f" side by side. {axis.source} (grade {axis.grade})."
    )
    if (window := windows_of(now, knowledge).get(axis_id)) is not None:
        how += (
            f" A well-liked {KINDS[now.recipe.kind].name} holds {window.low:.3g} to"
            f" {window.high:.3g} ({window.source}; grade {window.grade})."
            + (f" Moved by your own eaters, who like it {window.eaters}." if window.eaters else "")
        )
    low, high = drift_ranges(now, original)[axis_id]
    if high - low > 0.3:
        how += (
            f" With the doubt of the amounts the change is between {step_text(low)} and"
            f" {step_text(high)}."
        )
    interactions = _interactions(axis_id, now)
    if interactions:
        tasted, known = now.tasted[axis_id], original.tasted[axis_id]
        interactions.append(
            f"In all it tastes like {tasted:.3g} on its own; the original like {known:.3g}."
        )
    return Account(
        capitalized(axis.name),
        f"{stimulus.value:.3g}",
        "",
        how,
        axis.unit,
        origins,
        stimulus.unknown,
        interactions,
    )


def _interactions(axis_id: str, now: Appraisal) -> list[str]:
    """What the rest of the dish does to this taste, strongest first; less than a hundredth is left
    out."""
    at_work = [(e, e.factor(now.flavor[e.by].value) - 1) for e in INTERACTIONS if e.on == axis_id]
    return [
        f"{capitalized(AXIS[e.by].name)} {'lifts' if change > 0 else 'hides'} it by about"
        f" {abs(change) * 100:.0f}%. {e.source} (grade {e.grade})."
        for e, change in sorted(at_work, key=lambda pair: -abs(pair[1]))
        if abs(change) >= 0.01
    ]
