"""Read-in: paste a recipe, see what was understood, mend it, keep it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import Form, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.amounts.reading import LineReading
from fresh_ladle.core.page.recipe_text import RecipeReading, read_recipe
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.wording import grams_range_text, grams_text, sureness
from fresh_ladle.formats.limits import MAX_FILE_BYTES, FileError
from fresh_ladle.store.drafts import create_recipe
from fresh_ladle.store.profiles import all_profiles
from fresh_ladle.store.settings import settings
from fresh_ladle.web.forms.reading import PreviewForm
from fresh_ladle.web.guarded import guarded_router
from fresh_ladle.web.routes.common import chosen_targets, page
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.views.method import step_views

router = guarded_router("/read-in")
MAX_SHOWN_AGAIN = 60_000
"""Characters of what was pasted that are shown again when it could not be read."""
SAMPLE = """White-bean and rosemary dip
Serves 8
1 (15 oz) can white beans, drained and rinsed
3 Tbsp extra-virgin olive oil
juice of half a lemon
2 cloves garlic, roasted
1 tsp fresh rosemary, chopped
1/2 tsp salt
black pepper to taste
a handful of parsley to garnish
"""


@dataclass(frozen=True, slots=True)
class Row:
    """One line of the preview."""

    text: str
    component: str
    chosen: str
    food: str | None
    name: str
    grams: str
    grams_range: str
    sure: str
    alternatives: list[tuple[str, str]]
    preparations: list[str]
    eaten: str
    counted: str
    problem: str | None


@router.get("", response_class=HTMLResponse)
def form(request: Request, sample: bool = False) -> HTMLResponse:
    return _paste_page(request, SAMPLE if sample else "")


def _paste_page(request: Request, text: str, error: str = "") -> HTMLResponse:
    """The page to paste into, with what was pasted and why it could not be read."""
    with workbench_of(request).store() as connection:
        region = settings(connection).region
    return page(
        request, "read_in.html", 422 if error else 200, text=text, error=error, region=region.value, place="read-in"
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
    return _preview(request, workbench, reading, [""] * len(reading.readings))


@router.post("/again", response_class=HTMLResponse)
def look_again(request: Request, form: Annotated[PreviewForm, Form()]) -> HTMLResponse:
    """Reads the lines of the preview again after one was mended."""
    workbench = workbench_of(request)
    try:
        reading, chosen = form.read(workbench.reader)
    except RecipeError as error:
        return page(request, "read_in_problem.html", 422, error=str(error))
    return _preview(request, workbench, reading, chosen, form.profile_id)


@router.post("/keep", response_class=HTMLResponse)
def save_recipe(request: Request, form: Annotated[PreviewForm, Form()]) -> Response:
    """Keeps the recipe as its original version, whole or not at all."""
    workbench = workbench_of(request)
    try:
        reading, _ = form.read(workbench.reader)
    except RecipeError as error:
        return _paste_page(request, "\n".join(form.line)[:MAX_SHOWN_AGAIN], str(error))
    with workbench.store() as connection:
        chosen = chosen_targets(request, connection, form.profile_id)
        recipe_id = create_recipe(connection, reading.recipe, chosen, pinned=workbench.pin(reading.recipe))
    return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)


def _preview(
    request: Request, workbench: Workbench, reading: RecipeReading, chosen: list[str], profile_id: str = ""
) -> HTMLResponse:
    now = workbench.appraise(reading.recipe)
    rows = [_row(r, p, c, workbench) for r, p, c in zip(reading.readings, now.portions, chosen, strict=True)]
    with workbench.store() as connection:
        profiles = all_profiles(connection)
    context: dict[str, Any] = {
        "recipe": reading.recipe,
        "rows": rows,
        "steps": step_views(reading.recipe, now.portions, workbench.knowledge.work),
        "kinds": dishes.KINDS,
        "profiles": profiles,
        "profile_id": profile_id,
        "place": "read-in",
        "servings_given": reading.servings_given,
        "left_out": reading.left_out,
        "kind_guessed": reading.kind_guessed,
        "servings": servings_text(reading.recipe),
        "batch": grams_text(now.totals.batch_grams),
        "serving": f"{now.totals.serving_grams:,.0f} g",
        "problems": sum(r.problem is not None for r in rows),
        "unsure": sum(r.sure == "check" for r in rows),
    }
    name = "read_in_lines.html" if request.headers.get("HX-Request") else "read_in_preview.html"
    return page(request, name, **context)


def servings_text(recipe: Recipe) -> str:
    """The number of servings as it is typed: "4", or "2 to 4"."""
    if recipe.servings_range is None:
        return f"{recipe.servings:g}"
    return " to ".join(f"{number:g}" for number in recipe.servings_range)


def _row(reading: LineReading, portion: Portion, chosen: str, workbench: Workbench) -> Row:
    labels = workbench.knowledge.preparations.labels
    line = reading.line
    return Row(
        line.text,
        line.component,
        chosen,
        line.food,
        portion.food.name if portion.food else "",
        (("about " if portion.estimated else "") + grams_text(portion.measured)) if portion.known else "? g",
        grams_range_text(portion.measured) if portion.known else "",
        "not understood" if reading.problem else sureness(line.confidence),
        [(c.food, c.name) for c in reading.alternatives],
        [labels[p] for p in line.preparations if p != "cut" and (p != "boil" or _is_dry(portion))],
        f"{line.eaten:g}",
        ""
        if line.eaten == 1
        else f"{line.eaten:.0%} of it is counted"
        if line.eaten
        else "not counted: another is taken",
        reading.problem or portion.problem,
    )


def _is_dry(portion: Portion) -> bool:
    """Boiling is told of what takes up water by it: a boiled egg was never dry."""
    return portion.food is not None and portion.food.form == "dry"
