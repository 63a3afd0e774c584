"""The knowledge of one practice: what ships, its own and imported foods and pours, and what its
eaters have shown.

Processes of searches make it anew from the file where it has changed.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Sequence
from contextlib import closing
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.practice.pours import with_own_measures
from fresh_ladle.core.tasting.eaters import Leaning, leaned
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.store.database import connect
from fresh_ladle.store.foods.imported_foods import imported_foods
from fresh_ladle.store.foods.own_foods import as_food, own_foods
from fresh_ladle.store.practice.pours import own_pours


@dataclass(frozen=True, slots=True)
class StockMark:
    """What a process needs to have the same knowledge: the file, which state of it, and what moves
    the windows."""

    database: Path
    state: str
    learned: tuple[Leaning, ...]


def knowledge_of(connection: sqlite3.Connection, learned: Sequence[Leaning]) -> Knowledge:
    """What ships, with the practice's foods in it and its windows moved."""
    shipped = load_knowledge()
    own = [as_food(food, shipped.pantry) for food in own_foods(connection)]
    imported = list(imported_foods(connection))
    pantry = shipped.pantry.with_foods([*own, *imported]) if own or imported else shipped.pantry
    if poured := own_pours(connection):
        pantry = pantry.with_foods(with_own_measures(pantry, poured))
    return replace(shipped, pantry=pantry, windows=leaned(shipped.windows, learned))


@lru_cache(maxsize=1)
def knowledge_at(mark: StockMark) -> Knowledge:
    """The same in a process that has only the file."""
    with closing(connect(mark.database)) as connection:
        return knowledge_of(connection, mark.learned)
