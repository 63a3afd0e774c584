"""A service as a whole: dishes at their size, batches, the order of work, what is bought, what it costs, how long it
keeps."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.batches import Batch, dish_batches
from fresh_ladle.core.service.buying import PackPrice, Purchase, ServiceCost, cost_per_serving, shopping
from fresh_ladle.core.service.clock import CLOSES, OPENS, Clock, hours_until
from fresh_ladle.core.service.keeping import Keeping, keeping
from fresh_ladle.core.service.scaling import WEIGHTS_FROM, ServiceLine, checked_servings, service_lines
from fresh_ladle.core.service.schedule import Impossible, Schedule, schedule
from fresh_ladle.core.service.tasks import Kitchen, Task, dish_tasks

MOST_DISHES = 12
BEFORE_MAKING = frozenset({"soak", "soak fast", "thaw", "sprout", "drain yogurt", "preheat"})
"""Work that makes nothing yet."""


@dataclass(frozen=True, slots=True)
class ServiceDish:
    """One dish of a service: how many take it, and how large their serving is, None for that of the recipe."""

    appraisal: Appraisal
    servings: float
    serving_grams: float | None = None
    former: Mapping[str, str] = field(default_factory=dict)
    """What lines were called in the original, by id, where they are something else now or gone."""

    @property
    def factor(self) -> float:
        """How many times the recipe is made."""
        totals = self.appraisal.totals
        size = 1.0 if self.serving_grams is None else self.serving_grams / totals.serving_grams
        return self.servings * size / totals.servings


@dataclass(frozen=True, slots=True)
class Ask:
    """What a service is: its dishes, when it is eaten (aware), with what it is made, and for whom."""

    dishes: tuple[ServiceDish, ...]
    eaten: datetime
    kitchen: Kitchen
    at_risk: bool = False
    weights_from: float = WEIGHTS_FROM
    opens: time = OPENS
    closes: time = CLOSES
    region: Region = Region.US


@dataclass(frozen=True, slots=True)
class DishPlan:
    """One dish as it is made."""

    dish: ServiceDish
    lines: tuple[ServiceLine, ...]
    tasks: tuple[Task, ...]
    batches: tuple[Batch, ...]
    keeping: Keeping
    cost: ServiceCost


@dataclass(frozen=True, slots=True)
class Service:
    """All of it. `order` is the day, or why there is none."""

    ask: Ask
    plans: tuple[DishPlan, ...]
    order: Schedule | Impossible
    clock: Clock
    shopping: tuple[Purchase, ...]
    cost: ServiceCost

    def made_on(self, plan: DishPlan) -> date:
        """The day on which a dish is made, from which its days count: that of its first work beyond soaking and
        thawing; the day of the meal where there is no order of work."""
        if isinstance(self.order, Impossible):
            return self.ask.eaten.date()
        own = {task.id for task in plan.tasks if task.verb not in BEFORE_MAKING}
        starts = [placed.start for placed in self.order.placed if placed.task.id in own]
        return self.clock.moment(min(starts)).date() if starts else self.ask.eaten.date()

    def keep_by(self, plan: DishPlan) -> date:
        """The last day on which a dish is eaten."""
        return plan.keeping.keep_by(self.made_on(plan))

    @property
    def servings(self) -> float:
        """The most servings any dish has: the heads that are fed."""
        return max(plan.dish.servings for plan in self.plans)


def planned_service(
    ask: Ask,
    work: KitchenWork,
    now: datetime,
    prices: Mapping[str, PackPrice] | None = None,
    stock: Mapping[str, float] | None = None,
    done: frozenset[int] = frozenset(),
) -> Service:
    """Plans a service. `done` are tasks by id that are over already. Raises RecipeError for one that cannot be."""
    if not 1 <= len(ask.dishes) <= MOST_DISHES:
        raise RecipeError(f"a service has 1 to {MOST_DISHES} dishes; {len(ask.dishes)} were given")
    if not 1 <= ask.kitchen.cooks <= 20:
        raise RecipeError(f"1 to 20 cooks make a service; {ask.kitchen.cooks} were given")
    hours, clock = hours_until(ask.eaten, now, ask.opens, ask.closes)
    priced = prices or {}
    plans = _dish_plans(ask, work, priced)
    tasks = [task for plan in plans for task in plan.tasks if task.id not in done]
    factors = [(plan.dish.appraisal, plan.dish.factor) for plan in plans]
    _check_equipment(tasks, ask.kitchen)
    bought = shopping(factors, priced, stock, ask.region)
    heads = max(plan.dish.servings for plan in plans)
    return Service(
        ask,
        plans,
        schedule(tasks, ask.kitchen, hours),
        clock,
        tuple(bought),
        cost_per_serving(bought, heads),
    )


def _check_equipment(tasks: Sequence[Task], kitchen: Kitchen) -> None:
    """Raises RecipeError for a task that needs an oven or a burner where there is none."""
    for name, count in (("oven", kitchen.ovens), ("burner", kitchen.burners)):
        needs = next((task for task in tasks if task.uses == name), None)
        if count == 0 and needs is not None:
            raise RecipeError(
                f"{needs.text!r} ({needs.dish}) needs {'an' if name == 'oven' else 'a'} {name}, and there is none"
            )


def _dish_plans(ask: Ask, work: KitchenWork, prices: Mapping[str, PackPrice]) -> tuple[DishPlan, ...]:
    found: list[DishPlan] = []
    first = 0
    for dish in ask.dishes:
        checked_servings(dish.servings)
        tasks = dish_tasks(dish.appraisal, dish.factor, work, ask.kitchen, first, dish.former)
        first += len(tasks)
        alone = shopping([(dish.appraisal, dish.factor)], prices, None, ask.region)
        found.append(
            DishPlan(
                dish,
                tuple(service_lines(dish.appraisal, dish.factor, work, ask.weights_from)),
                tuple(tasks),
                tuple(dish_batches(dish.appraisal, dish.factor, tasks, ask.kitchen.blender_ml)),
                keeping(dish.appraisal, work, ask.at_risk),
                cost_per_serving(alone, dish.servings),
            )
        )
    return tuple(found)


def names_of_cooks(count: int) -> Sequence[str]:
    """Cooks by letter, never by name."""
    return [chr(ord("A") + number) for number in range(count)]
