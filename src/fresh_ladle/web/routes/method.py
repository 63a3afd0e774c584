"""The method of a recipe: its steps as they were read, each with its lines, and changed as text."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, Response

from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.web.guarded import guarded_router
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.routes.counter_response import Revision, edit_response
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.views.method import step_views

router = guarded_router("/recipes/{recipe_id}/method")
MOST_METHOD = 20_000
"""Characters of a method."""


@router.get("", response_class=HTMLResponse)
def method(request: Request, recipe_id: int) -> HTMLResponse:
    """The steps, in the drawer."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    recipe = work.draft.recipe
    former = former_names(work.original.recipe, recipe)
    now = workbench.appraise(recipe, former)
    return page(
        request,
        "drawer_method.html",
        recipe=recipe,
        steps=step_views(now, former),
        revision=work.draft.revision,
        recipe_id=recipe_id,
    )


@router.post("", response_class=HTMLResponse)
def change_method(
    request: Request,
    recipe_id: int,
    revision: Revision,
    text: Annotated[str, Form(max_length=MOST_METHOD)] = "",
) -> Response:
    """The method as it was typed, a step to a line."""
    steps = tuple(step for line in text.splitlines() if (step := line.strip()))

    def change(recipe: Recipe) -> Recipe:
        return replace(recipe, method=steps)

    return edit_response(request, recipe_id, revision, change)
