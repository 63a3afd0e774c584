"""Sheets to print as PDF: a title, what stands under it, and tables. Same content, same bytes."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass

import typst


@dataclass(frozen=True, slots=True)
class PaperTable:
    """A table with its heading. `widths` are parts of the line for each column, 0 for as wide as it
    needs."""

    heading: str
    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    widths: tuple[float, ...]


_SOURCE = b"""
#let paper = json(bytes(sys.inputs.paper))
#set document(date: none)
#set page(paper: paper.page, margin: 14mm, footer: context [
  #set text(size: 8pt)
  #paper.foot #h(1fr) #counter(page).display() / #counter(page).final().first()
])
#set text(size: 10pt, lang: "en", hyphenate: false)
#text(size: 18pt, weight: "bold")[#paper.title]
#v(-6pt)
#text(size: 10pt)[#paper.under]
#for t in paper.tables {
  v(4pt)
  text(size: 12pt, weight: "bold")[#t.heading]
  v(-4pt)
  table(
    columns: t.widths.map(w => if w == 0 { auto } else { w * 1fr }),
    stroke: (x, y) => (bottom: 0.4pt + luma(60%)),
    inset: (x: 3pt, y: 4pt),
    table.header(..t.heads.map(h => strong(h))),
    ..t.rows.flatten().map(cell => [#cell]),
  )
}
"""


def paper_pdf(
    title: str, under: str, tables: Sequence[PaperTable], foot: str, page: str = "a4"
) -> bytes:
    """The sheets as a PDF; `page` is `a4` or `us-letter`."""
    paper = {
        "title": title,
        "under": under,
        "tables": [asdict(t) for t in tables],
        "foot": foot,
        "page": page,
    }
    return bytes(typst.compile(_SOURCE, sys_inputs={"paper": json.dumps(paper)}))
