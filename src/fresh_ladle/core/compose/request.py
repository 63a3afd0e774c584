"""What is asked of a dish that does not exist yet."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.catalogue.school import School
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.recipe import MAX_SERVINGS, RecipeError
from fresh_ladle.core.recipes.region import Region

ALWAYS = ("water", "table-salt", "pepper-black")
"""What a kitchen is taken to have unless it says that it has none."""
MAX_TO_BUY = 6


@dataclass(frozen=True, slots=True)
class ComposeRequest:
    """A kind of dish, how much of it, and what it has to hold.

    `exclude` names allergens or food keys that may not even perhaps come in. `chance` is the
    probability with which each target must be met, given the doubt. `most_to_buy` foods may be
    asked for that are not in the house. `always` are food keys that count as being there. Raises
    RecipeError for a number or a kind that cannot be."""

    kind: str
    servings: float
    targets: tuple[Target, ...] = ()
    school: School | None = None
    exclude: frozenset[str] = frozenset()
    chance: float = 0.8
    most_to_buy: int = 2
    serving_grams: float | None = None
    always: tuple[str, ...] = ALWAYS
    region: Region = Region.US

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise RecipeError(
                f"no kind of dish is called {self.kind!r}; there are {', '.join(KINDS)}"
            )
        if not 1 <= self.servings <= MAX_SERVINGS:
            raise RecipeError(
                f"a dish is composed for 1 to {MAX_SERVINGS} servings; {self.servings:g} was asked"
            )
        if not 0.5 <= self.chance <= 0.99:
            raise RecipeError(f"a chance lies between 0.5 and 0.99; {self.chance:g} was asked")
        if not 0 <= self.most_to_buy <= MAX_TO_BUY:
            raise RecipeError(
                f"0 to {MAX_TO_BUY} things can be bought; {self.most_to_buy} was asked"
            )
        if self.serving_grams is not None and not 5 <= self.serving_grams <= 1000:
            raise RecipeError(f"a serving weighs 5 to 1,000 g; {self.serving_grams:g} was asked")

    @property
    def grams_per_serving(self) -> float:
        return self.serving_grams or KINDS[self.kind].serving_g

    @property
    def batch_grams(self) -> float:
        """What the finished dish should weigh."""
        return self.servings * self.grams_per_serving
