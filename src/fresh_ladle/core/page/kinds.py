"""What a line of a page can be."""

from __future__ import annotations

from enum import StrEnum


class LineKind(StrEnum):
    """`MORE` goes on with the line before it; `LIST` and `METHOD` are the words that say where each
    begins; `AROUND` is what a page says around its recipe."""

    TITLE = "title"
    YIELD = "yield"
    TIME = "time"
    LIST = "list"
    METHOD = "method"
    HEADING = "heading"
    ITEM = "item"
    MORE = "more"
    STEP = "step"
    NOTE = "note"
    AROUND = "around"
