"""A kept service worked out: as it was planned at first, or again from a moment, without what is done by then."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import time, timedelta

from fresh_ladle.core.service.buying import PackPrice
from fresh_ladle.core.service.clock import AHEAD, moment_of, zone_named
from fresh_ladle.core.service.day import Ask, Service, ServiceDish, planned_service
from fresh_ladle.store.services import KeptService
from fresh_ladle.store.settings import Settings
from fresh_ladle.web.state import Workbench

MOST_KEPT = 40
"""Services held in memory, since planning a day takes a second."""


def planned(
    workbench: Workbench,
    kept: KeptService,
    prices: Mapping[str, PackPrice],
    stock: Mapping[str, float],
    custom: Settings,
) -> Service:
    """In the hours of the practice's kitchen. Raises RecipeError for a service that cannot be."""
    again = kept.again_at
    # What is ticked off moves nothing until the day is planned again.
    done = {task: at for task, at in kept.done.items() if again is not None and at <= again}
    made_of = (kept.eaten_at, kept.zone, kept.kitchen, kept.at_risk, again, kept.dishes, done, prices, stock, custom)
    known = workbench.services.get(kept.id)
    if known is not None and known[0] == made_of:
        return known[1]
    eaten = moment_of(kept.eaten_at, zone_named(kept.zone))
    dishes = tuple(ServiceDish(workbench.appraise(d.recipe), d.servings, former=d.former) for d in kept.dishes)
    ask = Ask(
        dishes,
        eaten,
        kept.kitchen,
        kept.at_risk,
        float(custom.weights_from),
        time.fromisoformat(custom.opens),
        time.fromisoformat(custom.closes),
        kept.dishes[0].recipe.region,
    )
    now = again if again is not None else eaten - AHEAD - timedelta(minutes=1)
    found = planned_service(ask, workbench.knowledge.work, now, prices, stock, frozenset(done), workbench.appraise)
    if len(workbench.services) >= MOST_KEPT:
        workbench.services.clear()
    workbench.services[kept.id] = (made_of, found)
    return found
