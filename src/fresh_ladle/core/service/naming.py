"""What lines are called in a method: by their names now, by other names of their foods, by what they were before."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.service.mentions import Known
from fresh_ladle.core.service.task import line_of


def known_foods(portions: Sequence[Portion], former: Mapping[str, str] | None = None) -> Known:
    """What the reader of a method is told of the foods of a recipe, with what its lines were called before."""
    foods = {line_of(p): p.food for p in portions if p.food is not None and p.batch_line is None}
    aliases = {line: _also_called(food) for line, food in foods.items()}
    for line, name in (former or {}).items():
        aliases[line] = (*aliases.get(line, ()), noun_of(name))
    return Known({line: food.group for line, food in foods.items()}, aliases)


def _also_called(food: Food) -> tuple[str, ...]:
    """Single words a cook may use for a food besides its name: other names, the family of a leaf, herb for chives."""
    called = [name.lower() for name in (food.name, *food.aliases) if " " not in name]
    called += [noun_of(name) for name in food.aliases if " " in name] if food.group == "leafy" else []
    called += ["herb"] if food.key.startswith("chives") else []
    return tuple(called)


def names_of_lines(portions: Sequence[Portion]) -> dict[str, str]:
    """What each line is called, by its id."""
    return {line_of(p): p.line.named or (p.food.kitchen_name if p.food else p.line.text) for p in portions}


def changed_words(text: str, names: Mapping[str, str], former: Mapping[str, str]) -> str:
    """What a step names that is something else now, or not in the dish any more; empty for nothing. `names` are those
    of the lines now, `former` those of lines that were called otherwise."""
    said = []
    for line, name in former.items():
        noun = noun_of(name)
        if not re.search(rf"\b{re.escape(noun)}(?:s|es)?\b", text, re.I):
            continue
        alike = names.get(line) or next((now for now in names.values() if noun_of(now) == noun and now != name), None)
        if alike != name:
            said.append(f"{name} is {alike} here" if alike else f"no {name} in this version")
    return "; ".join(said)


def noun_of(name: str) -> str:
    """The last word of a name, without its plural ending."""
    return name.split(",")[0].split()[-1].lower().rstrip("s")
