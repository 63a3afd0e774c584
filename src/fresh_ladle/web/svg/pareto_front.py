"""Taste against the hardest target: how many noticeable steps each figure costs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import MAY_NOT_NOTICE
from fresh_ladle.web.svg.drawing import element, picture

WIDTH, HEIGHT = 330.0, 190.0
LEFT, RIGHT, TOP, BOTTOM = 48.0, 318.0, 14.0, 150.0


@dataclass(frozen=True, slots=True)
class Mark:
    """One version on the front: its letter (empty for a point between), steps of taste in all, and its figure."""

    letter: str
    steps: float
    value: float


def front_picture(
    marks: Sequence[Mark], start: float, limit: float, at_most: bool, axis_name: str, title: str
) -> Markup:
    """Steps from the original to the right, the figure upwards; the good side of the limit is shaded."""
    highest = max([start, limit, *(m.value for m in marks)]) * 1.08 or 1.0
    lowest = min([start, limit, *(m.value for m in marks)]) * 0.85
    most = max([1.5, *(m.steps for m in marks)]) * 1.1

    def x(steps: float) -> float:
        return LEFT + (RIGHT - LEFT) * steps / most

    def y(value: float) -> float:
        return BOTTOM - (BOTTOM - TOP) * (value - lowest) / (highest - lowest or 1.0)

    good_top, good_bottom = (y(limit), BOTTOM) if at_most else (TOP, y(limit))
    ordered = sorted([Mark("", 0.0, start), *marks], key=lambda m: m.steps)
    parts = [
        element(
            "rect",
            x=LEFT,
            y=TOP,
            width=max(0.0, min(RIGHT, x(MAY_NOT_NOTICE)) - LEFT),
            height=BOTTOM - TOP,
            class_="tilt-lane",
        ),
        element(
            "rect", x=LEFT, y=good_top, width=RIGHT - LEFT, height=max(0.0, good_bottom - good_top), class_="rung-good"
        ),
        element("line", x1=LEFT, x2=RIGHT, y1=y(limit), y2=y(limit), class_="rung-limit"),
        element("text", f"limit {limit:g}", x=RIGHT, y=y(limit) - 6, class_="front-note end"),
        element(
            "polyline", points=" ".join(f"{x(m.steps):.1f},{y(m.value):.1f}" for m in ordered), class_="front-line"
        ),
        element("line", x1=LEFT, x2=LEFT, y1=TOP, y2=BOTTOM, class_="front-axis"),
        element("line", x1=LEFT, x2=RIGHT, y1=BOTTOM, y2=BOTTOM, class_="front-axis"),
        element("circle", cx=x(0), cy=y(start), r=6, class_="rung-original"),
        element("text", f"{start:.0f}", x=LEFT - 8, y=y(start) + 4, class_="front-note end"),
        element(
            "text", f"{axis_name}, from the original →", x=(LEFT + RIGHT) / 2, y=HEIGHT - 8, class_="front-note middle"
        ),
        *(element("text", f"{n}", x=x(n), y=BOTTOM + 16, class_="front-note middle") for n in range(1, int(most) + 1)),
    ]
    for mark in marks:
        if mark.letter:
            parts.append(element("circle", cx=x(mark.steps), cy=y(mark.value), r=10, class_="front-mark"))
            parts.append(element("text", mark.letter, x=x(mark.steps), y=y(mark.value) + 4.5, class_="front-letter"))
        else:
            parts.append(element("circle", cx=x(mark.steps), cy=y(mark.value), r=5, class_="front-point"))
    return picture(WIDTH, HEIGHT, title, *parts, class_="front")
