"""Batches that fit the blender: equal ones, two thirds full, half when hot, liquid first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.tasks import BLENDER_VERBS, BURNER_VERBS, Task

FILL, FILL_HOT = 0.67, 0.5
"""How full a jar may be (grade B): hot food steams and lifts the lid."""
CUP_ML = 236.588
_COOLING = frozenset({"cool", "chill", "chill fast", "shock"})
_LIQUID_GROUPS = ("liquid", "acid", "dairy", "soy", "fat-oil", "nut-seed-butter")
"""What goes in first, in this order; solids after."""


@dataclass(frozen=True, slots=True)
class Batch:
    """One filling of the blender, of `of` equal ones: lines with their names and grams, liquid first."""

    dish: str
    task: str
    number: int
    of: int
    lines: tuple[tuple[str, str, float], ...]
    millilitres: float
    hot: bool

    @property
    def grams(self) -> float:
        return sum(grams for _, _, grams in self.lines)


def line_millilitres(portion: Portion, grams: float) -> float:
    """The volume of a line, by what a cup of it weighs; a gram to a milliliter where no cup is known."""
    cup = portion.food.measure("cup") if portion.food is not None else None
    return grams * CUP_ML / cup.grams if cup is not None else grams


def dish_batches(appraisal: Appraisal, factor: float, tasks: Sequence[Task], blender_ml: float) -> list[Batch]:
    """The fillings of each task that runs in the blender. Raises RecipeError where there is work for one and none."""
    found = []
    for place, task in enumerate(tasks):
        if task.uses != "blender" or task.verb not in BLENDER_VERBS:
            continue
        if blender_ml <= 0:
            raise RecipeError(
                f"{task.text!r} needs a blender or a processor, and its working volume is given as"
                f" {blender_ml:g} ml: say how much it holds, or change the step"
            )
        hot = _is_hot(task, tasks[:place])
        portions = [p for p in appraisal.portions if (p.batch_line or p.line.id) in task.lines and p.known]
        portions.sort(key=_liquid_first)
        grams = [p.measured.value * factor for p in portions]
        volume = sum(line_millilitres(p, g) for p, g in zip(portions, grams, strict=True))
        count = max(1, ceil(volume / (blender_ml * (FILL_HOT if hot else FILL)) - 1e-9))
        lines = tuple(
            (p.line.id, p.line.named or (p.food.kitchen_name if p.food else p.line.text), g / count)
            for p, g in zip(portions, grams, strict=True)
        )
        found += [
            Batch(task.dish, task.text, number, count, lines, volume / count, hot) for number in range(1, count + 1)
        ]
    return found


def _is_hot(task: Task, before: Sequence[Task]) -> bool:
    """Whether something in it was cooked and not cooled since."""
    hot = set[str]()
    for earlier in before:
        touched = set(earlier.lines) & set(task.lines)
        if earlier.verb in BURNER_VERBS | {"roast", "bake", "char", "slow-roast"}:
            hot |= touched
        elif earlier.verb in _COOLING or earlier.uses == "":
            hot -= touched if earlier.verb in _COOLING else set()
    return bool(hot)


def _liquid_first(portion: Portion) -> tuple[int, str]:
    group = portion.food.group if portion.food is not None else ""
    return (_LIQUID_GROUPS.index(group) if group in _LIQUID_GROUPS else len(_LIQUID_GROUPS), portion.line.id)
