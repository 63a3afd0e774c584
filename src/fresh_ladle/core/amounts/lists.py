"""Lines that list foods with one amount, or with none: "toasted pecans and dried cherries", "cucumber and tomato"."""

from __future__ import annotations

import re
from collections.abc import Callable
from fractions import Fraction

from fresh_ladle.core.amounts.amount import Amount, read_amount
from fresh_ladle.core.amounts.kitchen import written_amount
from fresh_ladle.core.amounts.quantity import BadQuantity

_AND = re.compile(r"\s*(?:,\s*(?:and|&)\s+|\s(?:and|&|\+|plus)\s+)\s*", re.I)
_WITH = re.compile(r"\s+with\s+(?:some\s+|a little\s+)?", re.I)
_AFTER = re.compile(
    r"(?P<after>,?\s*\(?\b(?:to taste|to serve|for serving|to garnish|for garnish|to finish|to top|for topping|on top"
    r"|as needed|as liked|if you like|optional)\b.*)$",
    re.I,
)
_EACH = re.compile(r"^(?P<some>(?:some|a bit of|a little|lots of|plenty of|more|extra|optional:?)\s+)", re.I)
MOST_FOODS = 6
SHARED = "shared out of "
"""What a line says whose amount was shared out."""
Known = Callable[[str], bool]
"""Whether a phrase names just a food, its preparation left aside."""


def listed_foods(line: str, known: Known, is_name: Known) -> list[str]:
    """One line for each food of a list, where all of them are known; empty for any other line, and where the whole of
    it is the name of one food.

    A measured amount is shared out among them, and the lines say so; "some" is some of each.
    """
    if "(" in line:
        return []
    after = match["after"] if (match := _AFTER.search(line)) else ""
    bare = line[: len(line) - len(after)].strip(" ,;.")
    some = match["some"] if (match := _EACH.match(bare)) else ""
    bare = bare[len(some) :]
    try:
        amount, rest = read_amount(bare)
    except BadQuantity:
        return []
    listed = re.sub(r"^of (?:the )?", "", rest if amount.given else bare, flags=re.I)
    foods = [] if is_name(listed) else _foods(listed, amount, known)
    if len(foods) < 2:
        return []
    if not amount.given:
        return [f"{some}{food}{after}" for food in foods]
    share = _share(amount, len(foods))
    return [f"{share} {food} ({SHARED}{amount.text}){after}" for food in foods] if share else []


def _foods(rest: str, amount: Amount, known: Known) -> list[str]:
    """The foods of a list, where each is known."""
    for parting in (_AND, _WITH):
        if parting is _WITH and amount.unit in ("can", "jar"):
            continue
        last = parting.split(rest)
        if len(last) < 2:
            continue
        pieces = [piece.strip() for part in last for piece in part.split(",") if piece.strip()]
        foods = _with_shared_noun(pieces, known)
        if len(foods) <= MOST_FOODS and all(known(food) for food in foods):
            return foods
    pieces = [piece.strip() for piece in rest.split(",") if piece.strip()]
    return pieces if not amount.given and 1 < len(pieces) <= MOST_FOODS and all(known(p) for p in pieces) else []


def _with_shared_noun(pieces: list[str], known: Known) -> list[str]:
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
    if amount.count is None or amount.weight is not None or amount.package is not None or amount.added or amount.part:
        return ""
    value = amount.count.count.value / count
    near = Fraction(value).limit_denominator(8)
    number = near if near and abs(float(near) - value) < 0.02 * value else Fraction(f"{value:.3g}")
    return f"about {written_amount(number, amount.unit)}".strip()
