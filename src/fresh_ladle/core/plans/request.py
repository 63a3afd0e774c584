"""What is asked of a plan."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.catalogue.school import SaltSchool, School
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.recipes.recipe import RecipeError

MAX_CHANGES, MAX_TASTE_STEPS = 12, 6.0


@dataclass(frozen=True, slots=True)
class PlanRequest:
    """Targets, which school the dish must end in, what stays, and how far taste may go.

    With `towards`, what the school would not have may stay where taste needs it; else none of it
    does. `by_weight` lets amounts be any round weight, for who would rather weigh than measure.
    With `identity_free`, what gives the dish its name may go as well; with `new_allergens` what
    comes in may bring allergens the dish did not hold.

    `exclude` names allergens or food keys that the dish must end without and that nothing may bring
    in. `locked` holds ids of lines that stay as they are. `chance` is the probability with which
    each hard target must be met, given the doubt. `most_steps` bounds every taste, in noticeable
    steps from memory. Raises RecipeError for a number out of bounds."""

    targets: tuple[Target, ...]
    school: School | None = None
    salt_school: SaltSchool | None = None
    exclude: frozenset[str] = frozenset()
    locked: frozenset[str] = frozenset()
    max_changes: int = 3
    most_steps: float = 2.0
    chance: float = 0.8
    seconds: float = 20.0
    towards: bool = False
    by_weight: bool = False
    identity_free: bool = False
    new_allergens: bool = False

    @property
    def hard_targets(self) -> tuple[Target, ...]:
        """The targets that must be kept; the others are kept as far as taste allows."""
        return tuple(t for t in self.targets if not t.soft)

    def __post_init__(self) -> None:
        if not 1 <= self.max_changes <= MAX_CHANGES:
            raise RecipeError(
                f"a plan makes 1 to {MAX_CHANGES} changes; {self.max_changes} was asked"
            )
        if not 0.5 <= self.chance <= 0.99:
            raise RecipeError(f"a chance lies between 0.5 and 0.99; {self.chance:g} was asked")
        if not 0.5 <= self.most_steps <= MAX_TASTE_STEPS:
            raise RecipeError(
                f"taste may go 0.5 to {MAX_TASTE_STEPS:g} steps; {self.most_steps:g} was asked"
            )
