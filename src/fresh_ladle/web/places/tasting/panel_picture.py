"""Every taster of a closed round as a mark in a row: right or not, with the fewest that would have
been enough."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from markupsafe import Markup

from fresh_ladle.web.shared.drawings.drawing import element, picture

CELL, HEIGHT, WORD = 26.0, 74.0, 68.0
"""`WORD` is the room for a word under the row, so that two stand beside each other under few
tasters too."""


def panel_picture(
    right: Sequence[tuple[int, bool]], needed: int | None, by_chance: float, title: str
) -> Markup:
    """The right ones stand first, each with its seat's number; a bar marks what guessing brings, a
    post what is needed."""
    ordered = sorted(right, key=lambda one: (not one[1], one[0]))
    width = max(CELL * len(ordered) + 4, 2 * WORD + 8)
    parts = []
    for place, (seat, good) in enumerate(ordered):
        x = 2 + CELL * (place + 0.5)
        parts += [
            element("circle", cx=x, cy=30, r=10, class_=f"taster {'right' if good else 'wrong'}"),
            element(
                "text", str(seat), x=x, y=34.5, class_=f"taster-seat {'right' if good else 'wrong'}"
            ),
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
            element(
                "text",
                f"needed {needed}",
                x=min(max(x, WORD), width - WORD - 4),
                y=69,
                class_="front-note",
            ),
        ]
    return picture(width, HEIGHT, title, *parts, class_="panel-row")


SHAPES = ("wrong", "right", "third", "fourth")
"""How the cups of A to D are drawn: hollow, solid, ringed, square; never told apart by color
alone."""


def scores_picture(by_seat: Mapping[int, Mapping[str, float]], most: int, title: str) -> Markup:
    """Each taster as a row from 1 to `most`, with a lettered mark for what was said of each sample;
    those who lean most to the first sample stand first."""
    left, step, row, top = 60.0, 352.0 / max(1, most - 1), 20.0, 26.0
    height = top + row * len(by_seat) + 8
    across = [(n, left + step * (n - 1)) for n in range(1, most + 1)]
    parts = [element("text", str(n), x=x, y=16, class_="front-note middle") for n, x in across]
    parts += [
        element("line", x1=x, x2=x, y1=top - 4, y2=height - 4, class_="front-grid")
        for _, x in across
    ]
    letters = list(next(iter(by_seat.values()), {}))
    first, last = letters[0], letters[-1]
    for place, (seat, said) in enumerate(
        sorted(by_seat.items(), key=lambda s: (s[1][last] - s[1][first], s[0]))
    ):
        y = top + row * (place + 0.5)
        ends = [left + step * (score - 1) for score in said.values()]
        parts += [
            element("text", f"seat {seat}", x=left - 14, y=y + 4, class_="front-note end"),
            element("line", x1=min(ends), x2=max(ends), y1=y, y2=y, class_="liking-line"),
        ]
        # Samples of one score stand beside each other, so that every one is seen.
        for x in dict.fromkeys(ends):
            here = [letter for letter, end in zip(letters, ends, strict=True) if end == x]
            for place_here, letter in enumerate(here):
                at = x + 15 * (place_here - (len(here) - 1) / 2)
                shape = SHAPES[letters.index(letter)]
                parts += [
                    element("circle", cx=at, cy=y, r=7.5, class_=f"taster {shape}"),
                    element("text", letter, x=at, y=y + 3.8, class_=f"taster-seat small {shape}"),
                ]
    return picture(left + step * (most - 1) + 24, height, title, *parts, class_="liking")
