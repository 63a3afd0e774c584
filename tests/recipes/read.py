"""The ten recipes that plans are tried on, read."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.data.load import load_knowledge


@lru_cache(maxsize=1)
def ten() -> tuple[Recipe, ...]:
    knowledge = load_knowledge()
    reader = Reader(knowledge.pantry, knowledge.preparations)
    rows = tomllib.loads((Path(__file__).parent / "ten.toml").read_text(encoding="utf-8"))["recipe"]
    return tuple(read_recipe(row["text"], reader, kind=row["kind"]).recipe for row in rows)
