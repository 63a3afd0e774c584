"""The nine stimuli of a finished mix: physical concentrations, linear in grams, and who makes
them."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.flavor.parameters import (
    AXIS_IDS,
    MSG_PER_GLUTAMATE,
    POTASSIUM_CHLORIDE_SALTINESS,
    POTASSIUM_SHARE_OF_CHLORIDE,
    POTENCY_BASE,
    SAVORY_CEILING_MG,
    SODIUM_SHARE_OF_SALT,
    SURFACE_SALT,
    SYNERGY,
)
from fresh_ladle.core.foods.food import Food, Taste
from fresh_ladle.core.recipes.aside import Aside


@dataclass(frozen=True, slots=True)
class Stimulus:
    """One stimulus per 100 g of mix. `by_line` maps line id to its part; `unknown` names foods
    without taste figures."""

    axis: str
    value: float
    by_line: dict[str, float] = field(default_factory=dict)
    unknown: tuple[str, ...] = ()


def potency(axis: str, rank: float) -> float:
    """Potency of a 0 to 10 rank on an axis: two to two and a half times as much with each point,
    nothing at 0."""
    return float(POTENCY_BASE[axis] ** rank) - 1.0


def _salt_per_100_g(food: Food) -> float | None:
    """Grams of table salt that 100 g of the food tastes as salty as."""
    sodium = food.per_100_g["sodium_mg"]
    if sodium is None:
        return None
    salt = sodium / 1000 / SODIUM_SHARE_OF_SALT
    if food.group == "salt-salty" and (potassium := food.per_100_g["potassium_mg"] or 0.0) > 20_000:
        salt += potassium / 1000 / POTASSIUM_SHARE_OF_CHLORIDE * POTASSIUM_CHLORIDE_SALTINESS
    return salt


def per_100_g_of_food(food: Food, axis: str) -> float | None:
    """What 100 g of a food brings to an axis; None when it is not known. For `savory`, glutamate
    alone."""
    if axis == "salt":
        return _salt_per_100_g(food)
    if axis == "rich":
        return food.per_100_g["fat_g"]
    taste = food.taste
    if taste is None:
        return food.per_100_g["sugars_g"] if axis == "sweet" else None
    return _OF_TASTE[axis](taste)


def brought(portion: Portion, axis: str) -> float | None:
    """What a line brings to an axis, as grams × figure per 100 g, tasting as it was prepared; None
    when not known."""
    if portion.food is None:
        return None
    if portion.taste is not None and axis in _OF_TASTE:
        return _OF_TASTE[axis](portion.taste) * portion.in_bowl.value
    per_100_g = per_100_g_of_food(portion.food, axis)
    return None if per_100_g is None else per_100_g * portion.counted.value


_OF_TASTE: dict[str, Callable[[Taste], float]] = {
    "sour": lambda taste: taste.acid_pct,
    "sweet": lambda taste: taste.sweet_pct,
    "savory": lambda taste: taste.glutamate_mg * MSG_PER_GLUTAMATE,
    "bitter": lambda taste: potency("bitter", taste.bitter),
    "hot": lambda taste: potency("hot", taste.heat),
    "aroma": lambda taste: potency("aroma", taste.aroma),
    "body": lambda taste: potency("body", taste.body),
}
"""What 100 g of a food brings to an axis, by its taste figures."""


def is_derived(food: Food, axis: str) -> bool:
    """True when the figure is not a taste figure but follows from the composition (salt from
    sodium, rich from fat)."""
    return axis in ("salt", "rich") or (axis == "sweet" and food.taste is None)


def stimuli(portions: Sequence[Portion], yield_grams: float | None = None) -> dict[str, Stimulus]:
    """All nine stimuli per 100 g of what is in the bowl, or of a measured yield. An empty bowl has
    none."""
    mass = yield_grams or sum(p.in_bowl.value for p in portions)
    if mass <= 0:
        return {axis: Stimulus(axis, 0.0) for axis in AXIS_IDS}
    found = {axis: _linear(portions, axis, mass) for axis in AXIS_IDS}
    found["body"] = _less_free_water(portions, found["body"], mass)
    found["savory"] = _with_synergy(portions, found["savory"], mass)
    return found


def _linear(portions: Sequence[Portion], axis: str, mass: float) -> Stimulus:
    by_line: dict[str, float] = {}
    unknown = []
    for portion in portions:
        if portion.food is None or portion.counted.value <= 0:
            continue
        part = brought(portion, axis)
        if part is None:
            unknown.append(portion.food.name)
            continue
        factor = portion.factors.get("sodium_mg", 1.0) if axis == "salt" else 1.0
        if axis == "salt" and on_the_surface(portion):
            factor *= SURFACE_SALT
        by_line[portion.line.id] = part * factor / mass
    return Stimulus(axis, sum(by_line.values()), by_line, tuple(unknown))


def on_the_surface(portion: Portion) -> bool:
    """Whether a line lies on top, where its salt is tasted first."""
    said = " ".join(portion.line.remarks)
    return Aside.GARNISH in portion.line.asides or bool(
        re.search(r"\bon top\b|\bsurface\b|\bfinishing\b", said, re.I)
    )


def water_share(food: Food) -> float:
    """Grams of water in a gram of food: what its protein, fat and carbohydrate leave; ash is
    counted as a hundredth."""
    figures = food.per_100_g
    solids = sum(figures[n] or 0.0 for n in ("protein_g", "fat_g", "carbohydrate_g")) + 1.0
    return max(0.0, 1.0 - min(solids, 100.0) / 100) if food.key != "water" else 1.0


def _less_free_water(portions: Sequence[Portion], body: Stimulus, mass: float) -> Stimulus:
    """Body falls as the solids do, to the power 0.8: the same thickener holds less in a wetter mix
    (model choice, C)."""
    water = sum(
        water_share(p.food) * p.counted.value + (p.in_bowl.value - p.counted.value)
        for p in portions
        if p.food is not None
    )
    solids = max(0.01, 1.0 - max(0.0, water) / mass)
    held = solids**0.8
    return Stimulus(
        "body", body.value * held, {k: v * held for k, v in body.by_line.items()}, body.unknown
    )


def nucleotides_mg(portion: Portion) -> float:
    """Nucleotides of a line, as grams × mg per 100 g."""
    if portion.taste is not None:
        return portion.taste.nucleotide_mg * portion.in_bowl.value
    taste = portion.food.taste if portion.food is not None else None
    return taste.nucleotide_mg * portion.counted.value if taste is not None else 0.0


def _with_synergy(portions: Sequence[Portion], glutamate: Stimulus, mass: float) -> Stimulus:
    """Lifts the glutamate of the mix by its nucleotides, y = u + 1218·u·v in g per 100 g, shared
    out as the glutamate is."""
    nucleotide_mg = sum(nucleotides_mg(p) for p in portions) / mass
    lift = 1.0 + SYNERGY * nucleotide_mg / 1000
    value = min(glutamate.value * lift, SAVORY_CEILING_MG)
    scale = value / glutamate.value if glutamate.value else 1.0
    return Stimulus(
        "savory", value, {k: v * scale for k, v in glutamate.by_line.items()}, glutamate.unknown
    )
