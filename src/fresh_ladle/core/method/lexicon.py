"""The verbs of a kitchen: what a word means as an order, by what else is said and by what it is
done to."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum


class VerbClass(StrEnum):
    PREPARE = "prepare"
    HEAT = "heat"
    COOL = "cool"
    WAIT = "wait"
    MERGE = "merge"
    PART = "part"
    PLATE = "plate"


@dataclass(frozen=True, slots=True)
class Sense:
    """One meaning of a head word. It holds where one of `said` stands in the clause and what it is
    done to is of `about` (a group of foods, or the first word of a food's key); empty for
    always."""

    head: str
    said: re.Pattern[str] | None
    about: str
    verb: str


@dataclass(frozen=True, eq=False)
class Lexicon:
    """All verbs. `senses` by head, in the order they are tried."""

    senses: Mapping[str, tuple[Sense, ...]] = field(default_factory=dict)
    classes: Mapping[str, VerbClass] = field(default_factory=dict)

    def heads_of(self, word: str) -> tuple[Sense, ...]:
        """The senses of a head; of "pressure-cook" those of "cook"."""
        return self.senses.get(word) or self.senses.get(word.rpartition("-")[2], ())

    def base_of(self, word: str) -> str | None:
        """The head that a word is the -ing form of; None where it is none."""
        if not word.endswith("ing") or len(word) < 6:
            return None
        bare = word[:-3]
        for base in (bare, f"{bare}e", bare[:-1] if bare[-1] == bare[-2] else bare):
            if base in self.senses:
                return base
        return None

    def verb(self, head: str, clause: str, about: Iterable[str]) -> str:
        """The verb that a head means in its clause, done to foods of these groups and kinds."""
        kinds, senses = set(about), self.heads_of(head)
        for sense in senses:
            if sense.said is not None and not sense.said.search(clause):
                continue
            if sense.about and sense.about not in kinds:
                continue
            return sense.verb
        return senses[-1].verb


def said_pattern(words: Iterable[str]) -> re.Pattern[str] | None:
    """One pattern for any of these words, whole; None for none."""
    parts = [re.escape(w).replace(r"\ ", r"\s+") for w in words if w]
    return re.compile(rf"\b(?:{'|'.join(parts)})\b", re.I) if parts else None
