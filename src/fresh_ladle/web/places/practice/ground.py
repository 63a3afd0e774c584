"""The recipes of the practice as ground for exercises, worked out once for as long as nothing has
changed."""

from __future__ import annotations

from fresh_ladle.core.practice.ground import Ground
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import ids_by_title
from fresh_ladle.web.state import Workbench

MOST_RECIPES = 40


def ground_of(workbench: Workbench) -> Ground:
    with workbench.store() as connection:
        works = [
            draft(connection, recipe_id) for recipe_id in ids_by_title(connection, MOST_RECIPES)
        ]
    made_of = (workbench.stock_mark.state, tuple((work.recipe_id, work.revision) for work in works))
    if workbench.ground is None or workbench.ground[0] != made_of:
        dishes = [workbench.appraise(work.recipe) for work in works]
        workbench.ground = (made_of, Ground(workbench.knowledge, dishes))
    return workbench.ground[1]
