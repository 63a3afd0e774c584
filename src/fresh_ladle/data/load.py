"""Reads the shipped figures into core types and refuses anything that does not add up.

Every problem names the file, the row and the column, so that a wrong figure is found where it
stands."""

from __future__ import annotations

from functools import lru_cache

from fresh_ladle.core.amounts.ambiguity import Ambiguity
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.flavor.windows import Window
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.nutrients.targets import StartingPoint
from fresh_ladle.core.plans.parsing import target_of
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.data.benching import load_answers, load_standings
from fresh_ladle.data.cautions import load_cautions
from fresh_ladle.data.compiled import kept
from fresh_ladle.data.composing import load_composing
from fresh_ladle.data.foods import load_pantry
from fresh_ladle.data.handouts import load_handouts
from fresh_ladle.data.method import load_lexicon, load_shares
from fresh_ladle.data.moves import load_food_pitfalls, load_repairs, load_stretches, load_swaps
from fresh_ladle.data.preparations import load_preparations
from fresh_ladle.data.reach import load_reach
from fresh_ladle.data.sense import load_sense
from fresh_ladle.data.service import load_kitchen_work
from fresh_ladle.data.smells import load_likeness
from fresh_ladle.data.tables import DataError, non_negative, rows, toml_of


@lru_cache(maxsize=1)
def load_doubts() -> tuple[Ambiguity, ...]:
    """What bare words could mean. Raises DataError when a food does not exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("ambiguities.toml")["ambiguity"]:
        for key in (*row.get("foods", {}), *row.get("also", ())):
            if key not in pantry:
                raise DataError(f"ambiguities.toml ({row['id']}): no food is called {key!r}")
        found.append(
            Ambiguity(
                row["id"],
                row["question"],
                row.get("foods", {}),
                row.get("forms", {}),
                tuple(row.get("families", ())),
                frozenset(row.get("also", ())),
                frozenset(row["tells"]),
                frozenset(row.get("tells_before", ())),
            )
        )
    return tuple(found)


@lru_cache(maxsize=1)
def load_windows() -> dict[str, dict[str, Window]]:
    """Well-liked windows by kind of dish and axis. Raises DataError for an unknown kind or axis, or
    ends out of order."""
    found: dict[str, dict[str, Window]] = {kind: {} for kind in KINDS}
    for number, row in enumerate(rows("windows.csv"), start=2):
        place = f"windows.csv row {number} ({row['kind']}, {row['axis']})"
        low, high = (non_negative(row[c], f"{place}, {c}") for c in ("low", "high"))
        if row["kind"] not in KINDS or row["axis"] not in AXIS_IDS or not low < high:
            raise DataError(f"{place}: no such kind or axis, or {low} < {high} does not hold")
        if row["axis"] in found[row["kind"]]:
            raise DataError(f"{place}: stands twice")
        found[row["kind"]][row["axis"]] = Window(
            row["kind"], row["axis"], low, high, Grade(row["grade"]), row["source"]
        )
    return found


@lru_cache(maxsize=1)
def load_starting_points() -> tuple[StartingPoint, ...]:
    """Starting points for target profiles. Raises DataError for a target that cannot be read or a
    missing source."""
    found = []
    for row in toml_of("starting_points.toml")["starting_point"]:
        place = f"starting_points.toml ({row['name']})"
        try:
            targets = tuple(target_of(t) for t in row["targets"])
        except ValueError as error:
            raise DataError(f"{place}: {error}") from None
        if not row["source"] or not targets:
            raise DataError(f"{place}: a source and at least one target are needed")
        found.append(
            StartingPoint(
                row["name"], row["eaten_as"], targets, row["source"], Grade(row["grade"]).value
            )
        )
    return tuple(found)


@lru_cache(maxsize=1)
def _shipped() -> tuple[Knowledge, Reader]:
    return kept("shipped", _built)


def load_knowledge() -> Knowledge:
    """All that ships."""
    return _shipped()[0]


def load_reader() -> Reader:
    """The reader of lines over all that ships."""
    return _shipped()[1]


def _built() -> tuple[Knowledge, Reader]:
    """All that ships, from its tables, with the reader over it."""
    knowledge = Knowledge(
        load_pantry(),
        load_preparations(),
        load_swaps(),
        load_cautions(),
        load_doubts(),
        load_windows(),
        load_repairs(),
        load_food_pitfalls(),
        load_stretches(load_pantry()),
        load_composing(load_pantry()),
        load_likeness(),
        load_answers(load_pantry()),
        load_standings(load_pantry()),
        load_kitchen_work(load_pantry()),
        load_handouts(load_pantry()),
        load_lexicon(),
        load_shares(load_pantry()),
        load_reach(),
        load_sense(load_pantry()),
    )
    return knowledge, Reader(knowledge.pantry, knowledge.preparations)
