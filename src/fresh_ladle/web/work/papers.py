"""Sheets, cards and labels as PDF, made in a process of its own."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar, cast

from fresh_ladle.core.words.spelling import BRITISH, STEMS, british_value, typed_words
from fresh_ladle.store.recipes.typed_texts import typed_names
from fresh_ladle.web.state import Workbench
from fresh_ladle.web.work.processes import PAPERS, Telling

T = TypeVar("T")


def pdf_of(workbench: Workbench, write: Callable[..., bytes], *args: object) -> bytes:
    """What `write(*args)` makes, spelled as the practice spells. Raises what it raises, and Overrun
    where too many wait."""
    return bytes(PAPERS.run(_written, write, *spelled(workbench, args)))


def spelled(workbench: Workbench, value: T) -> T:
    """The texts anywhere in a value as the practice spells; what was typed stays."""
    if workbench.spelling != BRITISH:
        return value
    with workbench.store() as connection:
        typed = typed_words(typed_names(connection, STEMS))
    return cast("T", british_value(value, typed))


def _written(telling: Telling, write: Callable[..., bytes], *args: object) -> bytes:
    return write(*args)
