"""Sheets, cards and labels as PDF, made in a process of its own."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar, cast

from fresh_ladle.core.spelling import BRITISH, british_value
from fresh_ladle.web.processes import PAPERS, Telling
from fresh_ladle.web.state import Workbench

T = TypeVar("T")


def pdf_of(workbench: Workbench, write: Callable[..., bytes], *args: object) -> bytes:
    """What `write(*args)` makes, spelled as the practice spells. Raises what it raises, and Overrun where too many
    wait."""
    return bytes(PAPERS.run(_written, write, *spelled(workbench, args)))


def spelled(workbench: Workbench, value: T) -> T:
    """The texts anywhere in a value as the practice spells."""
    return cast("T", british_value(value)) if workbench.spelling == BRITISH else value


def _written(telling: Telling, write: Callable[..., bytes], *args: object) -> bytes:
    return write(*args)
