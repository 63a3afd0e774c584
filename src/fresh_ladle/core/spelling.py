"""British spelling of what the workbench says, which is written in that of the US. The words that differ are here."""

from __future__ import annotations

import re
from dataclasses import fields, is_dataclass, replace
from enum import Enum
from typing import Any

US, BRITISH = "us", "british"
SPELLINGS = (US, BRITISH)
_WORDS = {
    "fiber": "fibre",
    "flavor": "flavour",
    "color": "colour",
    "mold": "mould",
    "center": "centre",
    "liter": "litre",
    "neighbor": "neighbour",
    "favor": "favour",
    "gray": "grey",
    "authorized": "authorised",
    "caramelize": "caramelise",
    "pasteurize": "pasteurise",
    "organize": "organise",
    "recognize": "recognise",
    "practicing": "practising",
}
_SAVORY = r"(?<!summer )(?<!winter )\bsavor(?=y\b|\b)"
"""Summer and winter savory are herbs, and spelled so everywhere."""
_ANY = re.compile(rf"{_SAVORY}|\b(?:un)?(?:{'|'.join(_WORDS)})", re.I)


def british(text: str) -> str:
    """The text with the words that are spelled otherwise in Britain."""
    return _ANY.sub(_spelled, text)


def _spelled(found: re.Match[str]) -> str:
    word = found[0].lower()
    prefix = "un" if word.startswith("un") else ""
    spelled = prefix + {**_WORDS, "savor": "savour"}[word.removeprefix(prefix)]
    return spelled.capitalize() if found[0][0].isupper() else spelled


_TEXT = re.compile(r"(<textarea\b.*?</textarea>|<script\b.*?</script>)|(<[^>]*>)|([^<]+)", re.S | re.I)
_SAID = re.compile(r'(?<=\s)(title|aria-label|placeholder|alt|aria-valuetext)="([^"]*)"')


def british_page(html: str) -> str:
    """A page with what it says in British spelling; addresses, names in the markup and what was typed stay."""

    def part(found: re.Match[str]) -> str:
        if found[1]:
            return found[1]
        if found[2]:
            return _SAID.sub(lambda said: f'{said[1]}="{british(said[2])}"', found[2])
        return british(found[3])

    return _TEXT.sub(part, html)


def british_value(value: Any) -> Any:
    """The same for text anywhere within lists, mappings and frozen values, as sheets are made from."""
    if isinstance(value, str) and not isinstance(value, Enum):
        return british(value)
    if isinstance(value, list | tuple):
        made = [british_value(one) for one in value]
        return made if isinstance(value, list) else tuple(made)
    if isinstance(value, dict):
        return {name: british_value(one) for name, one in value.items()}
    if is_dataclass(value) and not isinstance(value, type):
        texts = {f.name: british_value(getattr(value, f.name)) for f in fields(value) if f.init}
        return replace(value, **texts)
    return value
