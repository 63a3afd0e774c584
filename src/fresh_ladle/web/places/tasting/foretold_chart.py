"""Steps that the model foretold against steps that panels showed: a mark for each round, with its
doubt."""

from __future__ import annotations

from collections.abc import Sequence

from markupsafe import Markup

from fresh_ladle.core.tasting.eaters import MOST_SHOWN, Foretold
from fresh_ladle.web.shared.drawings.drawing import element, picture

LEFT, TOP, SIZE = 46.0, 14.0, 260.0


def foretold_chart(rounds: Sequence[Foretold], title: str) -> Markup:
    """Rounds on the slanting line are as foretold; a stem shows what the answers allow, 19 times in
    20."""
    least = min(0.0, *(r.shown.low for r in rounds), *(r.foretold for r in rounds))
    scale = SIZE / (MOST_SHOWN - least)

    def x(steps: float) -> float:
        return LEFT + (min(steps, MOST_SHOWN) - least) * scale

    def y(steps: float) -> float:
        return TOP + (MOST_SHOWN - min(steps, MOST_SHOWN)) * scale

    parts = []
    for n in range(int(least), int(MOST_SHOWN) + 1):
        text = str(n).replace("-", "−")
        parts += [
            element("line", x1=LEFT, x2=LEFT + SIZE, y1=y(n), y2=y(n), class_="front-grid"),
            element("text", text, x=LEFT - 8, y=y(n) + 4, class_="front-note end"),
            element("text", text, x=x(n), y=TOP + SIZE + 18, class_="front-note middle"),
        ]
    parts += [
        element(
            "line",
            x1=x(least),
            y1=y(least),
            x2=x(MOST_SHOWN),
            y2=y(MOST_SHOWN),
            class_="foretold-even",
        ),
        element(
            "text", "steps foretold", x=LEFT + SIZE, y=TOP + SIZE + 36, class_="front-note end"
        ),
        element("text", "steps shown", x=LEFT + 4, y=TOP + 12, class_="front-note"),
    ]
    for r in rounds:
        across = x(r.foretold)
        parts += [
            element(
                "line",
                x1=across,
                x2=across,
                y1=y(r.shown.low),
                y2=y(r.shown.high),
                class_="foretold-stem",
            ),
            element(
                "circle",
                cx=across,
                cy=y(r.shown.steps),
                r=6,
                class_=f"taster {'right' if r.borne_out else 'wrong'}",
            ),
        ]
    return picture(LEFT + SIZE + 12, TOP + SIZE + 44, title, *parts, class_="foretold-chart")
