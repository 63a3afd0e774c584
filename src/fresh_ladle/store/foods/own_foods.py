"""Foods of the practice's own, and prices: what was typed from a label or copied and changed."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass, replace

from pydantic import BaseModel, ConfigDict

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.food import Food, Grade, Source, Traits
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pack_list import read_pack_list
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.service.buying import PackPrice
from fresh_ladle.store import clock
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.keys import free_key, same_name


class NameTaken(Refused):
    """Another own food has this name; nothing was saved."""


class OwnFood(BaseModel):
    """A food as the practice entered it. `like` names the food that lends its measures, taste and
    traits.

    `key` is empty until the food is first saved, and never changes afterwards.
    """

    model_config = ConfigDict(extra="forbid")
    key: str
    name: str
    like: str
    per_100_g: dict[str, float | None]
    ranges: dict[str, tuple[float, float]] = {}
    source: str
    note: str = ""
    allergens: list[str] | None = None
    pack_list: str = ""


@dataclass(frozen=True, slots=True)
class Price:
    """What a pack costs, in the practice's own money, and the grams in it."""

    amount: float
    pack_grams: float

    @property
    def per_100_g(self) -> float:
        return self.amount / self.pack_grams * 100


def as_food(own: OwnFood, pantry: Pantry) -> Food:
    """The own food as the core knows foods. Where the food it is like is gone, it keeps its figures
    alone, as a row of the table does: no measures, no taste, and allergens nobody knows."""
    like = pantry.get(own.like)
    if like is None:
        return Food(
            key=own.key,
            name=own.name,
            group="own food",
            per_100_g={n: own.per_100_g.get(n) for n in NUTRIENT_IDS},
            source=Source(own.source, Grade.B),
            aliases=(own.name,),
            note=f"The food it was like is no longer there: name another. {own.note}".strip(),
            ranges=own.ranges,
        )
    return Food(
        key=own.key,
        name=own.name,
        group=like.group,
        per_100_g={n: own.per_100_g.get(n) for n in NUTRIENT_IDS},
        source=Source(own.source, Grade.B),
        aliases=(own.name,),
        family=own.key,
        form=like.form,
        note=own.note,
        measures=like.measures,
        taste=like.taste,
        traits=_traits(own, like.traits),
        ranges=own.ranges,
    )


def _traits(own: OwnFood, like: Traits) -> Traits:
    """What the pack's own list says goes before what was said by hand, and that before what the
    like food has."""
    if own.pack_list:
        said = read_pack_list(own.pack_list)
        return replace(
            like,
            allergens=said.allergens,
            may_contain=said.may_contain,
            added_fat=bool(said.added_oils),
            added_salt=bool(said.added_salts),
            added_sugar=(like.added_sugar or 1.0) if said.added_sugars else 0.0,
        )
    if own.allergens is not None:
        return replace(like, allergens=frozenset(own.allergens), may_contain=frozenset())
    return like


def own_foods(connection: sqlite3.Connection) -> list[OwnFood]:
    rows = connection.execute("SELECT document FROM own_food ORDER BY key")
    return [OwnFood.model_validate_json(row["document"]) for row in rows]


def own_food(connection: sqlite3.Connection, key: str) -> OwnFood | None:
    row = connection.execute("SELECT document FROM own_food WHERE key = ?", (key,)).fetchone()
    return OwnFood.model_validate_json(row["document"]) if row else None


def save_own_food(connection: sqlite3.Connection, own: OwnFood) -> OwnFood:
    """Adds an own food, or changes the one that has its key, and makes it findable. Returns it with
    its key.

    Raises NameTaken when another own food is called the same.
    """
    with writing(connection):
        others = [other for other in own_foods(connection) if other.key != own.key]
        if any(same_name(other.name, own.name) for other in others):
            raise NameTaken(
                f"an own food called “{own.name}” is there already: change that one, or choose"
                " another name"
            )
        if not own.key:
            own = own.model_copy(
                update={"key": free_key("own", own.name, {other.key for other in others})}
            )
        connection.execute(
            "INSERT INTO own_food VALUES (?, ?, ?) ON CONFLICT (key) DO UPDATE SET document ="
            " excluded.document, changed_at = excluded.changed_at",
            (own.key, own.model_dump_json(), clock.now_text()),
        )
        connection.execute("DELETE FROM food_text WHERE key = ?", (own.key,))
        connection.execute(
            "INSERT INTO food_text (name, aliases, key) VALUES (?, ?, ?)",
            (own.name, "own food", own.key),
        )
        connection.execute(
            "INSERT INTO food (key, name, aliases, food_group, stocked, note) VALUES (?, ?, '',"
            " 'own food', 1, ?) ON CONFLICT (key) DO UPDATE SET name = excluded.name, note ="
            " excluded.note",
            (own.key, own.name, own.note),
        )
    return own


def price(connection: sqlite3.Connection, food_key: str) -> Price | None:
    row = connection.execute(
        "SELECT amount, pack_grams FROM price WHERE food_key = ?", (food_key,)
    ).fetchone()
    return Price(row["amount"], row["pack_grams"]) if row else None


def prices_per_100_g(connection: sqlite3.Connection) -> dict[str, float]:
    """What 100 g of every priced food costs, by food key."""
    return {
        row["food_key"]: row["amount"] / row["pack_grams"] * 100
        for row in connection.execute("SELECT food_key, amount, pack_grams FROM price")
    }


def pack_prices(connection: sqlite3.Connection) -> dict[str, PackPrice]:
    """What a pack of every priced food costs, by food key."""
    rows = connection.execute("SELECT food_key, amount, pack_grams FROM price")
    return {row["food_key"]: PackPrice(row["amount"], row["pack_grams"]) for row in rows}


def save_price(connection: sqlite3.Connection, food_key: str, given: Price) -> None:
    with writing(connection):
        connection.execute(
            "INSERT INTO price VALUES (?, ?, ?, ?) ON CONFLICT (food_key) DO UPDATE SET amount ="
            " excluded.amount, pack_grams = excluded.pack_grams, changed_at = excluded.changed_at",
            (food_key, given.amount, given.pack_grams, clock.now_text()),
        )
