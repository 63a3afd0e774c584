"""Facts that teach: sentences about a dish from its own figures, each with its condition and
source. A fact does not stand where a figure it needs is not known."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from fnmatch import fnmatchcase
from functools import partial

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.card.audience import Audience
from fresh_ladle.core.card.expression import Function, NotKnown, Value, holds, value_of
from fresh_ladle.core.card.figures import declared
from fresh_ladle.core.catalogue.handouts import Fact, Handouts
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.words.sentences import listed

MOST_FACTS = 3
LABELED = frozenset(
    {"energy_kcal", "fat_g", "saturated_fat_g", "sodium_mg", "carbohydrate_g", "fiber_g",
    "sugars_g", "added_sugars_g",
     "protein_g", "cholesterol_mg", "potassium_mg", "calcium_mg", "iron_mg"}
)  # fmt: skip
"""Figures that labels round, said as the card says them."""
MOST_NAMES = 3
FUNCTIONS = frozenset(
    {"grams", "part", "figure", "names", "top", "top_share", "plants", "usual", "cups", "subgroups",
    "subgroup_names",
     "dressing", "sort_of"}
)  # fmt: skip
NAMES = frozenset({*NUTRIENT_IDS, "serving_g", "servings", "water_pct", "sour_steps"})
"""What an expression may use."""


@dataclass(frozen=True, slots=True)
class StandingFact:
    """A fact that holds for a dish, in its words, with where it comes from."""

    id: str
    topic: str
    says: str
    source: str


@dataclass(frozen=True, slots=True)
class _Dish:
    now: Appraisal
    before: Appraisal
    pantry: Pantry
    handouts: Handouts


def standing_facts(
    dish: Appraisal,
    usual: Appraisal,
    pantry: Pantry,
    handouts: Handouts,
    audiences: Collection[Audience] = (),
    regime: Regime = Regime.US,
) -> list[StandingFact]:
    """The facts that hold for a dish, in the order of the table; those that an audience should not
    meet are left out. A figure of a serving is rounded as the card has it."""
    d = _Dish(dish, usual, pantry, handouts)
    names = _names_of(d)
    functions: dict[str, Function] = {name: partial(_FUNCTIONS[name], d) for name in FUNCTIONS}
    found = []
    for fact in handouts.facts:
        if set(fact.not_for) & {a.value for a in audiences}:
            continue
        try:
            if holds(fact.when, names, functions):
                says = _filled(fact, names, functions, regime)
                found.append(
                    StandingFact(fact.id, fact.topic, says, f"{fact.source}, grade {fact.grade}")
                )
        except NotKnown:
            continue
    return found


def _filled(
    fact: Fact, names: Mapping[str, Function], functions: Mapping[str, Function], regime: Regime
) -> str:
    values = {}
    for name, tree in fact.values.items():
        value = value_of(tree, names, functions)
        labeled = (
            name in LABELED
            and not isinstance(value, str)
            and not (name == "sodium_mg" and regime is Regime.EU)
        )
        values[name] = declared(name, float(value), regime)[0] if labeled else _said(value)
    return re.sub(r"\{(\w+)\}", lambda m: values[m[1]], fact.says)


def _said(value: Value) -> str:
    """A number with the digits it deserves."""
    if isinstance(value, str):
        return value
    if abs(value) >= 10 or abs(value - round(value)) < 0.05:
        return f"{value:,.0f}"
    return f"{value:.1f}" if abs(value) >= 1 else f"{value:.2g}"


def _names_of(d: _Dish) -> dict[str, Function]:
    names: dict[str, Function] = {n: partial(_of_serving, d.now, n) for n in NUTRIENT_IDS}
    names["serving_g"] = lambda: d.now.totals.serving_grams
    names["servings"] = lambda: d.now.totals.servings
    names["water_pct"] = lambda: _water_percent(d.now)
    names["sour_steps"] = lambda: _more_sour(d)
    return names


def _of_serving(dish: Appraisal, nutrient: str) -> float:
    figure = dish.totals.serving[nutrient]
    if not figure.complete:
        raise NotKnown(nutrient)
    return figure.value


def _water_percent(dish: Appraisal) -> float:
    """What is left of the weight, less about 1% of minerals."""
    if dish.recipe.yield_grams is not None or dish.totals.serving_grams <= 0:
        raise NotKnown("water")
    dry = sum(_of_serving(dish, n) for n in ("protein_g", "fat_g", "carbohydrate_g"))
    return (1 - dry / dish.totals.serving_grams) * 100 - 1


def _more_sour(d: _Dish) -> float:
    return drift_between(d.now, d.before).steps.get("sour", 0.0)


def _is_of(food: Food, selector: str) -> bool:
    kind, _, name = selector.partition(":")
    if kind == "group":
        return food.group == name
    if kind == "form":
        return food.form == name
    return fnmatchcase(food.key, selector)


def _chosen(d: _Dish, selectors: Sequence[Value]) -> list[Portion]:
    """Lines with a known food of any of the selectors; raises NotKnown where a line is not
    understood."""
    if d.now.problems:
        raise NotKnown(d.now.problems[0].line.text)
    return [
        p
        for p in d.now.portions
        if p.food is not None
        and p.counted.value > 0
        and any(_is_of(p.food, str(s)) for s in selectors)
    ]


def _grams(d: _Dish, *selectors: Value) -> float:
    """Grams a serving, in the bowl."""
    return sum(p.in_bowl.value for p in _chosen(d, selectors)) / d.now.totals.servings


def _part(d: _Dish, nutrient: Value, *selectors: Value) -> float:
    """Of a nutrient in a serving, what these foods bring."""
    total = 0.0
    for p in _chosen(d, selectors):
        value = d.now.totals.per_line[p.line.id][str(nutrient)]
        if value is None:
            raise NotKnown(str(nutrient))
        total += value
    return total / d.now.totals.servings


_ANIMAL = frozenset({"dairy", "cheese", "egg", "protein"})


def _plants(d: _Dish, nutrient: Value) -> float:
    """Of a nutrient in a serving, what comes from plants."""
    groups = {p.food.group for p in d.now.portions if p.food is not None} - _ANIMAL
    return _part(d, nutrient, *(f"group:{group}" for group in groups))


def _figure(d: _Dish, key: Value, nutrient: Value) -> float:
    """Of a food of the pantry, in 100 g."""
    value = d.pantry[str(key)].per_100_g[str(nutrient)]
    if value is None:
        raise NotKnown(str(nutrient))
    return value


def _names(d: _Dish, *selectors: Value) -> str:
    found = sorted(_chosen(d, selectors), key=lambda p: -p.in_bowl.value)
    if not found:
        raise NotKnown(str(selectors[0]))
    return listed(list(dict.fromkeys(_called(p) for p in found))[:MOST_NAMES])


def _called(portion: Portion) -> str:
    assert portion.food is not None
    return portion.line.named or portion.food.kitchen_name


def _shares(d: _Dish, nutrient: str) -> dict[str, float]:
    """What each food brings of a nutrient, by what it is called."""
    found: dict[str, float] = {}
    for p in _chosen(d, ["*"]):
        value = d.now.totals.per_line[p.line.id][nutrient]
        if value is None:
            raise NotKnown(nutrient)
        found[_called(p)] = found.get(_called(p), 0.0) + value
    if not found or sum(found.values()) <= 0:
        raise NotKnown(nutrient)
    return found


def _top(d: _Dish, nutrient: Value) -> str:
    shares = _shares(d, str(nutrient))
    return max(shares, key=lambda name: shares[name])


def _top_share(d: _Dish, nutrient: Value) -> float:
    shares = _shares(d, str(nutrient))
    return max(shares.values()) / sum(shares.values())


def _usual(d: _Dish, nutrient: Value) -> float:
    """Of a serving of the usual recipe, where that is another."""
    if d.before.recipe == d.now.recipe:
        raise NotKnown("usual")
    return _of_serving(d.before, str(nutrient))


def _cup_equivalents(d: _Dish) -> dict[str, float]:
    """Cups a serving as the US guideline counts them, by subgroup."""
    found: dict[str, float] = {}
    for p in _chosen(d, ["*"]):
        assert p.food is not None
        cup = d.handouts.cups.get(p.food.key)
        if cup is not None:
            cups = p.counted.value / cup.grams / d.now.totals.servings
            found[cup.subgroup] = found.get(cup.subgroup, 0.0) + cups
    return found


def _cups(d: _Dish, *subgroups: Value) -> float:
    return sum(cups for name, cups in _cup_equivalents(d).items() if name in subgroups)


COUNTED_CUPS = 0.1
_FRUIT = ("whole fruit", "juice")


def _subgroup_list(d: _Dish) -> list[str]:
    found = _cup_equivalents(d)
    return [name for name in found if name not in _FRUIT and found[name] >= COUNTED_CUPS]


def _subgroups(d: _Dish) -> float:
    return float(len(_subgroup_list(d)))


def _subgroup_names(d: _Dish) -> str:
    return listed(_subgroup_list(d))


def _dressing(d: _Dish, nutrient: Value) -> float:
    """Of a nutrient (or `grams`) in a serving, what the lines of a component called dressing
    bring."""
    lines = [
        p for p in d.now.portions if re.search(r"dressing|vinaigrette", p.line.component, re.I)
    ]
    if not lines or len(lines) == len(d.now.portions):
        raise NotKnown("dressing")
    if nutrient == "grams":
        return sum(p.in_bowl.value for p in lines) / d.now.totals.servings
    values = [d.now.totals.per_line[p.line.id][str(nutrient)] for p in lines]
    if None in values:
        raise NotKnown(str(nutrient))
    return sum(value or 0.0 for value in values) / d.now.totals.servings


def _sort_of(d: _Dish, quantity: Value) -> float:
    """A figure no composition table has (ALA), in a serving, from those foods of which it is
    known."""
    table = d.handouts.constants.get(str(quantity), {})
    found = [p for p in _chosen(d, ["*"]) if p.food is not None and p.food.key in table]
    return (
        sum(p.counted.value * table[p.food.key] / 100 for p in found if p.food is not None)
        / d.now.totals.servings
    )


_FUNCTIONS: dict[str, Callable[..., Value]] = {
    "grams": _grams, "part": _part, "plants": _plants, "figure": _figure, "names": _names,
    "top": _top,
    "top_share": _top_share, "usual": _usual, "cups": _cups, "subgroups": _subgroups,
    "subgroup_names": _subgroup_names, "dressing": _dressing, "sort_of": _sort_of,
}  # fmt: skip
