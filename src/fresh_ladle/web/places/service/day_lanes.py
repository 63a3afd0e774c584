"""The day as lanes: one for each cook and one for each kind of equipment, over the hours."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime

from markupsafe import Markup

from fresh_ladle.core.service.schedule import Placed
from fresh_ladle.web.shared.drawings.drawing import element, picture

LEFT, ROW, TOP, WIDTH = 92.0, 44.0, 26.0, 1180.0
HOUR = 60


def day_lanes(
    placed: Sequence[Placed],
    cooks: int,
    eaten: int,
    moment: Callable[[int], datetime],
    numbers: Mapping[int, int],
    title: str,
) -> Markup:
    """Bars carry the number of the step in the list below; a thin tail is waiting that nobody
    stands by."""
    start = min((p.start for p in placed), default=eaten)
    first, span = start - start % 15, max(60, eaten - (start - start % 15))
    scale = (WIDTH - LEFT - 8) / span
    hands = [
        (f"cook {chr(65 + n)}", [[p for p in placed if p.cook == n]], True) for n in range(cooks)
    ]
    held = [
        (name, _stacked([p for p in placed if p.task.uses == name]), False)
        for name in ("oven", "burner", "blender")
    ]
    rows = [*hands, *(lane for lane in held if lane[1])]
    height = TOP + sum(ROW * max(1, len(stack)) for _, stack, _ in rows) + 6
    parts = _hours(first, eaten, scale, height, moment)
    y = TOP
    for name, stack, by_hand in rows:
        parts.append(element("text", name, x=4, y=y + 26, class_="lane-name"))
        for level, bars in enumerate(stack):
            for p in bars:
                parts += _bar(
                    p, LEFT + (p.start - first) * scale, y + level * ROW, scale, by_hand, numbers
                )
        y += ROW * max(1, len(stack))
        parts.append(element("line", x1=0, x2=WIDTH, y1=y, y2=y, class_="lane-line"))
    return picture(WIDTH, height, title, *parts, class_="day-lanes")


def _stacked(bars: Sequence[Placed]) -> list[list[Placed]]:
    """Bars in as few levels as do not overlap."""
    levels: list[list[Placed]] = []
    for bar in sorted(bars, key=lambda p: p.start):
        level = next((one for one in levels if one[-1].end <= bar.start), None)
        if level is None:
            levels.append([bar])
        else:
            level.append(bar)
    return levels


def _hours(
    first: int, eaten: int, scale: float, height: float, moment: Callable[[int], datetime]
) -> list[Markup]:
    parts = []
    span = eaten - first
    every = 15 if span <= 150 else 30 if span <= 360 else HOUR if span <= 900 else 4 * HOUR
    for minute in range(first, eaten + 1):
        at = moment(minute)
        since_midnight = at.hour * 60 + at.minute
        if since_midnight % every == 0 and minute < eaten - every / 2:
            x = LEFT + (minute - first) * scale
            parts += [
                element("line", x1=x, x2=x, y1=18, y2=height, class_="lane-hour"),
                element("text", f"{at:%H:%M}", x=x, y=13, class_="front-note middle"),
            ]
    x = LEFT + (eaten - first) * scale
    parts += [
        element("line", x1=x, x2=x, y1=4, y2=height, class_="lane-eaten"),
        element("text", f"{moment(eaten):%H:%M}", x=x - 4, y=13, class_="front-note end"),
    ]
    return parts


def _bar(
    p: Placed, x: float, y: float, scale: float, by_hand: bool, numbers: Mapping[int, int]
) -> list[Markup]:
    """By hand only the work is solid; on equipment all of the time it is held."""
    solid = (p.hands_free if by_hand else p.end) - p.start
    parts = [
        element(
            "rect",
            x=x,
            y=y + 6,
            width=max(3, solid * scale - 1),
            height=ROW - 14,
            rx=6,
            class_="lane-work",
        ),
    ]
    if by_hand and p.end > p.hands_free:
        wait, width = x + solid * scale - 4, (p.end - p.hands_free) * scale + 3
        parts.insert(
            0,
            element(
                "rect", x=wait, y=y + ROW - 11, width=width, height=4, rx=2, class_="lane-wait"
            ),
        )
    if solid * scale >= 15:
        parts.append(
            element("text", str(numbers[p.task.id]), x=x + 4, y=y + 27, class_="lane-number")
        )
    return parts
