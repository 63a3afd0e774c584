"""Tub labels as a PDF: a sheet of them on a grid, true to the millimeter, or one by one. Same
labels, same bytes."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from dataclasses import asdict, dataclass

import typst

from fresh_ladle.core.recipes.recipe import RecipeError

MOST_LABELS = 2000
PAGE_MM = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}


@dataclass(frozen=True, slots=True)
class LabelGrid:
    """A sheet of labels: columns and rows, the size of a label, the margins at the top and left,
    and the gaps, all in millimeters. Raises RecipeError for a grid that does not fit its page."""

    page: str = "A4"
    columns: int = 3
    rows: int = 8
    width: float = 70.0
    height: float = 36.0
    top: float = 4.5
    left: float = 0.0
    gap_across: float = 0.0
    gap_down: float = 0.0

    def __post_init__(self) -> None:
        if self.page not in PAGE_MM:
            raise RecipeError(f"a sheet is one of {', '.join(PAGE_MM)}")
        if not (
            1 <= self.columns <= 20
            and 1 <= self.rows <= 40
            and self.width >= 15
            and self.height >= 10
        ):
            raise RecipeError(
                "a label is at least 15 by 10 mm, on 1 to 20 columns and 1 to 40 rows"
            )
        if min(self.top, self.left, self.gap_across, self.gap_down) < 0:
            raise RecipeError("margins and gaps are 0 mm or more")
        across = self.left + self.columns * self.width + (self.columns - 1) * self.gap_across
        down = self.top + self.rows * self.height + (self.rows - 1) * self.gap_down
        page_width, page_height = PAGE_MM[self.page]
        if across > page_width + 0.01 or down > page_height + 0.01:
            raise RecipeError(
                f"the labels come to {across:g} by {down:g} mm, more than the {page_width:g} by"
                f" {page_height:g} mm of {self.page}"
            )

    def place(self, number: int) -> tuple[float, float]:
        """The upper left corner of the label of that number on its page, from 0, in mm from the
        upper left."""
        row, column = divmod(number % (self.columns * self.rows), self.columns)
        return (
            self.left + column * (self.width + self.gap_across),
            self.top + row * (self.height + self.gap_down),
        )

    @property
    def written(self) -> str:
        """As it is kept and typed: `A4 3x8 70x36 4.5 0 0 0`."""
        numbers = (self.top, self.left, self.gap_across, self.gap_down)
        tail = " ".join(f"{n:g}" for n in numbers)
        return f"{self.page} {self.columns}x{self.rows} {self.width:g}x{self.height:g} {tail}"


def grid_of(text: str) -> LabelGrid:
    """A grid as it is kept. Raises RecipeError for one that cannot be read or be."""
    match = re.fullmatch(
        r"(\w+) (\d+)x(\d+) ([\d.]+)x([\d.]+) ([\d.]+) ([\d.]+) ([\d.]+) ([\d.]+)", text.strip()
    )
    if match is None:
        raise RecipeError(
            "a sheet of labels is written as its page, columns x rows, width x height, and margins"
            " in mm"
        )
    page, columns, rows, *lengths = match.groups()
    try:
        return LabelGrid(page, int(columns), int(rows), *(float(n) for n in lengths))
    except ValueError as error:
        raise RecipeError(str(error)) from None


@dataclass(frozen=True, slots=True)
class Label:
    """What stands on a tub."""

    dish: str
    made: str
    use_by: str
    allergens: str
    keep: str
    portion: str
    practice: str = ""


_SOURCE = b"""
#let sheet = json(bytes(sys.inputs.sheet))
#set document(date: none)
#set page(width: sheet.width * 1mm, height: sheet.height * 1mm, margin: 0mm)
#set text(lang: "en", hyphenate: false)
#set par(leading: 0.42em, spacing: 0.5em)
#let body(x, size) = text(size: size)[
  #text(size: 1.25em, weight: "bold")[#x.dish] \\
  #strong[Use by #x.use_by] #h(1fr) made #x.made \\
  #x.keep \\
  #x.allergens \\
  #x.portion #h(1fr) #x.practice
]
// Nothing of a label may be cut off: the letters shrink until all of it fits.
#let fitted(x) = context {
  let (width, height) = ((sheet.label_width - 5) * 1mm, (sheet.label_height - 5) * 1mm)
  let size = sheet.size * 1pt
  while measure(block(width: width, body(x, size))).height > height {
    size -= 0.25pt
    if size < sheet.least * 1pt { panic("label too small") }
  }
  block(width: width, body(x, size))
}
#for (number, page) in sheet.pages.enumerate() {
  if number > 0 { pagebreak() }
  for x in page {
    place(top + left, dx: x.x * 1mm, dy: x.y * 1mm,
      box(width: sheet.label_width * 1mm, height: sheet.label_height * 1mm, inset: 2.5mm, fitted(x)))
  }
}
"""
MOST_PT, LEAST_PT = 10.0, 5.0
"""Letters of a label: as large as it holds, and never too small to read."""


def checked_counts(counts: Sequence[int]) -> Sequence[int]:
    """How many labels of each dish, all together no more than are printed at a time, before any is
    made. Raises RecipeError."""
    if not 1 <= sum(counts) <= MOST_LABELS:
        raise RecipeError(
            f"1 to {MOST_LABELS:,} labels are printed at a time; {sum(counts):,} were asked for"
        )
    return counts


def labels_pdf(labels: Sequence[Label], grid: LabelGrid, skip: int = 0) -> bytes:
    """A PDF of all labels on the grid, beginning after `skip` places that are used already. Raises
    RecipeError for none or too many."""
    checked_counts([len(labels)])
    each = grid.columns * grid.rows
    if not 0 <= skip < each:
        raise RecipeError(f"of {each} places on a sheet 0 to {each - 1} can be left free")
    pages: list[list[dict[str, object]]] = []
    for number, label in enumerate(labels, start=skip):
        if number % each == 0 or not pages:
            pages.append([])
        x, y = grid.place(number)
        pages[-1].append({**asdict(label), "x": x, "y": y})
    return _printed(pages, *PAGE_MM[grid.page], grid.width, grid.height)


def single_labels_pdf(labels: Sequence[Label], grid: LabelGrid) -> bytes:
    """Each label on a page of its own size, for a label printer. Raises RecipeError for none or too
    many."""
    checked_counts([len(labels)])
    pages = [[{**asdict(label), "x": 0.0, "y": 0.0}] for label in labels]
    return _printed(pages, grid.width, grid.height, grid.width, grid.height)


def _printed(
    pages: Sequence[Sequence[dict[str, object]]],
    width: float,
    height: float,
    label_width: float,
    label_height: float,
) -> bytes:
    sheet = {
        "width": width, "height": height, "label_width": label_width, "label_height": label_height,
        "size": MOST_PT,
        "least": LEAST_PT, "pages": pages,
    }  # fmt: skip
    try:
        return bytes(typst.compile(_SOURCE, sys_inputs={"sheet": json.dumps(sheet)}))
    except RuntimeError as error:
        if "label too small" not in str(error):
            raise
        raise RecipeError(
            f"a label of {label_width:g} by {label_height:g} mm is too small for all that it"
            " must say"
        ) from None
