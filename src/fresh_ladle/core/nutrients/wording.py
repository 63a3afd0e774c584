"""Numbers and standings in the words people read on screen."""

from __future__ import annotations

import re
from collections.abc import Iterable

from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Basis, Target, TargetStatus, Verdict
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.edits import BY, Edit, condensed, edit_words


def basis_words(target: Target) -> str:
    return "a serving" if target.basis is Basis.SERVING else "in 100 g"


def nutrient_amount(nutrient: str, value: float) -> str:
    """A figure with the decimals it deserves, no unit: `1,163`, `2.9`, `0`."""
    decimals = BY_ID[nutrient].decimals
    text = f"{value:,.{decimals}f}"
    return f"{0:.{decimals}f}" if float(text.replace(",", "")) == 0 else text


def figure_text(nutrient: str, figure: Figure) -> str:
    least = "" if figure.complete else "at least "
    return f"{least}{nutrient_amount(nutrient, figure.value)} {BY_ID[nutrient].unit}"


def range_text(nutrient: str, figure: Figure) -> str:
    return f"{nutrient_amount(nutrient, figure.low)} to {nutrient_amount(nutrient, figure.high)}"


def signed(nutrient: str, change: float) -> str:
    """`+12 mg`, `−3.1 g`, `0 mg`, with a true minus sign."""
    text = nutrient_amount(nutrient, abs(change))
    unit = BY_ID[nutrient].unit
    if float(text.replace(",", "")) == 0:
        return f"{text} {unit}"
    return f"{'+' if change > 0 else '−'}{text} {unit}"


GRAMS_PER_OUNCE = 28.349523125


def weight_text(grams: Range, weights: str) -> str:
    """A weight in the unit the practice has chosen: `28 g` or `1.0 oz`."""
    if weights == "grams":
        return grams_text(grams)
    ounces = grams.value / GRAMS_PER_OUNCE
    return (
        f"{ounces:.2f} oz"
        if 0 < ounces < 1
        else f"{ounces:.1f} oz"
        if ounces < 10
        else f"{ounces:,.0f} oz"
    )


def grams_text(grams: Range) -> str:
    value = grams.value
    if value == 0:
        return "0 g"
    if value < 1:
        return f"{value:.2f} g"
    return f"{value:.1f} g" if value < 10 else f"{value:,.0f} g"


def grams_range_text(grams: Range) -> str:
    def short(value: float) -> str:
        return (
            f"{value:.2f}"
            if grams.value < 1
            else f"{value:.1f}"
            if grams.value < 10
            else f"{value:,.0f}"
        )

    return f"{short(grams.low)} to {short(grams.high)} g"


def status_text(verdict: TargetStatus) -> str:
    """`meets`, `84 mg over`, `1.2 g short`, `too close to call`, `cannot tell`."""
    nutrient = verdict.target.nutrient
    if verdict.verdict is Verdict.MISSES:
        side = "over" if verdict.target.side == "at most" else "short"
        return f"{nutrient_amount(nutrient, verdict.by)} {BY_ID[nutrient].unit} {side}"
    return str(verdict.verdict.value)


def target_text(target: Target, unit: bool = True) -> str:
    """`at most 140 mg`, `rather at least 3 g in 100 g`; without the unit where a value beside it
    has one."""
    soft = "rather " if target.soft else ""
    per = "" if target.basis is Basis.SERVING else f" {basis_words(target)}"
    return (
        f"{soft}{target.side.value}"
        f" {target.limit:,g}{' ' + BY_ID[target.nutrient].unit if unit else ''}{per}"
    )


def sureness(confidence: float) -> str:
    """How sure a reading is, in a word."""
    if confidence >= 0.9:
        return "clear"
    if confidence >= 0.7:
        return "likely"
    return "check" if confidence > 0 else "not understood"


def step_text(step: float) -> str:
    """`2.1 less`, `0.8 more`, `same`."""
    if abs(step) < 0.25:
        return "same"
    return f"{abs(step):.1f} {'more' if step > 0 else 'less'}"


_DRAWN = {
    "1/2": "½",
    "1/3": "⅓",
    "2/3": "⅔",
    "1/4": "¼",
    "3/4": "¾",
    "1/8": "⅛",
    "3/8": "⅜",
    "5/8": "⅝",
    "7/8": "⅞",
}


def display_amount(text: str) -> str:
    """An amount as a cook writes it by hand: `1 1/2 tbsp` becomes `1½ Tbsp`, and a handfull a
    handful."""
    text = re.sub(r"\btbsp\b", "Tbsp", re.sub(r"\b([Hh]andful)l\b", r"\1", text))
    return re.sub(
        r"(?:(?<=\d) )?(?<![\d/])(1/2|1/3|2/3|1/4|3/4|[1357]/8)(?!\d)", lambda m: _DRAWN[m[1]], text
    )


def story(edits: Iterable[Edit]) -> list[str]:
    """Edits as a list to read, with steps of one amount in a row told as one, and who made each
    where that is known."""
    return [display_amount(edit_words(edit)) + _by(edit) for edit in condensed(edits)]


def _by(edit: Edit) -> str:
    return f" ({edit.details[BY]})" if edit.details.get(BY) else ""


def three_figures(value: float) -> str:
    """A number with three figures, whole from a hundred on: `45.6`, `1,163`, `3`."""
    return f"{value:,.0f}" if abs(value) >= 100 else f"{value:.3g}"


def counted(number: int, thing: str) -> str:
    """`1 change`, `3 changes`."""
    return f"{number} {thing}{'' if number == 1 else 's'}"


def oven_heat(celsius: float) -> str:
    """`200 °C (about 400 °F)`: an oven's dial goes by 25 °F."""
    return f"{celsius:.0f} °C (about {round((celsius * 1.8 + 32) / 25) * 25} °F)"
