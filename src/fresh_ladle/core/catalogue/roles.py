"""What a line is there for: oil that clings is another matter than oil on a roasting tray, and so
with salt."""

from __future__ import annotations

import re

from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.dishes import SALADS
from fresh_ladle.core.recipes.recipe import Line

ROLES: dict[str, str] = {
    "carrier": "carries aroma over the leaves",
    "cling": "makes the dressing cling",
    "richness": "makes it rich and creamy",
    "roasting": "is there for the roasting tray",
    "finishing": "is the last drizzle",
    "seasoning": "seasons",
    "drawing": "draws water out",
    "cooking-water": "salts the cooking water",
}
"""Roles of oil and salt, each as the end of a sentence that begins with the food."""

PURE_SALT_MG = 25_000.0
"""Sodium per 100 g from which a food counts as salt itself, and not as something salty."""

_OF_KIND = {
    "vinaigrette": {"carrier", "cling"},
    "juice-dressing": {"carrier", "cling"},
    "creamy-dressing": {"cling", "richness"},
    "nut-dressing": {"cling", "richness"},
}


def roles_of(line: Line, food: Food, kind: str) -> frozenset[str]:
    """The roles a line of oil or salt plays in a dish of this kind; empty for any other food."""
    if food.group == "fat-oil":
        return frozenset(_oil_roles(line, kind))
    if food.group == "salt-salty" and (food.per_100_g["sodium_mg"] or 0.0) >= PURE_SALT_MG:
        return frozenset({_salt_role(line)})
    return frozenset()


def _oil_roles(line: Line, kind: str) -> set[str]:
    if "tray-oil" in line.preparations or re.search(r"\broast|\btray\b", line.component, re.I):
        return {"roasting"}
    if Aside.GARNISH in line.asides or re.search(r"\bdrizzle\b", line.text, re.I):
        return {"finishing"}
    if kind in SALADS:
        return (
            {"carrier", "cling"}
            if re.search(r"\bdressing\b|\bvinaigrette\b", line.component, re.I)
            else {"carrier"}
        )
    return _OF_KIND.get(kind, {"richness"})


def _salt_role(line: Line) -> str:
    if "drawn-salt" in line.preparations:
        return "drawing"
    return "cooking-water" if "cooking-water" in line.preparations else "seasoning"


def role_sentence(food_name: str, roles: frozenset[str]) -> str:
    """`Here the oil makes the dressing cling and carries aroma over the leaves.`; empty without
    roles."""
    if not roles:
        return ""
    return f"Here the {food_name} {' and '.join(ROLES[r] for r in ROLES if r in roles)}."
