"""Loads the demo: the canteen of the tram depot, its recipes, targets, and a few already adapted.
Only when the shelf is empty."""

from __future__ import annotations

import sqlite3
from dataclasses import replace
from datetime import timedelta
from functools import partial
from typing import Any
from zoneinfo import ZoneInfo

from fresh_ladle.core.bench.addition import read_addition
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.recipes.edits import Edit, EditKind
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.swaps.apply import with_swap
from fresh_ladle.core.tasting.difference import Question
from fresh_ladle.core.tasting.round import SAMPLES, served
from fresh_ladle.data.tables import toml_of
from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.store import clock
from fresh_ladle.store.foods.own_foods import Price, save_price
from fresh_ladle.store.recipes.bench import add_event, end_bench, start_bench, strike_event
from fresh_ladle.store.recipes.drafts import create_recipe, draft, edit, save_version
from fresh_ladle.store.recipes.profiles import save_profile
from fresh_ladle.store.recipes.recipes import any_recipes, versions
from fresh_ladle.store.services.services import KeptDish, ServiceFields, create_service
from fresh_ladle.store.settings import save_settings, settings
from fresh_ladle.store.tastings.tastings import (
    Sample,
    add_simulated,
    close_round,
    open_round,
    plan_tasting,
    tasting,
)
from fresh_ladle.web.places.tasting.view import simulated_panel
from fresh_ladle.web.state import Workbench


def load_demo(connection: sqlite3.Connection, workbench: Workbench) -> bool:
    """True when the demo was loaded, False when recipes were there already."""
    if any_recipes(connection):
        return False
    table = toml_of("demo.toml")
    profiles = {
        row["name"]: save_profile(
            connection,
            row["name"],
            row["eaten_as"],
            row["school"],
            tuple(Target(t["nutrient"], Side(t["side"]), t["limit"]) for t in row["targets"]),
            row["note"],
        )
        for row in table["profile"]
    }
    for row in table["recipe"]:
        _load_recipe(connection, workbench, row, profiles)
    _load_bench(connection, workbench, table["bench"])
    for row in table["tasting"]:
        _load_tasting(connection, workbench, row)
    for row in table["prices"]["packs"]:
        save_price(connection, row["food"], Price(row["price"], row["grams"]))
    save_settings(connection, replace(settings(connection), currency=table["prices"]["currency"]))
    for row in table["service"]:
        _load_service(connection, row)
    return True


def _load_service(connection: sqlite3.Connection, row: dict[str, Any]) -> None:
    """A meal on the next such day of the week, of the latest version of each dish."""
    today = clock.now().astimezone(ZoneInfo(local_zone())).date()
    day = today + timedelta(days=(row["weekday"] - today.weekday() - 1) % 7 + 1)
    dishes = []
    for dish in row["dishes"]:
        recipe_id = _recipe_called(connection, dish["recipe"])
        first, *_, last = (*versions(connection, recipe_id)[:1], *versions(connection, recipe_id))
        former = former_names(first.recipe, last.recipe)
        dishes.append(
            KeptDish(
                recipe_id, last.number, last.recipe.title, dish["servings"], last.recipe, former
            )
        )
    kitchen = Kitchen(cooks=row["cooks"])
    fields = ServiceFields(
        row["name"], f"{day}T{row['at']}", local_zone(), row["place"], kitchen, False
    )
    create_service(connection, fields, dishes)


def _load_bench(connection: sqlite3.Connection, workbench: Workbench, row: dict[str, Any]) -> None:
    """The log of one bowl: what a cook put in, and what was struck out again."""
    bowl = start_bench(
        connection, _recipe_called(connection, row["recipe"]), full=True, by=row["by"]
    )
    for number, text in enumerate(row["said"], start=1):
        addition = read_addition(text, workbench.reader, bowl.log.base)
        add_event(connection, bowl.id, addition.text, addition.line, f"demo-{number}")
    for number in row["struck"]:
        strike_event(connection, bowl.id, number, struck=True)
    end_bench(connection, bowl.id, "left")


def _load_tasting(
    connection: sqlite3.Connection, workbench: Workbench, row: dict[str, Any]
) -> None:
    """A round of two versions: open, or filled by a made-up panel and closed."""
    recipe_id = _recipe_called(connection, row["recipe"])
    kept = versions(connection, recipe_id)[:2]
    samples = [
        Sample(letter, recipe_id, v.number, f"version {v.number}, {v.name}", v.recipe)
        for letter, v in zip(SAMPLES, kept, strict=False)
    ]
    question = Question[row["question"]]
    cups = served(question, row["tasters"], row["seed"])
    number = plan_tasting(
        connection, question, row["attribute"], row["expected"], samples, cups, row["note"]
    )
    open_round(connection, number)
    if row["simulated"]:
        planned = tasting(connection, number)
        add_simulated(connection, number, *simulated_panel(workbench, planned, row["seed"]))
        close_round(connection, number)


def _recipe_called(connection: sqlite3.Connection, title: str) -> int:
    found = connection.execute("SELECT id FROM recipe WHERE title = ?", (title,)).fetchone()
    return int(found["id"])


def _load_recipe(
    connection: sqlite3.Connection,
    workbench: Workbench,
    row: dict[str, Any],
    profiles: dict[str, int],
) -> None:
    """Reads the recipe as a cook wrote it, keeps the original, then makes the swaps of its adapted
    version, if any."""
    reading = read_recipe(row["text"], workbench.reader, kind=row["kind"])
    if wrong := [r for r in reading.readings if not r.understood]:
        raise RecipeError(
            f"the demo line {wrong[0].line.text!r} is not understood: {wrong[0].problem}"
        )
    recipe_id = create_recipe(
        connection, reading.recipe, profiles[row["profile"]], pinned=workbench.pin(reading.recipe)
    )
    for step in row.get("adapted", []):
        swap = next(s for s in workbench.knowledge.swaps if s.id == step["swap"])
        now = draft(connection, recipe_id)
        line = next(line for line in now.recipe.lines if line.food in swap.out)
        after = with_swap(
            workbench.appraise(now.recipe),
            line.id,
            swap,
            workbench.knowledge.pantry,
            step.get("share"),
        )
        named = Edit(EditKind.SWAP, {"title": swap.title})
        edit(connection, recipe_id, now.revision, partial(_taken, after), named)
    if row.get("adapted"):
        now = draft(connection, recipe_id)
        pinned = workbench.pin(now.recipe)
        save_version(
            connection, recipe_id, now.revision, row["adapted_name"], row["adapted_note"], pinned
        )


def _taken(after: Recipe, _: Recipe) -> Recipe:
    return after
