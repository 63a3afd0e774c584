"""Foods: their figures and where those come from, own foods, prices, and composition releases
brought in."""

from __future__ import annotations

from pathlib import Path
from shutil import copyfileobj
from tempfile import NamedTemporaryFile
from typing import Annotated

from fastapi import Form, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.cautions.allergens import allergen_name
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import NUTRIENTS
from fresh_ladle.core.foods.pack_list import read_pack_list
from fresh_ladle.core.foods.pantry import UnknownFood
from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.store.foods.foods import FoundFood, search_foods
from fresh_ladle.store.foods.own_foods import Price, own_food, price, save_own_food, save_price
from fresh_ladle.store.recipes.recipes import recipes_using
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.stores.form import OwnFoodFields, OwnFoodForm, typed_figures
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import number_typed
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.work.importing import bring_foods_in
from fresh_ladle.web.work.jobs import Job
from fresh_ladle.web.work.processes import IMPORTS

router = guarded_router()
IMPORT = "import"
"""What a job is about that brings a release in."""


@router.get("/foods", response_class=HTMLResponse)
def foods(request: Request, q: str = "") -> HTMLResponse:
    workbench = workbench_of(request)
    with workbench.store() as connection:
        found = search_foods(connection, q, 40)
    if q and not found:
        near = workbench.reader.find(q, 12)
        found = [
            FoundFood(c.food.key, c.food.name, c.food.group, c.food.in_pantry, "nearest spelling")
            for c in near
        ]
    name = (
        "places/stores/found.html"
        if request.headers.get("HX-Request")
        else "places/stores/page.html"
    )
    return page(
        request, name, q=q, found=found, total=len(workbench.knowledge.pantry), place="stores"
    )


@router.post("/foods/import", response_class=HTMLResponse)
def start_import(request: Request, file: UploadFile | None = None) -> HTMLResponse:
    """Starts bringing a composition release in; the answer shows its progress."""
    workbench = workbench_of(request)
    if file is None or not file.filename:
        return page(
            request,
            "places/stores/import_job.html",
            job=None,
            error="Choose the zip of a release first.",
            place="stores",
        )
    kept, name = _kept_aside(file), file.filename[:80]

    def work(job: Job) -> object:
        def said(progress: str) -> None:
            job.progress = progress

        try:
            report = IMPORTS.run(
                bring_foods_in,
                workbench.database,
                kept,
                name.removesuffix(".zip"),
                said=said,
                stop_asked=job.stop_asked.is_set,
            )
        finally:
            kept.unlink(missing_ok=True)
        with workbench.store() as connection:
            workbench.stock_own_foods(connection)
        return report

    return page(
        request,
        "places/stores/import_job.html",
        job=workbench.jobs.start(work, about=IMPORT),
        error="",
        place="stores",
    )


def _kept_aside(file: UploadFile) -> Path:
    """The release as a file of its own, which outlives the request."""
    with NamedTemporaryFile(prefix="fresh-ladle-", suffix=".zip", delete=False) as out:
        copyfileobj(file.file, out)
    return Path(out.name)


def _import_job(workbench: Workbench, job_id: int) -> Job | None:
    """The import of this number; None for other work, or an import that is gone."""
    job = workbench.jobs.get(job_id)
    return job if job is not None and job.about == IMPORT else None


@router.get("/foods/import/{job_id}", response_class=HTMLResponse)
def import_progress(request: Request, job_id: int) -> HTMLResponse:
    job = _import_job(workbench_of(request), job_id)
    error = "" if job else "That import is not running any more."
    return page(
        request, "places/stores/import_state.html", 200 if job else 404, job=job, error=error
    )


@router.post("/foods/import/{job_id}/stop", response_class=HTMLResponse)
def stop_import(request: Request, job_id: int) -> HTMLResponse:
    if job := _import_job(workbench_of(request), job_id):
        job.stop_asked.set()
    return import_progress(request, job_id)


@router.get("/foods/new", response_class=HTMLResponse)
def own_food_form(request: Request, like: str = "tahini") -> HTMLResponse:
    """The form for an own food: from a label, or another food copied and changed."""
    workbench = workbench_of(request)
    copied = workbench.knowledge.pantry.get(like) or workbench.knowledge.pantry["tahini"]
    filled = OwnFoodFields(
        name=f"{copied.name} (own)",
        like=copied.key if copied.in_pantry else "",
        figures=typed_figures(copied.per_100_g),
    )
    return _own_food_page(
        request, filled, f"Type a label, or change what was copied from {copied.name}.", copied.key
    )


@router.get("/foods/{key}/change", response_class=HTMLResponse)
def change_own_food_form(request: Request, key: str) -> HTMLResponse:
    """The same form, filled with an own food that is there."""
    with workbench_of(request).store() as connection:
        own = own_food(connection, key)
    if own is None:
        raise UnknownFood(key)
    filled = OwnFoodFields(
        own.key,
        own.name,
        own.like,
        source=own.source,
        note=own.note,
        pack_list=own.pack_list,
        figures=typed_figures(own.per_100_g),
    )
    return _own_food_page(request, filled, f"What is known of {own.name}.", key)


def _own_food_page(
    request: Request, filled: OwnFoodFields, about: str, leave_to: str, error: str = ""
) -> HTMLResponse:
    return page(
        request,
        "places/stores/food_new.html",
        422 if error else 200,
        filled=filled,
        about=about,
        leave_to=leave_to,
        error=error,
        nutrients=NUTRIENTS,
        place="stores",
    )


@router.post("/foods/new", response_class=HTMLResponse)
def save_own(request: Request, form: Annotated[OwnFoodForm, Form()]) -> Response:
    """Adds an own food, or changes the one whose key was sent: whole or not at all. What was typed
    stays."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            own = form.own_food(_like(form.like, workbench), own_food(connection, form.key))
            own = save_own_food(connection, own)
            workbench.stock_own_foods(connection)
    except ValueError as problem:
        about = "What was typed is still here."
        return _own_food_page(
            request, form.shown(), about, form.key, f"Nothing was saved: {problem}."
        )
    return RedirectResponse(f"/foods/{own.key}", status_code=303)


def _like(typed: str, workbench: Workbench) -> Food | None:
    """The food of this key, or the nearest of this name."""
    if food := workbench.knowledge.pantry.get(typed):
        return food
    found = workbench.reader.find(typed, 1)
    return found[0].food if found else None


@router.post("/foods/{key}/price", response_class=HTMLResponse)
def set_price(
    request: Request,
    key: str,
    amount: Annotated[str, Form(max_length=12)],
    pack_grams: Annotated[str, Form(max_length=12)],
) -> Response:
    workbench = workbench_of(request)
    food = workbench.knowledge.pantry[key]
    try:
        given = Price(number_typed(amount, "price"), number_typed(pack_grams, "grams in the pack"))
        if given.amount < 0 or not 0 < given.pack_grams <= 100_000:
            raise Refused("a price cannot be negative, and a pack weighs more than 0 g")
    except ValueError as problem:
        return _food_page(request, food.key, f"Nothing was saved: {problem}.")
    with workbench.store() as connection:
        save_price(connection, key, given)
    return RedirectResponse(f"/foods/{key}", status_code=303)


@router.get("/foods/{key}", response_class=HTMLResponse)
def food_page(request: Request, key: str) -> HTMLResponse:
    return _food_page(request, key)


def _food_page(request: Request, key: str, error: str = "") -> HTMLResponse:
    workbench = workbench_of(request)
    food = workbench.knowledge.pantry[key]
    figures = []
    for nutrient in NUTRIENTS:
        value = food.per_100_g[nutrient.id]
        text = (
            "not determined"
            if value is None
            else f"{nutrient_amount(nutrient.id, value)} {nutrient.unit}"
        )
        figures.append(
            (nutrient, text, food.ranges.get(nutrient.id), food.figure_source(nutrient.id))
        )
    with workbench.store() as connection:
        used, cost, own = (
            recipes_using(connection, key),
            price(connection, key),
            own_food(connection, key),
        )
    return page(
        request,
        "places/stores/food.html",
        food=food,
        figures=figures,
        disagreement=energy_disagreement(food),
        used=used,
        cost=cost,
        allergens=sorted(allergen_name(a) for a in food.traits.allergens),
        may_contain=sorted(allergen_name(a) for a in food.traits.may_contain),
        own=own is not None,
        pack_says=pack_words(own.pack_list) if own and own.pack_list else [],
        error=error,
        place="stores",
    )


def pack_words(pasted: str) -> list[str]:
    """What an ingredient list was read to say, a sentence for each thing."""
    said = read_pack_list(pasted)
    found = []
    for what, names in (
        ("sugar", said.added_sugars),
        ("salt", said.added_salts),
        ("oil or fat", said.added_oils),
    ):
        if not names:
            found.append(f"No added {what} is listed.")
            continue
        place = min(said.place_of(name) or len(said.ingredients) for name in names)
        found.append(
            f"Added {what}: {', '.join(names)}; by weight number {place} of"
            f" {len(said.ingredients)}."
        )
    if said.other_sodium:
        found.append(f"Sodium besides salt: {', '.join(said.other_sodium)}.")
    return found
