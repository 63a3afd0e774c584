"""Every kind of drawing, of values that stand on both sides of what the drawing decides, element by
element.

`./ladle pin` writes `drawn.txt` anew. A drawing that changed is looked at before the difference is
committed."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from datetime import datetime, timedelta
from functools import partial
from pathlib import Path

from markupsafe import Markup

from fresh_ladle.core.hold.temperature import Entry
from fresh_ladle.core.method.ways import Way
from fresh_ladle.core.nutrients.targets import Side
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.practice.scoring import Answered
from fresh_ladle.core.service.schedule import Placed
from fresh_ladle.core.service.task import Task
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.eaters import Foretold, StepsShown
from fresh_ladle.web.places.bench.ring_sheet import ring_sheet
from fresh_ladle.web.places.compose.ratio_chart import Lane, TasteLine, ratio_chart
from fresh_ladle.web.places.compose.role_bar import Piece, role_bar
from fresh_ladle.web.places.plans.pareto_front import Mark, front_picture
from fresh_ladle.web.places.practice.pictures import measure_picture, ranges_picture
from fresh_ladle.web.places.service.cooling_curve import cooling_curve
from fresh_ladle.web.places.service.day_lanes import day_lanes
from fresh_ladle.web.places.tasting.foretold_chart import foretold_chart
from fresh_ladle.web.places.tasting.panel_picture import panel_picture, scores_picture
from fresh_ladle.web.shared.drawings.method_picture import Fall, Ring, Strand, method_picture
from fresh_ladle.web.shared.drawings.ribbon import ribbon
from fresh_ladle.web.shared.drawings.rungs import rungs
from fresh_ladle.web.shared.drawings.tilt import gauges, stem, strip

DRAWN = Path(__file__).with_name("drawn.txt")
EATEN = 24 * 60
MOST, LEAST = Side.AT_MOST, Side.AT_LEAST


def task(number: int, uses: str = "", active: int = 10, waiting: int = 0) -> Task:
    return Task(
        number,
        "dip",
        "dip",
        f"task {number}",
        "stir",
        (),
        active,
        waiting,
        False,
        uses,
        None,
        (),
        True,
    )


def placed(number: int, start: int, hands: int, end: int, cook: int, uses: str = "") -> Placed:
    return Placed(task(number, uses, hands, end - start - hands), start, start + hands, end, cook)


def clock(minute: int) -> datetime:
    return datetime(2030, 5, 6) + timedelta(minutes=minute)


def lanes(*bars: Placed, cooks: int = 2, eaten: int = 600) -> Markup:
    return day_lanes(bars, cooks, eaten, clock, {bar.task.id: bar.task.id for bar in bars}, "day")


def reading(minutes: int, celsius: float | None) -> Entry:
    return Entry(clock(minutes), celsius, "" if celsius is not None else "stirred")


def foretold(number: int, steps: float, shown: tuple[float, float, float]) -> Foretold:
    return Foretold(number, Question.PAIR, "salty", steps, StepsShown(*shown), 24)


def drawings() -> Iterator[tuple[str, Markup]]:
    """Each drawing with its name."""
    yield from _of_tastes()
    yield from _of_figures()
    yield from _of_rounds()
    yield from _of_kitchens()
    yield from _of_methods()


def _of_tastes() -> Iterator[tuple[str, Markup]]:
    yield "stem, leaning left", stem(-1.5, "less", (-2.0, -1.0), (-0.5, 1.0))
    yield "stem, leaning as far as it goes", stem(6.0, "more", (4.5, 7.0), (-9.0, 9.0))
    yield "stem, doubt that is not drawn", stem(0.999, "same", (0.5, 0.8), None)
    yield "stem, a step that is noticed", stem(1.0, "noticed", (0.5, 0.81), (3.2, 4.0))
    yield "stem, two steps", stem(2.0, "plain", None, (-4.0, -3.2))
    yield "stem, window at the edge", stem(-2.0, "plain", None, (3.19, 5.0))
    yield "strip", strip([("salty", -5.0), ("sour", 0.0), ("sweet", 1.0), ("rich", 4.5)], "strip")
    yield (
        "gauges",
        gauges([("salty", -2.0, False), ("sour", 0.0, True), ("sweet", 1.5, False)], "gauges"),
    )
    pieces = [
        Piece("oil", 0.55, "fat", "oil"),
        Piece("something long", 0.1, "body", "long"),
        Piece("another that is long", 0.1, "acid", "long"),
        Piece("salt", 0.004, "salt", "salt"),
        Piece("herb", 0.0078125, "herb", "of the least width"),
        Piece("water", 0.2381875, "water", "water"),
    ]
    yield "roles", role_bar(pieces, "roles")
    yield "roles, one too small", role_bar([Piece("salt", 0.001, "salt", "salt")], "roles")
    just = Piece("lemon juice", (7.6 * 11 + 12) / 640, "acid", "its name just fits")
    yield (
        "roles, a name that just fits",
        role_bar([just, Piece("oil", 1 - just.share, "fat", "oil")], "roles"),
    )


def _of_figures() -> Iterator[tuple[str, Markup]]:
    yield "rungs, free", rungs(Figure(50, 40, 65), 80, (), "free", "free")
    yield (
        "rungs, between",
        rungs(Figure(50, 49.9, 50.1), 20, ((60, MOST), (10, LEAST)), "meets", "between", True),
    )
    yield "rungs, nothing", rungs(Figure(0, 0, 0), 0, ((0, LEAST),), "misses", "nothing")
    yield (
        "rungs, limits crossed",
        rungs(Figure(5, 4, 6), 5, ((3, MOST), (8, LEAST)), "misses", "crossed"),
    )
    yield "ribbon", ribbon(10, 8, 14, 40, "acid", "ribbon")
    yield "ribbon, nothing", ribbon(0, 0, 0, 40, "acid", "nothing")
    yield "ribbon, of nothing", ribbon(5, 4, 6, 0, "acid", "of nothing")
    yield "ribbon, least", ribbon(0.01, 0, 100, 40, "acid", "least")
    marks = [
        Mark("A", 0.5, 410.0, "/a", "first"),
        Mark("", 1.0, 380.0, "/b", "second"),
        Mark("B", 1.0, 400.0, "/c", "beaten"),
        Mark("", 3.0, 380.0, "/d", "no better"),
    ]
    start = Mark("", 0.0, 520.0, "", "as it stands")
    yield "front, at most", front_picture(marks, start, 400, True, "Sodium", "mg", "front")
    yield "front, at least", front_picture(marks, start, 400, False, "Fiber", "g", "front")
    yield (
        "front, one place",
        front_picture([], Mark("", 4.0, 2.0, "", "now"), 2.0, False, "Fiber", "g", "front"),
    )
    oil = Lane(
        "Fat",
        "g",
        (9, 8, 7.5),
        (8, 7, 7),
        (10, 9, 8),
        ((8.5, MOST), (2, LEAST)),
        (False, True, True),
        1,
    )
    free = Lane(
        "Cost",
        "money",
        (0.0, 0.0, 0.0),
        (0.0, 0.0, 0.0),
        (0.0, 0.0, 0.0),
        (),
        (True, True, True),
        2,
    )
    tastes = [
        TasteLine("sour", (0, 0.5, 1.0)),
        TasteLine("salty", (0, -3.0, -6.0)),
        TasteLine("rich", (0, 0.6, 0.9)),
    ]
    shares = ("1 : 1", "1 : 2", "1 : 3")
    yield (
        "ratio",
        ratio_chart([oil, free], tastes, shares, [(0, 0), (1, 2)], "meets all", 1, "ratio"),
    )
    one = Lane("Fat", "g", (9,), (8,), (10,), (), (True,), 0)
    yield "ratio, one step", ratio_chart([one], [], ("1 : 1",), [], "", 0, "one step")
    many = tuple(float(n) for n in range(20))
    long = Lane("Fat", "g", many, many, many, ((7.0, LEAST),), (True,) * 20, 1)
    yield (
        "ratio, many steps",
        ratio_chart([long], [], tuple(str(n) for n in range(20)), [(3, 9)], "good", 19, "many"),
    )
    answers = [
        Answered(8, 12, 10),
        Answered(1, 2, 10),
        Answered(20, 100, 10),
        Answered(0, 0, 0),
        Answered(1, 2, 0),
    ]
    yield "ranges", ranges_picture(answers)


def _of_rounds() -> Iterator[tuple[str, Markup]]:
    right = [(3, True), (1, False), (2, True), (4, False)]
    yield "panel", panel_picture(right, 4, 4 / 3, "panel")
    yield "panel, more needed than came", panel_picture(right, 5, 2, "panel")
    yield "panel, nobody", panel_picture([], None, 0, "nobody")
    said = {
        1: {"A": 5.0, "B": 3.0, "C": 3.0},
        2: {"A": 2.0, "B": 2.0, "C": 2.0},
        3: {"A": 1.0, "B": 4.0, "C": 5.0},
    }
    yield "scores", scores_picture(said, 5, "scores")
    yield "scores, one point", scores_picture({1: {"A": 1.0, "B": 1.0}}, 1, "one point")
    rounds = [
        foretold(1, 1.5, (1.0, 0.5, 1.6)),
        foretold(2, -1.5, (0.2, -0.4, 0.9)),
        foretold(3, 7.0, (4.0, 2.0, 5.0)),
    ]
    yield "foretold", foretold_chart(rounds, "foretold")
    readings = [
        reading(0, 70),
        reading(10, 60),
        reading(50, 35.5),
        reading(100, None),
        reading(130, 20),
        reading(300, -2),
    ]
    yield "cooling", cooling_curve(readings, "cooling")
    yield "cooling, long after", cooling_curve([reading(0, 40), reading(600, 95)], "long after")
    yield "cooling, no reading", cooling_curve([reading(0, None)], "none")


def _of_kitchens() -> Iterator[tuple[str, Markup]]:
    yield (
        "day",
        lanes(
            placed(1, 487, 10, 60 + 487, 0, "oven"),
            placed(2, 500, 4, 504, 1, "oven"),
            placed(3, 547, 20, 567, 0, "burner"),
            placed(4, 547, 1, 548, 1, "oven"),
            placed(5, 570, 30, 600, 0),
        ),
    )
    yield "day, nothing to do", lanes(cooks=1)
    for hours in (2.5, 2.75, 6, 6.25, 15, 15.25):
        yield (
            f"day of {hours:g} hours",
            lanes(placed(1, int(EATEN - hours * 60), 15, EATEN - 30, 0), eaten=EATEN),
        )
    for unit, count in (("cup", 1.5), ("tbsp", 2.25), ("tsp", 1.0), ("tsp", 0.01)):
        yield f"{count:g} {unit}", measure_picture(unit, count) or Markup("")
    yield "ring sheet", ring_sheet()


def strand(line: str, operations: tuple[int, ...], thickness: float, **said: bool) -> Strand:
    way = Way(
        line,
        operations,
        0.5 if said.get("forks") else 1.0,
        said.get("forks", False),
        said.get("ends", False),
    )
    name = "" if way.forks else f"{line}, {'a very long name' if thickness == 1 else 'short'}"
    return Strand(
        way,
        line,
        name,
        "" if way.ends else "120 g",
        "#a1b2c3",
        thickness,
        dict.fromkeys(operations, 1.0),
    )


def _of_methods() -> Iterator[tuple[str, Markup]]:
    ring = partial(Ring, time="")
    rings = [
        Ring(0, "prepare", "", ()),
        Ring(1, "heat", "20–30 min", (0,)),
        ring(2, "merge", after=(1,)),
    ]
    strands = [
        strand("beets", (1, 2), 1.0),
        strand("salt", (1, 2), 0.01),
        strand("oil", (2,), 0.3),
        strand("oil", (2, 3), 0.3, forks=True, ends=True),
        strand("cumin", (), 0.02),
    ]
    rings.append(ring(3, "part", after=(2,)))
    falls = [
        Fall(3, 3, "oil: 50% kept back"),
        Fall(0, 1, "beets: 12% lost"),
        Fall(1, 1, "salt: 5% poured off"),
    ]
    yield (
        "method, an oven above, oil that is kept, cumin nobody names",
        method_picture(strands, rings, falls, "work"),
    )
    alone = [strand("mint", (0,), 1.0)]
    yield "method of one step", method_picture(alone, [Ring(0, "unread", "", ())], [], "work")
    yield (
        "method no step of which is about a line",
        method_picture([strand("mint", (), 1.0)], [], [], "work"),
    )
    many = [ring(n, "wait", after=(n - 1,) if n else ()) for n in range(24)]
    yield (
        "method of many steps",
        method_picture([strand("mint", tuple(range(24)), 1.0)], many, [], "work"),
    )


def document() -> str:
    """Every drawing under its name, one element to a line."""
    return "".join(
        f"# {name}\n{str(drawn).replace('><', '>' + chr(10) + '<')}\n\n"
        for name, drawn in drawings()
    )


def main() -> int:
    DRAWN.write_text(document(), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
