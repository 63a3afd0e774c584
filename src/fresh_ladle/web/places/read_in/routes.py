"""Read-in: paste a recipe, see what was understood, mend it, keep it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Any

from fastapi import Form, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.nutrients.wording import grams_text
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.page import ReadLine
from fresh_ladle.core.page.recipe_text import RecipeReading, read_recipe, recipe_of
from fresh_ladle.core.page.rows import one_row_each, page_text
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.recipes.ruling import ReadAs
from fresh_ladle.formats.limits import MAX_FILE_BYTES, FileError
from fresh_ladle.store.recipes.drafts import create_recipe
from fresh_ladle.store.recipes.profiles import all_profiles
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.read_in.form import PreviewForm
from fresh_ladle.web.places.read_in.view import MARKS, paste_rows, read_in_view
from fresh_ladle.web.shared.method_view import work_view
from fresh_ladle.web.shared.page import chosen_targets, page
from fresh_ladle.web.shared.sample import SAMPLE
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router("/read-in")
MAX_SHOWN_AGAIN = 60_000
"""Characters of what was pasted that are shown again when it could not be read."""


@router.get("", response_class=HTMLResponse)
def form(request: Request, sample: bool = False) -> HTMLResponse:
    return _paste_page(request, SAMPLE if sample else "")


def _paste_page(request: Request, text: str, error: str = "") -> HTMLResponse:
    """The page to paste into, with what was pasted and why it could not be read."""
    with workbench_of(request).store() as connection:
        region = settings(connection).region
    return page(
        request,
        "places/read_in/page.html",
        422 if error else 200,
        text=text,
        error=error,
        region=region.value,
        place="read-in",
    )


@router.post("", response_class=HTMLResponse)
def look(
    request: Request,
    text: Annotated[str, Form()] = "",
    region: Annotated[Region, Form()] = Region.US,
    file: UploadFile | None = None,
) -> HTMLResponse:
    """Reads a pasted recipe, or a file, and shows what was understood; nothing is kept yet."""
    workbench = workbench_of(request)
    try:
        if file is not None and file.filename:
            plain = workbench.files.text_of_file(file.file.read(MAX_FILE_BYTES + 1), file.filename)
        else:
            plain = workbench.files.text_of_paste(text)
        reading = read_recipe(plain, workbench.reader, region=region)
    except (RecipeError, FileError) as error:
        return _paste_page(request, text[:MAX_SHOWN_AGAIN], str(error))
    guessed = {
        "guessed_kind": reading.recipe.kind if reading.kind_guessed else "",
        "guessed_servings": "" if reading.servings_given else servings_text(reading.recipe),
    }
    return _preview(request, workbench, reading, {"paste": plain, "profile_id": "", **guessed})


@router.post("/again", response_class=HTMLResponse)
def look_again(request: Request, form: Annotated[PreviewForm, Form()]) -> HTMLResponse:
    """Reads the page of the preview again after something in it was mended."""
    workbench = workbench_of(request)
    try:
        reading = form.reading(form.page(workbench.reader), workbench.reader)
    except RecipeError as error:
        return page(request, "places/read_in/problem.html", 422, error=str(error))
    return _preview(request, workbench, reading, form.model_dump(include=CARRIED))


@router.post("/keep", response_class=HTMLResponse)
def save_recipe(request: Request, form: Annotated[PreviewForm, Form()]) -> Response:
    """Keeps the recipe as its original version, whole or not at all."""
    workbench = workbench_of(request)
    told: list[ReadLine] = []
    try:
        told = form.page(workbench.reader)
        recipe = form.reading(told, workbench.reader).recipe
    except RecipeError as error:
        # What was mended is given back as it was told, unless that holds nothing to eat any more.
        mended = any(row.kind is LineKind.ITEM for row in told)
        again = page_text(told) if mended else form.paste or "\n".join(form.line)
        return _paste_page(request, again[:MAX_SHOWN_AGAIN], str(error))
    note = "\n".join(["as read in", *([notes] if (notes := form.notes(told)) else [])])
    with workbench.store() as connection:
        chosen = chosen_targets(request, connection, form.profile_id)
        recipe_id = create_recipe(connection, recipe, chosen, note, workbench.pin(recipe))
    return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)


CARRIED = {"paste", "profile_id", "guessed_kind", "guessed_servings"}
"""What the page carries along as it is."""


def _preview(
    request: Request, workbench: Workbench, reading: RecipeReading, carried: Mapping[str, str]
) -> HTMLResponse:
    recipe = reading.recipe
    # A row for each ingredient, so that each can be told by itself; to be read as it will be sent.
    rows = one_row_each(reading)
    told = reading
    if rows != list(reading.page):
        told = recipe_of(
            rows,
            workbench.reader,
            recipe.region,
            kind=recipe.kind,
            servings=recipe.servings,
            steps_apart=True,
        )
        told = replace(told, recipe=replace(told.recipe, rulings=recipe.rulings))
    now = workbench.appraise(told.recipe)
    with workbench.store() as connection:
        profiles = all_profiles(connection)
    context: dict[str, Any] = {
        "recipe": recipe,
        "view": read_in_view(told, now, workbench.knowledge),
        "marks": MARKS,
        "work": work_view(now, workbench.knowledge.handouts) if told.recipe.method else None,
        "rulings": told.recipe.rulings,
        "read_as": list(ReadAs),
        "paste_rows": paste_rows(carried["paste"], told),
        "kinds": dishes.KINDS,
        "profiles": profiles,
        "place": "read-in",
        "servings_given": reading.servings_given,
        "kind_guessed": reading.kind_guessed,
        "servings": servings_text(recipe),
        "batch": grams_text(now.totals.batch_grams),
        "serving": f"{now.totals.serving_grams:,.0f} g",
        **carried,
    }
    name = (
        "places/read_in/lines.html"
        if request.headers.get("HX-Request")
        else "places/read_in/preview.html"
    )
    return page(request, name, **context)


def servings_text(recipe: Recipe) -> str:
    """The number of servings as it is typed: "4", or "2 to 4"."""
    if recipe.servings_range is None:
        return f"{recipe.servings:g}"
    return " to ".join(f"{number:g}" for number in recipe.servings_range)
