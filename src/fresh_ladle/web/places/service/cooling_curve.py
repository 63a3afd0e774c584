"""A cooling curve: readings over time, with the two limits it must pass under."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from markupsafe import Markup

from fresh_ladle.core.hold.temperature import COLD, FIRST_LIMIT, HOT, SECOND_LIMIT, WARM, Entry
from fresh_ladle.web.shared.drawings.drawing import element, picture

LEFT, TOP, WIDTH, HEIGHT, HOTTEST = 40.0, 10.0, 460.0, 170.0, 90.0


def cooling_curve(entries: Sequence[Entry], title: str) -> Markup:
    """The curve from the last reading at 57 °C or above; nothing without a reading."""
    readings = [(e.at, e.celsius) for e in entries if e.celsius is not None]
    if not readings:
        return Markup("")
    hot = [at for at, celsius in readings if celsius >= HOT]
    start, first = (hot[-1] if hot else readings[0][0]), readings[0][0]
    last = max(readings[-1][0], start + SECOND_LIMIT)
    span = max(1.0, (last - first).total_seconds())

    def x(at: datetime) -> float:
        return LEFT + (at - first).total_seconds() / span * WIDTH

    def y(celsius: float) -> float:
        return TOP + (HOTTEST - min(HOTTEST, max(0.0, celsius))) / HOTTEST * HEIGHT

    parts = []
    for degrees in (HOT, WARM, COLD):
        parts += [
            element(
                "line", x1=LEFT, x2=LEFT + WIDTH, y1=y(degrees), y2=y(degrees), class_="front-grid"
            ),
            element(
                "text", f"{degrees:.0f}", x=LEFT - 8, y=y(degrees) + 5, class_="front-note end"
            ),
        ]
    for limit, target in ((start + FIRST_LIMIT, WARM), (start + SECOND_LIMIT, COLD)):
        post = x(limit)
        parts.append(
            element("line", x1=post, x2=post, y1=y(HOTTEST), y2=y(target), class_="curve-limit")
        )
    points = " ".join(f"{x(at):.1f},{y(celsius):.1f}" for at, celsius in readings)
    parts.append(element("polyline", points=points, class_="curve"))
    parts += [
        element("circle", cx=x(at), cy=y(celsius), r=4.5, class_="curve-point")
        for at, celsius in readings
    ]
    return picture(LEFT + WIDTH + 12, TOP + HEIGHT + 10, title, *parts, class_="cooling-curve")
