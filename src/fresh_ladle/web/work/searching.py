"""What processes of searches do: the same searches of the core, over the knowledge of the practice
they are told of.

Everything here is called by name in another process; what it is given and what it tells goes
through a pipe."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.compose.compose import Composition, compose
from fresh_ladle.core.compose.house import House
from fresh_ladle.core.compose.request import ComposeRequest
from fresh_ladle.core.plans.plan import Plan
from fresh_ladle.core.plans.refusal import Refusal, refusal_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import pareto_front, plans_for
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.web.work.processes import Telling
from fresh_ladle.web.work.stock import StockMark, knowledge_at


@dataclass(frozen=True, slots=True)
class FoundPlans:
    """What a search came to: plans, those between them, or why there is none."""

    plans: tuple[Plan, ...] = ()
    between: tuple[Plan, ...] = ()
    refusal: Refusal | None = None
    timed_out: bool = False


def warmed(_: Telling) -> None:
    """Has what searches load there before the first of them."""
    load_knowledge()


def search_plans(
    telling: Telling,
    stock: StockMark,
    now: Appraisal,
    original: Appraisal,
    wanted: PlanRequest,
    prices: Mapping[str, float],
) -> FoundPlans:
    """Plans of one recipe. Tells each as it is found, the nearest where none is, and in words what
    is done next."""
    knowledge = knowledge_at(stock)
    plans, looked = plans_for(
        now, original, wanted, knowledge, telling.say, telling.stopped, prices
    )
    if telling.stopped():
        return FoundPlans(tuple(plans), timed_out=looked.timed_out)
    if plans:
        telling.say("drawing the points between")
        return FoundPlans(
            tuple(plans), tuple(pareto_front(looked, plans)), timed_out=looked.timed_out
        )
    telling.say("nothing holds; looking for the nearest, and for what would do")
    told = refusal_for(now, original, wanted, knowledge, telling.stopped, telling.say)
    return FoundPlans(refusal=told, timed_out=looked.timed_out)


def search_closest(
    telling: Telling, stock: StockMark, now: Appraisal, original: Appraisal, wanted: PlanRequest
) -> Plan | str:
    """The closest plan of one recipe, or the words that say why there is none."""
    knowledge = knowledge_at(stock)
    plans, _ = plans_for(
        now, original, wanted, knowledge, stopped=telling.stopped, only_closest=True
    )
    if plans:
        return plans[0]
    if telling.stopped():
        return "not looked at"
    refusal = refusal_for(now, original, wanted, knowledge, telling.stopped)
    instead = [f"{plan.name}: {plan.why}" for plan in refusal.otherwise]
    return " ".join([*(conflict.text for conflict in refusal.conflicts), *instead])


def search_dishes(
    telling: Telling,
    stock: StockMark,
    wanted: ComposeRequest,
    house: House,
    prices: Mapping[str, float],
) -> Composition:
    """Dishes from what is in the house. Tells each as it is found."""
    return compose(wanted, house, knowledge_at(stock), prices, telling.say, telling.stopped)
