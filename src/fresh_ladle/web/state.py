"""What every request shares: the knowledge, the reader, and the way to the database."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass, field, replace
from functools import lru_cache
from pathlib import Path

from fastapi import Request

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.appraisal import Appraisal, Knowledge, appraise
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.pinning import changed_foods, pinned_figures
from fresh_ladle.core.recipe import Recipe
from fresh_ladle.core.school import SCHOOLS, School
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.store.database import connect, open_database
from fresh_ladle.store.foods import load_shipped_foods
from fresh_ladle.store.imported_foods import imported_foods
from fresh_ladle.store.own_foods import as_food, own_foods
from fresh_ladle.store.own_schools import own_schools
from fresh_ladle.store.recipes import Version
from fresh_ladle.web.jobs import Jobs


@dataclass
class Workbench:
    """One running workbench."""

    database: Path
    knowledge: Knowledge = field(init=False)
    reader: Reader = field(init=False)
    schools: dict[str, School] = field(init=False)
    jobs: Jobs = field(default_factory=Jobs)

    def __post_init__(self) -> None:
        shipped = load_knowledge()
        with closing(open_database(self.database)) as connection:
            load_shipped_foods(connection, shipped.pantry)
            self.stock_own_foods(connection)
            self.learn_own_schools(connection)

    def stock_own_foods(self, connection: sqlite3.Connection) -> None:
        """Takes own and imported foods in, after the start and whenever some were saved."""
        shipped = load_knowledge()
        own = [as_food(food, shipped.pantry) for food in own_foods(connection)]
        imported = list(imported_foods(connection))
        pantry = shipped.pantry.with_foods([*own, *imported]) if own or imported else shipped.pantry
        self.knowledge = replace(shipped, pantry=pantry)
        self.reader = Reader(pantry, shipped.preparations)
        self._appraise = lru_cache(maxsize=512)(lambda recipe: appraise(recipe, self.knowledge))
        self._appraise_pinned = lru_cache(maxsize=256)(self._with_pinned)

    def learn_own_schools(self, connection: sqlite3.Connection) -> None:
        """Takes the practice's own schools in beside the shipped ones, by id."""
        self.schools = {school.id: school for school in (*SCHOOLS, *own_schools(connection))}

    def appraise(self, recipe: Recipe) -> Appraisal:
        """The recipe worked out with the figures of today; the same recipe is worked out once."""
        return self._appraise(recipe)

    def appraise_version(self, version: Version) -> Appraisal:
        """An accepted version worked out with the figures it was accepted with."""
        return self._appraise_pinned(version.recipe, version.pinned)

    def _with_pinned(self, recipe: Recipe, pinned: str) -> Appraisal:
        changed = changed_foods(json.loads(pinned), self.knowledge.pantry)
        if not changed:
            return self.appraise(recipe)
        return appraise(recipe, replace(self.knowledge, pantry=self.knowledge.pantry.with_foods(changed)))

    def newer_figures(self, version: Version) -> list[Food]:
        """Foods whose figures have changed since a version was accepted."""
        return changed_foods(json.loads(version.pinned), self.knowledge.pantry)

    def pin(self, recipe: Recipe) -> str:
        """The figures of today of a recipe's foods, to be kept with a version of it."""
        return json.dumps(pinned_figures(recipe, self.knowledge.pantry))

    @contextmanager
    def store(self) -> Iterator[sqlite3.Connection]:
        """A connection for one request."""
        with closing(connect(self.database)) as connection:
            yield connection


def workbench(request: Request) -> Workbench:
    found = request.app.state.workbench
    assert isinstance(found, Workbench)
    return found
