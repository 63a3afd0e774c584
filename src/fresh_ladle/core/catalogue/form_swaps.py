"""Swaps that follow from the table of forms: the same food with less salt, fat or sugar."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from fresh_ladle.core.catalogue.school import SCHOOLS, allows
from fresh_ladle.core.catalogue.swap import COURSE_OF_KIND, Incoming, Swap
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.forms import Form, FormTable
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.words.sentences import capitalized

SAVES = {"salt": ("sodium_mg", 20.0), "oil": ("fat_g", 1.0), "sugar": ("sugars_g", 1.0)}
"""The figure that a form saves for a goal, and the least difference per 100 g that is worth a
swap."""
WHY = {
    "salt": "The same food with less salt in it.",
    "oil": "The same food with less fat in it.",
    "sugar": "The same food, not sweetened.",
}
MORE_SALT, MORE_SALT_MG = " It holds more salt.", 100.0
"""Said when the new form brings so much more sodium per 100 g."""
_SALT_RANK = {"none added": 0, "unsalted": 0, "reduced": 1, "soaked": 1, "regular": 2, "brined": 2}
_FAT_RANK = {"nonfat": 0, "low": 1, "reduced": 2, "full": 3}
_SUGAR_RANK = {"unsweetened": 0, "sweetened": 1}
MIN_SHARE_SAVED = 0.15
NOTICED_AT, FAILS_AT = 0.5, 1.0
"""A form of the same food is seldom noticed in half and never fails (kitchen estimate, grade C)."""
READY = frozenset({"", "raw", "cooked", "steamed", "roasted", "puréed"})
_RISKY = frozenset({"raw-egg", "raw-sprout"})


def form_swaps(forms: FormTable, pantry: Pantry, written: Iterable[Swap]) -> list[Swap]:
    """One swap for each form that holds less sodium, fat or sugar than another, where none is
    written by hand."""
    covered = {(out, i.food) for swap in written for i in swap.incoming for out in swap.out}
    found = []
    for family in forms.families.values():
        for out, new in ready_pairs(family):
            swap = _swap(out, new, pantry[out.food], pantry[new.food], pantry)
            if swap is not None and (out.food, new.food) not in covered:
                found.append(swap)
    return found


def ready_pairs(family: list[Form]) -> Iterator[tuple[Form, Form]]:
    """Forms that do the same work in a bowl: nothing is asked to be boiled, dried or sprouted
    first."""
    for out in family:
        for new in family:
            if (
                out is new
                or not {out.state, new.state} <= READY
                or "dry" in (out.packing, new.packing)
            ):
                continue
            cooked = {"cooked", "steamed"}
            canned = out.packing.startswith("canned") and new.packing in ("fresh", "frozen")
            if out.state == new.state or {out.state, new.state} <= cooked or canned:
                yield out, new


def _swap(out: Form, new: Form, before: Food, after: Food, pantry: Pantry) -> Swap | None:
    """The swap, when the new form saves something and costs no safety; None otherwise."""
    per_gram = new.per_gram_of(out)
    goal = next(
        (g for g in SAVES if _is_less(g, out, new) and _saves(g, before, after, per_gram)), None
    )
    if (
        goal is None
        or after.traits.flags & _RISKY
        or (before.group == "legume" and new.state == "raw")
    ):
        return None
    change = {
        n: (after.per_100_g[n] or 0.0) * per_gram - (before.per_100_g[n] or 0.0)
        for n in NUTRIENT_IDS
    }
    least = {n: max(0.1, MIN_SHARE_SAVED * (before.per_100_g[n] or 0.0)) for n in NUTRIENT_IDS}
    from_dry = (
        ", cooked from dry"
        if before.group == "legume" and new.state == "cooked" and not new.packing
        else ""
    )
    note = f" {new.note}." if new.note and not new.note.startswith("base:") else ""
    return Swap(
        id=f"form-{before.key}-to-{after.key}",
        title=capitalized(f"{after.kitchen_name}{from_dry}"),
        goal=goal,
        out=frozenset({before.key}),
        incoming=(Incoming(after.key, round(per_gram, 3)),),
        share=1.0,
        courses=frozenset(COURSE_OF_KIND.values()),
        schools=tuple(s.id for s in SCHOOLS if allows(s, after)),
        noticed_at=NOTICED_AT,
        fails_at=FAILS_AT,
        repairs=(),
        reason=WHY[goal] + note + (MORE_SALT if change["sodium_mg"] > MORE_SALT_MG else ""),
        lowers=tuple(n for n in NUTRIENT_IDS if change[n] < -least[n]),
        raises=tuple(n for n in NUTRIENT_IDS if change[n] > least[n]),
    )


def _is_less(goal: str, out: Form, new: Form) -> bool:
    """Whether the new form is the lesser by what its name says, not by chance of two rows of the
    table."""
    if goal == "salt":
        fresh = 0 if new.packing in ("fresh", "frozen") else 2
        return _SALT_RANK.get(new.salt, fresh) < _SALT_RANK.get(out.salt, 0)
    if goal == "oil":
        drained = out.packing == "in oil" and new.packing != "in oil"
        return drained or _FAT_RANK.get(new.fat, 3) < _FAT_RANK.get(out.fat, 0)
    return _SUGAR_RANK.get(new.sugar, 1) < _SUGAR_RANK.get(out.sugar, 0)


def _saves(goal: str, before: Food, after: Food, per_gram: float) -> bool:
    nutrient, least = SAVES[goal]
    had, has = before.per_100_g[nutrient] or 0.0, (after.per_100_g[nutrient] or 0.0) * per_gram
    return had - has >= max(least, MIN_SHARE_SAVED * had)
