"""Batches that fit the blender: equal ones, two thirds full, half when hot, liquid first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.fillings import batch_millilitres
from fresh_ladle.core.service.task import Task
from fresh_ladle.core.service.verbs import BLENDER_VERBS
from fresh_ladle.core.whole.appraisal import Appraisal

_LIQUID_GROUPS = ("liquid", "acid", "dairy", "soy", "fat-oil", "nut-seed-butter")
"""What goes in first, in this order; solids after."""


@dataclass(frozen=True, slots=True)
class Batch:
    """One filling of the blender, of `of` equal ones: lines with their names and grams, liquid
    first."""

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


def dish_batches(
    appraisal: Appraisal, factor: float, tasks: Sequence[Task], blender_ml: float
) -> list[Batch]:
    """The fillings of each task that runs in the blender. Raises RecipeError where there is work
    for one and none."""
    found = []
    for task in tasks:
        if task.uses != "blender" or task.verb not in BLENDER_VERBS:
            continue
        if blender_ml <= 0:
            raise RecipeError(
                f"{task.text!r} needs a blender or a processor, and its working volume is given as"
                f" {blender_ml:g} ml: say how much it holds, or change the step"
            )
        portions = [
            p for p in appraisal.portions if (p.batch_line or p.line.id) in task.lines and p.known
        ]
        portions.sort(key=_liquid_first)
        grams = [p.measured.value * factor for p in portions]
        volume, count = batch_millilitres(portions, factor), task.batches
        lines = tuple(
            (p.line.id, p.line.named or (p.food.kitchen_name if p.food else p.line.text), g / count)
            for p, g in zip(portions, grams, strict=True)
        )
        each = volume / count
        found += [
            Batch(task.dish, task.text, n, count, lines, each, task.hot)
            for n in range(1, count + 1)
        ]
    return found


def _liquid_first(portion: Portion) -> tuple[int, str]:
    group = portion.food.group if portion.food is not None else ""
    return (
        _LIQUID_GROUPS.index(group) if group in _LIQUID_GROUPS else len(_LIQUID_GROUPS),
        portion.line.id,
    )
