"""A page as it was understood: its title, parts with their lines, steps, and what was left out."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.units import read_unit
from fresh_ladle.core.amounts.yields import Yield, read_yield
from fresh_ladle.core.page import vocabulary
from fresh_ladle.core.page.evidence import (
    PageLine,
    evidence,
    page_lines,
    possible_kinds,
    yield_said,
)
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.sequence import likeliest, weights_of
from fresh_ladle.core.page.weights import TABLE
from fresh_ladle.core.recipes.region import Region

WEIGHTS = weights_of(TABLE)
MOST_TITLE_WORDS = 14
UNSURE = 3.0
"""A margin below which it is said that a line may be something else."""


@dataclass(frozen=True, slots=True)
class ReadLine:
    """A line of the page, lines that go on with it joined, and what it was taken for; `margin` is
    how far behind the next best page lies, `rows` are the first and the last row of the text that
    it stands in, `food` is the one that a person chose for it."""

    kind: LineKind
    text: str
    margin: float
    rows: tuple[int, int] = (0, 0)
    food: str = ""

    @property
    def unsure(self) -> bool:
        return self.margin < UNSURE


def read_page(text: str, knows: Callable[[str], bool]) -> list[ReadLine]:
    """What each line of a text is, decided for all of it together. `knows` tells whether a phrase
    is a food's name."""
    lines = page_lines(text)
    read = [
        ReadLine(kind, _shown(line), margin, (line.row, line.row))
        for line, (kind, margin) in zip(lines, kinds_of(lines, knows), strict=True)
    ]
    return _joined(read)


def kinds_of(
    lines: Sequence[PageLine], knows: Callable[[str], bool]
) -> list[tuple[LineKind, float]]:
    """The kind of each line of a page, with its margin. There is one title, though it may be said
    twice: of several the surest stays."""
    signs, blanks, possible = (
        evidence(lines, knows),
        [line.blank_before for line in lines],
        possible_kinds(lines),
    )
    found = likeliest(signs, blanks, WEIGHTS, possible)
    titles = [place for place, (kind, _) in enumerate(found) if kind is LineKind.TITLE]
    said = [line.plain.lower().strip("*_#= ") for line in lines]
    if len({said[place] for place in titles}) < 2:
        return found
    title = said[max(titles, key=lambda place: found[place][1])]
    only = [
        kinds if said[place] == title else kinds - {LineKind.TITLE}
        for place, kinds in enumerate(possible)
    ]
    return likeliest(signs, blanks, WEIGHTS, only)


def _shown(line: PageLine) -> str:
    return re.sub(r"^\s*#+\s*|^[*_~=\s]+(?=\w)|[*_~=\s]+$", "", line.text).strip()


def _joined(lines: Iterable[ReadLine]) -> list[ReadLine]:
    """Lines that go on are put behind the one they belong to; a word that was parted is whole
    again."""
    found: list[ReadLine] = []
    for line in lines:
        if line.kind is not LineKind.MORE:
            found.append(line)
        elif found:
            before = found[-1]
            parted = re.search(r"[a-z]-$", before.text) and line.text[:1].islower()
            text = before.text[:-1] + line.text if parted else f"{before.text} {line.text}"
            rows = (before.rows[0], line.rows[1])
            found[-1] = replace(
                before, text=text, margin=min(before.margin, line.margin), rows=rows
            )
        else:
            found.append(replace(line, kind=LineKind.ITEM))
    return found


def title_line(lines: Sequence[ReadLine]) -> str:
    """The line with the title: the one that is one, else the likeliest of those above the list;
    empty where none could be."""
    title = next((line.text for line in lines if line.kind is LineKind.TITLE), "")
    return plain_line(title or _likeliest_title(lines)).strip("#*_ ").rstrip(":")[:120]


def title_and_yield(
    lines: Sequence[ReadLine], region: Region = Region.US
) -> tuple[str, Yield | None]:
    """The title, and what its line says beside it that the recipe makes: `Pepper spread - serves
    6`."""
    return _parted(title_line(lines), region)


_PARTS_TITLE = re.compile(r"\s+[-–—|]+\s+|,\s+|\s*\(")


def _parted(title: str, region: Region) -> tuple[str, Yield | None]:
    for parts in _PARTS_TITLE.finditer(title):
        made = read_yield(title[parts.end() :].rstrip(") "), region)
        if made is not None and title[: parts.start()].strip():
            return title[: parts.start()].strip(), made
    return title, None


def _likeliest_title(lines: Sequence[ReadLine]) -> str:
    ends = next(
        (n for n, line in enumerate(lines) if line.kind in (LineKind.LIST, LineKind.ITEM)),
        len(lines),
    )
    above = [plain_line(line.text) for line in lines[:ends]]
    could = [
        text
        for text in above
        if len(text.split()) <= MOST_TITLE_WORDS
        and not text.endswith((".", "!", "?", "…", ",", ":"))
        and not vocabulary.AROUND.search(text)
        and not vocabulary.TIME.search(text)
        and (yield_said(text) is None or _parted(text, Region.US)[1] is not None)
    ]
    return max(
        could,
        key=lambda text: 2 * (above.count(text) > 1) + bool(vocabulary.DISH.search(text)),
        default="",
    )


def item_text(text: str, region: Region) -> str:
    """An ingredient line as it is read: one of two columns, a row of a table with its amount
    first."""
    columns = [column.strip() for column in re.split(r"\s+\|\s+|\t+", text) if column.strip()]
    if len(columns) < 2:
        return text
    columns = _with_units(columns)
    measured = [column for column in columns if _has_amount_first(column)]
    if len(measured) > 1 and measured[0] is columns[0]:
        return measured[-1] if region is Region.METRIC else measured[0]
    if measured and measured[0] is not columns[0]:
        return f"{measured[0]} {columns[0]}"
    return " ".join(columns)


def _with_units(columns: Sequence[str]) -> list[str]:
    """The columns, with a unit that has one of its own put behind its number."""
    found: list[str] = []
    for column in columns:
        if (
            found
            and re.fullmatch(r"[\d./ ½⅓⅔¼¾⅛-]+", found[-1])
            and read_unit(column)[0]
            and not read_unit(column)[1]
        ):
            found[-1] = f"{found[-1]} {column}"
        else:
            found.append(column)
    return found


def _has_amount_first(text: str) -> bool:
    try:
        return read_quantity(plain_line(text))[0] is not None
    except BadQuantity:
        return False


def step_text(text: str) -> str:
    """A step without its number; empty where there is nothing but that."""
    plain = re.sub(r"^\W*step \d{1,2}\b[.:)\s-]*", "", plain_line(text), flags=re.I)
    return re.sub(r"^\d{1,2}(?:[.)]\s*|\s+(?=[A-Z])|$)", "", plain).strip("*_ ")


_IN_WORDS = r"(?:half an?|an?|one|two|three|four|some)"
_NOT_FOOD = r"(?!(?:or|until|at|and|in|before|after|more|time)\b)"
_ENDS = r"(?=[,.;:()]|\s(?:with|and|in|into|to|until|for|on|over|or|together|then)\b|$)"
_AMOUNT_IN_STEP = re.compile(
    rf"(?:{vocabulary.NUMBER}|\b{_IN_WORDS})\s+(?:of )?{vocabulary.UNIT}(?: of)?\s+{_NOT_FOOD}"
    rf"[a-z][\w'’ -]{{2,60}}?{_ENDS}",
    re.I,
)


def amounts_in_step(step: str) -> list[str]:
    """The amounts of food that stand within a step, each as a line of its own: "half a teaspoon of
    salt"."""
    return [found[0].strip() for found in _AMOUNT_IN_STEP.finditer(plain_line(step))]


def part_name(text: str) -> str:
    """The name of a part, from its heading: no number, no "for the", no colon."""
    plain = re.sub(r"^\d{1,2}[.)]?\s+", "", plain_line(text)).strip("#*_ ").rstrip(":")
    return re.sub(r"^for (?:the )?(?=\S)", "", plain, flags=re.I).strip()
