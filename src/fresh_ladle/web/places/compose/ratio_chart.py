"""A ratio walked step by step: one lane for each figure, the tastes and the cost, over the same
steps of the kitchen.

Steps stand at even distances, as the slider under them goes; the share is written below. A lane
shows the figure with its doubt, and its limits; where every target is met the steps are shaded
through all lanes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import MAY_NOT_NOTICE
from fresh_ladle.core.nutrients.targets import Side
from fresh_ladle.web.shared.drawings.drawing import element, picture

WIDTH, LEFT, RIGHT = 820.0, 128.0, 724.0
LANE, TASTE_LANE, GAP, TOP = 42.0, 78.0, 8.0, 24.0
MOST_STEPS = 4.0


@dataclass(frozen=True, slots=True)
class Lane:
    """One figure along the way: typical, low and high at each step, and its limits. `met` tells for
    each step whether its own limits are."""

    name: str
    unit: str
    values: tuple[float, ...]
    lows: tuple[float, ...]
    highs: tuple[float, ...]
    limits: tuple[tuple[float, Side], ...]
    met: tuple[bool, ...]
    decimals: int


@dataclass(frozen=True, slots=True)
class TasteLine:
    """The noticeable steps of one taste along the way."""

    name: str
    steps: tuple[float, ...]


def x_of(place: int, count: int) -> float:
    """Where a step stands from the left."""
    return LEFT + (RIGHT - LEFT) * place / max(1, count - 1)


def ratio_chart(
    lanes: Sequence[Lane],
    tastes: Sequence[TasteLine],
    shares: Sequence[str],
    stretches: Sequence[tuple[int, int]],
    stretch_name: str,
    now: int,
    title: str,
) -> Markup:
    """All lanes above each other, with runs of steps shaded and named; `now` is the step the recipe
    stands at."""
    count = len(shares)
    height = TOP + len(lanes) * (LANE + GAP) + TASTE_LANE + 40
    foot = height - 36
    parts: list[Markup] = []
    half = (RIGHT - LEFT) / max(1, count - 1) / 2
    for first, last in stretches:
        left, right = max(LEFT, x_of(first, count) - half), min(RIGHT, x_of(last, count) + half)
        parts.append(
            element(
                "rect",
                x=left,
                y=TOP - 6,
                width=right - left,
                height=foot - TOP + 6,
                class_="walk-good",
            )
        )
        middle = min(max((left + right) / 2, LEFT + 50), RIGHT - 50)
        parts.append(element("text", stretch_name, x=middle, y=TOP - 10, class_="walk-good-name"))
    y = TOP
    for lane in lanes:
        parts += _lane(lane, y, count)
        y += LANE + GAP
    parts += _taste_lane(tastes, y, count)
    at = x_of(now, count)
    parts += [
        element("line", x1=at, x2=at, y1=TOP - 4, y2=foot, class_="walk-now"),
        element("text", "now", x=at, y=height - 4, class_="walk-now-name"),
        element("line", x1=at, x2=at, y1=TOP - 4, y2=foot, class_="walk-here"),
    ]
    every = max(1, round(count / 8))
    for place, share in enumerate(shares):
        x = x_of(place, count)
        parts.append(element("line", x1=x, x2=x, y1=foot, y2=foot + 5, class_="front-axis"))
        if place % every == 0 or place == count - 1:
            parts.append(element("text", share, x=x, y=foot + 19, class_="front-note middle"))
    return picture(WIDTH, height, title, *parts, class_="walk")


def _lane(lane: Lane, top: float, count: int) -> list[Markup]:
    limits = [limit for limit, _ in lane.limits]
    low, high = min([*lane.lows, *limits]), max([*lane.highs, *limits])
    room = max(high - low, 0.08 * max(abs(high), 1e-6))
    low, high = max(0.0, low - 0.1 * room), high + 0.12 * room

    def y(value: float) -> float:
        return top + LANE - LANE * (value - low) / (high - low)

    xs = [x_of(n, count) for n in range(count)]
    band = [
        *((x, y(v)) for x, v in zip(xs, lane.highs, strict=True)),
        *reversed([(x, y(v)) for x, v in zip(xs, lane.lows, strict=True)]),
    ]
    line = [(x, y(v)) for x, v in zip(xs, lane.values, strict=True)]
    parts = [
        element("rect", x=LEFT, y=top, width=RIGHT - LEFT, height=LANE, class_="walk-lane"),
        element("polygon", points=_points(band), class_="walk-doubt"),
        element("text", lane.name, x=LEFT - 12, y=top + LANE / 2 - 1, class_="walk-name"),
        element("text", lane.unit, x=LEFT - 12, y=top + LANE / 2 + 15, class_="front-note end"),
    ]
    for limit, side in lane.limits:
        sign = "at most" if side is Side.AT_MOST else "at least"
        tip = 7 if side is Side.AT_MOST else -7
        parts += [
            element("line", x1=LEFT, x2=RIGHT, y1=y(limit), y2=y(limit), class_="walk-limit"),
            element(
                "path", d=f"M{RIGHT - 10:g} {y(limit):g} h10 l-5 {tip:g} Z", class_="rung-arrow"
            ),
            element(
                "text", f"{sign} {limit:g}", x=RIGHT + 8, y=y(limit) + 4.5, class_="walk-limit-name"
            ),
        ]
    parts.append(element("polyline", points=_points(line), class_="walk-line"))
    parts += [
        element("circle", cx=x, cy=cy, r=4, class_=f"walk-dot {'' if met else 'missed'}".strip())
        for (x, cy), met in zip(line, lane.met, strict=True)
    ]
    if not lane.limits:
        parts += [
            element(
                "text",
                f"{lane.values[-1]:,.{lane.decimals}f}",
                x=RIGHT + 8,
                y=line[-1][1] + 4.5,
                class_="front-note",
            )
        ]
    return parts


def _taste_lane(tastes: Sequence[TasteLine], top: float, count: int) -> list[Markup]:
    most = max([1.5, *(min(MOST_STEPS, abs(s)) for t in tastes for s in t.steps)])

    def y(steps: float) -> float:
        return top + TASTE_LANE / 2 - (TASTE_LANE / 2 - 3) * max(-most, min(most, steps)) / most

    lane = MAY_NOT_NOTICE
    parts = [
        element("rect", x=LEFT, y=top, width=RIGHT - LEFT, height=TASTE_LANE, class_="walk-lane"),
        element(
            "rect",
            x=LEFT,
            y=y(lane),
            width=RIGHT - LEFT,
            height=y(-lane) - y(lane),
            class_="tilt-lane",
        ),
        element("text", "Taste", x=LEFT - 12, y=top + TASTE_LANE / 2 - 1, class_="walk-name"),
        element(
            "text",
            "steps from now",
            x=LEFT - 12,
            y=top + TASTE_LANE / 2 + 15,
            class_="front-note end",
        ),
    ]
    placed: list[float] = []
    for number, taste in enumerate(sorted(tastes, key=lambda t: -t.steps[-1])):
        line = [(x_of(n, count), y(s)) for n, s in enumerate(taste.steps)]
        parts.append(element("polyline", points=_points(line), class_=f"walk-taste t{number % 5}"))
        at = max(line[-1][1] + 4.5, (placed[-1] + 15) if placed else 0.0)
        placed.append(at)
        parts.append(
            element("text", taste.name, x=RIGHT + 8, y=at, class_=f"walk-taste-name t{number % 5}")
        )
    if not tastes:
        parts.append(
            element(
                "text", "none noticed", x=RIGHT + 8, y=top + TASTE_LANE / 2 + 4, class_="front-note"
            )
        )
    return parts


def _points(points: Sequence[tuple[float, float]]) -> str:
    return " ".join(f"{x:.1f},{y:.1f}" for x, y in points)
