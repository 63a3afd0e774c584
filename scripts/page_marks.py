"""Pages of tests/pages, in which it stands of every line what it is."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from fresh_ladle.core.amounts.clean import plain_line

PAGES = Path(__file__).parent.parent / "tests/pages"


@dataclass(frozen=True, slots=True)
class MarkedPage:
    """A page with what each of its lines is; a blank line is marked with nothing."""

    name: str
    lines: tuple[tuple[str, str], ...]

    @property
    def text(self) -> str:
        return "\n".join(text for _, text in self.lines)

    def marked(self, *kinds: str) -> list[str]:
        return [plain_line(text) for kind, text in self.lines if kind in kinds]


def marked_pages(folder: str) -> list[MarkedPage]:
    pages = []
    for file in sorted((PAGES / folder).glob("*.tsv")):
        rows = [line.partition("\t") for line in file.read_text(encoding="utf-8").splitlines()]
        pages.append(MarkedPage(file.stem, tuple((kind, text) for kind, _, text in rows)))
    return pages
