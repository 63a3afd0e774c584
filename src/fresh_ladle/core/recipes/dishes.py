"""Kinds of dish: what they are called, how they are served, and how much salt "to taste" tends to
mean."""

from __future__ import annotations

import re
from dataclasses import dataclass

from fresh_ladle.core.ranges import Range


@dataclass(frozen=True, slots=True)
class DishKind:
    """A kind of dish. `serving_g` is a usual serving; `salt_to_taste` grams of salt per 100 g of
    mix (estimate, C)."""

    id: str
    name: str
    serving_g: float
    salt_to_taste: Range
    words: tuple[str, ...]


_DRESSING_SALT = Range(0.6, 0.2, 1.1)
_DIP_SALT = Range(0.5, 0.15, 0.9)
_SALAD_SALT = Range(0.35, 0.1, 0.7)

KINDS: tuple[DishKind, ...] = (
    DishKind("vinaigrette", "vinaigrette", 30, _DRESSING_SALT, ("vinaigrette",)),
    DishKind(
        "creamy-dressing",
        "creamy dressing",
        30,
        _DRESSING_SALT,
        ("buttermilk", "creamy", "yogurt dressing", "ranch"),
    ),
    DishKind(
        "nut-dressing",
        "nut or seed dressing",
        30,
        _DRESSING_SALT,
        ("tahini dressing", "peanut dressing", "peanut sauce", "cashew", "almond dressing"),
    ),
    DishKind(
        "juice-dressing",
        "juice dressing",
        30,
        Range(0.4, 0.1, 0.8),
        ("oil-free", "citrus dressing", "juice dressing"),
    ),
    DishKind(
        "legume-dip",
        "legume dip",
        60,
        _DIP_SALT,
        ("hummus", "bean dip", "chickpea dip", "lentil dip", "white-bean"),
    ),
    DishKind(
        "vegetable-dip",
        "vegetable dip",
        60,
        _DIP_SALT,
        (
            "beet dip",
            "carrot dip",
            "eggplant dip",
            "pepper dip",
            "horseradish dip",
            "carrot and",
            "salsa",
        ),
    ),
    DishKind(
        "dairy-dip",
        "dairy dip",
        45,
        _DIP_SALT,
        ("sour cream dip", "tzatziki", "raita", "yogurt dip", "cream cheese dip"),
    ),
    DishKind(
        "avocado-dip", "avocado dip", 60, _DIP_SALT, ("guacamole", "avocado dip", "avocado mash")
    ),
    DishKind(
        "herb-nut-paste",
        "herb and nut paste",
        30,
        Range(0.8, 0.3, 1.3),
        ("pesto", "herb paste", "walnut dip", "pistou"),
    ),
    DishKind(
        "leafy-salad",
        "leafy salad",
        100,
        _SALAD_SALT,
        ("leafy", "greens", "kale salad", "spinach salad", "lettuce"),
    ),
    DishKind(
        "grain-salad",
        "grain salad",
        140,
        _SALAD_SALT,
        ("barley", "quinoa", "bulgur", "farro", "rice salad", "grain", "couscous", "tabbouleh"),
    ),
    DishKind("slaw", "slaw", 100, _SALAD_SALT, ("slaw", "coleslaw")),
    DishKind(
        "bean-salad", "bean salad", 130, _SALAD_SALT, ("bean salad", "lentil", "chickpea salad")
    ),
    DishKind(
        "pasta-potato-salad",
        "pasta or potato salad",
        140,
        _SALAD_SALT,
        ("potato salad", "pasta salad", "noodle"),
    ),
)
BY_ID: dict[str, DishKind] = {kind.id: kind for kind in KINDS}
DIPS = frozenset({"legume-dip", "vegetable-dip", "dairy-dip", "avocado-dip", "herb-nut-paste"})
SALADS = frozenset({"leafy-salad", "grain-salad", "slaw", "bean-salad", "pasta-potato-salad"})
DEFAULT = BY_ID["vinaigrette"]


_DIP, _DRESSING = (
    re.compile(r"\b(dip|spread|mash|paste)\b"),
    re.compile(r"\b(dressing|sauce|drizzle)\b"),
)


_OF_A_MIXED_SALAD = ("vegetable", "tomato", "fruit", "allium", "cheese", "protein")


def title_tells(title: str) -> bool:
    """Whether a title has a word of a kind of dish in it; else the kind is a guess from what is in
    the bowl."""
    text = title.lower().replace("-", " ")
    if _DIP.search(text) or _DRESSING.search(text):
        return True
    return any(
        re.search(rf"\b{re.escape(word.replace('-', ' '))}", text)
        for kind in KINDS
        for word in kind.words
    )


def proposed_kind(title: str, bowl: dict[str, float]) -> DishKind:
    """The kind the title speaks of, else the one that fits what is in the bowl (`bowl`: grams by
    food group)."""
    text = title.lower().replace("-", " ")
    dip, dressing = _DIP.search(text), _DRESSING.search(text)
    # A lentil dip is no lentil salad: in such a title the words of salads only say what is in it or
    # goes under it. A white bean salad is no white bean dip either, but a salad dressing is no
    # salad.
    salad = re.search(
        r"(?<!for )(?<!for a )\b(salad|\w*slaw|tabbouleh)\b(?!"
        r" (?:dressing|dip|spread|sauce|cream))",
        text,
    )
    no_salad = (dip or dressing) and not salad
    hits = [
        (len(word), kind)
        for kind in KINDS
        if not (no_salad and kind.id in SALADS) and not (salad and kind.id not in SALADS)
        for word in kind.words
        if re.search(rf"\b{re.escape(word.replace('-', ' '))}", text)
    ]
    if hits:
        return max(hits, key=lambda hit: hit[0])[1]
    total = sum(bowl.values()) or 1.0
    share = {group: grams / total for group, grams in bowl.items()}
    creamed = share.get("legume", 0) > 0.5 and share.get("nut-seed-butter", 0) > 0.02
    if not salad and (dip or (not dressing and creamed)):
        by_share = {
            "legume-dip": share.get("legume", 0) + share.get("soy", 0),
            "dairy-dip": share.get("dairy", 0) + share.get("cheese", 0),
            "avocado-dip": share.get("fruit", 0),
            "herb-nut-paste": share.get("herb", 0) + share.get("nut-seed", 0),
            "vegetable-dip": (
                share.get("vegetable", 0)
                + share.get("root-tuber", 0)
                + share.get("pickle-olive", 0)
                + share.get("leafy", 0)
            ),
        }
        return BY_ID[max(by_share, key=lambda k: by_share[k])]
    if not salad and (dressing or share.get("fat-oil", 0) + share.get("acid", 0) > 0.4):
        by_share = {
            "vinaigrette": share.get("fat-oil", 0) * 1.2,
            "creamy-dressing": share.get("dairy", 0) + share.get("cheese", 0),
            "nut-dressing": 2 * (share.get("nut-seed-butter", 0) + share.get("nut-seed", 0)),
            "juice-dressing": share.get("fruit", 0) + share.get("liquid", 0) * 0.5,
        }
        return BY_ID[max(by_share, key=lambda k: by_share[k])]
    by_share = {
        "grain-salad": share.get("grain-pasta", 0),
        "bean-salad": share.get("legume", 0),
        # What is neither grain, legume nor root is cut vegetables or fruit: nearest to a salad of
        # leaves.
        "leafy-salad": (
            2 * share.get("leafy", 0) + 0.3 * sum(share.get(g, 0) for g in _OF_A_MIXED_SALAD)
        ),
        "slaw": share.get("root-tuber", 0) * 0.6,
        "pasta-potato-salad": share.get("root-tuber", 0) * 0.5,
    }
    return BY_ID[max(by_share, key=lambda k: by_share[k])]
