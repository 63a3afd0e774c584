"""British spelling of what the workbench says, which is written in that of the US. The words that
differ are here.

What people typed stays as they typed it. It is known again by the words beside it: a typed "Flavor
bomb" keeps its flavor wherever it is told, whole or in part."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import fields, is_dataclass, replace
from enum import Enum
from typing import Any

US, BRITISH = "us", "british"
SPELLINGS = (US, BRITISH)
_STEMS = {
    ("fiber", "fibre"): ("", "s"),
    ("flavor", "flavour"): ("", "s", "ed", "ing", "ings", "ful", "less", "some"),
    ("color", "colour"): ("", "s", "ed", "ing", "ings", "ful", "less"),
    ("mold", "mould"): ("", "s", "ed", "y"),
    ("center", "centre"): ("", "s", "d"),
    ("centered", "centred"): ("",),
    ("liter", "litre"): ("", "s"),
    ("milliliter", "millilitre"): ("", "s"),
    ("millimeter", "millimetre"): ("", "s"),
    ("neighbor", "neighbour"): ("", "s", "ing"),
    ("favor", "favour"): ("", "s", "ed", "ing", "able", "ite", "ites"),
    ("gray", "grey"): ("", "s", "ish"),
    ("authoriz", "authoris"): ("e", "es", "ed", "ing"),
    ("carameliz", "caramelis"): ("e", "es", "ed", "ing"),
    ("pasteuriz", "pasteuris"): ("e", "es", "ed", "ing"),
    ("unpasteuriz", "unpasteuris"): ("ed",),
    ("organiz", "organis"): ("e", "es", "ed", "ing", "er"),
    ("recogniz", "recognis"): ("e", "es", "ed", "ing", "able"),
    ("practicing", "practising"): ("",),
    ("savor", "savour"): ("", "s", "ed", "ing"),
    ("savory", "savoury"): ("",),
    ("savoriness", "savouriness"): ("",),
}
"""Stems of both kingdoms with the endings under which they are whole words."""
_WORDS = {us + end: uk + end for (us, uk), ends in _STEMS.items() for end in ends}
# Summer and winter savory are herbs, and spelled so everywhere.
_HERBS = r"(?<!summer )(?<!winter )"
_ANY = re.compile(
    rf"{_HERBS}(?<![\w-])({'|'.join(sorted(_WORDS, key=len, reverse=True))})(?![\w])", re.I
)
_WORD_BEFORE, _WORD_AFTER = re.compile(r"([\w’']+)[^\w’']*$"), re.compile(r"^[^\w’']*([\w’']+)")
STEMS = tuple(us for us, _ in _STEMS)
"""What a text holds that may have to be spelled otherwise."""
Typed = frozenset[tuple[str, str]]
"""Pairs of neighboring words of what people typed, one of each spelled otherwise in Britain; the
empty word stands for none."""
NOTHING_TYPED: Typed = frozenset()
TYPED_FIELDS = frozenset(
    {"title", "steps", "note", "practice", "text", "component", "named", "remarks", "method"}
)
"""Names under which values hold what people typed."""


def typed_words(texts: Iterable[str]) -> Typed:
    """What has to stay of these typed texts."""
    return frozenset(
        pair for text in texts for found in _ANY.finditer(text) for pair in _pairs(text, found)
    )


def _pairs(text: str, found: re.Match[str]) -> list[tuple[str, str]]:
    """A word with the one before it and the one after it; alone where it has neither."""
    before, after = (
        _WORD_BEFORE.search(text[: found.start()]),
        _WORD_AFTER.search(text[found.end() :]),
    )
    word = found[0].lower()
    pairs = [(before[1].lower(), word)] if before else []
    pairs += [(word, after[1].lower())] if after else []
    return pairs or [("", word)]


def british(text: str, typed: Typed = NOTHING_TYPED) -> str:
    """The text with the words that are spelled otherwise in Britain, but for what was `typed`."""

    def spelled(found: re.Match[str]) -> str:
        if typed and not typed.isdisjoint(_pairs(text, found)):
            return found[0]
        word = _WORDS[found[0].lower()]
        return (
            word.upper()
            if found[0].isupper()
            else word.capitalize()
            if found[0][0].isupper()
            else word
        )

    return _ANY.sub(spelled, text)


_TEXT = re.compile(
    r"(<textarea\b.*?</textarea>|<script\b.*?</script>)|(<[^>]*>)|([^<]+)", re.S | re.I
)
_SAID = re.compile(r'(?<=\s)(title|aria-label|placeholder|alt|aria-valuetext)="([^"]*)"')


def british_page(html: str, typed: Typed = NOTHING_TYPED) -> str:
    """A page with what it says in British spelling; addresses, names in the markup and what was
    typed stay."""

    def part(found: re.Match[str]) -> str:
        if found[1]:
            return found[1]
        if found[2]:
            return _SAID.sub(lambda said: f'{said[1]}="{british(said[2], typed)}"', found[2])
        return british(found[3], typed)

    return _TEXT.sub(part, html)


def british_value(value: Any, typed: Typed = NOTHING_TYPED) -> Any:
    """The same for text anywhere within lists, mappings and frozen values, as sheets are made from;
    what stands under the name of something typed stays."""
    if isinstance(value, str) and not isinstance(value, Enum):
        return british(value, typed)
    if isinstance(value, list | tuple):
        made = [british_value(one, typed) for one in value]
        return made if isinstance(value, list) else tuple(made)
    if isinstance(value, dict):
        return {
            name: one if name in TYPED_FIELDS else british_value(one, typed)
            for name, one in value.items()
        }
    if is_dataclass(value) and not isinstance(value, type):
        ours = [f.name for f in fields(value) if f.init and f.name not in TYPED_FIELDS]
        return replace(value, **{name: british_value(getattr(value, name), typed) for name in ours})
    return value
