"""Taste against the hardest target: how many noticeable steps each figure costs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor, log10

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import MAY_NOT_NOTICE
from fresh_ladle.web.shared.drawings.drawing import element, picture

WIDTH, HEIGHT = 360.0, 290.0
LEFT, RIGHT, TOP, BOTTOM = 56.0, 346.0, 30.0, 236.0
TICKS = 5


@dataclass(frozen=True, slots=True)
class Mark:
    """One version on the front: its letter (empty where it has none), steps of taste in all, its
    figure, where choosing it leads, and what it is in words."""

    letter: str
    steps: float
    value: float
    href: str
    title: str


def front_picture(
    marks: Sequence[Mark],
    start: Mark,
    limit: float,
    at_most: bool,
    figure: str,
    unit: str,
    title: str,
) -> Markup:
    """Steps from the original to the right, the figure upwards; the good side of the limit is
    shaded. A click on a mark opens its version; the list beside it does the same by keyboard.
    `start` is the version as it stands."""
    low, high, step = _axis([start.value, limit, *(m.value for m in marks)])
    most = max(2, ceil(max([1.5, start.steps, *(m.steps for m in marks)]) + 0.15))

    def x(steps: float) -> float:
        return LEFT + (RIGHT - LEFT) * steps / most

    def y(value: float) -> float:
        return BOTTOM - (BOTTOM - TOP) * (value - low) / (high - low)

    good_top, good_bottom = (y(limit), BOTTOM) if at_most else (TOP, y(limit))
    ordered = _unbeaten([(m.steps, m.value) for m in (start, *marks)], at_most)
    ticks = [low + step * n for n in range(int((high - low) / step + 1.5))]
    parts = [
        element(
            "rect",
            x=LEFT,
            y=good_top,
            width=RIGHT - LEFT,
            height=max(0.0, good_bottom - good_top),
            class_="rung-good",
        ),
        element(
            "rect",
            x=LEFT,
            y=TOP,
            width=x(MAY_NOT_NOTICE) - LEFT,
            height=BOTTOM - TOP,
            class_="tilt-lane",
        ),
        *(element("line", x1=LEFT, x2=RIGHT, y1=y(t), y2=y(t), class_="front-grid") for t in ticks),
        *(
            element("text", f"{t:g}", x=LEFT - 8, y=y(t) + 4.5, class_="front-note end")
            for t in ticks
        ),
        element("line", x1=LEFT, x2=RIGHT, y1=y(limit), y2=y(limit), class_="rung-limit"),
        element("text", f"limit {limit:g}", x=RIGHT - 4, y=y(limit) - 6, class_="front-limit end"),
        element(
            "polyline",
            points=" ".join(f"{x(s):.1f},{y(v):.1f}" for s, v in ordered),
            class_="front-line",
        ),
        element("line", x1=LEFT, x2=LEFT, y1=TOP, y2=BOTTOM, class_="front-axis"),
        element("line", x1=LEFT, x2=RIGHT, y1=BOTTOM, y2=BOTTOM, class_="front-axis"),
        element("text", f"{figure}, {unit}", x=8, y=16, class_="front-note"),
        *(
            element("text", f"{n}", x=x(n), y=BOTTOM + 18, class_="front-note middle")
            for n in range(most + 1)
        ),
        element(
            "text",
            "steps of taste from the original →",
            x=RIGHT,
            y=HEIGHT - 10,
            class_="front-note end",
        ),
        element("circle", cx=x(start.steps), cy=y(start.value), r=6, class_="rung-original"),
        element(
            "text",
            start.title,
            x=max(LEFT + 4, x(start.steps) - 40),
            y=y(start.value) - 11,
            class_="front-note",
        ),
    ]
    parts += [
        _mark(mark, x(mark.steps), y(mark.value))
        for mark in sorted(marks, key=lambda m: bool(m.letter))
    ]
    return picture(WIDTH, HEIGHT, title, *parts, class_="front", role="group")


def _unbeaten(points: Sequence[tuple[float, float]], at_most: bool) -> list[tuple[float, float]]:
    """The points for which none costs fewer steps and has a better figure, by steps."""
    found: list[tuple[float, float]] = []
    for steps, value in sorted(points):
        if not found or (value < found[-1][1] if at_most else value > found[-1][1]):
            found.append((steps, value))
    return found


def _mark(mark: Mark, x: float, y: float) -> Markup:
    """A mark that can be chosen: the drawn one under a larger one to touch."""
    drawn = [element("circle", cx=x, cy=y, r=16, class_="front-touch")]
    if mark.letter:
        drawn.append(element("circle", cx=x, cy=y, r=11, class_="front-mark"))
        drawn.append(element("text", mark.letter, x=x, y=y + 5, class_="front-letter"))
    else:
        drawn.append(element("circle", cx=x, cy=y, r=6, class_="front-point"))
    inner = Markup("").join([element("title", mark.title), *drawn])
    return element(
        "a",
        inner,
        hx_get=mark.href,
        hx_target="#plans",
        hx_swap="outerHTML",
        tabindex="-1",
        aria_hidden="true",
    )


def _axis(values: Sequence[float]) -> tuple[float, float, float]:
    """Ends and step of an axis that holds the values: round numbers, about five of them."""
    least, most = min(values), max(values)
    wanted = max((most - least) * 1.15, 0.05 * max(most, 1e-6), 0.1) / TICKS
    power = 10.0 ** floor(log10(wanted))
    step = next(n * power for n in (1, 2, 2.5, 5, 10) if n * power >= wanted - 1e-9)
    low = max(0.0, floor((least - 0.2 * step) / step) * step)
    return low, max(low + step, ceil((most + 0.2 * step) / step) * step), step
