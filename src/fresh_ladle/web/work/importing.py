"""What a process of imports does. It loads nothing that searches need, so that its memory can be
held low."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path

from fresh_ladle.formats.composition import Release
from fresh_ladle.store.database import connect
from fresh_ladle.store.foods.imported_foods import ImportReport, import_release
from fresh_ladle.web.work.jobs import JobStopped
from fresh_ladle.web.work.processes import Telling


def bring_foods_in(telling: Telling, database: Path, release: Path, source: str) -> ImportReport:
    """A composition release read into the database. Tells how far it has come."""

    def progress(what: str, count: int) -> None:
        telling.say(f"{count:,} {what} read")
        if telling.stopped():
            raise JobStopped

    with closing(connect(database)) as connection:
        return import_release(connection, Release(release), source, progress)
