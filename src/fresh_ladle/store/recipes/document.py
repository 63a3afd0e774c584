"""A recipe as it is kept: JSON with a form number, checked on the way in and out."""

from __future__ import annotations

from functools import lru_cache

from pydantic import BaseModel, ConfigDict, Field

from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Batch, Line, Recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.recipes.ruling import ReadAs, Ruling


class _LineDocument(BaseModel):
    model_config = ConfigDict(extra="forbid")
    id: str
    text: str
    amount: str
    food: str | None
    component: str = ""
    preparations: list[str] = Field(default_factory=list)
    said: list[str] = Field(default_factory=list)
    asides: list[Aside] = Field(default_factory=list)
    variation: str | None = None
    confidence: float = 1.0
    eaten: float = Field(default=1.0, ge=0, le=1)
    named: str = ""
    settled: list[str] = Field(default_factory=list)
    batch: _BatchDocument | None = None


class _BatchDocument(BaseModel):
    model_config = ConfigDict(extra="forbid")
    ref: str
    share: float
    recipe: _RecipeDocument


class _RulingDocument(BaseModel):
    model_config = ConfigDict(extra="forbid")
    words: str
    nth: int = Field(ge=0)
    read_as: ReadAs
    lines: list[str] = Field(default_factory=list)


class _RecipeDocument(BaseModel):
    model_config = ConfigDict(extra="forbid")
    form: int = 1
    title: str
    kind: str
    servings: float
    serving_grams: float | None = None
    region: Region = Region.US
    yield_grams: float | None = None
    serving_ml: float | None = None
    method: list[str] = Field(default_factory=list)
    served_celsius: float | None = None
    servings_range: tuple[float, float] | None = None
    yield_ml: float | None = None
    rulings: list[_RulingDocument] = Field(default_factory=list)
    lines: list[_LineDocument]


def to_document(recipe: Recipe) -> str:
    """The recipe as JSON text."""
    return _recipe_document(recipe).model_dump_json()


@lru_cache(maxsize=512)
def from_document(text: str) -> Recipe:
    """The recipe a document holds. Raises pydantic.ValidationError or RecipeError when it is not
    one.

    A recipe cannot be changed, so one that was read before is given again: an edit reads the same
    versions each time."""
    return _recipe(_RecipeDocument.model_validate_json(text))


def line_to_json(line: Line) -> str:
    """One line as JSON text."""
    return _line_document(line).model_dump_json()


def line_from_json(text: str) -> Line:
    """The line a JSON text holds. Raises pydantic.ValidationError when it is none."""
    return _line(_LineDocument.model_validate_json(text))


def _recipe_document(recipe: Recipe) -> _RecipeDocument:
    return _RecipeDocument(
        title=recipe.title,
        kind=recipe.kind,
        servings=recipe.servings,
        serving_grams=recipe.serving_grams,
        region=recipe.region,
        yield_grams=recipe.yield_grams,
        serving_ml=recipe.serving_ml,
        method=list(recipe.method),
        served_celsius=recipe.served_celsius,
        servings_range=recipe.servings_range,
        yield_ml=recipe.yield_ml,
        rulings=[
            _RulingDocument(words=r.words, nth=r.nth, read_as=r.read_as, lines=list(r.lines))
            for r in recipe.rulings
        ],
        lines=[_line_document(line) for line in recipe.lines],
    )


def _line_document(line: Line) -> _LineDocument:
    used = line.batch
    batch = (
        _BatchDocument(ref=used.ref, share=used.share, recipe=_recipe_document(used.recipe))
        if used
        else None
    )
    return _LineDocument(
        id=line.id,
        text=line.text,
        amount=line.amount,
        food=line.food,
        component=line.component,
        preparations=list(line.preparations),
        said=list(line.remarks),
        asides=sorted(line.asides),
        variation=line.variation,
        confidence=line.confidence,
        eaten=line.eaten,
        named=line.named,
        settled=sorted(line.settled),
        batch=batch,
    )


def _recipe(document: _RecipeDocument) -> Recipe:
    return Recipe(
        document.title,
        tuple(_line(line) for line in document.lines),
        document.kind,
        document.servings,
        document.serving_grams,
        document.region,
        document.yield_grams,
        document.serving_ml,
        tuple(document.method),
        document.served_celsius,
        document.servings_range,
        document.yield_ml,
        tuple(Ruling(r.words, r.nth, r.read_as, tuple(r.lines)) for r in document.rulings),
    )


def _line(line: _LineDocument) -> Line:
    batch = (
        Batch(line.batch.ref, line.batch.share, _recipe(line.batch.recipe)) if line.batch else None
    )
    return Line(
        line.id,
        line.text,
        line.amount,
        line.food,
        line.component,
        tuple(line.preparations),
        tuple(line.said),
        frozenset(line.asides),
        line.variation,
        line.confidence,
        line.eaten,
        line.named,
        frozenset(line.settled),
        batch,
    )
