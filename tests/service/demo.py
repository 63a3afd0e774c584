"""The recipes of the demo, as values."""

from __future__ import annotations

import tomllib
from dataclasses import replace
from importlib.resources import files

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Recipe


def demo_recipes(knowledge: Knowledge) -> list[Recipe]:
    reader = Reader(knowledge.pantry, knowledge.preparations)
    rows = tomllib.loads((files("fresh_ladle.data") / "demo.toml").read_text(encoding="utf-8"))["recipe"]
    return [replace(read_recipe(row["text"], reader).recipe, kind=row["kind"]) for row in rows]
