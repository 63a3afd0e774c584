"""The rungs of one figure: where the original version, where this version stands, how sure that is,
and the limit.

The side of the limit that is good is hatched, so that nobody has to remember whether more or less
is wanted."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from markupsafe import Markup

from fresh_ladle.core.nutrients.targets import Side
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.web.shared.drawings.drawing import element, picture

WIDTH, HEIGHT = 96.0, 112.0
_TOP, _BOTTOM, _LEFT, _RIGHT = 8.0, 104.0, 30.0, 66.0


Limit = tuple[float, Side]
"""A limit per serving and the side that is good."""


def _scale_top(now: Figure, original: float, limits: Sequence[Limit]) -> float:
    highest = max([now.high, original, *(limit for limit, _ in limits)])
    return highest * 1.15 or 1.0


@lru_cache(maxsize=8192)
def rungs(
    now: Figure,
    original: float,
    limits: tuple[Limit, ...],
    tone: str,
    title: str,
    small: bool = False,
) -> Markup:
    """One ladder, drawn from 0 at the foot to a little past the highest mark. `small` leaves the
    rungs themselves out; `tone` is meets, misses, close or free."""
    top_value = _scale_top(now, original, limits)

    def height(value: float) -> float:
        return _BOTTOM - (_BOTTOM - _TOP) * min(1.0, value / top_value)

    parts: list[Markup] = []
    if limits:
        top = max([_TOP, *(height(limit) for limit, side in limits if side is Side.AT_MOST)])
        bottom = min([_BOTTOM, *(height(limit) for limit, side in limits if side is Side.AT_LEAST)])
        good = max(0.0, bottom - top)
        parts.append(
            element("rect", x=_LEFT, y=top, width=_RIGHT - _LEFT, height=good, class_="rung-good")
        )
    parts += [
        element("line", x1=x, x2=x, y1=_TOP - 4, y2=_BOTTOM + 4, class_="rung-rail")
        for x in (_LEFT, _RIGHT)
    ]
    if not small:
        parts += [
            element("line", x1=_LEFT, x2=_RIGHT, y1=y, y2=y, class_="rung-step")
            for y in _step_heights()
        ]
    band_top, band_bottom = height(now.high), height(now.low)
    band = max(3.0, band_bottom - band_top)
    parts.append(
        element(
            "rect",
            x=_LEFT + 4,
            y=band_top,
            width=_RIGHT - _LEFT - 8,
            height=band,
            rx=4,
            class_=f"rung-doubt {tone}",
        )
    )
    for limit, side in limits:
        parts += _limit_mark(height(limit), side)
    middle = (_LEFT + _RIGHT) / 2
    parts.append(element("circle", cx=middle, cy=height(original), r=6, class_="rung-original"))
    parts.append(element("circle", cx=middle, cy=height(now.value), r=6, class_="rung-now"))
    return picture(WIDTH, HEIGHT, title, *parts, class_="rungs")


def _step_heights() -> list[float]:
    count = 5
    return [_TOP + (_BOTTOM - _TOP) * n / count for n in range(1, count)]


def _limit_mark(y: float, side: Side) -> list[Markup]:
    """The limit as a bar across the rails, with an arrow at each end pointing to the side that is
    good."""
    tip = 9 if side is Side.AT_MOST else -9
    arrows = [
        element(
            "path", d=f"M{x - 5:g} {y:g} L{x + 5:g} {y:g} L{x:g} {y + tip:g} Z", class_="rung-arrow"
        )
        for x in (_LEFT - 12, _RIGHT + 12)
    ]
    return [
        element("line", x1=_LEFT - 17, x2=_RIGHT + 17, y1=y, y2=y, class_="rung-limit"),
        *arrows,
    ]
