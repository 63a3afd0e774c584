"""Every taster of a closed round as a mark in a row: right or not, with the fewest that would have been enough."""

from __future__ import annotations

from collections.abc import Sequence

from markupsafe import Markup

from fresh_ladle.web.svg.drawing import element, picture

CELL, HEIGHT = 26.0, 74.0


def panel_picture(right: Sequence[tuple[int, bool]], needed: int | None, by_chance: float, title: str) -> Markup:
    """The right ones stand first, each with its seat's number; a bar marks what guessing brings, a post what is
    needed."""
    ordered = sorted(right, key=lambda one: (not one[1], one[0]))
    width = CELL * max(1, len(ordered)) + 4
    parts = []
    for place, (seat, good) in enumerate(ordered):
        x = 2 + CELL * (place + 0.5)
        parts += [
            element("circle", cx=x, cy=30, r=10, class_=f"taster {'right' if good else 'wrong'}"),
            element("text", str(seat), x=x, y=34.5, class_=f"taster-seat {'right' if good else 'wrong'}"),
        ]
    chance_x = 2 + CELL * by_chance
    parts += [
        element("line", x1=2, x2=chance_x, y1=52, y2=52, class_="taster-chance"),
        element("text", "guessing", x=2, y=69, class_="front-note"),
    ]
    if needed is not None and needed <= len(ordered):
        x = 2 + CELL * needed
        parts += [
            element("line", x1=x, x2=x, y1=12, y2=58, class_="taster-needed"),
            element("text", f"needed {needed}", x=min(x, width - 72), y=69, class_="front-note"),
        ]
    return picture(width, HEIGHT, title, *parts, class_="panel-row")
