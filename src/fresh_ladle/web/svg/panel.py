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


def liking_picture(pairs: Sequence[tuple[int, tuple[float, float]]], title: str) -> Markup:
    """Each taster as a line from the score of A (hollow) to that of B (solid), on the nine points of liking."""
    left, step, top = 60.0, 44.0, 26.0
    height = top + 16 * len(pairs) + 8
    parts = [element("text", str(n), x=left + step * (n - 1), y=16, class_="front-note middle") for n in range(1, 10)]
    parts += [
        element(
            "line", x1=left + step * (n - 1), x2=left + step * (n - 1), y1=top - 4, y2=height - 4, class_="front-grid"
        )
        for n in range(1, 10)
    ]
    for place, (seat, (a, b)) in enumerate(sorted(pairs, key=lambda p: (p[1][1] - p[1][0], p[0]))):
        y = top + 16 * place + 8
        x_a, x_b = left + step * (a - 1), left + step * (b - 1)
        parts += [
            element("text", f"seat {seat}", x=left - 14, y=y + 4, class_="front-note end"),
            element("line", x1=x_a, x2=x_b, y1=y, y2=y, class_="liking-line"),
            element("circle", cx=x_a, cy=y, r=5, class_="taster wrong"),
            element("circle", cx=x_b, cy=y, r=5, class_="taster right"),
        ]
    return picture(left + step * 8 + 20, height, title, *parts, class_="liking")
