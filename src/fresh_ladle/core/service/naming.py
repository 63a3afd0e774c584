"""What lines are called now, and what words of a step speak of that is something else now."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.service.task import line_of


def names_of_lines(portions: Sequence[Portion]) -> dict[str, str]:
    """What each line is called, by its id."""
    return {
        line_of(p): p.line.named or (p.food.kitchen_name if p.food else p.line.text)
        for p in portions
    }


def changed_words(text: str, names: Mapping[str, str], former: Mapping[str, str]) -> str:
    """What a step names that is something else now, or not in the dish any more; empty for nothing.
    `names` are those of the lines now, `former` those of lines that were called otherwise."""
    said = []
    for line, name in former.items():
        noun = noun_of(name)
        if not re.search(rf"\b{re.escape(noun)}(?:s|es)?\b", text, re.I):
            continue
        alike = names.get(line) or next(
            (now for now in names.values() if noun_of(now) == noun and now != name), None
        )
        if alike != name:
            said.append(f"{name} is {alike} here" if alike else f"no {name} in this version")
    return "; ".join(said)


def noun_of(name: str) -> str:
    """The last word of a name, without its plural ending."""
    return name.split(",")[0].split()[-1].lower().rstrip("s")
