"""A recipe in the preview of Read-in: its lines as written, with the foods that were chosen by hand."""

from __future__ import annotations

import re
from dataclasses import replace

from pydantic import BaseModel, Field

from fresh_ladle.core.amounts.reading import LineReading, Reader
from fresh_ladle.core.page.recipe_text import RecipeReading
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import MAX_LINES, Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.web.forms.typed import number_typed, optional_number

MAX_STEPS, MAX_STEP_CHARACTERS = 60, 600


class PreviewForm(BaseModel):
    """The preview as sent. `line`, `component`, `choice` and `eaten` hold one entry for each line, in one order."""

    title: str = ""
    kind: str = ""
    servings: str = ""
    region: Region = Region.US
    profile_id: str = ""
    method: str = ""
    yield_ml: str = ""
    line: list[str] = Field(default_factory=list, max_length=2 * MAX_LINES)
    component: list[str] = Field(default_factory=list, max_length=2 * MAX_LINES)
    choice: list[str] = Field(default_factory=list, max_length=2 * MAX_LINES)
    eaten: list[str] = Field(default_factory=list, max_length=2 * MAX_LINES)

    def read(self, reader: Reader) -> tuple[RecipeReading, list[str]]:
        """The recipe as it stands, and the food chosen by hand for each of its lines, empty where the reader's own
        stands. Raises RecipeError naming what is wrong."""
        if not len(self.line) == len(self.component) == len(self.choice):
            raise RecipeError("the form was incomplete: paste the recipe again")
        readings: list[LineReading] = []
        chosen: list[str] = []
        shares = self.eaten or ["1"] * len(self.line)
        for text, component, choice, share in zip(self.line, self.component, self.choice, shares, strict=False):
            by_hand = choice in reader.pantry
            found = (
                [reader.read_as(text, choice, component, self.region)]
                if by_hand
                else reader.read_line(text, component, self.region)
            )
            eaten = min(1.0, max(0.0, number_typed(share or "1", "share eaten")))
            readings += [replace(r, line=replace(r.line, eaten=eaten)) for r in found]
            chosen += [choice if by_hand else ""] * len(found)
        if not readings:
            raise RecipeError("no lines are left: keep at least one ingredient")
        numbered = tuple(replace(r, line=replace(r.line, id=f"l{n}")) for n, r in enumerate(readings, start=1))
        return RecipeReading(self._recipe(numbered), numbered, True), chosen

    def _recipe(self, readings: tuple[LineReading, ...]) -> Recipe:
        fewest, most = self._servings()
        if self.kind not in dishes.BY_ID:
            raise RecipeError("choose a kind of dish from the list")
        title = self.title.strip()[:120] or "Untitled recipe"
        steps = [s.strip()[:MAX_STEP_CHARACTERS] for s in self.method.splitlines() if s.strip()]
        return Recipe(
            title,
            tuple(r.line for r in readings),
            self.kind,
            (fewest + most) / 2,
            region=self.region,
            method=tuple(steps[:MAX_STEPS]),
            servings_range=(fewest, most) if fewest < most else None,
            yield_ml=optional_number(self.yield_ml, "yield"),
        )

    def _servings(self) -> tuple[float, float]:
        """The fewest and the most servings: "8", or "2 to 4"."""
        try:
            typed = [
                number_typed(part, "servings") for part in re.split(r"(?<=\d)\s*(?:-|–|to)\s*", self.servings.strip())
            ]
        except ValueError:
            raise RecipeError("servings must be a number, such as 8, or two, such as 2 to 4") from None
        if len(typed) > 2:
            raise RecipeError("servings must be a number, such as 8, or two, such as 2 to 4")
        return min(typed), max(typed)
