"""A service as a whole: dishes at their size, batches, the order of work, what is bought, what it
costs, how long it keeps."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time

from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.hold.at_risk import refused_at_risk
from fresh_ladle.core.hold.keeping import Keeping, keeping
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.batches import Batch, dish_batches
from fresh_ladle.core.service.buying import (
    PackPrice,
    Purchase,
    ServiceCost,
    cost_per_serving,
    shopping,
)
from fresh_ladle.core.service.clock import CLOSES, OPENS, Clock, ahead_for, hours_until
from fresh_ladle.core.service.pace import Minutes, with_minutes
from fresh_ladle.core.service.scaling import (
    WEIGHTS_FROM,
    ServiceLine,
    checked_servings,
    service_lines,
)
from fresh_ladle.core.service.schedule import Awaited, Impossible, OrderAsk, Schedule, minutes_left
from fresh_ladle.core.service.task import Kitchen, Task
from fresh_ladle.core.service.tasks import dish_tasks
from fresh_ladle.core.whole.appraisal import Appraisal

MOST_DISHES = 12
BEFORE_MAKING = frozenset({"soak", "soak fast", "thaw", "sprout", "drain yogurt", "preheat"})
"""Work that makes nothing yet."""


@dataclass(frozen=True, slots=True)
class ServiceDish:
    """One dish of a service: how many take it, and how large their serving is, None for that of the
    recipe."""

    appraisal: Appraisal
    servings: float
    serving_grams: float | None = None
    former: Mapping[str, str] = field(default_factory=dict)
    """What lines were called in the original, by id, where they are something else now or gone."""
    waits: Mapping[str, int] = field(default_factory=dict)
    """Minutes that steps, by their words, were timed to go on by themselves."""

    @property
    def size(self) -> float:
        """How many servings of the recipe one of these is."""
        return (
            1.0
            if self.serving_grams is None
            else self.serving_grams / self.appraisal.totals.serving_grams
        )

    @property
    def factor(self) -> float:
        """How many times the recipe is made."""
        return self.servings * self.size / self.appraisal.totals.servings


@dataclass(frozen=True, slots=True)
class Ask:
    """What a service is: its dishes, when it is eaten (aware), with what it is made, and for whom.
    `beside` is what it comes with, for each of the heads; `minutes` are those that somebody set for
    tasks, by id."""

    dishes: tuple[ServiceDish, ...]
    eaten: datetime
    kitchen: Kitchen
    at_risk: bool = False
    weights_from: float = WEIGHTS_FROM
    opens: time = OPENS
    closes: time = CLOSES
    region: Region = Region.US
    beside: Appraisal | None = None
    minutes: Mapping[int, Minutes] = field(default_factory=dict)

    @property
    def heads(self) -> float:
        """The most servings any dish has: the heads that are fed."""
        return max(dish.servings for dish in self.dishes)


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
class BasePlan:
    """Another recipe that dishes use part of: made once for all of them. `names` are those
    dishes."""

    appraisal: Appraisal
    factor: float
    names: tuple[str, ...]
    lines: tuple[ServiceLine, ...]
    tasks: tuple[Task, ...]
    batches: tuple[Batch, ...]


@dataclass(frozen=True, slots=True)
class Service:
    """All of it. `beside` is what it comes with; `order` is the day, or why there is none, or that
    it is still being worked out."""

    ask: Ask
    bases: tuple[BasePlan, ...]
    plans: tuple[DishPlan, ...]
    beside: DishPlan | None
    order: Schedule | Impossible | Awaited
    clock: Clock
    shopping: tuple[Purchase, ...]
    cost: ServiceCost

    @property
    def refused(self) -> tuple[str, ...]:
        """Why dishes are not for the guests at risk who eat of it, with what would do; empty where
        all may be."""
        eaten = [dish.appraisal for dish in self.ask.dishes] + (
            [self.ask.beside] if self.ask.beside else []
        )
        said = (refused_at_risk(dish) for dish in eaten if self.ask.at_risk)
        return tuple(why for why in said if why)

    def made_on(self, plan: DishPlan) -> date:
        """The day on which a dish is made, from which its days count: that of its first work beyond
        soaking and thawing, its bases included; the day of the meal where there is no order of
        work."""
        if not isinstance(self.order, Schedule):
            return self.ask.eaten.date()
        used = [
            line.batch.recipe for line in plan.dish.appraisal.recipe.lines if line.batch is not None
        ]
        bases = [
            task for base in self.bases if base.appraisal.recipe in used for task in base.tasks
        ]
        own = {task.id for task in (*bases, *plan.tasks) if task.verb not in BEFORE_MAKING}
        starts = [placed.start for placed in self.order.placed if placed.task.id in own]
        return self.clock.moment(min(starts)).date() if starts else self.ask.eaten.date()

    def keep_by(self, plan: DishPlan) -> date:
        """The last day on which a dish is eaten."""
        return plan.keeping.keep_by(self.made_on(plan))


def planned_service(
    ask: Ask,
    work: KitchenWork,
    now: datetime,
    prices: Mapping[str, PackPrice] | None = None,
    stock: Mapping[str, float] | None = None,
    done: frozenset[int] = frozenset(),
    appraise: Callable[[Recipe], Appraisal] | None = None,
    order_of: Callable[[OrderAsk], Schedule | Impossible | Awaited] = OrderAsk.solved,
) -> Service:
    """Plans a service. `done` are tasks by id that are over already; `appraise` works out the bases
    of dishes, which are bought ready where it is not given; `order_of` gives the order of work.
    Raises RecipeError for what cannot be."""
    if not 1 <= len(ask.dishes) <= MOST_DISHES:
        raise RecipeError(f"a service has 1 to {MOST_DISHES} dishes; {len(ask.dishes)} were given")
    if not 1 <= ask.kitchen.cooks <= 20:
        raise RecipeError(f"1 to 20 cooks make a service; {ask.kitchen.cooks} were given")
    priced = prices or {}
    bases = _base_plans(ask, work, appraise) if appraise is not None else ()
    plans = _dish_plans(ask, work, priced, bases)
    beside = _beside_plan(
        ask, work, priced, sum(len(b.tasks) for b in bases) + sum(len(p.tasks) for p in plans)
    )
    all_plans = (*plans, beside) if beside is not None else plans
    of_bases = [task for base in bases for task in base.tasks]
    every = (*of_bases, *(t for plan in all_plans for t in plan.tasks))
    tasks = [t for t in every if t.id not in done]
    factors = [(plan.dish.appraisal, plan.dish.factor) for plan in all_plans]
    _check_equipment(tasks, ask.kitchen)
    ahead = ahead_for(max(minutes_left(every).values(), default=0))
    hours, clock = hours_until(ask.eaten, now, ask.opens, ask.closes, ahead)
    bought = shopping(factors, priced, stock, ask.region)
    return Service(
        ask,
        bases,
        plans,
        beside,
        order_of(OrderAsk(tuple(tasks), ask.kitchen, hours)),
        clock,
        tuple(bought),
        cost_per_serving(bought, ask.heads),
    )


def _check_equipment(tasks: Sequence[Task], kitchen: Kitchen) -> None:
    """Raises RecipeError for a task that needs an oven or a burner where there is none."""
    for name, count in (("oven", kitchen.ovens), ("burner", kitchen.burners)):
        needs = next((task for task in tasks if task.uses == name), None)
        if count == 0 and needs is not None:
            raise RecipeError(
                f"{needs.text!r} ({needs.dish}) needs {'an' if name == 'oven' else 'a'} {name}, and"
                " there is none"
            )


def _base_plans(
    ask: Ask, work: KitchenWork, appraise: Callable[[Recipe], Appraisal]
) -> tuple[BasePlan, ...]:
    """Each base once, at the size that all dishes together need; numbered before the dishes."""
    needed: dict[Recipe, tuple[float, list[str]]] = {}
    for dish in ask.dishes:
        for line in dish.appraisal.recipe.lines:
            if line.batch is not None and line.batch.recipe.method:
                factor, names = needed.get(line.batch.recipe, (0.0, []))
                title = dish.appraisal.recipe.title
                needed[line.batch.recipe] = (
                    factor + dish.factor * line.batch.share,
                    [*names, title],
                )
    found: list[BasePlan] = []
    first = 0
    for recipe, (factor, names) in needed.items():
        base = appraise(recipe)
        # It goes into dishes and not into bowls: its last task, portioning, is left out.
        *own, _ = dish_tasks(base, factor, work, ask.kitchen, first)
        tasks = [with_minutes(_any_time(task), ask.minutes.get(task.id)) for task in own]
        first += len(tasks)
        lines = tuple(service_lines(base, factor, work, ask.weights_from))
        fillings = tuple(dish_batches(base, factor, tasks, ask.kitchen.blender_ml))
        found.append(
            BasePlan(base, factor, tuple(dict.fromkeys(names)), lines, tuple(tasks), fillings)
        )
    return tuple(found)


def _any_time(task: Task) -> Task:
    """A task of a base, which is not served as it is: nothing of it is left for the last moment."""
    active = task.active * task.batches if task.in_rounds else task.active
    return replace(
        task,
        from_minutes=None,
        in_rounds=False,
        active=active,
        batches=1 if task.in_rounds else task.batches,
    )


def _after_bases(tasks: Sequence[Task], recipe: Recipe, bases: Sequence[BasePlan]) -> list[Task]:
    """Tasks that use a base wait for all of it."""
    ends = {}
    for line in recipe.lines:
        base = next(
            (
                b
                for b in bases
                if line.batch is not None and b.appraisal.recipe == line.batch.recipe
            ),
            None,
        )
        if base is not None:
            waited_for = {before for task in base.tasks for before in task.after}
            ends[line.id] = tuple(task.id for task in base.tasks if task.id not in waited_for)
    return [
        replace(
            task, after=(*task.after, *(end for line in task.lines for end in ends.get(line, ())))
        )
        for task in tasks
    ]


def _dish_plans(
    ask: Ask, work: KitchenWork, prices: Mapping[str, PackPrice], bases: Sequence[BasePlan]
) -> tuple[DishPlan, ...]:
    found: list[DishPlan] = []
    first = sum(len(base.tasks) for base in bases)
    for dish in ask.dishes:
        checked_servings(dish.servings)
        found.append(_dish_plan(dish, ask, work, prices, first, bases))
        first += len(found[-1].tasks)
    return tuple(found)


def _dish_plan(
    dish: ServiceDish,
    ask: Ask,
    work: KitchenWork,
    prices: Mapping[str, PackPrice],
    first: int,
    bases: Sequence[BasePlan] = (),
) -> DishPlan:
    """One dish, its tasks numbered from `first`."""
    own = dish_tasks(dish.appraisal, dish.factor, work, ask.kitchen, first, dish.former, dish.waits)
    tasks = [
        with_minutes(task, ask.minutes.get(task.id))
        for task in _after_bases(own, dish.appraisal.recipe, bases)
    ]
    alone = shopping([(dish.appraisal, dish.factor)], prices, None, ask.region)
    return DishPlan(
        dish,
        tuple(service_lines(dish.appraisal, dish.factor, work, ask.weights_from)),
        tuple(tasks),
        tuple(dish_batches(dish.appraisal, dish.factor, tasks, ask.kitchen.blender_ml)),
        keeping(dish.appraisal, work, ask.at_risk),
        cost_per_serving(alone, dish.servings),
    )


def _beside_plan(
    ask: Ask, work: KitchenWork, prices: Mapping[str, PackPrice], first: int
) -> DishPlan | None:
    """What the service comes with, as one more dish for every head."""
    if ask.beside is None:
        return None
    return _dish_plan(ServiceDish(ask.beside, ask.heads), ask, work, prices, first)


def task_of(service: Service, task: int) -> tuple[int, Task] | None:
    """The task with this id and the place of its dish: that of the first dish that uses it for a
    base, one past the last for what the service comes with; None where there is none."""
    for base in service.bases:
        for one in base.tasks:
            if one.id == task:
                titles = [plan.dish.appraisal.recipe.title for plan in service.plans]
                return titles.index(base.names[0]), one
    for place, plan in enumerate((*service.plans, *((service.beside,) if service.beside else ()))):
        for one in plan.tasks:
            if one.id == task:
                return place, one
    return None


def names_of_cooks(count: int) -> Sequence[str]:
    """Cooks by letter, never by name."""
    return [chr(ord("A") + number) for number in range(count)]


def check_at_risk(service: Service) -> Service:
    """The service, where all of it may be served to those who eat it. Raises RecipeError with what
    would do."""
    if service.refused:
        raise RecipeError(". ".join(service.refused))
    return service
