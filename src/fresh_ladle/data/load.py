"""Reads the shipped figures into core types and refuses anything that does not add up.

Every problem names the file, the row and the column, so that a wrong figure is found where it stands.
"""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import replace
from functools import lru_cache
from typing import Any

from fresh_ladle.core.amounts.ambiguity import Ambiguity
from fresh_ladle.core.amounts.preparation import CookedYield, PreparationRule, PreparationTable, TasteChange
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.form_swaps import form_swaps
from fresh_ladle.core.catalogue.incoming import Placement, Timing
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.pitfall import CONCERNS, FoodPitfall
from fresh_ladle.core.catalogue.repair import Addition, Repair
from fresh_ladle.core.catalogue.roles import ROLES
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.stretch import Stretch
from fresh_ladle.core.catalogue.swap import GOALS, Incoming, Swap
from fresh_ladle.core.cautions.allergens import ALLERGENS, allergen_group
from fresh_ladle.core.cautions.caution import Caution, Limit, Share, Tier, Trigger
from fresh_ladle.core.flavor.parameters import AXIS_IDS
from fresh_ladle.core.flavor.windows import Window
from fresh_ladle.core.foods.food import Food, Grade, Source, Taste, Traits
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.targets import StartingPoint
from fresh_ladle.core.plans.parsing import target_of
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.data.benching import load_answers, load_standings
from fresh_ladle.data.compiled import kept
from fresh_ladle.data.composing import load_composing
from fresh_ladle.data.forms import load_forms
from fresh_ladle.data.handouts import load_handouts
from fresh_ladle.data.measures import loose_by_match, measures_by_key, packs_by_key
from fresh_ladle.data.service import load_kitchen_work
from fresh_ladle.data.smells import check_family, load_likeness, load_smells
from fresh_ladle.data.tables import DataError, finite, non_negative, rows, split, toml_of

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


def _with_added_sugars(figures: dict[str, float | None], added_share: float) -> dict[str, float | None]:
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
    numbers = ("acid_pct", "sweet_pct", "glutamate_mg", "nucleotide_mg", "bitter", "heat", "aroma", "body")
    for number, row in enumerate(rows("taste.csv"), start=2):
        place = f"taste.csv row {number} ({row['key']})"
        values = {c: non_negative(row[c], f"{place}, {c}") for c in numbers}
        for rank in ("bitter", "heat", "aroma", "body"):
            if values[rank] > 10:
                raise DataError(f"{place}, {rank}: a rank runs from 0 to 10")
        if row["key"] not in smells:
            raise DataError(f"{place}: smells.csv says nothing of it")
        table[row["key"]] = Taste(**values, grade=Grade(row["grade"]), note=row["note"], smells=smells[row["key"]])
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
                f"traits.csv ({key}): {', '.join(sorted(both))} is contained for certain or perhaps, not both"
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
                f"{place}: no figure is called {row['nutrient']!r}, its ends are out of order, or no source"
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
        fill_source = Source(fills[key]["source_note"], Grade(fills[key]["grade"])) if key in fills else None
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
                source=_reference_source(row["reference"]) if row["reference"] else fill_source or Source("", Grade.C),
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
        # A few rows differ by punctuation alone; the later one is numbered so that both stay reachable.
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
    """The shipped pantry (with measures, taste, traits) followed by every row of the composition table.

    Raises DataError naming file, row and column when a figure is impossible or two foods share a key.
    """
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

    What rinsing leaves of sodium and potassium has one home, preparations.csv; a rinsed row only adds its names,
    measures and taste.
    """
    table = load_preparations()
    drained = {food.family: food for food in foods if food.form == "canned-drained"}
    found = []
    for food in foods:
        if food.form == "canned-rinsed" and (before := drained.get(food.family)):
            rule = table.bearing("rinse", before)
            rinsed = {n: (before.per_100_g[n] or 0.0) * factor for n, factor in rule.factors.items()}
            source = Source(f"the drained row, {rule.note}: {rule.source}", rule.grade)
            food = replace(
                food,
                per_100_g={**food.per_100_g, **rinsed},
                filled=food.filled.union(rinsed),
                fill_source=food.fill_source or source,
            )
        found.append(food)
    return found


@lru_cache(maxsize=1)
def load_preparations() -> PreparationTable:
    """The preparation rules with the cooked yields by family. Raises DataError on a malformed row."""
    rules = []
    for number, row in enumerate(rows("preparations.csv"), start=2):
        place = f"preparations.csv row {number} ({row['id']})"
        weight = [non_negative(row[c], f"{place}, {c}") for c in ("weight", "weight_low", "weight_high")]
        named = {"sodium_mg": "sodium", "potassium_mg": "potassium", "vitamin_c_mg": "vitamin_c"}
        factors = {nutrient: non_negative(row[column], f"{place}, {column}") for nutrient, column in named.items()}
        rules.append(
            PreparationRule(
                id=row["id"],
                label=row["label"],
                words=split(row["words"]),
                groups=frozenset(split(row["groups"])),
                forms=frozenset(split(row["forms"])),
                skip_forms=frozenset(split(row["skip_forms"])),
                weight=Range(*weight),
                eaten=Range(*(non_negative(row[c], f"{place}, {c}") for c in ("eaten", "eaten_low", "eaten_high"))),
                factors={n: f for n, f in factors.items() if f != 1},
                edible=row["edible"] == "1",
                form_after=row["form_after"],
                grade=Grade(row["grade"]),
                source=row["source"],
            )
        )
    yields = {
        row["family"]: CookedYield(
            Range(*(non_negative(row[c], f"yields.csv ({row['family']}), {c}") for c in ("typical", "low", "high"))),
            non_negative(row["sodium_kept"], f"yields.csv ({row['family']}), sodium_kept"),
            Grade(row["grade"]),
            row["source"],
        )
        for row in rows("yields.csv")
    }
    return PreparationTable(rules, yields, _taste_changes({rule.id for rule in rules}))


def _taste_changes(preparations: set[str]) -> list[TasteChange]:
    numbers = ("acid", "acid_added", "sweet", "glutamate", "bitter", "heat", "aroma", "body")
    found = []
    for number, row in enumerate(rows("preparation_tastes.csv"), start=2):
        place = f"preparation_tastes.csv row {number} ({row['id']})"
        if row["id"] not in preparations:
            raise DataError(f"{place}: no preparation is called {row['id']!r}")
        values = {c: finite(row[c], f"{place}, {c}") for c in numbers}
        if any(values[c] < 0 for c in ("acid", "acid_added", "sweet", "glutamate")):
            raise DataError(f"{place}: a factor cannot be negative")
        if row["smell"]:
            check_family(row["smell"], place)
        groups = frozenset(split(row["groups"]))
        found.append(
            TasteChange(
                row["id"], groups, **values, grade=Grade(row["grade"]), source=row["source"], smell=row["smell"]
            )
        )
    return found


def _placement(part: dict[str, Any], place: str) -> Placement:
    """Where what comes in is put; its words and its placement must say the same."""
    placement = Placement(part.get("placement", Placement.MIXED_IN))
    if (placement is Placement.ON_TOP) != ("on top" in part.get("how", "")):
        raise DataError(f"{place}: {part['food']} is {placement.value}, but it reads {part.get('how', '')!r}")
    return placement


def _swap(row: dict[str, Any], sets: dict[str, list[str]], pantry: Pantry) -> Swap:
    place = f"swaps.toml ({row['id']})"
    out = sets[row["out"]] if isinstance(row["out"], str) else row["out"]
    incoming = tuple(
        Incoming(
            part["food"], part["per_gram"], part.get("how", ""), part.get("preparation", ""), _placement(part, place)
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
        ("preparation", [i.preparation for i in incoming if i.preparation], set(load_preparations().labels)),
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
    """The substitution catalogue: those written by hand, then those that follow from the forms of foods.

    Raises DataError when a food, school, share or ratio cannot be.
    """
    table, pantry = toml_of("swaps.toml"), load_pantry()
    written = [_swap(row, table["sets"], pantry) for row in table["swap"]]
    swaps = (*written, *form_swaps(load_forms(), pantry, written))
    if len({s.id for s in swaps}) != len(swaps):
        raise DataError("swaps.toml: two swaps share an id")
    return swaps


def _frozen(row: dict[str, Any], place: str, pantry: Pantry) -> dict[str, Any]:
    """A trigger or share with its lists as sets; what it names must exist."""
    known: dict[str, Collection[str]] = {
        "foods": {food.key for food in pantry.stocked},
        "groups": {food.group for food in pantry.stocked},
        "within_groups": {food.group for food in pantry.stocked},
        "flags": {flag for food in pantry.stocked for flag in food.traits.flags},
        "preparations": load_preparations().labels,
    }
    for column, values in row.items():
        if missing := [v for v in values if v not in known[column]] if column in known else []:
            raise DataError(f"{place}, {column}: nothing is called {', '.join(missing)}")
    return {name: frozenset(v) if isinstance(v, list) else v for name, v in row.items()}


@lru_cache(maxsize=1)
def load_cautions() -> tuple[Caution, ...]:
    """The cautions in the order they are shown. Raises DataError when a trigger names what does not exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("cautions.toml")["caution"]:
        place = f"cautions.toml ({row['id']})"
        limits = tuple(Limit(**limit) for limit in row.get("limits", ()))
        for limit in limits:
            if limit.nutrient not in NUTRIENT_IDS:
                raise DataError(f"{place}: no figure is called {limit.nutrient!r}")
        found.append(
            Caution(
                row["id"],
                row["text"],
                Tier(row["tier"]),
                row["who"],
                row["defer_to"],
                row["source"],
                Grade(row["grade"]),
                tuple(Trigger(**_frozen(t, place, pantry)) for t in row["triggers"]),
                row.get("any_trigger", False),
                limits,
                tuple(Share(**_frozen(share, place, pantry)) for share in row.get("shares", ())),
                frozenset(row.get("method", ())),
                frozenset(row.get("answered_by", ())),
                row.get("on_card", True),
            )
        )
    return tuple(found)


@lru_cache(maxsize=1)
def load_doubts() -> tuple[Ambiguity, ...]:
    """What bare words could mean. Raises DataError when a food does not exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("ambiguities.toml")["ambiguity"]:
        for key in (*row.get("foods", {}), *row.get("also", ())):
            if key not in pantry:
                raise DataError(f"ambiguities.toml ({row['id']}): no food is called {key!r}")
        found.append(
            Ambiguity(
                row["id"],
                row["question"],
                row.get("foods", {}),
                row.get("forms", {}),
                tuple(row.get("families", ())),
                frozenset(row.get("also", ())),
                frozenset(row["tells"]),
                frozenset(row.get("tells_before", ())),
            )
        )
    return tuple(found)


@lru_cache(maxsize=1)
def load_repairs() -> tuple[Repair, ...]:
    """Repairs by axis. Raises DataError when a food, axis or side does not exist."""
    pantry, found = load_pantry(), []
    for row in toml_of("repairs.toml")["repair"]:
        place = f"repairs.toml ({row['id']})"
        additions = tuple(
            Addition(a["food"], a["per_100_g"], a.get("how", ""), _placement(a, place)) for a in row.get("add", ())
        )
        if row["axis"] not in {*AXIS_IDS, *NUTRIENT_IDS} or row["mends"] not in ("low", "high"):
            raise DataError(f"{place}: no taste or figure {row['axis']!r}, or it mends neither low nor high")
        for addition in additions:
            if addition.food not in pantry or not 0 < addition.per_100_g <= 20:
                raise DataError(f"{place}: no food is called {addition.food!r}, or its dose is out of bounds")
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
            raise DataError(f"pitfalls.toml ({row['id']}): no concern {row['concern']!r}, or no foods {unknown}")
        found.append(FoodPitfall(row["id"], row["text"], row["concern"], frozenset(row["foods"])))
    return tuple(found)


@lru_cache(maxsize=1)
def load_windows() -> dict[str, dict[str, Window]]:
    """Well-liked windows by kind of dish and axis. Raises DataError for an unknown kind or axis, or ends out of
    order."""
    found: dict[str, dict[str, Window]] = {kind: {} for kind in KINDS}
    for number, row in enumerate(rows("windows.csv"), start=2):
        place = f"windows.csv row {number} ({row['kind']}, {row['axis']})"
        low, high = (non_negative(row[c], f"{place}, {c}") for c in ("low", "high"))
        if row["kind"] not in KINDS or row["axis"] not in AXIS_IDS or not low < high:
            raise DataError(f"{place}: no such kind or axis, or {low} < {high} does not hold")
        if row["axis"] in found[row["kind"]]:
            raise DataError(f"{place}: stands twice")
        found[row["kind"]][row["axis"]] = Window(
            row["kind"], row["axis"], low, high, Grade(row["grade"]), row["source"]
        )
    return found


def load_stretches(pantry: Pantry) -> dict[str, tuple[Stretch, ...]]:
    """What may come in to make more of a dish, by kind. Raises DataError for an unknown kind or food, a dose of
    nothing, or no reason."""
    found: dict[str, list[Stretch]] = {}
    for number, row in enumerate(rows("stretches.csv"), start=2):
        place = f"stretches.csv row {number} ({row['kind']}, {row['food']})"
        dose = non_negative(row["per_100_g"], f"{place}, per_100_g")
        if row["kind"] not in KINDS or row["food"] not in pantry or not 0 < dose <= 30 or not row["reason"]:
            raise DataError(f"{place}: no such kind or food, a dose out of bounds, or no reason")
        found.setdefault(row["kind"], []).append(Stretch(row["food"], dose, row["how"], row["reason"]))
    return {kind: tuple(stretches) for kind, stretches in found.items()}


@lru_cache(maxsize=1)
def load_starting_points() -> tuple[StartingPoint, ...]:
    """Starting points for target profiles. Raises DataError for a target that cannot be read or a missing source."""
    found = []
    for row in toml_of("starting_points.toml")["starting_point"]:
        place = f"starting_points.toml ({row['name']})"
        try:
            targets = tuple(target_of(t) for t in row["targets"])
        except ValueError as error:
            raise DataError(f"{place}: {error}") from None
        if not row["source"] or not targets:
            raise DataError(f"{place}: a source and at least one target are needed")
        found.append(StartingPoint(row["name"], row["eaten_as"], targets, row["source"], Grade(row["grade"]).value))
    return tuple(found)


@lru_cache(maxsize=1)
def _shipped() -> tuple[Knowledge, Reader]:
    return kept("shipped", _built)


def load_knowledge() -> Knowledge:
    """All that ships."""
    return _shipped()[0]


def load_reader() -> Reader:
    """The reader of lines over all that ships."""
    return _shipped()[1]


def _built() -> tuple[Knowledge, Reader]:
    """All that ships, from its tables, with the reader over it."""
    knowledge = Knowledge(
        load_pantry(),
        load_preparations(),
        load_swaps(),
        load_cautions(),
        load_doubts(),
        load_windows(),
        load_repairs(),
        load_food_pitfalls(),
        load_stretches(load_pantry()),
        load_composing(load_pantry()),
        load_likeness(),
        load_answers(load_pantry()),
        load_standings(load_pantry()),
        load_kitchen_work(load_pantry()),
        load_handouts(load_pantry()),
    )
    return knowledge, Reader(knowledge.pantry, knowledge.preparations)
