"""What a dish is made of as one bar: a piece for each role, as wide as its share of the bowl."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.web.shared.drawings.drawing import element, picture

WIDTH, HEIGHT, BAR = 640.0, 58.0, 30.0
LEAST = 5.0
"""Width of the smallest piece: a pinch of salt is seen to be there."""
PER_LETTER, PADDING = 7.6, 12.0
"""About what a letter of a label takes, so that a label is only drawn where it fits."""


@dataclass(frozen=True, slots=True)
class Piece:
    """One role: its name, its share of the whole, the color it wears, and what plays it, in
    words."""

    name: str
    share: float
    color: str
    title: str


def role_bar(pieces: Sequence[Piece], title: str) -> Markup:
    """The pieces in their order. A name stands in its piece, or under it where only that leaves
    room."""
    room = WIDTH - sum(LEAST for p in pieces if p.share * WIDTH < LEAST)
    large = sum(p.share for p in pieces if p.share * WIDTH >= LEAST) or 1.0
    parts: list[Markup] = []
    x, free_from = 0.0, 0.0
    for piece in pieces:
        width = LEAST if piece.share * WIDTH < LEAST else room * piece.share / large
        drawn = [
            element("title", piece.title),
            element(
                "rect",
                x=x + 0.5,
                y=2,
                width=max(1.0, width - 1),
                height=BAR,
                class_=f"piece piece-{piece.color}",
            ),
        ]
        needed = PER_LETTER * len(piece.name)
        if needed + PADDING <= width:
            drawn.append(
                element(
                    "text",
                    piece.name,
                    x=x + width / 2,
                    y=2 + BAR / 2 + 5,
                    class_="piece-name inside",
                )
            )
        elif x >= free_from and x + needed <= WIDTH:
            drawn.append(
                element(
                    "line",
                    x1=x + width / 2,
                    x2=x + width / 2,
                    y1=BAR + 3,
                    y2=BAR + 9,
                    class_="piece-tick",
                )
            )
            drawn.append(
                element("text", piece.name, x=max(0.0, x - 2), y=BAR + 22, class_="piece-name")
            )
            free_from = x + needed + PADDING
        parts.append(element("g", Markup("").join(drawn)))
        x += width
    return picture(WIDTH, HEIGHT, title, *parts, class_="role-bar")
