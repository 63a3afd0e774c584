"""Two or three versions or recipes side by side: what differs by line, figure, taste step, cost,
allergen and caution."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.cautions.caution import RaisedCaution
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.foods.nutrient import HEADLINE, NUTRIENTS, Nutrient
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.nutrients.wording import (
    display_amount,
    nutrient_amount,
    range_text,
    signed,
    status_text,
    weight_text,
)
from fresh_ladle.core.recipes.changes import name_of
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.costs import Prices, cost_of_serving
from fresh_ladle.web.shared.target_status import (
    TONES,
    Tilt,
    VersionFigures,
    target_statuses,
    tilt_view,
)


@dataclass(frozen=True, slots=True)
class ComparedVersion:
    """One version set beside others. `ref` is how the address names it; `story` what was done and
    why."""

    ref: str
    recipe_id: int
    title: str
    label: str
    story: list[str]
    note: str
    version: Appraisal


@dataclass(frozen=True, slots=True)
class LineCell:
    """One ingredient in one version. `kind` against the first is first, same, changed, gone, new or
    absent."""

    amount: str
    weight: str
    kind: str


@dataclass(frozen=True, slots=True)
class LineRow:
    name: str
    cells: list[LineCell]


@dataclass(frozen=True, slots=True)
class FigureCell:
    """A figure in one version, with its change against the first and how it stands against the
    targets."""

    value: str
    range: str
    change: str
    percent: str
    verdict: str
    tone: str


@dataclass(frozen=True, slots=True)
class FigureRow:
    name: str
    unit: str
    headline: bool
    cells: list[FigureCell]


@dataclass(frozen=True, slots=True)
class CautionRow:
    text: str
    where: list[bool]


@dataclass(frozen=True, slots=True)
class BesideView:
    """`tilts`, `gained` and `lost` have an entry for each version after the first, the rest one for
    each version."""

    lines: list[LineRow]
    figures: list[FigureRow]
    tilts: list[Tilt]
    costs: list[str]
    allergens: list[str]
    gained: list[str]
    lost: list[str]
    unchecked: list[str]
    cautions: list[CautionRow]


def comparison_view(
    placed: Sequence[ComparedVersion],
    targets: Sequence[Target],
    basis: Basis,
    prices: Prices,
    weights: str,
) -> BesideView:
    """Everything against the first of two or three. `prices` are per 100 g by food key."""
    versions = [p.version for p in placed]
    first, others = versions[0], versions[1:]
    had = {a.id for a in first.allergens}
    perhaps = had | {a.id for a in first.may_contain}
    held = [(*v.allergens, *v.may_contain) for v in versions]
    return BesideView(
        _line_rows(placed, weights),
        [_figure_row(n, versions, targets, basis) for n in NUTRIENTS],
        [tilt_view(v, first, Setting.SIDE_BY_SIDE) for v in others],
        [cost_words(v, prices) for v in versions],
        [", ".join(a.said for a in there) for there in held],
        [
            ", ".join(a.said for a in there if a.id not in (had if a.sure else perhaps))
            for there in held[1:]
        ],
        [
            ", ".join(a.name for a in first.allergens if a.id not in {b.id for b in there})
            for there in held[1:]
        ],
        ["; ".join(v.allergens_unchecked) for v in versions],
        _caution_rows(versions),
    )


def _line_rows(placed: Sequence[ComparedVersion], weights: str) -> list[LineRow]:
    """Ingredients matched by line within one recipe, by food between recipes; those of the first
    version first."""
    rows: list[list[Portion | None]] = []
    for column, one in enumerate(placed):
        for portion in one.version.portions:
            row = _row_of(portion, rows, column, placed)
            if row is None:
                row = [None] * len(placed)
                rows.append(row)
            row[column] = portion
    return [_line_row(row, weights) for row in rows]


def _row_of(
    portion: Portion,
    rows: Sequence[list[Portion | None]],
    column: int,
    placed: Sequence[ComparedVersion],
) -> list[Portion | None] | None:
    free = [row for row in rows if row[column] is None]
    for row in free:
        if any(
            other is not None
            and other.line.id == portion.line.id
            and other.line.food == portion.line.food
            and placed[place].recipe_id == placed[column].recipe_id
            for place, other in enumerate(row)
        ):
            return row
    for row in free:
        if portion.line.food and any(
            other is not None and other.line.food == portion.line.food for other in row
        ):
            return row
    return None


def _line_row(row: Sequence[Portion | None], weights: str) -> LineRow:
    named = next(p for p in row if p is not None)
    return LineRow(
        name_of(named.line), [_line_cell(p, row[0], place, weights) for place, p in enumerate(row)]
    )


def _line_cell(
    portion: Portion | None, first: Portion | None, place: int, weights: str
) -> LineCell:
    if portion is None:
        return LineCell("", "", "gone" if first is not None else "absent")
    kind = (
        "first"
        if place == 0
        else "new"
        if first is None
        else "same"
        if _alike(portion, first)
        else "changed"
    )
    how = ", ".join(p.label for p in portion.preparations if p.changes_figures)
    weight = weight_text(portion.in_bowl, weights) if portion.known else "not understood"
    return LineCell(
        display_amount(portion.line.amount) or portion.line.said_amount,
        f"{weight}{', ' + how if how else ''}",
        kind,
    )


def _alike(one: Portion, other: Portion) -> bool:
    keys = ("amount", "preparations", "eaten")
    return all(getattr(one.line, key) == getattr(other.line, key) for key in keys)


def _figure_row(
    nutrient: Nutrient, versions: Sequence[Appraisal], targets: Sequence[Target], basis: Basis
) -> FigureRow:
    figures = [v.figure_for(Target(nutrient.id, Side.AT_MOST, 0, basis)) for v in versions]
    mine = [t for t in targets if t.nutrient == nutrient.id]
    cells = [
        _figure_cell(nutrient.id, figure, figures[0] if place else None, version, versions[0], mine)
        for place, (figure, version) in enumerate(zip(figures, versions, strict=True))
    ]
    return FigureRow(nutrient.name, nutrient.unit, nutrient.id in HEADLINE, cells)


def _figure_cell(
    nutrient: str,
    figure: Figure,
    first: Figure | None,
    version: Appraisal,
    original: Appraisal,
    targets: Sequence[Target],
) -> FigureCell:
    judged = target_statuses(VersionFigures.of(version, original), targets)
    value = ("" if figure.complete else "at least ") + nutrient_amount(nutrient, figure.value)
    change = percent = ""
    if first is not None:
        change = signed(nutrient, figure.value - first.value)
        whole = round((figure.value / first.value - 1) * 100) if first.value > 0 else 0
        percent = f"{whole:+d}%".replace("-", "−") if whole else ""
    tone = TONES[judged[0].verdict] if judged else ""
    return FigureCell(
        value,
        range_text(nutrient, figure),
        change,
        percent,
        status_text(judged[0]) if judged else "",
        tone,
    )


def cost_words(version: Appraisal, prices: Prices) -> str:
    """What a serving costs; foods without a price are named, and the sum is at least so much."""
    cost = cost_of_serving(version, prices)
    if not cost.unpriced:
        return f"{cost.value:.2f}"
    if cost.value == 0:
        return "no prices yet"
    more = f" and {len(cost.unpriced) - 3} more" if len(cost.unpriced) > 3 else ""
    return f"at least {cost.value:.2f}, without {', '.join(cost.unpriced[:3])}{more}"


def _caution_rows(versions: Sequence[Appraisal]) -> list[CautionRow]:
    """Each caution once, and in which versions it applies."""
    known: dict[str, RaisedCaution] = {c.caution.id: c for v in versions for c in v.cautions}
    held = [{c.caution.id for c in v.cautions} for v in versions]
    return [CautionRow(c.caution.text, [name in ids for ids in held]) for name, c in known.items()]
