"""Two versions side by side: what differs by line, figure, taste step, allergen and caution."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.nutrients.nutrient import NUTRIENTS
from fresh_ladle.core.nutrients.targets import Target, verdict
from fresh_ladle.web.views.standing import Tilt, tilt_view
from fresh_ladle.web.wording import amount_of, capitalized, display_amount, grams_text, range_text, signed, verdict_text


@dataclass(frozen=True, slots=True)
class LineDifference:
    """One ingredient in both versions. `kind` is same, changed, gone or new."""

    name: str
    before: str
    before_grams: str
    after: str
    after_grams: str
    kind: str


@dataclass(frozen=True, slots=True)
class FigureDifference:
    name: str
    unit: str
    before: str
    before_range: str
    after: str
    after_range: str
    change: str
    percent: str
    verdict: str
    headline: bool


@dataclass(frozen=True, slots=True)
class BesideView:
    lines: list[LineDifference]
    figures: list[FigureDifference]
    tilt: Tilt
    gained: list[str]
    lost: list[str]
    unchecked: list[str]
    new_cautions: list[str]


def beside_view(before: Appraisal, after: Appraisal, targets: tuple[Target, ...]) -> BesideView:
    had, has = {a.name for a in before.allergens}, {a.name for a in after.allergens}
    warned = {c.caution.id for c in before.cautions}
    return BesideView(
        _line_differences(before, after),
        _figure_differences(before, after, targets),
        tilt_view(after, before, Setting.SIDE_BY_SIDE),
        sorted(has - had),
        sorted(had - has),
        after.allergens_unchecked,
        [c.caution.text for c in after.cautions if c.caution.id not in warned],
    )


def _line_differences(before: Appraisal, after: Appraisal) -> list[LineDifference]:
    later = {p.line.id: p for p in after.portions}
    rows = []
    for p in before.portions:
        q = later.pop(p.line.id, None)
        if q is not None and q.line.food != p.line.food:
            later[q.line.id] = q
            q = None
        name = p.line.named or p.line.text
        old = display_amount(p.line.amount) or "to taste"
        if q is None:
            rows.append(LineDifference(capitalized(name), old, grams_text(p.in_bowl), "left out", "", "gone"))
            continue
        new = display_amount(q.line.amount) or "to taste"
        same = p.line.amount == q.line.amount and p.line.preparations == q.line.preparations
        rows.append(
            LineDifference(
                capitalized(name), old, grams_text(p.in_bowl), new, grams_text(q.in_bowl), "same" if same else "changed"
            )
        )
    for q in later.values():
        name = q.line.named or q.line.text
        how = f", {q.line.said[0]}" if q.line.said else ""
        rows.append(
            LineDifference(
                capitalized(name) + how,
                "",
                "",
                display_amount(q.line.amount) or "to taste",
                grams_text(q.in_bowl),
                "new",
            )
        )
    return rows


def _figure_differences(before: Appraisal, after: Appraisal, targets: tuple[Target, ...]) -> list[FigureDifference]:
    rows = []
    for place, nutrient in enumerate(NUTRIENTS):
        old, new = before.totals.serving[nutrient.id], after.totals.serving[nutrient.id]
        target = next((t for t in targets if t.nutrient == nutrient.id), None)
        percent = f"{(new.value / old.value - 1) * 100:+.0f}%".replace("-", "−") if old.value > 0 else ""
        rows.append(
            FigureDifference(
                nutrient.name, nutrient.unit,
                ("" if old.complete else "at least ") + amount_of(nutrient.id, old.value), range_text(nutrient.id, old),
                ("" if new.complete else "at least ") + amount_of(nutrient.id, new.value), range_text(nutrient.id, new),
                signed(nutrient.id, new.value - old.value), percent,
                verdict_text(verdict(new, target)) if target else "", place < 5,
            )
        )  # fmt: skip
    return rows
