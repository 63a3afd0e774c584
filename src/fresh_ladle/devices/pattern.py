"""Lines of a scale as weights: many bench scales print one line for each weight, and each maker
another.

A pattern is the line with its parts named in braces: `{state} {weight} {unit}`. `{weight}` is
needed; `{state}` is a word that says whether it has settled; any run of spaces stands for any
other."""

from __future__ import annotations

import re

from fresh_ladle.devices.port import MAX_LINE
from fresh_ladle.devices.readout import ReadoutError, Trouble, Weight

USUAL_PATTERN = "{state} {weight} {unit}"
GRAMS = {"g": 1.0, "kg": 1000.0, "oz": 28.349523125, "lb": 453.59237}
SETTLED = frozenset({"st", "s", "stable", "ok"})
MOVING = frozenset({"us", "u", "d", "sd", "dynamic", "?"})
OVER = re.compile(r"\b(?:OL|OVER|OVERLOAD)\b|\+{3,}|\^{3,}", re.I)
BELOW = re.compile(r"\b(?:UL|UF|UNDER|UNDERLOAD)\b|-{3,}|_{3,}", re.I)
MAX_PATTERN = 80
MOST_G = 60_000.0
_PARTS = {
    "{weight}": r"(?P<weight>[+\-]?\s*\d{1,7}(?:[.,]\d{1,4})?)",
    "{unit}": r"(?P<unit>kg|g|oz|lb)?",
    "{state}": r"(?P<state>[A-Za-z?]{1,9})?",
}


def compiled(pattern: str) -> re.Pattern[str]:
    """Raises ValueError, in words, for a pattern without a weight, with a part nobody knows, or one
    part twice."""
    parts = re.findall(r"\{[^}]*\}", pattern)
    if unknown := [p for p in parts if p not in _PARTS]:
        raise ValueError(f"the pattern has {unknown[0]}: only {', '.join(_PARTS)} are known")
    if "{weight}" not in parts or len(set(parts)) < len(parts):
        raise ValueError("the pattern wants {weight} once, and any other part at most once")
    if len(pattern) > MAX_PATTERN:
        raise ValueError(f"a pattern has at most {MAX_PATTERN} signs")
    pieces = re.split(r"(\{[^}]*\}|\s+)", pattern.strip())
    written = "".join(_PARTS.get(p, r"\s*" if p.isspace() else re.escape(p)) for p in pieces)
    return re.compile(rf"^\s*{written}\s*$", re.I)


def weight_of(line: str, pattern: re.Pattern[str]) -> Weight:
    """A line as a weight. Raises ReadoutError for overload, underload, or what is no weight."""
    line = line[:MAX_LINE]
    if OVER.search(line):
        raise ReadoutError(Trouble.OVERLOAD)
    if BELOW.search(line):
        raise ReadoutError(Trouble.UNDER)
    found = pattern.match(line)
    if found is None:
        raise ReadoutError(Trouble.GARBAGE)
    parts = found.groupdict()
    state = (parts.get("state") or "").lower()
    if state and state not in SETTLED | MOVING:
        raise ReadoutError(Trouble.GARBAGE)
    number = parts["weight"].replace(" ", "").replace(",", ".")
    unit_g = GRAMS[(parts.get("unit") or "g").lower()]
    grams = float(number) * unit_g
    if abs(grams) > MOST_G:
        raise ReadoutError(Trouble.GARBAGE)
    decimals = len(number.partition(".")[2])
    return Weight(grams, state not in MOVING, unit_g * 10.0**-decimals)
