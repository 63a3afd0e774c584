"""Traps: moves that look like help and are not, named in the moment they are made or met."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.pitfall import FoodPitfall
from fresh_ladle.core.catalogue.school import School
from fresh_ladle.core.cautions.allergens import allergen_group
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import capitalized

MAX_BROUGHT_BACK = 0.3
"""Share of the sodium saved that may come back unremarked."""
MIN_SAVED_MG = 10.0
"""Sodium saved per serving, from which it is worth a remark that some comes back."""
SATURATED_RISE_G = 0.3
LITTLE_FAT_G = 1.0
CARRIED_BY_FAT = {"vitamin_k_ug": 20.0, "vitamin_a_rae_ug": 90.0}
"""Per serving, from which a fat-free dish is worth a remark: about a sixth and a tenth of a day's
reference intake."""
_FREE_OF = frozenset({"tree-nut", "peanut", "milk", "egg", "soy", "wheat", "fish"})


@dataclass(frozen=True, slots=True)
class Pitfall:
    """One trap in a sentence a cook understands."""

    id: str
    text: str


def pitfalls_of_change(before: Appraisal, after: Appraisal) -> tuple[Pitfall, ...]:
    """Traps that a change walks into."""
    found = (
        _salt_brought_back(before, after),
        _saturated_up(before, after),
        _one_allergy_for_another(before, after),
        _water_for_oil(before, after),
    )
    return tuple(trap for trap in found if trap is not None)


def _new_portions(before: Appraisal, after: Appraisal) -> list[Portion]:
    had = {line.id for line in before.recipe.lines}
    return [p for p in after.portions if p.line.id not in had and p.food is not None]


def _sodium_of(appraisal: Appraisal, line_ids: Iterable[str]) -> float:
    return sum(
        appraisal.totals.per_line[i]["sodium_mg"] or 0.0
        for i in line_ids
        if i in appraisal.totals.per_line
    )


def _salt_brought_back(before: Appraisal, after: Appraisal) -> Pitfall | None:
    old = [line.id for line in before.recipe.lines]
    saved = _sodium_of(before, old) - _sodium_of(after, old)
    gone = {p.line.food for p in before.portions}
    new = [p for p in _new_portions(before, after) if p.line.food not in gone]
    brought = _sodium_of(after, (p.line.id for p in new))
    if (
        not new
        or saved < MIN_SAVED_MG * after.totals.servings
        or brought < MAX_BROUGHT_BACK * saved
    ):
        return None
    salty = max(new, key=lambda p: after.totals.per_line[p.line.id]["sodium_mg"] or 0.0)
    assert salty.food is not None
    return Pitfall(
        "salt-brought-back",
        f"{capitalized(salty.food.kitchen_name)} is salty itself:"
        f" {brought / saved * 100:.0f}% of the sodium saved comes back.",
    )


def _saturated_up(before: Appraisal, after: Appraisal) -> Pitfall | None:
    rise = (
        after.totals.serving["saturated_fat_g"].value
        - before.totals.serving["saturated_fat_g"].value
    )
    if rise < SATURATED_RISE_G:
        return None
    return Pitfall(
        "saturated-up", f"Saturated fat goes up by {rise:.1f} g a serving, whatever the total does."
    )


def _one_allergy_for_another(before: Appraisal, after: Appraisal) -> Pitfall | None:
    had = {allergen_group(a.id): a.name for a in before.allergens}
    has = {allergen_group(a.id): a.said for a in (*after.may_contain, *after.allergens)}
    perhaps = {allergen_group(a.id) for a in before.may_contain}
    gone = [a for a in had if a not in has and a in _FREE_OF]
    new = [a for a in has if a not in had and a not in perhaps]
    if not gone or not new:
        return None
    return Pitfall(
        "one-allergy-for-another",
        f"{capitalized(had[gone[0]])} goes and {' and '.join(has[a] for a in new)} comes: ask who"
        " is eating.",
    )


def _water_for_oil(before: Appraisal, after: Appraisal) -> Pitfall | None:
    new = _new_portions(before, after)
    if not new or any(p.food is not None and p.food.key != "water" for p in new):
        return None
    oil = {
        p.line.id: p.in_bowl.value
        for p in before.portions
        if p.food is not None and p.food.group == "fat-oil"
    }
    left = {p.line.id: p.in_bowl.value for p in after.portions}
    cut = sum(grams - left.get(line_id, 0.0) for line_id, grams in oil.items())
    if not oil or cut < 0.3 * sum(oil.values()):
        return None
    return Pitfall(
        "water-for-oil",
        "Sharp, thin, no cling: water takes the room of the oil and does none of its work. Mend the"
        " body, and soften the acid.",
    )


def pitfalls_of_recipe(
    appraisal: Appraisal,
    pitfalls: Sequence[FoodPitfall],
    school: School | None,
    targets: Sequence[Target],
) -> list[Pitfall]:
    """Traps that stand in the recipe as it is, as far as its school or its targets make them
    matter."""
    watched = {t.nutrient for t in targets if t.side == "at most"}
    concerns = {"always"}
    if (school and school.refuses_oil) or watched & {"fat_g", "energy_kcal", "saturated_fat_g"}:
        concerns.add("oil")
    if (school and school.refuses_salt) or "sodium_mg" in watched:
        concerns.add("salt")
    if (school and school.refuses_sugar) or watched & {"sugars_g", "added_sugars_g"}:
        concerns.add("sugar")
    found = []
    for trap in pitfalls:
        names = [
            p.food.kitchen_name
            for p in appraisal.portions
            if p.food is not None and p.food.key in trap.foods and p.counted.value > 0
        ]
        if names and trap.concern in concerns:
            found.append(Pitfall(trap.id, f"{_listed(dict.fromkeys(names))}: {trap.text}"))
    if (bare := _nothing_carries(appraisal)) is not None:
        found.append(bare)
    return found


def _listed(names: Iterable[str]) -> str:
    text = ", ".join(names)
    return capitalized(text)


def _nothing_carries(appraisal: Appraisal) -> Pitfall | None:
    serving = appraisal.totals.serving
    if not serving["fat_g"].complete or serving["fat_g"].value >= LITTLE_FAT_G:
        return None
    if not any(serving[nutrient].value >= least for nutrient, least in CARRIED_BY_FAT.items()):
        return None
    return Pitfall(
        "nothing-carries",
        "Almost no fat: the vitamins A and K in it, and its aroma, need a few grams of fat at the"
        " same meal to be taken up.",
    )
