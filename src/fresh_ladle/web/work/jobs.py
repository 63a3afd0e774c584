"""Long work off the request: a thread each that waits for it, with progress that a page can ask
for."""

from __future__ import annotations

import threading
from collections.abc import Callable
from contextvars import copy_context
from dataclasses import dataclass, field
from itertools import count

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.store.database import StoreError
from fresh_ladle.web.work.line import Waiting, most_in_line, next_in_line
from fresh_ladle.web.work.processes import AT_ONCE

MAX_KEPT = 40
"""Ended jobs that can still be looked at; older ones are forgotten."""


@dataclass
class Job:
    """Work under way. `done` turns True at the end, with a result or an `error` in words."""

    id: int
    about: str = ""
    progress: str = "starting"
    done: bool = False
    error: str = ""
    result: object = None
    stop_asked: threading.Event = field(default_factory=threading.Event)
    ended: threading.Event = field(default_factory=threading.Event)


class JobStopped(Exception):
    """Raised inside the work when a person asked it to stop."""


class TooMuchWaiting(Exception):
    """A person has as much under way and waiting as one may."""


class Jobs:
    """The jobs of one running workbench."""

    def __init__(self, at_once: int = AT_ONCE) -> None:
        self._jobs: dict[int, Job] = {}
        self._ids = count(1)
        self._threads: list[threading.Thread] = []
        self._at_once = at_once
        self._waiting: list[Waiting] = []
        self._running: list[Waiting] = []
        self._served: dict[str, int] = {}
        self._moved_up = threading.Condition()

    def start(
        self,
        work: Callable[[Job], object],
        so_far: object = None,
        about: str = "",
        in_line: bool = False,
        of: str = "",
    ) -> Job:
        """Runs `work` in a thread of its own. An error it raises becomes the words of the job.

        `so_far` is the result until the work is done, for work that fills it as it goes; `about` is
        the kind of work. Work `in_line` waits for its turn, fairly between the people it is `of`.
        Raises TooMuchWaiting where one of them has as much in line as one may."""
        job = Job(next(self._ids), about, result=so_far)
        place = Waiting(job.id, of)
        if in_line:
            self._join_the_line(place)
        self._jobs[job.id] = job
        for old in [number for number, one in self._jobs.items() if one.done][:-MAX_KEPT]:
            del self._jobs[old]

        def run() -> None:
            try:
                if in_line:
                    self._wait_in_line(job, place)
                job.result = work(job)
            except JobStopped:
                job.error = "Stopped. Nothing was changed."
            except (Refused, OSError, StoreError) as error:
                job.error = f"{capitalized(str(error))}. Nothing was changed."
            except Exception:
                job.error = "Something went wrong on our side. Nothing was changed."
                raise
            finally:
                job.done = True
                job.ended.set()
                if in_line:
                    self._leave_the_line(place)

        # Whoever started it is noted as who does what it does.
        thread = threading.Thread(target=copy_context().run, args=(run,), daemon=True)
        self._threads = [t for t in self._threads if t.is_alive()] + [thread]
        thread.start()
        return job

    def _join_the_line(self, place: Waiting) -> None:
        with self._moved_up:
            if sum(one.of == place.of for one in (*self._waiting, *self._running)) >= most_in_line(
                place.of
            ):
                raise TooMuchWaiting
            self._waiting.append(place)

    def _wait_in_line(self, job: Job, place: Waiting) -> None:
        """Returns when it is this one's turn, or it was asked to stop."""
        with self._moved_up:
            while not self._is_next(place) and not job.stop_asked.is_set():
                job.progress = (
                    f"{self._waiting.index(place) + len(self._running)} before this one, or fewer"
                )
                self._moved_up.wait(0.3)
            self._waiting.remove(place)
            self._running.append(place)
            self._served[place.of] = place.id
            self._moved_up.notify_all()

    def _is_next(self, place: Waiting) -> bool:
        free = len(self._running) < self._at_once
        return free and next_in_line(self._waiting, self._running, self._served) == place

    def _leave_the_line(self, place: Waiting) -> None:
        with self._moved_up:
            self._running.remove(place)
            self._moved_up.notify_all()

    def stop_all(self, seconds: float = 5.0) -> None:
        """Asks everything under way to stop and waits a little for it, before the process ends."""
        for job in self._jobs.values():
            job.stop_asked.set()
        for thread in self._threads:
            thread.join(seconds)

    def get(self, job_id: int) -> Job | None:
        return self._jobs.get(job_id)
