"""Reads a whole recipe from plain text: a title, component headings and ingredient lines."""

from __future__ import annotations

import re
from dataclasses import dataclass, field, replace

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.copied_page import LIST_WORD, METHOD_WORD, recipe_of_page, where_work_begins
from fresh_ladle.core.amounts.part_use import (
    PartUse,
    heading_share,
    part_use,
    with_one_of_each_choice,
    with_part_uses,
)
from fresh_ladle.core.amounts.quantity import BadQuantity, read_quantity
from fresh_ladle.core.amounts.reading import LineReading, Reader
from fresh_ladle.core.amounts.yields import Yield, read_yield
from fresh_ladle.core.plain_text import clean_text
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.recipe import MAX_LINES, Recipe, RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.sentences import capitalized

MAX_CHARACTERS = 60_000
_HEADING = re.compile(
    r"^(?:#{2,6}\s*(?P<marked>.+?)|(?:for (?:the )?)?(?P<ended>[A-Za-z][\w '&-]{1,40}):"
    r"|for the (?P<named>[\w '&-]{2,40}))\s*$",
    re.I,
)


@dataclass(frozen=True, slots=True)
class RecipeReading:
    """A recipe as understood, with a reading for every line in the order of the lines of the recipe.

    `servings_given` is False when the text did not say and the number is only proposed. `uses` are the parts of the
    recipe's own components that its text says are used; `left_out` is what a copied page says around its recipe;
    `kind_guessed` whether its title says nothing of what kind of dish it is.
    """

    recipe: Recipe
    readings: tuple[LineReading, ...]
    servings_given: bool
    uses: tuple[PartUse, ...] = ()
    left_out: tuple[str, ...] = ()
    kind_guessed: bool = False


def read_recipe(
    text: str, reader: Reader, servings: float | None = None, region: Region = Region.US, kind: str | None = None
) -> RecipeReading:
    """Reads a title line followed by ingredient lines; `## component` or `Component:` starts a component.

    Raises RecipeError for text that is not a recipe: nothing in it, binary, too long, too many lines.
    """
    page = recipe_of_page(_text_lines(text))
    title, lines = _title(page.lines)
    found = _Found()
    if not any(METHOD_WORD.match(line) for line in lines) and (begins := where_work_begins(lines)):
        found.method, lines = tuple(step[:600] for step in lines[begins:][:60]), lines[:begins]
    components = [_heading(line)[0] for line in lines if _HEADING.match(line)]
    for number, line in enumerate(lines, start=1):
        if (made := read_yield(line, region)) is not None:
            found.made = found.made or made
        elif METHOD_WORD.match(line):
            found.method = tuple(step[:600] for step in lines[number:][:60])
            break
        elif LIST_WORD.match(line):
            continue
        elif _HEADING.match(line):
            found.component, share = _heading(line)
            if share is not None:
                found.uses.append(PartUse(found.component, share, line))
        elif (use := part_use(line, components, found.component)) is not None:
            found.uses.append(use)
        else:
            found.readings += reader.read_line(line, found.component, region)
    if not found.readings:
        raise RecipeError("no ingredient lines were found: put the title first, then one ingredient to a line")
    chosen = with_one_of_each_choice(found.readings)
    used = with_part_uses(chosen, found.uses, _grams_by_component(chosen, reader, region))
    numbered = tuple(replace(r, line=replace(r.line, id=f"l{n}")) for n, r in enumerate(used, start=1))
    reading = _with_kind(title, numbered, reader, servings, found.made, region, kind)
    recipe = replace(reading.recipe, method=found.method)
    return replace(reading, recipe=recipe, uses=tuple(found.uses), left_out=page.left_out)


@dataclass(slots=True)
class _Found:
    """What has been read so far, line by line."""

    readings: list[LineReading] = field(default_factory=list)
    uses: list[PartUse] = field(default_factory=list)
    component: str = ""
    made: Yield | None = None
    method: tuple[str, ...] = ()


def _grams_by_component(readings: list[LineReading], reader: Reader, region: Region) -> dict[str, float]:
    lines = tuple(replace(r.line, id=f"l{n}") for n, r in enumerate(readings[:MAX_LINES]))
    draft = Recipe("draft", lines, dishes.DEFAULT.id, 4, region=region)
    grams: dict[str, float] = {}
    for portion in portions(draft, reader.pantry, reader.preparations):
        grams[portion.line.component] = grams.get(portion.line.component, 0.0) + portion.in_bowl.value
    return grams


def _heading(line: str) -> tuple[str, float | None]:
    """The name of the component a heading starts, and the share of it that is used where the heading says so."""
    match = _HEADING.match(line)
    assert match is not None
    name, share = heading_share((match["marked"] or match["ended"] or match["named"]).strip().rstrip(":"))
    return capitalized(name.lower() if name.isupper() else name), share


def _text_lines(text: str) -> list[str]:
    text = clean_text(text)
    if text.count("\ufffd") > max(2, len(text) // 100):
        raise RecipeError("this is not text: paste the recipe as words, or save the file as plain text first")
    if len(text) > MAX_CHARACTERS:
        raise RecipeError(f"this is {len(text):,} characters long; a recipe has at most {MAX_CHARACTERS:,}")
    lines = [line for raw in re.split(r"[\r\n]+|<br\s*/?>|</(?:li|p|div|h\d)>", text) if (line := _keep_heading(raw))]
    if len(lines) > MAX_LINES + 20:
        raise RecipeError(
            f"there are {len(lines):,} lines; a recipe has at most {MAX_LINES}. Is this more than one recipe?"
        )
    return lines


def _keep_heading(raw: str) -> str:
    plain = plain_line(raw)
    return plain if plain.strip("#*-_ ") else ""


def _title(lines: list[str]) -> tuple[str, list[str]]:
    """The first line, unless it already reads as an ingredient or heading."""
    if not lines:
        raise RecipeError("there is nothing to read: paste a title and ingredient lines")
    first = lines[0]
    marked = re.match(r"^#\s+(.+)$", first)
    if (
        (not marked and _begins_with_number(first))
        or read_yield(first)
        or first.startswith("##")
        or LIST_WORD.match(first)
    ):
        return "Untitled recipe", lines
    return (marked[1] if marked else first)[:120].rstrip(":"), lines[1:]


def _begins_with_number(line: str) -> bool:
    """Whether a line begins as an ingredient does, be its number one that no food can have."""
    try:
        return read_quantity(line)[0] is not None
    except BadQuantity:
        return True


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
                by_group[portion.food.group] = by_group.get(portion.food.group, 0.0) + portion.in_bowl.value
        draft = replace(draft, kind=dishes.proposed_kind(title, by_group).id)
        guessed = not dishes.title_tells(title)
    if said is None:
        mass = sum(p.in_bowl.value for p in portions(draft, reader.pantry, reader.preparations))
        usual = dishes.BY_ID[draft.kind].serving_g
        draft = replace(draft, servings=max(1.0, float(round(mass / usual))))
    return RecipeReading(draft, readings, said is not None, kind_guessed=guessed)
