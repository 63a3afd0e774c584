"""What a recipe makes: so many servings, or so much by volume or by the jar, which is not the
same."""

from __future__ import annotations

import re
from dataclasses import dataclass

from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.units import millilitres, read_unit
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.region import Region

_SERVES = re.compile(
    r"^(?:this (?:recipe )?|that )?(?:(?:it )?serves|feeds|does|enough for|makes enough"
    r" for|(?:number of )?(?:servings?"
    r"|portions?|people))\b\s*:?\s*(?P<rest>.+)$",
    re.I,
)
_MAKES = re.compile(
    r"^(?:(?:this|it|recipe|total)\s+)?(?:makes|yields?|gives|fills)\b\s*:?\s*(?P<rest>.+)$", re.I
)
_BARE = re.compile(
    r"^(?:for )?(?P<rest>\d+(?:\s*(?:-|to)\s*\d+)?)\s+(?:servings?|portions?|people)(?:\.|,? of"
    r" .+)?$",
    re.I,
)
_IN_BRACKETS = re.compile(r"^\((?P<said>[^()]+)\)$")
_PEOPLE = re.compile(
    r"^(?:(?:generous|small|large|hearty|side|main|first-course|starter)\s+)*"
    r"(?:servings?|portions?|people|persons?|guests|side salads?|main"
    r" salads?|mains?|sides?|salads?|plates?|bowls?|$"
    r"|as\b|\(|generously|\.|,|to \d|with\b|for\b)",
    re.I,
)
_SPOONED_SERVINGS = re.compile(r"^\s*\((?P<size>[^()]+)\)\s*(?:servings?|portions?)\b", re.I)


@dataclass(frozen=True, slots=True)
class Yield:
    """What the words promise: `servings` as a range, or `millilitres` in all, or neither when it is
    jars or a heap."""

    servings: Range | None = None
    millilitres: float | None = None


def read_yield(text: str, region: Region = Region.US) -> Yield | None:
    """The yield a line speaks of; None when it is no line about a yield."""
    if whole := _IN_BRACKETS.match(text):
        return read_yield(whole["said"], region)
    if match := _SERVES.match(text) or _BARE.match(text):
        count = _count(match["rest"])
        return Yield(servings=count[0]) if count else None
    match = _MAKES.match(text)
    if match is None:
        return None
    count = _count(match["rest"])
    if count is None:
        return None
    number, rest = count
    unit = read_unit(rest)[0]
    if unit and (volume := millilitres(unit, region)):
        return Yield(millilitres=number.value * volume)
    if _PEOPLE.match(rest) or _SPOONED_SERVINGS.match(rest):
        return Yield(servings=number)
    return Yield()


def measure_alone(text: str, region: Region = Region.US) -> Yield | None:
    """What a line promises that is just a measure: "2 L", or "(about 1 cup)", under a title."""
    whole = _IN_BRACKETS.match(text)
    count = _count(whole["said"] if whole else text)
    unit, after = read_unit(count[1]) if count else (None, "")
    volume = millilitres(unit, region) if unit and not after else None
    return Yield(millilitres=count[0].value * volume) if count and volume else None


_NUMBER_OF_PEOPLE = re.compile(
    r"^(?:\d|half|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|a dozen)", re.I
)


def _count(text: str) -> tuple[Range, str] | None:
    text = re.sub(r"^(?:about|around|roughly|approximately|up to)\s+", "", text, flags=re.I)
    if not _NUMBER_OF_PEOPLE.match(text):
        return None
    try:
        quantity, rest = read_quantity(text)
    except BadQuantity:
        return None
    return (quantity.count, rest) if quantity is not None and quantity.count.value > 0 else None
