"""A first method for a dish that was composed: the usual order of work of its kind, with its own
foods in it."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from fresh_ladle.core.catalogue.formula import Formula, WorkStep
from fresh_ladle.core.words.sentences import capitalized, listed


def first_method(formula: Formula, names: Mapping[str, Sequence[str]]) -> tuple[str, ...]:
    """The steps of work; `names` holds the foods on each role. A step without foods is left out."""
    return tuple(step for work in formula.order if (step := _step(work, names)))


def _step(work: WorkStep, names: Mapping[str, Sequence[str]]) -> str:
    foods = [name for role in work.roles for name in names.get(role, ())]
    if not foods:
        return ""
    said = work.say.replace("{}", f"the {listed(foods)}", 1)
    for role in re.findall(r"\{(\w+)\}", said):
        others = names.get(role, ())
        if others:
            said = said.replace(f"{{{role}}}", f"the {listed(others)}")
        else:
            said = _without(said, role)
    return capitalized(said)


def _without(said: str, role: str) -> str:
    """The sentence without the part that speaks of a role nobody plays: `with {acid}`, `,
    {liquid}`."""
    return re.sub(
        rf"(?:,? (?:with|and)|,|:) \{{{role}\}}(?: at once, so that it stays green)?", "", said
    )
