"""Recipes with methods and what is true of them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from pathlib import Path


@dataclass(frozen=True)
class Case:
    """One recipe: its page of lines, its method, and what is said of it under `order`, `wait`,
    `bowl`, `not` and `caution`, each a list."""

    name: str
    lines: tuple[str, ...]
    method: tuple[str, ...]
    said: dict[str, list[str]]


@cache
def cases(name: str) -> tuple[Case, ...]:
    """The cases of a file, in order."""
    text = (Path(__file__).parent / f"{name}.txt").read_text(encoding="utf-8")
    found = []
    for block in text.split("\n=== ")[1:]:
        head, method, said = block.split("\n--\n")
        title, *lines = head.splitlines()
        of_case = {}
        for line in said.strip().splitlines():
            kind, _, all_of_it = line.partition(":")
            of_case[kind] = [one.strip() for one in all_of_it.split(";") if one.strip()]
        found.append(Case(title, tuple(lines), tuple(method.strip().splitlines()), of_case))
    return tuple(found)
