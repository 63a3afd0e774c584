"""Splits a plain line into amount, food and what the cook said about it."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.amount import Amount, Stated, read_amount, said_net, said_of_each
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.amounts.units import grams_in, millilitres, read_unit
from fresh_ladle.core.recipes.aside import Aside

_ASIDES: tuple[tuple[Aside, re.Pattern[str]], ...] = (
    (
        Aside.PLUS_MORE,
        re.compile(
            r"(?:,|\band\b|\()?\s*(?:plus|and|with|\+|&)\s+(?:some\s+|a little\s+|a bit\s+|a few\s+)?"
            r"(?:more|extra|additional)\b[^,;()]*"
            r"|,\s*(?:a (?:bit|little|touch|splash|drop) |some )?(?:more|extra) (?:if|as|when)\b[^,;()]*",
            re.I,
        ),
    ),
    (Aside.TO_THIN, re.compile(r"\b(?:to thin(?:\s+\w+)?|for thinning|to loosen|as needed to thin)\b[^,;()]*", re.I)),
    (
        Aside.TO_TASTE,
        re.compile(
            r"\b(?:to taste|or to taste|as needed|as desired|if needed|as required|to your taste|to season)\b", re.I
        ),
    ),
    (Aside.GARNISH, re.compile(
        r"\b(?:for (?:the )?(?:top\b|garnish(?:ing)?|serving|topping|sprinkling|drizzling|finishing|decoration)"
        r"|to (?:garnish|serve|finish|top|sprinkle|drizzle|decorate)|as (?:a )?garnish"
        r"|(?:to go |sprinkled |scattered )?on top)\b[^,;()]*",
        re.I,
    )),
    (Aside.OPTIONAL, re.compile(r"\b(?:optional(?:ly)?|if (?:you )?(?:like|using|desired|wanted))\b", re.I)),
    (
        Aside.PER_SERVING,
        re.compile(r"\b(?:per|for each|for every) (?:person|serving|head|plate|guest|portion)\b", re.I),
    ),
    (Aside.DIVIDED, re.compile(r"\bdivided(?: use)?\b", re.I)),
    (Aside.RESERVED, re.compile(r"\b(?:some |half )?(?:reserved?|kept back|set aside)\b(?: for [\w ]+)?", re.I)),
)  # fmt: skip
_OR = re.compile(r"\s+\bor\b\s+|\s*/\s*(?=[a-z]{3})", re.I)
_SHARED_NOUN = re.compile(
    r"\b(seeds?|oil|vinegar|juice|beans?|lettuce|stock|broth|milk|mustard|yogh?urt|leaves)$", re.I
)
"""A noun that stands once for both foods: "pumpkin or melon seeds", "canola or olive oil"."""
_OTHERWISE = re.compile(r"^(?:or|alternatively|otherwise)\s+(?P<other>[a-z].+)$", re.I)
"""A piece that names another food that would do."""
_SEPARATOR = re.compile(r"\s*(?:,|;|\s-\s|:\s)\s*")
_BRACKETS = re.compile(r"\(([^()]*)\)")
_TRAILING_AMOUNT = re.compile(
    r"^(?P<food>[^\d(,]{3,60}?)\s*(?:[,:]|\s-)?\s+"
    r"(?:maybe |say |like )?"
    r"(?P<amount>(?:(?:about|around|roughly|approx\.?|ca\.?)\s+)?(?:\d[\d\s./]*(?:-\s*\d[\d./]*)?|an?|half"
    r" an?)\s*"
    r"(?:(?:big|large|small|heaped|heaping|good|level|rounded)"
    r" )?(?:spoon(?:ful)?s?|tsp|tbsp|teaspoons?|tablespoons?"
    r"|cups?|g|kg|ml|oz|lbs?|cloves?|handfuls?|bunch|pinch|cans?|tins?|large|small|medium|sprigs?|stalks?|t)\b\.?.*)$",
    re.I,
)
_COUNTED_AFTER = re.compile(
    r"^(?P<food>[a-z][^\d(,:]{2,40}?)\s*(?:[,:]|\s-)?\s+"
    r"(?P<amount>(?:about |approx\.?"
    r" )?(?:\d+\s+\d/\d|\d+/\d|\d+(?:\s*-\s*\d+)?|half|one|two|three|four|a few|a couple)"
    r"(?:\s+(?:small|medium|large|big|good-sized|medium-sized|inch|inches|cm))?)\s*(?P<after>,.*)?$",
    re.I,
)
"""A bare count after the food: "shallots: 3", "cucumber 1/2", "carrots 3 medium, peeled"."""
_SALT_AND_PEPPER = re.compile(
    r"^(?P<amount>.*?)\b(?P<salt>(?:(?:kosher|sea|table|fine|coarse|flaky)\s+)*salt)\s*(?:and|&|\+|,)\s*(?P<pepper>(?:freshly\s+|fresh\s+|fresh-)?(?:ground\s+|cracked\s+)?(?:black\s+|white\s+)?pepper)\b(?P<rest>.*)$",
    re.I,
)
_JUICE_AND_ZEST = re.compile(
    r"^(?:the\s+)?(?:(?:finely\s+)?grated\s+)?(juice|zest|rind)\s*(?:and|&|\+)\s*(?:the\s+)?(?:(?:finely\s+)?grated\s+)?(juice|zest|rind)\s+(?:of|from)\s+(?P<rest>.+)$",
    re.I,
)
_JUICED_AND_ZESTED = re.compile(
    r"^(?P<fruit>.+?),?\s+(?:(?:zest(?:ed)?|juiced?)\s*(?:and|&|\+)\s*(?:zest(?:ed)?|juiced?)"
    r"|zest and juice|juice and zest)(?:\s+of)?\s*(?:only)?$",
    re.I,
)
_FRUIT = re.compile(r"\b(?:lemon|lime|orange|grapefruit)(?=s?\b)", re.I)
_JOINT = re.compile(
    r",?\s+(?:\+|&|and|with|plus|(?:popped|bloomed|sizzled|tempered|toasted|fried|dissolved|loosened|thinned|let"
    r" down)"
    r" (?:in|with))\s+(?=\d|an?\s+[a-z]|(?:one|two|three|four|half an?|quarter of)\s)",
    re.I,
)
_NO_FOOD = re.compile(
    r"^(?:(?:more|extra|additional|other|few|couple|bit|little|in|of|for|to|on|at|as|left)\b"
    r"|\w+(?:ed|ing)(?:\s*$|\s+(?:and|in|for|to)\b)|[^a-z]|$)",
    re.I,
)
"""What no name of a food begins with."""
_LENGTHS = frozenset({"inch piece", "cm piece"})
_EACH = re.compile(
    r"^(?P<amount>.+?)\s+each\s*(?:of\s+|:\s*)?(?P<foods>[a-z].+(?:,|\band\b|&).+)$", re.I
)


@dataclass(frozen=True, slots=True)
class LineParts:
    """A line taken apart. `food` is the phrase that names the food, `remarks` the preparations and
    remarks after it."""

    amount: Amount
    food: str
    remarks: tuple[str, ...] = ()
    asides: frozenset[Aside] = frozenset()
    variation: str | None = None


def separate_foods(plain: str) -> list[str]:
    """One line for each food: "salt and pepper", "juice and zest of 2 lemons", "1 tsp each cumin
    and paprika"."""
    if match := _SALT_AND_PEPPER.match(plain):
        amount = re.sub(r"\beach\b(?:\s+of)?:?", "", match["amount"]).strip()
        rest = match["rest"]
        if read_amount(amount + " x")[0].given or not amount:
            return [f"{amount} {match[name]}{rest}".strip() for name in ("salt", "pepper")]
    if (match := _JUICE_AND_ZEST.match(plain)) and match[1].lower() != match[2].lower():
        return [f"{match[1].lower()} of {match['rest']}", f"{match[2].lower()} of {match['rest']}"]
    if (match := _JUICED_AND_ZESTED.match(plain)) and read_amount(match["fruit"])[0].given:
        return [f"juice of {match['fruit']}", f"zest of {match['fruit']}"]
    if (match := _EACH.match(plain)) and read_amount(match["amount"])[0].unit:
        foods = [f.strip() for f in re.split(r",|\band\b|&", match["foods"]) if f.strip()]
        if all(len(f.split()) <= 4 for f in foods):
            return [f"{match['amount']} {food}" for food in foods]
    return _listed_after(plain) or _listed_before(plain) or _joined_foods(plain) or [plain]


def _listed_before(plain: str) -> list[str]:
    """Foods with an amount before each: "1 tsp cumin, 1 tsp coriander, 1/2 tsp turmeric"."""
    pieces = _pieces(plain)
    if len(pieces) < 2:
        return []
    for piece in pieces:
        try:
            amount, food = read_amount(piece)
        except BadQuantity:
            return []
        named = re.match(r"[a-z]{3}", food, re.I) and not _NO_FOOD.match(food)
        if (
            not named
            or not amount.given
            or amount.unit in _LENGTHS
            or not amount.text[:1].isdigit()
        ):
            return []
    return pieces


def _pieces(text: str) -> list[str]:
    """A line parted at its commas, but not inside brackets."""
    return [piece.strip() for piece in re.split(r",(?![^()]*\))", text) if piece.strip()]


def _listed_after(plain: str) -> list[str]:
    """Foods with their amounts after them: "garlic 2 cloves, ginger 1 inch"."""
    pieces = [piece.strip() for piece in plain.split(",")]
    if len(pieces) < 2 or not all(
        _TRAILING_AMOUNT.match(p) or _COUNTED_AFTER.match(p) for p in pieces
    ):
        return []
    return pieces


def _joined_foods(plain: str) -> list[str]:
    """Two foods with an amount each: "2 tbsp soy sauce + 1 tsp sesame oil", "juice of 1 lemon and 1
    lime"."""
    for match in _JOINT.finditer(plain):
        left, right = plain[: match.start()], plain[match.end() :]
        if left.count("(") != left.count(")"):
            continue
        try:
            (first, food), (second, other) = read_amount(left), read_amount(right)
        except BadQuantity:
            continue
        named = len(re.sub(r"[^a-z]", "", food, flags=re.I)) >= 3 and not _NO_FOOD.match(other)
        if not named or not first.given or not second.given or second.unit in _LENGTHS:
            continue
        if re.fullmatch("zest|juice", other) and (fruit := _FRUIT.search(food)):
            right = f"{right.removesuffix(other)}{fruit[0]} {other}"
        if first.part and not second.part and second.unit is None and "zest" not in other:
            right = f"{first.part} of {right}"
        return [_with_shared_remark(left, right), *(_joined_foods(right) or [right])]
    return []


_SHARED_REMARK = re.compile(
    r",\s*((?:both |all )?(?:well )?(?:drained|rinsed|drained and rinsed|rinsed and drained))$",
    re.I,
)


def _with_shared_remark(left: str, right: str) -> str:
    """ "A can of chickpeas plus half a can of black beans, rinsed": both were rinsed."""
    said = _SHARED_REMARK.search(right)
    return f"{left}, {said[1]}" if said and "," not in left else left


def _take_asides(rest: str) -> tuple[frozenset[Aside], str]:
    found = set()
    for aside, pattern in _ASIDES:
        if pattern.search(rest):
            found.add(aside)
            rest = pattern.sub(" ", rest)
    return frozenset(found), re.sub(r"\s+", " ", rest).strip()


def before_asides(line: str) -> tuple[str, str]:
    """A line up to the first thing that is said beside its food ("to taste", "for serving"), and
    from there on."""
    starts = [
        match.start() for _, pattern in _ASIDES if (match := pattern.search(line)) and match.start()
    ]
    at = min(starts, default=len(line))
    bare = line[:at].rstrip(" ,;")
    return bare, line[len(bare) :]


_LATER = re.compile(
    r"[,;]?\s*(?:\b(?:plus|and|with|then)\b\s*)+(?P<count>\d[\d/"
    r" .]*?|an?\s+(?:few|couple)|another|one|two|three)"
    r"(?:\s+of)?\s+(?:(?P<early>[a-z]+)\s+)?(?:more|extra)\b\s*(?P<unit>[a-z]+)?",
    re.I,
)


def _with_what_comes_later(amount: Amount, rest: str) -> tuple[Amount, str]:
    """ "3 Tbsp walnut oil, plus a few more spoons at the end": what comes later counts, in the unit
    of the first."""
    match = _LATER.search(rest)
    if (
        match is None
        or amount.unit is None
        or not (millilitres(amount.unit) or grams_in(amount.unit))
    ):
        return amount, rest
    unit, _ = read_unit(match["early"] or match["unit"] or "")
    if not unit or not (millilitres(unit) or grams_in(unit)):
        unit = amount.unit
    count = "1" if match["count"].lower() in ("another", "one") else match["count"]
    whole, after = read_amount(f"{amount.text} plus {count} {unit}")
    if after or not whole.added:
        return amount, rest
    return whole, f"{rest[: match.start()]}, {rest[match.end() :]}".strip(" ,")


def split_line(plain: str) -> LineParts:
    """Takes one plain line of one food apart. Raises BadQuantity when the number cannot be an
    amount."""
    amount, rest = read_amount(plain)
    amount, rest = _with_what_comes_later(amount, rest)
    if not amount.given and (match := _TRAILING_AMOUNT.match(plain) or _COUNTED_AFTER.match(plain)):
        trailing, after = read_amount(match["amount"])
        after = f"{after} {match.groupdict().get('after') or ''}".strip(" ,")
        if trailing.given:
            amount, rest = (
                trailing,
                f"{match['food'].strip()}, {after}" if after else match["food"].strip(),
            )
    if not amount.given:
        amount, rest = _with_amount_at_the_end(amount, rest)
    asides, rest = _take_asides(rest)
    brackets = [b.strip() for b in _BRACKETS.findall(rest) if b.strip()]
    rest = re.sub(r"\s+", " ", _BRACKETS.sub(" ", rest)).strip(" ,;-.")
    pieces = [p.strip(" .") for p in _SEPARATOR.split(rest) if p.strip(" .")]
    food, remarks = (pieces[0], pieces[1:]) if pieces else ("", [])
    food, variation = _with_another(food)
    variation = variation or _another_in(remarks) or _another_in(brackets)
    if not amount.given:
        amount, brackets = _amount_in_brackets(amount, brackets)
    remarks = [*remarks, *brackets, *amount.notes]
    if amount.weight is None:
        amount = _weight_from_remarks(
            amount, [*brackets, *(r for r in remarks if _WEIGHT_SAID.match(r))]
        )
    return LineParts(amount, food, tuple(remarks), asides, variation)


def _with_another(food: str) -> tuple[str, str | None]:
    """A food, and another that would do, from "canola or olive oil"."""
    match = _OR.search(food)
    if match is None:
        return food, None
    one, other = food[: match.start()].strip(), food[match.end() :].strip()
    if (
        (shared := _SHARED_NOUN.search(other))
        and len(other.split()) > 1
        and not _SHARED_NOUN.search(one)
    ):
        one = f"{one} {shared[1]}"
    return one, other


def _another_in(pieces: list[str]) -> str | None:
    """Another food that a piece names, "or olive oil", taken out of the pieces."""
    for place, piece in enumerate(pieces):
        if match := _OTHERWISE.match(piece):
            del pieces[place]
            return match["other"]
    return None


_HEDGE = re.compile(
    r"^(?:i(?:'d| would)? (?:use|add|take)|use|start with|add|try|maybe|say)\s+", re.I
)


def _with_amount_at_the_end(amount: Amount, rest: str) -> tuple[Amount, str]:
    """ "Vinegar, a splash", "parsley, chopped, a good bunch": the last piece is the amount, and
    nothing else."""
    pieces = [piece.strip() for piece in re.split(r",|\s-\s", rest)]
    for place in range(len(pieces) - 1, 0, -1):
        try:
            found, after = read_amount(_HEDGE.sub("", pieces[place]))
            if not found.given and " " not in pieces[place]:
                found, after = read_amount(f"1 {pieces[place]}")
        except BadQuantity:
            continue
        if found.given and found.unit and not after:
            return found, ", ".join(pieces[:place] + pieces[place + 1 :])
    return amount, rest


def _amount_in_brackets(amount: Amount, brackets: list[str]) -> tuple[Amount, list[str]]:
    """ "Salt (about 3/4 tsp)": the amount of a line that begins without one, and the brackets that
    are left."""
    for place, bracket in enumerate(brackets):
        try:
            inside, rest = read_amount(bracket)
        except BadQuantity:
            continue
        if inside.given and inside.unit and not rest:
            return inside, brackets[:place] + brackets[place + 1 :]
    return amount, brackets


_WEIGHT_SAID = re.compile(
    r"^(?:about|approx\.?|approximately|around|roughly|~|some)?\s*\d[\d.,]*\s*(?:k?g|oz|lbs?)\b",
    re.I,
)
_STATE_OF_WEIGHT = re.compile(
    r"(?:\s*(?:of )?(?:the )?(?:flesh|prepared|peeled|trimmed|drained|net|total|in total|in"
    r" all|altogether|when \w+"
    r"|once \w+|weight|each))+\s*$",
    re.I,
)


def _weight_from_remarks(amount: Amount, brackets: list[str]) -> Amount:
    """A weight in brackets after the food (`2 onions (about 300 g)`) wins over the count."""
    for bracket in brackets:
        inner, after = read_amount(_STATE_OF_WEIGHT.sub("", bracket))
        if inner.unit not in ("g", "kg", "oz", "lb") or after or not inner.count:
            continue
        drained = re.search(r"\bdrained\b", bracket, re.I) is not None
        if amount.unit in ("can", "jar") and not drained:
            return replace(
                amount,
                package=Stated(inner.count.count, inner.unit),
                text=f"{amount.text} ({inner.text})",
            )
        weight = Stated(inner.count.count, inner.unit, said_net(bracket))
        # What is said of the weight is kept with it: the amount is read again from these words.
        said = f"{inner.text}{' drained' if drained else ' net' if weight.net else ''}"
        if said_of_each(bracket):
            return replace(
                amount, weight=weight.of_all(amount.count), text=f"{amount.text} ({said} each)"
            )
        return replace(
            amount, weight=weight, text=f"{amount.text} ({said}{' in all' if drained else ''})"
        )
    return amount
