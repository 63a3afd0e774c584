"""What a person says one step of a method is, where it was read otherwise."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum


class ReadAs(StrEnum):
    """What a step can be told to be."""

    WORK = "work"
    WAIT = "wait"
    ADVICE = "advice"
    NO_WORK = "no work"


AS_READ = "as it reads"
"""What takes a ruling back."""


@dataclass(frozen=True, slots=True)
class Ruling:
    """One step set right: its words, and which of the steps with these words it is, counted from 0.
    `lines` are the ids of the lines it is done to; none for what was read."""

    words: str
    nth: int
    read_as: ReadAs
    lines: tuple[str, ...] = ()

    def is_of(self, words: str, nth: int) -> bool:
        return self.words == words and self.nth == nth


def with_ruling(rulings: Iterable[Ruling], new: Ruling) -> tuple[Ruling, ...]:
    """The rulings with one more, in place of any of the same step."""
    return (*(r for r in rulings if not r.is_of(new.words, new.nth)), new)


def without_ruling(rulings: Iterable[Ruling], words: str, nth: int) -> tuple[Ruling, ...]:
    """The rulings without that of a step, which is read by its words again."""
    return tuple(r for r in rulings if not r.is_of(words, nth))


def still_said(rulings: Iterable[Ruling], method: Sequence[str]) -> tuple[Ruling, ...]:
    """The rulings whose words a method still says."""
    text = "\n".join(method).lower()
    return tuple(r for r in rulings if r.words.lower() in text)
