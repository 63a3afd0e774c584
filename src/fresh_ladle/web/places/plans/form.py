"""What is asked of a plan, as the form beside the plans holds it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from pydantic import Field

from fresh_ladle.core.catalogue.school import SALT_BY_ID, School
from fresh_ladle.core.cautions.allergens import ALLERGENS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.plans.parsing import exclusion_of, target_of, typed_target
from fresh_ladle.core.plans.request import MAX_CHANGES, PlanRequest
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.store.recipes.profiles import Profile
from fresh_ladle.web.shared.limits import LimitFields, LimitRow, limit_rows
from fresh_ladle.web.shared.typed import number_typed, whole_number


@dataclass(frozen=True, slots=True)
class PlanFields:
    """The form as it is shown, filled with what was typed or with what a profile asks for."""

    limits: list[LimitRow] = field(default_factory=lambda: limit_rows(())[0])
    more: str = ""
    school: str = ""
    salt_school: str = ""
    exclude: tuple[str, ...] = ()
    also: str = ""
    lock: tuple[str, ...] = ()
    max_changes: str = "3"
    most_steps: str = "2"
    chance: str = "0.8"
    towards: bool = False
    by_weight: bool = False
    new_allergens: bool = False


class PlanForm(LimitFields):
    """The form as sent. `more` holds further limits typed out, `also` foods and allergens that must
    not be in it."""

    more: str = Field(default="", max_length=400)
    school: str = Field(default="", max_length=80)
    salt_school: str = Field(default="", max_length=80)
    exclude: list[str] = Field(default_factory=list, max_length=40)
    also: str = Field(default="", max_length=400)
    lock: list[str] = Field(default_factory=list, max_length=200)
    max_changes: str = Field(default="3", max_length=20)
    most_steps: str = Field(default="2", max_length=20)
    chance: str = Field(default="0.8", max_length=20)
    towards: bool = False
    by_weight: bool = False
    identity_free: bool = False
    new_allergens: bool = False

    def request(self, schools: Mapping[str, School], pantry: Pantry) -> PlanRequest:
        """The request that is meant. Raises RecipeError naming what is wrong."""
        try:
            targets = [
                *self.targets(),
                *(target_of(text) for text in _listed(self.more.replace(";", ","))),
            ]
            exclude = [exclusion_of(text, pantry) for text in (*self.exclude, *_listed(self.also))]
            return PlanRequest(
                tuple(targets),
                schools.get(self.school),
                SALT_BY_ID.get(self.salt_school),
                frozenset[str]().union(*exclude),
                frozenset(self.lock),
                whole_number(self.max_changes, "changes", 1, MAX_CHANGES),
                number_typed(self.most_steps, "taste"),
                number_typed(self.chance, "chance"),
                towards=self.towards,
                by_weight=self.by_weight,
                identity_free=self.identity_free,
                new_allergens=self.new_allergens,
            )
        except RecipeError:
            raise
        except ValueError as error:
            raise RecipeError(str(error)) from None

    def shown(self) -> PlanFields:
        """The form filled with what was typed; rows that did not arrive whole are left empty."""
        try:
            limits = self.limit_rows or PlanFields().limits
        except ValueError:
            limits = PlanFields().limits
        return PlanFields(
            limits,
            self.more,
            self.school,
            self.salt_school,
            tuple(self.exclude),
            self.also,
            tuple(self.lock),
            self.max_changes,
            self.most_steps,
            self.chance,
            self.towards,
            self.by_weight,
            self.new_allergens,
        )


def asked_by(profile: Profile, pantry: Pantry) -> PlanFields:
    """The form as a profile fills it."""
    limits, left = limit_rows(profile.targets)
    foods = [pantry[e].kitchen_name for e in sorted(profile.exclusions) if e not in ALLERGENS]
    return PlanFields(
        limits,
        ", ".join(typed_target(target) for target in left),
        profile.school,
        exclude=tuple(e for e in sorted(profile.exclusions) if e in ALLERGENS),
        also=", ".join(foods),
    )


def _listed(text: str) -> list[str]:
    return [part for part in text.split(",") if part.strip()]
