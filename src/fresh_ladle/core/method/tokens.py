"""A sentence as words and marks, and the stems of words."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

_TOKEN = re.compile(
    r"\d+(?:[.,/]\d+)?(?:\s\d/\d)?\s*°\s?[CF]?\b|\d+\s\d/\d|\d+(?:[.,/]\d+)*|[½⅓⅔¼¾⅛]|[^\W\d_]+(?:['’-][^\W\d_]+)*|[^\s\w]"
)
_ENDINGS = (
    ("ies", "y"),
    ("oes", "o"),
    ("ches", "ch"),
    ("shes", "sh"),
    ("sses", "ss"),
    ("ives", "ive"),
    ("ves", "ve"),
)
_IRREGULAR = {
    "leaves": "leaf",
    "halves": "half",
    "loaves": "loaf",
    "knives": "knife",
    "radishes": "radish",
}
_SENTENCE_END = re.compile(r"(?<=[.!?;])\s+(?=[A-Z(\"“'])|;\s+|\n+")
_NO_END = re.compile(r"\b(?:approx|no|oz|lb|e\.g|i\.e|ca)\.$", re.I)
_ASIDE = re.compile(r"\([^()]*\)")


@dataclass(frozen=True, slots=True)
class Token:
    """One word, number or mark: as it is compared, and where it stands in its sentence."""

    word: str
    start: int
    end: int

    @property
    def is_mark(self) -> bool:
        return not self.word[0].isalnum() and self.word[0] not in "½⅓⅔¼¾⅛"


@lru_cache(maxsize=4096)
def tokens_of(sentence: str) -> tuple[Token, ...]:
    """The tokens of a sentence. What stands in brackets says something beside the order and is no
    part of it."""
    plain = _ASIDE.sub(lambda m: " " * len(m[0]), sentence.replace("’", "'"))
    return tuple(Token(m[0].lower(), m.start(), m.end()) for m in _TOKEN.finditer(plain))


def sentences_of(step: str) -> list[str]:
    """The sentences of a step, none left out."""
    found: list[str] = []
    for part in _SENTENCE_END.split(step.strip()):
        part = part.strip()
        if found and _NO_END.search(found[-1]):
            found[-1] = f"{found[-1]} {part}"
        elif part:
            found.append(part)
    return found


def words_of(text: str) -> frozenset[str]:
    """A list of words, written as one text."""
    return frozenset(text.split())


@lru_cache(maxsize=8192)
def stem(word: str) -> str:
    """A word without its plural ending."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    for ending, instead in _ENDINGS:
        if word.endswith(ending) and len(word) > len(ending) + 1:
            return word[: -len(ending)] + instead
    return (
        word[:-1]
        if word.endswith("s") and not word.endswith(("ss", "us")) and len(word) > 3
        else word
    )
