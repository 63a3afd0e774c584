"""Which turns of words make a claim: an amount of a nutrient, help for the body, a promise to those
who may not eat a thing. The words are in `data/handouts/claim_words.csv`; how they have to stand to
each other, here. It fails closed: whatever stands so is stopped, but what a cook is told to do."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

from fresh_ladle.core.page.vocabulary import CONNECTIVES, VERBS

ClaimWords = Mapping[str, Mapping[str, tuple[str, ...]]]
"""Words by table and by what they mean there; one that ends in `*` stands for all its endings."""
HELP_REACH, OWNED_REACH, FAR = 6, 3, 4
"""Words between what helps and what it helps, as sentences of handouts run; fewer where the word is
one for food as well (`the skin`), or where somebody is named; and between an amount and what no
cook speaks of."""
_NEVER_COOKED = frozenset({"fiber", "protein", "vitamins", "cholesterol", "carbs", "glycemic"})
_ONLY_COOKED = frozenset({"sodium", "fat", "sugar"})
"""Of which nobody boasts: `more salt` is said to a cook."""
BODY, PEOPLE, ALLERGEN = "body", "people", "allergen"
"""What a phrase claims that is no amount."""
_WORD = re.compile(r"\d+\s?%|[\w’']+")
_CLAUSE_END = re.compile(r"[.,](?!\d)|[;:!\n]|\bbut\b")
_SENTENCE_END = re.compile(r"[.!](?=\s|$)|\n")
_GAP = re.compile(r"[\w\s’'-]*")
_PART_OF_THE_RECIPE = frozenset(
    {"cut", "half", "a third", "two thirds", "a quarter", "light", "most of the"}
)
_LATER = frozenset(
    "now first in into at until till on over goes go for and then later last before after to yet"
    " while as if with".split()
)
"""What follows such a word where only a part of what the recipe has is meant: half the salt now."""
_FOR_NOW = re.compile(r"\s+(?:until|yet|now|before|in the (?:water|pan|pot|brine))\b", re.I)
_WITH_FIGURES = re.compile(
    r"\bthan\b.*\d|\d[\d.]* ?(?:mg|g|kcal|calories) (?:less|fewer|more)\b", re.I
)
_FIGURE = re.compile(
    r"\d[\d.,]* ?(?:mg|µg|mcg|g|kcal|kj|calories|cups?)\b|\bcalories:? \d|\d ?% of\b", re.I
)
_SHARE = re.compile(r"\d ?% $")
_FREE_OF = re.compile(
    r"\b(?:free (?:of|from)|(?:not a|no|without a(?:ny)?) traces? of|contains no)\s+(?:any )?$",
    re.I,
)


@dataclass(frozen=True, slots=True)
class Phrase:
    """A turn of words that claims something, by the letters from `start` to before `end`. `claims`
    is BODY, PEOPLE or ALLERGEN, or `low`, `no added` and so on of a `nutrient`."""

    claims: str
    start: int
    end: int
    nutrient: str = ""


@dataclass(frozen=True, slots=True)
class _Words:
    """Words of a table in a text, by their letters, with what they mean."""

    means: str
    start: int
    end: int


class ClaimGrammar:
    """Finds the phrases of a text that claim something."""

    def __init__(self, words: ClaimWords) -> None:
        self._patterns = {
            table: [(means, _pattern_of(forms)) for means, forms in rows.items()]
            for table, rows in words.items()
        }

    def phrases(self, text: str) -> list[Phrase]:
        """All of them, in the order of the text; of two that overlap the longer one."""
        kept: list[Phrase] = []
        for phrase in sorted(self._all(text), key=lambda p: (p.start - p.end, p.start)):
            if not any(phrase.start < k.end and k.start < phrase.end for k in kept):
                kept.append(phrase)
        return sorted(kept, key=lambda p: p.start)

    def _all(self, text: str) -> Iterator[Phrase]:
        for start, end in _clauses(text):
            words = {
                table: [
                    _Words(means, m.start(), m.end())
                    for means, pattern in patterns
                    for m in pattern.finditer(text, start, end)
                ]
                for table, patterns in self._patterns.items()
            }
            clause = _Clause(text, start, end, words)
            yield from clause.amounts()
            yield from clause.told_without_figures()
            yield from clause.amounts_after()
            yield from clause.amounts_in_a_word()
            yield from clause.ills_and_processes()
            yield from clause.help()
            yield from clause.friends_of_the_body()
            yield from clause.food_for_the_body()
            yield from clause.promises()
            yield from clause.free_of_allergens()


@dataclass(frozen=True, slots=True)
class _Clause:
    """A part of a sentence in which words belong together, from `start` to before `end`."""

    text: str
    start: int
    end: int
    words: Mapping[str, Sequence[_Words]]

    def amounts(self) -> Iterator[Phrase]:
        """`low in salt`, `half the fat`, `a rich source of vitamin C`."""
        for amount, nutrient in product(self.words["amount"], self._of("nutrient", but="oil")):
            if self._joined(amount, nutrient) and not self._is_cooking(amount, nutrient):
                end = self._to_the_end_of(nutrient)
                means = self._how_much(amount, self.text[amount.start : end].lower())
                yield Phrase(means, amount.start, end, nutrient.means)

    @staticmethod
    def _how_much(amount: _Words, said: str) -> str:
        if "added" in said:
            return "no added"
        return "very low" if amount.means == "low" and said.startswith("very") else amount.means

    def _to_the_end_of(self, nutrient: _Words) -> int:
        """`No sugar added` ends with what is added."""
        added = re.compile(r"[\s-]added\b", re.I).match(self.text, nutrient.end)
        return added.end() if added else nutrient.end

    def told_without_figures(self) -> Iterator[Phrase]:
        """`a great way to get your vitamin C`, `only 2% fat`: of what no cook speaks of, whatever is
        said without its figure claims something."""
        if self._is_told_to_cook() or _FIGURE.search(self._sentence()):
            return
        for nutrient in self.words["nutrient"]:
            share = _SHARE.search(self.text[self.start : nutrient.start])
            never_cooked = nutrient.means in _NEVER_COOKED and self._word_at(nutrient.end) != "of"
            if never_cooked or (share and "than" not in self.text):
                yield Phrase("told", nutrient.start, nutrient.end, nutrient.means)

    def amounts_after(self) -> Iterator[Phrase]:
        """`fiber-packed`, `salt free`, `fat-reduced`, `the fiber content is high`."""
        for nutrient, amount in product(self.words["nutrient"], self.words["after"]):
            asked = self.text[nutrient.end : amount.start] == "? "
            if (asked or self._touch(nutrient, amount)) and not self._is_bought(amount.end):
                yield Phrase(amount.means, nutrient.start, amount.end, nutrient.means)

    def amounts_in_a_word(self) -> Iterator[Phrase]:
        """`sugarless`, `unsalted dip`, `a lighter Caesar`, `extra lean turkey`."""
        for word in self.words["whole"]:
            if not self._is_bought(word.end):
                yield self._claimed_by(word)
        meats, dishes = self.words["meat"], self.words["dish"]
        for word, dish in product(self.words["before any dish"], dishes):
            if self._near(word, dish):
                yield self._claimed_by(word)
        for word, dish in product(self.words["before a dish"], dishes):
            if self._touch(word, dish):
                yield self._claimed_by(word)
        for word, meat in product(self.words["before a meat"], meats):
            if self._touch(word, meat) and not self._is_told_to_cook():
                yield self._claimed_by(word)

    @staticmethod
    def _claimed_by(word: _Words) -> Phrase:
        amount, _, nutrient = word.means.partition(" ")
        return Phrase(amount, word.start, word.end, nutrient)

    def ills_and_processes(self) -> Iterator[Phrase]:
        """`tames high blood pressure`, `wakes up your liver`: what is told of an illness or of what
        goes on in a body has no sense in a kitchen, whatever verb stands before it."""
        for part in self.words["body"]:
            if part.means in ("illness", "process"):
                yield Phrase(BODY, part.start, part.end)
        for owner, part in product(self.words["owner"], self.words["body"]):
            if owner.means == "eater" and self._touch(owner, part):
                yield Phrase(BODY, owner.start, part.end)

    def help(self) -> Iterator[Phrase]:
        """`kind to your kidneys`, `lifts your mood`, `good for the heart`."""
        for help_, part in product(self.words["help"], self.words["body"]):
            if help_.end <= part.start and self._helps(help_, part):
                yield Phrase(BODY, help_.start, part.end)

    def _helps(self, help_: _Words, part: _Words) -> bool:
        between = self.text[help_.end : part.start]
        words_between = len(_WORD.findall(between))
        if words_between > HELP_REACH or self._is_told(help_) or re.search(r"\d", between):
            return False
        if part.means != "also food":
            return True
        owned = any(self._touch(owner, part) for owner in self.words["owner"])
        return words_between <= OWNED_REACH and (owned or help_.means == "strong")

    def friends_of_the_body(self) -> Iterator[Phrase]:
        """`gut-friendly`, `kidney friendly`, `fat-burning`."""
        burnt = [n for n in self.words["nutrient"] if n.means in ("fat", "energy")]
        burning = [s for s in self.words["suffix"] if s.means == "burning"]
        for part, suffix in (
            *product(self.words["body"], self.words["suffix"]),
            *product(burnt, burning),
        ):
            if self._touch(part, suffix) and (
                self.text[part.end] == "-" or part.means != "also food"
            ):
                yield Phrase(BODY, part.start, suffix.end)

    def food_for_the_body(self) -> Iterator[Phrase]:
        """`brain food`, `gut medicine`."""
        food = re.compile(r"[\s-](?:food|fuel|tonic|medicine)\b", re.I)
        for part in self._of("body", but="also food"):
            if m := food.match(self.text, part.end):
                yield Phrase(BODY, part.start, m.end())

    def _of(self, table: str, but: str) -> list[_Words]:
        return [words for words in self.words[table] if words.means != but]

    def promises(self) -> Iterator[Phrase]:
        """`safe for celiacs`, `diabetic dressing`, `won't trigger your allergy`."""
        for fit, who in product(self.words["fit"], self.words["people"]):
            between = _WORD.findall(self.text[fit.end : who.start])
            if fit.end <= who.start and len(between) <= OWNED_REACH:
                yield Phrase(PEOPLE, fit.start, who.end)
        made_for_them = (*self.words["dish"], *self.words["suffix"])
        for who, made in product(self.words["people"], made_for_them):
            if self._touch(who, made):
                yield Phrase(PEOPLE, who.start, made.end)

    def free_of_allergens(self) -> Iterator[Phrase]:
        """`nut-free`, `no trace of gluten`, `contains no egg`."""
        free = re.compile(r"[\s-]free\b", re.I)
        for allergen in self.words["allergen"]:
            if after := free.match(self.text, allergen.end):
                yield Phrase(ALLERGEN, allergen.start, after.end())
            if before := _FREE_OF.search(self.text[self.start : allergen.start]):
                yield Phrase(ALLERGEN, self.start + before.start(), allergen.end)

    def _touch(self, one: _Words, other: _Words) -> bool:
        return other.start == one.end + 1 and self.text[one.end] in " -"

    def _near(self, one: _Words, other: _Words) -> bool:
        words_between = _WORD.findall(self.text[one.end : other.start])
        return one.end < other.start and len(words_between) <= 1

    def _joined(self, amount: _Words, nutrient: _Words) -> bool:
        """Whether so much is said of it: nothing but small words and other nutrients stands between
        the two, or little enough where nothing in a kitchen is said so."""
        between = self.text[amount.end : nutrient.start]
        if amount.end > nutrient.start or not _GAP.fullmatch(between):
            return False
        if amount.means in ("high", "source") and nutrient.means in _ONLY_COOKED:
            return False
        words = _WORD.findall(between.lower())
        if amount.means == "high" and nutrient.means in _NEVER_COOKED and len(words) <= FAR:
            return True
        small = {
            word
            for found in (*self.words["filler"], *self.words["nutrient"])
            if amount.end <= found.start and found.end <= nutrient.start
            for word in _WORD.findall(self.text[found.start : found.end].lower())
        }
        return small.issuperset(words)

    def _is_cooking(self, amount: _Words, nutrient: _Words) -> bool:
        """Whether a cook is told something, or a figure stands beside what it is less than."""
        if amount.means in ("less", "high") and _WITH_FIGURES.search(self._sentence()):
            return True
        return (
            self._is_part_of_the_recipe(amount, nutrient)
            or self._is_left_out_for_now(amount, nutrient)
            or self._is_bought(nutrient.end)
        )

    def _is_part_of_the_recipe(self, amount: _Words, nutrient: _Words) -> bool:
        """`half the salt now`, `cut the salt if the feta is salty`."""
        words = self.text[amount.start : amount.end].lower()
        begins = not _WORD.search(self.text[self.start : amount.start])
        in_a_step = self._word_at(nutrient.end) in _LATER or _begins_a_step(self._sentence())
        return (words in _PART_OF_THE_RECIPE and in_a_step) or (words == "cut" and begins)

    def _is_left_out_for_now(self, amount: _Words, nutrient: _Words) -> bool:
        """`no salt in the water`, `add less salt than you think`, `cook the beans without salt`."""
        if amount.means not in ("no", "less"):
            return False
        told = self._is_told_to_cook() and "-" not in self.text[amount.end : nutrient.start]
        return told or bool(_FOR_NOW.match(self.text, nutrient.end))

    def _is_told_to_cook(self) -> bool:
        """Whether the clause begins as a step of a method does."""
        return _begins_a_step(self.text[self.start : self.end])

    def _sentence(self) -> str:
        """The sentence that the clause is part of."""
        begins = max((m.end() for m in _SENTENCE_END.finditer(self.text, 0, self.start)), default=0)
        after = _SENTENCE_END.search(self.text, self.start)
        return self.text[begins : after.start() if after else None]

    def _is_told(self, verb: _Words) -> bool:
        """Whether this very verb is what a cook is told to do, as the clause begins."""
        begins = not _WORD.search(self.text[self.start : verb.start])
        return begins and self.text[verb.start : verb.end].lower() in VERBS

    def _is_bought(self, at: int) -> bool:
        """Whether what a cook is told goes on with a food: `Use low-fat yogurt`."""
        after = self._word_at(at)
        dishes = {self.text[dish.start : dish.end].lower() for dish in self.words["dish"]}
        small = CONNECTIVES | {"and", "or", "if"}
        return self._is_told_to_cook() and after not in dishes | small | {""}

    def _word_at(self, at: int) -> str:
        m = re.compile(r"[\s-]*([\w’']+)").match(self.text, at, self.end)
        return m[1].lower() if m else ""


def _begins_a_step(words_of: str) -> bool:
    """Whether words begin with what a cook is told to do: `then stir`, but not `Salt-free`."""
    words = _WORD.findall(words_of.lower())
    while len(words) > 1 and words[0] in CONNECTIVES:
        words = words[1:]
    return bool(words) and words[0] in VERBS and not re.match(r"\s*\w+-", words_of)


def _clauses(text: str) -> Iterator[tuple[int, int]]:
    start = 0
    for end in _CLAUSE_END.finditer(text):
        yield start, end.start()
        start = end.end()
    yield start, len(text)


@lru_cache(maxsize=128)
def _pattern_of(words: tuple[str, ...]) -> re.Pattern[str]:
    """Any of the words, the longest first; hyphens may stand for the spaces in them."""
    forms = [
        re.escape(word.removesuffix("*")).replace(r"\ ", r"[\s-]+")
        + (r"\w*" if word.endswith("*") else r"(?:[’']s)?")
        for word in sorted(words, key=len, reverse=True)
    ]
    return re.compile(rf"(?<!\w)(?:{'|'.join(forms)})(?!\w)", re.I)
