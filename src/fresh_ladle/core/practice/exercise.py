"""What an exercise is, whatever it asks."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.ranges import Range


class NoExercise(Refused):
    """Nothing to ask of this kind can be made from what there is."""


@dataclass(frozen=True, slots=True)
class Exercise:
    """One question with its answer. Where `choices` are given one of them is right, the one at
    `right`; else a low and a high are asked for, in `unit`. `answer` is the figure behind it with
    its 90% range; `about` what it is asked of, by which it is known again; `subject` the group of
    foods, or the figure, that an eye may be off for."""

    kind: str
    question: str
    unit: str
    answer: Range
    working: tuple[str, ...]
    about: str
    subject: str
    choices: tuple[str, ...] = ()
    right: int = -1

    def __post_init__(self) -> None:
        if self.choices and not 0 <= self.right < len(self.choices):
            raise ValueError("one of the choices is right")
        if len(set(self.choices)) != len(self.choices):
            raise ValueError("the same choice stands twice")
