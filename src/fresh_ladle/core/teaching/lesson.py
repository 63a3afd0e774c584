"""A class of 20 to 90 minutes: blocks that fit it, the work of the tables, and what has to be done
before.

Cooking, soaking and the oven come before the class, planned by the same engine as a service; what
is left is planned for the hands of one table. Where that is longer than the class has room for,
more is moved to before."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from fresh_ladle.core.catalogue.handouts import ClassBlock
from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.buying import (
    PackPrice,
    Purchase,
    ServiceCost,
    cost_per_serving,
    shopping,
)
from fresh_ladle.core.service.clock import Clock, hours_until
from fresh_ladle.core.service.preparing import CUTTING
from fresh_ladle.core.service.scaling import ServiceLine, service_lines
from fresh_ladle.core.service.schedule import Hours, Impossible, Placed, Schedule, schedule
from fresh_ladle.core.service.task import Kitchen, Task
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.service.windows import TABLE_MINUTES
from fresh_ladle.core.teaching.low_equipment import ByHand, by_hand
from fresh_ladle.core.whole.appraisal import Appraisal

SHORTEST, LONGEST = 20, 90
MOST_TABLES, MOST_AT_TABLE = 30, 12
HANDS = 3
"""Of a table that really work at once."""
LONG_WAIT = 8
"""Minutes on its own from which a step is done before the class."""
A_WHOLE_DAY = 24 * 60


@dataclass(frozen=True, slots=True)
class ClassAsk:
    """A class: when it begins (aware), its minutes, its tables and how many sit at each."""

    begins: datetime
    minutes: int
    tables: int
    at_table: int

    def __post_init__(self) -> None:
        for name, value, least, most in (
            ("minutes", self.minutes, SHORTEST, LONGEST),
            ("tables", self.tables, 1, MOST_TABLES),
            ("people at a table", self.at_table, 1, MOST_AT_TABLE),
        ):
            if not least <= value <= most:
                raise RecipeError(f"a class has {least} to {most} {name}; {value} were given")

    @property
    def people(self) -> int:
        return self.tables * self.at_table


@dataclass(frozen=True, slots=True)
class Part:
    """One part of the class, from a minute to a minute of it."""

    block: ClassBlock
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Lesson:
    """All of it. `table_lines` are the amounts of one table, `demo` times those are the educator's
    own; `before` is what is done earlier, on `clock`, or why that cannot be; `at_tables` the steps
    of a table with the minute of the work in which each begins; `by_hand` what stands in for
    equipment."""

    ask: ClassAsk
    parts: tuple[Part, ...]
    table_lines: tuple[ServiceLine, ...]
    sets: int
    before: Schedule | Impossible
    clock: Clock
    at_tables: tuple[Placed, ...]
    by_hand: tuple[ByHand, ...]
    shopping: tuple[Purchase, ...]
    cost: ServiceCost

    @property
    def before_placed(self) -> tuple[Placed, ...]:
        return self.before.placed if isinstance(self.before, Schedule) else ()

    @property
    def oven_on(self) -> datetime | None:
        """When the oven goes on; None where none is needed."""
        start = next((p.start for p in self.before_placed if p.task.verb == "preheat"), None)
        return None if start is None else self.clock.moment(start)


def lesson(
    dish: Appraisal,
    usual: Appraisal,
    ask: ClassAsk,
    work: KitchenWork,
    blocks: Sequence[ClassBlock],
    now: datetime,
    prices: Mapping[str, PackPrice] | None = None,
) -> Lesson:
    """Plans a class. Everybody eats a serving; the educator makes one table's amount as well.
    Raises RecipeError for one that cannot be."""
    factor, sets = ask.at_table / dish.totals.servings, ask.tables + 1
    kitchen = Kitchen(cooks=min(HANDS, ask.at_table), ovens=0, burners=0)
    tasks = dish_tasks(dish, factor, work, Kitchen())
    wanted = _wanted(dish, usual, tasks, prices)
    fixed = [block for block in blocks if block.wants == "always"]
    room = ask.minutes - sum(block.low for block in fixed if block.id != "work")
    early = _before(tasks, kitchen, room)
    at_tables = _at_tables([task for task in tasks if task.id not in early], kitchen)
    table_minutes = max((p.end for p in at_tables), default=1)
    wanted |= {"before"} if early else set()
    parts = _parts(blocks, wanted, ask.minutes, table_minutes)
    whole = dish_tasks(dish, factor * sets, work, Kitchen())
    hours, clock = hours_until(ask.begins, now)
    bought = shopping([(dish, factor * sets)], prices or {}, None, dish.recipe.region)
    return Lesson(
        ask,
        parts,
        tuple(service_lines(dish, factor, work)),
        sets,
        schedule(
            [_ahead(task, early) for task in whole if task.id in early], Kitchen(cooks=1), hours
        ),
        clock,
        at_tables,
        tuple(by_hand(tasks)),
        tuple(bought),
        cost_per_serving(bought, ask.people),
    )


def _ahead(task: Task, early: set[int]) -> Task:
    """A task done before the class: it waits only for such, and is ready when the class begins."""
    active = task.active * task.batches if task.in_rounds else task.active
    after = tuple(id_ for id_ in task.after if id_ in early)
    return replace(task, after=after, from_minutes=None, in_rounds=False, active=active)


def _before(tasks: Sequence[Task], kitchen: Kitchen, room: int) -> set[int]:
    """The tasks done before: what cooks, soaks or waits long with all that leads to it, and then as
    many of the first as do not fit into the room a table has."""
    by_id = {task.id: task for task in tasks}
    early: set[int] = set()

    def take(id_: int) -> None:
        if id_ not in early:
            early.add(id_)
            for one in by_id[id_].after:
                take(one)

    for task in tasks:
        if task.uses in ("oven", "burner") or task.waiting >= LONG_WAIT:
            take(task.id)
    while len(early) < len(tasks):
        left = [task for task in tasks if task.id not in early]
        if max((p.end for p in _at_tables(left, kitchen)), default=0) <= room:
            break
        take(left[0].id)
    return early


def _at_tables(tasks: Sequence[Task], kitchen: Kitchen) -> tuple[Placed, ...]:
    """The steps of one table, the first at minute 0."""
    kept = {task.id for task in tasks}
    free = [
        replace(
            task,
            after=tuple(a for a in task.after if a in kept),
            from_minutes=None,
            in_rounds=False,
            uses="",
        )
        for task in tasks
    ]
    found = schedule(free, kitchen, Hours(A_WHOLE_DAY, ((0, A_WHOLE_DAY),)))
    if isinstance(found, Impossible):
        raise RecipeError(f"no order of work was found for a table: {found.why}")
    first = min((p.start for p in found.placed), default=0)
    moved = [
        replace(p, start=p.start - first, hands_free=p.hands_free - first, end=p.end - first)
        for p in found.placed
    ]
    assert all(p.end + first <= A_WHOLE_DAY - TABLE_MINUTES for p in moved)
    return tuple(sorted(moved, key=lambda p: (p.start, p.cook)))


def _wanted(
    dish: Appraisal, usual: Appraisal, tasks: Sequence[Task], prices: Mapping[str, PackPrice] | None
) -> set[str]:
    """What a dish gives a class to talk about, by the words of the blocks."""
    grams: dict[str, float] = {}
    for p in dish.portions:
        if p.food is not None:
            grams[p.food.group] = (
                grams.get(p.food.group, 0.0) + p.in_bowl.value / dish.totals.servings
            )
    foods = [p.food for p in dish.portions if p.food is not None]
    sodium = [a.totals.serving["sodium_mg"].value for a in (dish, usual)]
    found = {"always", "time"}
    for word, holds in (
        ("oil", grams.get("fat-oil", 0) >= 3),
        ("acid", grams.get("acid", 0) >= 1),
        ("less-salt", sodium[0] < 0.9 * sodium[1]),
        (
            "seeds",
            any(
                f.key.startswith(("sesame", "tahini", "sunflower-seed", "pumpkin-seed"))
                for f in foods
            ),
        ),
        ("canned", any(f.form.startswith("canned") for f in foods)),
        ("leafy", grams.get("leafy", 0) >= 20),
        ("hardy", any(task.verb == "massage" for task in tasks)),
        ("cutting", any(task.verb in CUTTING for task in tasks)),
        (
            "vegetables",
            sum(grams.get(g, 0) for g in ("vegetable", "leafy", "tomato", "root-tuber", "legume"))
            >= 60,
        ),
        ("cost", bool(prices)),
    ):
        if holds:
            found.add(word)
    return found


_ORDER = (
    "knife", "acid", "measure", "mise", "salt", "seeds", "rinse", "leaves", "massage", "cups",
    "keep", "cost", "adapt"
)  # fmt: skip
"""Which of the blocks that may be are taken first."""


def _parts(
    blocks: Sequence[ClassBlock], wanted: set[str], minutes: int, table_minutes: int
) -> tuple[Part, ...]:
    """The blocks that fit, in the order of the class, together just as long as it is."""
    lengths = {block.id: block.low for block in blocks if block.wants == "always"}
    lengths["work"] = max(1, table_minutes)
    if sum(lengths.values()) > minutes:
        raise RecipeError(
            f"{minutes} minutes are too short: welcome, work at the tables and eating take"
            f" {sum(lengths.values())}"
        )
    may_be = {
        block.id: block for block in blocks if block.wants in wanted and block.id not in lengths
    }
    for id_ in sorted(may_be, key=_ORDER.index):
        if sum(lengths.values()) + may_be[id_].low <= minutes:
            lengths[id_] = may_be[id_].low
    chosen = [block for block in blocks if block.id in lengths]
    _stretch(chosen, lengths, minutes)
    parts, at = [], 0
    for block in chosen:
        parts.append(Part(block, at, at + lengths[block.id]))
        at += lengths[block.id]
    return tuple(parts)


def _stretch(chosen: Sequence[ClassBlock], lengths: dict[str, int], minutes: int) -> None:
    """Shares what is left over out, a minute at a time, to those that are shortest of what they may
    take; the rest goes to the tables."""
    while sum(lengths.values()) < minutes:
        room = [block for block in chosen if lengths[block.id] < block.high]
        if not room:
            lengths["work"] += minutes - sum(lengths.values())
            return
        least = min(room, key=lambda b: ((lengths[b.id] - b.low + 1) / (b.high - b.low + 1), b.id))
        lengths[least.id] += 1
