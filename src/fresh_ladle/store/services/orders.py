"""The order of work a service was given, kept with what it was worked out from: it is not worked
out twice."""

from __future__ import annotations

import json
import sqlite3
from hashlib import sha256

from fresh_ladle.core.service.schedule import Impossible, OrderAsk, Schedule
from fresh_ladle.store.database import writing

RULES = 1
"""To be raised with the rules by which days are planned, so that kept ones are worked out anew."""


def asked_of(ask: OrderAsk) -> str:
    """By which an order is known again: the same tasks, kitchen and hours, under the same rules."""
    return sha256(repr((RULES, ask)).encode()).hexdigest()


def kept_order(
    connection: sqlite3.Connection, service_id: int, ask: OrderAsk
) -> Schedule | Impossible | None:
    """The order of a service as it was worked out; None where it was asked something else."""
    row = connection.execute(
        "SELECT found FROM service_order WHERE service_id = ? AND asked = ?",
        (service_id, asked_of(ask)),
    ).fetchone()
    if row is None:
        return None
    found = json.loads(row["found"])
    if "starts" in found:
        return ask.schedule_from({int(task): start for task, start in found["starts"].items()})
    return Impossible(found["why"], tuple(found["would_do"]), found["later"])


def save_order(
    connection: sqlite3.Connection, service_id: int, ask: OrderAsk, order: Schedule | Impossible
) -> None:
    """Keeps the order of a service in place of the one before; nothing where the service is
    gone."""
    if isinstance(order, Schedule):
        found: dict[str, object] = {
            "starts": {placed.task.id: placed.start for placed in order.placed}
        }
    else:
        found = {"why": order.why, "would_do": order.would_do, "later": order.later}
    with writing(connection):
        connection.execute(
            "INSERT INTO service_order SELECT id, ?, ? FROM service WHERE id = ?"
            " ON CONFLICT (service_id) DO UPDATE SET asked = excluded.asked, found ="
            " excluded.found",
            (asked_of(ask), json.dumps(found), service_id),
        )
