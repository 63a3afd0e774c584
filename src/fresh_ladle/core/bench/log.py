"""The log of one bowl: what went in and when, what was struck out, and the recipe it makes in
kitchen measures."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.plans.ladder import Rung, rungs_of_food
from fresh_ladle.core.recipes.recipe import Line, Recipe

CLOSE_ENOUGH = 0.08
"""Share by which a kitchen measure may differ from what was spooned in; else it is told in
grams."""
WEIGHED_CLOSE = 0.02
"""The same where it was weighed: who has a scale can be exact."""


@dataclass(frozen=True, slots=True)
class BenchEvent:
    """One thing that went in. `struck` when it was entered by mistake: it stays readable and counts
    for nothing."""

    seq: int
    at: str
    text: str
    line: Line
    struck: bool = False


@dataclass(frozen=True, slots=True)
class BenchLog:
    """One bowl. `base` is the recipe it began from; with `full` all its measured lines were in at
    the start, else the bowl was empty."""

    base: Recipe
    full: bool
    events: tuple[BenchEvent, ...] = ()

    @property
    def counted(self) -> tuple[BenchEvent, ...]:
        return tuple(e for e in self.events if not e.struck)

    @property
    def start(self) -> Recipe:
        """The bowl before anything was said to go in: without what is only seasoned to taste."""
        return replace(
            self.base, lines=tuple(x for x in self.base.lines if x.amount) if self.full else ()
        )

    def bowl(self, upto: int | None = None) -> Recipe:
        """What is in the bowl, or was after the event numbered `upto`."""
        lines = [_as_line(e) for e in self.counted if upto is None or e.seq <= upto]
        return replace(self.start, lines=(*self.start.lines, *lines))


def _as_line(event: BenchEvent) -> Line:
    return replace(event.line, id=f"b{event.seq}", component="")


def totals_of(log: BenchLog, knowledge: Knowledge) -> dict[str, float]:
    """Grams of each food that went in by the log alone, by food key: what "to taste" was."""
    found: dict[str, float] = {}
    recipe = replace(log.base, lines=tuple(_as_line(e) for e in log.counted), method=())
    for portion in portions(
        recipe, knowledge.pantry, knowledge.preparations, knowledge.ambiguities
    ):
        if portion.food is not None:
            found[portion.food.key] = found.get(portion.food.key, 0.0) + portion.measured.value
    return found


def folded(log: BenchLog, knowledge: Knowledge) -> Recipe:
    """The recipe that the bowl is: what went in is added to the line of its food, in kitchen
    measures; a food that has no line gets one, and what was only "to taste" gets the amount that
    went in. Lines that never went in are left out where the bowl began empty."""
    bowl = log.bowl()
    weighed = portions(bowl, knowledge.pantry, knowledge.preparations, knowledge.ambiguities)
    grams = {p.line.id: p.measured.value for p in weighed if p.known and not p.batch_line}
    # What lies on top tastes otherwise, and what was prepared is not the same: each keeps a line of
    # its own.
    alike: dict[Sameness, list[BenchEvent]] = {}
    for event in log.counted:
        alike.setdefault(_sameness(event.line), []).append(event)
    lines: list[Line] = []
    for line in log.base.lines:
        events = alike.pop(_sameness(line), []) if line.batch is None else []
        if events:
            lines.append(_with_more(line, events, grams, log.full, knowledge))
        elif log.full:
            lines.append(line)
    lines += [_new_line(events, grams, knowledge) for events in alike.values()]
    fresh = iter(log.base.fresh_ids(len(lines)))
    known = {x.id for x in log.base.lines}
    return replace(
        log.base, lines=tuple(x if x.id in known else replace(x, id=next(fresh)) for x in lines)
    )


Sameness = tuple[str | None, tuple[str, ...], tuple[str, ...]]


def _sameness(line: Line) -> Sameness:
    """What two lines share that can be told as one: the food, what was done to it, and where it
    goes."""
    return line.food, line.preparations, line.remarks


def _with_more(
    line: Line,
    events: list[BenchEvent],
    grams: Mapping[str, float],
    full: bool,
    knowledge: Knowledge,
) -> Line:
    went_in = sum(grams.get(f"b{e.seq}", 0.0) for e in events)
    if full and line.amount and line.id in grams:
        amount = amount_of(line.food, grams[line.id] + went_in, knowledge, _close(events))
    else:
        amount = (
            events[0].line.amount
            if len(events) == 1
            else amount_of(line.food, went_in, knowledge, _close(events))
        )
    text = (
        line.text.replace(line.amount, amount, 1)
        if line.amount and line.amount in line.text
        else ""
    )
    return replace(
        line,
        amount=amount,
        text=text or f"{amount} {line.named or line.text}",
        asides=frozenset(),
        settled=line.settled | {"amount"},
    )


def _new_line(events: list[BenchEvent], grams: Mapping[str, float], knowledge: Knowledge) -> Line:
    first = events[0].line
    went_in = sum(grams.get(f"b{e.seq}", 0.0) for e in events)
    amount = (
        first.amount
        if len(events) == 1
        else amount_of(first.food, went_in, knowledge, _close(events))
    )
    text = (
        first.text
        if amount == first.amount
        else ", ".join([f"{amount} {first.named}", *first.remarks])
    )
    return replace(first, id=f"b{events[0].seq}", component="", amount=amount, text=text)


def _close(events: Sequence[BenchEvent]) -> float:
    weighed = any(e.line.amount.endswith(" g") for e in events)
    return WEIGHED_CLOSE if weighed else CLOSE_ENOUGH


def amount_of(
    food_key: str | None, grams: float, knowledge: Knowledge, close: float = CLOSE_ENOUGH
) -> str:
    """Grams of a food as a cook would measure them, where a measure comes close; else as they were
    weighed."""
    food = knowledge.pantry.get(food_key)
    rungs = rungs_of_food(food) if food is not None else []
    near = min(rungs, key=lambda r: (abs(r.grams - grams), r.odd), default=None)
    if near is not None and abs(near.grams - grams) <= close * grams:
        return near.text
    if (both := _two_spoons(rungs, grams, close)) is not None:
        return both.text
    return f"{grams:.1f} g" if grams < 20 else f"{grams:.0f} g"


def _two_spoons(rungs: Sequence[Rung], grams: float, close: float) -> Rung | None:
    """Tablespoons and teaspoons together, where they come close."""
    plain = [r for r in rungs if not r.odd and " plus " not in r.text]
    large = [r for r in plain if r.unit in ("tbsp", "cup")]
    small = [r for r in plain if r.unit == "tsp"]
    pairs = [Rung(f"{a.text} plus {b.text}", a.grams + b.grams) for a in large for b in small]
    near = min(pairs, key=lambda r: abs(r.grams - grams), default=None)
    return near if near is not None and abs(near.grams - grams) <= close / 2 * grams else None
