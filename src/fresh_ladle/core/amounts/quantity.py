"""Reads how many: digits, fractions, mixed numbers, ranges and number words at the start of a
line."""

from __future__ import annotations

import re
from dataclasses import dataclass

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.ranges import Range

_NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d{1,3}(?:,\d{3})+(?!\d)|\d+[.,]\d+|\.\d+|\d+)"
_WORDS = {
    "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6,
    "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "dozen": 12, "half": 0.5, "quarter": 0.25,
}  # fmt: skip
_LOOSE = {"couple": (2.0, 2.0, 3.0), "few": (3.0, 2.0, 4.0), "several": (4.0, 3.0, 6.0)}
_APPROXIMATELY = re.compile(
    r"^(?:about|approximately|approx\.?|around|roughly|circa|ca\.?|~|some|up"
    r" to|almost|nearly|close to"
    r"|just (?:under|over|about|shy of)|a (?:little|bit|touch) (?:under|over|more than|less than)"
    r"|(?:more|less) than)\s*"
    r"(?=[\d.]|(?:an?|one|half|two|three|four|five|six|seven|eight|nine|ten|twelve)\b)",
    re.I,
)
_PHRASES: tuple[tuple[re.Pattern[str], float], ...] = tuple(
    (re.compile(rf"^{pattern}\b", re.I), value)
    for pattern, value in (
        (r"half (?:a )?dozen", 6.0),
        (r"(?:one|a|1) and a half", 1.5), (r"(?:one|1) and a quarter", 1.25),
        (r"two and a half|2 and a half", 2.5),
        (r"three and a half|3 and a half", 3.5),
        (r"three[- ](?:quarters|fourths)(?: of)?(?: an?)?", 0.75),
        (r"two[- ]thirds(?: of)?(?: an?)?", 2 / 3), (r"(?:one|a)[- ]third(?: of)?(?: an?)?", 1 / 3),
        (r"(?:one|a)[- ]quarter(?: of)?(?: an?)?", 0.25),
        (r"(?:one|a)[- ]half(?: of)?(?: an?)?", 0.5),
        (r"half (?:of )?(?:an?|the|one)", 0.5), (r"quarter (?:of )?(?:an?|the|one)", 0.25),
        (r"a dozen", 12.0),
    )
)  # fmt: skip
_MIXED = re.compile(r"^(\d+)\s*(?:-|and|&|\+)\s*(\d)/(\d{1,2})(?![\d/])", re.I)
_RANGE = re.compile(rf"^({_NUMBER})\s*(?:-|to|or|through)\s*({_NUMBER})(?![\d/])", re.I)
_WORD_RANGE = re.compile(r"^([a-z]+)\s*(?:-|to|or)\s*([a-z]+)\b", re.I)
_SINGLE = re.compile(rf"^({_NUMBER})(?![\d/])", re.I)


class BadQuantity(Refused):
    """The number cannot be a quantity of food; the message says why."""


@dataclass(frozen=True, slots=True)
class Quantity:
    """How many units, with the cook's own range, and whether the cook said "about"."""

    count: Range
    approximate: bool = False


def _value(text: str) -> float:
    text = text.strip()
    if " " in text:
        whole, fraction = text.split(None, 1)
        return _value(whole) + _value(fraction)
    if "/" in text:
        top, bottom = text.split("/")
        if int(bottom) == 0:
            raise BadQuantity(f"{text} divides by zero")
        return int(top) / int(bottom)
    if re.fullmatch(r"\d{1,3}(?:,\d{3})+", text):
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


def _between(low: float, high: float) -> Range:
    low, high = min(low, high), max(low, high)
    return Range((low + high) / 2, low, high)


def read_quantity(text: str) -> tuple[Quantity | None, str]:
    """The quantity at the start of `text` and what follows it; None when the line starts with
    something else.

    `1-1/2` is one and a half, `1/4-1/2` a range. Raises BadQuantity for a negative number or a zero
    denominator."""
    rest = text.strip()
    if re.match(r"^-\s?\d", rest):
        raise BadQuantity("a quantity cannot be negative")
    approximate = bool(match := _APPROXIMATELY.match(rest))
    if match:
        rest = rest[match.end() :].strip()
    for pattern, value in _PHRASES:
        if match := pattern.match(rest):
            return Quantity(Range.exact(value), approximate), rest[match.end() :].strip()
    if match := _MIXED.match(rest):
        whole, top, bottom = (int(g) for g in match.groups())
        if 0 < top < bottom:
            return (
                Quantity(Range.exact(whole + top / bottom), approximate),
                rest[match.end() :].strip(),
            )
    if match := _RANGE.match(rest):
        return (
            Quantity(_between(_value(match[1]), _value(match[2])), approximate),
            rest[match.end() :].strip(),
        )
    if match := _SINGLE.match(rest):
        return Quantity(Range.exact(_value(match[1])), approximate), rest[match.end() :].strip()
    return _read_words(rest, approximate)


def _read_words(rest: str, approximate: bool) -> tuple[Quantity | None, str]:
    if (
        (match := _WORD_RANGE.match(rest))
        and match[1].lower() in _WORDS
        and match[2].lower() in _WORDS
    ):
        low, high = _WORDS[match[1].lower()], _WORDS[match[2].lower()]
        return Quantity(_between(low, high), approximate), rest[match.end() :].strip()
    if match := re.match(r"^(?:a\s+)?(couple|few|several)\b(?:\s+of\b)?", rest, re.I):
        return Quantity(Range(*_LOOSE[match[1].lower()]), True), rest[match.end() :].strip()
    if (match := re.match(r"^([a-z]+)\b(?!-)", rest, re.I)) and match[1].lower() in _WORDS:
        return (
            Quantity(Range.exact(_WORDS[match[1].lower()]), approximate),
            rest[match.end() :].strip(),
        )
    return None, rest
