"""Schools of cooking: what each leaves out, and which foods it allows."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food


@dataclass(frozen=True, slots=True)
class School:
    """A school of fat. The `refuses_*` switches say which foods a dish of this school does not
    hold."""

    id: str
    name: str
    creed: str
    refuses_oil: bool = False
    refuses_salt: bool = False
    refuses_sugar: bool = False
    refuses_full_fat_dairy: bool = False


SCHOOLS: tuple[School, ...] = (
    School(
        "keep-good-fat",
        "keep good fat",
        "Olive oil, nuts, seeds and fish stay, poured with measure; sodium and sugar are cut"
        " first.",
    ),
    School(
        "seeds-not-oil",
        "seeds, not oil",
        "Fat comes from whole seeds, nuts and avocado; extracted oil stays out.",
        refuses_oil=True,
    ),
    School(
        "no-added-oil-salt-sugar",
        "no added oil, salt or sugar",
        "None of the three in any form; sweetness from whole fruit, salt from vegetables.",
        refuses_oil=True,
        refuses_salt=True,
        refuses_sugar=True,
    ),
    School(
        "lean-dairy",
        "lean dairy",
        "Strained nonfat yogurt, buttermilk and cottage cheese carry the body instead of fat.",
        refuses_full_fat_dairy=True,
    ),
)
BY_ID: dict[str, School] = {school.id: school for school in SCHOOLS}


@dataclass(frozen=True, slots=True)
class SaltSchool:
    """A school of salt; combines with any school of fat.

    `least_salt` is the share of the salt itself that stays; `refuses_salty` keeps salty things from
    coming in; `takes_salt_out` asks for a dish without any salt of its own."""

    id: str
    name: str
    creed: str
    least_salt: float = 0.0
    refuses_salty: bool = False
    takes_salt_out: bool = False


SALTY_MG = 400.0
"""Sodium per 100 g from which a food is salty: five times the usual limit of a low-sodium claim
(estimate)."""
SALT_SCHOOLS: tuple[SaltSchool, ...] = (
    SaltSchool(
        "season-early",
        "season early and enough",
        "The salt itself stays, most of it; sodium comes down in what carries it unseen.",
        least_salt=0.7,
    ),
    SaltSchool(
        "powders-and-acid",
        "powders and acid, not salts",
        "Garlic and onion powder, citrus, vinegar and herbs; nothing salty comes in for the salt"
        " that goes.",
        refuses_salty=True,
    ),
    SaltSchool(
        "none-added",
        "none added",
        "No salt of its own and nothing salty brought in.",
        refuses_salty=True,
        takes_salt_out=True,
    ),
)
SALT_BY_ID: dict[str, SaltSchool] = {school.id: school for school in SALT_SCHOOLS}


def allows(school: School, food: Food) -> bool:
    """Whether this school would have the food in a dish."""
    return not refused_for(school, food)


def refused_for(school: School, food: Food) -> str:
    """Why this school would not have a food in a dish, in two words; empty where it would."""
    traits = food.traits
    if school.refuses_oil and traits.added_fat:
        return "added fat"
    if school.refuses_salt and (
        traits.added_salt or (food.per_100_g["sodium_mg"] or 0.0) > SALTY_MG
    ):
        return "added salt" if traits.added_salt else "salty"
    if school.refuses_sugar and traits.added_sugar > 0:
        return "added sugar"
    if (
        school.refuses_full_fat_dairy
        and food.group in ("dairy", "cheese")
        and (food.per_100_g["fat_g"] or 0.0) > 5
    ):
        return "full-fat dairy"
    return ""
