"""The method of a recipe: its steps as they were read, each with its lines, and changed as text."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, Response
from pydantic import BaseModel, Field

from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.recipes.recipe import MAX_LINES, Recipe, RecipeError
from fresh_ladle.core.recipes.ruling import ReadAs, Ruling, still_said, with_ruling, without_ruling
from fresh_ladle.core.service.naming import names_of_lines
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.counter.response import Revision, edit_response
from fresh_ladle.web.shared.method_view import work_row, work_view
from fresh_ladle.web.shared.page import load_work, page
from fresh_ladle.web.state import workbench_of

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
        "places/counter/drawers/method.html",
        recipe=recipe,
        work=work_view(now, workbench.knowledge.handouts, former) if recipe.method else None,
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
        return replace(recipe, method=steps, rulings=still_said(recipe.rulings, steps))

    return edit_response(request, recipe_id, revision, change)


class RulingForm(BaseModel):
    """A step set right: which it is, what it is told to be, and the lines it is done to; `as_read`
    takes it back."""

    words: str = Field(max_length=MOST_METHOD)
    nth: int = Field(ge=0, le=MOST_METHOD)
    read_as: ReadAs | Literal["as it reads"]
    line: list[str] = Field(default_factory=list, max_length=MAX_LINES)
    revision: int


@router.get("/steps", response_class=HTMLResponse)
def step_form(request: Request, recipe_id: int, place: Annotated[int, Query(ge=0)]) -> HTMLResponse:
    """What one step can be told to be: the one at a place among all that was read."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
    now = workbench.appraise(work.draft.recipe)
    return page(
        request,
        "places/counter/method_step_form.html",
        row=work_row(now, place),
        lines=names_of_lines(now.portions).items(),
        read_as=list(ReadAs),
        revision=work.draft.revision,
        recipe_id=recipe_id,
    )


@router.post("/steps", response_class=HTMLResponse)
def set_step_right(
    request: Request, recipe_id: int, form: Annotated[RulingForm, Form()]
) -> Response:
    """Says what one step is, where it was read otherwise."""

    def change(recipe: Recipe) -> Recipe:
        if not isinstance(form.read_as, ReadAs):
            return replace(recipe, rulings=without_ruling(recipe.rulings, form.words, form.nth))
        for line in form.line:
            recipe.line(line)
        told = Ruling(form.words, form.nth, form.read_as, tuple(form.line))
        if not still_said([told], recipe.method):
            raise RecipeError("the method does not say this any more")
        return replace(recipe, rulings=with_ruling(recipe.rulings, told))

    return edit_response(request, recipe_id, form.revision, change)
