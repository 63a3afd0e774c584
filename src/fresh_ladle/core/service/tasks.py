"""The tasks of one dish at the size it is made: from its method as it was read, and what its lines
say is done to them.

What a task waits for is what made the things it is done to (`core/method`); what a line says is
done to it before comes before the first task on that line."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import ceil

from fresh_ladle.core.catalogue.kitchen_work import CookingTime, KitchenWork, WorkVerb
from fresh_ladle.core.cautions.reach import Reach
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.method.lexicon import VerbClass
from fresh_ladle.core.method.process import Operation
from fresh_ladle.core.method.read import UNREAD
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.dishes import DIPS
from fresh_ladle.core.service.fillings import batch_millilitres, fillings
from fresh_ladle.core.service.naming import changed_words, names_of_lines
from fresh_ladle.core.service.preparing import Before, cooked_by_no_step, prepared
from fresh_ladle.core.service.task import LAST_MINUTES, Kitchen, Task, line_of
from fresh_ladle.core.service.usual import usual_work
from fresh_ladle.core.service.verbs import (
    BURNER_VERBS,
    CHILLING,
    COOLING,
    HEATING,
    MERGING,
    NO_TASK,
    OVEN_VERBS,
    SPRINKLING,
    STEEPING,
    equipment_of,
)
from fresh_ladle.core.service.windows import with_windows
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import listed

_LAST_MOMENT = re.compile(
    r"\b(?:just before (?:serving|it is served)|as it (?:goes out|is served)|at the last"
    r" (?:moment|minute)|"
    r"at the table|to serve)\b",
    re.I,
)
TRAY_KG = 1.0
"""Kilograms of cut vegetables on one tray, in one layer (grade C)."""
OUT_MINUTES, OUT_FROM_MINUTES = 20, 60
"""A chilled dip stands out so long before it is eaten, and is taken out so long before at the
earliest."""
POT_KG = 6.0
"""Kilograms, as weighed in, that boil in one large pot (grade C)."""
WORK_NOT_UNDERSTOOD = WorkVerb(UNREAD, 2.0, 1.0, Range(0.0, 0.0, 0.0), False, None, Grade.C)
"""What a step takes that was not understood, where it says no time (estimate)."""


@dataclass(frozen=True, slots=True)
class _Step:
    """Work to be laid out as a task: what it is done to (`worked_on`, with the share of each line),
    the lines it is shown with, and the tasks it waits for."""

    text: str
    verb: str
    lines: tuple[str, ...]
    worked_on: Mapping[str, Range]
    after: tuple[int, ...]
    minutes: Range | None = None
    celsius: float | None = None
    reach: tuple[Reach, ...] = ()


@dataclass
class _Bench:
    """Tasks as they are laid out; `of_operation` are their ids by that of the operation."""

    appraisal: Appraisal
    factor: float
    work: KitchenWork
    kitchen: Kitchen
    first_id: int
    former: Mapping[str, str]
    waits: Mapping[str, int]
    found: list[Task] = field(default_factory=list)
    of_operation: dict[int, tuple[int, ...]] = field(default_factory=dict)
    before_line: dict[str, int] = field(default_factory=dict)

    def kilograms(self, worked_on: Mapping[str, Range]) -> float:
        """What is really handled: of each line the share that is in it."""
        grams = sum(
            p.measured.value * worked_on[line_of(p)].value
            for p in self.appraisal.portions
            if line_of(p) in worked_on and p.known
        )
        return grams * self.factor / 1000

    def add(self, task: Task) -> int:
        self.found.append(replace(task, id=self.first_id + len(self.found)))
        return self.found[-1].id


_ALL_OF_IT = Range(1.0, 1.0, 1.0)


def dish_tasks(
    appraisal: Appraisal,
    factor: float,
    work: KitchenWork,
    kitchen: Kitchen,
    first_id: int = 0,
    former: Mapping[str, str] | None = None,
    waits: Mapping[str, int] | None = None,
) -> list[Task]:
    """All tasks of a dish made `factor` times its recipe, each after those it waits for. Ids count
    from `first_id`; `former` are the names of lines, by id, that the words of the method may still
    use: swapped since, or taken out; `waits` the minutes that steps, by their words, were timed to
    go on by themselves."""
    bench = _Bench(appraisal, factor, work, kitchen, first_id, former or {}, waits or {})
    operations = [o for o in appraisal.process.operations if not _is_portioning(o)]
    heated = {line for o in operations if o.verb in HEATING for line in o.lines}
    for before in (
        *prepared(appraisal.portions, operations),
        *cooked_by_no_step(appraisal.portions, heated),
    ):
        _lay_before(bench, before)
    for place, operation in enumerate(operations):
        _lay(bench, operation, operations[place + 1] if place + 1 < len(operations) else None)
    if appraisal.recipe.method:
        _add_what_no_step_names(bench, operations)
    else:
        _add_usual_work(bench)
    _finish(bench)
    return with_windows(bench.found, appraisal, work)


def _is_portioning(operation: Operation) -> bool:
    """A method ends with "and serve": that is the dish going into its bowls, which every dish ends
    with anyway."""
    serves = re.match(r"(?:and |to )?serve\b", operation.text, re.I) is not None
    return operation.verb in ("plate", "serve") and serves and not operation.named


def _lay_before(bench: _Bench, before: Before) -> None:
    """Adds the task of what a line says, after what was done to that line so."""
    after = (bench.before_line[before.line],) if before.line in bench.before_line else ()
    step = _Step(before.text, before.verb, (before.line,), {before.line: _ALL_OF_IT}, after)
    bench.before_line[before.line] = bench.add(_task(bench, step, bench.work.verb(before.verb)))


def _lay(bench: _Bench, operation: Operation, following: Operation | None) -> None:
    """Adds the task of an operation, after those of what it waits for."""
    after = {task for before in operation.after for task in bench.of_operation.get(before, ())}
    after |= {bench.before_line[line] for line in operation.lines if line in bench.before_line}
    if operation.verb in NO_TASK:
        bench.of_operation[operation.id] = tuple(sorted(after))
        return
    if operation.verb in OVEN_VERBS - {"preheat"}:
        after |= _hot_oven(bench, operation)
    verb = WORK_NOT_UNDERSTOOD if operation.verb == UNREAD else bench.work.verb(operation.verb)
    if following is not None and _waits_in_the_next(operation, following):
        verb = replace(verb, waiting=Range(0.0, 0.0, 0.0))
    named = {line: share for line, share in operation.lines.items() if line in operation.named}
    # What is cut or sprinkled into a bowl is worked on alone, not all that is in there.
    alone = named and (operation.verb in SPRINKLING or operation.kind is VerbClass.PREPARE)
    step = _Step(
        operation.text,
        operation.verb,
        tuple(sorted(operation.lines)),
        named if alone else operation.lines,
        tuple(sorted(after)),
        operation.minutes,
        operation.celsius,
        bench.appraisal.reach.get(operation.id, ()),
    )
    bench.of_operation[operation.id] = (bench.add(_task(bench, step, verb)),)


def _hot_oven(bench: _Bench, operation: Operation) -> set[int]:
    """The task that heats the oven: put in where no step does."""
    hot = {task.id for task in bench.found if task.verb == "preheat"}
    if hot:
        return hot
    step = _Step("Heat the oven", "preheat", (), {}, (), None, operation.celsius)
    return {bench.add(_task(bench, step, bench.work.verb("preheat")))}


def _waits_in_the_next(operation: Operation, following: Operation) -> bool:
    """ "Salt them and let them stand 10 minutes" waits once: as long as the rest says."""
    rests = following.verb in ("rest", "soak", "chill") and operation.id in following.after
    return rests and operation.verb in STEEPING and operation.minutes is None


def _add_usual_work(bench: _Bench) -> None:
    """The work that is usual for the kind of dish, where there is no method."""
    before: tuple[int, ...] = ()
    for usual in usual_work(bench.appraisal.recipe.kind, bench.appraisal.portions):
        prepared_before = [
            bench.before_line[line] for line in usual.lines if line in bench.before_line
        ]
        after = tuple(sorted({*before, *prepared_before}))
        step = _Step(
            usual.text,
            usual.verb,
            tuple(sorted(usual.lines)),
            dict.fromkeys(usual.lines, _ALL_OF_IT),
            after,
        )
        before = (bench.add(_task(bench, step, bench.work.verb(usual.verb))),)


def _add_what_no_step_names(bench: _Bench, operations: Sequence[Operation]) -> None:
    """Lines that no step brings in go in last: the method was written before they were."""
    named = {line for operation in operations for line in (*operation.lines, *operation.named)}
    missing = [
        p
        for p in bench.appraisal.portions
        if p.known
        and p.food is not None
        and line_of(p) not in named
        and p.measured.value > 0
        and p.food.key != "water"
    ]
    mixes = [o for o in operations if o.verb in MERGING and o.id in bench.of_operation]
    if missing and mixes:
        lines = tuple(dict.fromkeys(line_of(p) for p in missing))
        names = listed([p.line.named or (p.food.kitchen_name if p.food else "") for p in missing])
        text = f"Stir in {names}: no step of the method names {'it' if len(lines) == 1 else 'them'}"
        before = [bench.before_line[line] for line in lines if line in bench.before_line]
        after = tuple(sorted({*bench.of_operation[mixes[-1].id], *before}))
        whole = {*lines, *mixes[-1].lines}
        step = _Step(text, "stir", tuple(sorted(whole)), dict.fromkeys(whole, _ALL_OF_IT), after)
        bench.add(_task(bench, step, bench.work.verb("stir")))


def _task(bench: _Bench, step: _Step, verb: WorkVerb) -> Task:
    kilograms = bench.kilograms(step.worked_on)
    uses = equipment_of(step.verb, step.text)
    hot = _is_hot(step.worked_on, bench.found)
    batches, demand = _fillings(bench, uses, kilograms, tuple(step.worked_on), hot)
    usual = batches * verb.active_fixed + verb.active_per_kg * kilograms
    active, waiting = _minutes(
        bench, step, verb, usual * verb.pace, batches if uses == "oven" else 1
    )
    waits = verb.waiting.value > 0
    known_wait = bench.waits.get(step.text) if waits else None
    return Task(
        0,
        bench.appraisal.recipe.title,
        _component(bench, step.lines),
        step.text,
        step.verb,
        step.lines,
        max(1, ceil(active - 1e-9)),
        ceil((waiting if known_wait is None else known_wait) - 1e-9),
        verb.attended,
        uses,
        _heat(bench, step, verb) if uses == "oven" else step.celsius,
        step.after,
        step.minutes is not None or known_wait is not None,
        batches,
        demand,
        LAST_MINUTES if _LAST_MOMENT.search(step.text) else None,
        changed=changed_words(step.text, names_of_lines(bench.appraisal.portions), bench.former),
        hot=hot,
        usual=0.0 if step.minutes is not None and not waits else usual,
        timed=verb.timed,
        reach=step.reach,
    )


def _minutes(
    bench: _Bench, step: _Step, verb: WorkVerb, active: float, loads: int
) -> tuple[float, float]:
    """Minutes of hands, and minutes that pass by themselves: as said, else as the food takes, else
    as is usual."""
    said = step.minutes
    if verb.waiting.value <= 0 or (said is not None and step.verb == "massage"):
        return max(active, said.value * loads if said is not None else 0.0), 0.0
    slowest = _slowest(bench, step)
    return active, (said or (slowest.minutes if slowest else verb.waiting)).value * loads


def _heat(bench: _Bench, step: _Step, verb: WorkVerb) -> float | None:
    """What is said of it, else what the oven was heated to, else what is usual for the food, or the
    verb."""
    heated = next((t.celsius for t in reversed(bench.found) if t.verb == "preheat"), None)
    slowest = _slowest(bench, step)
    return (
        step.celsius or heated or (slowest.celsius if slowest is not None else None) or verb.celsius
    )


def _slowest(bench: _Bench, step: _Step) -> CookingTime | None:
    """What is known of a verb on that of its foods which takes longest; None where no food has a
    time."""
    foods = [
        p.food
        for p in bench.appraisal.portions
        if line_of(p) in step.worked_on and p.food is not None
    ]
    known = [t for food in foods if (t := bench.work.time_of(step.verb, food)) is not None]
    return max(known, key=lambda t: t.minutes.value, default=None)


def _is_hot(lines: Iterable[str], before: Sequence[Task]) -> bool:
    """Whether something of these lines was cooked and not cooled since."""
    hot, about = set[str](), set(lines)
    for earlier in before:
        if earlier.verb in BURNER_VERBS | OVEN_VERBS:
            hot |= about & set(earlier.lines)
        elif earlier.verb in COOLING:
            hot -= set(earlier.lines)
    return bool(hot)


def _fillings(
    bench: _Bench, uses: str, kilograms: float, lines: Sequence[str], hot: bool
) -> tuple[int, int]:
    """How many fillings of the equipment it takes, and how much of it each holds."""
    if uses == "oven":
        trays = max(1, ceil(kilograms / TRAY_KG))
        return ceil(trays / bench.kitchen.trays), min(trays, bench.kitchen.trays)
    if uses == "burner":
        return 1, max(1, min(bench.kitchen.burners, ceil(kilograms / POT_KG)))
    if uses == "blender" and bench.kitchen.blender_ml > 0:
        inside = [p for p in bench.appraisal.portions if line_of(p) in lines and p.known]
        return fillings(batch_millilitres(inside, bench.factor), bench.kitchen.blender_ml, hot), 1
    return 1, 1


def _component(bench: _Bench, lines: Sequence[str]) -> str:
    names: Mapping[str, str] = {line.id: line.component for line in bench.appraisal.recipe.lines}
    found = {names[line] for line in lines if line in names}
    return found.pop() if len(found) == 1 else ""


def _taken_out(bench: _Bench, ends: tuple[int, ...], text: str) -> tuple[int, ...]:
    """A chilled dip stands out before what is done to it at the last moment. Returns what is done
    last then."""
    at_last = {task.id for task in bench.found if task.from_minutes is not None}
    lines = tuple(line.id for line in bench.appraisal.recipe.lines)
    before = tuple(sorted({b for t in bench.found if t.id in at_last for b in t.after} - at_last))
    waits_for = tuple(dict.fromkeys((*(end for end in ends if end not in at_last), *before)))
    title = bench.appraisal.recipe.title
    out = bench.add(
        Task(0, title, "", text, "rest", lines, 1, OUT_MINUTES, False, "", None, waits_for, True,
             from_minutes=OUT_FROM_MINUTES)
    )  # fmt: skip
    bench.found = [replace(t, after=(*t.after, out)) if t.id in at_last else t for t in bench.found]
    return tuple(end for end in ends if end in at_last) or (out,)


def _finish(bench: _Bench) -> None:
    """What every dish ends with: out of the refrigerator for a dip, then into its bowls."""
    waited_for = {before for task in bench.found for before in task.after}
    ends = tuple(task.id for task in bench.found if task.id not in waited_for)
    lines = tuple(line.id for line in bench.appraisal.recipe.lines)
    title = bench.appraisal.recipe.title
    named = f"{title[:1].lower()}{title[1:]}"
    if bench.appraisal.recipe.kind in DIPS and any(task.verb in CHILLING for task in bench.found):
        ends = _taken_out(bench, ends, f"Take {named} out of the refrigerator")
    portion = bench.work.verb("portion")
    kilograms = bench.kilograms(dict.fromkeys(lines, _ALL_OF_IT))
    usual = portion.active_fixed + portion.active_per_kg * kilograms
    minutes = max(1, ceil(usual * portion.pace - 1e-9))
    text = f"Portion {named}"
    bench.add(
        Task(
            0, title, "", text, "portion", lines, minutes, 0, False, "", None, ends, False,
            usual=usual,
            timed=portion.timed,
        )
    )  # fmt: skip
