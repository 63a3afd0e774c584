"""Schools of cooking: what each leaves out, and which foods it allows."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.foods.food import Food


@dataclass(frozen=True, slots=True)
class School:
    """A school of fat. The `refuses_*` switches say which foods a suggestion of this school never brings in."""

    id: str
    name: str
    creed: str
    refuses_oil: bool = False
    refuses_salt: bool = False
    refuses_sugar: bool = False
    refuses_full_fat_dairy: bool = False


SCHOOLS: tuple[School, ...] = (
    School("keep-good-fat", "keep good fat", "Olive oil, nuts, seeds and fish stay, poured with measure; sodium and sugar are cut first."),
    School("seeds-not-oil", "seeds, not oil", "Fat comes from whole seeds, nuts and avocado; extracted oil by the teaspoon or not at all.", refuses_oil=True),
    School("no-added-oil-salt-sugar", "no added oil, salt or sugar", "None of the three in any form; sweetness from whole fruit, salt from vegetables.",
           refuses_oil=True, refuses_salt=True, refuses_sugar=True),
    School("lean-dairy", "lean dairy", "Strained nonfat yogurt, buttermilk and cottage cheese carry the body instead of fat.", refuses_full_fat_dairy=True),
)  # fmt: skip
BY_ID: dict[str, School] = {school.id: school for school in SCHOOLS}


def allows(school: School, food: Food) -> bool:
    """Whether this school would bring the food into a dish."""
    traits = food.traits
    if school.refuses_oil and traits.added_fat:
        return False
    if school.refuses_salt and (traits.added_salt or (food.per_100_g["sodium_mg"] or 0.0) > 400):
        return False
    if school.refuses_sugar and traits.added_sugar > 0:
        return False
    return not (
        school.refuses_full_fat_dairy and food.group in ("dairy", "cheese") and (food.per_100_g["fat_g"] or 0.0) > 5
    )
