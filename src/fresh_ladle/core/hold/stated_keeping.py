"""How long a recipe says that it keeps, held against the rule: the shorter counts, and is said
once."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass

from fresh_ladle.core.method.clauses import Sort
from fresh_ladle.core.method.process import Process
from fresh_ladle.core.method.stretch import minutes_in, number_of

DAY = 1440.0
DAYS_OF_A_MONTH = 30.0
FOREVER = 3650.0
"""Days of "keeps forever"."""
_KEEPS = re.compile(
    r"\b(?:keeps?|kept|stays?|lasts?|stor\w+|holds?|refrigerat\w+|good for|use within|eat"
    r" within|within|up to|ahead|"
    r"in advance)\b",
    re.I,
)
_FROZEN = re.compile(r"\b(?:freez\w*|frozen)\b", re.I)
_CLAUSES = re.compile(r"[,;]|\b(?:or|and|but)\b", re.I)
_HALF = re.compile(r"\s*;\s*(?=[A-Z])")
_LOOSE_END = re.compile(r"(?:\s*(?:[,;]|\b(?:and|or|but|then)\b))+\s*\.?\s*$", re.I)
_BEGINNING = re.compile(r"(?:^|[.!?]\s+)[a-z]")
"""What a sentence taken out of a step leaves behind: half a sentence, an "and", a small letter."""
_SOME = r"(?:\d+|an?|one|two|three|four|six|several|a few)"
_MONTHS = re.compile(
    rf"\b(?:(?P<low>{_SOME})\s+(?:(?:to|or)\s+(?P<high>{_SOME})\s+)?)?months?\b", re.I
)
_BEFORE = re.compile(r"\b(?:ahead|in advance|before(?:hand)?)\b", re.I)
_FOREVER = re.compile(r"\b(?:forever|indefinitely|for (?:ages|years)|for months)\b", re.I)


@dataclass(frozen=True, slots=True)
class Stated:
    """One sentence that says how long a dish keeps: its words as they are read, and the days at
    most."""

    words: str
    days: float


def stated_keeping(process: Process) -> list[Stated]:
    """What a method says of keeping, each sentence once, without what it says of freezing."""
    found = ((text, _days(_part_of(text, frozen=False))) for text in _advice(process))
    return [Stated(text, days) for text, days in found if days is not None]


def stated_freezing(process: Process) -> list[Stated]:
    """What a method says of how long the dish keeps frozen, which is for its taste."""
    found = (
        (text, _days(_part_of(text, frozen=True)))
        for text in _advice(process)
        if _FROZEN.search(text)
    )
    return [Stated(text, days) for text, days in found if days is not None]


def _advice(process: Process) -> list[str]:
    said = dict.fromkeys(
        s.text for s in process.said if s.operation is None and s.sort in (Sort.ADVICE, Sort.NOTE)
    )
    return [text for text in said if _KEEPS.search(text) or _FROZEN.search(text)]


def _part_of(text: str, frozen: bool) -> str:
    """Of a sentence that speaks of freezing the clauses that do, or those that do not; any other
    whole."""
    if not _FROZEN.search(text):
        return text
    return "; ".join(part for part in _CLAUSES.split(text) if bool(_FROZEN.search(part)) == frozen)


def _days(text: str) -> float | None:
    """The days that a sentence says, the most where it says two numbers; None where it says no
    stretch of days."""
    if _FOREVER.search(text):
        return FOREVER
    if (months := _MONTHS.search(text)) is not None:
        said = (months["high"] or months["low"] or "one").lower()
        return DAYS_OF_A_MONTH * (3.0 if said in ("several", "a few") else number_of(said))
    minutes = minutes_in(_BEFORE.sub("", text))
    return minutes.high / DAY if minutes is not None and minutes.high >= DAY else None


def longer_than(stated: Iterable[Stated], days: int) -> list[Stated]:
    """What is stated and would be longer than the rule."""
    return [one for one in stated if one.days > days]


def shortest(stated: Iterable[Stated], days: int) -> int:
    """The days that count: of the rule, or fewer where the recipe says so."""
    return min([days, *(max(1, int(one.days)) for one in stated)])


def without(text: str, stated: Iterable[Stated]) -> str:
    """A step without the sentences that are not printed; empty where nothing else is said."""
    left = text
    for one in stated:
        left = re.sub(rf"\s*{re.escape(one.words.rstrip('.'))}[.;!]?", "", left, flags=re.I)
    if left == text:
        return text.strip()
    whole = _LOOSE_END.sub(".", _HALF.sub(". ", left))
    return _BEGINNING.sub(lambda found: found[0].upper(), whole.strip())
