"""The steps of a method as they were read: what each does, for how long, how hot, with what, to which lines."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.service.equipment import equipment_of
from fresh_ladle.core.service.method import UNREAD, actions
from fresh_ladle.core.service.naming import changed_words, known_foods, names_of_lines
from fresh_ladle.core.service.words import stretch_words


@dataclass(frozen=True, slots=True)
class MethodStep:
    """One step. `times` and `celsius` are what it says, `uses` the equipment its verbs need, `names` the lines it
    touches as they are called now, with their ids in `lines`. `read` is whether any of its verbs was understood;
    `changed` what it names that is something else now, or gone."""

    text: str
    lines: tuple[str, ...]
    names: tuple[str, ...]
    times: tuple[str, ...]
    celsius: tuple[float, ...]
    uses: tuple[str, ...]
    changed: str
    read: bool


def method_steps(
    recipe: Recipe, portions: Sequence[Portion], work: KitchenWork, former: Mapping[str, str] | None = None
) -> list[MethodStep]:
    """The steps of a recipe in their order; `former` are the names its lines had before, by id."""
    before = former or {}
    names = names_of_lines(portions)
    found = []
    read = actions(recipe.method, recipe.lines, known_foods(portions, before), work)
    for number, text in enumerate(recipe.method):
        own = [action for action in read if action.step == number]
        spoken = tuple(dict.fromkeys(line for action in own if action.named for line in action.lines))
        found.append(
            MethodStep(
                text,
                spoken,
                tuple(names[line] for line in spoken if line in names),
                tuple(stretch_words(action.minutes) for action in own if action.minutes is not None),
                tuple(dict.fromkeys(action.celsius for action in own if action.celsius is not None)),
                tuple(dict.fromkeys(uses for action in own if (uses := equipment_of(action)))),
                changed_words(text, names, before),
                any(action.verb != UNREAD for action in own),
            )
        )
    return found
