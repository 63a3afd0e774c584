"""A sentence as clauses: where a cook gives an order, and what is only said beside it.

A verb is an order where one can stand: at the beginning, after a comma, after "and" or "then",
after "let it" and "leave it to". What follows "until", "when", "so that" is no order but its sign;
what begins with "if" is a condition."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from fresh_ladle.core.method.lexicon import Lexicon
from fresh_ladle.core.method.names import MIXES
from fresh_ladle.core.method.tokens import Token, stem, tokens_of, words_of


class Sort(StrEnum):
    """What a clause is for."""

    WORK = "work"
    CONDITION = "condition"
    ADVICE = "advice"
    NOTE = "note"
    UNREAD = "unread"


@dataclass(frozen=True, slots=True)
class Clause:
    """One clause. `head` is the word of its order, `words` its tokens after the head, `before`
    those before it that say where or when ("in a bowl", "for the dressing"); `sign` is the end of
    the work."""

    text: str
    sort: Sort
    head: str = ""
    words: tuple[Token, ...] = ()
    before: tuple[Token, ...] = ()
    sign: str = ""
    shared: bool = False
    """Whether the next order is done to the same things: "pick and chop the parsley"."""


_DETERMINERS = words_of(
    "the it them they this these those that each both all half everything a an any some one two"
    " three another its their your"
)
_PARTICLES = words_of(
    "in into on onto over off up out aside away through with together well again for to under"
    " around down back dry between from until at thinly finely roughly coarsely gently briefly"
    " overnight lightly very as hard once twice immediately by everything separately occasionally"
    " straight fresh"
)
_ADVERBS = words_of(
    "then first next finally lastly now also just again meanwhile please gently lightly finely"
    " roughly coarsely thinly slowly quickly carefully well thoroughly immediately afterwards"
    " briefly simply so very only last straight still generously evenly loosely firmly lengthwise"
    " crosswise"
)
_CONNECTIVES = frozenset({"and", "then", "but"})
_BOUNDARY = frozenset(",;:–—-(") | {"."}
_SUBORDINATE = words_of(
    "until till when once while as because if unless which so where whenever before after since"
    " though although whether that who"
)
_ASIDE_BEHIND = re.compile(r"\s*\([^()]*\)")
_SIGNS = frozenset({"until", "till", "so", "when", "once"})
"""What opens the end of a work, or what it is for."""
_ENDS_ORDER = frozenset({"while", "which", "because", "as"})
_FRONTED = words_of(
    "in on off for with at next the after before once when while as to from using over"
)
_LETTING = frozenset({"let", "leave", "allow", "set", "put"})
_NEGATED = re.compile(
    r"^(?:do not|don'?t|never|avoid|be careful|take care|no need|you (?:do not|don'?t) need)\b",
    re.I,
)
_CONDITION = re.compile(
    r"^(?:if|unless|for (?:an? )?[\w -]{0,20}(?:version|babies|children)|to make it|for those"
    r" who|in case)\b",
    re.I,
)
_IF_AFTER = re.compile(r"\b(?:if|unless|only when)\s+(?!using\b)\w+", re.I)
_KEEPING = re.compile(
    r"\b(?:keeps?|kept|holds?|freez\w*|lasts?|leftovers?|stor(?:e|es|ed|ing)|best"
    r" (?:eaten|fresh|on|within|the)|"
    r"(?:better|even better|good) (?:the )?(?:next|following|second)|ahead|in advance|does not"
    r" keep|goes? soggy|"
    r"refrigerat\w+ (?:for )?up to|goes? (?:well )?with|serves?\b|before each use|each"
    r" time|whenever|any left|"
    r"delicious with|good (?:with|for)|within the (?:hour|day))\b",
    re.I,
)
_AT_EACH_USE = re.compile(
    r"\b(?:before (?:each|every) use|each time|whenever|before using)\b", re.I
)
_TALK = re.compile(
    r"\b(?:i|i'm|i've|it|they|you|we|my|our|is|are|was|were|it's|that's|this|there|will|would|should|can|may|might|has|have|had"
    r"|likes?|loves?|makes?|needs?)\b",
    re.I,
)
_ENDS = frozenset({"", ".", ","})
_GERUND_ORDERS = frozenset(
    {
        "keep",
        "reserve",
        "save",
        "discard",
        "leave",
        "add",
        "remove",
        "hold",
        "throw",
        "pour",
        "set",
        "put",
    }
)
_NOUNS = words_of(
    "flame string level pool puddle pipe pinch bread crumb flour smoke balance start change catch"
    " prop lie twist tap stream bed bag present purge proof torch towel scale record count wait"
    " start drip blob close clear salt zest juice fish mix top film core pit seed stem skin stone"
    " brush fork plate pack label box set pod husk split section date rest cream score cover squash"
    " snap sort string hull roll shape form stuff line grease thread bung shower spoon check save"
    " brown crisp griddle flame glaze smoke flip spray mist brine cure sour drip marble flour bread"
    " crumb froth lift balance bin crown dot stud splash trickle swirl puddle pool pile heap mound"
    " present level dollop blob pipe seal bottle jar bag portion oil oven tail wash fold turn dress"
    " cut slice dice cube wedge quarter shell bone press finish drizzle garnish dust coat run set"
    " stand work season sprout steam toast roast grill char chill cool warm heat reduce stack share"
    " scoop shred ribbon section supreme segment mince stir taste dry clean open separate hollow"
    " fan place return hand cook go come"
)
"""Heads that are things or qualities as well: an order only with what it is done to behind it."""
_LISTED = words_of("salt zest juice oil cream brine skin seed stem core flour bread crumb honey")
"""Heads that stand in lists of what goes in: "oil, salt and zest for 2 minutes"."""
_FIRST_IS_ORDER = words_of(
    "mix cover cool chill warm heat steam toast roast grill char press fold turn cut slice dice"
    " cube quarter halve chop season dress finish taste stir open separate place return cook wash"
    " dry rest"
)
"""Heads of these that begin a sentence as orders, whatever follows."""


@lru_cache(maxsize=4096)
def clauses_of(sentence: str, lexicon: Lexicon, foods: frozenset[str]) -> tuple[Clause, ...]:
    """The clauses of a sentence in order; never none. `foods` are the stems of words that name
    foods of the recipe."""
    plain = sentence.strip()
    if _CONDITION.match(plain):
        return (Clause(plain, Sort.CONDITION),)
    if _NEGATED.match(plain):
        return (Clause(plain, Sort.NOTE),)
    tokens = tokens_of(plain)
    found = _Orders(tokens, plain, lexicon, foods).clauses()
    if not found and (words := _unsaid_order(tokens, foods)):
        return (Clause(plain, Sort.WORK, "put", words),)
    return tuple(found) or (Clause(plain, _without_order(plain)),)


def _unsaid_order(tokens: tuple[Token, ...], foods: frozenset[str]) -> tuple[Token, ...]:
    """The words of "Sauce over cauliflower.", where what is done goes without saying; empty where
    nothing is."""
    words = tuple(t for t in tokens if not t.is_mark)
    place = next((n for n, t in enumerate(words) if t.word in ("over", "on", "onto", "into")), None)
    known = bool(words) and all(stem(t.word) in foods | MIXES for t in (words[0], words[-1]))
    both = place and known and len(words) <= 8 and not _TALK.search(" ".join(t.word for t in words))
    return words if both else ()


def _without_order(sentence: str) -> Sort:
    """What a sentence is for in which nobody is told to do anything."""
    if _KEEPING.search(sentence):
        return Sort.ADVICE
    return Sort.NOTE if _TALK.search(sentence) else Sort.UNREAD


@dataclass
class _Hit:
    at: int
    head: str
    start: int = 0
    gerund: bool = False
    letting: bool = False


class _Orders:
    """The orders of one sentence, found from left to right."""

    def __init__(
        self, tokens: tuple[Token, ...], sentence: str, lexicon: Lexicon, foods: frozenset[str]
    ) -> None:
        self.tokens = tokens
        self.sentence = sentence
        self.lexicon = lexicon
        self.foods = foods
        self.hits: list[_Hit] = []
        self.place, self.subordinate, self.start = True, False, 0

    def word(self, at: int) -> str:
        return self.tokens[at].word if 0 <= at < len(self.tokens) else ""

    def is_food(self, word: str) -> bool:
        return stem(word) in self.foods

    def clauses(self) -> list[Clause]:
        self._find()
        found = []
        for number, hit in enumerate(self.hits):
            following = self.hits[number + 1] if number + 1 < len(self.hits) else None
            end = following.start if following is not None else len(self.tokens)
            found.append(self._clause(hit, end, following))
        return found

    def _find(self) -> None:
        """Goes over the words; `place` tells whether an order can stand at the next, `subordinate`
        whether it is within "until …", `start` where the clause of the next order begins."""
        at = 0
        while at < len(self.tokens):
            word = self.word(at)
            if word in _BOUNDARY:
                self._at_boundary(at)
            elif word in _CONNECTIVES:
                self._at_connective(at)
            elif self.place and (
                word in _ADVERBS or (word == "to" and self.word(at - 1) == "straight")
            ):
                pass
            elif (hit := self._hit_at(at)) is not None:
                hit.start = (
                    self.start
                    if not self.hits or hit.gerund
                    else max(self.start, self.hits[-1].at + 1)
                )
                self.hits.append(hit)
                self.place = self.subordinate = False
                at = hit.at
            else:
                thing_said = word == "as" and self.word(at + 1) in ("thinly", "finely", "dry")
                self.subordinate = self.subordinate or (word in _SUBORDINATE and not thing_said)
                self.place = False
            at += 1

    def _at_boundary(self, at: int) -> None:
        if self.word(at) != "-":
            self.place, self.subordinate = True, False
            self.start = at + 1 if self.hits else 0

    def _at_connective(self, at: int) -> None:
        self.place = self.place or not self.subordinate or self._goes_on(at + 1)
        if self.place:
            self.start = at + 1 if self.hits else 0

    def _hit_at(self, at: int) -> _Hit | None:
        """The order that begins at a word; None where none does."""
        if self.word(at) == "while" and self.word(at + 1) == "you" and self._can_be(at + 2):
            self.start = at
            return _Hit(at + 2, self.word(at + 2))
        if self.place and (hit := self._order_at(at)) is not None:
            return hit
        late = not self.place and not self.hits and self._late_order(at)
        return _Hit(at, self.word(at)) if late else None

    def _goes_on(self, at: int) -> bool:
        """Whether after "and" within "until …" an order stands: one with what it is done to, or at
        the very end."""
        following = self.word(at + 1)
        return self._can_be(at) and (
            following in _DETERMINERS
            or following in _PARTICLES
            or self.is_food(following)
            or following in ("", ".")
        )

    def _can_be(self, at: int) -> bool:
        return bool(self.lexicon.heads_of(self.word(at)))

    def _late_order(self, at: int) -> bool:
        """ "When the potatoes are cold fold them in": an order behind a clause that no comma
        ends."""
        word, before, following = self.word(at), self.word(at - 1), self.word(at + 1)
        return (
            self.word(0) in _FRONTED
            and self._can_be(at)
            and (following in _DETERMINERS or following in ("off", "out", "in", "over", "through"))
            and before not in _DETERMINERS
            and before not in ("to", "you", "and", "or")
            and word not in ("put",)
        )

    def _order_at(self, at: int) -> _Hit | None:
        word = self.word(at)
        pair = f"{word} {self.word(at + 1)} {self.word(at + 2)}"
        if pair in self.lexicon.senses:
            return _Hit(at + 2, pair)
        if word in _LETTING and (inner := self._let(at)) is not None:
            return _Hit(inner, self.word(inner), letting=True)
        base = self.lexicon.base_of(word)
        if base is not None and self.hits:
            behind = base != "leave" or any(t.word == "behind" for t in self.tokens[at:])
            return _Hit(at, base, gerund=True) if base in _GERUND_ORDERS and behind else None
        if not self._can_be(at):
            return None
        if word in _NOUNS and not self._has_object(at):
            return None
        return _Hit(at, word)

    def _let(self, at: int) -> int | None:
        """Where the order stands after "let it", "leave them to"; None where there is none."""
        bare = self.word(at) == "let"
        for place in range(at + 1, min(at + 9, len(self.tokens))):
            word = self.word(place)
            if word in _BOUNDARY or word in ("until", "and", "for", "then"):
                return None
            can = self._can_be(place) and self.word(place - 1) not in ("the", "a", "an", "in", "of")
            if can and (self.word(place - 1) == "to" or bare):
                return place
        return None

    def _has_object(self, at: int) -> bool:
        """Whether a word that may be a thing is an order: what it is done to follows, or how."""
        word, following, before = self.word(at), self.word(at + 1), self.word(at - 1)
        begins = at == 0 or before in (".", ";", ":") or (not self.hits and before in _ADVERBS)
        if word == "oven" or (
            word == "salt" and following == "and" and self.word(at + 2) == "pepper"
        ):
            return word == "oven" and following == "to"
        if self.is_food(word) or word in _LISTED:
            return self._food_has_object(at, begins)
        if begins and (word in _FIRST_IS_ORDER or (following == "," and self._can_be(at + 2))):
            return following != "of"
        if following in _DETERMINERS or self.is_food(following) or following[:1].isdigit():
            return True
        if following == "and":
            return self._can_be(at + 2) or self.word(at + 2) in _LETTING
        if following in _PARTICLES:
            return following != "from" or word in _FIRST_IS_ORDER
        if following in _ENDS:
            return begins or before in (",", "and")
        return (following.isalpha() and word in _FIRST_IS_ORDER) or self.word(at + 2) == "the"

    def _food_has_object(self, at: int, begins: bool) -> bool:
        """The same of a word that names a food of the recipe, or stands in lists of them: "salt,
        zest and juice"."""
        following = self.word(at + 1)
        if following in _DETERMINERS:
            return True
        if begins:
            goes_on = following in (",", "and") and self._can_be(at + 2)
            return following in _PARTICLES or self.is_food(following) or goes_on
        if following in _PARTICLES:
            return following not in ("for", "in", "to", "with", "until", "at", "from")
        return following == "and" and self.word(at - 1) not in (",", "and") and self._can_be(at + 2)

    def _clause(self, hit: _Hit, end: int, following: _Hit | None) -> Clause:
        stop = end
        while stop > hit.at + 1 and (
            self.word(stop - 1) in _BOUNDARY or self.word(stop - 1) in _CONNECTIVES
        ):
            stop -= 1
        text_from = self.tokens[hit.start].start if hit.start < len(self.tokens) else 0
        text_to = self.tokens[stop - 1].end
        if aside := _ASIDE_BEHIND.match(self.sentence, text_to):
            text_to = aside.end()
        text = self.sentence[text_from:text_to].strip(" ,;:.–—")
        words, sign = self._without_sign(self.tokens[hit.at + 1 : stop])
        before = tuple(self.tokens[hit.start : hit.at])
        shared = following is not None and not words and following.at - hit.at <= 3
        sort = (
            Sort.CONDITION
            if _IF_AFTER.search(text)
            else Sort.ADVICE
            if _AT_EACH_USE.search(text)
            else Sort.WORK
        )
        if hit.letting:
            words = tuple(t for t in before[1:] if t.word != "to" and not t.is_mark) + words
            before = ()
        return Clause(
            text[:1].upper() + text[1:],
            sort,
            hit.head,
            words,
            before,
            sign,
            shared,
        )

    def _without_sign(self, words: tuple[Token, ...]) -> tuple[tuple[Token, ...], str]:
        """The words of an order without "until they are soft", and that."""
        for place, token in enumerate(words):
            opens = token.word in _SIGNS if not place else token.word in _SIGNS | _ENDS_ORDER
            if not opens or self._is_adverb(words, place):
                continue
            goes_on = self._then(words, place)
            sign = (
                self.sentence[token.start : words[goes_on - 1].end] if token.word in _SIGNS else ""
            )
            return (*words[:place], *words[goes_on:]), sign
        return words, ""

    @staticmethod
    def _then(words: tuple[Token, ...], place: int) -> int:
        """Where an order goes on behind its sign: "whisk in the yogurt until smooth, then the
        oil"."""
        for at in range(place + 1, len(words) - 1):
            if words[at].word == "," and words[at + 1].word == "then":
                return at
        return len(words)

    @staticmethod
    def _is_adverb(words: tuple[Token, ...], place: int) -> bool:
        """ "As well as", "once, until": words that open nothing here."""
        word = words[place].word
        following = words[place + 1].word if place + 1 < len(words) else ","
        if word == "as":
            return place > 0 and words[place - 1].word in ("well", "such", "as", "soon")
        return word == "once" and not following.isalpha()
