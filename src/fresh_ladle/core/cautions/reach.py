"""What a step must reach to be safe: a temperature, a boil, the cold in time. It stands at the
step."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.cautions.allergens import is_or_brings
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.method.process import Operation, Process


@dataclass(frozen=True, slots=True)
class Reach:
    """What some foods must reach by some verbs, in words. It holds for lines that say none of
    `not_said`; `groups` are those of foods that were cooked here first."""

    id: str
    foods: frozenset[str]
    groups: frozenset[str]
    allergens: frozenset[str]
    not_said: frozenset[str]
    verbs: frozenset[str]
    words: str
    grade: Grade
    source: str

    def is_about(self, portion: Portion) -> bool:
        food = portion.food
        if food is None or portion.line.reached is None or self._is_said(portion):
            return False
        cooked = bool({"boil", "steam"} & {p.id for p in portion.preparations})
        of_allergen = food.group == "protein" and any(is_or_brings(food, a) for a in self.allergens)
        return food.key in self.foods or of_allergen or (food.group in self.groups and cooked)

    def _is_said(self, portion: Portion) -> bool:
        text = portion.line.text.lower()
        return any(re.search(rf"(?<!un)\b{re.escape(word)}", text) for word in self.not_said)


def what_steps_must_reach(
    process: Process, portions: Sequence[Portion], rules: Iterable[Reach]
) -> Mapping[int, tuple[Reach, ...]]:
    """For each operation that must reach something what that is, by its id: the last one that a
    rule speaks of."""
    found: dict[int, list[Reach]] = {}
    for rule in rules:
        lines = {p.line.id for p in portions if p.batch_line is None and rule.is_about(p)}
        last = _last_on(process.operations, rule.verbs, lines)
        if last is not None:
            found.setdefault(last.id, []).append(rule)
    return {operation: tuple(of_it) for operation, of_it in found.items()}


def _last_on(
    operations: Sequence[Operation], verbs: frozenset[str], lines: set[str]
) -> Operation | None:
    return next(
        (o for o in reversed(operations) if o.verb in verbs and lines & o.lines.keys()), None
    )
