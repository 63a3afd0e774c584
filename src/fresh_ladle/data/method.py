"""Loads what methods are read with: what verbs mean, and what parts from what; checked."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.method.lexicon import Lexicon, Sense, VerbClass, said_pattern
from fresh_ladle.core.method.separating import ShareRule, ShareTable
from fresh_ladle.core.method.states import COOKED, CUT_SMALL
from fresh_ladle.core.ranges import Range
from fresh_ladle.data.tables import DataError, non_negative, rows, split


@lru_cache(maxsize=1)
def load_lexicon() -> Lexicon:
    """Raises DataError for a verb without a class, or a head whose last sense is not for always."""
    classes: dict[str, VerbClass] = {}
    for row in rows("verb_classes.csv"):
        for verb in split(row["verbs"]):
            if verb in classes:
                raise DataError(f"verb_classes.csv: {verb!r} is of two classes")
            classes[verb] = VerbClass(row["class"])
    senses: dict[str, list[Sense]] = {}
    for number, row in enumerate(rows("verb_senses.csv"), start=2):
        if row["verb"] not in classes:
            raise DataError(f"verb_senses.csv row {number}: no class has a verb {row['verb']!r}")
        sense = Sense(row["head"], said_pattern(split(row["said"])), row["about"], row["verb"])
        senses.setdefault(row["head"], []).append(sense)
    for head, of_head in senses.items():
        *others, last = of_head
        if last.said is not None or last.about:
            raise DataError(f"verb_senses.csv: {head!r} has no sense for always at its end")
        if any(s.said is None and not s.about for s in others):
            raise DataError(f"verb_senses.csv: a sense of {head!r} can never be reached")
    return Lexicon({head: tuple(of_head) for head, of_head in senses.items()}, classes)


_GROUPS_OF_VERBS = {
    "cooks": COOKED,
    "cuts": CUT_SMALL | {"halve", "mash", "crush", "grind", "mince", "blend", "purée"},
}
"""What a table may name for many verbs: all that cook a plant, all that cut small."""


def verbs_named(named: Sequence[str], place: str) -> list[str]:
    """The verbs that a table names. Raises DataError for one that is none."""
    found = [verb for name in named for verb in sorted(_GROUPS_OF_VERBS.get(name, {name}))]
    if unknown := [verb for verb in found if verb not in load_lexicon().classes]:
        raise DataError(f"{place}: no verb is called {', '.join(unknown)}")
    return found


def load_shares(pantry: Pantry) -> ShareTable:
    """Raises DataError for a share out of order, or foods that are not known."""
    groups = {food.group for food in pantry}
    found = []
    for number, row in enumerate(rows("fates.csv"), start=2):
        place = f"fates.csv row {number} ({row['treatment']}, {row['what']})"
        value, low, high = (non_negative(row[c], place) for c in ("share", "low", "high"))
        if not low <= value <= high <= 1:
            raise DataError(f"{place}: {low:g} ≤ {value:g} ≤ {high:g} ≤ 1 does not hold")
        foods = split(row["foods"])
        unknown = [f for f in foods if f not in groups and f not in pantry and "*" not in f]
        if unknown:
            raise DataError(f"{place}: no food or group is called {unknown[0]!r}")
        found.append(
            ShareRule(
                row["treatment"], row["what"], foods, Range(value, low, high), row["per"] == "food",
                Grade(row["grade"]), row["source"],
            )
        )  # fmt: skip
    return ShareTable(tuple(found))
