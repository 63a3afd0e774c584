"""The pages of a service: the day, amounts, what is bought; done step by step, timed, planned
again."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any, Literal

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.buying import Purchase
from fresh_ladle.core.service.clock import moment_of, zone_named
from fresh_ladle.core.service.day import Service, task_of
from fresh_ladle.core.service.pace import MOST_ACTIVE, MOST_WAITING, Minutes
from fresh_ladle.core.service.schedule import Awaited
from fresh_ladle.core.service.wholes import whole_choices
from fresh_ladle.store import clock
from fresh_ladle.store.database import writing
from fresh_ladle.store.foods.own_foods import as_food, own_foods, pack_prices
from fresh_ladle.store.recipes.recipes import version
from fresh_ladle.store.services.services import (
    KeptService,
    bought_instead,
    change_service,
    leftovers,
    mark_done,
    plan_again_from,
    save_leftover,
    save_stock,
    service,
    services,
    set_bought_instead,
    stock,
)
from fresh_ladle.store.services.timed_steps import save_timed, set_minutes
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.service import days as service_days
from fresh_ladle.web.places.service.planned import planned, practice_knows, week_of
from fresh_ladle.web.places.service.view import (
    base_views,
    cost_view,
    day_view,
    dish_view,
    plate_views,
    shopping_sections,
    whole_views,
)
from fresh_ladle.web.shared.gate import Gate, gate_of
from fresh_ladle.web.shared.money import money
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.shared.typed import number_typed, whole_number
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.work.processes import Overrun

router = guarded_router()
MOST_STOCK_G = 500_000
MOST_CANS = 10_000
TELL_THE_DAY = ("day", "amounts", "labels", "record")
"""Pages on which it stands when a dish is made."""


def loaded(
    request: Request, service_id: int, seconds: float | None = None
) -> tuple[KeptService, Service]:
    """A service and all that is worked out of it; its order of work is waited for so many seconds,
    a moment where none are said. Raises RecipeMissing."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        kept = service(connection, service_id)
        practice = practice_knows(connection)
    return kept, planned(
        workbench, kept, practice, service_days.SHORTLY_S if seconds is None else seconds
    )


def loaded_whole(request: Request, service_id: int) -> tuple[KeptService, Service]:
    """The same for a file, in which nothing can be awaited. Raises Overrun where it takes too
    long."""
    kept, found = loaded(request, service_id, service_days.AT_MOST_S)
    if isinstance(found.order, Awaited):
        raise Overrun("the day of this service is still being worked out: try again in a moment")
    return kept, found


def service_page(
    request: Request,
    template: str,
    kept: KeptService,
    found: Service,
    tab: str,
    status: int = 200,
    **more: Any,
) -> HTMLResponse:
    """One of the pages of a service; one that tells when things are made says so while the day is
    not known yet."""
    gates = [gate for gate in gates_of(request, kept) if gate.broken]
    if tab in TELL_THE_DAY and isinstance(found.order, Awaited):
        template = "places/service/awaited.html"
    return page(
        request,
        template,
        status,
        s=kept,
        eaten=found.ask.eaten,
        tab=tab,
        place="services",
        refused=found.refused,
        gates=gates,
        **more,
    )


def gates_of(request: Request, kept: KeptService) -> list[Gate]:
    """For each dish of a service, in their order, for whom its recipe is and what of that it
    breaks."""
    workbench = workbench_of(request)
    with workbench.store() as connection:
        return [
            gate_of(connection, dish.recipe_id, dish.number or 0, workbench.appraise(dish.recipe))
            for dish in kept.dishes
        ]


def bought_for(request: Request, service_id: int, week: bool) -> tuple[list[str], list[Purchase]]:
    """The names of the services that are bought for, and their list: one service, or all of its
    week."""
    kept, found = loaded(request, service_id)
    if not week:
        return [kept.name], list(found.shopping)
    workbench = workbench_of(request)
    with workbench.store() as connection:
        return week_of(workbench, kept, practice_knows(connection), services(connection))


def currency_of(request: Request) -> str:
    with workbench_of(request).store() as connection:
        return settings(connection).currency


@router.get("/services/{service_id}", response_class=HTMLResponse)
def day(request: Request, service_id: int) -> HTMLResponse:
    """The day: what is next, the lanes, every step."""
    kept, found = loaded(request, service_id)
    if isinstance(found.order, Awaited):
        return service_page(request, "places/service/day.html", kept, found, "day")
    again = f"{kept.again_at.astimezone(zone_named(kept.zone)):%H:%M}" if kept.again_at else ""
    shown = day_view(found, kept, clock.now())
    return service_page(
        request, "places/service/day.html", kept, found, "day", day=shown, again=again
    )


@router.get("/services/{service_id}/awaited")
def awaited(request: Request, service_id: int) -> Response:
    """Asked by a page that waits for the day: tells it to load again when the day is there, or
    could not be made."""
    _, found = loaded(request, service_id, 0.0)
    return Response(
        status_code=204, headers={} if isinstance(found.order, Awaited) else {"HX-Refresh": "true"}
    )


@router.get("/services/{service_id}/amounts", response_class=HTMLResponse)
def amounts(request: Request, service_id: int) -> HTMLResponse:
    """Every dish at its size, its fillings, how long it keeps."""
    kept, found = loaded(request, service_id)
    dishes = [dish_view(found, plan, currency_of(request)) for plan in found.plans]
    with workbench_of(request).store() as connection:
        left = leftovers(connection, service_id)
    return service_page(
        request,
        "places/service/amounts.html",
        kept,
        found,
        "amounts",
        dishes=dishes,
        bases=base_views(found),
        beside=list(found.beside.lines) if found.beside is not None else [],
        wholes=[whole_views(found, plan, workbench_of(request).appraise) for plan in found.plans],
        plate=plate_views(found),
        figures=[BY_ID[nutrient] for nutrient in HEADLINE],
        left=left,
    )


@router.get("/services/{service_id}/buy", response_class=HTMLResponse)
def buy(request: Request, service_id: int, week: bool = False) -> HTMLResponse:
    """One list, by part of the store, for the service or all of its week; what each dish costs
    beside its original and beside a bought one."""
    kept, found = loaded(request, service_id)
    workbench, currency = workbench_of(request), currency_of(request)
    names, bought = bought_for(request, service_id, week)
    with workbench.store() as connection:
        prices, stock_now = pack_prices(connection), stock(connection)
        own = {
            food.key: as_food(food, workbench.knowledge.pantry) for food in own_foods(connection)
        }
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
    total = money(sum(p.cost or 0.0 for p in bought), currency)
    return service_page(
        request,
        "places/service/buy.html",
        kept,
        found,
        "buy",
        sections=shopping_sections(bought),
        total=total,
        week=week,
        names=names,
        in_house=stock_now,
        costs=costs,
        own=own.values(),
        figures=[BY_ID[nutrient] for nutrient in HEADLINE],
    )


@router.post("/services/{service_id}/against/{recipe_id}")
def against(
    request: Request,
    service_id: int,
    recipe_id: int,
    food: Annotated[str, Form(max_length=80)] = "",
) -> Response:
    """Sets a dish against one that is bought: a food of one's own, with its label and its price."""
    with workbench_of(request).store() as connection:
        if recipe_id not in [d.recipe_id for d in service(connection, service_id).dishes]:
            raise RecipeError("choose a dish of this service")
        if food and food not in [own.key for own in own_foods(connection)]:
            raise RecipeError(
                "choose a food of your own: its label and price are typed under Stores"
            )
        set_bought_instead(connection, recipe_id, food)
    return RedirectResponse(f"/services/{service_id}/buy#costs", status_code=303)


@router.post("/services/{service_id}/done/{task}")
def done(
    request: Request, service_id: int, task: int, done: Annotated[bool, Form()] = True
) -> Response:
    """A step is over, or is not after all."""
    with workbench_of(request).store() as connection:
        mark_done(connection, service_id, task, done)
    return RedirectResponse(f"/services/{service_id}#steps", status_code=303)


@router.post("/services/{service_id}/minutes/{task}")
def set_step_minutes(
    request: Request,
    service_id: int,
    task: int,
    active: Annotated[str, Form(max_length=12)] = "",
    waiting: Annotated[str, Form(max_length=12)] = "0",
    timed: Annotated[bool, Form()] = False,
) -> Response:
    """Plans a step with other minutes; those that were timed are remembered for the dish and for
    the verb."""
    kept, found = loaded(request, service_id, 0.0)
    owner = task_of(found, task)
    if owner is None:
        raise RecipeError("choose a step of this service")
    place, step = owner
    minutes = Minutes(
        whole_number(active, "minutes of work", 1, MOST_ACTIVE),
        whole_number(waiting, "minutes", 0, MOST_WAITING),
    )
    with workbench_of(request).store() as connection, writing(connection):
        set_minutes(connection, service_id, task, minutes)
        if timed:
            save_timed(
                connection,
                service_id,
                kept.dishes[min(place, len(kept.dishes) - 1)].recipe_id,
                step,
                minutes,
            )
    return RedirectResponse(f"/services/{service_id}#steps", status_code=303)


@router.post("/services/{service_id}/wholes/{place}")
def take_wholes(
    request: Request,
    service_id: int,
    place: int,
    line: Annotated[str, Form(max_length=12)],
    cans: Annotated[int, Form(ge=1, le=MOST_CANS)],
    move: Annotated[Literal["servings", "line"], Form()],
) -> Response:
    """Moves a dish to whole cans: all of it to as many servings as they give, or its line alone."""
    kept, found = loaded(request, service_id, 0.0)
    workbench = workbench_of(request)
    if not 0 <= place < len(kept.dishes):
        raise RecipeError("choose a dish of this service")
    dish = found.plans[place].dish
    choices = whole_choices(
        dish.appraisal, dish.factor, dish.servings, found.ask.region, workbench.appraise
    )
    chosen = next((c for c in choices if (c.line, c.cans) == (line, cans)), None)
    if chosen is None:
        raise RecipeError("this batch was changed meanwhile: look at its cans again")
    before = kept.dishes[place]
    if move == "servings":
        after = replace(before, servings=chosen.servings)
    else:
        after = replace(before, recipe=chosen.recipe)
    dishes = [*kept.dishes[:place], after, *kept.dishes[place + 1 :]]
    with workbench.store() as connection:
        change_service(connection, service_id, kept.fields, dishes)
    return RedirectResponse(f"/services/{service_id}/amounts", status_code=303)


@router.post("/services/{service_id}/again")
def again(
    request: Request, service_id: int, moment: Annotated[str, Form(max_length=40)] = ""
) -> Response:
    """Plans what is left from a moment, now where none is typed; `first` brings back the day as
    planned at first."""
    with workbench_of(request).store() as connection:
        kept = service(connection, service_id)
        zone = zone_named(kept.zone)
        eaten = moment_of(kept.eaten_at, zone)
        chosen: datetime | None = None
        if moment != "first":
            chosen = clock.now()
            if moment.strip():
                typed = moment if "T" in moment else f"{kept.eaten_at[:10]}T{moment.strip()}"
                chosen = moment_of(typed, zone)
            if chosen >= eaten:
                raise RecipeError("it is eaten by then: nothing is left to plan")
        plan_again_from(connection, service_id, chosen)
    return RedirectResponse(f"/services/{service_id}", status_code=303)


@router.post("/services/{service_id}/leftover/{place}")
def weigh_leftover(
    request: Request, service_id: int, place: int, grams: Annotated[str, Form(max_length=12)] = ""
) -> Response:
    """What came back of a dish after the meal, in grams."""
    kept, found = loaded(request, service_id, 0.0)
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
