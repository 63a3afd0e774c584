"""Long work off the request: one thread each, with progress that a page can ask for."""

from __future__ import annotations

import threading
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import count

from fresh_ladle.core.sentences import capitalized

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


class JobStopped(Exception):
    """Raised inside the work when a person asked it to stop."""


class Jobs:
    """The jobs of one running workbench."""

    def __init__(self) -> None:
        self._jobs: dict[int, Job] = {}
        self._ids = count(1)
        self._threads: list[threading.Thread] = []
        self._in_line: deque[int] = deque()
        self._moved_up = threading.Condition()

    def start(
        self, work: Callable[[Job], object], so_far: object = None, about: str = "", in_line: bool = False
    ) -> Job:
        """Runs `work` in a thread of its own. An error it raises becomes the words of the job.

        `so_far` is the result until the work is done, for work that fills it as it goes; `about` is the kind of work.
        Work `in_line` is done one after the other in the order it came, so that pages keep their share of the machine.
        """
        job = Job(next(self._ids), about, result=so_far)
        if in_line:
            self._in_line.append(job.id)
        self._jobs[job.id] = job
        for old in [number for number, one in self._jobs.items() if one.done][:-MAX_KEPT]:
            del self._jobs[old]

        def run() -> None:
            try:
                if in_line:
                    self._wait_in_line(job)
                job.result = work(job)
            except JobStopped:
                job.error = "Stopped. Nothing was changed."
            except (ValueError, OSError) as error:
                job.error = f"{capitalized(str(error))}. Nothing was changed."
            except Exception:
                job.error = "Something went wrong on our side. Nothing was changed."
                raise
            finally:
                job.done = True
                if in_line:
                    self._leave_the_line(job)

        thread = threading.Thread(target=run, daemon=True)
        self._threads = [t for t in self._threads if t.is_alive()] + [thread]
        thread.start()
        return job

    def _wait_in_line(self, job: Job) -> None:
        """Returns when this job is the first in line, or was asked to stop."""
        with self._moved_up:
            while self._in_line[0] != job.id and not job.stop_asked.is_set():
                before = self._in_line.index(job.id)
                job.progress = f"{before} before this one"
                self._moved_up.wait(0.3)

    def _leave_the_line(self, job: Job) -> None:
        with self._moved_up:
            self._in_line.remove(job.id)
            self._moved_up.notify_all()

    def stop_all(self, seconds: float = 5.0) -> None:
        """Asks everything under way to stop and waits a little for it, before the process ends."""
        for job in self._jobs.values():
            job.stop_asked.set()
        for thread in self._threads:
            thread.join(seconds)

    def get(self, job_id: int) -> Job | None:
        return self._jobs.get(job_id)
