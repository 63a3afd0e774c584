"""Loads what composing a dish stands on: roles of each kind, uses of foods, strong foods and
accords, checked."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from fnmatch import translate
from typing import Any

from fresh_ladle.core.catalogue.formula import Composing, Formula, Role, Use, WorkStep
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.data.tables import DataError, non_negative, rows, split, toml_of


def load_composing(pantry: Pantry) -> Composing:
    """All of it. Raises DataError, which names the place, for a kind, role, food or share that
    cannot be."""
    table = toml_of("formulas.toml")
    foods = _Foods([food for food in pantry if food.in_pantry], table["lists"])
    formulas = _formulas(table, foods)
    return Composing(
        formulas, _uses(pantry), _strong(foods), _accords(pantry), _leftovers(formulas)
    )


class _Foods:
    """Finds the foods that patterns name; each pattern is looked up once."""

    def __init__(self, foods: list[Food], lists: Mapping[str, list[str]]) -> None:
        self._foods, self._lists = foods, lists
        self._keys = dict.fromkeys(f.key for f in foods)
        self._found: dict[str, tuple[str, ...]] = {}

    def keys(self, patterns: Iterable[str], place: str) -> list[str]:
        """Food keys in the order of the patterns; `!` takes out what came before it. Raises
        DataError for a pattern that names nothing."""
        found: dict[str, None] = {}
        for pattern in patterns:
            named = self._named(pattern.removeprefix("!"), place)
            if pattern.startswith("!"):
                found = {key: None for key in found if key not in named}
            else:
                found |= dict.fromkeys(named)
        return list(found)

    def _named(self, name: str, place: str) -> tuple[str, ...]:
        if name not in self._found:
            self._found[name] = tuple(self._looked_up(name, place))
        return self._found[name]

    def _looked_up(self, name: str, place: str) -> list[str]:
        if name.startswith("$"):
            if name[1:] not in self._lists:
                raise DataError(f"{place}: there is no list {name}")
            return self.keys(self._lists[name[1:]], f"formulas.toml, list {name}")
        if name in self._keys:
            return [name]
        if name.startswith("@"):
            named = [f.key for f in self._foods if f.group == name[1:]]
        else:
            fits = re.compile(translate(name)).match
            named = [key for key in self._keys if fits(key)]
        if not named:
            raise DataError(f"{place}: no food is called {name!r}")
        return named


def _formulas(table: Mapping[str, Any], foods: _Foods) -> dict[str, Formula]:
    found = {}
    for kind in table["kind"]:
        if kind["id"] not in KINDS or kind["id"] in found:
            raise DataError(f"formulas.toml: {kind['id']!r} is no kind of dish, or stands twice")
        found[kind["id"]] = _formula(kind, foods)
    if missing := KINDS.keys() - found.keys():
        raise DataError(f"formulas.toml: nothing on {sorted(missing)}")
    return found


def _formula(kind: Mapping[str, Any], foods: _Foods) -> Formula:
    roles = []
    for row in kind["role"]:
        place = f"formulas.toml ({kind['id']}, {row['id']})"
        if not 0 < row["low"] < row["high"] <= 100:
            raise DataError(f"{place}: {row['low']} < {row['high']} is no share of a hundred")
        usual = foods.keys(row.get("usual", ()), place)
        fits = [k for k in foods.keys(row.get("fits", ()), place) if k not in usual]
        most, needed, dressing = (
            row.get("most", 1),
            row.get("needed", False),
            row.get("dressing", False),
        )
        roles.append(
            Role(
                row["id"],
                row["low"],
                row["high"],
                needed,
                most,
                tuple(usual),
                tuple(fits),
                dressing,
            )
        )
    order = tuple(WorkStep(step["say"], tuple(step["roles"])) for step in kind["order"])
    known = {role.id for role in roles}
    told = {r for step in order for r in (*step.roles, *re.findall(r"\{(\w+)\}", step.say))}
    if told != known or len(known) != len(roles):
        raise DataError(
            f"formulas.toml ({kind['id']}): the order of work and the roles differ by"
            f" {told ^ known}"
        )
    return Formula(kind["id"], tuple(roles), order)


def _uses(pantry: Pantry) -> tuple[Use, ...]:
    found = []
    for number, row in enumerate(rows("uses.csv"), start=2):
        place = f"uses.csv row {number} ({row['food']})"
        kinds, share = frozenset(split(row["kinds"])), non_negative(row["g_per_g"], place)
        if (
            row["food"] not in pantry
            or row["becomes"] not in pantry
            or not kinds <= KINDS.keys()
            or not 0 < share <= 6
        ):
            raise DataError(f"{place}: no such food or kind, or a share of {share:g}")
        found.append(Use(row["food"], row["becomes"], kinds, share))
    return tuple(found)


def _strong(foods: _Foods) -> dict[str, float]:
    """A later row overrules an earlier one, so that a food can stand out from its group."""
    found = {}
    for number, row in enumerate(rows("strong.csv"), start=2):
        place = f"strong.csv row {number}"
        most = non_negative(row["most_g_per_100_g"], place)
        if not 0 < most <= 50 or not row["why"]:
            raise DataError(
                f"{place}: {most:g} g in 100 g cannot be the most, or no reason is given"
            )
        for key in foods.keys(split(row["foods"]), place):
            found[key] = most
    return found


def _accords(pantry: Pantry) -> dict[str, frozenset[str]]:
    found: dict[str, set[str]] = {}
    for row in rows("accords.csv"):
        for key in split(row["foods"]):
            if key not in pantry:
                raise DataError(f"accords.csv ({row['accord']}): no food is called {key!r}")
            found.setdefault(key, set()).add(row["accord"])
    return {key: frozenset(accords) for key, accords in found.items()}


def _leftovers(formulas: Mapping[str, Formula]) -> dict[tuple[str, str], frozenset[str]]:
    found: dict[tuple[str, str], set[str]] = {}
    for number, row in enumerate(rows("leftovers.csv"), start=2):
        place = f"leftovers.csv row {number}"
        for kind in split(row["kinds"]):
            if (
                row["left"] not in formulas
                or kind not in formulas
                or formulas[kind].role(row["role"]) is None
            ):
                raise DataError(f"{place}: no such kind, or {kind} has no role {row['role']!r}")
            found.setdefault((row["left"], kind), set()).add(row["role"])
    return {pair: frozenset(roles) for pair, roles in found.items()}
