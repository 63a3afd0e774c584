"""Recipes as spreadsheets: a CSV or XLSX of lines in, and lines with their figures out."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from typing import Any

from openpyxl import Workbook, load_workbook
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE

from fresh_ladle.core.foods.nutrient import NUTRIENTS
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.formats.limits import FileError, checked_zip, decoded

MAX_ROWS = 2000
MAX_COLUMNS, MAX_CELL_CHARACTERS = 20, 1000
MAX_UNPACKED_BYTES = 16_000_000
"""What the parts of a sheet may come to. Two thousand rows of a recipe's columns are well under a
tenth of it."""
_LINE_HEADS = {"ingredient", "ingredients", "line", "item", "as written"}
_AMOUNT_HEADS, _UNIT_HEADS, _FOOD_HEADS = (
    {"amount", "quantity", "qty"},
    {"unit", "measure", "units"},
    {"food", "name", "product"},
)
_PREPARATION_HEADS, _COMPONENT_HEADS = (
    {"preparation", "prep", "notes", "note"},
    {"component", "section", "part"},
)


def recipe_text_from_csv(data: bytes, title: str) -> str:
    """Lines of a CSV as plain recipe text. Raises FileError for missing columns or too many
    rows."""
    text = decoded(data)
    try:
        dialect: type[csv.Dialect] | csv.Dialect = csv.Sniffer().sniff(
            text[:4000], delimiters=",;\t|"
        )
    except csv.Error:
        dialect = csv.excel
    try:
        rows = list(csv.reader(io.StringIO(text), dialect))
    except csv.Error as error:
        raise FileError(f"this CSV is damaged ({error}): save it again") from None
    return _as_text(rows, title)


def recipe_text_from_xlsx(data: bytes, title: str) -> str:
    """Lines of the first sheet as plain recipe text. Raises FileError for a bomb, missing columns
    or too many rows."""
    checked_zip(data, MAX_UNPACKED_BYTES)
    try:
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True, keep_links=False)
        sheet = book.worksheets[0]
        rows = [
            ["" if cell is None else str(cell)[:MAX_CELL_CHARACTERS] for cell in row]
            for row in sheet.iter_rows(max_row=MAX_ROWS + 1, max_col=MAX_COLUMNS, values_only=True)
        ]
    except Exception as error:
        # A damaged sheet raises whatever the part that was damaged makes the reading library raise.
        raise FileError(
            f"this spreadsheet cannot be read ({error}): save it as XLSX or CSV again"
        ) from None
    return _as_text(rows, title)


def _column(heads: Sequence[str], wanted: set[str]) -> int | None:
    return next((n for n, head in enumerate(heads) if head in wanted), None)


def _cell(row: list[str], place: int | None) -> str:
    return row[place] if place is not None and place < len(row) else ""


def _as_text(rows: list[list[str]], title: str) -> str:
    rows = [[cell.strip() for cell in row] for row in rows if any(cell.strip() for cell in row)]
    if not rows:
        raise FileError("this sheet is empty")
    if len(rows) > MAX_ROWS:
        raise FileError(
            f"this sheet has more than {MAX_ROWS:,} rows; a recipe has at most 200 lines"
        )
    heads = [cell.lower() for cell in rows[0]]
    line, food = _column(heads, _LINE_HEADS), _column(heads, _FOOD_HEADS)
    if line is None and food is None:
        if len(rows[0]) > 1:
            raise FileError(
                "no column is called “ingredient”, or “food” with “amount”: name one so in the"
                " first row"
            )
        line, rows = 0, [["ingredient"], *rows]
    parts = [_column(heads, h) for h in (_AMOUNT_HEADS, _UNIT_HEADS, _FOOD_HEADS)]
    preparation, component = _column(heads, _PREPARATION_HEADS), _column(heads, _COMPONENT_HEADS)
    lines, last = [title], ""
    for row in rows[1:]:
        text = (
            _cell(row, line)
            if line is not None and _cell(row, line)
            else " ".join(p for n in parts if (p := _cell(row, n)))
        )
        if _cell(row, preparation) and text:
            text += f", {_cell(row, preparation)}"
        if _cell(row, component) and _cell(row, component) != last:
            last = _cell(row, component)
            lines.append(f"## {last}")
        if text:
            lines.append(text)
    return "\n".join(lines)


def _table(appraisal: Appraisal) -> list[list[Any]]:
    """Heads, one row a line with grams and figures of the batch, then the batch and one serving.
    Unknown is blank."""
    rows: list[list[Any]] = [
        ["component", "ingredient", "food", "grams", "low", "high", *(n.id for n in NUTRIENTS)]
    ]
    for p in appraisal.portions:
        figures = appraisal.totals.per_line[p.line.id]
        grams = [p.in_bowl.value, p.in_bowl.low, p.in_bowl.high] if p.known else ["", "", ""]
        rows.append(
            [
                p.line.component,
                p.line.text,
                p.line.food or "",
                *grams,
                *("" if figures[n.id] is None else figures[n.id] for n in NUTRIENTS),
            ]
        )
    batch, totals = appraisal.totals.batch_grams, appraisal.totals
    rows.append(
        [
            "",
            "batch",
            "",
            batch.value,
            batch.low,
            batch.high,
            *(totals.batch[n.id].value for n in NUTRIENTS),
        ]
    )
    rows.append(
        [
            "",
            f"one of {totals.servings:g} servings",
            "",
            totals.serving_grams,
            "",
            "",
            *(totals.serving[n.id].value for n in NUTRIENTS),
        ]
    )
    return rows


def _harmless(cell: Any) -> Any:
    """Text that a spreadsheet would take for a formula is written as text, without characters no
    sheet can hold."""
    if not isinstance(cell, str):
        return cell
    text = ILLEGAL_CHARACTERS_RE.sub("", cell)
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r", "\n") else text


def csv_text(heads: Sequence[str], rows: Sequence[Sequence[Any]]) -> str:
    """A table as CSV, with nothing in it that a spreadsheet would run."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\r\n").writerows(
        [_harmless(c) for c in row] for row in (heads, *rows)
    )
    return out.getvalue()


def xlsx_bytes(
    heads: Sequence[str], rows: Sequence[Sequence[Any]], title: str, freeze: str = "A2"
) -> bytes:
    """A table as a sheet of that title, its heads kept in sight."""
    book = Workbook()
    sheet = book.active
    sheet.title = title
    for row in (heads, *rows):
        sheet.append([_harmless(c) for c in row])
    sheet.freeze_panes = freeze
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def csv_of(appraisal: Appraisal) -> str:
    heads, *rows = _table(appraisal)
    return csv_text(heads, rows)


def xlsx_of(appraisal: Appraisal) -> bytes:
    heads, *rows = _table(appraisal)
    return xlsx_bytes(heads, rows, "Lines", "C2")
