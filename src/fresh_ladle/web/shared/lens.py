"""The lens: which figure or axis the lines are seen through, and what each line shows under it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.flavor.parameters import BY_ID as AXIS
from fresh_ladle.core.foods.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.foods.nutrient import CARRIED, HEADLINE
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.web.shared.drawings.ribbon import ribbon
from fresh_ladle.web.shared.kitchen_colors import role_of

DEFAULT_LENS = "sodium_mg"


@dataclass(frozen=True, slots=True)
class LensChoice:
    """One lens to choose. `key` is the digit that chooses it, when it has one."""

    id: str
    name: str
    key: str


@dataclass(frozen=True, slots=True)
class LensMark:
    """What one line shows: a ribbon, a number and its share of the whole."""

    ribbon: Markup
    text: str
    share: str
    leads: bool


@dataclass(frozen=True, slots=True)
class LensChoices:
    """What can be chosen: figures in sight, those behind a fold, and tastes; the first nine in
    sight have digits."""

    figures: list[LensChoice]
    more: list[LensChoice]
    tastes: list[LensChoice]


def lens_choices(lens: str, targeted: Iterable[str]) -> LensChoices:
    """Five figures and nine axes, and every other figure that has a limit or is looked at."""
    keys = {one: str(n) for n, one in enumerate([*HEADLINE, *AXIS_IDS][:9], start=1)}
    asked = {lens, *targeted}

    def choices(ids: Iterable[str]) -> list[LensChoice]:
        return [LensChoice(one, lens_name(one), keys.get(one, "")) for one in ids]

    in_sight = [n for n in CARRIED if n in asked]
    return LensChoices(
        choices([*HEADLINE, *in_sight]),
        choices(n for n in CARRIED if n not in asked),
        choices(AXIS_IDS),
    )


def lens_name(lens: str) -> str:
    if lens in AXIS:
        return "saltiness" if lens == "salt" else AXIS[lens].name
    return NUTRIENT[lens].said


def known_lens(lens: str | None) -> str:
    return lens if lens in HEADLINE or lens in CARRIED or lens in AXIS_IDS else DEFAULT_LENS


def lens_unit(lens: str) -> str:
    return "share of the whole" if lens in AXIS else f"{NUTRIENT[lens].unit} a serving"


def lens_marks(appraisal: Appraisal, lens: str) -> dict[str, LensMark]:
    """A mark for every line, by line id. Ribbons share one scale: the line that may hold most fills
    the width."""
    values = _line_values(appraisal, lens)
    spread = {}
    for portion in appraisal.portions:
        value = values.get(portion.line.id)
        counted = portion.counted
        if value is None or counted.value <= 0:
            spread[portion.line.id] = (0.0, 0.0, 0.0)
        else:
            spread[portion.line.id] = (
                value,
                value * counted.low / counted.value,
                value * counted.high / counted.value,
            )
    scale = max((high for _, _, high in spread.values()), default=0.0)
    total = sum(value for value, _, _ in spread.values())
    most = max((value for value, _, _ in spread.values()), default=0.0)
    marks = {}
    for portion in appraisal.portions:
        line_id = portion.line.id
        value, low, high = spread[line_id]
        unknown = values.get(line_id) is None
        share = value / total if total else 0.0
        name = portion.food.name if portion.food else portion.line.text
        text = (
            "?"
            if unknown
            else f"{share * 100:.0f}%"
            if lens in AXIS
            else nutrient_amount(lens, value)
        )
        title = (
            f"{name}: not known"
            if unknown
            else f"{name}: {share * 100:.0f}% of the {lens_name(lens)}"
        )
        marks[line_id] = LensMark(
            ribbon(value, low, high, scale, role_of(portion.food), title),
            text,
            "" if unknown or lens in AXIS else f"{share * 100:.0f}%",
            leads=value > 0 and value == most and share >= 0.25,
        )
    return marks


def _line_values(appraisal: Appraisal, lens: str) -> dict[str, float | None]:
    """What each line brings: per serving for a figure, per 100 g of mix for an axis; None is
    unknown."""
    if lens in AXIS:
        by_line = appraisal.flavor[lens].by_line
        return {p.line.id: by_line.get(p.line.id) for p in appraisal.portions}
    servings = appraisal.totals.servings
    per_line = appraisal.totals.per_line
    return {
        line_id: None if figures[lens] is None else (figures[lens] or 0.0) / servings
        for line_id, figures in per_line.items()
    }
