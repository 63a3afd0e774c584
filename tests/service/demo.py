"""The recipes of the demo, as values."""

from __future__ import annotations

from dataclasses import replace

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.data.tables import toml_of


def demo_recipes(knowledge: Knowledge) -> list[Recipe]:
    reader = Reader(knowledge.pantry, knowledge.preparations)
    rows = toml_of("demo.toml")["recipe"]
    return [replace(read_recipe(row["text"], reader).recipe, kind=row["kind"]) for row in rows]
