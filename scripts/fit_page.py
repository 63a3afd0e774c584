"""Fits the weights by which lines of a page are told apart, and writes them: `python scripts/fit_page.py`.

From the marked pages of tests/pages/fitted and the recipes of the demo as the workbench itself writes them, by the
averaged structured perceptron (Collins, 2002): a page that is told wrong moves the weights toward what it is.
"""

from __future__ import annotations

import random
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from textwrap import wrap

from page_marks import PAGES, marked_pages

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.yields import read_yield
from fresh_ladle.core.page.evidence import evidence, page_lines, possible_kinds
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.sequence import follows, likeliest
from fresh_ladle.core.page.vocabulary import METHOD_WORD
from fresh_ladle.data.demo_recipes import demo_recipes
from fresh_ladle.data.load import load_reader

TARGET = Path(__file__).parent.parent / "src/fresh_ladle/core/page/weights.py"
ROUNDS, SEED, LEAST = 25, 3, 0.1
MADE = 200
Sums = defaultdict[tuple[str, LineKind], float]


@dataclass(frozen=True, slots=True)
class Example:
    """A page as the reader sees it, and what its lines are."""

    signs: list[frozenset[str]]
    blanks: list[bool]
    possible: list[frozenset[LineKind]]
    kinds: list[LineKind]


def example(text: str, kinds: Sequence[str], reader: Reader) -> Example:
    lines = page_lines(text)
    if len(lines) != len(kinds):
        raise ValueError(f"{len(kinds)} marks for {len(lines)} lines of {text[:40]!r}")
    return Example(
        evidence(lines, reader.knows),
        [line.blank_before for line in lines],
        possible_kinds(lines),
        [LineKind(kind) for kind in kinds],
    )


def as_we_write_them(text: str) -> list[str]:
    """The kinds of the lines of a recipe in the form the workbench writes: its title, lines under headings, steps."""
    kinds, in_method = ["title"], False
    for line in text.strip().splitlines()[1:]:
        if not line.strip():
            continue
        if METHOD_WORD.match(line.strip()):
            in_method, kind = True, "method"
        elif line.startswith("##"):
            kind = "heading"
        elif read_yield(line) is not None:
            kind = "yield"
        else:
            kind = "step" if in_method else "item"
        kinds.append(kind)
    return kinds


def examples(reader: Reader) -> list[Example]:
    marked = [example(page.text, [kind for kind, _ in page.lines if kind], reader) for page in marked_pages("fitted")]
    own = [example(text.strip(), as_we_write_them(text), reader) for text, _ in demo_recipes()]
    made = [example("\n".join(text for _, text in page), [kind for kind, _ in page], reader) for page in short_pages()]
    return marked + own + made


def short_pages() -> list[list[tuple[str, str]]]:
    """Recipes as they are jotted down: a title and a few of the lines that cooks have written, steps below some."""
    chance, lines = random.Random(SEED), []
    for file in sorted((PAGES.parent / "lines").glob("*.tsv")):
        rows = [row.split("\t")[0] for row in file.read_text(encoding="utf-8").splitlines()]
        lines += [row for row in rows if row and not row.startswith("#")]
    every = [row for page in marked_pages("fitted") for row in page.lines]
    titles = [row for row in every if row[0] == "title"]
    steps = [row for row in every if row[0] == "step" and row[1].endswith(".") and len(row[1].split()) > 3]
    found = []
    for number in range(MADE):
        page = [("title", chance.choice([*(text for _, text in titles), "Dish", "Test", "Dip", "Salad", "Odd"]))]
        page += [("yield", chance.choice(["Serves 4", "Serves 8", "Makes 2 cups"]))] if number % 3 == 0 else []
        page += [("item", chance.choice(lines)) for _ in range(chance.randint(1, 9))]
        if number % 4 == 1:
            page += [("method", "Method"), *chance.sample(steps, chance.randint(1, 4))]
        if number % 4 == 3:
            page += chance.sample(steps, chance.randint(1, 3))
        found.append(page)
    return found


def moved(sums: Sums, page: Example, kinds: Sequence[LineKind], by: float) -> None:
    """Adds what speaks for these kinds on this page."""
    for n, kind in enumerate(kinds):
        for sign in page.signs[n]:
            sums[sign, kind] += by
        if n:
            for name in follows(kinds[n - 1], page.blanks[n]):
                sums[name, kind] += by


def table(sums: Sums, share: float = 1.0) -> dict[str, dict[str, float]]:
    weights: dict[str, dict[str, float]] = defaultdict(dict)
    for (sign, kind), value in sums.items():
        if value:
            weights[sign][kind] = value * share
    return weights


def fitted(pages: list[Example]) -> dict[str, dict[str, float]]:
    """Weights averaged over all rounds, so that the last page does not weigh most."""
    now, all_rounds, chance, step = Sums(float), Sums(float), random.Random(SEED), 1
    for _ in range(ROUNDS):
        chance.shuffle(pages)
        for page in pages:
            found = [kind for kind, _ in likeliest(page.signs, page.blanks, table(now), page.possible)]
            if found != page.kinds:
                for sums, share in ((now, 1.0), (all_rounds, float(step))):
                    moved(sums, page, page.kinds, share)
                    moved(sums, page, found, -share)
            step += 1
    averaged = Sums(float, {key: value - all_rounds[key] / step for key, value in now.items()})
    return table(averaged)


def written(weights: dict[str, dict[str, float]]) -> str:
    """The table as a module: a row for each sign, each kind with its weight, in lines that a page holds."""
    rows = []
    for sign in sorted(weights):
        kept = [f"{kind} {value:.1f}" for kind, value in sorted(weights[sign].items()) if abs(value) >= LEAST]
        if kept:
            rows += wrap(f"{sign}: {', '.join(kept)}", 110, subsequent_indent="    ", break_on_hyphens=False)
    head = '"""What each sign of a line speaks for. Written by scripts/fit_page.py: fit anew, never edit."""'
    return f'{head}\n\nfrom __future__ import annotations\n\nTABLE = """\\\n' + "\n".join(rows) + '\n"""\n'


def main() -> None:
    pages = examples(load_reader())
    TARGET.write_text(written(fitted(pages)), encoding="utf-8")


if __name__ == "__main__":
    main()
