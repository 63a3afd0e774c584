"""Loads the foods: the stocked ones and the rest of the composition table, with their tastes,
traits and ranges."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import lru_cache
from typing import Any

from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_group
from fresh_ladle.core.foods.food import Food, Grade, Source, Taste, Traits
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.data.forms import load_forms
from fresh_ladle.data.measures import loose_by_match, measures_by_key, packs_by_key
from fresh_ladle.data.preparations import load_preparations
from fresh_ladle.data.smells import load_smells
from fresh_ladle.data.tables import DataError, non_negative, rows, split

TABLE_NUTRIENTS = tuple(n for n in NUTRIENT_IDS if n != "added_sugars_g")
"""Figures that stand in the tables; added sugars follow from total sugars and the added share."""
MAX_PER_100_G = {"energy_kcal": 905.0, "sodium_mg": 40000.0, "cholesterol_mg": 3500.0}


def _figures(row: dict[str, str], place: str) -> dict[str, float | None]:
    """Figures per 100 g; a blank stays None."""
    figures: dict[str, float | None] = {}
    for nutrient in TABLE_NUTRIENTS:
        text = row[nutrient]
        value = non_negative(text, f"{place}, {nutrient}") if text else None
        most = MAX_PER_100_G.get(nutrient, 100.0 if nutrient.endswith("_g") else 60000.0)
        if value is not None and value > most:
            raise DataError(f"{place}, {nutrient}: {value} is more than 100 g can hold")
        figures[nutrient] = value
    return figures


def _with_added_sugars(
    figures: dict[str, float | None], added_share: float
) -> dict[str, float | None]:
    sugars = figures["sugars_g"]
    added = 0.0 if added_share == 0 else None if sugars is None else sugars * added_share
    return {n: added if n == "added_sugars_g" else figures[n] for n in NUTRIENT_IDS}


def slug(text: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", text.lower()).strip("-")


def _composition() -> dict[str, dict[str, str]]:
    table: dict[str, dict[str, str]] = {}
    for number, row in enumerate(rows("composition.csv"), start=2):
        label = f"{row['source']}|{row['description']}"
        if label in table:
            raise DataError(f"composition.csv row {number}: {label} stands twice")
        table[label] = row
    return table


def _tastes() -> dict[str, Taste]:
    table: dict[str, Taste] = {}
    smells = load_smells()
    numbers = (
        "acid_pct",
        "sweet_pct",
        "glutamate_mg",
        "nucleotide_mg",
        "bitter",
        "heat",
        "aroma",
        "body",
    )
    for number, row in enumerate(rows("taste.csv"), start=2):
        place = f"taste.csv row {number} ({row['key']})"
        values = {c: non_negative(row[c], f"{place}, {c}") for c in numbers}
        for rank in ("bitter", "heat", "aroma", "body"):
            if values[rank] > 10:
                raise DataError(f"{place}, {rank}: a rank runs from 0 to 10")
        if row["key"] not in smells:
            raise DataError(f"{place}: smells.csv says nothing of it")
        table[row["key"]] = Taste(
            **values, grade=Grade(row["grade"]), note=row["note"], smells=smells[row["key"]]
        )
    if extra := smells.keys() - table.keys():
        raise DataError(f"smells.csv: {', '.join(sorted(extra)[:5])} has no taste")
    return table


def _allergens(text: str, place: str) -> frozenset[str]:
    found = frozenset(split(text))
    if unknown := {a for a in found if allergen_group(a) not in ALLERGENS}:
        raise DataError(f"{place}: no allergen is called {', '.join(sorted(unknown))}")
    return found


def _traits() -> dict[str, Traits]:
    found = {
        row["key"]: Traits(
            allergens=_allergens(row["allergens"], f"traits.csv ({row['key']})"),
            may_contain=_allergens(row["may_contain"], f"traits.csv ({row['key']})"),
            added_fat=row["added_fat"] == "1",
            added_salt=row["added_salt"] == "1",
            added_sugar=non_negative(row["added_sugar"], f"traits.csv ({row['key']}), added_sugar"),
            animal=row["animal"],
            whole_food=row["whole_food"] == "1",
            roles=frozenset(split(row["roles"])),
            flags=frozenset(split(row["flags"])),
        )
        for row in rows("traits.csv")
    }
    for key, traits in found.items():
        if both := traits.allergens & traits.may_contain:
            raise DataError(
                f"traits.csv ({key}): {', '.join(sorted(both))} is contained for certain or"
                " perhaps, not both"
            )
    return found


def _figure_ranges() -> dict[str, dict[str, tuple[float, float]]]:
    """Figures that sold kinds of a food differ in far more than usual, by food and nutrient."""
    found: dict[str, dict[str, tuple[float, float]]] = {}
    for number, row in enumerate(rows("figure_ranges.csv"), start=2):
        place = f"figure_ranges.csv row {number} ({row['key']})"
        low, high = (non_negative(row[c], f"{place}, {c}") for c in ("low", "high"))
        if row["nutrient"] not in NUTRIENT_IDS or not low < high or not row["source"]:
            raise DataError(
                f"{place}: no figure is called {row['nutrient']!r}, its ends are out of order, or"
                " no source"
            )
        found.setdefault(row["key"], {})[row["nutrient"]] = (low, high)
    return found


def _reference_source(reference: str) -> Source:
    table, _, description = reference.partition("|")
    return Source(f"{table}: {description}", Grade.A)


def _pantry_foods(composition: dict[str, dict[str, str]]) -> list[Food]:
    fills = {row["key"]: row for row in rows("pantry_figures.csv")}
    measures, tastes, traits = measures_by_key(), _tastes(), _traits()
    loose, packs, forms, ranges = loose_by_match(), packs_by_key(), load_forms(), _figure_ranges()
    foods = []
    for number, row in enumerate(rows("pantry.csv"), start=2):
        key, place = row["key"], f"pantry.csv row {number} ({row['key']})"
        blank: dict[str, Any] = dict.fromkeys(TABLE_NUTRIENTS)
        if row["reference"] and row["reference"] not in composition:
            raise DataError(f"{place}: no composition row {row['reference']!r}")
        figures = _figures(composition[row["reference"]], place) if row["reference"] else blank
        fill = _figures(fills[key], f"pantry_figures.csv ({key})") if key in fills else blank
        filled = frozenset(n for n, value in fill.items() if value is not None)
        merged = {n: fill[n] if n in filled else figures[n] for n in TABLE_NUTRIENTS}
        fill_source = (
            Source(fills[key]["source_note"], Grade(fills[key]["grade"])) if key in fills else None
        )
        if not row["reference"] and fill_source is None:
            raise DataError(f"{place}: neither a composition row nor figures of its own")
        if key not in tastes or key not in traits:
            raise DataError(f"{place}: taste or traits are missing")
        foods.append(
            Food(
                key=key,
                name=row["name"],
                aliases=split(row["aliases"]),
                group=row["group"],
                family=forms.family_of(key),
                form=row["form"],
                note=row["note"],
                per_100_g=_with_added_sugars(merged, traits[key].added_sugar),
                source=(
                    _reference_source(row["reference"])
                    if row["reference"]
                    else fill_source or Source("", Grade.C)
                ),
                filled=filled,
                fill_source=fill_source,
                measures=tuple(measures.get(key, ())),
                packs=tuple(packs.get(key, ())),
                loose=loose.get(key) or loose.get(row["group"], ()),
                taste=tastes[key],
                traits=traits[key],
                ranges=ranges.get(key, {}),
            )
        )
    return foods


def _composition_foods(composition: dict[str, dict[str, str]]) -> list[Food]:
    """Table rows as foods of their own: figures and provenance, but no measures or taste."""
    foods = []
    repeats: dict[str, int] = {}
    for label, row in composition.items():
        figures = _figures(row, f"composition.csv ({label})")
        key = "table-" + slug(label)
        # A few rows differ by punctuation alone; the later one is numbered so that both stay
        # reachable.
        repeats[key] = repeats.get(key, 0) + 1
        if repeats[key] > 1:
            key = f"{key}-{repeats[key]}"
        # The table does not say which sugars were added: unknown, never zero.
        per_100_g = {n: figures.get(n) for n in NUTRIENT_IDS}
        foods.append(
            Food(
                key=key,
                name=row["description"],
                group=row["category"],
                per_100_g=per_100_g,
                source=_reference_source(label),
            )
        )
    return foods


@lru_cache(maxsize=1)
def load_pantry() -> Pantry:
    """The shipped pantry (with measures, taste, traits) followed by every row of the composition
    table.

    Raises DataError naming file, row and column when a figure is impossible or two foods share a
    key."""
    composition = _composition()
    foods = _rinsed_by_rule(_pantry_foods(composition)) + _composition_foods(composition)
    seen: set[str] = set()
    for food in foods:
        if food.key in seen:
            raise DataError(f"two foods share the key {food.key}")
        seen.add(food.key)
    return Pantry(foods)


def _rinsed_by_rule(foods: list[Food]) -> list[Food]:
    """The foods, with what rinsing changes in canned goods worked out from the drained row.

    What rinsing leaves of sodium and potassium has one home, preparations.csv; a rinsed row only
    adds its names, measures and taste."""
    table = load_preparations()
    drained = {food.family: food for food in foods if food.form == "canned-drained"}
    found = []
    for food in foods:
        if food.form == "canned-rinsed" and (before := drained.get(food.family)):
            rule = table.bearing("rinse", before)
            rinsed = {
                n: (before.per_100_g[n] or 0.0) * factor for n, factor in rule.factors.items()
            }
            source = Source(f"the drained row, {rule.note}: {rule.source}", rule.grade)
            food = replace(
                food,
                per_100_g={**food.per_100_g, **rinsed},
                filled=food.filled.union(rinsed),
                fill_source=food.fill_source or source,
            )
        found.append(food)
    return found
