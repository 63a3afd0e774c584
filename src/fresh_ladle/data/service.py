"""Loads what is known of work in a kitchen: verbs, cooking times, shares of strong foods, keep
times; checked."""

from __future__ import annotations

from fnmatch import fnmatchcase

from fresh_ladle.core.catalogue.kitchen_work import (
    CookingTime,
    KeepRule,
    KitchenWork,
    ScalingShare,
    Selector,
    WorkVerb,
)
from fresh_ladle.core.foods.food import Grade
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.data.tables import DataError, non_negative, rows, split

FRESH_MARK = "@fresh"
MOST_DAYS = 14
"""Days beyond which no dish of these kinds is kept, whatever a row says."""


def load_kitchen_work(pantry: Pantry) -> KitchenWork:
    """Raises DataError naming the row of a figure or food that cannot be."""
    verbs = _verbs()
    names = {verb.verb for verb in verbs}
    return KitchenWork(verbs, _times(pantry, names), _scaling(pantry), _keeping(pantry))


def _verbs() -> tuple[WorkVerb, ...]:
    found, seen = [], set[str]()
    for number, row in enumerate(rows("work_verbs.csv"), start=2):
        place = f"work_verbs.csv row {number} ({row['verb']})"
        if row["verb"] in seen:
            raise DataError(f"{place}: it is there already")
        seen.add(row["verb"])
        fixed, per_kg = (
            non_negative(row["active_fixed"], place),
            non_negative(row["active_per_kg"], place),
        )
        if fixed + per_kg <= 0:
            raise DataError(f"{place}: no work")
        found.append(
            WorkVerb(
                row["verb"],
                fixed,
                per_kg,
                _range(row, ("waiting", "waiting_low", "waiting_high"), place),
                row["attended"] == "1",
                float(row["temperature_c"]) if row["temperature_c"] else None,
                Grade(row["grade"]),
            )
        )
    return tuple(found)


def _range(row: dict[str, str], names: tuple[str, str, str], place: str) -> Range:
    value, low, high = (non_negative(row[name], place) for name in names)
    if not low <= value <= high:
        raise DataError(f"{place}: {low:g} ≤ {value:g} ≤ {high:g} does not hold")
    return Range(value, low, high)


def _times(pantry: Pantry, verbs: set[str]) -> tuple[CookingTime, ...]:
    groups = {food.group for food in pantry}
    found = []
    for number, row in enumerate(rows("cooking_times.csv"), start=2):
        place = f"cooking_times.csv row {number} ({row['food']}, {row['verb']})"
        name = row["food"].removeprefix("group:")
        if (
            name not in (groups if row["food"].startswith("group:") else pantry)
            or row["verb"] not in verbs
        ):
            raise DataError(f"{place}: no such food, group or verb")
        minutes = _range(row, ("minutes", "low", "high"), place)
        celsius = float(row["temperature_c"]) if row["temperature_c"] else None
        found.append(CookingTime(row["food"], row["verb"], minutes, celsius, Grade(row["grade"])))
    return tuple(found)


def _scaling(pantry: Pantry) -> dict[str, ScalingShare]:
    found = {}
    for number, row in enumerate(rows("scaling_shares.csv"), start=2):
        place = f"scaling_shares.csv row {number} ({row['food']})"
        at_4, at_10 = (
            non_negative(row["share_at_4"], place),
            non_negative(row["share_at_10"], place),
        )
        if row["food"] not in pantry or not 0 < at_10 <= at_4 <= 1:
            raise DataError(f"{place}: no such food, or shares that do not fall from 1")
        found[row["food"]] = ScalingShare(row["food"], at_4, at_10)
    return found


def _keeping(pantry: Pantry) -> tuple[KeepRule, ...]:
    keys = [food.key for food in pantry]
    groups = {food.group for food in pantry}
    found = []
    for number, row in enumerate(rows("keep_times.csv"), start=2):
        place = f"keep_times.csv row {number} ({row['id']})"
        patterns = split(row["foods"])
        fresh_only = FRESH_MARK in patterns
        foods = Selector(
            tuple(p for p in patterns if p != FRESH_MARK),
            frozenset(split(row["groups"])),
            frozenset(split(row["flags"])),
        )
        without = Selector(
            tuple(p for p in split(row["without"]) if not p.startswith("group:")),
            frozenset(
                p.removeprefix("group:") for p in split(row["without"]) if p.startswith("group:")
            ),
        )
        for pattern in (*foods.patterns, *without.patterns):
            if not any(fnmatchcase(key, pattern) for key in keys):
                raise DataError(f"{place}: no food is called {pattern}")
        if (
            not (foods.groups | without.groups) <= groups
            or not set(split(row["kinds"])) <= KINDS.keys()
        ):
            raise DataError(f"{place}: no such group or kind of dish")
        days = int(non_negative(row["days"], place))
        fresh = int(non_negative(row["days_fresh"], place)) if row["days_fresh"] else days
        if not fresh <= days <= MOST_DAYS or row["use"] not in ("dish", "part"):
            raise DataError(f"{place}: days of {days} and {fresh} with raw aromatics, or no use")
        if row["use"] == "part" and foods.is_empty:
            raise DataError(f"{place}: a part needs foods")
        window = None
        if row["dress_earliest"]:
            window = (int(row["dress_earliest"]), int(row["dress_latest"]))
            if window[0] < window[1]:
                raise DataError(f"{place}: dressed from {window[0]} to {window[1]} minutes before")
        found.append(
            KeepRule(
                row["id"],
                row["component"],
                row["use"] == "part",
                frozenset(split(row["kinds"])),
                foods,
                without,
                days,
                fresh,
                row["at_risk"] == "1",
                int(non_negative(row["out_minutes"], place)),
                non_negative(row["ahead_hours"], place),
                window,
                row["freezes"],
                row["discard"],
                row["why"],
                Grade(row["grade"]),
                fresh_only,
            )
        )
    return tuple(found)
