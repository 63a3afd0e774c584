"""Services: planned for a recipe or several, the day, amounts, what is bought, done step by step, planned again."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.clock import moment_of, zone_named
from fresh_ladle.core.service.day import MOST_DISHES, Service
from fresh_ladle.core.service.size import servings_said
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.service.words import came_back_words
from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.store.drafts import draft
from fresh_ladle.store.own_foods import as_food, own_foods, pack_prices
from fresh_ladle.store.recipes import version, versions
from fresh_ladle.store.services import (
    KeptDish,
    KeptService,
    ServiceFields,
    bought_instead,
    came_back,
    change_service,
    create_service,
    leftovers,
    mark_done,
    plan_again_from,
    save_leftover,
    save_stock,
    servable,
    service,
    services,
    set_bought_instead,
    stock,
)
from fresh_ladle.store.settings import Settings, settings
from fresh_ladle.web.forms.typed import number_typed, row_id
from fresh_ladle.web.planned_service import planned
from fresh_ladle.web.routes.common import load_work, page
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.views.service import base_views, cost_view, day_view, dish_view, money, shopping_sections

router = APIRouter()
DISH_ROWS = 6
MOST_STOCK_G = 500_000
USUAL_SERVINGS = "40"
USUAL = {"cooks": "2", "ovens": "1", "trays": "2", "burners": "4", "blender_ml": "1500"}
"""What a kitchen has, where nobody has said."""
Short = Annotated[str, Form(max_length=20)]


@router.get("/recipes/{recipe_id}/services", response_class=HTMLResponse)
def of_recipe(request: Request, recipe_id: int, change: int | None = None) -> HTMLResponse:
    """The services of a recipe, and the next one to plan; or one that is changed."""
    workbench = workbench_of(request)
    if change is None:
        return _list_page(request, workbench, recipe_id)
    with workbench.store() as connection:
        kept = service(connection, change)
    typed: dict[str, object] = {
        "name": kept.name,
        "at": kept.eaten_at,
        "zone": kept.zone,
        "place": kept.place,
        "dishes": [f"{d.recipe_id}.{d.number or 'draft'}" for d in kept.dishes],
        "servings": [f"{d.servings:g}" for d in kept.dishes],
        "at_risk": kept.at_risk,
        "service_id": kept.id,
        **{name: f"{getattr(kept.kitchen, name):g}" for name in USUAL},
    }
    return _list_page(request, workbench, recipe_id, typed=typed)


def _list_page(
    request: Request, workbench: Workbench, recipe_id: int, error: str = "", typed: dict[str, object] | None = None
) -> HTMLResponse:
    with workbench.store() as connection:
        work = load_work(workbench, connection, recipe_id)
        found, choices = services(connection, recipe_id), dish_choices(connection, recipe_id)
        serving = workbench.appraise(work.draft.recipe).totals.serving_grams
        back = came_back_words(came_back(connection, recipe_id), serving)
    now = datetime.now(ZoneInfo(local_zone()))
    usual: dict[str, object] = {
        "name": "",
        "at": f"{now + timedelta(days=1):%Y-%m-%d}T12:00",
        "zone": local_zone(),
        "place": "",
        "dishes": [choices[0][0] if choices else ""],
        "servings": [USUAL_SERVINGS],
        "at_risk": False,
        **USUAL,
    }
    return page(
        request,
        "services.html",
        422 if error else 200,
        recipe=work.draft.recipe,
        recipe_id=recipe_id,
        choices=choices,
        typed={**usual, **(typed or {})},
        rows=range(DISH_ROWS),
        found=found,
        back=back,
        error=error,
        place="services",
    )


def dish_choices(connection: sqlite3.Connection, first: int) -> list[tuple[str, str]]:
    """What can be served, as value and words: the newest of each recipe, all versions of `first` before others."""
    choices = []
    for row in servable(connection, first):
        numbers = range(row.newest, 0, -1) if row.recipe_id == first else [row.newest]
        if row.changed:
            choices.append((f"{row.recipe_id}.draft", f"{row.title}, the draft"))
        choices += [(f"{row.recipe_id}.{n}", f"{row.title}, version {n}") for n in numbers]
    return choices


def _dish(workbench: Workbench, connection: sqlite3.Connection, chosen: str, servings: str) -> KeptDish:
    """A row of the form. Raises RecipeError for what is not there or cannot be fed."""
    recipe, _, number = chosen.partition(".")
    recipe_id = row_id(recipe)
    if recipe_id is None:
        raise RecipeError("choose a dish from the list")
    if number == "draft":
        work = draft(connection, recipe_id)
        count = servings_said(servings, workbench.appraise(work.recipe), workbench.reader)
        former = former_names(version(connection, recipe_id, 1).recipe, work.recipe)
        return KeptDish(recipe_id, None, work.recipe.title, count, work.recipe, former)
    all_kept = versions(connection, recipe_id)
    kept = next((v for v in all_kept if f"{v.number}" == number), None)
    if kept is None:
        raise RecipeError("choose a dish from the list")
    count = servings_said(servings, workbench.appraise(kept.recipe), workbench.reader)
    former = former_names(all_kept[0].recipe, kept.recipe)
    return KeptDish(recipe_id, kept.number, kept.recipe.title, count, kept.recipe, former)


def _whole(typed: str, name: str, least: int, most: int) -> int:
    number = number_typed(typed, name)
    if number != int(number) or not least <= number <= most:
        raise RecipeError(f"{name}: a whole number from {least} to {most}, not {typed.strip()[:12]}")
    return int(number)


def _fields(form: dict[str, str], at_risk: bool) -> ServiceFields:
    """Raises RecipeError or ValueError naming what cannot be."""
    zone = zone_named(form["zone"].strip() or local_zone())
    eaten = moment_of(form["at"], zone)
    if eaten <= datetime.now(UTC):
        raise RecipeError(f"{eaten:%d %B %Y, %H:%M} is over: a service lies ahead")
    blender = number_typed(form["blender_ml"], "blender")
    if not 0 <= blender <= 50_000:
        raise RecipeError("a blender holds 0 to 50,000 ml; 0 says there is none")
    kitchen = Kitchen(
        _whole(form["cooks"], "cooks", 1, 20),
        _whole(form["ovens"], "ovens", 0, 10),
        _whole(form["trays"], "trays in an oven", 1, 10),
        _whole(form["burners"], "burners", 0, 20),
        blender,
    )
    return ServiceFields(
        form["name"].strip() or f"{eaten:%A %H:%M}",
        eaten.replace(tzinfo=None).isoformat(timespec="minutes"),
        zone.key,
        form["place"].strip(),
        kitchen,
        at_risk,
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
    service_id: Annotated[int | None, Form()] = None,
) -> Response:
    """Plans a service, or changes one: all of it or nothing."""
    workbench = workbench_of(request)
    form = {
        "at": at, "name": name, "zone": zone, "place": where, "cooks": cooks, "ovens": ovens, "trays": trays,
        "burners": burners, "blender_ml": blender_ml,
    }  # fmt: skip
    dishes, counts = dish or [], servings or []
    try:
        fields = _fields(form, at_risk)
        chosen = [(d, n) for d, n in zip(dishes, counts, strict=False) if d]
        if not 1 <= len(chosen) <= MOST_DISHES:
            raise RecipeError("choose at least one dish")
        with workbench.store() as connection:
            kept = [_dish(workbench, connection, d, n) for d, n in chosen]
            _check(workbench, fields, kept, settings(connection))
            if service_id is None:
                service_id = create_service(connection, fields, kept)
            else:
                change_service(connection, service_id, fields, kept)
    except ValueError as problem:
        typed: dict[str, object] = {**form, "dishes": dishes, "servings": counts, "at_risk": at_risk}
        typed["service_id"] = service_id
        return _list_page(request, workbench, recipe_id, str(problem), typed)
    return RedirectResponse(f"/services/{service_id}", status_code=303)


def _check(workbench: Workbench, fields: ServiceFields, kept: list[KeptDish], custom: Settings) -> None:
    """Works the service out before it is kept, so that none is kept that cannot be shown."""
    planned(
        workbench,
        KeptService(0, fields.name, fields.eaten_at, fields.zone, fields.place, fields.kitchen, fields.at_risk, None,
                    tuple(kept), {}),
        {},
        {},
        custom,
    )  # fmt: skip


def loaded(request: Request, service_id: int) -> tuple[KeptService, Service]:
    """A service and all that is worked out of it. Raises RecipeMissing."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        kept = service(connection, service_id)
        prices, in_house, custom = pack_prices(connection), stock(connection), settings(connection)
    return kept, planned(workbench, kept, prices, in_house, custom)


def service_page(
    request: Request, template: str, kept: KeptService, found: Service, tab: str, status: int = 200, **more: Any
) -> HTMLResponse:
    """One of the pages of a service."""
    return page(
        request,
        template,
        status,
        s=kept,
        eaten=found.ask.eaten,
        tab=tab,
        recipe_id=kept.dishes[0].recipe_id,
        place="services",
        **more,
    )


def currency_of(request: Request) -> str:
    with workbench_of(request).store() as connection:
        return settings(connection).currency


@router.get("/services/{service_id}", response_class=HTMLResponse)
def day(request: Request, service_id: int) -> HTMLResponse:
    """The day: what is next, the lanes, every step."""
    kept, found = loaded(request, service_id)
    again = f"{kept.again_at.astimezone(zone_named(kept.zone)):%H:%M}" if kept.again_at else ""
    shown = day_view(found, kept, datetime.now(UTC))
    return service_page(request, "service_day.html", kept, found, "day", day=shown, again=again)


@router.get("/services/{service_id}/amounts", response_class=HTMLResponse)
def amounts(request: Request, service_id: int) -> HTMLResponse:
    """Every dish at its size, its fillings, how long it keeps."""
    kept, found = loaded(request, service_id)
    dishes = [dish_view(found, plan, currency_of(request)) for plan in found.plans]
    with workbench_of(request).store() as connection:
        left = leftovers(connection, service_id)
    return service_page(
        request, "service_amounts.html", kept, found, "amounts", dishes=dishes, bases=base_views(found), left=left
    )


@router.get("/services/{service_id}/buy", response_class=HTMLResponse)
def buy(request: Request, service_id: int) -> HTMLResponse:
    """One list, by part of the store; what each dish costs beside its original and beside a bought one."""
    kept, found = loaded(request, service_id)
    workbench, currency = workbench_of(request), currency_of(request)
    with workbench.store() as connection:
        prices, stock_now = pack_prices(connection), stock(connection)
        own = {food.key: as_food(food, workbench.knowledge.pantry) for food in own_foods(connection)}
        costs = [
            cost_view(
                plan,
                dish.recipe_id,
                workbench.appraise_version(version(connection, dish.recipe_id, 1)),
                prices,
                own.get(bought_instead(connection, dish.recipe_id)),
                currency,
            )
            for plan, dish in zip(found.plans, kept.dishes, strict=True)
        ]
    total = money(sum(p.cost or 0.0 for p in found.shopping), currency)
    return service_page(
        request,
        "service_buy.html",
        kept,
        found,
        "buy",
        sections=shopping_sections(found),
        total=total,
        in_house=stock_now,
        costs=costs,
        own=own.values(),
        figures=[BY_ID[nutrient] for nutrient in HEADLINE],
    )


@router.post("/services/{service_id}/against/{recipe_id}")
def against(
    request: Request, service_id: int, recipe_id: int, food: Annotated[str, Form(max_length=80)] = ""
) -> Response:
    """Sets a dish against one that is bought: a food of one's own, with its label and its price."""
    with workbench_of(request).store() as connection:
        if recipe_id not in [d.recipe_id for d in service(connection, service_id).dishes]:
            raise RecipeError("choose a dish of this service")
        if food and food not in [own.key for own in own_foods(connection)]:
            raise RecipeError("choose a food of your own: its label and price are typed under Stores")
        set_bought_instead(connection, recipe_id, food)
    return RedirectResponse(f"/services/{service_id}/buy#costs", status_code=303)


@router.post("/services/{service_id}/done/{task}")
def done(request: Request, service_id: int, task: int, done: Annotated[bool, Form()] = True) -> Response:
    """A step is over, or is not after all."""
    with workbench_of(request).store() as connection:
        mark_done(connection, service_id, task, done)
    return RedirectResponse(f"/services/{service_id}#steps", status_code=303)


@router.post("/services/{service_id}/again")
def again(request: Request, service_id: int, moment: Annotated[str, Form(max_length=40)] = "") -> Response:
    """Plans what is left from a moment, now where none is typed; `first` brings back the day as planned at first."""
    with workbench_of(request).store() as connection:
        kept = service(connection, service_id)
        zone = zone_named(kept.zone)
        eaten = moment_of(kept.eaten_at, zone)
        chosen: datetime | None = None
        if moment != "first":
            chosen = datetime.now(UTC)
            if moment.strip():
                typed = moment if "T" in moment else f"{kept.eaten_at[:10]}T{moment.strip()}"
                chosen = moment_of(typed, zone)
            if chosen >= eaten:
                raise RecipeError("it is eaten by then: nothing is left to plan")
        plan_again_from(connection, service_id, chosen)
    return RedirectResponse(f"/services/{service_id}", status_code=303)


@router.post("/services/{service_id}/copy")
def copy(request: Request, service_id: int, days: Short = "7") -> Response:
    """The same service so many days later, a week where nobody says."""
    with workbench_of(request).store() as connection:
        kept = service(connection, service_id)
        later = datetime.fromisoformat(kept.eaten_at) + timedelta(days=_whole(days, "days", 1, 365))
        while later.replace(tzinfo=zone_named(kept.zone)) <= datetime.now(UTC):
            later += timedelta(days=7)
        fields = ServiceFields(
            kept.name, later.isoformat(timespec="minutes"), kept.zone, kept.place, kept.kitchen, kept.at_risk
        )
        number = create_service(connection, fields, [replace(d) for d in kept.dishes])
    return RedirectResponse(f"/services/{number}", status_code=303)


@router.post("/services/{service_id}/leftover/{place}")
def weigh_leftover(
    request: Request, service_id: int, place: int, grams: Annotated[str, Form(max_length=12)] = ""
) -> Response:
    """What came back of a dish after the meal, in grams."""
    kept, found = loaded(request, service_id)
    if not 0 <= place < len(kept.dishes):
        raise RecipeError("choose a dish of this service")
    left = number_typed(grams, "grams left over")
    made = sum(line.grams.high for line in found.plans[place].lines)
    if not 0 <= left <= max(1000.0, 4 * made):
        raise RecipeError(f"{left:g} g cannot have come back of it: look at the scale again")
    with workbench_of(request).store() as connection:
        save_leftover(connection, service_id, place, left)
    return RedirectResponse(f"/services/{service_id}/amounts", status_code=303)


@router.post("/services/{service_id}/stock")
def put_in_stock(
    request: Request,
    service_id: int,
    food: Annotated[str, Form(max_length=120)],
    grams: Annotated[str, Form(max_length=12)] = "",
) -> Response:
    """What is in the house of a food, in grams: it is taken off the list. Empty is none."""
    workbench = workbench_of(request)
    in_house = number_typed(grams, "grams in the house") if grams.strip() else 0.0
    if not 0 <= in_house <= MOST_STOCK_G or food not in workbench.knowledge.pantry:
        raise RecipeError("in the house is a known food of 0 g to 500 kg")
    with workbench.store() as connection:
        service(connection, service_id)
        save_stock(connection, food, in_house)
    return RedirectResponse(f"/services/{service_id}/buy", status_code=303)
