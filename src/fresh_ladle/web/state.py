"""What every request shares: the knowledge, the reader, and the way to the database."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator, Mapping
from contextlib import closing, contextmanager
from dataclasses import dataclass, field, replace
from functools import lru_cache
from pathlib import Path
from secrets import token_hex
from threading import Lock

from fastapi import Request

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.school import SCHOOLS, School
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.practice.exercise import Exercise
from fresh_ladle.core.practice.ground import Ground
from fresh_ladle.core.recipes.pinning import changed_foods, pinned_figures
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.service.day import Service
from fresh_ladle.core.tasting.eaters import Leaning, leaned, leanings
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.words.spelling import US
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.store.database import Connections, open_database
from fresh_ladle.store.foods.foods import load_shipped_foods
from fresh_ladle.store.foods.imported_foods import finish_import
from fresh_ladle.store.foods.own_schools import own_schools
from fresh_ladle.store.recipes.recipes import Version
from fresh_ladle.store.recipes.shelf import (
    ShelfRow,
    discard_shelf_rows,
    save_shelf_rows,
    stale_recipe_ids,
)
from fresh_ladle.store.recipes.shelf_forms import take_changed_figures
from fresh_ladle.store.settings import USED, settings
from fresh_ladle.store.tastings.tastings import tastings
from fresh_ladle.store.trouble import Trouble, trouble_of
from fresh_ladle.web.work.jobs import Job, Jobs
from fresh_ladle.web.work.lane import Lane
from fresh_ladle.web.work.learning import findings
from fresh_ladle.web.work.processes import SEARCHES
from fresh_ladle.web.work.standing import appraised_as_pinned, standing_of, work_out_standings
from fresh_ladle.web.work.stock import StockMark, knowledge_of
from fresh_ladle.web.work.workers import FileReaders

MAX_AT_ONCE, ROWS_AT_ONCE = 60, 100
"""Recipes worked out while a page waits; more are worked out beside it, so many at a time, with
progress shown."""


@dataclass
class DaysUnderWay:
    """The jobs that work out days just now, by service, each with what it was asked."""

    lock: Lock = field(default_factory=Lock)
    jobs: dict[int, tuple[str, Job]] = field(default_factory=dict)


@dataclass
class Workbench:
    """One running workbench."""

    database: Path
    knowledge: Knowledge = field(init=False)
    stock_mark: StockMark = field(init=False)
    """By which processes of searches come to the same knowledge."""
    reader: Reader = field(init=False)
    schools: dict[str, School] = field(init=False)
    jobs: Jobs = field(default_factory=Jobs)
    files: FileReaders = field(default_factory=FileReaders)
    shelf_job: Job | None = None
    _standings: Lock = field(default_factory=Lock)
    """Held while standings are worked out and kept, and while what they rest on changes."""
    eaters: list[Leaning] = field(default_factory=list)
    """What the practice's tastings have shown of where its eaters like a taste."""
    spelling: str = US
    learned: list[Leaning] = field(default_factory=list)
    """Those of `eaters` that move the windows; none where the practice has switched that off."""
    ground: tuple[object, Ground] | None = None
    """What exercises are made from, with what it was made of."""
    asked: dict[str, Exercise] = field(default_factory=dict)
    """Exercises that are looked at just now, by what their page sends back."""
    services: dict[int, tuple[object, Service]] = field(default_factory=dict)
    """Services worked out lately, with what they were worked out from."""
    lane: Lane = field(default_factory=Lane)
    """By which phones in the room come in."""
    days: DaysUnderWay = field(default_factory=DaysUnderWay)
    """The days of services that are worked out beside the pages."""

    def __post_init__(self) -> None:
        shipped = load_knowledge()
        # While one connection is open, closing another does not write the whole log back into the
        # file.
        self._held_open = open_database(self.database)
        self._connections = Connections(self.database)
        with closing(open_database(self.database)) as connection:
            if load_shipped_foods(connection, shipped.pantry):
                discard_shelf_rows(connection)
            finish_import(connection)
            self.spelling = settings(connection).spelling
            self._stock(connection)
            self.schools = {school.id: school for school in (*SCHOOLS, *own_schools(connection))}
            self.learn_from_eaters(connection)

    def stock_own_foods(self, connection: sqlite3.Connection) -> None:
        """Takes own and imported foods in whenever some were saved; recipes that use one that
        changed stand anew."""
        with self._standings:
            before = self.knowledge.pantry
            self._stock(connection)
            changed = [
                food.key
                for food in self.knowledge.pantry
                if before.get(food.key) not in (None, food)
            ]
            take_changed_figures(
                connection, before, self.knowledge.pantry, changed, list(self.schools.values())
            )

    def _stock(self, connection: sqlite3.Connection) -> None:
        self._knows(knowledge_of(connection, self.learned))
        self.reader = Reader(self.knowledge.pantry, self.knowledge.preparations)
        self._appraise = lru_cache(maxsize=512)(
            lambda recipe, former: appraise(recipe, self.knowledge, dict(former))
        )
        self._appraise_pinned = lru_cache(maxsize=256)(self._with_pinned)

    def _knows(self, knowledge: Knowledge) -> None:
        self.knowledge = knowledge
        self.stock_mark = StockMark(self.database.absolute(), token_hex(8), tuple(self.learned))

    def learn_from_eaters(self, connection: sqlite3.Connection) -> None:
        """Takes in what closed tastings have shown: moves the windows where the practice wants
        that."""
        self.eaters = leanings(
            findings(tastings(connection), self.appraise), load_knowledge().windows
        )
        self.learned = self.eaters if settings(connection).eaters == USED else []
        self._knows(replace(self.knowledge, windows=leaned(load_knowledge().windows, self.learned)))

    def learn_own_schools(self, connection: sqlite3.Connection) -> None:
        """Takes the practice's own schools in beside the shipped ones, by id."""
        with self._standings:
            self.schools = {school.id: school for school in (*SCHOOLS, *own_schools(connection))}
            discard_shelf_rows(connection)

    def appraise(self, recipe: Recipe, former: Mapping[str, str] | None = None) -> Appraisal:
        """The recipe worked out with the figures of today; the same recipe is worked out once.
        `former` are the names lines had before, by id, which its method may still use."""
        return self._appraise(recipe, tuple(sorted((former or {}).items())))

    def appraise_version(self, version: Version) -> Appraisal:
        """An accepted version worked out with the figures it was accepted with."""
        return self._appraise_pinned(version.recipe, version.pinned)

    def _with_pinned(self, recipe: Recipe, pinned: str) -> Appraisal:
        return appraised_as_pinned(recipe, pinned, self.knowledge, self.appraise)

    def newer_figures(self, version: Version) -> list[Food]:
        """Foods whose figures have changed since a version was accepted."""
        return changed_foods(json.loads(version.pinned), self.knowledge.pantry)

    def pin(self, recipe: Recipe) -> str:
        """The figures of today of a recipe's foods, to be kept with a version of it."""
        return json.dumps(pinned_figures(recipe, self.knowledge.pantry))

    def work_out_shelf_rows(self, most: int = MAX_AT_ONCE) -> int:
        """Works out how recipes stand whose draft has moved on, at most so many. Returns how many
        are still to do."""
        with self.store() as connection:
            due = stale_recipe_ids(connection)
            for start in range(0, min(most, len(due)), 50):
                part = due[start : min(start + 50, most)]
                with self._standings:
                    save_shelf_rows(
                        connection, [self._standing(connection, recipe_id) for recipe_id in part]
                    )
        return max(0, len(due) - most)

    def refresh_shelf(self) -> int:
        """Sees to it that every recipe stands as its draft does. Returns how many are still worked
        out beside the page. Where the disk has no room for that, the page shows how they stood
        before."""
        try:
            left = self.work_out_shelf_rows()
        except sqlite3.Error as error:
            if trouble_of(error) not in (Trouble.FULL, Trouble.READ_ONLY, Trouble.BUSY):
                raise
            return 0
        if left and (self.shelf_job is None or self.shelf_job.done):
            self.shelf_job = self.jobs.start(self._work_out_the_rest)
        return left

    def _work_out_the_rest(self, job: Job) -> None:
        """The others in a process, some at a time, so that searches come in between."""
        while not job.stop_asked.is_set():
            with self.store() as connection:
                due = stale_recipe_ids(connection)
            if not due:
                return
            job.progress = f"{len(due)} recipes to go"
            part, mark, schools = due[:ROWS_AT_ONCE], self.stock_mark, self.schools
            SEARCHES.run(
                work_out_standings,
                mark,
                part,
                tuple(schools.values()),
                stop_asked=job.stop_asked.is_set,
            )
            with self._standings, self.store() as connection:
                # Nothing is held while a process is waited for; what has changed meanwhile counts,
                # so these come again.
                if self.stock_mark is not mark or self.schools is not schools:
                    discard_shelf_rows(connection, part)

    def _standing(self, connection: sqlite3.Connection, recipe_id: int) -> ShelfRow:
        return standing_of(
            connection, recipe_id, self.schools.values(), self.appraise, self.appraise_version
        )

    def close(self) -> None:
        """Ends what goes on beside the requests, before the process ends."""
        self.lane.shut()
        self.jobs.stop_all()
        self.files.stop()
        self._connections.close()
        self._held_open.close()

    @contextmanager
    def store(self) -> Iterator[sqlite3.Connection]:
        """A connection for one request."""
        with self._connections.lent() as connection:
            yield connection


def workbench_of(request: Request) -> Workbench:
    found = request.app.state.workbench
    assert isinstance(found, Workbench)
    return found
