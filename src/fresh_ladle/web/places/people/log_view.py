"""The log in words: when, who, what, and the recipe or place it was about."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from fresh_ladle.store.people.activity import Activity

_RECIPE = re.compile(r"/recipes/(\d{1,15})\b")
_PAGE = re.compile(r"/(services|tastings)/\d{1,15}\b")


@dataclass(frozen=True, slots=True)
class LogRow:
    """`day` and `time` are UTC; `href` is empty where there is no page of what it was about."""

    day: str
    time: str
    who: str
    did: str
    about: str
    href: str


def recipe_ids_of(found: Iterable[Activity]) -> set[int]:
    return {int(match[1]) for one in found if (match := _RECIPE.match(one.about))}


def log_rows(found: Iterable[Activity], titles: Mapping[int, str]) -> list[LogRow]:
    """`titles` are those of recipes by id."""
    return [
        LogRow(a.at[:10], a.at[11:16], a.initials, a.did, *_about(a.about, titles)) for a in found
    ]


def _about(address: str, titles: Mapping[int, str]) -> tuple[str, str]:
    if match := _RECIPE.match(address):
        return titles.get(int(match[1]), f"recipe {match[1]}"), match[0]
    if match := _PAGE.match(address):
        return match[0].strip("/").replace("/", " "), match[0]
    return address, ""
