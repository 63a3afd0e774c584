"""The same dish with next to no equipment: what stands in for a blender, an oven or a burner (grade
C)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.service.task import Task

_BY_VERB = {
    "blend": "mash with a fork, then beat with a whisk; it stays coarser",
    "purée": "mash, then press through a sieve with a spoon",
    "pulse": "chop fine with a knife, or crush in a mortar",
    "emulsify": "shake in a closed jar, the oil in three parts",
    "roast": "bring it roasted, or slice thin and char in a dry pan",
    "toast in the oven": "toast in a dry pan, or use as bought",
    "toast in a pan": "bring it toasted",
    "boil": "bring it cooked, or take cans, rinsed",
    "blanch": "pour boiling water from a kettle over it, wait, drain",
    "simmer": "bring it cooked",
    "steam": "pour boiling water from a kettle over it, cover, wait",
}
_BY_EQUIPMENT = {
    "oven": "bring it done",
    "burner": "bring it cooked, or use a kettle and a lid",
    "blender": "by hand: grate, mash or chop fine",
}


@dataclass(frozen=True, slots=True)
class ByHand:
    """A step that needs equipment, and what is done instead."""

    step: str
    instead: str


def by_hand(tasks: Sequence[Task]) -> list[ByHand]:
    """The steps that need an oven, a burner or a blender, each with what stands in for it; heating
    the oven goes."""
    needing = [task for task in tasks if task.uses and task.verb != "preheat"]
    return [
        ByHand(task.text, _BY_VERB.get(task.verb) or _BY_EQUIPMENT[task.uses]) for task in needing
    ]
