"""Reads a whole recipe from plain text: a title, component headings and ingredient lines."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.part_use import (
    PartUse,
    heading_share,
    part_use,
    with_one_of_each_choice,
    with_part_uses,
)
from fresh_ladle.core.amounts.reading import LineReading, Reader
from fresh_ladle.core.amounts.yields import Yield
from fresh_ladle.core.page.evidence import yield_said
from fresh_ladle.core.page.kinds import LineKind
from fresh_ladle.core.page.page import (
    ReadLine,
    amounts_in_step,
    item_text,
    part_name,
    read_page,
    step_text,
    title_and_yield,
)
from fresh_ladle.core.plain_text import clean_text
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import MAX_LINES, Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.words.sentences import capitalized

MAX_CHARACTERS = 60_000
MOST_STEPS, MOST_STEP_CHARACTERS = 60, 600


@dataclass(frozen=True, slots=True)
class RecipeReading:
    """A recipe as understood, with a reading for every line in the order of the lines of the
    recipe.

    `servings_given` is False when the text did not say and the number is only proposed. `uses` are
    the parts of the recipe's own components that its text says are used; `kind_guessed` whether its
    title says nothing of what kind of dish it is. `page` is what each line of the text was taken
    for, and `places` where in it the line of each reading stands."""

    recipe: Recipe
    readings: tuple[LineReading, ...]
    servings_given: bool
    uses: tuple[PartUse, ...] = ()
    kind_guessed: bool = False
    page: tuple[ReadLine, ...] = ()
    places: tuple[int, ...] = ()

    @property
    def left_out(self) -> tuple[str, ...]:
        """What a copied page says around its recipe."""
        said = (plain_line(line.text) for line in self.page if line.kind in LEFT_OUT)
        return tuple(text for text in said if text != self.recipe.title)


_ADDRESS = re.compile(r"(?:https?://|www\.)\S+|[\w-]+(?:\.[\w-]+)+/\S*", re.I)
LEFT_OUT = frozenset({LineKind.AROUND, LineKind.TIME, LineKind.NOTE})
"""What a page says that no recipe holds."""


def read_recipe(
    text: str,
    reader: Reader,
    servings: float | None = None,
    region: Region = Region.US,
    kind: str | None = None,
) -> RecipeReading:
    """Reads a page: a title, ingredient lines in parts, the method, and what stands around them, in
    any order.

    Raises RecipeError for text that is not a recipe: nothing in it, binary, too long, too many
    lines."""
    if _ADDRESS.fullmatch(text.strip()):
        raise RecipeError(
            "this is the address of a page: open it in your browser, copy what it says, and paste"
            " that here"
        )
    page = read_page(_checked(text), reader.knows)
    if not page:
        raise RecipeError("there is nothing to read: paste a title and ingredient lines")
    return recipe_of(page, reader, region, servings=servings, kind=kind)


def recipe_of(
    page: Sequence[ReadLine],
    reader: Reader,
    region: Region,
    *,
    servings: float | None = None,
    kind: str | None = None,
    steps_apart: bool = False,
) -> RecipeReading:
    """The recipe of a page whose lines are told. With `steps_apart` nothing is taken from a step
    alone. Raises RecipeError where nothing is to be eaten."""
    found = _Found()
    components = [_component(line.text)[0] for line in page if line.kind is LineKind.HEADING]
    for place, line in enumerate(page):
        _take(line, place, found, components, reader, region)
    if not steps_apart:
        _take_from_steps(found, reader, region)
    if not found.readings:
        raise RecipeError(
            "no ingredient lines were found: put the title first, then one ingredient to a line"
        )
    chosen = with_one_of_each_choice(found.readings)
    used = with_part_uses(chosen, found.uses, _grams_by_component(chosen, reader, region))
    numbered = tuple(
        replace(r, line=replace(r.line, id=f"l{n}")) for n, r in enumerate(used, start=1)
    )
    title, made_by_title = title_and_yield(page, region)
    made = found.made or made_by_title
    title = title or "Untitled recipe"
    reading = _with_kind(title, numbered, reader, servings, made, region, kind)
    recipe = replace(reading.recipe, method=tuple(text for _, text in found.steps[:MOST_STEPS]))
    return replace(
        reading, recipe=recipe, uses=tuple(found.uses), page=tuple(page), places=tuple(found.places)
    )


def _take(
    line: ReadLine, place: int, found: _Found, components: list[str], reader: Reader, region: Region
) -> None:
    """Puts a line where it belongs, by what it was taken for."""
    if line.kind is LineKind.YIELD:
        found.made = found.made or yield_said(plain_line(line.text), region)
    elif line.kind is LineKind.HEADING:
        found.component, share = _component(line.text)
        if share is not None:
            found.uses.append(PartUse(found.component, share, line.text))
    elif line.kind is LineKind.STEP:
        if step := step_text(line.text):
            found.steps.append((place, step[:MOST_STEP_CHARACTERS]))
    elif line.kind is LineKind.ITEM:
        text = item_text(line.text, region)
        use = part_use(plain_line(text), components, found.component)
        if use is not None:
            found.uses.append(use)
        elif line.food:
            found.add(place, reader.read_as(text, line.food, found.component, region))
        else:
            found.add(place, *reader.read_line(text, found.component, region))


def _take_from_steps(found: _Found, reader: Reader, region: Region) -> None:
    """Takes what is measured out in the method alone: an amount of a food that no line has, so that
    it is not lost."""
    # Water of a step alone is mostly to boil in, and poured off.
    taken = {
        "water",
        *(_family(r.line.food, reader) for r in found.readings if r.line.food is not None),
    }
    for place, amount in [
        (place, text) for place, step in found.steps for text in amounts_in_step(step)
    ]:
        for reading in reader.read_line(amount, "", region):
            family = (
                _family(reading.line.food, reader)
                if reading.understood and reading.line.food
                else ""
            )
            if family and family not in taken:
                taken.add(family)
                surely = min(reading.line.confidence, SURE_OF_A_STEP)
                found.add(place, replace(reading, line=replace(reading.line, confidence=surely)))


def _family(key: str | None, reader: Reader) -> str:
    food = reader.pantry[key or ""]
    return food.family or food.key


SURE_OF_A_STEP = 0.6
"""An amount that was found within a sentence is shown to be checked."""


@dataclass(slots=True)
class _Found:
    """What has been read so far, line by line."""

    readings: list[LineReading] = field(default_factory=list)
    places: list[int] = field(default_factory=list)
    uses: list[PartUse] = field(default_factory=list)
    component: str = ""
    made: Yield | None = None
    steps: list[tuple[int, str]] = field(default_factory=list)

    def add(self, place: int, *readings: LineReading) -> None:
        """Adds what was read of the line at a place of the page."""
        self.readings += readings
        self.places += [place] * len(readings)


def _grams_by_component(
    readings: list[LineReading], reader: Reader, region: Region
) -> dict[str, float]:
    lines = tuple(replace(r.line, id=f"l{n}") for n, r in enumerate(readings[:MAX_LINES]))
    draft = Recipe("draft", lines, dishes.DEFAULT.id, 4, region=region)
    grams: dict[str, float] = {}
    for portion in portions(draft, reader.pantry, reader.preparations):
        grams[portion.line.component] = (
            grams.get(portion.line.component, 0.0) + portion.in_bowl.value
        )
    return grams


def _component(heading: str) -> tuple[str, float | None]:
    """The name of the component a heading starts, and the share of it that is used where the
    heading says so."""
    name, share = heading_share(part_name(heading))
    name = name.strip().rstrip(":")
    return capitalized(name.lower() if name.isupper() else name), share


def _checked(text: str) -> str:
    """The text, clean. Raises RecipeError for one that is no text, or more than a recipe."""
    text = clean_text(text)
    if text.count("\ufffd") > max(2, len(text) // 100):
        raise RecipeError(
            "this is not text: paste the recipe as words, or save the file as plain text first"
        )
    if len(text) > MAX_CHARACTERS:
        raise RecipeError(
            f"this is {len(text):,} characters long; a recipe has at most {MAX_CHARACTERS:,}"
        )
    if (lines := sum(1 for line in text.splitlines() if line.strip())) > MAX_LINES + 20:
        raise RecipeError(
            f"there are {lines:,} lines; a recipe has at most {MAX_LINES}. Is this more than one"
            " recipe?"
        )
    return text


def _with_kind(
    title: str,
    readings: tuple[LineReading, ...],
    reader: Reader,
    servings: float | None,
    made: Yield | None,
    region: Region,
    kind: str | None,
) -> RecipeReading:
    said = Range.exact(servings) if servings is not None else made.servings if made else None
    draft = Recipe(
        title,
        tuple(r.line for r in readings),
        kind or dishes.DEFAULT.id,
        said.value if said else 4.0,
        region=region,
        servings_range=(said.low, said.high) if said and said.low < said.high else None,
        yield_ml=made.millilitres if made else None,
    )
    guessed = False
    if kind is None:
        by_group: dict[str, float] = {}
        for portion in portions(draft, reader.pantry, reader.preparations):
            if portion.food is not None:
                by_group[portion.food.group] = (
                    by_group.get(portion.food.group, 0.0) + portion.in_bowl.value
                )
        draft = replace(draft, kind=dishes.proposed_kind(title, by_group).id)
        guessed = not dishes.title_tells(title)
    if said is None:
        mass = sum(p.in_bowl.value for p in portions(draft, reader.pantry, reader.preparations))
        usual = dishes.BY_ID[draft.kind].serving_g
        draft = replace(draft, servings=max(1.0, float(round(mass / usual))))
    return RecipeReading(draft, readings, said is not None, kind_guessed=guessed)
