"""What is asked of a dish that does not exist yet, as the form of Compose holds it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from pydantic import Field

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.school import School
from fresh_ladle.core.compose.house import MAX_HOUSE_CHARACTERS, House, read_house
from fresh_ladle.core.compose.request import MAX_TO_BUY, ComposeRequest
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.plans.parsing import exclusion_of
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.web.shared.limits import LimitFields, LimitRow, limit_rows
from fresh_ladle.web.shared.typed import number_typed, optional_number, row_id, whole_number

MAX_ROLES, MAX_LEFT = 24, 6


@dataclass(frozen=True, slots=True)
class ComposeFields:
    """The form as it is shown: as it was typed, or fresh."""

    kind: str = "vinaigrette"
    servings: str = "4"
    grams: str = ""
    """What a serving should weigh; empty for what is usual of the kind."""
    house: str = ""
    roles: Mapping[str, str] = field(default_factory=dict)
    today: tuple[str, ...] = ()
    limits: list[LimitRow] = field(default_factory=lambda: limit_rows(())[0])
    school: str = ""
    also: str = ""
    to_buy: str = "2"
    left: tuple[tuple[str, str], ...] = ()
    """What is left of dishes: the number of a recipe and how much of its batch, as typed."""


class ComposeForm(LimitFields):
    """The form as sent. `role` and `on_role` hold one entry for each role of the kind, in one
    order."""

    kind: str = Field(default="vinaigrette", max_length=40)
    servings: str = Field(default="4", max_length=20)
    grams: str = Field(default="", max_length=20)
    house: str = Field(default="", max_length=2 * MAX_HOUSE_CHARACTERS)
    role: list[str] = Field(default_factory=list, max_length=MAX_ROLES)
    on_role: list[str] = Field(default_factory=list, max_length=MAX_ROLES)
    today: list[str] = Field(default_factory=list, max_length=200)
    school: str = Field(default="", max_length=80)
    also: str = Field(default="", max_length=400)
    to_buy: str = Field(default="2", max_length=20)
    left_recipe: list[str] = Field(default_factory=list, max_length=MAX_LEFT)
    left_part: list[str] = Field(default_factory=list, max_length=MAX_LEFT)

    def read_house(self, reader: Reader, region: Region) -> House:
        """What is in the house, and what the cook put on roles. Raises RecipeError for a text that
        is too long."""
        put = [f"{role}: {foods}" for role, foods in self._roles.items() if foods.strip()]
        return read_house("\n".join([self.house, *put]), reader, region, self.today)

    def request(
        self, schools: Mapping[str, School], pantry: Pantry, region: Region
    ) -> ComposeRequest:
        """The request that is meant. Raises RecipeError naming what is wrong."""
        try:
            also = [part for part in self.also.split(",") if part.strip()]
            exclude = frozenset[str]().union(*(exclusion_of(text, pantry) for text in also))
            return ComposeRequest(
                self.kind,
                number_typed(self.servings, "servings"),
                self.targets() if self.nutrient else (),
                schools.get(self.school),
                exclude,
                most_to_buy=whole_number(self.to_buy, "things to buy", 0, MAX_TO_BUY),
                serving_grams=optional_number(self.grams, "grams a serving"),
                region=region,
            )
        except RecipeError:
            raise
        except ValueError as error:
            raise RecipeError(str(error)) from None

    @property
    def left(self) -> list[tuple[int, str]]:
        """The recipes of which something is left, each with how much, as typed."""
        pairs = zip(self.left_recipe, self.left_part, strict=False)
        return [
            (found, part)
            for typed, part in pairs
            if part.strip() and (found := row_id(typed)) is not None
        ]

    @property
    def _roles(self) -> dict[str, str]:
        return dict(zip(self.role, self.on_role, strict=False))

    def shown(self) -> ComposeFields:
        """The form filled with what was typed; limits that did not arrive whole are left empty."""
        fresh = ComposeFields()
        try:
            limits = self.limit_rows or fresh.limits
        except ValueError:
            limits = fresh.limits
        return ComposeFields(
            self.kind,
            self.servings,
            self.grams,
            self.house,
            self._roles,
            tuple(self.today),
            limits,
            self.school,
            self.also,
            self.to_buy,
            tuple(zip(self.left_recipe, self.left_part, strict=False)),
        )
