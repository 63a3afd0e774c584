"""What an order is done to, with and into: the phrases behind a verb, each with the share it
takes."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from fresh_ladle.core.method.stretch import number_of
from fresh_ladle.core.method.tokens import Token, words_of
from fresh_ladle.core.ranges import Range

_PREPOSITIONS = words_of(
    "with in into on onto over from for to at under through between among without around across"
    " against about within by before after near alongside using"
)
_INTO = frozenset({"in", "into", "over", "onto", "on", "through", "between", "around", "among"})
_DROPPED = words_of(
    "the a an its their your both all each well again together gently thinly finely roughly very"
    " only just then everything else of this that these those is are up down aside away back dry"
    " once twice more now also too apart lightly freshly any quickly"
)
_SHARE_WORDS = {
    "half": Range(0.5, 0.45, 0.55), "most": Range(0.8, 0.65, 0.95), "some": Range(0.4, 0.2, 0.6),
    "little": Range(0.2, 0.05, 0.4), "few": Range(0.2, 0.05, 0.4),
    "handful": Range(0.15, 0.05, 0.3),
    "third": Range(1 / 3, 0.3, 0.37), "quarter": Range(0.25, 0.22, 0.28),
    "splash": Range(0.1, 0.03, 0.2),
    "bit": Range(0.2, 0.05, 0.4),
}  # fmt: skip
_THINGS_IN_ING = frozenset(
    {"dressing", "topping", "seasoning", "filling", "boiling", "remaining", "cooking", "soaking"}
)
_LEFT_WORDS = frozenset({"rest", "remaining", "remainder", "last", "other", "others", "left"})
_UNITS = words_of(
    "tablespoon tablespoons tbsp teaspoon teaspoons tsp cup cups g gram grams kg ml l liter liters"
    " litre litres oz ounce ounces lb pound pounds spoonful spoonfuls pint pints glug dash pinch"
)


@dataclass(frozen=True, slots=True)
class Item:
    """One thing that is named: its words, and how much of it: a `share`, all that is left of it
    (`rest`), so much by a measure (`amount`, in words), or so many of it (`count`)."""

    words: tuple[str, ...]
    share: Range | None = None
    rest: bool = False
    amount: str = ""
    count: float | None = None

    @property
    def said(self) -> str:
        return " ".join(self.words)


@dataclass(frozen=True, slots=True)
class Slots:
    """The phrases of an order. `whose` are what it is done to, `with_` what comes along, `into`
    where to, `source` out of what; `purpose` the words after "for"."""

    whose: tuple[Item, ...] = ()
    with_: tuple[Item, ...] = ()
    into: tuple[Item, ...] = ()
    source: tuple[Item, ...] = ()
    purpose: str = ""
    all: bool = False
    rest: bool = False
    joins: bool = False
    """Whether it goes to what is there already, without saying what: "stir in", "scatter over",
    "lay on top"."""


_ALL = re.compile(
    r"\b(?:everything|all (?:the |of the )?ingredients|it all|them all|all of (?:it|them)|the"
    r" lot)\b"
)
_ELSE = re.compile(
    r"\b(?:everything else|(?:rest|remaining) (?:of the )?ingredients|all the rest)\b"
)


@lru_cache(maxsize=4096)
def slots_of(before: tuple[Token, ...], words: tuple[Token, ...], head: str = "") -> Slots:
    """The slots of a clause from the words before its order and those behind it. What stands after
    "to" is where it goes only for some orders: one adds to a bowl, and blends to a paste."""
    found: dict[str, list[Item]] = {"whose": [], "with": [], "into": [], "to": [], "source": []}
    purpose: list[str] = []
    for name, phrase in _phrases(words):
        if name == "for":
            purpose += [t.word for t in phrase]
        elif name == "out":
            found["source"] += _items(phrase)
        else:
            found[name] += _items(phrase)
    first, *others = _phrases(before)
    if any(t.word == ":" for t in before):
        found["whose"] += _items(first[1])
    for name, phrase in others:
        if name == "into":
            found["into"] += _items(phrase)
        elif name in ("for", "to"):
            purpose += [t.word for t in phrase]
    text = " ".join(t.word for t in words)
    return Slots(
        tuple(found["whose"]),
        tuple(found["with"]),
        tuple(found["into"] + (found["to"] if head in _TO_A_PLACE else [])),
        tuple(found["source"]),
        " ".join(purpose),
        _ALL.search(text) is not None and not _ELSE.search(text),
        _ELSE.search(text) is not None,
        _joins(words),
    )


def _joins(words: Sequence[Token]) -> bool:
    particles = [
        place for place, t in enumerate(words) if t.word in _JOINING and _is_particle(words, place)
    ]
    return bool(particles) or re.search(_TO_THE_TOP, " ".join(t.word for t in words)) is not None


def _phrases(words: Sequence[Token]) -> list[tuple[str, list[Token]]]:
    """The phrases by the slot their preposition opens; the first is what the order is done to."""
    found: list[tuple[str, list[Token]]] = [("whose", [])]
    for place, token in enumerate(words):
        word = token.word
        following = words[place + 1].word if place + 1 < len(words) else ""
        if (word == "out" and following == "of") or (word == "off" and following in ("the", "")):
            found.append(("out", []))
        elif (word in _JOINING and _is_particle(words, place)) or (
            word == "about" and _tells_how_much(following)
        ):
            continue
        elif word in _PREPOSITIONS:
            found.append((_slot(word), []))
        else:
            found[-1][1].append(token)
    return found


def _tells_how_much(word: str) -> bool:
    """Whether "about" before a word means "nearly": "about two thirds of the dressing"."""
    return word[:1].isdigit() or word in _SHARE_WORDS or word in ("a", "an", "one", "two", "three")


def _is_particle(words: Sequence[Token], place: int) -> bool:
    """Whether "in" belongs to the verb: "stir in the oil", "scatter them over", "fold the feta
    through"."""
    behind = words[place + 1] if place + 1 < len(words) else None
    if place == 0 or behind is None:
        return True
    return (behind.is_mark and behind.word != "(") or behind.word in (
        "with",
        "for",
        "last",
        "while",
        "at",
        "together",
    )


def _slot(word: str) -> str:
    if word in ("with", "using", "alongside"):
        return "with"
    if word == "to":
        return "to"
    if word in _INTO:
        return "into"
    if word == "from":
        return "source"
    return "for"


_JOINING = frozenset({"in", "over", "through", "into", "on"})
_TO_THE_TOP = re.compile(
    r"\b(?:on|over) (?:the )?top\b|\bover (?:each |every |the"
    r" )?(?:plates?|bowls?|portions?|servings?)\b"
)
_TO_A_PLACE = frozenset({"add", "return", "transfer", "move"})
_SPLIT = frozenset({",", "and", "then", "plus", "&", "+", ";"})


def _items(words: Sequence[Token]) -> list[Item]:
    found: list[Item] = []
    part: list[str] = []
    for token in words:
        if token.word in _SPLIT:
            _add(found, part)
            part = []
        elif not token.is_mark:
            part.append(token.word)
    _add(found, part)
    return found


def _add(found: list[Item], words: list[str]) -> None:
    if words and not _goes_on(words) and (item := item_of(words)) is not None:
        found.append(item)


def _goes_on(words: Sequence[str]) -> bool:
    """ "Whisking hard", "what it gives": no thing that is named."""
    return words[0] == "what" or (
        words[0].endswith("ing") and len(words[0]) > 6 and words[0] not in _THINGS_IN_ING
    )


_LEFT_OVER = re.compile(r"\b(?:rest|remaining|remainder|last of|others?|what is left|left over)\b")
_ALL_BUT = re.compile(
    r"all but (?:an?|the|\w+) (?:\w+ )?(?:spoonfuls?|tablespoons?|little|handful)(?: of)?\b"
)
_FRACTION = re.compile(r"(?:an? |about |the )?(two|three|one|a|\d)[ -](thirds?|quarters?)\b")
_COUNTED = re.compile(
    r"(?:about )?(\d+(?: \d/\d)?|\d/\d|an?|one|two|three|four|five|six) (\w+)\b(?: of\b)?"
)
ALL_BUT_A_LITTLE = Range(0.9, 0.8, 0.97)


def item_of(words: Sequence[str]) -> Item | None:
    """One thing with how much of it is meant; None where only filling words are left."""
    text = " ".join(words)
    if _LEFT_OVER.search(text):
        found = Item(tuple(w for w in words if w not in _LEFT_WORDS), rest=True)
    elif match := _ALL_BUT.match(text):
        found = Item(tuple(text[match.end() :].split()), ALL_BUT_A_LITTLE)
    elif match := _FRACTION.match(text):
        part = number_of(match[1]) / (3 if match[2].startswith("third") else 4)
        found = Item(
            tuple(text[match.end() :].split()), Range(part, part * 0.95, min(1.0, part * 1.05))
        )
    else:
        found = _counted(text) or _in_words(words)
    kept = tuple(w for w in found.words if w not in _DROPPED and not w[0].isdigit())
    found = replace(found, words=kept)
    return None if found == Item(()) else found


def _counted(text: str) -> Item | None:
    """ "2 tablespoons of the oil", "a handful of leaves", "one onion"; None where no amount stands
    first."""
    match = _COUNTED.match(text)
    if match is None:
        return None
    rest = tuple(text[match.end() :].split())
    if match[2] in _UNITS:
        return Item(rest, amount=f"{number_of(match[1]):g} {match[2]}")
    if match[2] in _SHARE_WORDS and match[2] not in ("third", "quarter"):
        return Item(rest, _SHARE_WORDS[match[2]])
    if match[1] in ("a", "an"):
        return None
    return Item(tuple(text[match.start(2) :].split()), count=number_of(match[1]))


def _in_words(words: Sequence[str]) -> Item:
    """ "Half the lemon", "most of the dressing", or just the thing."""
    for word in ("half", "most", "some"):
        if word in words[:2] and len(words) > 1:
            return Item(tuple(words[words.index(word) + 1 :]), _SHARE_WORDS[word])
    return Item(tuple(words))
