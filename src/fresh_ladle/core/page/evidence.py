"""What speaks for a line of a page being one thing or another: signs of its own, and of those
beside it."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.units import read_unit
from fresh_ladle.core.amounts.yields import Yield, measure_alone, read_yield
from fresh_ladle.core.page import vocabulary as said
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.recipes.region import Region

Knows = Callable[[str], bool]
"""Whether a phrase is just the name of a food."""


@dataclass(frozen=True, slots=True)
class PageLine:
    """A line as it stands, with whether a blank one stands before and after it, and its row in the
    text."""

    text: str
    plain: str
    blank_before: bool
    blank_after: bool
    row: int


def text_rows(text: str) -> list[str]:
    """The rows of a text, blank ones and marked ones alike."""
    return re.split(r"\r\n|[\r\n]|<br\s*/?>|</(?:li|p|div|h\d)>", text)


def page_lines(text: str) -> list[PageLine]:
    """The lines of a text that say anything."""
    rows = enumerate(_columns(row) for row in text_rows(text))
    kept = [
        (n, row.strip(" "), plain) for n, row in rows if (plain := plain_line(row)).strip("#*-_=~ ")
    ]
    numbers = {number for number, _, _ in kept}
    return [
        PageLine(row, plain, n - 1 not in numbers, n + 1 not in numbers, n)
        for n, row, plain in kept
    ]


_CELL = re.compile(rf"(?:about )?{said.NUMBER}\s*{said.UNIT}?", re.I)


def _columns(row: str) -> str:
    """A row of a table drawn with bars, with tabs in their place; "Home | Recipes" is none."""
    cells = [cell.strip() for cell in row.strip("| ").split("|")]
    return "\t".join(cells).rstrip() if any(_CELL.fullmatch(cell) for cell in cells[1:]) else row


def yield_said(plain: str, region: Region = Region.US) -> Yield | None:
    """What a line says the recipe makes, alone or beside something else."""
    parts = (part.strip() for part in re.split(r"[.|•·;,]|\s{2,}", plain))
    found = (read_yield(part, region) for part in (plain, *parts) if part)
    return next((one for one in found if one is not None), None) or measure_alone(plain, region)


ALL = frozenset(LineKind)
WORDS_OF_PAGES = frozenset({LineKind.LIST, LineKind.METHOD})
FEW_WORDS = 2
NAME_WORDS = 3
LONG_LINE = 20
"""Characters from which on a line may have been broken off."""


def possible_kinds(lines: Sequence[PageLine]) -> list[frozenset[LineKind]]:
    """What each line can be: just what it says of itself where it is marked so; nothing to eat
    above the word that says where the list begins; sentences of work under the word that says where
    that begins, unless they look otherwise; no title below amounts, and nothing to do below
    notes."""
    goes_on = _may_be_broken_off if _is_broken(lines) else _surely_broken_off
    found = [
        _possible(line)
        | ({LineKind.MORE} if place and goes_on(lines[place - 1], line) else frozenset())
        for place, line in enumerate(lines)
    ]
    listed = next((n for n, kinds in enumerate(found) if kinds == {LineKind.LIST}), None)
    all_above = listed is not None and not _lists_food(lines[:listed])
    in_method, begun, over, amounts = False, False, False, 0
    for place, line in enumerate(lines):
        if amounts > 1 and not line.text.startswith("#"):
            found[place] -= {LineKind.TITLE}
        if not in_method and len(_bare(line).split()) <= FEW_WORDS and not line.plain.endswith("."):
            # A bare "salt" is to be eaten, though it could be an order.
            found[place] -= {LineKind.STEP}
        measured = _is_measured(line)
        if measured and not amounts and _counts_in_its_name(line):
            found[place] = frozenset({LineKind.TITLE, LineKind.NOTE, LineKind.AROUND})
            continue
        amounts += measured
        begun = begun or amounts > 1 or found[place] == {LineKind.METHOD}
        over = over or (begun and said.AFTERWARDS.match(_bare(line)) is not None)
        over = over and not found[place] & WORDS_OF_PAGES
        if over:
            # Below "Notes" and the like nothing is done any more.
            in_method = False
            found[place] -= (
                {LineKind.STEP} if measured else {LineKind.STEP, LineKind.ITEM, LineKind.HEADING}
            )
        if found[place] & WORDS_OF_PAGES:
            in_method = LineKind.METHOD in found[place]
        elif all_above and place < (listed or 0) and not in_method:
            found[place] -= {LineKind.ITEM, LineKind.STEP}
        elif in_method and line.plain.endswith(".") and not _looks_otherwise(line):
            found[place] -= {LineKind.NOTE, LineKind.AROUND, LineKind.TITLE, LineKind.TIME}
    return found


def _lists_food(above: Sequence[PageLine]) -> bool:
    """Whether amounts stand above the word already: then that says nothing of where they begin."""
    return sum(map(_is_measured, above)) > 1


def _is_measured(line: PageLine) -> bool:
    """Whether a line begins with an amount that is not what the recipe makes."""
    return _begins_with_amount(_bare(line)) and yield_said(line.plain) is None


def _counts_in_its_name(line: PageLine) -> bool:
    """Whether a line above all amounts begins with a number that measures nothing and ends as a
    dish is called: "Three bean salad", "Half and half dip". A "1 batch pesto" is one of those too
    few to be a name."""
    bare = _bare(line)
    try:
        count, rest = read_quantity(bare)
    except BadQuantity:
        return False
    last = bare.split()[-1].rstrip("!") if len(bare.split()) >= NAME_WORDS else ""
    named = (
        count is not None and read_unit(rest)[0] is None and said.DISH.fullmatch(last) is not None
    )
    return named and not said.WHOLE_RECIPE.match(rest)


def _looks_otherwise(line: PageLine) -> bool:
    """Whether a line under the method shows a sign of not being work."""
    plain = _bare(line)
    signs = (said.NOTE_WORD, said.AFTERWARDS, said.AROUND, said.GREETING, said.TIME)
    figures = len(said.NUTRITION.findall(plain)) > 1 and any(c.isdigit() for c in plain)
    asks = plain.endswith(("!", "?"))
    return (
        figures
        or asks
        or bool(said.SIGNS.search(line.text))
        or any(sign.search(plain) for sign in signs)
    )


def _possible(line: PageLine) -> frozenset[LineKind]:
    bare = _bare(line)
    if re.match(r"^\s*#{1,6}\s", line.text):
        return frozenset(
            {LineKind.HEADING if line.text.lstrip().startswith("##") else LineKind.TITLE}
        )
    if said.LIST_WORD.match(bare):
        return frozenset({LineKind.LIST})
    if said.METHOD_WORD.match(bare):
        return frozenset({LineKind.METHOD})
    if said.SWITCHES.match(bare) or (said.THING.match(bare) and not bare.endswith(".")):
        return frozenset({LineKind.AROUND})
    headed = said.SHORT_HEADING.match(bare) or said.HEADED.match(bare)
    never = {LineKind.ITEM, LineKind.STEP} if headed else set()
    tells = bare.endswith(":") or len(said.SENTENCE_ENDS.findall(said.BRACKETS.sub("", bare))) > 1
    never |= {LineKind.ITEM} if tells else set()
    if yield_said(line.plain) is None:
        never |= {LineKind.YIELD}
        if (
            _begins_with_amount(bare)
            and not tells
            and not re.match(r"^\W*\d{1,2}[.)]\s", line.text)
        ):
            never |= {LineKind.TITLE, LineKind.NOTE, LineKind.HEADING}
            never |= set() if _looks_otherwise(line) else {LineKind.AROUND}
    if not said.TIME.search(bare):
        never |= {LineKind.TIME}
    if bare.endswith("."):
        never |= {LineKind.TITLE, LineKind.HEADING}
    return ALL - WORDS_OF_PAGES - never - {LineKind.MORE}


_OPEN = re.compile(
    r"(?:[a-z]-|[,;]|\b(?:and|or|with|of|the|an?|to|for|in|at|into|until|from|on|by|plus|least|fresh(?:ly)?|finely))$",
    re.I,
)
"""How a line ends that was broken off for sure."""
_GOING_ON = re.compile(r"^(?:and|or|with|in|into|until)\b|^\d+ (?:minutes|hours?|min)\b")
FEW = 2
"""So many lines that were broken off for sure make a page whose lines are broken by its width."""


def _is_broken(lines: Sequence[PageLine]) -> bool:
    """Whether the lines of a page end where its width ended, as in a scan."""
    return sum(_surely_broken_off(before, line) for before, line in pairwise(lines)) >= FEW


def _surely_broken_off(before: PageLine, line: PageLine) -> bool:
    if line.blank_before or re.match(r"[a-z]|\d+ (?:minutes|hours?|min)\b", line.plain) is None:
        return False
    return bool(_OPEN.search(before.plain)) or (
        len(before.plain) >= LONG_LINE and bool(_GOING_ON.match(line.plain))
    )


def _may_be_broken_off(before: PageLine, line: PageLine) -> bool:
    open_end = len(before.plain) >= LONG_LINE and re.search(r"[\w,;-]$", before.plain) is not None
    return open_end and re.match(r"[a-z]|\d+ (?:minutes|hours?|min)\b", line.plain) is not None


def _bare(line: PageLine) -> str:
    return line.plain.strip("*_#= ")


def evidence(lines: Sequence[PageLine], knows: Knows) -> list[frozenset[str]]:
    """The signs of every line, with those of its neighbors."""
    bare = [_bare(line) for line in lines]
    said_before, measured = list[str](), False
    own: list[set[str]] = []
    for place, line in enumerate(lines):
        signs = _signs_alone(line, bare[place], knows) | _signs_of_place(line, place, len(lines))
        if bare[place].lower() in said_before:
            signs.add("said before")
        if bare[place].lower() in (other.lower() for other in bare[place + 1 :]):
            signs.add("said again")
        if not measured and _counts_in_its_name(line):
            signs.discard("amount first")
        if not measured:
            # What stands above all amounts is another thing than the same words below.
            signs |= {"nothing before", *(f"above all: {sign}" for sign in signs & _AT_THE_TOP)}
        measured = measured or "amount first" in signs
        said_before.append(bare[place].lower())
        own.append(signs)
    return [
        frozenset(
            own[n]
            | {f"before: {sign}" for sign in (own[n - 1] if n else ()) if sign in _TELLING}
            | {
                f"after: {sign}"
                for sign in (own[n + 1] if n + 1 < len(own) else ())
                if sign in _TELLING
            }
        )
        for n in range(len(own))
    ]


_TELLING = frozenset(
    ("amount first", "verb first", "bullet", "full stop", "heading mark", "list word",
    "method word", "ends open",
     "ends in a hyphen", "tells", "amount last", "capitals", "colon", "loose amount",
     "blank before")
)  # fmt: skip
"""Signs of a neighbor that count."""


def _signs_alone(line: PageLine, plain: str, knows: Knows) -> set[str]:
    """What a line shows by itself."""
    raw = line.text.strip()
    words = re.findall(r"[^\W\d_][\w'’-]*", plain)
    lowered = [word.lower() for word in words]
    begins = next((word for word in lowered if word not in said.CONNECTIVES), "")
    tests = {
        "amount first": _begins_with_amount(plain),
        "verb first": begins in said.VERBS,
        "verb first of all": bool(lowered) and lowered[0] in said.VERBS,
        "verb within": any(word in said.VERBS for word in lowered[1:]),
        "yields": yield_said(plain) is not None,
        "is a food": knows(re.split(r"[,(]", plain)[0]),
        "are foods": _are_foods(plain, knows),
        "of a part": (
            bool(lowered)
            and all(w in said.PARTS or w in ("for", "the", "to", "with") for w in lowered)
        ),
        "ends like a part": bool(lowered) and lowered[-1] in said.PARTS,
        "capitals": plain.isupper() and len(words) > 0,
        "title case": (
            len(words) > 1 and sum(word[0].isupper() for word in words) >= 0.6 * len(words)
        ),
        "small first": bool(words) and plain[:1].islower(),
        "figures of food": (
            len(said.NUTRITION.findall(plain)) > 1 and any(c.isdigit() for c in plain)
        ),
        "ends open": not re.search(r"[.!?:)]$", plain),
        _length(len(words)): True,
    }
    signs = {name for name, holds in tests.items() if holds}
    signs |= {name for name, holds in _PATTERNS if holds.search(plain)}
    return signs | {name for name, holds in _RAW_PATTERNS if holds.search(raw)}


def _are_foods(plain: str, knows: Knows) -> bool:
    """Whether a line lists foods and nothing else: "salt and black pepper"."""
    pieces = [piece.strip() for piece in re.split(r",|\band\b|&|\+", plain) if piece.strip()]
    return 1 < len(pieces) <= 4 and all(knows(piece) for piece in pieces)


def _signs_of_place(line: PageLine, place: int, count: int) -> set[str]:
    """What the place of a line shows."""
    tests = {
        "blank before": line.blank_before,
        "blank after": line.blank_after,
        "first": place == 0,
        "second": place == 1,
        "last": place == count - 1,
        "early": place < max(4, count // 5),
        "late": place > count * 0.6,
    }
    return {name for name, holds in tests.items() if holds}


_AT_THE_TOP = frozenset(
    ("a dish", "around", "title case", "capitals", "full stop", "said before", "said again",
    "tells", "first person",
     "colon within", "signs", "greeting", "two or three words", "some words", "a line of words",
     "yields", "time")
)  # fmt: skip
_PATTERNS = (
    ("measured", said.MEASURED),
    ("amount last", said.AMOUNT_LAST),
    ("loose amount", said.LOOSE),
    ("as liked", said.AS_LIKED),
    ("note word", said.NOTE_WORD),
    ("first person", said.FIRST_PERSON),
    ("tells", said.TELLS),
    ("of work", said.OF_WORK),
    ("greeting", said.GREETING),
    ("a dish", said.DISH),
    ("prepared", said.PREPARED),
    ("time", said.TIME),
    ("headed", said.HEADED),
    ("list word", said.LIST_WORD),
    ("method word", said.METHOD_WORD),
    ("around", said.AROUND),
    ("switch", said.SWITCHES),
    ("afterwards", said.AFTERWARDS),
    ("full stop", re.compile(r"\.[\"”')]*$")),
    ("several sentences", re.compile(r"[a-z)][.!?] +[A-Z]")),
    ("colon", re.compile(r":$")),
    ("colon within", re.compile(r"^[^:]{2,25}: \S")),
    ("asks or calls", re.compile(r"[!?]$")),
    ("comma", re.compile(r",")),
    ("bracket", re.compile(r"\(")),
    ("only a number", re.compile(r"^\W*\d+\W*$")),
    ("ends in a hyphen", re.compile(r"[a-z]-$")),
)
_RAW_PATTERNS = (
    ("signs", said.SIGNS),
    ("bullet", re.compile(r"^\s*(?:[*•·▢☐□▪◦‣]|[-–+]\s|\[\s?\])")),
    ("numbered", re.compile(r"^\s*\W{0,2}\d{1,2}(?:[.)]\s|\s+(?=[A-Z][a-z]+ ))")),
    ("step word", re.compile(r"^\W*step \d", re.I)),
    ("heading mark", re.compile(r"^\s*(?:#{1,6}\s|\*\*|__)")),
    ("tabs", re.compile(r"\t")),
)


def _begins_with_amount(plain: str) -> bool:
    try:
        return read_quantity(plain)[0] is not None
    except BadQuantity:
        return True


def _length(words: int) -> str:
    for most, name in (
        (1, "a word"),
        (3, "two or three words"),
        (6, "some words"),
        (12, "a line of words"),
    ):
        if words <= most:
            return name
    return "many words"
