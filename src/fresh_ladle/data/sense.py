"""Loads what a cook knows of foods beside their figures; checked."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from fnmatch import fnmatchcase
from functools import lru_cache

from fresh_ladle.core.catalogue.sense import ALCOHOL_PCT, Diet, Home, Lever, Sense
from fresh_ladle.core.flavor.texture import TEXTURES, Carrier
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.dishes import KINDS
from fresh_ladle.data.tables import DataError, non_negative, rows, split

_ANIMAL = {"vegan": 0, "vegetarian": 1, "pescatarian": 2, "meat": 3}
_SETS: Mapping[str, tuple[str, ...]] = {
    "set:oil": ("*oil*",),
    "set:salt": ("*salt", "sea-salt-*", "kosher-salt*", "table-salt", "pink-salt"),
    "set:syrup": ("honey*", "*syrup*", "molasses*", "date-paste"),
    "set:sugar": ("sugar-*", "*-sugar", "coconut-sugar"),
    "set:nut": ("@nut-seed",),
    "set:canned_beans": ("*-canned-*",),
}
_GROUP_OF_SET = {
    "set:oil": "fat-oil",
    "set:salt": "salt-salty",
    "set:syrup": "sweetener",
    "set:sugar": "sweetener",
}


class _Names:
    """Foods by key, pattern, @group or set."""

    def __init__(self, foods: Iterable[Food]) -> None:
        self._group = {food.key: food.group for food in foods}

    def of(self, name: str, place: str) -> frozenset[str]:
        """The keys that a name stands for. Raises DataError where it stands for none."""
        found = frozenset(self._keys(name))
        if not found:
            raise DataError(f"{place}: nothing is called {name!r}")
        return found

    def _keys(self, name: str) -> Iterable[str]:
        if name.startswith("@"):
            return (key for key, group in self._group.items() if group == name[1:])
        if name in _SETS:
            group = _GROUP_OF_SET.get(name, "")
            own = {key for pattern in _SETS[name] for key in self._keys(pattern)}
            return (key for key in own if not group or self._group[key] == group)
        return (key for key in self._group if fnmatchcase(key, name))

    def all_of(self, cell: str, place: str) -> frozenset[str]:
        return frozenset().union(*(self.of(name, place) for name in split(cell)))

    def nearness(self, name: str) -> int:
        """A key is nearer than a pattern, a pattern than a group."""
        return 0 if name in self._group else 2 if name[0] == "@" or name.startswith("set:") else 1


@lru_cache(maxsize=1)
def load_sense(pantry: Pantry) -> Sense:
    """Raises DataError for a row that names what does not exist, or a figure that cannot be."""
    names = _Names(pantry.stocked)
    return Sense(_least(names), _homes(names), _diets(names), _carriers(names), _levers(names))


def _least(names: _Names) -> dict[str, float]:
    found: dict[str, tuple[int, float]] = {}
    for number, row in enumerate(rows("measures_sense.csv"), start=2):
        place = f"measures_sense.csv row {number} ({row['class']})"
        grams = non_negative(row["smallest_g"], place)
        for name in split(row["match"]):
            for key in names.of(name, place):
                if key not in found or names.nearness(name) < found[key][0]:
                    found[key] = names.nearness(name), grams
    return {key: grams for key, (_, grams) in found.items()}


def _homes(names: _Names) -> dict[str, Home]:
    found = {}
    for row in rows("cuisines.csv"):
        (key,) = names.of(row["key"], "cuisines.csv")
        found[key] = Home(frozenset(split(row["cuisines"])), int(row["foreign_strength"]))
    return found


def _diets(names: _Names) -> dict[str, Diet]:
    found = {}
    for row in rows("diet.csv"):
        place = f"diet.csv ({row['key']})"
        if row["diet"] not in _ANIMAL:
            raise DataError(f"{place}: no diet is called {row['diet']!r}")
        (key,) = names.of(row["key"], place)
        alcohol = non_negative(row["alcohol_pct_high"] or "0", place)
        found[key] = Diet(
            _ANIMAL[row["diet"]], row["pork"] not in ("", "no"), alcohol > ALCOHOL_PCT
        )
    return found


def _carriers(names: _Names) -> dict[str, tuple[Carrier, ...]]:
    found: dict[str, list[tuple[int, Carrier]]] = {kind.id: [] for kind in KINDS}
    for number, row in enumerate(rows("texture.csv"), start=2):
        place = f"texture.csv row {number} ({row['food']}, {row['kind']})"
        if row["kind"] not in found or row["axis"] not in TEXTURES:
            raise DataError(f"{place}: no such kind of dish, or no such axis")
        steps = [
            (non_negative(row[f"{part}_low"], place) + non_negative(row[f"{part}_high"], place)) / 2
            for part in ("quarter", "half", "all")
        ]
        if sorted(steps) != steps:
            raise DataError(f"{place}: more of it gone is noticed less")
        carrier = Carrier(
            names.of(row["food"], place),
            row["axis"],
            non_negative(row["noticed_from_g_per_100"], place),
            (steps[0], steps[1], steps[2]),
            row["in_words"],
            tuple(_mixture(names, one, place) for one in split(row["replaced_by"])),
        )
        found[row["kind"]].append((names.nearness(row["food"]), carrier))
    return {
        kind: tuple(carrier for _, carrier in sorted(of_kind, key=lambda one: one[0]))
        for kind, of_kind in found.items()
    }


def _mixture(names: _Names, text: str, place: str) -> dict[str, float]:
    """`walnuts:0.6+water:0.4` as grams by key; a pattern stands for the first of its foods."""
    found = {}
    for part in text.split("+"):
        name, _, grams = part.strip().partition(":")
        found[min(names.of(name, place))] = non_negative(grams or "1", place)
    return found


def _levers(names: _Names) -> dict[tuple[str, str], tuple[Lever, ...]]:
    found: dict[tuple[str, str], list[Lever]] = {}
    for number, row in enumerate(rows("levers.csv"), start=2):
        place = f"levers.csv row {number}"
        lever = Lever(
            int(row["order"]),
            row["do"],
            names.all_of(row["out"], place),
            names.all_of(row["in"], place),
        )
        found.setdefault((row["kind"], row["goal"]), []).append(lever)
    return {
        key: tuple(sorted(of_key, key=lambda lever: lever.order)) for key, of_key in found.items()
    }
