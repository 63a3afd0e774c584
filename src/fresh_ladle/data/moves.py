"""Loads what can be done to a dish: swaps, repairs, pitfalls of foods, what makes more of it."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from fresh_ladle.core.catalogue.form_swaps import form_swaps
from fresh_ladle.core.catalogue.incoming import Placement, Timing
from fresh_ladle.core.catalogue.pitfall import CONCERNS, FoodPitfall
from fresh_ladle.core.catalogue.repair import Addition, Repair
from fresh_ladle.core.catalogue.roles import ROLES
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.stretch import Stretch
from fresh_ladle.core.catalogue.swap import GOALS, Incoming, Swap
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.data.foods import load_pantry
from fresh_ladle.data.forms import load_forms
from fresh_ladle.data.preparations import load_preparations
from fresh_ladle.data.tables import DataError, non_negative, rows, toml_of


def _placement(part: dict[str, Any], place: str) -> Placement:
    """Where what comes in is put; its words and its placement must say the same."""
    placement = Placement(part.get("placement", Placement.MIXED_IN))
    if (placement is Placement.ON_TOP) != ("on top" in part.get("how", "")):
        raise DataError(
            f"{place}: {part['food']} is {placement.value}, but it reads {part.get('how', '')!r}"
        )
    return placement


def _swap(row: dict[str, Any], sets: dict[str, list[str]], pantry: Pantry) -> Swap:
    place = f"swaps.toml ({row['id']})"
    out = sets[row["out"]] if isinstance(row["out"], str) else row["out"]
    incoming = tuple(
        Incoming(
            part["food"],
            part["per_gram"],
            part.get("how", ""),
            part.get("preparation", ""),
            _placement(part, place),
        )
        for part in row["in"]
    )
    for key in [*out, *(i.food for i in incoming if not i.food.startswith("@"))]:
        if key not in pantry:
            raise DataError(f"{place}: no food is called {key!r}")
    if (
        not 0 < row["share"] <= 1
        or not row["noticed_at"] <= row["fails_at"] <= 1
        or any(i.per_gram <= 0 for i in incoming)
    ):
        raise DataError(f"{place}: a share, limit or ratio is out of bounds")
    roles = frozenset(row.get("roles", ()))
    for what, names, known in (
        ("school", row["schools"], set(SCHOOLS)),
        ("goal", [row["goal"]], set(GOALS)),
        ("role", roles, set(ROLES)),
        ("figure or taste", [*row["lowers"], *row["raises"]], {*NUTRIENT_IDS, *AXIS_IDS}),
        (
            "preparation",
            [i.preparation for i in incoming if i.preparation],
            set(load_preparations().labels),
        ),
    ):
        if unknown := set(names) - known:
            raise DataError(f"{place}: no {what} is called {sorted(unknown)}")
    return Swap(
        id=row["id"],
        title=row["title"],
        goal=row["goal"],
        out=frozenset(out),
        incoming=incoming,
        share=row["share"],
        courses=frozenset(row["courses"]),
        schools=tuple(row["schools"]),
        noticed_at=row["noticed_at"],
        fails_at=row["fails_at"],
        repairs=tuple(row["repairs"]),
        reason=row["reason"],
        lowers=tuple(row["lowers"]),
        raises=tuple(row["raises"]),
        roles=roles,
        ask_first=row.get("ask_first", False),
    )


@lru_cache(maxsize=1)
def load_swaps() -> tuple[Swap, ...]:
    """The substitution catalogue: those written by hand, then those that follow from the forms of
    foods.

    Raises DataError when a food, school, share or ratio cannot be.
    """
    table, pantry = toml_of("swaps.toml"), load_pantry()
    written = [_swap(row, table["sets"], pantry) for row in table["swap"]]
    swaps = (*written, *form_swaps(load_forms(), pantry, written))
    if len({s.id for s in swaps}) != len(swaps):
        raise DataError("swaps.toml: two swaps share an id")
    return swaps


@lru_cache(maxsize=1)
def load_repairs() -> tuple[Repair, ...]:
    """Repairs by axis. Raises DataError when a food, axis or side does not exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("repairs.toml")["repair"]:
        place = f"repairs.toml ({row['id']})"
        additions = tuple(
            Addition(a["food"], a["per_100_g"], a.get("how", ""), _placement(a, place))
            for a in row.get("add", ())
        )
        if row["axis"] not in {*AXIS_IDS, *NUTRIENT_IDS} or row["mends"] not in ("low", "high"):
            raise DataError(
                f"{place}: no taste or figure {row['axis']!r}, or it mends neither low nor high"
            )
        for addition in additions:
            if addition.food not in pantry or not 0 < addition.per_100_g <= 20:
                raise DataError(
                    f"{place}: no food is called {addition.food!r}, or its dose is out of bounds"
                )
        found.append(
            Repair(
                row["id"],
                row["title"],
                row["axis"],
                row["mends"],
                additions,
                frozenset(row["courses"]),
                row["when"],
                row["reason"],
                Timing(row.get("timing", Timing.WITH_THE_BASE)),
                row.get("to_surface", 0.0),
            )
        )
    return tuple(found)


@lru_cache(maxsize=1)
def load_food_pitfalls() -> tuple[FoodPitfall, ...]:
    """Traps set by foods. Raises DataError when a food or a concern does not exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("pitfalls.toml")["pitfall"]:
        unknown = [f for f in row["foods"] if f not in pantry]
        if row["concern"] not in CONCERNS or unknown:
            raise DataError(
                f"pitfalls.toml ({row['id']}): no concern {row['concern']!r}, or no foods {unknown}"
            )
        found.append(FoodPitfall(row["id"], row["text"], row["concern"], frozenset(row["foods"])))
    return tuple(found)


def load_stretches(pantry: Pantry) -> dict[str, tuple[Stretch, ...]]:
    """What may come in to make more of a dish, by kind. Raises DataError for an unknown kind or
    food, a dose of nothing, or no reason."""
    found: dict[str, list[Stretch]] = {}
    for number, row in enumerate(rows("stretches.csv"), start=2):
        place = f"stretches.csv row {number} ({row['kind']}, {row['food']})"
        dose = non_negative(row["per_100_g"], f"{place}, per_100_g")
        if (
            row["kind"] not in KINDS
            or row["food"] not in pantry
            or not 0 < dose <= 30
            or not row["reason"]
        ):
            raise DataError(f"{place}: no such kind or food, a dose out of bounds, or no reason")
        found.setdefault(row["kind"], []).append(
            Stretch(row["food"], dose, row["how"], row["reason"])
        )
    return {kind: tuple(stretches) for kind, stretches in found.items()}
