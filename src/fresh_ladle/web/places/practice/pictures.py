"""Pictures of practice: a spoon or cup drawn to scale with its fill, and how ranges lie beside the
figures."""

from __future__ import annotations

import re
from collections.abc import Sequence
from math import log

from markupsafe import Markup

from fresh_ladle.core.practice.exercise import Exercise
from fresh_ladle.core.practice.scoring import Answered
from fresh_ladle.web.shared.drawings.drawing import element, picture

CUP_MM, SPOON_MM = (84.0, 43.0), {"tbsp": 38.0, "tsp": 26.0}
"""Width and height of a straight cup of 237 ml, and the width of round spoons of 15 and 5 ml, in
mm."""
LEAST_MM, UNDER_MM = 170.0, 22.0
"""The least width of a picture, and the room under a vessel for the ruler."""
FURTHEST = log(4.0)
"""A quarter, or four times, of the figure is drawn at the edge."""


FRACTIONS = {"¼": 0.25, "⅓": 1 / 3, "½": 0.5, "⅔": 2 / 3, "¾": 0.75}


def drawing_of(made: Exercise) -> Markup | None:
    """The measure of an exercise that asks what it weighs; None for others, and for what has no
    shape."""
    found = (
        re.search(r"(\d*)([¼⅓½⅔¾]?) (cup|tbsp|tsp)s?$", made.about, re.IGNORECASE)
        if made.kind == "weigh"
        else None
    )
    return (
        measure_picture(found[3].lower(), int(found[1] or 0) + FRACTIONS.get(found[2], 0.0))
        if found
        else None
    )


def measure_picture(unit: str, count: float) -> Markup | None:
    """So many cups or spoons side by side, the last one partly filled, above a ruler of 5 cm; None
    for what has no shape."""
    if unit != "cup" and unit not in SPOON_MM:
        return None
    wide, high = CUP_MM if unit == "cup" else (SPOON_MM[unit], SPOON_MM[unit] / 2)
    whole, part = int(count), count - int(count)
    fills = [1.0] * whole + ([part] if part > 0.01 else [])
    parts = [
        shape
        for n, fill in enumerate(fills)
        for shape in _vessel(unit, 3 + n * (wide + 5), 4.0, wide, high, fill)
    ]
    base = 4 + high + UNDER_MM / 2
    parts += [
        element("line", x1=3, x2=53, y1=base, y2=base, class_="measure-ruler"),
        *(
            element(
                "line",
                x1=3 + 10 * cm,
                x2=3 + 10 * cm,
                y1=base - 2,
                y2=base + 2,
                class_="measure-ruler",
            )
            for cm in range(6)
        ),
        element("text", "5 cm", x=57, y=base + 2, class_="measure-text"),
    ]
    across = max(LEAST_MM, len(fills) * (wide + 5) + 6)
    return picture(
        across, 4 + high + UNDER_MM, f"{count:g} {unit}, drawn to scale", *parts, class_="measure"
    )


def _vessel(unit: str, x: float, y: float, wide: float, high: float, fill: float) -> list[Markup]:
    if unit == "cup":
        level = high * fill
        return [
            element(
                "rect", x=x, y=y + high - level, width=wide, height=level, class_="measure-fill"
            ),
            element(
                "path", d=f"M{x:g} {y:g} V{y + high:g} H{x + wide:g} V{y:g}", class_="measure-edge"
            ),
        ]
    radius = wide / 2
    bowl = f"M{x:g} {y:g} A{radius:g} {radius:g} 0 0 0 {x + wide:g} {y:g} Z"
    # Level in a round spoon: half of what it holds stands at about two thirds of its depth.
    top = radius * (1 - fill ** (2 / 3))
    half = (radius**2 - top**2) ** 0.5
    filled = (
        f"M{x + radius - half:g} {y + top:g} A{radius:g} {radius:g} 0 0 0 {x + radius + half:g}"
        f" {y + top:g} Z"
    )
    return [
        element("path", d=filled, class_="measure-fill"),
        element("path", d=bowl, class_="measure-edge"),
    ]


def ranges_picture(answers: Sequence[Answered]) -> Markup:
    """Each range as a bar beside the figure, which is the line in the middle; those that missed
    have an open end."""
    wide, row, middle, reach = 320.0, 11.0, 160.0, 152.0
    parts = [
        element("line", x1=middle, x2=middle, y1=2, y2=row * len(answers) + 6, class_="range-truth")
    ]
    for place, one in enumerate(answers):
        y = 6 + row * place
        left, right = (middle + reach * _away(end, one.value) for end in (one.low, one.high))
        kind = "range-held" if one.held else "range-missed"
        parts.append(
            element("rect", x=left, y=y, width=max(2.0, right - left), height=6, rx=3, class_=kind)
        )
        if not one.held:
            at = right if one.high < one.value else left
            parts.append(
                element("path", d=f"M{at - 3:g} {y - 1:g} l6 8 m0 -8 l-6 8", class_="range-cross")
            )
    held = sum(one.held for one in answers)
    title = (
        f"The last {len(answers)} ranges beside the figures: {held} held, {len(answers) - held}"
        " missed"
    )
    return picture(wide, row * len(answers) + 10, title, *parts, class_="ranges")


def _away(end: float, value: float) -> float:
    """Where an end lies, from -1 to 1, on a scale of ratios."""
    ratio = log(max(end, 1e-9) / value) if value > 0 else (0.0 if end == 0 else FURTHEST)
    return max(-1.0, min(1.0, ratio / FURTHEST))
