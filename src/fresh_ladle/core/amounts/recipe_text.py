"""Reads a whole recipe from plain text: a title, component headings and ingredient lines."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.clean import plain_line
from fresh_ladle.core.amounts.quantity import read_quantity
from fresh_ladle.core.amounts.reading import LineReading, Reader
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
_SERVINGS = re.compile(
    r"^(?:serves|servings?|yields?|makes)\b\s*:?\s*(?:about\s+)?(\d+(?:\.\d+)?)(?:\s*-\s*\d+)?\b.*$|^(\d+)\s+servings?\.?$",
    re.I,
)
_LIST_WORD = re.compile(r"^ingredients?\s*:?$", re.I)
_METHOD_WORD = re.compile(r"^(?:method|directions?|instructions?|preparation|steps?)\s*:?$", re.I)


@dataclass(frozen=True, slots=True)
class RecipeReading:
    """A recipe as understood, with a reading for every line in the order of the lines of the recipe.

    `servings_given` is False when the text did not say and the number is only proposed.
    """

    recipe: Recipe
    readings: tuple[LineReading, ...]
    servings_given: bool


def read_recipe(
    text: str, reader: Reader, servings: float | None = None, region: Region = Region.US, kind: str | None = None
) -> RecipeReading:
    """Reads a title line followed by ingredient lines; `## component` or `Component:` starts a component.

    Raises RecipeError for text that is not a recipe: nothing in it, binary, too long, too many lines.
    """
    lines = _text_lines(text)
    title, lines = _title(lines)
    readings: list[LineReading] = []
    component, said_servings = "", None
    method: tuple[str, ...] = ()
    for number, line in enumerate(lines, start=1):
        if match := _SERVINGS.match(line):
            said_servings = float(match[1] or match[2])
        elif _METHOD_WORD.match(line):
            method = tuple(step[:600] for step in lines[number:][:60])
            break
        elif _LIST_WORD.match(line):
            continue
        elif match := _HEADING.match(line):
            heading = match["marked"] or match["ended"] or match["named"]
            name = heading.strip().rstrip(":")
            component = capitalized(name.lower() if name.isupper() else name)
        else:
            readings += reader.read_line(line, component, region)
    if not readings:
        raise RecipeError("no ingredient lines were found: put the title first, then one ingredient to a line")
    numbered = tuple(replace(r, line=replace(r.line, id=f"l{n}")) for n, r in enumerate(readings, start=1))
    reading = _with_kind(title, numbered, reader, servings, said_servings, region, kind)
    return replace(reading, recipe=replace(reading.recipe, method=method))


def _text_lines(text: str) -> list[str]:
    if "\x00" in text or sum(c == "\ufffd" or (ord(c) < 32 and c not in "\n\r\t\f") for c in text) > max(
        2, len(text) // 100
    ):
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
    looks_like_line = read_quantity(first)[0] is not None and not marked
    if looks_like_line or _SERVINGS.match(first) or first.startswith("##") or _LIST_WORD.match(first):
        return "Untitled recipe", lines
    return (marked[1] if marked else first)[:120].rstrip(":"), lines[1:]


def _with_kind(
    title: str,
    readings: tuple[LineReading, ...],
    reader: Reader,
    servings: float | None,
    remarks: float | None,
    region: Region,
    kind: str | None,
) -> RecipeReading:
    count = servings if servings is not None else remarks if remarks else 4.0
    draft = Recipe(title, tuple(r.line for r in readings), kind or dishes.DEFAULT.id, count, region=region)
    if kind is None:
        by_group: dict[str, float] = {}
        for portion in portions(draft, reader.pantry, reader.preparations):
            if portion.food is not None:
                by_group[portion.food.group] = by_group.get(portion.food.group, 0.0) + portion.in_bowl.value
        draft = replace(draft, kind=dishes.proposed_kind(title, by_group).id)
    if servings is None and remarks is None:
        mass = sum(p.in_bowl.value for p in portions(draft, reader.pantry, reader.preparations))
        usual = dishes.BY_ID[draft.kind].serving_g
        draft = replace(draft, servings=max(1.0, float(round(mass / usual))))
    return RecipeReading(draft, readings, servings is not None or remarks is not None)
