"""Services planned: the form for one or several dishes, what they come with, changed, and repeated
by the week."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Annotated, Any
from zoneinfo import ZoneInfo

from fastapi import Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.service.clock import moment_of, zone_named
from fresh_ladle.core.service.day import MOST_DISHES, check_at_risk
from fresh_ladle.core.service.size import size_said
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.words import came_back_words
from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.store import clock
from fresh_ladle.store.recipes.drafts import draft
from fresh_ladle.store.recipes.recipes import RecipeMissing, version, versions
from fresh_ladle.store.recipes.shelf import ShelfQuery, shelf_page
from fresh_ladle.store.services.services import (
    KeptDish,
    KeptService,
    ServiceFields,
    came_back,
    change_service,
    create_service,
    repeat_service,
    service,
    services,
)
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.service.planned import (
    NOT_KEPT_YET,
    PracticeKnows,
    planned,
    practice_knows,
)
from fresh_ladle.web.shared.page import load_work, page
from fresh_ladle.web.shared.typed import number_typed, row_id, whole_number
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()
MOST_FOUND = 12
MOST_WEEKS = 26
BESIDE_TITLE = "What it comes with"
USUAL_SERVINGS = "40"
USUAL = {"cooks": "2", "ovens": "1", "trays": "2", "burners": "4", "blender_ml": "1500"}
"""What a kitchen has, where nobody has said."""
Short = Annotated[str, Form(max_length=20)]
Size = Annotated[str, Query(max_length=40)]


@router.get("/recipes/{recipe_id}/services", response_class=HTMLResponse)
def of_recipe(request: Request, recipe_id: int, change: int | None = None) -> HTMLResponse:
    """The services of a recipe, and the next one to plan; or one that is changed."""
    workbench = workbench_of(request)
    if change is None:
        return _list_page(request, workbench, recipe_id)
    with workbench.store() as connection:
        kept = service(connection, change)
    typed: dict[str, Any] = {
        "name": kept.name,
        "at": kept.eaten_at,
        "zone": kept.zone,
        "place": kept.place,
        "dishes": [f"{d.recipe_id}.{d.number or 'draft'}" for d in kept.dishes],
        "servings": [_size_words(d) for d in kept.dishes],
        "at_risk": kept.at_risk,
        "beside": (
            "\n".join(line.text for line in kept.beside.lines) if kept.beside is not None else ""
        ),
        "service_id": kept.id,
        **{name: f"{getattr(kept.kitchen, name):g}" for name in USUAL},
    }
    return _list_page(request, workbench, recipe_id, typed=typed)


def _size_words(dish: KeptDish) -> str:
    """The size of a dish as it is typed."""
    count = f"{dish.servings:g}"
    return count if dish.serving_grams is None else f"{count} of {dish.serving_grams:g} g"


def _list_page(
    request: Request,
    workbench: Workbench,
    recipe_id: int,
    error: str = "",
    typed: dict[str, Any] | None = None,
) -> HTMLResponse:
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        found = services(connection, recipe_id)
        serving = workbench.appraise(work.draft.recipe).totals.serving_grams
        back = came_back_words(came_back(connection, recipe_id), serving)
        asked = typed or {}
        chosen, sizes = (
            asked.get("dishes") or [f"{recipe_id}."],
            asked.get("servings") or [USUAL_SERVINGS],
        )
        rows = [
            row
            for d, n in zip(chosen, sizes, strict=False)
            if (row := _row(connection, d, n)) is not None
        ]
    now = clock.now().astimezone(ZoneInfo(local_zone()))
    usual: dict[str, Any] = {
        "name": "",
        "at": f"{now + timedelta(days=1):%Y-%m-%d}T12:00",
        "zone": local_zone(),
        "place": "",
        "at_risk": False,
        "beside": "",
        **USUAL,
    }
    return page(
        request,
        "places/service/page.html",
        422 if error else 200,
        recipe=work.draft.recipe,
        recipe_id=recipe_id,
        typed={**usual, **asked},
        rows=rows,
        found=found,
        back=back,
        error=error,
        place="services",
    )


@router.get("/recipes/{recipe_id}/services/dishes", response_class=HTMLResponse)
def find_dish(
    request: Request, recipe_id: int, q: Annotated[str, Query(max_length=80)] = ""
) -> HTMLResponse:
    """The recipes that can be served with this one: those called so, or those worked on last."""
    workbench = workbench_of(request)
    workbench.refresh_shelf()
    with workbench.store() as connection:
        answer = shelf_page(connection, ShelfQuery(text=q), 0, MOST_FOUND)
    found = [(row.recipe_id, row.title) for row in answer.rows if row.recipe_id != recipe_id]
    return page(
        request, "places/service/parts/dishes_found.html", found_dishes=found, recipe_id=recipe_id
    )


@router.get("/recipes/{recipe_id}/services/dishes/{other}", response_class=HTMLResponse)
def dish_row(
    request: Request, recipe_id: int, other: int, servings: Size = USUAL_SERVINGS
) -> HTMLResponse:
    """One more row of the form."""
    with workbench_of(request).store() as connection:
        row = _row(connection, f"{other}.", servings)
    if row is None:
        raise RecipeMissing(f"there is no recipe {other}")
    return page(request, "places/service/parts/dish_row.html", row=row, recipe_id=recipe_id)


@dataclass(frozen=True, slots=True)
class DishRow:
    """One row of the form: which recipe, its versions as value and words, the one that is chosen,
    how much of it."""

    title: str
    choices: list[tuple[str, str]]
    chosen: str
    servings: str


def _row(connection: sqlite3.Connection, chosen: str, servings: str) -> DishRow | None:
    """`chosen` is the recipe and the version, such as `4.2`, `4.draft`, or `4.` for the newest;
    None for a recipe that is not there."""
    recipe_id, _, number = chosen.partition(".")
    found = row_id(recipe_id)
    kept = versions(connection, found) if found is not None else []
    if found is None or not kept:
        return None
    work = draft(connection, found)
    choices = [(f"{found}.{v.number}", f"version {v.number}, {v.name}") for v in reversed(kept)]
    if work.changed:
        choices.append((f"{found}.draft", "the draft"))
    return DishRow(work.recipe.title, choices, chosen if number else choices[0][0], servings)


def _dish(
    workbench: Workbench, connection: sqlite3.Connection, chosen: str, servings: str
) -> KeptDish:
    """A row of the form. Raises RecipeError for what is not there or cannot be fed."""
    recipe, _, number = chosen.partition(".")
    recipe_id = row_id(recipe)
    if recipe_id is None or not versions(connection, recipe_id):
        raise RecipeError("choose a dish from the list")
    if number == "draft":
        work = draft(connection, recipe_id)
        count, grams = size_said(servings, workbench.appraise(work.recipe), workbench.reader)
        former = former_names(version(connection, recipe_id, 1).recipe, work.recipe)
        return KeptDish(recipe_id, None, work.recipe.title, count, work.recipe, former, grams)
    all_kept = versions(connection, recipe_id)
    kept = next((v for v in all_kept if f"{v.number}" == number), None)
    if kept is None:
        raise RecipeError("choose a dish from the list")
    count, grams = size_said(servings, workbench.appraise(kept.recipe), workbench.reader)
    former = former_names(all_kept[0].recipe, kept.recipe)
    return KeptDish(recipe_id, kept.number, kept.recipe.title, count, kept.recipe, former, grams)


def _beside(typed: str, workbench: Workbench) -> Recipe | None:
    """What each guest gets with it, as a recipe of one serving. Raises RecipeError naming a line
    that is not understood."""
    if not typed.strip():
        return None
    recipe = read_recipe(f"{BESIDE_TITLE}\n{typed.strip()}", workbench.reader, 1).recipe
    for portion in workbench.appraise(recipe).portions:
        if not portion.known or portion.food is None:
            raise RecipeError(
                f"what it comes with: “{portion.line.text}” is not understood: write it as 60 g"
                " pita chips"
            )
    return recipe


def _fields(form: dict[str, str], at_risk: bool, beside: Recipe | None) -> ServiceFields:
    """Raises RecipeError or ValueError naming what cannot be."""
    zone = zone_named(form["zone"].strip() or local_zone())
    eaten = moment_of(form["at"], zone)
    if eaten <= clock.now():
        raise RecipeError(f"{eaten:%d %B %Y, %H:%M} is over: a service lies ahead")
    blender = number_typed(form["blender_ml"], "blender")
    if not 0 <= blender <= 50_000:
        raise RecipeError("a blender holds 0 to 50,000 ml; 0 says there is none")
    kitchen = Kitchen(
        whole_number(form["cooks"], "cooks", 1, 20),
        whole_number(form["ovens"], "ovens", 0, 10),
        whole_number(form["trays"], "trays in an oven", 1, 10),
        whole_number(form["burners"], "burners", 0, 20),
        blender,
    )
    return ServiceFields(
        form["name"].strip() or f"{eaten:%A %H:%M}",
        eaten.replace(tzinfo=None).isoformat(timespec="minutes"),
        zone.key,
        form["place"].strip(),
        kitchen,
        at_risk,
        beside,
    )


@router.post("/recipes/{recipe_id}/services")
def create(
    request: Request,
    recipe_id: int,
    at: Annotated[str, Form(max_length=40)] = "",
    name: Annotated[str, Form(max_length=80)] = "",
    zone: Annotated[str, Form(max_length=60)] = "",
    where: Annotated[str, Form(max_length=80)] = "",
    dish: Annotated[list[str] | None, Form(max_length=40)] = None,
    servings: Annotated[list[str] | None, Form(max_length=40)] = None,
    cooks: Short = USUAL["cooks"],
    ovens: Short = USUAL["ovens"],
    trays: Short = USUAL["trays"],
    burners: Short = USUAL["burners"],
    blender_ml: Short = USUAL["blender_ml"],
    at_risk: Annotated[bool, Form()] = False,
    beside: Annotated[str, Form(max_length=1000)] = "",
    service_id: Annotated[int | None, Form()] = None,
) -> Response:
    """Plans a service, or changes one: all of it or nothing."""
    workbench = workbench_of(request)
    form = {
        "at": at, "name": name, "zone": zone, "place": where, "cooks": cooks, "ovens": ovens,
        "trays": trays,
        "burners": burners, "blender_ml": blender_ml,
    }  # fmt: skip
    dishes, counts = dish or [], servings or []
    try:
        fields = _fields(form, at_risk, _beside(beside, workbench))
        chosen = [(d, n) for d, n in zip(dishes, counts, strict=False) if d]
        if not 1 <= len(chosen) <= MOST_DISHES:
            raise RecipeError(f"choose 1 to {MOST_DISHES} dishes")
        with workbench.store() as connection:
            kept = [_dish(workbench, connection, d, n) for d, n in chosen]
            _check(workbench, fields, kept, practice_knows(connection))
            if service_id is None:
                service_id = create_service(connection, fields, kept)
            else:
                change_service(connection, service_id, fields, kept)
    except ValueError as problem:
        typed = {**form, "dishes": dishes, "servings": counts, "at_risk": at_risk, "beside": beside}
        typed["service_id"] = service_id
        return _list_page(request, workbench, recipe_id, str(problem), typed)
    return RedirectResponse(f"/services/{service_id}", status_code=303)


def _check(
    workbench: Workbench, fields: ServiceFields, kept: list[KeptDish], practice: PracticeKnows
) -> None:
    """Works the service out before it is kept, so that none is kept that cannot be shown, or served
    to its guests."""
    f = fields
    asked = KeptService(
        NOT_KEPT_YET,
        f.name,
        f.eaten_at,
        f.zone,
        f.place,
        f.kitchen,
        f.at_risk,
        None,
        tuple(kept),
        {},
        f.beside,
    )
    check_at_risk(planned(workbench, asked, practice, 0.0))


@router.post("/services/{service_id}/copy")
def copy(request: Request, service_id: int, weeks: Short = "1") -> Response:
    """The same service on the same day of the next week, or of each of the next weeks; leads to the
    first of them."""
    with workbench_of(request).store() as connection:
        kept = service(connection, service_id)
        count = whole_number(weeks, "weeks", 1, MOST_WEEKS)
        zone = zone_named(kept.zone)
        first = datetime.fromisoformat(kept.eaten_at) + timedelta(days=7)
        while first.replace(tzinfo=zone) <= clock.now():
            first += timedelta(days=7)
        moments = [(first + timedelta(weeks=n)).isoformat(timespec="minutes") for n in range(count)]
        for moment in moments:
            moment_of(moment, zone)
        numbers = repeat_service(connection, kept, moments)
    return RedirectResponse(f"/services/{numbers[0]}", status_code=303)
