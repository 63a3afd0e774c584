"""What the measure tells of the food that is meant: the juice of a fruit, the ground seed by the
teaspoon, cloves."""

from __future__ import annotations

import re
from dataclasses import replace

from rapidfuzz import fuzz, process

from fresh_ladle.core.amounts.line import LineParts
from fresh_ladle.core.amounts.names import words
from fresh_ladle.core.amounts.units import SPELLINGS
from fresh_ladle.core.foods.food import Food

_CITRUS = frozenset(
    {
        "calamansi",
        "lemon",
        "lime",
        "orange",
        "grapefruit",
        "yuzu",
        "mandarin",
        "tangerine",
        "clementine",
    }
)
_SPOONED = frozenset(
    {
        "tsp",
        "tbsp",
        "squeeze",
        "splash",
        "dash",
        "ml",
        "fl oz",
        "cup",
        "drop",
        "little",
        "some",
        "bit",
        "lot",
        "drizzle",
    }
)


def with_kind_meant(parts: LineParts) -> LineParts:
    """What the measure tells: tomato purée by the spoon is what others call paste, by the cup it is
    passata; coriander by the teaspoon is the ground seed."""
    if parts.amount.unit in ("tsp", "pinch") and re.fullmatch("coriander", parts.food, re.I):
        said = " ".join(parts.remarks).lower()
        return (
            parts
            if re.search(r"chop|fresh|lea[fv]|mince|torn|stalk", said)
            else replace(parts, food="ground coriander")
        )
    if parts.amount.unit in ("tsp", "tbsp", "dessertspoon", "squirt") and re.search(
        r"^tomato pur[eé]e$", parts.food, re.I
    ):
        return replace(parts, food="tomato paste")
    return parts


def _as_citrus(word: str) -> str:
    """A citrus fruit written with a slip of the pen, as it is spelled."""
    near = process.extractOne(word, sorted(_CITRUS), scorer=fuzz.ratio, score_cutoff=88)
    return near[0] if near else word


def with_fruit_parts(parts: LineParts) -> LineParts:
    """ "2 limes, juiced", "juice of 2 limes" and "a squeeze of lemon" all mean the juice."""
    amount, food = parts.amount, parts.food
    remarks = " ".join(parts.remarks).lower()
    named = {_as_citrus(word) for word in words(food)}
    if amount.part is None and named and named <= _CITRUS:
        food = food if set(words(food)) == named else " ".join(sorted(named))
        if re.search(r"\bzest(?:ed)?\b|\brind\b", remarks) and not re.search(r"juice", remarks):
            amount = replace(amount, part="zest", text=f"zest of {amount.text}")
        elif re.search(r"\bjuiced?\b|\bsqueezed\b", remarks):
            amount = replace(amount, part="juice", text=f"juice of {amount.text}")
        elif not amount.given and "wedge" not in remarks and "slice" not in remarks:
            return replace(parts, food=f"{food} juice")
        elif named == {"lime"} and amount.given and amount.unit is None and amount.weight is None:
            # Nobody eats limes: "2 limes" are two limes of juice.
            amount = replace(amount, part="juice", text=f"juice of {amount.text}")
        elif amount.unit in _SPOONED:
            return replace(parts, food=f"{food} juice")
    if amount.part and not ({"juice", "zest"} & named):
        food = f"{' '.join(words(food)) or food} {amount.part}"
        if "bottled" not in named and amount.part == "juice":
            food = f"fresh {food}"
    return replace(parts, amount=amount, food=food)


def amount_in_pieces(parts: LineParts, food: Food) -> str:
    """ "3 garlic cloves" is counted in cloves although the unit stands after the food."""
    amount = parts.amount
    if amount.unit is None and amount.given and not amount.part and not amount.package:
        last = parts.food.lower().split()[-1] if parts.food else ""
        for unit in (
            "clove",
            "leaf",
            "stalk",
            "sprig",
            "fillet",
            "head",
            "bulb",
            "bunch",
            "heart",
            "ear",
            "slice",
            "stick",
            "spear",
        ):
            if last in SPELLINGS.get(unit, ()) and food.measure(unit):
                return f"{amount.text} {last}"
    return amount.text
