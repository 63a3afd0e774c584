"""A target profile as its form shows and sends it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from pydantic import Field

from fresh_ladle.core.cautions.allergens import ALLERGENS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.plans.parsing import exclusion_of
from fresh_ladle.store.recipes.profiles import Profile
from fresh_ladle.web.shared.limits import LimitFields, LimitRow, limit_rows

EatenAs = Literal["dressing", "dip", "spread", "side", "main", "snack"]


@dataclass(frozen=True, slots=True)
class ProfileFields:
    """The form as it is shown. `id` is empty for a new profile; `foods_out` are kitchen names with
    commas between."""

    id: str = ""
    name: str = ""
    eaten_as: str = ""
    school: str = ""
    note: str = ""
    out: tuple[str, ...] = ()
    foods_out: str = ""
    limits: list[LimitRow] = field(default_factory=lambda: limit_rows(())[0])
    begun: bool = False


class ProfileForm(LimitFields):
    """The form as sent."""

    id: str = Field(default="", max_length=20)
    name: str = Field(default="", max_length=80)
    eaten_as: EatenAs
    school: str = Field(default="", max_length=80)
    note: str = Field(default="", max_length=200)
    out: list[str] = Field(default_factory=list, max_length=40)
    foods_out: str = Field(default="", max_length=400)
    recipe: str = Field(default="", max_length=20)

    def exclusions(self, pantry: Pantry) -> frozenset[str]:
        """Ticked allergens and typed foods. Raises ValueError for a food nobody knows."""
        ticked = set(self.out).intersection(ALLERGENS)
        typed = [part.strip() for part in self.foods_out.split(",") if part.strip()]
        return frozenset(ticked).union(*(exclusion_of(part, pantry) for part in typed))

    def shown(self) -> ProfileFields:
        """Everything as it was typed; rows that did not arrive whole are left empty."""
        try:
            limits = self.limit_rows or ProfileFields().limits
        except ValueError:
            limits = ProfileFields().limits
        return ProfileFields(
            self.id,
            self.name,
            self.eaten_as,
            self.school,
            self.note,
            tuple(self.out),
            self.foods_out,
            limits,
            begun=True,
        )


def fields_of(profile: Profile, pantry: Pantry) -> ProfileFields:
    """The form as a profile, or a starting point, fills it."""
    foods = [e for e in sorted(profile.exclusions) if e not in ALLERGENS]
    return ProfileFields(
        str(profile.id or ""),
        profile.name,
        profile.eaten_as,
        profile.school,
        profile.note,
        tuple(e for e in sorted(profile.exclusions) if e in ALLERGENS),
        ", ".join(food.kitchen_name if (food := pantry.get(e)) else e for e in foods),
        limit_rows(profile.targets)[0],
        begun=True,
    )
