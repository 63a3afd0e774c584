"""Finds the recipe in the text of a whole page, as somebody gets it who selects all and copies.

Only where a line says "Ingredients" is it known where the recipe begins: what stands above holds a title and a yield,
and nothing to eat. What pages say around a recipe is left out, and told.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.quantity import read_quantity
from fresh_ladle.core.amounts.yields import read_yield

LIST_WORD = re.compile(r"^(?:ingredients?(?: list)?|(?:what )?you(?:'ll| will)? need)\s*:?$", re.I)
METHOD_WORD = re.compile(
    r"^(?:method|directions?|instructions?|preparation|steps?|how to make it|what to do)\s*:?$", re.I
)
_AROUND = re.compile(
    r"[|›»★☆]"
    r"|^(?:home|search|menu|about(?: us)?|contact(?: us)?|sign in|log in|recipes?|all recipes|newsletter|subscribe)$"
    r"|^(?:skip to|jump to|print|pin|share|save|rate|reviews?|comments?|updated|published|by|author|photos?|difficulty"
    r"|course|cuisine|keywords?|diet(?:ary)?|follow|advertisement)\b"
    r"|^(?:prep\w*|cook\w*|chill\w*|total|active|ready)?\s*(?:time|in)\b|^(?:prep|cook|chill)\b.*\d",
    re.I,
)
"""What no title of a dish begins with, or holds."""
_SWITCHES = re.compile(
    r"^(?:us customary|metric|imperial|[\dx ]*\dx|cook mode.*|(?:de)?select all|add to .*list|scale|units?|step \d+"
    r"|\d{1,2}\.?)(?:\s+(?:metric|imperial|us customary|us))?\s*:?$",
    re.I,
)
"""Buttons among the ingredients, and numbers of steps on lines of their own."""
_AFTERWARDS = re.compile(
    r"^(?:(?:recipe )?(?:notes?|tips?|storage|nutrition(?: facts| information)?|video|equipment|comments?.*|reviews?.*"
    r"|share this.*|print|related.*|newsletter)\s*:?$"
    r"|(?:did you|tried|have you|leave a|let (?:me|us) know|you (?:may|might) also|more (?:recipes|like)|goes well with"
    r"|rate this|subscribe|follow (?:me|us)|join \d|calories: ))",
    re.I,
)
"""Where the method is over."""
_DISH = re.compile(
    r"\b(?:salad|\w*slaw|dressing|dip|spread|vinaigrette|sauce|hummus|pesto|salsa|tabbouleh|raita|mayo\w*|guacamole)\b",
    re.I,
)
MAX_TITLE_WORDS, MIN_SENTENCE_WORDS = 14, 4


_WORK = re.compile(
    r"^(?:add|arrange|beat|blend|boil|bring|chill|chop|combine|cook|cover|cut|drain|fold|grate|heat|in an?|in the|let"
    r"|line|mash|massage|mix|place|pour|preheat|pulse|purée|put|rinse|roast|serve|shake|simmer|slice|soak|spoon|spread"
    r"|sprinkle|stir|taste|toast|top|toss|transfer|using|whisk)\b.*\.$",
    re.I,
)
"""A sentence that says what to do."""
_MEASURED = re.compile(r"\d\s*(?:g|kg|oz|lbs?|ml|cups?|tbsps?|tablespoons?|tsps?|teaspoons?|cans?|tins?|jars?)\b", re.I)
"""An amount of food within a line: then it lists food, whatever it begins with."""


def where_work_begins(lines: Sequence[str]) -> int:
    """The first of the sentences at the end that say what to do, where no heading says that the method begins: no line
    that lists food comes after. The number of lines where there is none."""
    first = len(lines)
    for number in range(len(lines) - 1, -1, -1):
        line = lines[number]
        if not _WORK.match(line) or _MEASURED.search(line) or len(line.split()) < MIN_SENTENCE_WORDS:
            break
        first = number
    return first


@dataclass(frozen=True, slots=True)
class CopiedPage:
    """`lines` are the recipe's, title first; `left_out` what stood around it."""

    lines: list[str]
    left_out: tuple[str, ...]


def recipe_of_page(lines: Sequence[str]) -> CopiedPage:
    """The lines of the recipe; all of them where the text says nothing of where the ingredients begin."""
    begins = next((n for n, line in enumerate(lines) if LIST_WORD.match(line)), None)
    method = next((n for n, line in enumerate(lines) if METHOD_WORD.match(line)), len(lines))
    ends = next((n for n in range(method + 1, len(lines)) if _AFTERWARDS.match(lines[n])), len(lines))
    kept, out = list(lines[:ends]), list(lines[ends:])
    if begins is not None and begins < method and not _lists_food(lines[:begins]):
        above, rest = kept[:begins], kept[begins:]
        title = _title(above)
        yields = [part for line in above for part in _parts(line) if line != title and read_yield(part) is not None]
        out = [line for line in above if line != title and not read_yield(line)] + out
        kept = [*([title] if title else []), *yields[:1], *rest]
    after_title = [line for line in kept[1:] if not _SWITCHES.match(line)]
    return CopiedPage([*kept[:1], *after_title], tuple(out))


def _lists_food(above: Sequence[str]) -> bool:
    """Whether amounts stand above the word already: then that says nothing of where they begin."""
    return sum(1 for line in above[1:] if read_yield(line) is None and read_quantity(line)[0] is not None) > 1


def _parts(line: str) -> list[str]:
    return [part.strip() for part in re.split(r"[.|•·;]|\s{2,}", line) if part.strip()]


def _title(above: Sequence[str]) -> str | None:
    """The line that names the dish: one said twice or with the name of a kind of dish before others, else the first
    that could. None when there is no line at all."""
    could = [line for line in above if _may_be_title(line)]
    if not could:
        return above[0] if above else None

    def worth(line: str) -> int:
        return 2 * (above.count(line) > 1) + bool(_DISH.search(line))

    return max(could, key=worth)


def _may_be_title(line: str) -> bool:
    words = line.split()
    return (
        len(words) <= MAX_TITLE_WORDS
        and not line.endswith((".", "!", "?", "…", ","))
        and not _AROUND.search(line)
        and read_yield(line) is None
    )
