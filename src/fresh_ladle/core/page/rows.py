"""A page as it is mended by hand: a row for each ingredient, told otherwise, parted, joined, and
written out again."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.page import ReadLine, part_name, step_text, title_line
from fresh_ladle.core.page.recipe_text import RecipeReading

TOLD = (
    LineKind.ITEM,
    LineKind.HEADING,
    LineKind.STEP,
    LineKind.NOTE,
    LineKind.AROUND,
    LineKind.TITLE,
)
"""What a person can say that a line is."""
SURE = 1e9
"""The margin of a line that a person told."""


def one_row_each(reading: RecipeReading) -> list[ReadLine]:
    """The page with a row for each ingredient: a line of two foods is two rows, and what was
    measured in a step alone stands before all others, to be checked."""
    found: list[ReadLine] = []
    from_steps: list[ReadLine] = []
    for place, line in enumerate(reading.page):
        read = [
            r.line.text
            for r, at in zip(reading.readings, reading.places, strict=True)
            if at == place
        ]
        if line.kind is LineKind.ITEM and read:
            found += [replace(line, text=text) for text in read]
        else:
            found.append(line)
            from_steps += [ReadLine(LineKind.ITEM, text, 0.0, line.rows) for text in read]
    eaten = (LineKind.ITEM, LineKind.HEADING, LineKind.STEP)
    first = next((n for n, line in enumerate(found) if line.kind in eaten), 0)
    return [*found[:first], *from_steps, *found[first:]]


def turned(page: Sequence[ReadLine], place: int, kind: LineKind) -> list[ReadLine]:
    """The page with a line told to be something else, or to be what it was taken for. There is one
    title."""
    found = list(page)
    if kind is LineKind.TITLE:
        found = [
            replace(line, kind=LineKind.AROUND) if line.kind is LineKind.TITLE else line
            for line in found
        ]
    found[place] = replace(found[place], kind=kind, margin=SURE)
    return found


def parted(page: Sequence[ReadLine], place: int, at: int) -> list[ReadLine]:
    """The page with a line made two at a character; as it was where one of them would be empty."""
    line = page[place]
    parts = [text for text in (line.text[:at].strip(" ,;"), line.text[at:].strip(" ,;")) if text]
    if len(parts) < 2:
        return list(page)
    return [
        *page[:place],
        *(replace(line, text=text, margin=SURE, food="") for text in parts),
        *page[place + 1 :],
    ]


def joined(page: Sequence[ReadLine], place: int) -> list[ReadLine]:
    """The page with a line put behind the one above it; as it was for the first."""
    if not place:
        return list(page)
    before, line = page[place - 1], page[place]
    rows = (min(before.rows[0], line.rows[0]), max(before.rows[1], line.rows[1]))
    both = replace(before, text=f"{before.text} {line.text}".strip(), margin=SURE, rows=rows)
    return [*page[: place - 1], both, *page[place + 1 :]]


def page_text(page: Sequence[ReadLine]) -> str:
    """A page written so that it is read as it is told: title, what it makes, the parts with their
    lines, the method and its notes."""
    title = title_line(page)
    rows = [f"# {title}"] if title else []
    rows += [line.text for line in page if line.kind is LineKind.YIELD]
    for line in page:
        if line.kind is LineKind.HEADING:
            rows += ["", f"## {part_name(line.text)}"]
        elif line.kind is LineKind.ITEM:
            rows.append(f"- {line.text}")
    steps = [step for line in page if line.kind is LineKind.STEP and (step := step_text(line.text))]
    if steps:
        rows += ["", "Method", *(f"{number}. {step}" for number, step in enumerate(steps, start=1))]
    notes = [line.text for line in page if line.kind is LineKind.NOTE]
    rows += ["", "Notes", *notes] if notes else []
    return "\n".join(rows) + "\n"
