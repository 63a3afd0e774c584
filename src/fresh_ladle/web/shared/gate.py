"""Before a version leaves the kitchen: what must not be in it for whom it is made stops it, until
somebody says why."""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.exclusions import Broken, broken_exclusions
from fresh_ladle.store.recipes.cards import reasons_given
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.profiles import profile

MOST_REASON = 200


@dataclass(frozen=True, slots=True)
class Gate:
    """For whom a version is, what of that it breaks, and the reason that was given; `whom` is empty
    without targets."""

    whom: str
    broken: Sequence[Broken]
    reason: str = ""

    @property
    def words(self) -> str:
        """What is broken, as it is kept with the reason."""
        return "; ".join(one.said for one in self.broken)

    @property
    def shut(self) -> bool:
        """Whether it stops what would go out."""
        return bool(self.broken) and not self.reason


def gate_of(
    connection: sqlite3.Connection, recipe_id: int, version_number: int, dish: Appraisal
) -> Gate:
    """The gate of one version of a recipe, by the profile the recipe is for. Raises
    RecipeMissing."""
    whom = profile(connection, draft(connection, recipe_id).profile_id)
    if whom is None:
        return Gate("", ())
    gate = Gate(whom.name, broken_exclusions(dish, whom.exclusions))
    return Gate(
        gate.whom,
        gate.broken,
        reasons_given(connection, recipe_id, version_number).get(gate.words, ""),
    )


def let_through(gate: Gate) -> None:
    """Raises Refused, with what is broken, where the gate is shut."""
    if gate.shut:
        raise Refused(
            f"this is for “{gate.whom}”, and it holds {gate.words}. To hand it out all the same,"
            " say why on its card"
        )
