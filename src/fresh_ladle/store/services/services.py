"""Services: what is made, for how many and when; what is done of it; stock. A dish is held as it
was put in."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime

from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.service.pace import Minutes
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.store.clock import now_text
from fresh_ladle.store.database import writing
from fresh_ladle.store.recipes.document import from_document, to_document
from fresh_ladle.store.recipes.recipes import RecipeMissing


@dataclass(frozen=True, slots=True)
class KeptDish:
    """One dish of a service. `number` is the version, None for a draft; `former` what its lines
    were called in the original, by id, where they are something else now or gone; `serving_grams` a
    serving of another size than that of the recipe."""

    recipe_id: int
    number: int | None
    name: str
    servings: float
    recipe: Recipe
    former: dict[str, str] = field(default_factory=dict)
    serving_grams: float | None = None


@dataclass(frozen=True, slots=True)
class KeptService:
    """One service. `eaten_at` is the local date and time as typed; `done` are tasks that are over,
    with their moment; `again_at` is the moment from which the day was planned again; `beside` what
    each guest gets with it, as a recipe of one serving; `minutes` those that somebody set for
    tasks."""

    id: int
    name: str
    eaten_at: str
    zone: str
    place: str
    kitchen: Kitchen
    at_risk: bool
    again_at: datetime | None
    dishes: tuple[KeptDish, ...]
    done: dict[int, datetime]
    beside: Recipe | None = None
    minutes: dict[int, Minutes] = field(default_factory=dict)

    @property
    def fields(self) -> ServiceFields:
        return ServiceFields(
            self.name, self.eaten_at, self.zone, self.place, self.kitchen, self.at_risk, self.beside
        )


@dataclass(frozen=True, slots=True)
class ServiceFields:
    """What a service is called, when, where and with what it is made, and what it comes with."""

    name: str
    eaten_at: str
    zone: str
    place: str
    kitchen: Kitchen
    at_risk: bool
    beside: Recipe | None = None


def create_service(
    connection: sqlite3.Connection, fields: ServiceFields, dishes: Sequence[KeptDish]
) -> int:
    """Keeps a service; returns its id."""
    with writing(connection):
        return _put_service(connection, fields, dishes)


def _put_service(
    connection: sqlite3.Connection, fields: ServiceFields, dishes: Sequence[KeptDish]
) -> int:
    kitchen = fields.kitchen
    cursor = connection.execute(
        "INSERT INTO service (name, eaten_at, zone, place, cooks, ovens, trays, burners, blender_ml, at_risk,"
        " created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            fields.name, fields.eaten_at, fields.zone, fields.place, kitchen.cooks, kitchen.ovens,
            kitchen.trays,
            kitchen.burners, kitchen.blender_ml, int(fields.at_risk), now_text(),
        ),
    )  # fmt: skip
    service_id = int(cursor.lastrowid or 0)
    _put_dishes(connection, service_id, fields, dishes)
    return service_id


def repeat_service(
    connection: sqlite3.Connection, kept: KeptService, moments: Sequence[str]
) -> list[int]:
    """The same service at each of these moments (local, as typed), all of them or none; returns
    their ids."""
    with writing(connection):
        return [
            _put_service(connection, replace(kept.fields, eaten_at=at), kept.dishes)
            for at in moments
        ]


def change_service(
    connection: sqlite3.Connection,
    service_id: int,
    fields: ServiceFields,
    dishes: Sequence[KeptDish],
) -> None:
    """Changes a service and its dishes; what was done is forgotten, since its tasks are others
    now."""
    with writing(connection):
        service(connection, service_id)
        kitchen = fields.kitchen
        connection.execute(
            "UPDATE service SET name = ?, eaten_at = ?, zone = ?, place = ?, cooks = ?, ovens = ?, trays = ?,"
            " burners = ?, blender_ml = ?, at_risk = ?, again_at = NULL WHERE id = ?",
            (
                fields.name, fields.eaten_at, fields.zone, fields.place, kitchen.cooks,
                kitchen.ovens, kitchen.trays,
                kitchen.burners, kitchen.blender_ml, int(fields.at_risk), service_id,
            ),
        )  # fmt: skip
        for table in ("service_dish", "service_done", "service_beside", "service_minutes"):
            connection.execute(f"DELETE FROM {table} WHERE service_id = ?", (service_id,))
        _put_dishes(connection, service_id, fields, dishes)


def _put_dishes(
    connection: sqlite3.Connection,
    service_id: int,
    fields: ServiceFields,
    dishes: Sequence[KeptDish],
) -> None:
    if fields.beside is not None:
        connection.execute(
            "INSERT INTO service_beside VALUES (?, ?)", (service_id, to_document(fields.beside))
        )
    for place, dish in enumerate(dishes):
        document, former = to_document(dish.recipe), json.dumps(dish.former)
        connection.execute(
            "INSERT INTO service_dish VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (
                service_id, place, dish.recipe_id, dish.number, dish.name, dish.servings,
                document, former,
                dish.serving_grams,
            ),
        )  # fmt: skip


def service(connection: sqlite3.Connection, service_id: int) -> KeptService:
    """Raises RecipeMissing when there is no such service."""
    row = connection.execute("SELECT * FROM service WHERE id = ?", (service_id,)).fetchone()
    if row is None:
        raise RecipeMissing(f"there is no service {service_id}")
    return _service(connection, row)


def services(connection: sqlite3.Connection, recipe_id: int | None = None) -> list[KeptService]:
    """All services, the latest meal first; or those that serve a recipe."""
    rows = connection.execute(
        "SELECT * FROM service s WHERE :id IS NULL OR EXISTS"
        " (SELECT 1 FROM service_dish d WHERE d.service_id = s.id AND d.recipe_id = :id)"
        " ORDER BY eaten_at DESC, id DESC",
        {"id": recipe_id},
    ).fetchall()
    return [_service(connection, row) for row in rows]


def _service(connection: sqlite3.Connection, row: sqlite3.Row) -> KeptService:
    dishes = connection.execute(
        "SELECT * FROM service_dish WHERE service_id = ? ORDER BY place", (row["id"],)
    )
    done = connection.execute(
        "SELECT task, at FROM service_done WHERE service_id = ?", (row["id"],)
    )
    beside = connection.execute(
        "SELECT document FROM service_beside WHERE service_id = ?", (row["id"],)
    ).fetchone()
    minutes = connection.execute("SELECT * FROM service_minutes WHERE service_id = ?", (row["id"],))
    return KeptService(
        row["id"],
        row["name"],
        row["eaten_at"],
        row["zone"],
        row["place"],
        Kitchen(row["cooks"], row["ovens"], row["trays"], row["burners"], row["blender_ml"]),
        bool(row["at_risk"]),
        datetime.fromisoformat(row["again_at"]) if row["again_at"] else None,
        tuple(
            KeptDish(
                d["recipe_id"],
                d["number"],
                d["name"],
                d["servings"],
                from_document(d["document"]),
                json.loads(d["former"]),
                d["serving_grams"],
            )
            for d in dishes
        ),
        {d["task"]: datetime.fromisoformat(d["at"]) for d in done},
        from_document(beside["document"]) if beside is not None else None,
        {m["task"]: Minutes(m["active"], m["waiting"]) for m in minutes},
    )


def mark_done(connection: sqlite3.Connection, service_id: int, task: int, done: bool) -> None:
    """Notes that a task is over, or takes that back. Raises RecipeMissing."""
    with writing(connection):
        service(connection, service_id)
        connection.execute(
            "DELETE FROM service_done WHERE service_id = ? AND task = ?", (service_id, task)
        )
        if done:
            connection.execute(
                "INSERT INTO service_done VALUES (?, ?, ?)", (service_id, task, now_text())
            )


def plan_again_from(
    connection: sqlite3.Connection, service_id: int, moment: datetime | None
) -> None:
    """The day is planned again from this moment (aware), or as it was at first for None. Raises
    RecipeMissing."""
    with writing(connection):
        service(connection, service_id)
        kept = moment.astimezone(UTC).isoformat(timespec="seconds") if moment is not None else None
        connection.execute("UPDATE service SET again_at = ? WHERE id = ?", (kept, service_id))


def stock(connection: sqlite3.Connection) -> dict[str, float]:
    """Grams in the house, by food key."""
    return {
        row["food_key"]: row["grams"]
        for row in connection.execute("SELECT food_key, grams FROM stock")
    }


def save_stock(connection: sqlite3.Connection, food_key: str, grams: float) -> None:
    with writing(connection):
        connection.execute(
            "INSERT INTO stock VALUES (?, ?, ?) ON CONFLICT (food_key) DO UPDATE SET grams ="
            " excluded.grams, changed_at = excluded.changed_at",
            (food_key, grams, now_text()),
        )


def bought_instead(connection: sqlite3.Connection, recipe_id: int) -> str:
    """The key of the bought dish a recipe stands against; empty for none."""
    row = connection.execute(
        "SELECT food_key FROM bought_instead WHERE recipe_id = ?", (recipe_id,)
    ).fetchone()
    return str(row["food_key"]) if row else ""


def set_bought_instead(connection: sqlite3.Connection, recipe_id: int, food_key: str) -> None:
    """Sets the recipe against a bought dish; against none for an empty key."""
    with writing(connection):
        connection.execute("DELETE FROM bought_instead WHERE recipe_id = ?", (recipe_id,))
        if food_key:
            connection.execute("INSERT INTO bought_instead VALUES (?, ?)", (recipe_id, food_key))


def save_leftover(
    connection: sqlite3.Connection, service_id: int, place: int, grams: float
) -> None:
    """Keeps what came back of a dish; weighing again replaces it. Raises RecipeMissing."""
    with writing(connection):
        service(connection, service_id)
        connection.execute(
            "INSERT INTO service_leftover VALUES (?, ?, ?, ?) ON CONFLICT (service_id, place) DO"
            " UPDATE SET grams = excluded.grams, at = excluded.at",
            (service_id, place, grams, now_text()),
        )


def leftovers(connection: sqlite3.Connection, service_id: int) -> dict[int, float]:
    """Grams that came back, by the place of the dish."""
    rows = connection.execute(
        "SELECT place, grams FROM service_leftover WHERE service_id = ?", (service_id,)
    )
    return {row["place"]: row["grams"] for row in rows}


def came_back(connection: sqlite3.Connection, recipe_id: int) -> list[tuple[float, float]]:
    """Of each service that was weighed after it: the servings made of a recipe and the grams that
    came back, the latest first."""
    rows = connection.execute(
        "SELECT d.servings, l.grams FROM service_leftover l JOIN service_dish d ON d.service_id ="
        " l.service_id AND d.place = l.place JOIN service s ON s.id = l.service_id WHERE"
        " d.recipe_id = ? ORDER BY s.eaten_at DESC",
        (recipe_id,),
    )
    return [(row["servings"], row["grams"]) for row in rows]
