"""A method as the screen shows it: the picture of its work, the table that says the same, and what
it does to lines."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.amounts.bowl import Portion, eaten_by_method
from fresh_ladle.core.catalogue.handouts import Handouts
from fresh_ladle.core.method.clauses import Sort
from fresh_ladle.core.method.process import Fate, Operation, Said
from fresh_ladle.core.method.read import UNREAD
from fresh_ladle.core.method.states import DONE_BY
from fresh_ladle.core.method.ways import Leaving, Way, leavings, ways_of
from fresh_ladle.core.nutrients.wording import grams_text, oven_heat
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.naming import names_of_lines
from fresh_ladle.core.service.steps import method_steps, reach_words
from fresh_ladle.core.service.task import line_of
from fresh_ladle.core.service.times import stretch_words
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.web.shared.drawings.method_picture import Fall, Ring, Strand, method_picture

WAYS = {
    Fate.TAKEN_UP: "taken up by the grain",
    Fate.POURED_OFF: "poured off",
    Fate.LEFT_ON_METAL: "left in tray or pan",
    Fate.THROWN_AWAY: "thrown away",
    Fate.KEPT: "kept back",
}
"""What becomes of what is not simply eaten, in three words."""
_SORT_WORDS = {
    Sort.WORK: "work",
    Sort.CONDITION: "only if",
    Sort.ADVICE: "advice",
    Sort.NOTE: "no work",
    Sort.UNREAD: "not understood",
}
_ALL_OF_IT, _NEAR = 0.995, 0.01
_PARTS = ((0.5, "half of"), (1 / 3, "a third of"), (2 / 3, "two thirds of"), (0.25, "a quarter of"))


@dataclass(frozen=True, slots=True)
class StepView:
    """One step: its words, what was read of it as short marks, the names of its lines, and what no
    longer fits."""

    text: str
    marks: tuple[str, ...]
    names: tuple[str, ...]
    changed: str
    read: bool


@dataclass(frozen=True, slots=True)
class WorkRow:
    """One clause of a method in the table. `operation` is its id, None where it is no work; `nth`
    which of the clauses with these words it is; `ruled` what a person has said that it is, and of
    which lines; `opens` whether a step begins with it."""

    place: int
    text: str
    nth: int
    sort: str
    operation: int | None
    done_to: tuple[str, ...]
    lines: tuple[str, ...]
    marks: tuple[str, ...]
    after: tuple[int, ...]
    leaves: tuple[str, ...]
    ruled: str
    ruled_lines: tuple[str, ...]
    opens: bool
    changed: str = ""

    @property
    def number(self) -> str:
        return "" if self.operation is None else str(self.operation + 1)


@dataclass(frozen=True, slots=True)
class LeavingView:
    """What leaves a line by the method: `words` say how much and how, `eaten` is the share of the
    line that counts as eaten, in percent; `told` whether that is what somebody says, and not the
    method."""

    line: str
    name: str
    words: str
    step: str
    eaten: str
    told: bool


@dataclass(frozen=True, slots=True)
class WorkView:
    """The work of a method. `lines` are ids and names of all lines, for telling what a step is done
    to; `untouched` the names of those no step is about; `unused` the words of steps whose product
    goes nowhere."""

    picture: Markup
    rows: tuple[WorkRow, ...]
    leaves: tuple[LeavingView, ...]
    lines: tuple[tuple[str, str], ...]
    untouched: str
    unused: tuple[str, ...]
    not_understood: int

    def ways_of(self, line: str) -> str:
        """The ids of the operations a line goes through, with blanks between."""
        return " ".join(str(row.operation) for row in self.rows if line in row.lines)


def step_views(dish: Appraisal, former: Mapping[str, str] | None = None) -> list[StepView]:
    """The steps in their order; `former` are the names that lines had before, by id."""
    return [
        StepView(
            step.text,
            (
                *step.times,
                *(oven_heat(celsius) for celsius in step.celsius),
                *step.uses,
                *map(reach_words, step.reach),
            ),
            step.names,
            step.changed,
            step.read,
        )
        for step in method_steps(dish, former)
    ]


def work_view(
    dish: Appraisal, handouts: Handouts, former: Mapping[str, str] | None = None
) -> WorkView:
    """The work of a dish that has a method. `handouts` know the colors of foods, `former` are the
    names that lines had before, by id."""
    process, names = dish.process, names_of_lines(dish.portions)
    lines = [line.id for line in dish.recipe.lines if line.id in names]
    own = {line.id for line in dish.recipe.lines if line.batch is None}
    ways, leaving = ways_of(process, lines), [one for one in leavings(process) if one.line in own]
    by_method = [one for one in leaving if not _told(dish.portion(one.line))]
    gone = [_Gone(one.line, one.operation, leaving_words(one)) for one in by_method] + _lost(dish)
    return WorkView(
        _picture(dish, ways, gone, handouts),
        _rows(dish, names, gone, former or {}),
        tuple(_leaving_view(one, names, dish) for one in leaving),
        tuple((line, names[line]) for line in lines),
        listed([names[way.line] for way in ways if not way.operations]),
        tuple(process.operations[o].text for o in process.unused),
        sum(said.sort is Sort.UNREAD for said in process.said),
    )


@dataclass(frozen=True, slots=True)
class _Gone:
    """What goes from a line at an operation, in words; None where no step says it."""

    line: str
    operation: int | None
    words: str


def _lost(dish: Appraisal) -> list[_Gone]:
    """What leaves a line as peel, bone or water, where an operation does that."""
    found = []
    for portion in dish.portions:
        for preparation in portion.preparations:
            verbs, line = DONE_BY.get(preparation.id, frozenset()), portion.line.id
            by = next(
                (o.id for o in dish.process.operations if o.verb in verbs and line in o.lines), None
            )
            if by is not None and preparation.weight.value < 1 and not portion.batch_line:
                found.append(
                    _Gone(line, by, f"{1 - preparation.weight.value:.0%} lost, {preparation.label}")
                )
    return found


def work_row(dish: Appraisal, place: int) -> WorkRow:
    """The row of the table at a place. Raises RecipeError where the method does not go on so
    far."""
    if place >= len(dish.process.said):
        raise RecipeError("the method does not go on so far")
    return _rows(dish, names_of_lines(dish.portions), (), {})[place]


def _leaving_view(one: Leaving, names: Mapping[str, str], dish: Appraisal) -> LeavingView:
    step = dish.process.operations[one.operation].text if one.operation is not None else ""
    told = _told(dish.portion(one.line))
    eaten = (
        dish.recipe.line(one.line).eaten if told else dish.process.outcomes[one.line].eaten.value
    )
    return LeavingView(
        one.line,
        names.get(one.line, one.line),
        leaving_words(one),
        step,
        f"{eaten * 100:.3g}",
        told,
    )


def _told(portion: Portion) -> bool:
    """Whether the line itself, or a person, says how much of it is eaten."""
    return not eaten_by_method(portion.line, portion.preparations)


def leaving_words(one: Leaving) -> str:
    """`65% poured off`."""
    return f"{one.share * 100:.0f}% {WAYS[one.fate]}"


# -- the table


def _rows(
    dish: Appraisal, names: Mapping[str, str], gone: Sequence[_Gone], former: Mapping[str, str]
) -> tuple[WorkRow, ...]:
    process, seen = dish.process, Counter[str]()
    changed = {number: step.changed for number, step in enumerate(method_steps(dish, former))}
    found = []
    for place, said in enumerate(process.said):
        nth = seen[said.text]
        seen[said.text] += 1
        opens = place == 0 or process.said[place - 1].step != said.step
        operation = process.operations[said.operation] if said.operation is not None else None
        ruling = next((r for r in dish.recipe.rulings if r.is_of(said.text, nth)), None)
        found.append(
            WorkRow(
                place,
                said.text,
                nth,
                _sort_words(said, operation),
                said.operation,
                _done_to(operation, names),
                tuple(x for x in operation.lines if x in names) if operation else (),
                _marks(operation, dish),
                tuple(a + 1 for a in operation.after) if operation else (),
                tuple(
                    f"{names.get(one.line, one.line)}: {one.words}"
                    for one in gone
                    if operation is not None and one.operation == operation.id
                ),
                ruling.read_as.value if ruling is not None else "",
                ruling.lines if ruling is not None else (),
                opens,
                changed.get(said.step, "") if opens else "",
            )
        )
    return tuple(found)


def _sort_words(said: Said, operation: Operation | None) -> str:
    return (
        operation.kind.value
        if operation is not None and said.sort is Sort.WORK
        else _SORT_WORDS[said.sort]
    )


def _done_to(operation: Operation | None, names: Mapping[str, str]) -> tuple[str, ...]:
    """The names of what an operation speaks of, with the share where it is not all of it, and what
    it goes on with."""
    if operation is None:
        return ()
    goes_on = [str(before + 1) for before in operation.after]
    spoken = [
        line
        for line in operation.lines
        if line in names and (line in operation.named or not goes_on)
    ]
    said = tuple(
        names[line]
        if (share := operation.lines[line].value) >= _ALL_OF_IT
        else f"{share_words(share)} {names[line]}"
        for line in spoken
    )
    others = len(spoken) < len(operation.lines) and goes_on
    return (*said, f"what {listed(goes_on)} made") if others else said


def _marks(operation: Operation | None, dish: Appraisal) -> tuple[str, ...]:
    """The time and the heat that are said of an operation, and what it must reach."""
    if operation is None:
        return ()
    time = (stretch_words(operation.minutes),) if operation.minutes is not None else ()
    heat = (oven_heat(operation.celsius),) if operation.celsius is not None else ()
    return (*time, *heat, *(reach_words(reach.words) for reach in dish.reach.get(operation.id, ())))


# -- the picture


def _picture(
    dish: Appraisal, ways: Sequence[Way], gone: Sequence[_Gone], handouts: Handouts
) -> Markup:
    process = dish.process
    strands = _strands(dish, ways, handouts)
    rings = [
        Ring(
            o.id,
            "unread" if o.verb == UNREAD else o.kind.value,
            stretch_words(o.minutes).replace(" to ", "–") if o.minutes is not None else "",
            o.after,
        )
        for o in process.operations
    ]
    falls = _falls(gone, strands)
    title = f"The work of {dish.recipe.title}: {len(rings)} steps; the table below says the same"
    return method_picture(strands, rings, falls, title)


def _strands(dish: Appraisal, ways: Sequence[Way], handouts: Handouts) -> list[Strand]:
    """The ways with their names, colors and grams. What is eaten of a line stands at the largest of
    its ways."""
    of_line = {line_of(p): p for p in reversed(dish.portions)}
    grams, in_bowl = dict.fromkeys(of_line, 0.0), dict.fromkeys(of_line, 0.0)
    for p in dish.portions:
        if p.known:
            grams[line_of(p)] += p.measured.value
            in_bowl[line_of(p)] += p.in_bowl.value
    most = max(grams.values(), default=0.0) or 1.0
    names, process = names_of_lines(dish.portions), dish.process
    largest = {
        w.line: max((x.share, not x.ends, -n) for n, x in enumerate(ways) if x.line == w.line)
        for w in ways
    }
    found = []
    for place, way in enumerate(ways):
        portion = of_line[way.line]
        whole = way.share >= _ALL_OF_IT
        said = (
            ""
            if way.forks
            else names[way.line]
            if whole
            else f"{share_words(way.share)} {names[way.line]}"
        )
        here = not way.ends and (way.share, True, -place) == largest[way.line]
        shares = {
            o: min(way.share, process.operations[o].lines[way.line].value) for o in way.operations
        }
        taken_up = (
            Fate.TAKEN_UP in process.outcomes[way.line].fates
            if way.line in process.outcomes
            else False
        )
        eaten = (
            "in the grain"
            if taken_up
            else grams_text(Range.exact(in_bowl[way.line]))
            if portion.known
            else "? g"
        )
        color = handouts.color_of(portion.food)
        found.append(
            Strand(
                way,
                names[way.line],
                said,
                eaten if here else "",
                color,
                grams[way.line] / most,
                shares,
            )
        )
    return found


def _falls(gone: Sequence[_Gone], strands: Sequence[Strand]) -> list[Fall]:
    """What leaves, each on the way of its line through that operation; what leaves alike falls
    together."""
    together: dict[tuple[int, str], list[int]] = {}
    for one in gone:
        own = [n for n, s in enumerate(strands) if s.way.line == one.line and s.way.operations]
        place = next(
            (n for n in own if one.operation in strands[n].way.operations), own[0] if own else None
        )
        if place is not None:
            there = one.operation if one.operation in strands[place].way.operations else None
            operation = strands[place].way.operations[-1] if there is None else there
            together.setdefault((operation, one.words), []).append(place)
    return [
        Fall(places[0], operation, f"{listed([strands[n].food for n in places])}: {words}")
        for (operation, words), places in together.items()
    ]


def share_words(share: float) -> str:
    """`half of`, `a third of`, `40% of`."""
    near = next((words for part, words in _PARTS if abs(share - part) < _NEAR), None)
    return near or f"{share:.0%} of"
