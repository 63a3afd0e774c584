"""A recipe as it is kept: JSON with a form number, checked on the way in and out."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from fresh_ladle.core.amounts.line import Aside
from fresh_ladle.core.amounts.units import Region
from fresh_ladle.core.recipe import Line, Recipe


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


class _RecipeDocument(BaseModel):
    model_config = ConfigDict(extra="forbid")
    form: int = 1
    title: str
    kind: str
    servings: float
    serving_grams: float | None = None
    region: Region = Region.US
    lines: list[_LineDocument]


def to_document(recipe: Recipe) -> str:
    """The recipe as JSON text."""
    lines = [
        _LineDocument(
            id=line.id, text=line.text, amount=line.amount, food=line.food, component=line.component,
            preparations=list(line.preparations), said=list(line.said), asides=sorted(line.asides),
            variation=line.variation, confidence=line.confidence, eaten=line.eaten, named=line.named, settled=sorted(line.settled),
        )
        for line in recipe.lines
    ]  # fmt: skip
    return _RecipeDocument(
        title=recipe.title, kind=recipe.kind, servings=recipe.servings, serving_grams=recipe.serving_grams,
        region=recipe.region, lines=lines,
    ).model_dump_json(exclude_defaults=False)  # fmt: skip


def from_document(text: str) -> Recipe:
    """The recipe a document holds. Raises pydantic.ValidationError or RecipeError when it is not one."""
    document = _RecipeDocument.model_validate_json(text)
    lines = tuple(
        Line(
            line.id, line.text, line.amount, line.food, line.component, tuple(line.preparations), tuple(line.said),
            frozenset(line.asides), line.variation, line.confidence, line.eaten, line.named, frozenset(line.settled),
        )
        for line in document.lines
    )  # fmt: skip
    return Recipe(document.title, lines, document.kind, document.servings, document.serving_grams, document.region)
