"""A page as Read-in shows it, row by row: what each is told to be, and the one act that is asked of
them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pydantic import BaseModel, Field

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.page import ReadLine
from fresh_ladle.core.page.recipe_text import MAX_CHARACTERS, RecipeReading, recipe_of
from fresh_ladle.core.page.rows import SURE, TOLD, joined, parted, turned
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import MAX_LINES, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.recipes.ruling import (
    AS_READ,
    ReadAs,
    Ruling,
    still_said,
    with_ruling,
    without_ruling,
)
from fresh_ladle.web.shared.typed import number_typed, optional_number

MAX_ROWS, MAX_NOTES = 2 * MAX_LINES, 460
"""Rows of a page, and characters of its notes that are kept with the recipe."""
NOT_WHOLE = "the form was incomplete: paste the recipe again"


class PreviewForm(BaseModel):
    """The page as sent. `line`, `sort`, `choice`, `rows`, `told` and `place` hold one entry for
    each row in one order; all but the lines may be missing, and then all are ingredients. `turn` is
    `PLACE:KIND`, `split` `PLACE:CHARACTER`, `join` `PLACE`; `add` is a line that the page lacks.
    `ruled` are the steps that were set right so far, `rule` is one more, each `NTH:WHAT IT IS:ITS
    WORDS`."""

    title: str = ""
    kind: str = ""
    servings: str = ""
    region: Region = Region.US
    profile_id: str = ""
    yield_ml: str = ""
    guessed_kind: str = Field(default="", max_length=40)
    guessed_servings: str = Field(default="", max_length=20)
    paste: str = Field(default="", max_length=2 * MAX_CHARACTERS)
    line: list[str] = Field(default_factory=list, max_length=MAX_ROWS)
    sort: list[LineKind] = Field(default_factory=list, max_length=MAX_ROWS)
    choice: list[str] = Field(default_factory=list, max_length=MAX_ROWS)
    rows: list[str] = Field(default_factory=list, max_length=MAX_ROWS)
    told: list[str] = Field(default_factory=list, max_length=MAX_ROWS)
    place: list[int] = Field(default_factory=list, max_length=MAX_ROWS)
    turn: str = Field(default="", max_length=20)
    split: str = Field(default="", max_length=20)
    join: str = Field(default="", max_length=20)
    add: str = Field(default="", max_length=400)
    ruled: list[str] = Field(default_factory=list, max_length=MAX_ROWS)
    rule: str = Field(default="", max_length=MAX_CHARACTERS)

    def page(self, reader: Reader) -> list[ReadLine]:
        """The rows in the order of the page, after what was asked of them, without those that were
        cleared. Raises RecipeError for rows that did not arrive whole."""
        rows = self._acted(self._sent(reader))
        if self.add.strip():
            after = [
                place
                for place, row in enumerate(rows)
                if row.kind in (LineKind.ITEM, LineKind.HEADING)
            ]
            at = after[-1] + 1 if after else len(rows)
            rows.insert(at, ReadLine(LineKind.ITEM, self.add.strip(), SURE))
        return [row for row in rows if row.text.strip()]

    def reading(self, page: Sequence[ReadLine], reader: Reader) -> RecipeReading:
        """The recipe of the rows, with the title, kind and servings of the form. Raises RecipeError
        naming what is wrong."""
        fewest, most = self._servings()
        if self.kind not in dishes.BY_ID:
            raise RecipeError("choose a kind of dish from the list")
        if not any(row.kind is LineKind.ITEM for row in page):
            raise RecipeError("no lines are left: keep at least one ingredient")
        read = recipe_of(
            page,
            reader,
            self.region,
            kind=self.kind,
            servings=(fewest + most) / 2,
            steps_apart=True,
        )
        recipe = replace(
            read.recipe,
            title=self._title(read.recipe.title),
            servings_range=(fewest, most) if fewest < most else None,
            yield_ml=optional_number(self.yield_ml, "yield"),
            rulings=still_said(self._rulings(), read.recipe.method),
        )
        return replace(
            read,
            recipe=recipe,
            servings_given=self.servings != self.guessed_servings,
            kind_guessed=self.kind == self.guessed_kind,
        )

    def notes(self, page: Sequence[ReadLine]) -> str:
        """What the page notes of its recipe, as it is kept with it."""
        return "\n".join(row.text for row in page if row.kind is LineKind.NOTE)[:MAX_NOTES]

    def _rulings(self) -> tuple[Ruling, ...]:
        """The steps that were set right; those that did not arrive whole are left out."""
        rulings: tuple[Ruling, ...] = ()
        for said in (*self.ruled, self.rule):
            nth, _, rest = said.partition(":")
            read_as, _, words = rest.partition(":")
            if re.fullmatch(r"\d{1,4}", nth) and words and read_as == AS_READ:
                rulings = without_ruling(rulings, words, int(nth))
            elif re.fullmatch(r"\d{1,4}", nth) and words and read_as in list(ReadAs):
                rulings = with_ruling(rulings, Ruling(words, int(nth), ReadAs(read_as)))
        return rulings

    def _title(self, of_page: str) -> str:
        """The title as typed; the page's own where another line was told to be it, or it was told
        to be no title."""
        place, kind = self._turned
        before = (
            dict(zip(self.place, self.sort, strict=False)).get(place) if place is not None else None
        )
        typed = "" if LineKind.TITLE in (kind, before) else self.title.strip()
        return (typed or of_page)[:120]

    @property
    def _turned(self) -> tuple[int | None, LineKind | None]:
        place, _, kind = self.turn.partition(":")
        told = next((k for k in TOLD if k.value == kind), None)
        return (int(place), told) if re.fullmatch(r"\d{1,4}", place) and told else (None, None)

    def _sent(self, reader: Reader) -> list[ReadLine]:
        count = len(self.line)
        sort = self.sort or [LineKind.ITEM] * count
        choice, rows, told = (
            self.choice or [""] * count,
            self.rows or [""] * count,
            self.told or ["1"] * count,
        )
        place = self.place or list(range(count))
        if {len(sort), len(choice), len(rows), len(told)} != {count} or sorted(place) != list(
            range(count)
        ):
            raise RecipeError(NOT_WHOLE)
        found = [
            ReadLine(
                kind,
                text,
                SURE if sure else 0.0,
                _rows(said),
                food if food in reader.pantry else "",
            )
            for text, kind, food, said, sure in zip(
                self.line, sort, choice, rows, told, strict=True
            )
        ]
        return [row for _, row in sorted(zip(place, found, strict=True), key=lambda pair: pair[0])]

    def _acted(self, rows: list[ReadLine]) -> list[ReadLine]:
        """The rows after the one act that was asked; as they are where it names none of them."""
        place, kind = self._turned
        if place is not None and kind is not None and place < len(rows):
            return turned(rows, place, kind)
        at = re.fullmatch(r"(\d{1,4}):(\d{1,4})", self.split)
        if at and int(at[1]) < len(rows):
            return parted(rows, int(at[1]), int(at[2]))
        if re.fullmatch(r"\d{1,4}", self.join) and int(self.join) < len(rows):
            return joined(rows, int(self.join))
        return rows

    def _servings(self) -> tuple[float, float]:
        """The fewest and the most servings: "8", or "2 to 4"."""
        try:
            typed = [
                number_typed(part, "servings")
                for part in re.split(r"(?<=\d)\s*(?:-|–|to)\s*", self.servings.strip())
            ]
        except ValueError:
            raise RecipeError(
                "servings must be a number, such as 8, or two, such as 2 to 4"
            ) from None
        if len(typed) > 2:
            raise RecipeError("servings must be a number, such as 8, or two, such as 2 to 4")
        return min(typed), max(typed)


def _rows(said: str) -> tuple[int, int]:
    """The rows of the paste that a line came from: `3-4`; none for a line that was added."""
    ends = re.fullmatch(r"(\d{1,5})-(\d{1,5})", said)
    return (int(ends[1]), int(ends[2])) if ends else (-1, -1)
