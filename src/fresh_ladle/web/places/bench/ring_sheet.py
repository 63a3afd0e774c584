"""The ringed sheet on which a line spread is read, drawn in millimeters so that it prints at its
true size."""

from __future__ import annotations

from markupsafe import Markup

from fresh_ladle.core.bench.thickness import RING_CM
from fresh_ladle.web.shared.drawings.drawing import element

RINGS = 7
"""Rings of one cm beyond the ring: as many as the narrower of letter and A4 can hold."""
SIDE_MM = 192.0


def ring_sheet() -> Markup:
    """The ring in the middle, a circle for each cm beyond it, and half ones in faint; four arms to
    read along."""
    middle, parts = SIDE_MM / 2, []
    for half in range(1, 2 * RINGS + 1):
        radius = 10 * RING_CM + 5 * half
        kind = "ring-line" if half % 2 == 0 else "ring-half"
        parts.append(element("circle", cx=middle, cy=middle, r=radius, class_=kind))
    parts.append(element("circle", cx=middle, cy=middle, r=10 * RING_CM, class_="ring-start"))
    ends = 10 * (RING_CM + RINGS)
    parts += [
        element(
            "line", x1=middle - ends, x2=middle + ends, y1=middle, y2=middle, class_="ring-arm"
        ),
        element(
            "line", x1=middle, x2=middle, y1=middle - ends, y2=middle + ends, class_="ring-arm"
        ),
    ]
    for cm in range(1, RINGS + 1):
        at = 10 * (RING_CM + cm)
        parts += [
            element("text", str(cm), x=middle + at - 2.5, y=middle - 1.5, class_="ring-number"),
            element("text", str(cm), x=middle - at + 2.5, y=middle - 1.5, class_="ring-number"),
        ]
    ruler = 5.0
    parts += [
        element(
            "line", x1=ruler, x2=ruler + 50, y1=SIDE_MM - 3, y2=SIDE_MM - 3, class_="ring-line"
        ),
        element("text", "this line is 5 cm", x=ruler + 25, y=SIDE_MM - 5, class_="ring-number"),
    ]
    title = f"Rings of 1 to {RINGS} cm beyond a ring of {2 * RING_CM:g} cm"
    return Markup(
        f'<svg class="ring-sheet" width="{SIDE_MM:g}mm" height="{SIDE_MM:g}mm" viewBox="0 0'
        f' {SIDE_MM:g} {SIDE_MM:g}" role="img" aria-label="{title}">{Markup("").join(parts)}</svg>'
    )
