"""What exercises are made from: all that is known of foods, and recipes worked out. What takes long
is worked out once."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from random import Random

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.practice.exercise import NoExercise
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.swaps.apply import AppliedSwap, applied_swap, swaps_for
from fresh_ladle.core.whole.appraisal import Appraisal, appraise

MOST_SWAPS = 14


class Ground:
    """Recipes of a practice, and the knowledge to ask about them."""

    def __init__(self, knowledge: Knowledge, dishes: Sequence[Appraisal]) -> None:
        self.knowledge, self.dishes = knowledge, tuple(dishes)
        self._swaps: dict[tuple[int, str], list[AppliedSwap]] = {}
        self.work_out = lru_cache(maxsize=2048)(lambda recipe: appraise(recipe, knowledge))

    def dish(self, dice: Random) -> tuple[int, Appraisal]:
        """One of the recipes, with its place among them. Raises NoExercise where there is none."""
        if not self.dishes:
            raise NoExercise("there is no recipe to ask about yet")
        place = dice.randrange(len(self.dishes))
        return place, self.dishes[place]

    def swaps(self, place: int, line_id: str) -> list[AppliedSwap]:
        """The swaps of one line of a recipe, worked out."""
        if (place, line_id) not in self._swaps:
            dish, made = self.dishes[place], []
            for swap in swaps_for(dish.recipe.line(line_id), dish.recipe, self.knowledge)[
                :MOST_SWAPS
            ]:
                try:
                    made.append(applied_swap(dish, line_id, swap, self.knowledge, dish))
                except RecipeError:
                    continue  # Too little of the line to take some of it away.
            self._swaps[place, line_id] = made
        return self._swaps[place, line_id]
