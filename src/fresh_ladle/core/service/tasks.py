"""The tasks of one dish at the size it is made: from its method and what its lines say is done to them.

What a task waits for is read from the lines it touches: a task on a line waits for what was done to that line before,
and what brings things together waits for the bowl it goes into.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import ceil

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.catalogue.kitchen_work import CookingTime, KitchenWork, WorkVerb
from fresh_ladle.core.recipes.dishes import DIPS
from fresh_ladle.core.sentences import listed
from fresh_ladle.core.service.equipment import BURNER_VERBS, HEATING, OVEN_VERBS, equipment_of
from fresh_ladle.core.service.fillings import batch_millilitres, fillings
from fresh_ladle.core.service.method import MERGING, RESTING, UNREAD, Action, actions
from fresh_ladle.core.service.naming import changed_words, known_foods, names_of_lines
from fresh_ladle.core.service.preparing import cooked_by_no_step, prepared
from fresh_ladle.core.service.task import LAST_MINUTES, Kitchen, Task, line_of
from fresh_ladle.core.service.windows import with_windows

_JOINS = re.compile(r"\b(?:in|into|over|onto|through|it|them)\b", re.I)
_MIX_NAMED = re.compile(r"\b(?:dressing|sauce|vinaigrette|everything|mixture|all)\b", re.I)
_LAST_MOMENT = re.compile(
    r"\b(?:just before (?:serving|it is served)|as it (?:goes out|is served)|at the last (?:moment|minute)|"
    r"at the table|to serve)\b",
    re.I,
)
_AT_EACH_USE = re.compile(r"\b(?:before each use|each time|whenever)\b", re.I)
_INTO_THE_BOWL = re.compile(
    r"\binto (?:it|them|the (?:dressing|bowl|mix|mixture|sauce|blender|cream))\b|^\w+ in\b|\bover (?:it|each|the)\b",
    re.I,
)
"""Cutting that goes straight into what is mixed already."""
_ADDS = re.compile(r"(?:add|pour|work|drop)\b", re.I)
_STEEPING = frozenset({"soak", "macerate", "marinate", "pickle quickly", "salt and rest"})
TRAY_KG = 1.0
"""Kilograms of cut vegetables on one tray, in one layer (grade C)."""
OUT_MINUTES, OUT_FROM_MINUTES = 20, 60
"""A chilled dip stands out so long before it is eaten, and is taken out so long before at the earliest."""
_CHILLING = frozenset({"chill", "chill fast"})
POT_KG = 6.0
"""Kilograms, as weighed in, that boil in one large pot (grade C)."""


@dataclass
class _Bowl:
    lines: set[str]
    last: int


@dataclass
class _Bench:
    """Tasks as they are laid out: what was last done to each line, and the bowls that stand open."""

    appraisal: Appraisal
    factor: float
    work: KitchenWork
    kitchen: Kitchen
    first_id: int
    found: list[Task] = field(default_factory=list)
    former: Mapping[str, str] = field(default_factory=dict)
    waits: Mapping[str, int] = field(default_factory=dict)
    last: dict[str, int] = field(default_factory=dict)
    bowls: list[_Bowl] = field(default_factory=list)

    def kilograms(self, lines: Iterable[str]) -> float:
        wanted = set(lines)
        grams = sum(p.measured.value for p in self.appraisal.portions if line_of(p) in wanted and p.known)
        return grams * self.factor / 1000

    def add(self, task: Task) -> int:
        self.found.append(replace(task, id=self.first_id + len(self.found)))
        return self.found[-1].id


def dish_tasks(
    appraisal: Appraisal,
    factor: float,
    work: KitchenWork,
    kitchen: Kitchen,
    first_id: int = 0,
    former: Mapping[str, str] | None = None,
    waits: Mapping[str, int] | None = None,
) -> list[Task]:
    """All tasks of a dish made `factor` times its recipe, each after those it waits for. Ids count from `first_id`;
    `former` are the names of lines, by id, that the words of the method may still use: swapped since, or taken out;
    `waits` the minutes that steps, by their words, were timed to go on by themselves."""
    bench = _Bench(appraisal, factor, work, kitchen, first_id, former=former or {}, waits=waits or {})
    recipe = appraisal.recipe
    read = actions(recipe.method, recipe.lines, known_foods(appraisal.portions, former or {}), work)
    said = [a for a in read if a.verb != UNREAD and not _AT_EACH_USE.search(a.text) and not _is_portioning(a)]
    heated_lines = {line for a in said if a.verb in HEATING for line in a.lines}
    for action in (*prepared(appraisal.portions, said), *cooked_by_no_step(appraisal.portions, heated_lines)):
        _lay(bench, action)
    heated = any(a.verb == "preheat" for a in said)
    for action in said:
        if action.verb in OVEN_VERBS - {"preheat"} and not heated:
            _lay(bench, Action("Heat the oven", "preheat", (), action.step, None, action.celsius))
            heated = True
        _lay(bench, action)
    _add_what_no_step_names(bench, said)
    _finish(bench)
    return with_windows(bench.found, appraisal, work)


def _is_portioning(action: Action) -> bool:
    """A method ends with "and serve": that is the dish going into its bowls, which every dish ends with anyway."""
    return action.verb == "plate" and not action.named and re.match(r"(?:and )?serve\b", action.text, re.I) is not None


def _add_what_no_step_names(bench: _Bench, said: Sequence[Action]) -> None:
    """Lines that no step brings in go in last: the method was written before they were."""
    named = {line for action in said for line in action.lines}
    missing = [
        p
        for p in bench.appraisal.portions
        if p.known and p.food is not None and line_of(p) not in named and p.measured.value > 0 and p.food.key != "water"
    ]
    if missing and bench.bowls:
        lines = tuple(dict.fromkeys(line_of(p) for p in missing))
        names = listed([p.line.named or (p.food.kitchen_name if p.food else "") for p in missing])
        _lay(
            bench,
            Action(
                f"Stir in {names}: no step of the method names {'it' if len(lines) == 1 else 'them'}", "stir", lines, -1
            ),
        )


def _lay(bench: _Bench, action: Action) -> None:
    """Adds the task of an action, after what it waits for."""
    verb = bench.work.verb(action.verb)
    bowl, after, lines = _place(bench, action)
    task = _task(bench, action, verb, lines, after)
    number = bench.add(task)
    for line in lines:
        bench.last[line] = number
    if bowl is not None:
        bowl.last = number


def _place(bench: _Bench, action: Action) -> tuple[_Bowl | None, tuple[int, ...], tuple[str, ...]]:
    """The bowl an action works in, the tasks it waits for, and all the lines it touches."""
    current = bench.bowls[-1] if bench.bowls else None
    before = {bench.last[line] for line in action.lines if line in bench.last}
    if action.verb == "preheat":
        return None, (), ()
    cut_in = current is not None and _INTO_THE_BOWL.search(action.text) and action.verb not in OVEN_VERBS | BURNER_VERBS
    steeps = action.verb in _STEEPING and len(action.lines) > 1
    if action.verb in MERGING or cut_in or steeps:
        return _merge(bench, action, current, before)
    whole = current is not None and (not action.named or set(action.lines) >= current.lines)
    if current is not None and whole and (action.verb in RESTING or action.verb in ("cover", "strain")):
        return current, (current.last,), tuple(sorted(current.lines))
    if action.verb in OVEN_VERBS:
        before |= {t.id for t in bench.found if t.verb == "preheat"}
    return None, tuple(sorted(before)), action.lines


def _merge(
    bench: _Bench, action: Action, current: _Bowl | None, before: set[int]
) -> tuple[_Bowl, tuple[int, ...], tuple[str, ...]]:
    inside = {line for bowl in bench.bowls for line in bowl.lines}
    fresh = action.named and not set(action.lines) & inside
    starts = action.verb in _STARTING and not _ADDS.match(action.text)
    joins = not starts or not action.named or (action.verb not in _STEEPING and _JOINS.search(action.text))
    if current is None or (fresh and not joins):
        bowl = _Bowl(set(action.lines), -1)
        bench.bowls.append(bowl)
        return bowl, tuple(sorted(before)), action.lines
    touched = [bowl for bowl in bench.bowls if bowl.lines & set(action.lines)] if action.named else []
    joined = list(bench.bowls) if _MIX_NAMED.search(action.text) else [*touched, current]
    for other in joined:
        if other is not current:
            current.lines |= other.lines
            before.add(other.last)
            if other in bench.bowls:
                bench.bowls.remove(other)
    before.add(current.last)
    current.lines |= set(action.lines)
    return current, tuple(sorted(b for b in before if b >= 0)), tuple(sorted(current.lines))


_SPRINKLING = frozenset({"top", "drizzle", "season"})
"""What goes on top takes as long as there is of it, not as long as there is under it."""
_STARTING = _STEEPING | {"blend", "purée", "pulse", "whisk", "shake", "emulsify", "mash", "stir"}


def _task(bench: _Bench, action: Action, verb: WorkVerb, lines: tuple[str, ...], after: tuple[int, ...]) -> Task:
    whole = action.verb in (MERGING | RESTING) - _SPRINKLING
    worked_on = lines if whole else action.lines
    kilograms = bench.kilograms(worked_on)
    uses = equipment_of(action)
    hot = _is_hot(worked_on, bench.found)
    batches, demand = _fillings(bench, uses, kilograms, worked_on, hot)
    usual = batches * verb.active_fixed + verb.active_per_kg * kilograms
    active = usual * verb.pace
    waits = verb.waiting.value > 0
    said = action.minutes
    if said is not None and action.verb == "massage":
        waiting, active = 0.0, max(active, said.value)
    elif waits:
        slowest = _slowest(bench, action, verb)
        waiting = (said or (slowest.minutes if slowest else verb.waiting)).value * (batches if uses == "oven" else 1)
    else:
        waiting = 0.0
        active = max(active, (said.value if said else 0.0) * batches)
    known_wait = bench.waits.get(action.text)
    if waits and known_wait is not None:
        waiting = known_wait
    return Task(
        0,
        bench.appraisal.recipe.title,
        _component(bench, action.lines),
        action.text,
        action.verb,
        lines,
        max(1, ceil(active - 1e-9)),
        ceil(waiting - 1e-9),
        verb.attended,
        uses,
        _heat(bench, action, verb) if uses == "oven" else action.celsius,
        after,
        said is not None or known_wait is not None,
        batches,
        demand,
        LAST_MINUTES if _LAST_MOMENT.search(action.text) else None,
        changed=changed_words(action.text, names_of_lines(bench.appraisal.portions), bench.former),
        hot=hot,
        usual=0.0 if said is not None and not waits else usual,
        timed=verb.timed,
    )


def _heat(bench: _Bench, action: Action, verb: WorkVerb) -> float | None:
    """What is said of it, else what the oven was heated to, else what is usual for the food, or the verb."""
    heated = next((t.celsius for t in reversed(bench.found) if t.verb == "preheat"), None)
    slowest = _slowest(bench, action, verb)
    return action.celsius or heated or (slowest.celsius if slowest is not None else None) or verb.celsius


def _slowest(bench: _Bench, action: Action, verb: WorkVerb) -> CookingTime | None:
    """What is known of a verb on that of its foods which takes longest; None where no food has a time."""
    foods = [p.food for p in bench.appraisal.portions if line_of(p) in action.lines and p.food is not None]
    known = [t for food in foods if (t := bench.work.time_of(verb.verb, food)) is not None]
    return max(known, key=lambda t: t.minutes.value, default=None)


def _is_hot(lines: Iterable[str], before: Sequence[Task]) -> bool:
    """Whether something of these lines was cooked and not cooled since."""
    hot, about = set[str](), set(lines)
    for earlier in before:
        if earlier.verb in BURNER_VERBS | OVEN_VERBS:
            hot |= about & set(earlier.lines)
        elif earlier.verb in _COOLING:
            hot -= set(earlier.lines)
    return bool(hot)


_COOLING = frozenset({"cool", "chill", "chill fast", "shock"})


def _fillings(bench: _Bench, uses: str, kilograms: float, lines: Sequence[str], hot: bool) -> tuple[int, int]:
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
    """A chilled dip stands out before what is done to it at the last moment. Returns what is done last then."""
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
    if bench.appraisal.recipe.kind in DIPS and any(task.verb in _CHILLING for task in bench.found):
        ends = _taken_out(bench, ends, f"Take {named} out of the refrigerator")
    portion = bench.work.verb("portion")
    kilograms = bench.kilograms(lines)
    usual = portion.active_fixed + portion.active_per_kg * kilograms
    minutes = max(1, ceil(usual * portion.pace - 1e-9))
    text = f"Portion {named}"
    bench.add(
        Task(
            0, title, "", text, "portion", lines, minutes, 0, False, "", None, ends, False, usual=usual,
            timed=portion.timed,
        )
    )  # fmt: skip
