"""Limits as a form shows and sends them: a row for each figure, wherever limits are typed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from pydantic import BaseModel, Field

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE, NUTRIENT_IDS
from fresh_ladle.core.nutrients.targets import Basis, Firmness, Side, Target
from fresh_ladle.web.shared.typed import number_typed

MAX_LIMIT = 100_000
IN_SIGHT = (*HEADLINE, "saturated_fat_g", "added_sugars_g")
"""Figures whose limits are asked for at once; the others are behind a fold until they have one."""


@dataclass(frozen=True, slots=True)
class LimitRow:
    """One figure's limits as typed; an empty field is no limit."""

    nutrient: str
    least: str = ""
    most: str = ""
    basis: Basis = Basis.SERVING
    firmness: Firmness = Firmness.HARD

    @property
    def name(self) -> str:
        return BY_ID[self.nutrient].name

    @property
    def folded(self) -> bool:
        return self.nutrient not in IN_SIGHT

    @property
    def unit(self) -> str:
        return BY_ID[self.nutrient].unit

    def targets(self) -> list[Target]:
        """Raises ValueError naming the figure."""
        found = [
            Target(self.nutrient, side, self._limit(typed), self.basis, self.firmness)
            for side, typed in ((Side.AT_LEAST, self.least), (Side.AT_MOST, self.most))
            if typed.strip()
        ]
        if len(found) == 2 and found[0].limit > found[1].limit:
            raise Refused(
                f"{BY_ID[self.nutrient].said} cannot be at least {found[0].limit:g} and at most"
                f" {found[1].limit:g}"
            )
        return found

    def _limit(self, typed: str) -> float:
        value = number_typed(typed.strip(), self.name)
        if not 0 <= value <= MAX_LIMIT:
            raise Refused(
                f"{BY_ID[self.nutrient].said}: {typed[:20]} is not a limit a serving can have"
            )
        return value


class LimitFields(BaseModel):
    """The rows as sent: each field once for every row, in the same order."""

    nutrient: list[str] = Field(default_factory=list, max_length=40)
    least: list[str] = Field(default_factory=list, max_length=40)
    most: list[str] = Field(default_factory=list, max_length=40)
    basis: list[Basis] = Field(default_factory=list, max_length=40)
    firmness: list[Firmness] = Field(default_factory=list, max_length=40)

    @property
    def limit_rows(self) -> list[LimitRow]:
        """Raises ValueError when the rows did not arrive whole."""
        fields = (self.nutrient, self.least, self.most, self.basis, self.firmness)
        if len({len(field) for field in fields}) != 1 or not set(self.nutrient) <= BY_ID.keys():
            raise Refused("the limits did not arrive whole: load the page again")
        return [LimitRow(*row) for row in zip(*fields, strict=True)]

    def targets(self) -> tuple[Target, ...]:
        """Raises ValueError naming the figure that is wrong."""
        return tuple(target for row in self.limit_rows for target in row.targets())


def limit_rows(targets: Iterable[Target]) -> tuple[list[LimitRow], list[Target]]:
    """Targets as the rows of a form, one for each figure that has one, and those no row can hold.

    A row holds one basis and one firmness: what differs from the first limit of its figure does not
    fit in."""
    rows = {nutrient: LimitRow(nutrient) for nutrient in NUTRIENT_IDS}
    left = []
    for target in targets:
        row = rows.get(target.nutrient)
        taken = row is not None and bool(row.least if target.side is Side.AT_LEAST else row.most)
        other = (
            row is not None
            and bool(row.least or row.most)
            and (row.basis, row.firmness) != (target.basis, target.firmness)
        )
        if row is None or taken or other:
            left.append(target)
            continue
        typed = f"{target.limit:g}"
        least, most = (typed, row.most) if target.side is Side.AT_LEAST else (row.least, typed)
        rows[target.nutrient] = LimitRow(
            target.nutrient, least, most, target.basis, target.firmness
        )
    return list(rows.values()), left
