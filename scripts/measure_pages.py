"""How well whole pages are read: `python scripts/measure_pages.py [FOLDER ...]`, those that were
fitted to by default.

Each page of tests/pages says of every line what it is. Counted are ingredients found, ingredients
invented, steps that are steps, and pages on which all of it is right."""

from __future__ import annotations

import sys
from dataclasses import dataclass

from page_marks import MarkedPage, marked_pages

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.page.evidence import page_lines
from fresh_ladle.core.page.page import kinds_of, step_text
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.data.load import load_reader


@dataclass(frozen=True, slots=True)
class Count:
    """What was counted on a page."""

    items: int
    found: int
    invented: int
    steps: int
    steps_found: int
    title: bool

    @property
    def whole(self) -> bool:
        return (
            self.title
            and not self.invented
            and self.found == self.items
            and self.steps_found == self.steps
        )


def counted(page: MarkedPage, reader: Reader) -> Count:
    """What the reader makes of a page; nothing where it finds no recipe."""
    items, steps = (
        page.marked("item"),
        [said for step in page.marked("step") if (said := step_text(step))],
    )
    try:
        reading = read_recipe(page.text, reader)
    except RecipeError:
        return Count(len(items), 0, 0, len(steps), 0, False)
    lines = [_words(r.line.text) for r in reading.readings]
    understood = [_words(r.line.text) for r in reading.readings if r.line.food is not None]
    method = _letters(" ".join(reading.recipe.method))
    found = [
        one
        for one in items
        if any((line and line <= _words(one)) or _words(one) <= line for line in understood)
    ]
    of_items = _letters("".join(page.marked("item", "more")))
    invented = [line for line in lines if not all(word in of_items for word in line)]
    title = _letters(reading.recipe.title) == _letters(next(iter(page.marked("title")), ""))
    return Count(
        len(items),
        len(found),
        len(invented),
        len(steps),
        sum(_letters(step) in method for step in steps),
        title,
    )


def _words(text: str) -> set[str]:
    return {_letters(word) for word in text.split() if _letters(word)}


def _letters(text: str) -> str:
    return "".join(c for c in text.lower() if c.isalnum())


def kinds_right(page: MarkedPage, reader: Reader) -> list[tuple[str, str, str]]:
    """Each line of a page with what it is and what it was taken for."""
    lines = page_lines(page.text)
    found = kinds_of(lines, reader.knows)
    marked = [kind for kind, _ in page.lines if kind]
    return [
        (line.text, kind, told) for line, kind, (told, _) in zip(lines, marked, found, strict=True)
    ]


def main() -> int:
    reader = load_reader()
    for folder in sys.argv[1:] or ["fitted"]:
        told = [
            (page.name, *row) for page in marked_pages(folder) for row in kinds_right(page, reader)
        ]
        wrong = [(name, text, kind, said) for name, text, kind, said in told if kind != said]
        for name, text, kind, said in wrong:
            print(f"{name:22} {text[:60]!r} is {kind}, not {said}")
        print(
            f"{folder}: {len(told) - len(wrong)} of {len(told)} lines are what they were taken for"
        )
        counts = {page.name: counted(page, reader) for page in marked_pages(folder)}
        for name, c in counts.items():
            print(
                f"{'whole' if c.whole else '     '} {name:22} items {c.found}/{c.items} invented"
                f" {c.invented} steps {c.steps_found}/{c.steps}{'' if c.title else ' title'}"
            )
        print(
            f"{folder}: {sum(c.whole for c in counts.values())} of {len(counts)} pages whole; items"
            f" {sum(c.found for c in counts.values())} of {sum(c.items for c in counts.values())},"
            f" invented {sum(c.invented for c in counts.values())}, steps"
            f" {sum(c.steps_found for c in counts.values())} of"
            f" {sum(c.steps for c in counts.values())}"
        )
    return 0


if __name__ == "__main__":
    sys.exit(main())
