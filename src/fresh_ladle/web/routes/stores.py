"""Stores: foods, their figures and where those come from."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from starlette.datastructures import FormData, UploadFile

from fresh_ladle.core.foods.label import Rounding, figures_from_label
from fresh_ladle.core.foods.pantry import UnknownFood
from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.core.nutrients.nutrient import BY_ID as NUTRIENT
from fresh_ladle.core.nutrients.nutrient import HEADLINE, NUTRIENTS
from fresh_ladle.formats.composition import Release
from fresh_ladle.store.foods import FoundFood, search_foods
from fresh_ladle.store.imported_foods import import_release
from fresh_ladle.store.own_foods import OwnFood, Price, own_food, price, save_own_food, save_price
from fresh_ladle.store.recipes import recipes_using
from fresh_ladle.web.jobs import Job, JobStopped
from fresh_ladle.web.routes.common import number_typed, page
from fresh_ladle.web.state import Workbench, workbench
from fresh_ladle.web.wording import amount_of

router = APIRouter()


@router.get("/foods", response_class=HTMLResponse)
def foods(request: Request, q: str = "") -> HTMLResponse:
    bench = workbench(request)
    with bench.store() as connection:
        found = search_foods(connection, q, 40)
    if q and not found:
        near = bench.reader.find(q, 12)
        found = [FoundFood(c.food.key, c.food.name, c.food.group, c.food.in_pantry, "nearest spelling") for c in near]
    name = "foods_found.html" if request.headers.get("HX-Request") else "foods.html"
    return page(request, name, q=q, found=found, total=len(bench.knowledge.pantry), place="stores")


@router.post("/foods/import", response_class=HTMLResponse)
async def start_import(request: Request) -> HTMLResponse:
    """Starts bringing a composition release in; the answer shows its progress."""
    bench, sent = workbench(request), await request.form()
    upload = sent.get("file")
    if not isinstance(upload, UploadFile) or not upload.filename:
        return page(request, "import_job.html", job=None, error="Choose the zip of a release first.", place="stores")
    data, name = await upload.read(), upload.filename[:80]

    def work(job: Job) -> object:
        def progress(what: str, count: int) -> None:
            job.said = f"{count:,} {what} read"
            if job.stop_asked.is_set():
                raise JobStopped

        with bench.store() as connection:
            report = import_release(connection, Release(data), name.removesuffix(".zip"), progress)
            bench.stock_own_foods(connection)
        return report

    return page(request, "import_job.html", job=bench.jobs.start(work), error="", place="stores")


@router.get("/foods/import/{job_id}", response_class=HTMLResponse)
def import_progress(request: Request, job_id: int) -> HTMLResponse:
    job = workbench(request).jobs.get(job_id)
    return page(request, "import_state.html", job=job, error="" if job else "That import is not running any more.")


@router.post("/foods/import/{job_id}/stop", response_class=HTMLResponse)
def stop_import(request: Request, job_id: int) -> HTMLResponse:
    job = workbench(request).jobs.get(job_id)
    if job is not None:
        job.stop_asked.set()
    return import_progress(request, job_id)


@router.get("/foods/new", response_class=HTMLResponse)
def own_food_form(request: Request, like: str = "tahini") -> HTMLResponse:
    """The form for an own food: from a label, or another food copied and changed."""
    bench = workbench(request)
    copied = bench.knowledge.pantry.get(like) or bench.knowledge.pantry["tahini"]
    filled = {
        "name": f"{copied.name} (own)",
        "like": copied.key if copied.in_pantry else "",
        "serving": "100",
        **_typed_figures(copied.per_100_g),
    }
    return _own_food_page(request, filled, f"Type a label, or change what was copied from {copied.name}.", copied.key)


@router.get("/foods/{key}/change", response_class=HTMLResponse)
def change_own_food_form(request: Request, key: str) -> HTMLResponse:
    """The same form, filled with an own food that is there."""
    with workbench(request).store() as connection:
        own = own_food(connection, key)
    if own is None:
        raise UnknownFood(key)
    filled = own.model_dump(include={"key", "name", "like", "source", "note"}) | _typed_figures(own.per_100_g)
    return _own_food_page(request, {**filled, "serving": "100"}, f"What is known of {own.name}.", key)


def _own_food_page(
    request: Request, filled: Mapping[str, str], about: str, leave_to: str, error: str = ""
) -> HTMLResponse:
    return page(
        request,
        "food_new.html",
        422 if error else 200,
        filled=filled,
        about=about,
        leave_to=leave_to,
        error=error,
        nutrients=NUTRIENTS,
        place="stores",
    )


def _typed_figures(per_100_g: Mapping[str, float | None]) -> dict[str, str]:
    """Figures as they stand in the fields of the form; one that is not known leaves its field empty."""
    return {nutrient: "" if value is None else f"{value:.6g}" for nutrient, value in per_100_g.items()}


@router.post("/foods/new", response_class=HTMLResponse)
async def save_own(request: Request) -> Response:
    """Adds an own food, or changes the one whose key was sent: whole or not at all. What was typed stays."""
    bench, sent = workbench(request), await request.form()
    try:
        with bench.store() as connection:
            own = save_own_food(connection, _own_food(sent, bench, own_food(connection, str(sent.get("key", "")))))
            bench.stock_own_foods(connection)
    except ValueError as problem:
        typed = {name: str(value) for name, value in sent.items()}
        return _own_food_page(request, typed, "What was typed is still here.", "", f"Nothing was saved: {problem}.")
    return RedirectResponse(f"/foods/{own.key}", status_code=303)


def _own_food(sent: FormData, bench: Workbench, before: OwnFood | None) -> OwnFood:
    """The own food a form describes. Raises ValueError naming the field that is wrong.

    A figure left as it stood keeps its digits and the range that its label gave it.
    """
    name, like = str(sent.get("name", "")).strip()[:80], str(sent.get("like", ""))
    if not name:
        raise ValueError("give the food a name")
    if sent.get("key") and before is None:
        raise ValueError("the food to be changed is not there any more")
    found = bench.reader.find(like, 1) if like not in bench.knowledge.pantry else []
    like_food = bench.knowledge.pantry.get(like) or (found[0].food if found else None)
    if like_food is None or not like_food.in_pantry or (before is not None and like_food.key == before.key):
        raise ValueError(f"“{like}” has no measures and taste to lend: name a food from the stores that has them")
    printed: dict[str, float] = {}
    for nutrient in NUTRIENTS:
        if typed := str(sent.get(nutrient.id, "")).strip():
            printed[nutrient.id] = number_typed(typed, nutrient.name)
    if missing := [NUTRIENT[n].name.lower() for n in HEADLINE if n not in printed]:
        raise ValueError(f"{', '.join(missing)} must be given; write 0 where the label says none")
    rounding = str(sent.get("rounding", "exact"))
    if rounding not in set(Rounding):
        raise ValueError("choose from the list how the label was rounded")
    serving = number_typed(str(sent.get("serving", "100")), "serving weight")
    figures = figures_from_label(printed, serving, Rounding(rounding))
    per_100_g, ranges = figures.per_100_g, figures.ranges
    if before is not None and serving == 100 and rounding == Rounding.EXACT:
        stood = _typed_figures(before.per_100_g)
        kept = [n for n in NUTRIENT if stood.get(n, "") == str(sent.get(n, "")).strip()]
        per_100_g |= {n: before.per_100_g.get(n) for n in kept}
        ranges |= {n: before.ranges[n] for n in kept if n in before.ranges}
    return OwnFood(
        key=before.key if before else "",
        name=name,
        like=like_food.key,
        per_100_g=per_100_g,
        ranges=ranges,
        source=str(sent.get("source", "")).strip()[:200] or "typed from a label",
        note=str(sent.get("note", "")).strip()[:300],
        allergens=before.allergens if before else None,
    )


@router.post("/foods/{key}/price", response_class=HTMLResponse)
def set_price(
    request: Request,
    key: str,
    amount: Annotated[str, Form(max_length=12)],
    pack_grams: Annotated[str, Form(max_length=12)],
) -> Response:
    bench = workbench(request)
    food = bench.knowledge.pantry[key]
    try:
        given = Price(number_typed(amount, "price"), number_typed(pack_grams, "grams in the pack"))
        if given.amount < 0 or not 0 < given.pack_grams <= 100_000:
            raise ValueError("a price cannot be negative, and a pack weighs more than 0 g")
    except ValueError as problem:
        return food_page(request, food.key, f"Nothing was saved: {problem}.")
    with bench.store() as connection:
        save_price(connection, key, given)
    return RedirectResponse(f"/foods/{key}", status_code=303)


@router.get("/foods/{key}", response_class=HTMLResponse)
def food_page(request: Request, key: str, error: str = "") -> HTMLResponse:
    bench = workbench(request)
    food = bench.knowledge.pantry[key]
    figures = []
    for nutrient in NUTRIENTS:
        value = food.per_100_g[nutrient.id]
        text = "not determined" if value is None else f"{amount_of(nutrient.id, value)} {nutrient.unit}"
        figures.append((nutrient, text, food.ranges.get(nutrient.id), food.figure_source(nutrient.id)))
    with bench.store() as connection:
        used, cost, own = recipes_using(connection, key), price(connection, key), own_food(connection, key)
    return page(
        request,
        "food.html",
        food=food,
        figures=figures,
        disagreement=energy_disagreement(food),
        used=used,
        cost=cost,
        own=own is not None,
        error=error,
        place="stores",
    )
