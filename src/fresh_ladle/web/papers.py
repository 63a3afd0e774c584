"""Sheets, cards and labels as PDF, made in a process of its own."""

from __future__ import annotations

from collections.abc import Callable

from fresh_ladle.web.processes import PAPERS, Telling


def pdf_of(write: Callable[..., bytes], *args: object) -> bytes:
    """What `write(*args)` makes. Raises what it raises, and Overrun where too many wait."""
    return bytes(PAPERS.run(_written, write, *args))


def _written(telling: Telling, write: Callable[..., bytes], *args: object) -> bytes:
    return write(*args)
