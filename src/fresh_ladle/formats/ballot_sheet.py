"""Ballots as a CSV: a row for each seat, under the names of what was asked. Read whole or not at
all."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from fresh_ladle.formats.limits import FileError, decoded
from fresh_ladle.formats.sheet import csv_text

MAX_ROWS, MAX_COLUMNS = 400, 12


class SheetKind(StrEnum):
    """What a sheet of ballots answers."""

    TRIANGLE = "triangle"
    TWO_ALTERNATIVE = "two-alternative"
    PREFERENCE = "preference"
    LIKING = "liking"
    JUST_RIGHT = "just-right"
    RANKING = "ranking"


@dataclass(frozen=True, slots=True)
class BallotSheet:
    """Whole answers by seat, in the order of `columns`: 1 or 0 for right, 0 or 1 for a or b, else
    the score as it was written. `left_out` are the seats that left something open."""

    columns: tuple[str, ...]
    answers: dict[str, tuple[int, ...]]
    left_out: tuple[str, ...]


def read_ballots(data: bytes, kind: SheetKind) -> BallotSheet:
    """Raises FileError naming the row and what is wrong with it."""
    rows = _rows(data)
    heads = tuple(cell.lower() for cell in rows[0])
    _check_heads(heads, kind)
    answers, left_out = dict[str, tuple[int, ...]](), []
    for number, row in enumerate(rows[1:], start=2):
        seat = row[0]
        if not seat:
            raise FileError(f"row {number}: which seat is this?")
        if seat in answers or seat in left_out:
            raise FileError(f"row {number}: seat {seat} stands there twice; a taster counts once")
        if len(row) > len(heads):
            raise FileError(f"row {number}: {len(row)} cells under {len(heads)} names")
        cells = [*row[1:], *[""] * (len(heads) - len(row))]
        if not all(cells):
            left_out.append(seat)
            continue
        answers[seat] = tuple(
            _value(cell, head, kind, number, len(heads) - 1)
            for cell, head in zip(cells, heads[1:], strict=True)
        )
        if kind is SheetKind.RANKING and len(set(answers[seat])) < len(answers[seat]):
            raise FileError(
                f"row {number}: seat {seat} gave one rank twice; each rank is given once"
            )
    if not answers:
        raise FileError("no seat answered all that was asked")
    return BallotSheet(heads[1:], answers, tuple(left_out))


def _rows(data: bytes) -> list[list[str]]:
    try:
        rows = [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(decoded(data)))]
    except csv.Error as error:
        raise FileError(f"this CSV is damaged ({error}): save it again") from None
    rows = [row for row in rows if any(row)]
    if not rows or len(rows) > MAX_ROWS + 1 or len(rows[0]) > MAX_COLUMNS:
        raise FileError(
            f"a sheet of ballots has a row of names, and 1 to {MAX_ROWS} rows of at most"
            f" {MAX_COLUMNS}"
        )
    return rows


def read_marked(data: bytes, asked: Sequence[str]) -> dict[int, dict[int, dict[str, int]]]:
    """A sheet as it is typed from printed ballots: `seat,cup` and what was asked of each cup, by
    seat and code.

    Raises FileError naming the row and what is wrong with it.
    """
    rows, heads = _rows(data), ("seat", "cup", *asked)
    if tuple(cell.lower() for cell in rows[0]) != heads:
        raise FileError(f"row 1: the names of this sheet are {','.join(heads)}")
    found = dict[int, dict[int, dict[str, int]]]()
    for number, row in enumerate(rows[1:], start=2):
        if len(row) != len(heads) or not all(row):
            raise FileError(f"row {number}: {len(heads)} cells are wanted, and none may be empty")
        seat, cup = (
            _whole(cell, head, number, 1, 999) for cell, head in zip(row[:2], heads, strict=False)
        )
        if cup in found.get(seat, {}):
            raise FileError(f"row {number}: seat {seat} and cup {cup} stand there twice")
        found.setdefault(seat, {})[cup] = {
            name: _whole(cell, name, number, *_MARKS.get(name, (-2, 2)))
            for cell, name in zip(row[2:], asked, strict=True)
        }
    if not found:
        raise FileError("this sheet has no ballot")
    return found


_MARKS = {"liking": (1, 9), "rank": (1, 4)}


def ballots_csv(heads: Sequence[str], rows: Sequence[Sequence[object]]) -> str:
    """Ballots as a CSV that `read_ballots` reads again."""
    return csv_text(heads, rows)


_ONE_COLUMN = {
    SheetKind.TRIANGLE: "correct",
    SheetKind.TWO_ALTERNATIVE: "correct",
    SheetKind.PREFERENCE: "preferred",
}


def _check_heads(heads: Sequence[str], kind: SheetKind) -> None:
    wanted = f"seat,{_ONE_COLUMN[kind]}" if kind in _ONE_COLUMN else ""
    if kind in (SheetKind.LIKING, SheetKind.RANKING):
        wanted = (
            ""
            if heads[0] == "seat" and len(heads) >= 3
            else "seat,a,b and so on, a column for each version"
        )
    elif kind is SheetKind.JUST_RIGHT:
        wanted = (
            ""
            if tuple(heads[:2]) == ("seat", "liking") and len(heads) >= 3
            else "seat,liking,salt and so on"
        )
    elif ",".join(heads) == wanted:
        wanted = ""
    if wanted or len(set(heads)) < len(heads) or not all(heads):
        raise FileError(f"row 1: the names of a sheet for {kind} are {wanted or 'each another'}")


def _value(cell: str, head: str, kind: SheetKind, row: int, columns: int) -> int:
    """A cell as a number. Raises FileError naming what may stand there."""
    if kind is SheetKind.PREFERENCE:
        if cell.lower() not in ("a", "b"):
            raise FileError(f"row {row}: {cell[:20]!r} is neither a nor b")
        return int(cell.lower() == "b")
    low, high = {
        SheetKind.LIKING: (1, 9),
        SheetKind.RANKING: (1, columns),
        SheetKind.JUST_RIGHT: (1, 9) if head == "liking" else (-2, 2),
    }.get(kind, (0, 1))
    return _whole(cell, head, row, low, high)


def _whole(cell: str, head: str, row: int, low: int, high: int) -> int:
    number = cell.replace("−", "-").removeprefix("+")
    if not re.fullmatch(r"-?[0-9]{1,6}", number) or not low <= int(number) <= high:
        raise FileError(
            f"row {row}: {head} is a whole number from {low} to {high}, not {cell[:20]!r}"
        )
    return int(number)
