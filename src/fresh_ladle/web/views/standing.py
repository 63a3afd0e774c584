"""How a version stands: rungs against the targets and tilt against the original. Shared by every place that shows them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.appraisal import Appraisal, Knowledge
from fresh_ladle.core.balance import drift_between, drift_ranges, imbalances_of, windows_in_steps, windows_of
from fresh_ladle.core.flavor.drift import drift_sentence, step_words
from fresh_ladle.core.flavor.parameters import AXES, Setting
from fresh_ladle.core.nutrients.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Standing, Target, verdict
from fresh_ladle.web.svg.rungs import rungs
from fresh_ladle.web.svg.tilt import stem
from fresh_ladle.web.wording import amount_of, figure_text, limit_text, range_text, step_text, verdict_text


@dataclass(frozen=True, slots=True)
class Rung:
    """One figure per serving against its target. `tone` names shape and color; the words say it as well."""

    nutrient: str
    name: str
    picture: Markup
    value: str
    range: str
    original: str
    verdict: str
    limit: str
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
    """The balance of a version: nine stems, a sentence on the whole, and what is out of balance for its kind of dish."""

    stems: list[Stem]
    sentence: str
    total: str
    imbalances: list[str]
    unknown: list[str]


_TONES = {Standing.MEETS: "meets", Standing.MISSES: "misses", Standing.TOO_CLOSE: "close", Standing.UNKNOWN: "close"}


def rung_views(now: Appraisal, original: Appraisal, targets: Sequence[Target], small: bool = False) -> list[Rung]:
    """A rung for each headline figure; the first target on a figure is the one drawn."""
    by_nutrient: dict[str, Target] = {}
    for target in targets:
        by_nutrient.setdefault(target.nutrient, target)
    wanted = [n for n in HEADLINE if n in by_nutrient] if small else list(HEADLINE)
    views = []
    for nutrient in wanted:
        figure, before = now.totals.serving[nutrient], original.totals.serving[nutrient]
        judged = verdict(figure, by_nutrient[nutrient]) if nutrient in by_nutrient else None
        said = verdict_text(judged) if judged else "no target"
        limit = limit_text(judged) if judged else ""
        value = figure_text(nutrient, figure)
        title = f"{BY_ID[nutrient].name}: {value} a serving, {said}{', ' + limit if limit else ''}; the original {figure_text(nutrient, before)}"
        views.append(
            Rung(
                nutrient, BY_ID[nutrient].name, rungs(figure, before, judged, title, small), value, range_text(nutrient, figure),
                amount_of(nutrient, before.value), said, limit, _TONES[judged.standing] if judged else "free",
            )
        )  # fmt: skip
    return views


def tilt_view(
    now: Appraisal, original: Appraisal, setting: Setting = Setting.FROM_MEMORY, knowledge: Knowledge | None = None
) -> Tilt:
    """Nine stems counted from the original; with `knowledge`, the windows of the kind of dish behind them."""
    change, doubts = drift_between(now, original, setting), drift_ranges(now, original, setting)
    windows = windows_of(now, knowledge) if knowledge else {}
    in_steps = windows_in_steps(now, original, knowledge, setting) if knowledge else {}
    stems = []
    for axis in AXES:
        step, (low, high) = change.steps[axis.id], doubts[axis.id]
        words = step_words(axis.id, step)
        doubt = f"between {step_text(low)} and {step_text(high)}" if step_text(low) != step_text(high) else ""
        window = ""
        if axis.id in windows:
            side = windows[axis.id].side_of(now.flavor[axis.id].value)
            window = {"low": "below", "high": "above", "inside": "inside"}[side] + " where such dishes are liked"
        title = f"{axis.name}: {step_text(step)} ({words})" + "".join(f"; {t}" for t in (doubt, window) if t)
        picture = stem(step, title, (low, high), in_steps.get(axis.id))
        stems.append(Stem(axis.id, axis.name, picture, step_text(step), words, step, doubt, window))
    notes = [i.text for i in imbalances_of(now, knowledge)] if knowledge else []
    unknown = list(dict.fromkeys(name for axis in AXES for name in now.flavor[axis.id].unknown))
    return Tilt(stems, drift_sentence(change), f"{change.total:.1f}", notes, unknown)
