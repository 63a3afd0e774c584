"""One stem of the tilt: leaning left for less, right for more, by noticeable steps from the original."""

from __future__ import annotations

from math import cos, radians, sin

from markupsafe import Markup

from fresh_ladle.core.flavor.parameters import MAY_NOT_NOTICE
from fresh_ladle.web.svg.drawing import element, picture

WIDTH, HEIGHT, LENGTH = 72.0, 96.0, 72.0
DEGREES_PER_STEP = 7.5
MOST_STEPS = 4.0
"""A stem leans no further than this; its number still tells the whole."""


def stem(step: float, title: str) -> Markup:
    """A stem for one axis. Inside the pale wedge tasters may not notice."""
    foot_x, foot_y = WIDTH / 2, HEIGHT - 10

    def tip(steps: float, length: float = LENGTH) -> tuple[float, float]:
        lean = radians(max(-MOST_STEPS, min(MOST_STEPS, steps)) * DEGREES_PER_STEP)
        return foot_x + length * sin(lean), foot_y - length * cos(lean)

    left, right = tip(-MAY_NOT_NOTICE, LENGTH + 8), tip(MAY_NOT_NOTICE, LENGTH + 8)
    size = abs(step)
    tone = "same" if size < MAY_NOT_NOTICE else "noticed" if size < 2 else "plain"
    bud_x, bud_y = tip(step)
    lean = max(-MOST_STEPS, min(MOST_STEPS, step)) * DEGREES_PER_STEP
    return picture(
        WIDTH,
        HEIGHT,
        title,
        element("path", d=f"M{foot_x:g} {foot_y:g} L{left[0]:.1f} {left[1]:.1f} A{LENGTH + 8:g} {LENGTH + 8:g} 0 0 1 {right[0]:.1f} {right[1]:.1f} Z", class_="tilt-lane"),
        element("line", x1=foot_x, x2=foot_x, y1=foot_y, y2=foot_y - LENGTH, class_="tilt-upright"),
        element("line", x1=foot_x, x2=bud_x, y1=foot_y, y2=bud_y, class_=f"tilt-stem {tone}"),
        element("ellipse", cx=bud_x, cy=bud_y, rx=6, ry=10, transform=f"rotate({lean:.1f} {bud_x:.1f} {bud_y:.1f})", class_=f"tilt-bud {tone}"),
        element("line", x1=6, x2=WIDTH - 6, y1=foot_y, y2=foot_y, class_="tilt-ground"),
        class_="tilt",
    )  # fmt: skip
