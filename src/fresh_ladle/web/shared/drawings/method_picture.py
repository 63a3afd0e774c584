"""The work of a method: every line a strand that runs from the left through the rings of its
operations into the dish at the right; what leaves on the way falls to the foot of the picture.

A ring holds the strands it is done to close together; after it they stay so. A strand is as thick
as its grams, in the color of its food. Rings of work that touches no line (an oven that heats) hang
above, dotted to what waits for them."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

from markupsafe import Markup

from fresh_ladle.core.method.ways import Way
from fresh_ladle.web.shared.drawings.drawing import element, picture

LEFT, SLOT, FOOT_ROW = 184.0, 27.0, 19.0
WIDE, NARROW, USUAL_WIDTH = 46.0, 33.0, 815.0
"""Room from ring to ring: as much as keeps the picture within its usual width, within these two."""
AT_THE_RIGHT = 92.0
HUNG, NOTHING_HUNG = 44.0, 14.0
"""Room above the strands: for rings that hang there, and where none does."""
THICKEST, THINNEST = 11.0, 1.6
LETTER = 6.6
"""The usual width of a letter at the size of notes."""


@dataclass(frozen=True, slots=True)
class Strand:
    """A way as it is drawn: its food, what stands at its left and at its right, its color as
    #rrggbb, and how thick it is at each operation, from 0 to 1."""

    way: Way
    food: str
    name: str
    eaten: str
    color: str
    thickness: float
    shares: Mapping[int, float]

    def width(self, operation: int | None) -> float:
        share = self.shares.get(operation, 1.0) if operation is not None else 1.0
        return THINNEST + (THICKEST - THINNEST) * sqrt(max(0.0, self.thickness * share))


@dataclass(frozen=True, slots=True)
class Ring:
    """An operation as it is drawn: its number, its kind (a class of the style), the time that is
    said of it."""

    operation: int
    kind: str
    time: str
    after: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Fall:
    """What leaves: a strand, by its place, at an operation, with the words for it."""

    strand: int
    operation: int
    words: str


@dataclass(slots=True)
class _Layout:
    """Where everything stands: the room above, the column of each operation, and the height of each
    strand at each of its operations."""

    above: float
    step: float
    columns: dict[int, int]
    heights: dict[tuple[int, int], float]

    @property
    def right(self) -> float:
        """Where the dish stands."""
        return LEFT + self.step * (max(self.columns.values(), default=-1) + 2.4)

    def slot(self, place: int) -> float:
        return self.above + SLOT * (place + 0.5)

    def x(self, operation: int) -> float:
        return LEFT + self.step * (self.columns[operation] + 1)


def method_picture(
    strands: Sequence[Strand], rings: Sequence[Ring], falls: Sequence[Fall], title: str
) -> Markup:
    """The picture, at the size it is to be seen."""
    layout = _layout(strands, rings)
    right = layout.right
    floor = layout.above + SLOT * len(strands) + 12
    foot, rows = _falls(strands, falls, layout, floor, right)
    parts = [*foot]
    for place, strand in enumerate(strands):
        parts.append(_strand(place, strand, layout, right))
    parts += [part for ring in rings for part in _ring(ring, strands, layout)]
    width = right + AT_THE_RIGHT
    height = floor + (rows * FOOT_ROW + 12 if rows else 0)
    dish = element("path", d=_rim(right, layout.above - 4, floor - 10), class_="way-dish")
    return picture(width, height, title, dish, *parts, class_="ways", fixed=True)


# -- where things stand


def _layout(strands: Sequence[Strand], rings: Sequence[Ring]) -> _Layout:
    touching = {o for s in strands for o in s.way.operations}
    above = NOTHING_HUNG if all(ring.operation in touching for ring in rings) else HUNG
    layout, taken = _Layout(above, WIDE, {}, {}), dict[int, list[tuple[float, float]]]()
    for ring in rings:
        inside = [n for n, s in enumerate(strands) if ring.operation in s.way.operations]
        heights = _bundled(inside, strands, ring.operation, layout)
        layout.heights |= {(n, ring.operation): y for n, y in heights.items()}
        top, end = (
            (min(heights.values()) - 14, max(heights.values()) + 26) if heights else (-SLOT, 0.0)
        )
        column = 1 + max((layout.columns[a] for a in ring.after), default=-1)
        while any(
            top < other_end and end > other_top for other_top, other_end in taken.get(column, ())
        ):
            column += 1
        layout.columns[ring.operation] = column
        taken.setdefault(column, []).append((top, end))
    count = max(layout.columns.values(), default=-1) + 2.4
    layout.step = max(NARROW, min(WIDE, (USUAL_WIDTH - LEFT - AT_THE_RIGHT) / count))
    return layout


def _bundled(
    inside: Sequence[int], strands: Sequence[Strand], operation: int, layout: _Layout
) -> dict[int, float]:
    """Heights of strands that are drawn together, about the middle of where they lie."""
    if not inside:
        return {}
    widths = [strands[n].width(operation) + 1.6 for n in inside]
    y = sum(layout.slot(n) for n in inside) / len(inside) - sum(widths) / 2
    found = {}
    for n, width in zip(inside, widths, strict=True):
        found[n] = y + width / 2
        y += width
    return found


# -- what is drawn


def _strand(place: int, strand: Strand, layout: _Layout, right: float) -> Markup:
    at, line = layout.slot(place), strand.way.line
    points: list[tuple[float, float, int | None]] = [] if strand.way.forks else [(LEFT, at, None)]
    points += [(layout.x(o), layout.heights[place, o], o) for o in strand.way.operations]
    if not strand.way.ends:
        points.append((right, at, None))
    drawn: list[Markup] = []
    for (x, y, before), (to_x, to_y, _) in itertools.pairwise(points):
        width = strand.width(before)
        # It keeps its height, and goes over to the next one shortly before it is there.
        turn = max(x, to_x - layout.step)
        half = layout.step / 2
        path = (
            f"M{x:.1f} {y:.1f} H{turn:.1f} C{turn + half:.1f} {y:.1f} {to_x - half:.1f} {to_y:.1f}"
        )
        path += f" {to_x:.1f} {to_y:.1f}"
        drawn += [
            element("path", d=path, stroke_width=width + 1.6, class_="way-edge"),
            element("path", d=path, stroke_width=width, stroke=strand.color, class_="way-strand"),
        ]
    named = element("text", _clipped(strand.name), x=LEFT - 8, y=at + 4.5, class_="way-name")
    eaten = (
        element("text", strand.eaten, x=right + 21, y=at + 4.5, class_="way-eaten")
        if strand.eaten
        else Markup()
    )
    grip = element("rect", x=0, y=at - SLOT / 2, width=LEFT - 4, height=SLOT, class_="way-grip")
    plain = " way-untouched" if not strand.way.operations else ""
    steps = " ".join(str(o) for o in strand.way.operations)
    return Markup('<g class="way{}" data-way-line="{}" data-ways="{}">{}</g>').format(
        plain, line, steps, Markup("").join([grip, *drawn, named, eaten])
    )


def _clipped(name: str) -> str:
    most = int((LEFT - 10) / LETTER)
    return name if len(name) <= most else f"{name[: most - 1].rstrip()}…"


def _ring(ring: Ring, strands: Sequence[Strand], layout: _Layout) -> list[Markup]:
    x, number = layout.x(ring.operation), str(ring.operation + 1)
    inside = [n for n, s in enumerate(strands) if ring.operation in s.way.operations]
    heights = [layout.heights[n, ring.operation] for n in inside]
    kind = f"way-ring ring-{ring.kind}"
    lines = " ".join(dict.fromkeys(strands[n].way.line for n in inside))
    parts: list[Markup] = []
    if heights:
        top, end = min(heights) - 11, max(heights) + 11
    else:
        top, end = 4.0, 26.0
    parts += [
        element("rect", x=x - 11, y=top, width=22, height=end - top, rx=11, class_=kind),
        element("text", number, x=x, y=(top + end) / 2 + 4.5, class_="way-number"),
    ]
    if ring.time:
        parts.append(element("text", ring.time, x=x, y=end + 12, class_="way-time"))
    drawn = Markup('<g class="way-step" data-way-step="{}" data-lines="{}">{}</g>').format(
        ring.operation, lines, Markup("").join(parts)
    )
    return [*_hanging(ring, strands, layout, x, top), drawn]


def _hanging(
    ring: Ring, strands: Sequence[Strand], layout: _Layout, x: float, top: float
) -> list[Markup]:
    """Dotted threads to the rings above that this one waits for."""
    touching = {o for s in strands for o in s.way.operations}
    return [
        element("path", d=f"M{layout.x(a):.1f} 26 L{x:.1f} {max(top, 26):.1f}", class_="way-thread")
        for a in ring.after
        if a not in touching and ring.operation in touching
    ]


def _falls(
    strands: Sequence[Strand], falls: Sequence[Fall], layout: _Layout, floor: float, right: float
) -> tuple[list[Markup], int]:
    """What leaves, each with its words at the foot in a row where they find room; and the number of
    rows."""
    drawn: list[Markup] = []
    ends: list[float] = []
    for fall in sorted(falls, key=lambda f: layout.columns[f.operation]):
        strand = strands[fall.strand]
        x, y = layout.x(fall.operation), layout.heights[fall.strand, fall.operation]
        long = LETTER * len(fall.words) + 18
        left = min(x + 8, right + 76 - long)
        row = next((n for n, end in enumerate(ends) if end <= left), len(ends))
        ends[row : row + 1] = [left + long]
        foot = floor + row * FOOT_ROW
        path = (
            f"M{x:.1f} {y:.1f} C{x + 14:.1f} {y:.1f} {x + 15:.1f} {y + 6:.1f} {x + 15:.1f}"
            f" {y + 22:.1f} V{foot:.1f}"
        )
        drop = f"M{x + 15:.1f} {foot - 4:.1f} q-5 8 0 11 q5 -3 0 -11 Z"
        parts = [
            element("path", d=path, class_="way-fall"),
            element("path", d=drop, fill=strand.color, class_="way-drop"),
            element(
                "text",
                fall.words,
                x=max(left + 14, x + 24) if left >= x else left,
                y=foot + 6,
                class_="way-note",
            ),
        ]
        drawn.append(
            Markup('<g class="way-leaves" data-way-line="{}" data-ways="{}">{}</g>').format(
                strand.way.line, fall.operation, Markup("").join(parts)
            )
        )
    return drawn, len(ends)


def _rim(x: float, top: float, end: float) -> str:
    """The dish, seen from its side, standing on edge to take in every strand."""
    return (
        f"M{x:.1f} {top:.1f} C{x + 16:.1f} {top + 14:.1f} {x + 16:.1f} {end - 14:.1f} {x:.1f}"
        f" {end:.1f}"
    )
