"""Read-in: paste a recipe, see what was understood, mend it, keep it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from starlette.datastructures import FormData, UploadFile

from fresh_ladle.core import dishes
from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.amounts.reading import LineReading, Reader
from fresh_ladle.core.amounts.units import Region
from fresh_ladle.core.recipe import Recipe, RecipeError
from fresh_ladle.core.recipe_text import RecipeReading, read_recipe
from fresh_ladle.formats.any_recipe import recipe_text_from_file, recipe_text_from_paste
from fresh_ladle.formats.limits import MOST_BYTES, FileError
from fresh_ladle.store.drafts import create_recipe
from fresh_ladle.store.profiles import all_profiles, profile
from fresh_ladle.store.settings import settings
from fresh_ladle.web.routes.common import page
from fresh_ladle.web.state import Workbench, workbench
from fresh_ladle.web.wording import grams_range_text, grams_text, sureness

router = APIRouter(prefix="/read-in")

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
    problem: str | None


@router.get("", response_class=HTMLResponse)
def form(request: Request, sample: bool = False) -> HTMLResponse:
    return _paste_page(request, SAMPLE if sample else "")


def _paste_page(request: Request, text: str, error: str = "") -> HTMLResponse:
    """The page to paste into, with what was pasted and why it could not be read."""
    with workbench(request).store() as connection:
        region = settings(connection).region
    return page(
        request, "read_in.html", 422 if error else 200, text=text, error=error, region=region.value, place="read-in"
    )


@router.post("", response_class=HTMLResponse)
async def look(request: Request) -> HTMLResponse:
    """Reads a pasted recipe and shows what was understood; nothing is kept yet."""
    bench, sent = workbench(request), await request.form()
    text = str(sent.get("text", ""))
    try:
        plain = await _plain_text(sent, text)
        reading = read_recipe(plain, bench.reader, region=_region(sent))
    except (RecipeError, FileError) as error:
        return _paste_page(request, text[:60_000], str(error))
    return _preview(request, bench, reading, [""] * len(reading.readings))


@router.post("/again", response_class=HTMLResponse)
async def look_again(request: Request) -> HTMLResponse:
    """Reads the lines of the preview again after one was mended."""
    bench, sent = workbench(request), await request.form()
    try:
        reading, chosen = _from_form(sent, bench.reader)
    except RecipeError as error:
        return page(request, "read_in_problem.html", 422, error=str(error))
    return _preview(request, bench, reading, chosen, str(sent.get("profile_id", "")))


@router.post("/keep", response_class=HTMLResponse)
async def keep(request: Request) -> Response:
    """Keeps the recipe as its original version, whole or not at all."""
    bench, sent = workbench(request), await request.form()
    try:
        reading, _ = _from_form(sent, bench.reader)
    except RecipeError as error:
        return _paste_page(request, "\n".join(str(t) for t in sent.getlist("line")), str(error))
    wanted = str(sent.get("profile_id", ""))
    with bench.store() as connection:
        chosen = profile(connection, int(wanted)) if wanted.isdigit() else None
        recipe_id = create_recipe(
            connection, reading.recipe, chosen.id if chosen else None, pinned=bench.pin(reading.recipe)
        )
    return RedirectResponse(f"/recipes/{recipe_id}", status_code=303)


async def _plain_text(sent: FormData, pasted: str) -> str:
    """The recipe text of an uploaded file, or of what was pasted. Raises FileError."""
    upload = sent.get("file")
    if isinstance(upload, UploadFile) and upload.filename:
        return recipe_text_from_file(await upload.read(MOST_BYTES + 1), upload.filename)
    return recipe_text_from_paste(pasted)


def _region(sent: FormData) -> Region:
    value = str(sent.get("region", "us"))
    return Region(value) if value in set(Region) else Region.US


def _from_form(sent: FormData, reader: Reader) -> tuple[RecipeReading, list[str]]:
    """The recipe as the preview form holds it. Raises RecipeError naming what is wrong."""
    texts, components, choices = ([str(v) for v in sent.getlist(name)] for name in ("line", "component", "choice"))
    if not len(texts) == len(components) == len(choices):
        raise RecipeError("the form was incomplete: paste the recipe again")
    region = _region(sent)
    readings: list[LineReading] = []
    chosen: list[str] = []
    for text, component, choice in zip(texts, components, choices, strict=True):
        if choice and choice in reader.pantry:
            readings.append(reader.read_as(text, choice, component, region))
            chosen.append(choice)
            continue
        found = reader.read_line(text, component, region)
        readings += found
        chosen += [""] * len(found)
    if not readings:
        raise RecipeError("no lines are left: keep at least one ingredient")
    numbered = tuple(replace(r, line=replace(r.line, id=f"l{n}")) for n, r in enumerate(readings, start=1))
    try:
        servings = float(str(sent.get("servings", "")))
    except ValueError:
        raise RecipeError("servings must be a number, such as 8") from None
    kind = str(sent.get("kind", ""))
    if kind not in dishes.BY_ID:
        raise RecipeError("choose a kind of dish from the list")
    title = str(sent.get("title", "")).strip()[:120] or "Untitled recipe"
    method = tuple(s.strip()[:600] for s in str(sent.get("method", "")).splitlines() if s.strip())[:60]
    recipe = Recipe(title, tuple(r.line for r in numbered), kind, servings, region=region, method=method)
    return RecipeReading(recipe, numbered, True), chosen


def _preview(
    request: Request, bench: Workbench, reading: RecipeReading, chosen: list[str], profile_id: str = ""
) -> HTMLResponse:
    now = bench.appraise(reading.recipe)
    rows = [_row(r, p, c, bench) for r, p, c in zip(reading.readings, now.portions, chosen, strict=True)]
    with bench.store() as connection:
        profiles = all_profiles(connection)
    context: dict[str, Any] = {
        "recipe": reading.recipe,
        "rows": rows,
        "kinds": dishes.KINDS,
        "profiles": profiles,
        "profile_id": profile_id,
        "place": "read-in",
        "servings_given": reading.servings_given,
        "batch": grams_text(now.totals.batch_grams),
        "serving": f"{now.totals.serving_grams:,.0f} g",
        "problems": sum(r.problem is not None for r in rows),
        "unsure": sum(r.sure == "check" for r in rows),
    }
    name = "read_in_lines.html" if request.headers.get("HX-Request") else "read_in_preview.html"
    return page(request, name, **context)


def _row(reading: LineReading, portion: Portion, chosen: str, bench: Workbench) -> Row:
    labels = bench.knowledge.preparations.labels
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
        [labels[p] for p in line.preparations if p != "cut"],
        reading.problem or portion.problem,
    )
