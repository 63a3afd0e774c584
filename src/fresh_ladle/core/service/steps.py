"""The steps of a method as they were read: what each does, for how long, how hot, with what, to
which lines."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.method.clauses import Sort
from fresh_ladle.core.method.process import Operation
from fresh_ladle.core.service.naming import changed_words, names_of_lines
from fresh_ladle.core.service.times import stretch_words
from fresh_ladle.core.service.verbs import equipment_of
from fresh_ladle.core.whole.appraisal import Appraisal


@dataclass(frozen=True, slots=True)
class MethodStep:
    """One step. `times` and `celsius` are what it says, `uses` the equipment its verbs need,
    `names` the lines it touches as they are called now, with their ids in `lines`. `read` is
    whether all of it was understood; `changed` what it names that is something else now, or gone;
    `reach` what it must reach to be safe."""

    text: str
    lines: tuple[str, ...]
    names: tuple[str, ...]
    times: tuple[str, ...]
    celsius: tuple[float, ...]
    uses: tuple[str, ...]
    changed: str
    read: bool
    reach: tuple[str, ...] = ()


def method_steps(dish: Appraisal, former: Mapping[str, str] | None = None) -> list[MethodStep]:
    """The steps of a recipe in their order; `former` are the names its lines had before, by id."""
    before, names = former or {}, names_of_lines(dish.portions)
    found = []
    for number, text in enumerate(dish.recipe.method):
        own = [o for o in dish.process.operations if o.step == number]
        spoken = tuple(
            line for line in dict.fromkeys(x for o in own for x in o.named) if line in names
        )
        found.append(
            MethodStep(
                text,
                spoken,
                tuple(names[line] for line in spoken),
                tuple(stretch_words(o.minutes) for o in own if o.minutes is not None),
                tuple(dict.fromkeys(o.celsius for o in own if o.celsius is not None)),
                _uses(own),
                changed_words(text, names, before),
                all(
                    said.sort is not Sort.UNREAD
                    for said in dish.process.said
                    if said.step == number
                ),
                tuple(
                    dict.fromkeys(reach.words for o in own for reach in dish.reach.get(o.id, ()))
                ),
            )
        )
    return found


def reach_words(words: str) -> str:
    """`reach 74 °C (165 °F) in the thickest part`, as it stands at a step."""
    return f"reach {words}"


def _uses(operations: list[Operation]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(uses for o in operations if (uses := equipment_of(o.verb, o.text))))
