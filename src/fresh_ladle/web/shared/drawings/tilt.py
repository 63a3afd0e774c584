"""The tilt: a stem for each taste, leaning left for less and right for more, by noticeable steps
from the original."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from math import cos, radians, sin

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import MAY_NOT_NOTICE
from fresh_ladle.web.shared.drawings.drawing import element, picture

WIDTH, HEIGHT, LENGTH = 72.0, 96.0, 68.0
DEGREES_PER_STEP = 7.5
MAX_STEPS = 4.0
"""A stem leans no further than this; its number still tells the whole."""
MAX_WIDTH = 3.2
"""A window reaches no further than this to either side, so that it stays clear of its neighbors."""
RIM = LENGTH + 12
"""Radius of the arc that marks the well-liked window."""
FOOT_X, FOOT_Y = WIDTH / 2, HEIGHT - 8


def _tip(steps: float, length: float) -> tuple[float, float]:
    lean = radians(max(-MAX_STEPS, min(MAX_STEPS, steps)) * DEGREES_PER_STEP)
    return FOOT_X + length * sin(lean), FOOT_Y - length * cos(lean)


def _arc(low: float, high: float, radius: float) -> str:
    left, right = _tip(low, radius), _tip(high, radius)
    return (
        f"M{left[0]:.1f} {left[1]:.1f} A{radius:g} {radius:g} 0 0 1 {right[0]:.1f} {right[1]:.1f}"
    )


def tone_of(step: float) -> str:
    """How a lean is colored: within what may pass, noticed, or plain."""
    size = abs(step)
    return "same" if size < MAY_NOT_NOTICE else "noticed" if size < 2 else "plain"


_WEDGE = element(
    "path",
    d=f"{_arc(-MAY_NOT_NOTICE, MAY_NOT_NOTICE, LENGTH + 8)} L{FOOT_X:g} {FOOT_Y:g} Z",
    class_="tilt-lane",
)
_UPRIGHT = element(
    "line", x1=FOOT_X, x2=FOOT_X, y1=FOOT_Y, y2=FOOT_Y - LENGTH, class_="tilt-upright"
)
_GROUND = element("line", x1=6, x2=WIDTH - 6, y1=FOOT_Y, y2=FOOT_Y, class_="tilt-ground")


def stem(
    step: float, title: str, doubt: tuple[float, float] | None, window: tuple[float, float] | None
) -> Markup:
    """A stem for one axis. Inside the pale wedge tasters may not notice; the thick rim is where
    such dishes are liked; the thin arc through the bud is the doubt of the amounts. `doubt` and
    `window` are in steps from the original."""
    return _stem(round(step, 2), title, _to_hundredths(doubt), _to_hundredths(window))


def _to_hundredths(ends: tuple[float, float] | None) -> tuple[float, float] | None:
    return None if ends is None else (round(ends[0], 2), round(ends[1], 2))


@lru_cache(maxsize=4096)
def _stem(
    step: float, title: str, doubt: tuple[float, float] | None, window: tuple[float, float] | None
) -> Markup:
    """An edit leaves most tastes where they were to a hundredth of a step, which nobody sees in a
    drawing."""
    bud_x, bud_y = _tip(step, LENGTH)
    lean = max(-MAX_STEPS, min(MAX_STEPS, step)) * DEGREES_PER_STEP
    parts = [_WEDGE]
    if window is not None and window[1] > -MAX_WIDTH and window[0] < MAX_WIDTH:
        low, high = max(window[0], -MAX_WIDTH), min(window[1], MAX_WIDTH)
        parts.append(element("path", d=_arc(low, high, RIM), class_="tilt-window"))
    parts += [
        _UPRIGHT,
        element(
            "line", x1=FOOT_X, x2=bud_x, y1=FOOT_Y, y2=bud_y, class_=f"tilt-stem {tone_of(step)}"
        ),
    ]
    if doubt is not None and doubt[1] - doubt[0] > 0.3:
        parts.append(element("path", d=_arc(*doubt, LENGTH), class_="tilt-doubt"))
    parts += [
        element(
            "ellipse",
            cx=bud_x,
            cy=bud_y,
            rx=6,
            ry=10,
            transform=f"rotate({lean:.1f} {bud_x:.1f} {bud_y:.1f})",
            class_=f"tilt-bud {tone_of(step)}",
        ),
        _GROUND,
    ]
    return picture(WIDTH, HEIGHT, title, *parts, class_="tilt")


STRIP_CELL, STRIP_HEIGHT, STRIP_REACH = 46.0, 40.0, 19.0


def strip(steps: Sequence[tuple[str, float]], title: str) -> Markup:
    """All axes in one small picture: a bar from the middle to the left for less, to the right for
    more; up to 4 steps."""
    parts = []
    for place, (name, step) in enumerate(steps):
        middle = STRIP_CELL * (place + 0.5)
        reach = max(-MAX_STEPS, min(MAX_STEPS, step)) / MAX_STEPS * STRIP_REACH
        lane = STRIP_REACH / MAX_STEPS
        parts += [
            element("rect", x=middle - lane, y=2, width=2 * lane, height=16, class_="tilt-lane"),
            element(
                "rect",
                x=min(middle, middle + reach),
                y=5,
                width=max(1.5, abs(reach)),
                height=10,
                class_=f"tilt-bud {tone_of(step)}",
            ),
            element("line", x1=middle, x2=middle, y1=1, y2=19, class_="strip-middle"),
            element("text", name, x=middle, y=34, class_="strip-name"),
        ]
    return picture(STRIP_CELL * len(steps), STRIP_HEIGHT, title, *parts, class_="strip")


GAUGE_CELL, GAUGE_HEIGHT, GAUGE_REACH = 74.0, 52.0, 24.0


def gauges(marks: Sequence[tuple[str, float, bool]], title: str) -> Markup:
    """Where each taste lies in its window, with no original to lean from: the lane is the window,
    its middle the upright; -1 and 1 are its ends. What lies outside is drawn past the end, no
    further than half a window."""
    parts = []
    for place, (name, at, inside) in enumerate(marks):
        middle = GAUGE_CELL * (place + 0.5)
        bud = middle + GAUGE_REACH * max(-1.4, min(1.4, at))
        tone = "same" if inside else "plain"
        parts += [
            element(
                "rect",
                x=middle - GAUGE_REACH,
                y=8,
                width=2 * GAUGE_REACH,
                height=16,
                rx=8,
                class_="gauge-window",
            ),
            element("line", x1=middle, x2=middle, y1=4, y2=28, class_="strip-middle"),
            element("line", x1=middle, x2=bud, y1=16, y2=16, class_=f"tilt-stem {tone}"),
            element("circle", cx=bud, cy=16, r=6.5, class_=f"tilt-bud {tone}"),
            element("text", name, x=middle, y=45, class_="strip-name"),
        ]
    return picture(GAUGE_CELL * len(marks), GAUGE_HEIGHT, title, *parts, class_="gauges")
