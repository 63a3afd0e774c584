"""A kept service worked out: as it was planned at first, or again from a moment, without what is
done by then."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, time, timedelta

from fresh_ladle.core.service.buying import PackPrice, Purchase, shopping
from fresh_ladle.core.service.clock import MOST_AHEAD, moment_of, zone_named
from fresh_ladle.core.service.day import Ask, Service, ServiceDish, planned_service
from fresh_ladle.core.service.pace import TimedStep, at_own_pace, paces
from fresh_ladle.core.service.schedule import Awaited, Impossible, OrderAsk, Schedule
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.store.foods.own_foods import pack_prices
from fresh_ladle.store.services.services import KeptService, stock
from fresh_ladle.store.services.timed_steps import timed_steps, timed_waits
from fresh_ladle.store.settings import Settings, settings
from fresh_ladle.web.places.service.days import order_of
from fresh_ladle.web.state import Workbench

MOST_KEPT = 40
"""Services held in memory: amounts, batches and lists are worked out from the same dishes."""
NOT_KEPT_YET = 0
"""Stands for the id of a service that is worked out before it is kept."""


@dataclass(frozen=True, slots=True)
class PracticeKnows:
    """What a practice brings to every service: prices, what is in the house, its hours, and what
    steps took."""

    prices: Mapping[str, PackPrice]
    stock: Mapping[str, float]
    custom: Settings
    timed: list[TimedStep]
    waits: Mapping[int, Mapping[str, int]]


def practice_knows(connection: sqlite3.Connection) -> PracticeKnows:
    return PracticeKnows(
        pack_prices(connection),
        stock(connection),
        settings(connection),
        timed_steps(connection),
        timed_waits(connection),
    )


def service_dishes(
    workbench: Workbench, kept: KeptService, waits: Mapping[int, Mapping[str, int]]
) -> tuple[ServiceDish, ...]:
    """The dishes of a kept service, worked out."""
    return tuple(
        ServiceDish(
            workbench.appraise(d.recipe, d.former),
            d.servings,
            d.serving_grams,
            d.former,
            waits.get(d.recipe_id, {}),
        )
        for d in kept.dishes
    )


def week_of(
    workbench: Workbench,
    kept: KeptService,
    practice: PracticeKnows,
    all_kept: Sequence[KeptService],
) -> tuple[list[str], list[Purchase]]:
    """The names of the services in the week of one, Monday to Sunday, the first meal first; and one
    list for all."""
    week = datetime.fromisoformat(kept.eaten_at).isocalendar()[:2]
    same = [k for k in all_kept if datetime.fromisoformat(k.eaten_at).isocalendar()[:2] == week]
    needed: list[tuple[Appraisal, float]] = []
    for one in same:
        dishes = service_dishes(workbench, one, {})
        needed += [(dish.appraisal, dish.factor) for dish in dishes]
        if one.beside is not None:
            needed.append((workbench.appraise(one.beside), max(dish.servings for dish in dishes)))
    names = [one.name for one in sorted(same, key=lambda k: k.eaten_at)]
    return names, shopping(needed, practice.prices, practice.stock, kept.dishes[0].recipe.region)


def planned(
    workbench: Workbench, kept: KeptService, practice: PracticeKnows, seconds: float
) -> Service:
    """In the hours of the practice's kitchen and at its pace. Its order of work is waited for so
    many seconds, then it is awaited. Raises RecipeError for a service that cannot be, and Overrun
    where its order could not be worked out."""
    again, custom = kept.again_at, practice.custom
    # What is ticked off moves nothing until the day is planned again.
    done = {task: at for task, at in kept.done.items() if again is not None and at <= again}
    made_of = (kept.fields, again, kept.dishes, done, kept.minutes, practice)
    known = workbench.services.get(kept.id)
    if known is not None and known[0] == made_of:
        return known[1]
    eaten = moment_of(kept.eaten_at, zone_named(kept.zone))
    ask = Ask(
        service_dishes(workbench, kept, practice.waits),
        eaten,
        kept.kitchen,
        kept.at_risk,
        float(custom.weights_from),
        time.fromisoformat(custom.opens),
        time.fromisoformat(custom.closes),
        kept.dishes[0].recipe.region,
        workbench.appraise(kept.beside) if kept.beside is not None else None,
        kept.minutes,
    )
    now = again if again is not None else eaten - MOST_AHEAD - timedelta(minutes=1)
    work = at_own_pace(workbench.knowledge.work, paces(practice.timed))

    def order(asked: OrderAsk) -> Schedule | Impossible | Awaited:
        return (
            Awaited() if kept.id == NOT_KEPT_YET else order_of(workbench, kept.id, asked, seconds)
        )

    found = planned_service(
        ask, work, now, practice.prices, practice.stock, frozenset(done), workbench.appraise, order
    )
    if not isinstance(found.order, Awaited):
        if len(workbench.services) >= MOST_KEPT:
            workbench.services.clear()
        workbench.services[kept.id] = (made_of, found)
    return found
