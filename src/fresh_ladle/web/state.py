"""What every request shares: the knowledge, the reader, and the way to the database."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path

from fastapi import Request

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.appraisal import Appraisal, Knowledge, appraise
from fresh_ladle.core.recipe import Recipe
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.store.database import connect, open_database
from fresh_ladle.store.foods import load_shipped_foods


@dataclass
class Workbench:
    """One running workbench."""

    database: Path
    knowledge: Knowledge = field(default_factory=load_knowledge)
    reader: Reader = field(init=False)

    def __post_init__(self) -> None:
        self.reader = Reader(self.knowledge.pantry, self.knowledge.preparations)
        self._appraise = lru_cache(maxsize=512)(lambda recipe: appraise(recipe, self.knowledge))
        with closing(open_database(self.database)) as connection:
            load_shipped_foods(connection, self.knowledge.pantry)

    def appraise(self, recipe: Recipe) -> Appraisal:
        """The recipe worked out; the same recipe is worked out once."""
        return self._appraise(recipe)

    @contextmanager
    def store(self) -> Iterator[sqlite3.Connection]:
        """A connection for one request."""
        with closing(connect(self.database)) as connection:
            yield connection


def workbench(request: Request) -> Workbench:
    found = request.app.state.workbench
    assert isinstance(found, Workbench)
    return found
