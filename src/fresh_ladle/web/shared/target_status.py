"""How a version stands: rungs against the targets and tilt against the original. Shared by every
place that shows them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import drift_sentence, step_words
from fresh_ladle.core.flavor.parameters import AXES, Setting
from fresh_ladle.core.flavor.uncertainty import step_ranges
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Basis, Target, TargetStatus, Verdict, target_status
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.nutrients.wording import (
    figure_text,
    nutrient_amount,
    range_text,
    status_text,
    step_text,
    target_text,
)
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import (
    drift_between,
    imbalances_of,
    windows_in_steps,
    windows_of,
)
from fresh_ladle.web.shared.drawings.rungs import rungs
from fresh_ladle.web.shared.drawings.tilt import stem


@dataclass(frozen=True, slots=True)
class Rung:
    """One figure per serving against its target. `tone` names shape and color; the words say it as
    well."""

    nutrient: str
    name: str
    picture: Markup
    value: str
    range: str
    original: str
    verdict: str
    limit: str
    limit_short: str
    tone: str


@dataclass(frozen=True, slots=True)
class Stem:
    """One axis of the tilt."""

    axis: str
    name: str
    picture: Markup
    text: str
    words: str
    step: float
    doubt: str
    window: str


@dataclass(frozen=True, slots=True)
class Tilt:
    """The balance of a version: nine stems, a sentence on the whole, and what is out of balance for
    its kind of dish; `eaters` says how the practice's own eaters have moved its windows."""

    stems: list[Stem]
    sentence: str
    total: str
    imbalances: list[str]
    unknown: list[str]
    eaters: list[str]


TONES = {
    Verdict.MEETS: "meets",
    Verdict.MISSES: "misses",
    Verdict.TOO_CLOSE: "close",
    Verdict.UNKNOWN: "close",
}
_WORST = (Verdict.MISSES, Verdict.UNKNOWN, Verdict.TOO_CLOSE, Verdict.MEETS)


@dataclass(frozen=True, slots=True)
class VersionFigures:
    """How one recipe stands: each figure per serving beside the original's, and the figure any
    target speaks of."""

    serving_grams: float
    figures: Mapping[str, tuple[Figure, float]]
    figure_for: Callable[[Target], Figure]

    @classmethod
    def of(cls, now: Appraisal, original: Appraisal) -> VersionFigures:
        figures = {
            n: (now.totals.serving[n], original.totals.serving[n].value) for n in now.totals.serving
        }
        return cls(now.totals.serving_grams, figures, now.figure_for)


def target_statuses(version: VersionFigures, targets: Sequence[Target]) -> list[TargetStatus]:
    """The verdict on each target, the worst first."""
    judged = [target_status(version.figure_for(t), t) for t in targets]
    return sorted(judged, key=lambda v: _WORST.index(v.verdict))


def rung_views(
    version: VersionFigures, targets: Sequence[Target], small: bool = False
) -> list[Rung]:
    """A rung for each headline figure with all its limits; the words are those of the limit that
    stands worst.

    When `small`, only figures with a limit.
    """
    views = []
    for nutrient in HEADLINE:
        judged = target_statuses(version, [t for t in targets if t.nutrient == nutrient])
        if small and not judged:
            continue
        figure, before = version.figures[nutrient]
        said = status_text(judged[0]) if judged else "no target"
        limit = ", ".join(target_text(v.target) for v in judged)
        value = figure_text(nutrient, figure)
        title = (
            f"{BY_ID[nutrient].name}: {value} a serving, {said}{', ' + limit if limit else ''}; the"
            f" original {nutrient_amount(nutrient, before)} {BY_ID[nutrient].unit}"
        )
        marks = tuple(
            (_on_a_serving(v.target, version.serving_grams), v.target.side) for v in judged
        )
        tone = TONES[judged[0].verdict] if judged else "free"
        views.append(
            Rung(
                nutrient,
                BY_ID[nutrient].name,
                rungs(figure, before, marks, tone, title, small),
                value,
                range_text(nutrient, figure),
                nutrient_amount(nutrient, before),
                said,
                limit,
                ", ".join(target_text(v.target, unit=False) for v in judged),
                tone,
            )
        )
    return views


def _on_a_serving(target: Target, serving_grams: float) -> float:
    """Where a limit lies on the ladder of a serving."""
    return target.limit if target.basis is Basis.SERVING else target.limit * serving_grams / 100


def other_limits(version: VersionFigures, targets: Sequence[Target]) -> list[tuple[str, str]]:
    """Limits on figures without a rung of their own, in words with their tone."""
    judged = target_statuses(version, [t for t in targets if t.nutrient not in HEADLINE])
    return [
        (
            (
                f"{BY_ID[v.target.nutrient].name}"
                f" {figure_text(v.target.nutrient, version.figures[v.target.nutrient][0])},"
                f" {status_text(v)} ({target_text(v.target)})"
            ),
            TONES[v.verdict],
        )
        for v in judged
    ]


def tilt_view(
    now: Appraisal,
    original: Appraisal,
    setting: Setting = Setting.FROM_MEMORY,
    knowledge: Knowledge | None = None,
) -> Tilt:
    """Nine stems counted from the original; with `knowledge`, the windows of the kind of dish
    behind them."""
    change = drift_between(now, original, setting)
    doubts = step_ranges(
        change, (now.portions, now.flavor), (original.portions, original.flavor), setting
    )
    windows = windows_of(now, knowledge) if knowledge else {}
    in_steps = windows_in_steps(now, original, knowledge, setting) if knowledge else {}
    stems = []
    for axis in AXES:
        step, (low, high) = change.steps[axis.id], doubts[axis.id]
        words = step_words(axis.id, step)
        doubt = (
            f"between {step_text(low)} and {step_text(high)}"
            if step_text(low) != step_text(high)
            else ""
        )
        window = ""
        if axis.id in windows:
            side = windows[axis.id].side_of(now.flavor[axis.id].value)
            window = {"low": "below", "high": "above", "inside": "inside"}[
                side
            ] + " where such dishes are liked"
        title = f"{axis.name}: {step_text(step)} ({words})" + "".join(
            f"; {t}" for t in (doubt, window) if t
        )
        picture = stem(step, title, (low, high), in_steps.get(axis.id))
        stems.append(Stem(axis.id, axis.name, picture, step_text(step), words, step, doubt, window))
    notes = [i.text for i in imbalances_of(now, knowledge)] if knowledge else []
    unknown = list(dict.fromkeys(name for axis in AXES for name in now.flavor[axis.id].unknown))
    eaters = [window.eaters for window in windows.values() if window.eaters]
    return Tilt(stems, drift_sentence(change), f"{change.total:.1f}", notes, unknown, eaters)
