"""Lines that list foods with one amount, or with none: "toasted pecans and dried cherries",
"cucumber and tomato"."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from fractions import Fraction

from fresh_ladle.core.amounts.amount import Amount, read_amount
from fresh_ladle.core.amounts.kitchen import written_amount
from fresh_ladle.core.amounts.line import before_asides
from fresh_ladle.core.amounts.quantity import BadQuantity

_AND = re.compile(r"\s*(?:,\s*(?:and|&)\s+|\s(?:and|&)\s+)\s*", re.I)
_BESIDE = re.compile(r"\s+(?:with|plus|\+)\s+(?:some\s+|a little\s+)?", re.I)
"""What follows is another food beside the first, and has no part in its amount."""
_EACH = re.compile(
    r"^(?P<some>(?:some|a bit of|a little|lots of|plenty of|more|extra|optional:?)\s+)", re.I
)
MOST_FOODS = 6
SHARED = "shared out of "
"""What a line says whose amount was shared out."""
STRONG = frozenset(
    (
        "salt-salty",
        "spice",
        "acid",
        "fat-oil",
        "sweetener",
        "allium",
        "herb",
        "liquid",
        "thickener",
        "pickle-olive",
    )
)
"""Groups of foods that are not used by the cup beside others: half of "2 Tbsp oil and salt" is not
salt."""
GroupOf = Callable[[str], str | None]
"""The group of the food that a phrase names, its preparation left aside; None for what names no
food alone."""


def listed_foods(line: str, group_of: GroupOf, is_name: Callable[[str], bool]) -> list[str]:
    """One line for each food of a list, where all of them are known; empty for any other line, and
    where the whole of it is the name of one food.

    A measured amount is shared out among foods of one group, or among such as are used by the cup,
    and the lines say so; of others it is the first one's, and how much of the rest is not said.
    "Some" is some of each."""
    if "(" in line:
        return []
    bare, after = before_asides(line)
    some = match["some"] if (match := _EACH.match(bare)) else ""
    bare = bare[len(some) :].strip(" ,;.")
    try:
        amount, rest = read_amount(bare)
    except BadQuantity:
        return []
    listed = re.sub(r"^of (?:the )?", "", rest if amount.given else bare, flags=re.I)
    foods, together = ([], False) if is_name(listed) else _foods(listed, amount, group_of)
    if len(foods) < 2:
        return []
    if not amount.given:
        return [f"{some}{food}{after}" for food in foods]
    groups = {group_of(food) for food in foods}
    if not together or (len(groups) > 1 and groups & STRONG):
        return [f"{amount.text} {foods[0]}{after}", *(f"{food}{after}" for food in foods[1:])]
    share = _share(amount, len(foods))
    return [f"{share} {food} ({SHARED}{amount.text}){after}" for food in foods] if share else []


def _foods(rest: str, amount: Amount, group_of: GroupOf) -> tuple[list[str], bool]:
    """The foods of a list, where each is known, and whether they stand together rather than one
    beside another."""

    def known(phrase: str) -> bool:
        return group_of(phrase) is not None

    for parting in (_AND, _BESIDE):
        parts = [] if parting is _BESIDE and amount.unit in ("can", "jar") else parting.split(rest)
        foods = _with_shared_noun(_pieces(parts), known) if len(parts) > 1 else []
        if 1 < len(foods) <= MOST_FOODS and all(known(food) for food in foods):
            return foods, parting is _AND
    foods = [] if amount.given else _pieces([rest])
    return (
        (foods, True)
        if 1 < len(foods) <= MOST_FOODS and all(known(food) for food in foods)
        else ([], False)
    )


def _pieces(parts: Sequence[str]) -> list[str]:
    return [piece.strip() for part in parts for piece in part.split(",") if piece.strip()]


def _with_shared_noun(pieces: list[str], known: Callable[[str], bool]) -> list[str]:
    """ "Red and green cabbage": the noun that stands once belongs to each, the longest first."""
    last = pieces[-1].split()
    for start in range(1, len(last)):
        noun = " ".join(last[start:])
        longer = [f"{piece} {noun}" for piece in pieces[:-1]]
        if known(pieces[-1]) and all(known(piece) for piece in longer):
            return [*longer, pieces[-1]]
    return pieces


def _share(amount: Amount, count: int) -> str:
    """One food's share of a measured amount, as it is written; empty for what cannot be shared."""
    if (
        amount.count is None
        or amount.weight is not None
        or amount.package is not None
        or amount.added
        or amount.part
    ):
        return ""
    value = amount.count.count.value / count
    near = Fraction(value).limit_denominator(8)
    number = near if near and abs(float(near) - value) < 0.02 * value else Fraction(f"{value:.3g}")
    return f"about {written_amount(number, amount.unit)}".strip()
