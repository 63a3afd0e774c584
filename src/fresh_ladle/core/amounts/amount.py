"""Reads the amount that opens a line: how many, of what unit, what size, in what package, at what
stated weight."""

from __future__ import annotations

import re
from dataclasses import dataclass, field, replace
from functools import lru_cache

from fresh_ladle.core.amounts.clean import plain_words
from fresh_ladle.core.amounts.quantity import BadQuantity, Quantity, read_quantity
from fresh_ladle.core.amounts.units import (
    CONTAINERS,
    SIZES,
    VESSELS,
    grams_in,
    millilitres,
    read_unit,
)
from fresh_ladle.core.ranges import Range

_PART = re.compile(
    r"^(?:the\s+)?(?:freshly\s+|fresh\s+)?(?:finely\s+)?(?:grated\s+|squeezed\s+)?"
    r"(juice|zest|rind|peel)\s+(?:(?:of|from)\s+(?:the\s+)?|(?=\d|half\b|an?\b|one\b|two\b))",
    re.I,
)
_MEASURED = r"(\d+(?:[.,]\d+)?(?:\s*-\s*\d+(?:[.,]\d+)?)?|\d+\s+\d+/\d+|\d+/\d+)\s*-?\s*"
_PACKAGE = re.compile(
    rf"^(?:x\s*)?{_MEASURED}(fl oz|oz|ounces?|g|grams?|kg|ml|lbs?|pounds?|l|liters?|litres?)\b\.?[-"
    r" ]*(?:size\s+)?"
    r"(?=(?:can|cans|tin|tins|jar|jars|bottle|bottles|package|packages|packet|packets|pkg|pack|packs|bag|bags|box|"
    r"boxes|carton|cartons|container|containers|tub|tubs|pot|pots|pouch|block|blocks|punnet|ball|log)\b)",
    re.I,
)
_X_SIZE = re.compile(rf"^x\s*{_MEASURED}(oz|g|kg|ml|lb)\b\.?\s*", re.I)
_INCHES = re.compile(
    r"^[- ]*(?:(\d+(?:/\d+|\.\d+)?)[- ]?)?(inch|in\.|\"|cm)"
    r"[- ]*(?:long\s+)?(?:pieces?|knobs?|chunks?|slices?)?\s*(?=of\b|[a-z]|$)",
    re.I,
)
_THUMB = re.compile(r"^thumb(?:[- ]?sized?)?(?:\s+(?:piece|knob))?\b", re.I)
_A_LITTLE = re.compile(
    r"^(?:just |only )?(?P<word>an? (?:tiny |little |wee |good"
    r" )?(?:little|bit|touch|tad|smidge(?:n)?)(?: bit)?|some)"
    r"(?: of)?(?: the)?(?=\s|$)(?! (?:gems?\b|\d))",
    re.I,
)
_TIMES = re.compile(r"^([\d./ ]+?)\s*[x×]\s+(?=an?\b|some\b)", re.I)
"""How an amount without a unit is written when it is scaled: "2 × a little"."""
_JOINED = re.compile(r"^(?:plus|\+|and|&)\s+(?=[\d]|a\b|an\b|one\b|half\b)", re.I)
_SAME_AGAIN = re.compile(
    r"^/\s*(?:\d+\s+)?\d+(?:[./]\d+)?\s*(?P<unit>cups?|tbsps?|tsps?|tablespoons?|teaspoons?|fl"
    r" oz)\b",
    re.I,
)
"""The same amount once more, in other spoons: "240 ml/1 cup"."""
_ONE_HOLDS = re.compile(
    r"^(?:(?:the|each|a|one) )?(?:jar|can|tin|tub|pack|packet|pot|carton|box|bottle|bag)s?"
    r" (?:is|are|of|=|holds?) ",
    re.I,
)
"""What a bracket says before the size of one: "(jar is 300 g)"."""
_WHOLE_BRACKET = re.compile(r"^\(([^()]*)\)\s*")


@dataclass(frozen=True, slots=True)
class Stated:
    """A size the cook gave in grams or millilitres, such as the 15 oz of a can; `net` where it is
    said of what was left after peeling, draining and the like."""

    size: Range
    unit: str
    net: bool = False

    @property
    def grams(self) -> Range | None:
        factor = grams_in(self.unit)
        return self.size.scaled(factor) if factor else None

    def of_all(self, count: Quantity | None) -> Stated:
        """The size of so many, where this is the size of each."""
        return replace(self, size=self.size.times(count.count)) if count else self


_NET = re.compile(
    r"\b(?:flesh|prepared|peeled|trimmed|net|drained|shelled|pitted|stoned|cleaned|boned|cooked|picked|edible|meat"
    r"|(?:when|once|after) \w+)\b",
    re.I,
)


def said_net(bracket: str) -> bool:
    """Whether a weight is said of what is left after trimming: "2 mangoes (300 g flesh)"."""
    return _NET.search(bracket) is not None


def said_of_each(bracket: str) -> bool:
    """Whether a weight in brackets is that of each one: "2 breasts (150 g each)"."""
    return re.search(r"\b(?:each|apiece)\b", bracket, re.I) is not None


@dataclass(frozen=True, slots=True)
class Amount:
    """An amount as read. `text` is the cook's own wording; `count` is None when none was given.

    `part` is `juice` or `zest` for "juice of 2 limes"; `package` the size of one can or pack;
    `weight` a weight given beside a measure, which then wins; `added` holds "plus 2 tsp"."""

    text: str
    count: Quantity | None = None
    unit: str | None = None
    size: str | None = None
    fill: str | None = None
    part: str | None = None
    package: Stated | None = None
    weight: Stated | None = None
    added: tuple[Amount, ...] = ()
    notes: tuple[str, ...] = field(default=())

    @property
    def given(self) -> bool:
        return self.count is not None or self.unit is not None


def _stated(text: str) -> Stated | None:
    """`15 oz`, `about 425 g`, `15 oz / 425 g` (the metric one wins); None when it is something
    else."""
    best: Stated | None = None
    for piece in re.split(r"\s*(?:(?<!\d)/|/(?!\d)|;|,|\bor\b|\|)\s*", text.strip()):
        piece = re.sub(
            r"^(?:about|approx\.?|approximately|ca\.?|roughly|around|~)\s*", "", piece, flags=re.I
        )
        piece = _ONE_HOLDS.sub("", piece)
        piece = re.sub(
            r"\s*(?:each|net|drained weight|total|in total|in all)$", "", piece, flags=re.I
        )
        quantity, rest = read_quantity(
            piece.replace("-", " - ") if re.match(r"^\d+-\d", piece) else piece
        )
        unit, after = read_unit(rest.lstrip("- "))
        if quantity is None or unit is None or after:
            continue
        if not (grams_in(unit) or millilitres(unit)):
            continue
        found = Stated(quantity.count, unit, said_net(text))
        if best is None or (unit in ("g", "kg") and best.unit not in ("g", "kg")):
            best = found
    return best


def read_amount(text: str) -> tuple[Amount, str]:
    """The amount at the start of a plain line and what follows it.

    Raises BadQuantity for a quantity that cannot be (negative, divided by zero).
    """
    rest, part = text, None
    times = _TIMES.match(text)
    if (match := _A_LITTLE.match(text[times.end() :] if times else text)) and (
        times or not _counts_a_unit(text[match.end() :])
    ):
        end = (times.end() if times else 0) + match.end()
        count, _ = read_quantity(times[1]) if times else (None, "")
        unit = "some" if match["word"].lower() == "some" else "little"
        return Amount(text[:end], count or Quantity(Range.exact(1)), unit), text[end:].strip()
    if match := _PART.match(rest):
        part = "juice" if match[1].lower() == "juice" else "zest"
        rest = rest[match.end() :]
    count, rest = read_quantity(rest)
    if part and count is None:
        article = re.match(r"^(?:an?|the|some)\s+", rest, re.I)
        rest = rest[article.end() :] if article else rest
    amount = Amount(text="", count=count, part=part)
    amount, rest = _read_size_and_unit(amount, rest)
    if amount.count is None and (amount.unit is not None or part):
        amount = replace(amount, count=Quantity(Range.exact(1)))
    amount, rest = _read_additions(amount, rest)
    rest = re.sub(r"^of\s+(?:the\s+)?", "", rest, flags=re.I)
    used = text[: len(text) - len(rest)].strip() if rest else text.strip()
    used = re.sub(r"\s+of(?:\s+the)?$", "", used, flags=re.I)
    return replace(amount, text=used if amount.given else ""), rest.strip()


def _counts_a_unit(rest: str) -> bool:
    """Whether a unit follows: "a little handful of parsley" is a small handful, not a little of
    something."""
    return read_unit(rest.strip())[0] is not None


def _read_size_and_unit(amount: Amount, rest: str) -> tuple[Amount, str]:
    """Size words, a package size, brackets and the unit, in whatever order the cook put them."""
    for _ in range(6):
        before = rest
        if match := _WHOLE_BRACKET.match(rest):
            amount, rest = _take_bracket(amount, match[1], rest[match.end() :])
        elif (taken := _package_or_length(amount, rest)) or (taken := _size_word(amount, rest)):
            amount, rest = taken
        elif amount.unit is None:
            unit, after = read_unit(rest)
            # "Glass noodles" are not a glass of noodles.
            if unit not in VESSELS or amount.count is not None:
                amount, rest = replace(amount, unit=unit), after
        elif (
            amount.count
            and grams_in(amount.unit)
            and (container := read_unit(rest))[0] in CONTAINERS
        ):
            # "400 g tin of beans": the weight is the size of one tin.
            stated = Stated(amount.count.count, amount.unit)
            amount = replace(
                amount, count=Quantity(Range.exact(1)), unit=container[0], package=stated
            )
            rest = container[1]
        elif amount.unit and (
            match := re.match(r"^/\s*([\d./ ]+\s*(?:g|kg|ml|oz|lb)\b)\.?", rest, re.I)
        ):
            amount, rest = replace(amount, weight=_stated(match[1])), rest[match.end() :].strip()
        elif amount.unit and (match := _SAME_AGAIN.match(rest)) and read_unit(match["unit"])[0]:
            rest = rest[match.end() :].strip()
        if rest == before:
            break
    return amount, rest


def _package_or_length(amount: Amount, rest: str) -> tuple[Amount, str] | None:
    """The size of one package, a thumb or a length at the start of what is left, as long as no unit
    was read."""
    if amount.unit is not None:
        return None
    if match := _THUMB.match(rest):
        return replace(amount, unit="knob"), rest[match.end() :].strip()
    if amount.count is None:
        return None
    if match := _PACKAGE.match(rest) or _X_SIZE.match(rest):
        return (
            replace(amount, package=_stated(f"{match[1]} {match[2]}")),
            rest[match.end() :].strip(),
        )
    if match := _INCHES.match(rest):
        return _take_length(amount, match), rest[match.end() :].strip()
    return None


def _size_word(amount: Amount, rest: str) -> tuple[Amount, str] | None:
    """A size word such as `large` or `heaping`, where a count came before it or a unit comes after
    it."""
    word = re.match(r"^([a-z-]+)\b,?\s*", rest, re.I)
    if word is None or word[1].lower() not in SIZES or re.match(r"fat[- ]free\b", rest, re.I):
        return None
    after = rest[word.end() :]
    if not amount.count and not read_unit(after)[0]:
        return None
    return _take_size(amount, SIZES[word[1].lower()]), after


def _drained(inside: str) -> Stated | None:
    """The drained weight that a bracket gives: "(400 g, 240 g drained)"."""
    pieces = [
        piece for piece in re.split(r"[,;/]", inside) if re.search(r"\bdrained\b", piece, re.I)
    ]
    found = (
        _stated(re.sub(r"\bdrained\b(?: weight)?:?", "", piece, flags=re.I).strip())
        for piece in pieces
    )
    return next(
        (replace(one, net=True) for one in found if one is not None and one.grams is not None), None
    )


def _take_bracket(amount: Amount, inside: str, rest: str) -> tuple[Amount, str]:
    if (drained := _drained(inside)) is not None:
        whole = re.search(r"\b(?:total|in all|altogether|together)\b", inside, re.I)
        return replace(amount, weight=drained if whole else drained.of_all(amount.count)), rest
    stated = _stated(inside)
    if stated is None:
        return replace(amount, notes=(*amount.notes, inside.strip())), rest
    container_follows = amount.unit is None and read_unit(rest)[0] in CONTAINERS
    # "1/2 block (about 100 g)" tells what was used; "1/2 block (200 g)" and "2 cans (15 oz)" the
    # size of one.
    share_weighed = (
        amount.count is not None
        and amount.count.count.value < 1
        and re.match(r"about|approx|~|ca\b", inside)
    )
    if (container_follows or amount.unit in CONTAINERS) and not share_weighed:
        return replace(amount, package=stated), rest
    if amount.unit and grams_in(amount.unit) and stated.grams is None:
        # "2 oz (about 1/2 cup)": the weight was given already.
        return replace(amount, notes=(*amount.notes, inside.strip())), rest
    return (
        replace(amount, weight=stated.of_all(amount.count) if said_of_each(inside) else stated),
        rest,
    )


def _take_length(amount: Amount, match: re.Match[str]) -> Amount:
    length = 1.0
    if match[1]:
        top, _, bottom = match[1].partition("/")
        length = float(top) / float(bottom or 1)
    unit = "cm piece" if match[2].lower() == "cm" else "inch piece"
    assert amount.count is not None
    count = replace(amount.count, count=amount.count.count.scaled(length))
    return replace(amount, count=count, unit=unit)


def _take_size(amount: Amount, size: str) -> Amount:
    if size in ("heaping", "rounded", "scant"):
        return replace(amount, fill=size)
    if size == "level":
        return amount
    return replace(amount, size=size)


def _read_additions(amount: Amount, rest: str) -> tuple[Amount, str]:
    while amount.unit and (match := _JOINED.match(rest)):
        count, after = read_quantity(rest[match.end() :])
        unit, after = read_unit(after)
        if count is None or unit is None or not (millilitres(unit) or grams_in(unit)):
            break
        amount = replace(amount, added=(*amount.added, Amount(text="", count=count, unit=unit)))
        rest = after
    return amount, rest


@lru_cache(maxsize=4096)
def parse_amount(text: str) -> Amount:
    """Reads an amount typed on its own, such as `1 1/2 Tbsp` or `30 g`.

    Raises BadQuantity when it is not an amount, or when something is left over that is not part of
    one."""
    amount, rest = read_amount(plain_words(text))
    rest = re.sub(
        r"^(?:of|chopped|sliced|diced|grated|packed|mashed|crumbled|shredded)$",
        "",
        rest,
        flags=re.I,
    )
    if not text.strip():
        raise BadQuantity(
            "no amount was given: write for example 2 tbsp or 30 g, or remove the line"
        )
    if not amount.given:
        raise BadQuantity(
            f"{text.strip()!r} is not an amount: write for example 2 tbsp, 30 g, 1/2 cup or 3"
            " cloves"
        )
    if rest:
        raise BadQuantity(
            f"{rest!r} is not a known unit: write for example tsp, tbsp, cup, g, clove or can"
        )
    if amount.count and amount.count.count.value > 100_000:
        raise BadQuantity(
            f"{amount.count.count.value:,.0f} is more than a kitchen can hold; check the number"
        )
    return amount
