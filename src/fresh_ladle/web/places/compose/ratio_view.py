"""A ratio as the screen shows it: the drawing, a sentence that says how far it can go, and every
step in a table."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.compose.ratio import Ratio, RatioPoint, how_far, side_words
from fresh_ladle.core.flavor.drift import drift_sentence
from fresh_ladle.core.flavor.parameters import AXES, MAY_NOT_NOTICE
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Basis, Target, target_status
from fresh_ladle.core.nutrients.wording import figure_text, range_text, status_text, target_text
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.web.places.compose.ratio_chart import Lane, TasteLine, ratio_chart, x_of


@dataclass(frozen=True, slots=True)
class RatioFigure:
    name: str
    value: str
    range: str
    verdict: str


@dataclass(frozen=True, slots=True)
class RatioPointView:
    """One step: what it takes of both sides, its figures, its taste in words."""

    place: int
    share: str
    said: list[str]
    figures: list[RatioFigure]
    taste: str
    cost: str
    holds: bool
    now: bool
    spoken: str


@dataclass(frozen=True, slots=True)
class RatioView:
    """All of it. `xs` are the places of the steps in the drawing, for the upright that follows the
    slider."""

    answer: str
    notes: list[str]
    picture: Markup
    points: list[RatioPointView]
    now: int
    xs: str
    share_of: str


def ratio_view(found: Ratio, targets: Sequence[Target], chance: float) -> RatioView:
    shares = [_share_text(found, point) for point in found.points]
    points = [
        _point_view(found, place, targets, chance, shares[place])
        for place in range(len(found.points))
    ]
    lanes = [
        *(_lane(found, nutrient, targets, chance) for nutrient in HEADLINE),
        *_cost_lane(found),
    ]
    answer = how_far(found, chance)
    never = found.never_met(chance)
    stretches = found.stretches(chance, never) if len(never) < len(targets) else []
    picture = ratio_chart(
        lanes,
        _tastes(found),
        shares,
        stretches,
        "the others met" if never else "all met",
        found.now,
        answer,
    )
    share_of = f"share of {found.second.name}" if found.second else found.first.name
    xs = " ".join(f"{x_of(n, len(points)):.1f}" for n in range(len(points)))
    return RatioView(
        answer, _notes(found, chance, shares), picture, points, found.now, xs, share_of
    )


def _notes(found: Ratio, chance: float, shares: Sequence[str]) -> list[str]:
    """How far each target goes that the ratio decides on, and how far the taste stays, by the
    shares under the drawing."""
    notes = []
    for target in found.points[0].meets:
        met = [p.meets[target] >= chance for p in found.points]
        if any(met) and not all(met):
            notes.append(
                f"{BY_ID[target.nutrient].name} {target_text(target)}: {_runs(met, shares)}"
            )
    same = [max(abs(s) for s in p.steps.steps.values()) < MAY_NOT_NOTICE for p in found.points]
    notes.append(f"Tasters may not notice: {_runs(same, shares)}")
    return notes


def _runs(true: Sequence[bool], shares: Sequence[str]) -> str:
    """`48% to 66%`, `100%`: the runs of steps for which something is so."""
    told, start = [], None
    for place, one in enumerate([*true, False]):
        if one and start is None:
            start = place
        elif not one and start is not None:
            told.append(
                shares[start] if start == place - 1 else f"{shares[start]} to {shares[place - 1]}"
            )
            start = None
    return ", ".join(told)


def _share_text(found: Ratio, point: RatioPoint) -> str:
    if found.second is not None:
        return f"{point.share * 100:.0f}%"
    return side_words(found.first, point).removesuffix(f" {found.first.name}")


def _lane(found: Ratio, nutrient: str, targets: Sequence[Target], chance: float) -> Lane:
    figures = [p.after.totals.serving[nutrient] for p in found.points]
    mine = [t for t in targets if t.nutrient == nutrient]
    limits = tuple((t.limit, t.side) for t in mine if t.basis is Basis.SERVING)
    met = tuple(all(p.meets[t] >= chance for t in mine) for p in found.points)
    meta = BY_ID[nutrient]
    return Lane(
        meta.name,
        meta.unit,
        tuple(f.value for f in figures),
        tuple(f.low for f in figures),
        tuple(f.high for f in figures),
        limits,
        met,
        meta.decimals,
    )


def _cost_lane(found: Ratio) -> list[Lane]:
    """The cost along the way, where every food that is in it has a price."""
    costs = [p.cost for p in found.points]
    known = [c.value for c in costs if c is not None and not c.unpriced]
    if len(known) != len(costs):
        return []
    values = tuple(known)
    return [Lane("Cost", "a serving", values, values, values, (), tuple(True for _ in values), 2)]


def _tastes(found: Ratio) -> list[TasteLine]:
    """The tastes that somebody would notice anywhere along the way."""
    lines = [TasteLine(a.name, tuple(p.steps.steps[a.id] for p in found.points)) for a in AXES]
    return [line for line in lines if max(abs(s) for s in line.steps) >= MAY_NOT_NOTICE]


def _point_view(
    found: Ratio, place: int, targets: Sequence[Target], chance: float, share: str
) -> RatioPointView:
    point = found.points[place]
    sides = [side_words(side, point) for side in (found.first, found.second) if side is not None]
    figures = []
    for nutrient in HEADLINE:
        figure = point.after.totals.serving[nutrient]
        figures.append(
            RatioFigure(
                BY_ID[nutrient].name,
                figure_text(nutrient, figure),
                range_text(nutrient, figure),
                _verdict(point.after, nutrient, targets),
            )
        )
    cost = f"{point.cost.value:.2f}" if point.cost is not None and not point.cost.unpriced else ""
    holds = bool(targets) and point.holds(chance)
    spoken = f"{'; '.join(sides)}{': every target met' if holds else ''}"
    taste = "As it stands." if point.now else drift_sentence(point.steps)
    return RatioPointView(place, share, sides, figures, taste, cost, holds, point.now, spoken)


def _verdict(after: Appraisal, nutrient: str, targets: Sequence[Target]) -> str:
    said = [
        status_text(target_status(after.figure_for(t), t))
        for t in targets
        if t.nutrient == nutrient
    ]
    return ", ".join(said)
