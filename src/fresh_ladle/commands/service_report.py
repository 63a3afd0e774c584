"""A planned service as plain values, for JSON."""

from __future__ import annotations

from typing import Any

from fresh_ladle.core.service.buying import ServiceCost
from fresh_ladle.core.service.day import Service, names_of_cooks
from fresh_ladle.core.service.schedule import Impossible, Placed, Schedule
from fresh_ladle.core.service.words import impossible_words


def service_report(service: Service) -> dict[str, Any]:
    """Lines, batches, shopping, steps with their moments (ISO 8601, with offset), keep-by and
    cost."""
    order = service.order
    first = min(service.plans, key=service.keep_by)
    report: dict[str, Any] = {
        "lines": [
            {
                "text": line.text,
                "amount": line.measure,
                "grams": round(line.grams.value, 2),
                "low": round(line.grams.low, 2),
                "high": round(line.grams.high, 2),
                "food": line.food,
                "start_grams": round(line.start_grams, 2),
            }
            for plan in service.plans
            for line in plan.lines
        ],
        "batches": [
            {
                "task": batch.task,
                "number": batch.number,
                "of": batch.of,
                "ml": round(batch.millilitres),
                "grams": round(batch.grams, 1),
                "lines": [
                    {"food": name, "grams": round(grams, 2)} for _, name, grams in batch.lines
                ],
            }
            for plan in service.plans
            for batch in plan.batches
        ],
        "shopping": [
            {
                "food": one.food.kitchen_name,
                "buy": one.words,
                "packs": one.packs,
                "pack_grams": one.pack_grams or None,
                "grams": round(one.grams.value, 1),
                "left_over_grams": round(one.left_over, 1),
                "cost": None if one.cost is None else round(one.cost, 2),
                "section": one.section,
            }
            for one in service.shopping
        ],
        "steps": [_step(service, placed) for placed in order.placed]
        if isinstance(order, Schedule)
        else [],
        "keep_by": service.keep_by(first).isoformat(),
        "keep_days": first.keeping.days,
        "keep_why": first.keeping.decided_by,
        "cost_per_serving": cost_report(service.cost),
    }
    if isinstance(order, Impossible):
        report["problem"] = impossible_words(order)
    return report


def cost_report(cost: ServiceCost) -> dict[str, Any]:
    return {
        "value": round(cost.value, 4),
        "low": round(cost.low, 4),
        "high": round(cost.high, 4),
        "unknown": list(cost.unknown),
    }


def _step(service: Service, placed: Placed) -> dict[str, Any]:
    task = placed.task
    return {
        "text": task.text,
        "dish": task.dish,
        "start": service.clock.moment(placed.start).isoformat(),
        "end": service.clock.moment(placed.end).isoformat(),
        "active_minutes": task.active,
        "waiting_minutes": task.waiting,
        "uses": task.uses,
        "cook": names_of_cooks(service.ask.kitchen.cooks)[placed.cook],
        "component": task.component,
        "time_said": task.said,
        "batches": task.batches,
    }
