"""The figures that rules of claims look at: at an amount, as a share of energy, against another
dish; and what brings salt, sugar and protein."""

from __future__ import annotations

from dataclasses import dataclass
from fnmatch import fnmatchcase

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.claims.finding import Measured
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.totals import density_g_per_ml, figure_per_100_g
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.dishes import DIPS
from fresh_ladle.core.whole.appraisal import Appraisal

TBSP_ML, CUP_ML = 14.787, 236.588
_DRESSINGS = frozenset({"vinaigrette", "creamy-dressing", "nut-dressing", "juice-dressing"})
POURED = frozenset({"vinaigrette", "juice-dressing"})
"""Kinds that are a liquid where rules tell liquids from solids."""


@dataclass(frozen=True, slots=True)
class ReferenceAmount:
    """The amount customarily eaten (21 CFR 101.12(b)): in grams, in words, and whether it is small,
    so that limits must hold in 50 g as well."""

    grams: float
    words: str
    small: bool


def reference_amount(dish: Appraisal) -> ReferenceAmount:
    """By the kind of dish; tablespoons and cups by its density."""
    kind = dish.recipe.kind
    if kind in _DRESSINGS:
        return ReferenceAmount(30.0, "30 g of dressing", True)
    density = density_g_per_ml(dish.portions)
    if kind == "herb-nut-paste":
        return ReferenceAmount(CUP_ML / 4 * density, "¼ cup of paste", False)
    if kind in DIPS:
        return ReferenceAmount(2 * TBSP_ML * density, "2 Tbsp of dip", True)
    if kind == "pasta-potato-salad":
        return ReferenceAmount(140.0, "140 g of pasta or potato salad", False)
    return ReferenceAmount(100.0, "100 g of salad", False)


def at_amount(dish: Appraisal, nutrient: str, grams: float, words: str) -> Measured:
    """A figure in so many grams of the dish, unrounded."""
    figure = figure_per_100_g(dish.recipe, dish.portions, dish.totals, nutrient)
    share, meta = grams / 100, BY_ID[nutrient]
    low, value, high = figure.low * share, figure.value * share, figure.high * share
    name = "energy" if nutrient == "energy_kcal" else meta.said
    return Measured(
        name,
        meta.unit,
        f"in {words}",
        grams,
        value,
        min(low, value),
        max(high, value),
        figure.missing,
    )


def share_of_energy(dish: Appraisal, nutrient: str, kcal_per_g: float) -> Measured:
    """The percent of the energy that a nutrient brings; it and the energy doubtful apart."""
    part = figure_per_100_g(dish.recipe, dish.portions, dish.totals, nutrient)
    energy = figure_per_100_g(dish.recipe, dish.portions, dish.totals, "energy_kcal")
    missing = tuple(dict.fromkeys((*part.missing, *energy.missing)))
    if energy.value <= 0:
        return Measured(f"energy from {_name(nutrient)}", "%", "", 0.0, 0.0, 0.0, 0.0, missing)
    share = 100 * kcal_per_g / energy.value
    return Measured(
        f"energy from {_name(nutrient)}",
        "%",
        "",
        0.0,
        part.value * share,
        part.low * share,
        part.high * share,
        missing,
    )


def _name(nutrient: str) -> str:
    return BY_ID[nutrient].said


def per_100_kcal(dish: Appraisal, nutrient: str) -> Measured:
    """A figure in 100 kcal of the dish."""
    energy = figure_per_100_g(dish.recipe, dish.portions, dish.totals, "energy_kcal")
    grams = 100 / energy.value * 100 if energy.value > 0 else 0.0
    return at_amount(dish, nutrient, grams, "100 kcal")


def percent_less(dish: Appraisal, usual: Appraisal, nutrient: str) -> Measured:
    """By how many percent less of a nutrient 100 g of a dish hold than 100 g of another. What both
    have in common is doubtful alike, so both are taken at their low ends, and at their high
    ends."""
    now = figure_per_100_g(dish.recipe, dish.portions, dish.totals, nutrient)
    before = figure_per_100_g(usual.recipe, usual.portions, usual.totals, nutrient)
    missing = tuple(dict.fromkeys((*now.missing, *before.missing)))
    unit = BY_ID[nutrient].unit
    name = "energy" if nutrient == "energy_kcal" else _name(nutrient)
    if before.value <= 0:
        return Measured(
            f"{name} of the dish it is compared with", unit, "", 0.0, 0.0, 0.0, 0.0, missing
        )
    ends = [
        100 * (1 - a / b)
        for a, b in ((now.value, before.value), (now.low, before.low), (now.high, before.high))
        if b > 0
    ]
    words = (
        f"less than {usual.recipe.title} ({now.value:.3g} against {before.value:.3g} {unit} in"
        " 100 g)"
    )
    return Measured(f"{name}", "%", words, 100.0, ends[0], min(ends), max(ends), missing)


SALTED_FROM_MG = 250.0
"""Sodium in 100 g from which a food was salted when it was made, where it does not grow so."""
_SALTED_FROM_IN = {"cheese": 100.0, "herb": 1000.0, "spice": 1000.0}
_SALTY_BY_NATURE = frozenset({"leafy", "vegetable", "root-tuber", "fungus-sea", "thickener"})
_NO_SALT, _POWDERS = "no-salt", ("milk-powder",)


def salt_brought_by(dish: Appraisal) -> list[str]:
    """Foods by which salt comes in: salt itself, salty seasonings, what was brined, salted, or
    canned with salt."""
    return [
        p.food.kitchen_name
        for p in dish.portions
        if p.food is not None and _counts(p) and _is_salted(p.food)
    ]


def _is_salted(food: Food) -> bool:
    sodium, words = food.per_100_g["sodium_mg"] or 0.0, food.key.split("-")
    if _NO_SALT in food.key or food.key.startswith(_POWDERS) or sodium <= 0:
        return False
    if "salted" in words or food.form in ("canned-drained", "canned-rinsed"):
        return True
    grown = food.group in _SALTY_BY_NATURE and "canned" not in words
    return not grown and sodium >= _SALTED_FROM_IN.get(food.group, SALTED_FROM_MG)


def sugar_brought_by(dish: Appraisal) -> list[str]:
    """Foods that sweeten: those of which added sugars are known to come, and sweeteners with
    sugar."""
    found = []
    for p in dish.portions:
        if p.food is not None and _counts(p):
            added = p.food.per_100_g["added_sugars_g"] or 0.0
            sweet = p.food.group == "sweetener" and (p.food.per_100_g["sugars_g"] or 0.0) > 0
            if added > 0 or sweet:
                found.append(p.food.kitchen_name)
    return found


def _counts(portion: Portion) -> bool:
    return portion.counted.value > 0


_PROTEIN_SCORES: tuple[tuple[str, Range], ...] = (
    ("group:dairy", Range(1.0, 0.95, 1.0)), ("group:cheese", Range(1.0, 0.95, 1.0)),
    ("group:egg", Range(1.0, 0.95, 1.0)), ("group:protein", Range(1.0, 0.9, 1.0)),
    ("group:soy", Range(0.9, 0.85, 1.0)), ("edamame*", Range(0.9, 0.85, 1.0)), ("soybeans*",
    Range(0.9, 0.85, 1.0)),
    ("lentils*", Range(0.6, 0.5, 0.7)), ("chickpeas*", Range(0.7, 0.65, 0.78)),
    ("black-beans*", Range(0.75, 0.65, 0.78)), ("group:legume", Range(0.65, 0.5, 0.75)),
    ("peanut*", Range(0.5, 0.45, 0.6)), ("almond*", Range(0.4, 0.35, 0.45)), ("quinoa*",
    Range(0.7, 0.6, 0.8)),
    ("group:nut-seed", Range(0.45, 0.3, 0.65)), ("group:nut-seed-butter", Range(0.45, 0.3, 0.6)),
    ("group:grain-pasta", Range(0.45, 0.35, 0.6)), ("group:bread-chip", Range(0.4, 0.3, 0.5)),
)  # fmt: skip
"""Digestibility-corrected scores of protein, typical and published range; B for milk, egg, soy and
legumes, C for the rest."""
_OTHER_PROTEIN = Range(0.5, 0.2, 0.8)


def corrected_protein(dish: Appraisal, grams: float, words: str) -> Measured:
    """Protein in so many grams, corrected for what of it the body can use: of each food by its own
    score, which understates foods that complete each other."""
    whole = at_amount(dish, "protein_g", grams, words)
    parts = {id_: figures["protein_g"] or 0.0 for id_, figures in dish.totals.per_line.items()}
    total = sum(parts.values())
    if total <= 0:
        return whole
    foods = {p.line.id: p.food for p in dish.portions}
    scores = {id_: _score(foods.get(id_)) for id_ in parts}
    low, value, high = (
        sum(parts[i] * getattr(scores[i], end) for i in parts) / total
        for end in ("low", "value", "high")
    )
    name = "protein, corrected for digestibility,"
    return Measured(
        name,
        "g",
        whole.amount,
        grams,
        whole.value * value,
        whole.low * low,
        whole.high * high,
        whole.missing,
    )


def _score(food: Food | None) -> Range:
    if food is None:
        return _OTHER_PROTEIN
    group = f"group:{food.group}"
    return next(
        (
            score
            for pattern, score in _PROTEIN_SCORES
            if pattern == group or fnmatchcase(food.key, pattern)
        ),
        _OTHER_PROTEIN,
    )
