"""Times and heats that a clause says."""

from __future__ import annotations

import re
from fractions import Fraction

from fresh_ladle.core.ranges import Range

DAY = 1440.0
"""Minutes of a day."""
NIGHT = Range(600.0, 480.0, 720.0)
_WORDS = {
    "a": 1.0, "an": 1.0, "half a": 0.5, "half an": 0.5, "one": 1.0, "two": 2.0, "three": 3.0,
    "four": 4.0,
    "five": 5.0, "six": 6.0, "seven": 7.0, "eight": 8.0, "nine": 9.0, "ten": 10.0, "twelve": 12.0,
    "fifteen": 15.0,
    "twenty": 20.0, "thirty": 30.0, "forty": 40.0, "forty-five": 45.0, "a few": 3.0,
    "a couple of": 2.0,
    "another": 1.0,
}  # fmt: skip
_AS_WORDS = "|".join(word.replace(" ", r"\s+") for word in sorted(_WORDS, key=len, reverse=True))
_NUMBER = r"(?:\d+\s+\d/\d|\d/\d|\d+(?:[.,]\d+)?(?:\s*[½¼¾])?|[½¼¾]|" rf"(?:{_AS_WORDS})(?=[\s-]))"
_TIME = re.compile(
    rf"(?<![\w.,])(?P<going>for\s+)?(?P<bound>at least|at most|up to|no more than)?\s*"
    r"(?:about |around |roughly |another )?"
    rf"(?P<low>{_NUMBER})(?P<half>\s+and\s+a\s+half)?(?:\s*(?:to|or|[-–])\s*(?P<high>{_NUMBER}))?[\s-]*(?:good"
    r" |more )?"
    r"(?P<unit>seconds?|secs?|s|minutes?|mins?|hours?|hrs?|h|days?|weeks?)\b"
    r"(?P<each>\s*(?:a|each|per|on each|on both)\s+sides?)?(?P<ahead>\s*(?:before|ahead|in"
    r" advance))?"
    r"|(?P<night>\bovernight\b)|(?P<before>\bbefore\b)",
    re.I,
)
_ANOTHER_DAY = re.compile(r"\b(?:for )?another (?:day|time|meal)\b", re.I)
"""What says when something is used, and not how long anything takes."""
_MORE_MINUTES = re.compile(
    r"\s*(?:and\s+)?(?:(\d{1,2})\s*(?:minutes?|mins?|m)\b|and\s+(a half|a"
    r" quarter)\b|(\d\d)(?!\s*[\w%°]))",
    re.I,
)
"""What follows hours: "1 hour 15 minutes", "an hour and a half", "1 h 30"."""
_PARTS_OF_AN_HOUR = {"a half": 30.0, "a quarter": 15.0}
_PER = {"s": 1 / 60, "m": 1.0, "h": 60.0, "d": 1440.0, "w": 10080.0}
_PARTS = {"½": 0.5, "¼": 0.25, "¾": 0.75}
LOOSE = 1.5
"""How much longer than "at least" it is taken to go on at most."""


def number_of(text: str) -> float:
    """`1 1/2`, `½`, `ten` as a number."""
    text = re.sub(r"\s+", " ", text.lower().strip())
    if text in _WORDS:
        return _WORDS[text]
    if "/" in text:
        return float(sum(Fraction(part) for part in text.split()))
    part = next((value for sign, value in _PARTS.items() if sign in text), 0.0)
    digits = re.sub(r"[½¼¾\s]", "", text).replace(",", ".")
    return (float(digits) if digits else 0.0) + part


def minutes_in(clause: str) -> Range | None:
    """The first stretch of time in a clause, in minutes, as a range where it is one: "at least an
    hour" is an hour and more, "3 minutes a side" three to six. None where it says none."""
    clause = _ANOTHER_DAY.sub("", clause)
    for match in _TIME.finditer(clause):
        if match["night"]:
            return NIGHT
        if match["before"] or (match["ahead"] and not match["going"]):
            continue
        per = _PER[match["unit"][0].lower()]
        more = _more_minutes(clause, match)
        low = (number_of(match["low"]) + (0.5 if match["half"] else 0.0)) * per
        low, high = (
            (low, number_of(match["high"]) * per + more)
            if match["high"]
            else (low + more, low + more)
        )
        low, high = min(low, high), max(low, high)
        bound = (match["bound"] or "").lower()
        if bound == "at least":
            return Range(low, low, high * LOOSE)
        if bound:
            return Range(high / 2, 0.0, high)
        if match["each"]:
            return Range(2 * low, low, 2 * high)
        return Range((low + high) / 2, low, high)
    return None


def _more_minutes(clause: str, match: re.Match[str]) -> float:
    """The minutes said behind hours."""
    following = (
        _MORE_MINUTES.match(clause, match.end("unit")) if match["unit"][0].lower() == "h" else None
    )
    if following is None:
        return 0.0
    return (
        _PARTS_OF_AN_HOUR[following[2].lower()]
        if following[2]
        else float(following[1] or following[3])
    )


def celsius_in(clause: str) -> float | None:
    """The heat a clause names, in °C."""
    if (match := re.search(r"(\d{2,3})\s*°?\s*C\b", clause)) is not None:
        return float(match[1])
    if (match := re.search(r"(\d{3})\s*°?\s*F\b", clause)) is not None:
        return float(round((float(match[1]) - 32) / 1.8))
    return None
