"""Reads targets, locks and exclusions as a person types them."""

from __future__ import annotations

import re

from fresh_ladle.core.cautions.allergens import ALLERGENS
from fresh_ladle.core.foods.nutrient import BY_ID, NUTRIENTS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.nutrients.targets import Basis, Firmness, Side, Target
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal

_TARGET = re.compile(
    r"^\s*([A-Za-z][\w ]*?)\s*(<=|>=|≤|≥)\s*(\d+(?:[.,]\d+)?)\s*(?:kcal|mg|g|µg)?"
    r"(?P<per>\s*(?:per|/|in)\s*100\s*g)?(?P<soft>\s*,?\s*(?:soft|if it can be))?\s*$"
)


def target_of(text: str) -> Target:
    """`sodium_mg<=140`, `sodium <= 140 mg`, `fiber>=3 per 100 g soft`. Raises RecipeError."""
    match = _TARGET.match(text)
    if match is None:
        raise RecipeError(
            f"{text!r} is not a target: write for example sodium_mg<=140 or fiber_g>=3"
        )
    name = match[1].strip().lower().replace(" ", "_")
    known = {n.id: n.id for n in NUTRIENTS} | {
        n.name.lower().replace(" ", "_"): n.id for n in NUTRIENTS
    }
    known |= {n.id.rsplit("_", 1)[0]: n.id for n in NUTRIENTS}
    if name not in known:
        raise RecipeError(f"no figure is called {match[1]!r}: choose from {', '.join(BY_ID)}")
    side = Side.AT_MOST if match[2] in ("<=", "≤") else Side.AT_LEAST
    basis = Basis.HUNDRED_GRAMS if match["per"] else Basis.SERVING
    return Target(
        known[name],
        side,
        float(match[3].replace(",", ".")),
        basis,
        Firmness.SOFT if match["soft"] else Firmness.HARD,
    )


def typed_target(target: Target) -> str:
    """A target as a person would type it; `target_of` reads it back."""
    per = " per 100 g" if target.basis is Basis.HUNDRED_GRAMS else ""
    sign = "<=" if target.side is Side.AT_MOST else ">="
    return f"{target.nutrient}{sign}{target.limit:g}{per}{' soft' if target.soft else ''}"


def lines_called(text: str, version: Appraisal) -> frozenset[str]:
    """Ids of the lines whose id, name or food holds the words. Raises RecipeError when there is
    none."""
    words = text.lower().strip()
    found = {
        p.line.id
        for p in version.portions
        if words
        and (
            words == p.line.id
            or words in (p.line.named or "").lower()
            or words in p.line.text.lower()
            or words == p.line.food
            or (p.food is not None and words in p.food.name.lower())
        )
    }
    if not found:
        raise RecipeError(f"no line of {version.recipe.title} is called {text!r}")
    return frozenset(found)


def exclusion_of(text: str, pantry: Pantry) -> frozenset[str]:
    """The allergen, or the foods, that words such as `tree-nut`, `sesame` or `feta` name. Raises
    RecipeError."""
    words = text.lower().strip()
    hyphened = words.replace(" ", "-")
    allergen = next((a for a in (hyphened, hyphened.removesuffix("s")) if a in ALLERGENS), None)
    if allergen is not None:
        return frozenset({allergen})
    foods = {
        f.key
        for f in pantry.stocked
        if words == f.key
        or words in (a.lower() for a in f.aliases)
        or words == f.name.lower()
        or words == f.kitchen_name.lower()
    }
    if not foods:
        raise RecipeError(f"{text!r} is neither an allergen nor a food of the pantry")
    return frozenset(foods)
