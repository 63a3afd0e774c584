"""The ribbon of one line under the lens: its share as a solid band, its doubt as a fringe."""

from __future__ import annotations

from functools import lru_cache

from markupsafe import Markup

from fresh_ladle.web.shared.drawings.drawing import element, picture

WIDTH, HEIGHT, BAR = 240.0, 22.0, 12.0
MIN_WIDTH = 3.0
"""So that a small share is seen to be there and does not pass for none."""

_BASE = element("line", x1=0.5, x2=0.5, y1=2, y2=HEIGHT - 2, class_="ribbon-base")


def ribbon(value: float, low: float, high: float, scale: float, role: str, title: str) -> Markup:
    """`value`, `low`, `high` and `scale` share one unit; the full width is `scale`. `role` picks
    the color class."""
    if value <= 0 or scale <= 0:
        return _ribbon(0.0, 0.0, 0.0, role, title)

    def across(amount: float) -> float:
        return round(min(WIDTH - 2, max(MIN_WIDTH, amount / scale * (WIDTH - 2))), 1)

    return _ribbon(across(low), across(value), across(high), role, title)


@lru_cache(maxsize=4096)
def _ribbon(solid: float, typical: float, fringe: float, role: str, title: str) -> Markup:
    """Ends in tenths of a pixel. An edit of one line leaves most ribbons as they are."""
    if not typical:
        return picture(WIDTH, HEIGHT, title, _BASE, class_="ribbon")
    top = (HEIGHT - BAR) / 2
    parts = [
        element("rect", x=0, y=top, width=solid, height=BAR, class_=f"ribbon-solid role-{role}"),
        element(
            "rect",
            x=solid,
            y=top + 2,
            width=max(0.0, fringe - solid),
            height=BAR - 4,
            class_=f"ribbon-fringe role-{role}",
        ),
        element(
            "line", x1=typical, x2=typical, y1=top - 2, y2=top + BAR + 2, class_="ribbon-typical"
        ),
        _BASE,
    ]
    return picture(WIDTH, HEIGHT, title, *parts, class_="ribbon")
