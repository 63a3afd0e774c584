"""The lines of a recipe that a plan may change: how little and how much may stay of each, and what
has to go."""

from __future__ import annotations

import re
from collections.abc import Iterator

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.catalogue.roles import roles_of
from fresh_ladle.core.catalogue.school import allows
from fresh_ladle.core.cautions.allergens import is_left_out
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.plans.move import Slot
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.whole.appraisal import Appraisal

MAX_RAISED, MAX_SEASONED, IDENTITY_KEPT = 0.5, 0.5, 0.5
"""Shares of a line: raised, raised where it seasons, and kept of what gives the dish its name."""
SEASONING = frozenset({"acid", "herb", "spice", "allium"})
_RAISABLE = frozenset(
    {"leafy", "vegetable", "root-tuber", "legume", "fruit", "tomato", "fungus-sea", "grain-pasta"}
)
SALT_ROLES = frozenset({"seasoning", "drawing", "cooking-water"})


def identity_lines(now: Appraisal) -> set[str]:
    """Lines that make the dish what it is: named in its title, and the heaviest one in the bowl."""
    title = set(re.findall(r"[a-z]{3,}", now.recipe.title.lower()))
    named = {
        p.line.id
        for p in now.portions
        if p.food is not None
        and any(
            w.rstrip("s") in {t.rstrip("s") for t in title}
            for w in re.findall(r"[a-z]{3,}", (p.line.named or p.food.name).lower())
        )
    }
    heaviest = max(now.portions, key=lambda p: p.in_bowl.value, default=None)
    return named | ({heaviest.line.id} if heaviest is not None else set())


def has_to_go(now: Appraisal, portion: Portion, food: Food, request: PlanRequest) -> bool:
    """Whether a line has to leave the dish: excluded, or what the school would not have."""
    if is_left_out(food, request.exclude):
        return True
    if request.school is not None and not request.towards and not allows(request.school, food):
        return True
    salt = bool(roles_of(portion.line, food, now.recipe.kind) & SALT_ROLES)
    return salt and request.salt_school is not None and request.salt_school.takes_salt_out


def slots_of(now: Appraisal, request: PlanRequest) -> list[Slot]:
    """A slot for each line that is eaten, weighed and free to change."""
    identity = set() if request.identity_free else identity_lines(now)
    found = []
    for portion, food in _eaten(now):
        if _is_held(portion, request) or portion.measured.value <= 0:
            continue
        grams = portion.measured.value
        unwanted = has_to_go(now, portion, food, request)
        named = portion.line.id in identity
        least = 0.0 if unwanted else _least_left(now, portion, food, named, request)
        raised = MAX_SEASONED * (food.group in SEASONING) + MAX_RAISED * (food.group in _RAISABLE)
        may_rise = bool(portion.line.amount) and not unwanted
        found.append(Slot(portion, grams, least, grams * (1 + raised * may_rise), unwanted, named))
    return found


def stuck_names(now: Appraisal, request: PlanRequest) -> list[str]:
    """The lines that have to go and may not: locked, or part of a batch."""
    return [
        portion.line.named or food.kitchen_name
        for portion, food in _eaten(now)
        if _is_held(portion, request) and has_to_go(now, portion, food, request)
    ]


def _eaten(now: Appraisal) -> Iterator[tuple[Portion, Food]]:
    for portion in now.portions:
        if portion.food is not None and portion.known and portion.line.eaten > 0:
            yield portion, portion.food


def _is_held(portion: Portion, request: PlanRequest) -> bool:
    return portion.line.id in request.locked or portion.batch_line is not None


def _least_left(
    now: Appraisal, portion: Portion, food: Food, named: bool, request: PlanRequest
) -> float:
    """The least grams that may stay of a line."""
    grams, school = portion.measured.value, request.salt_school
    if school is not None and roles_of(portion.line, food, now.recipe.kind) & SALT_ROLES:
        return grams * school.least_salt
    return grams * IDENTITY_KEPT if named else 0.0
