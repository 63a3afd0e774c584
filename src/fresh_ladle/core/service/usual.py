"""The work of a dish that has no method: what is usual for its kind, and said to be only that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.method.separating import what_of
from fresh_ladle.core.recipes.dishes import DIPS, SALADS
from fresh_ladle.core.service.task import line_of
from fresh_ladle.core.words.sentences import listed

USUAL = "the usual way; the recipe has no method"
_BLENDED = frozenset({"legume-dip", "vegetable-dip", "herb-nut-paste"})


@dataclass(frozen=True, slots=True)
class Usual:
    """One step: its words, its verb and its lines; it waits for the step before it."""

    text: str
    verb: str
    lines: tuple[str, ...]


def usual_work(kind: str, portions: Sequence[Portion]) -> list[Usual]:
    """The steps by which a dish of this kind is brought together; none where there is nothing to
    bring together."""
    names: dict[str, str] = {}
    poured: set[str] = set()
    for portion in portions:
        if portion.known and portion.food is not None and portion.in_bowl.value > 0:
            names[line_of(portion)] = portion.line.named or portion.food.kitchen_name
            poured |= {line_of(portion)} if what_of(portion.food) else set()
    if len(names) < 2:
        return []
    if kind in DIPS:
        verb = "purée" if kind in _BLENDED else "mash" if kind == "avocado-dip" else "stir"
        return [_step(verb, list(names), names)]
    dressing = [line for line in names if line in poured]
    body = [line for line in names if line not in poured]
    if kind not in SALADS or not body:
        return [_step("whisk", list(names), names)]
    if len(dressing) < 2:
        return [_step("toss", list(names), names)]
    tossed = f"Toss {listed([names[line] for line in body])} with it: {USUAL}"
    return [_step("whisk", dressing, names), Usual(tossed, "toss", tuple(names))]


def _step(verb: str, lines: list[str], names: dict[str, str]) -> Usual:
    together = " together" if verb in ("toss", "stir", "whisk") else ""
    return Usual(
        f"{verb.capitalize()} {listed([names[line] for line in lines])}{together}: {USUAL}",
        verb,
        tuple(lines),
    )
