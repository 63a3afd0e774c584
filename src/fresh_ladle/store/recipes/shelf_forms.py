"""Recipes as numbers beside how they stand: after figures of foods have changed, what recipes hold
is one product."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from fresh_ladle.core.catalogue.school import School, allows
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.form import WIDTH, FormFigures, RecipeForm, form_figures
from fresh_ladle.store.database import writing


def save_forms(
    connection: sqlite3.Connection, forms: Mapping[int, RecipeForm], pinned: Mapping[int, bool]
) -> None:
    """Keeps forms by recipe in the place of older ones, inside a transaction of the caller.
    `pinned` says whether the original of a recipe keeps its own figures of all its foods."""
    keys = sorted({key for form in forms.values() for key in form.keys})
    connection.executemany(
        "INSERT OR IGNORE INTO shelf_food (key) VALUES (?)", [(key,) for key in keys]
    )
    number_of = dict(connection.execute("SELECT key, number FROM shelf_food").fetchall())
    for recipe_id, form in forms.items():
        connection.execute("DELETE FROM shelf_form_food WHERE recipe_id = ?", (recipe_id,))
        connection.execute(
            "INSERT INTO shelf_form VALUES (?, ?, ?) ON CONFLICT (recipe_id) DO UPDATE SET"
            " original_pinned = excluded.original_pinned, form = excluded.form",
            (recipe_id, int(pinned[recipe_id]), form.numbered(number_of).tobytes()),
        )
        connection.executemany(
            "INSERT INTO shelf_form_food VALUES (?, ?)",
            [(number_of[key], recipe_id) for key in form.keys],
        )


def take_changed_figures(
    connection: sqlite3.Connection,
    before: Pantry,
    pantry: Pantry,
    changed: Iterable[str],
    schools: Sequence[School],
) -> None:
    """Makes the Shelf right again after these foods have changed. Where only figures differ, those
    of the recipes that use them come from a product; other recipes that use them are worked out
    when they are next looked for."""
    keys = list(changed)
    plain = [
        key for key in keys if key in before and only_figures(before[key], pantry[key], schools)
    ]
    with writing(connection):
        for key in set(keys) - set(plain):
            connection.execute(
                "DELETE FROM shelf_row WHERE recipe_id IN (SELECT recipe_id FROM shelf_form_food f"
                " JOIN shelf_food s ON s.number = f.number WHERE s.key = ?)",
                (key,),
            )
        if plain:
            _recount(connection, pantry, plain, _figures_changed(before, pantry, plain))


_OF_FIGURES = ("per_100_g", "ranges", "source", "filled", "fill_source", "note", "taste")
"""What may differ of a food without moving anything on the Shelf but figures."""


def only_figures(before: Food, now: Food, schools: Iterable[School]) -> bool:
    """Whether what a food weighs, what it is and what schools say of it are as before."""
    same = replace(before, **{name: getattr(now, name) for name in _OF_FIGURES}) == now
    return same and all(allows(school, before) == allows(school, now) for school in schools)


def _figures_changed(before: Pantry, pantry: Pantry, keys: Sequence[str]) -> list[str]:
    """Figures that differ for one of the foods, or whose label leaves another range."""

    def figure(food: Food, nutrient: str) -> tuple[object, object]:
        return food.per_100_g[nutrient], food.ranges.get(nutrient)

    return [
        n
        for n in NUTRIENT_IDS
        if any(figure(before[key], n) != figure(pantry[key], n) for key in keys)
    ]


_USING = """
SELECT recipe_id FROM shelf_form_food WHERE number IN (SELECT number FROM shelf_food WHERE key IN ({marks}))
"""
_UPDATED = """
UPDATE shelf_figure SET value = ?, low = ?, high = ?, part_value = ?, part_low = ?, part_high = ?, complete = ?
WHERE nutrient = ? AND recipe_id = ?
"""


def _recount(
    connection: sqlite3.Connection, pantry: Pantry, keys: Sequence[str], nutrients: Sequence[str]
) -> None:
    using = _USING.format(marks=", ".join("?" * len(keys)))
    # Where the original takes the figures of today, it changes too.
    connection.execute(
        f"DELETE FROM shelf_row WHERE recipe_id IN ({using}) AND recipe_id IN"
        " (SELECT recipe_id FROM shelf_form WHERE original_pinned = 0)",
        keys,
    )
    if not nutrients:
        return
    rows = connection.execute(
        f"SELECT recipe_id, form FROM shelf_form WHERE recipe_id IN ({using})", keys
    ).fetchall()
    if not rows:
        return
    ids = [row[0] for row in rows]
    table = np.frombuffer(b"".join(row[1] for row in rows), dtype=np.float64).reshape(-1, WIDTH)
    numbered = connection.execute("SELECT number, key FROM shelf_food")
    food_of = {number: pantry[key] for number, key in numbered if key in pantry}
    connection.executemany(
        _UPDATED, _values(ids, form_figures(table, nutrients, food_of), nutrients)
    )


def _values(
    ids: Sequence[int], found: FormFigures, nutrients: Sequence[str]
) -> list[tuple[object, ...]]:
    columns = []
    for place, nutrient in enumerate(nutrients):
        ends = [part[:, place].tolist() for part in (*found.serving, *found.per_100_g)]
        complete = found.complete[:, place].astype(int).tolist()
        columns += list(zip(*ends, complete, [nutrient] * len(ids), ids, strict=True))
    return columns
