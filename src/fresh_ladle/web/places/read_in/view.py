"""A page as it was understood, for the screen: what to look at first, the parts, the steps, and
what was left out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.part_use import PartUse
from fresh_ladle.core.amounts.reading import LineReading
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.nutrients.wording import grams_range_text, grams_text, sureness
from fresh_ladle.core.page.evidence import text_rows
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.page import item_text, step_text
from fresh_ladle.core.page.recipe_text import RecipeReading
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.web.shared.method_view import StepView, step_views

MARKS = (
    (LineKind.ITEM, "I", "ingredient"),
    (LineKind.HEADING, "H", "heading"),
    (LineKind.STEP, "S", "step"),
    (LineKind.NOTE, "N", "note"),
    (LineKind.TITLE, "T", "title"),
    (LineKind.AROUND, "X", "nothing"),
)
"""What a line can be told to be, each with its key and its name."""
NAMES: Mapping[LineKind, str] = {kind: name for kind, _, name in MARKS} | {
    LineKind.AROUND: "left out",
    LineKind.YIELD: "what it makes",
    LineKind.TIME: "a time",
    LineKind.LIST: "a word of the page",
    LineKind.METHOD: "a word of the page",
}


@dataclass(frozen=True, slots=True)
class Understood:
    """What was understood of an ingredient line."""

    food: str | None
    name: str
    grams: str
    grams_range: str
    sure: str
    alternatives: list[tuple[str, str]]
    preparations: list[str]
    counted: str
    problem: str | None


@dataclass(frozen=True, slots=True)
class RowView:
    """One row: where it stands in the page, what it is told to be, and what was understood of it.
    `rows` are the first and last row of the paste that it came from, `told` whether that is
    sure."""

    place: int
    kind: LineKind
    text: str
    choice: str
    rows: tuple[int, int]
    told: bool
    understood: Understood | None = None
    step: StepView | None = None

    @property
    def name(self) -> str:
        return NAMES[self.kind]


@dataclass(slots=True)
class PartView:
    """A part of the recipe: its heading, where it has one, and its lines."""

    heading: RowView | None = None
    rows: list[RowView] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class PasteRow:
    """A row of what was pasted, with the place of what it became; None for a blank one."""

    text: str
    kind: LineKind | None
    place: int | None


@dataclass(frozen=True, slots=True)
class ReadInView:
    """A page as it was understood. `unsure` are the rows to look at first; `steps` has the headings
    that stand among steps."""

    unsure: list[RowView]
    parts: list[PartView]
    steps: list[RowView]
    notes: list[RowView]
    others: list[RowView]
    problems: int
    to_check: int


def read_in_view(reading: RecipeReading, now: Appraisal, knowledge: Knowledge) -> ReadInView:
    """`reading` has at most one ingredient in a row; `now` is its recipe worked out."""
    rows = _row_views(reading, now, knowledge)
    parts, steps, notes, others = [PartView()], list[RowView](), list[RowView](), list[RowView]()
    for place, row in enumerate(rows):
        if row.kind is LineKind.ITEM:
            parts[-1].rows.append(row)
        elif row.kind is LineKind.HEADING and not _heads_steps(rows[place + 1 :]):
            parts.append(PartView(row))
        elif row.kind in (LineKind.STEP, LineKind.HEADING):
            steps.append(row)
        else:
            (notes if row.kind is LineKind.NOTE else others).append(row)
    eaten = [row.understood for row in rows if row.understood is not None]
    return ReadInView(
        [row for row in rows if not row.told],
        [part for part in parts if part.heading or part.rows],
        steps,
        notes,
        others,
        sum(one.problem is not None for one in eaten),
        sum(one.sure == "check" for one in eaten),
    )


def _heads_steps(below: Sequence[RowView]) -> bool:
    """Whether what stands under a heading is work."""
    kinds = (row.kind for row in below)
    return (
        next((k for k in kinds if k in (LineKind.ITEM, LineKind.STEP, LineKind.HEADING)), None)
        is LineKind.STEP
    )


def _row_views(reading: RecipeReading, now: Appraisal, knowledge: Knowledge) -> list[RowView]:
    of_place = {
        place: _understood(read, portion, knowledge)
        for place, read, portion in zip(reading.places, reading.readings, now.portions, strict=True)
    }
    used = {use.said: use for use in reading.uses}
    steps = iter(step_views(now))
    found = []
    for place, row in enumerate(reading.page):
        understood = of_place.get(place)
        if row.kind is LineKind.ITEM and understood is None:
            understood = _of_a_part(
                used.get(plain_line(item_text(row.text, reading.recipe.region)))
            )
        text, step = row.text, None
        if row.kind is LineKind.HEADING:
            text = row.text.strip("#*_ ")
        elif row.kind is LineKind.STEP and step_text(row.text):
            text, step = step_text(row.text), next(steps, None)
        found.append(
            RowView(place, row.kind, text, row.food, row.rows, not row.unsure, understood, step)
        )
    return found


def _of_a_part(use: PartUse | None) -> Understood:
    """A line that uses another part of the recipe; of one that does not either nothing was
    understood."""
    if use is None:
        return Understood(
            None, "", "", "", "not understood", [], [], "", "no food is named on this line"
        )
    said = f"{use.grams:,.0f} g" if use.grams else f"{use.share:.0%}"
    return Understood(None, f"{said} of {use.component}", "", "", "clear", [], [], "", None)


def _understood(reading: LineReading, portion: Portion, knowledge: Knowledge) -> Understood:
    labels, line = knowledge.preparations.labels, reading.line
    return Understood(
        line.food,
        portion.food.name if portion.food else "",
        (("about " if portion.estimated else "") + grams_text(portion.measured))
        if portion.known
        else "? g",
        grams_range_text(portion.measured) if portion.known else "",
        "not understood" if reading.problem else sureness(line.confidence),
        [(c.food, c.name) for c in reading.alternatives],
        [labels[p] for p in line.preparations if p != "cut" and (p != "boil" or _is_dry(portion))],
        ""
        if line.eaten == 1
        else f"{line.eaten:.0%} of it is counted"
        if line.eaten
        else "not counted: another is taken",
        reading.problem or portion.problem,
    )


def _is_dry(portion: Portion) -> bool:
    """Boiling is told of what takes up water by it: a boiled egg was never dry."""
    return portion.food is not None and portion.food.form == "dry"


def paste_rows(paste: str, reading: RecipeReading) -> list[PasteRow]:
    """The rows of what was pasted, each with what it became."""
    became: dict[int, int] = {}
    for place, row in enumerate(reading.page):
        for number in range(row.rows[0], row.rows[1] + 1):
            became.setdefault(number, place)
    found = []
    for number, text in enumerate(text_rows(paste) if paste.strip() else []):
        at = became.get(number)
        found.append(PasteRow(text.strip(), reading.page[at].kind if at is not None else None, at))
    return found
