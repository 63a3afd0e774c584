"""Work that costs runs in processes of its own, bounded in number, memory and time, and less urgent
than pages.

What is found is told while the work goes on, and somebody may stop it; that is why this is not a
pool of the library's. A process is started when it is first needed and does one piece of work after
another. One that is killed, by its bounds or because its work did not stop when it was asked to, is
replaced."""

from __future__ import annotations

import atexit
import multiprocessing
import os
import resource
import signal
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from multiprocessing.connection import Connection
from multiprocessing.context import SpawnProcess
from multiprocessing.synchronize import Event
from time import monotonic
from typing import Any, Protocol

from fresh_ladle.core.errors import Refused

CORES = os.cpu_count() or 1
AT_ONCE = max(1, CORES - 1)
"""A core is left for pages."""
LESS_URGENT = 15
MAX_MEMORY_BYTES = 4_000_000_000
MAX_SECONDS = 600.0
STOPS_WITHIN_S = 5.0
LOOKED_AT_S = 0.05
WORK_OF_ONE = 200
"""Pieces of work after which a process is replaced."""
_SPAWN = multiprocessing.get_context("spawn")


class Overrun(Refused):
    """The work took more time or memory than it may, or its process died."""


class Telling(Protocol):
    """What work is given to tell what it has found, and to ask whether it was told to stop."""

    def say(self, found: object) -> None: ...
    def stopped(self) -> bool: ...


@dataclass
class _Teller:
    """The end of the pipe in the process of the work."""

    pipe: Connection
    stop: Event
    parent: int = field(default_factory=os.getppid)
    _looked: float = 0.0
    _stopped: bool = False

    def say(self, found: object) -> None:
        self.pipe.send(("said", found))

    def stopped(self) -> bool:
        if not self._stopped and monotonic() - self._looked > LOOKED_AT_S:
            orphaned = os.getppid() != self.parent
            self._stopped, self._looked = orphaned or self.stop.is_set(), monotonic()
        return self._stopped


def _work_on(pipe: Connection, stop: Event, memory_bytes: int, less_urgent: int) -> None:
    """What a process does: piece after piece, until the pipe ends."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C is for the server, which ends us.
    os.nice(less_urgent)
    resource.setrlimit(resource.RLIMIT_AS, (memory_bytes, memory_bytes))
    while True:
        try:
            work, args = pipe.recv()
        except EOFError:
            return
        try:
            pipe.send(("done", work(_Teller(pipe, stop), *args)))
        except BaseException as error:
            _send_failure(pipe, error)


def _send_failure(pipe: Connection, error: BaseException) -> None:
    try:
        pipe.send(("failed", error))
    except Exception:
        # An error that cannot be sent is sent in words.
        pipe.send(("failed", RuntimeError(f"{type(error).__name__}: {error}")))


@dataclass
class _Process:
    process: SpawnProcess
    pipe: Connection
    stop: Event
    done: int = 0

    def end(self) -> None:
        self.pipe.close()
        self.process.kill()
        self.process.join()


@dataclass
class Processes:
    """So many processes at once; who comes when all are busy waits."""

    at_once: int = AT_ONCE
    seconds: float = MAX_SECONDS
    memory_bytes: int = MAX_MEMORY_BYTES
    most_waiting: int = 200
    less_urgent: int = LESS_URGENT
    _idle: list[_Process] = field(default_factory=list)
    _all: list[_Process] = field(default_factory=list)
    _lock: threading.Lock = field(default_factory=threading.Lock)
    _places: threading.BoundedSemaphore = field(init=False)
    _in_line: threading.BoundedSemaphore = field(init=False)

    def __post_init__(self) -> None:
        self._in_line = threading.BoundedSemaphore(self.at_once + self.most_waiting)
        self._places = threading.BoundedSemaphore(self.at_once)
        atexit.register(self.stop)

    def run(
        self,
        work: Callable[..., Any],
        *args: object,
        said: Callable[[Any], None] = lambda _: None,
        stop_asked: Callable[[], bool] = lambda: False,
    ) -> Any:
        """What `work(telling, *args)` comes to in a process. `said` is called with what it tells
        meanwhile, in order.

        Work and arguments are sent by pickle. Raises what the work raises, and Overrun, at once
        where too many wait."""
        if not self._in_line.acquire(blocking=False):
            raise Overrun("as much as can wait is waiting: try again in a moment")
        try:
            with self._places:
                one = self._taken()
                try:
                    return self._waited_for(one, work, args, said, stop_asked)
                finally:
                    self._give_back(one)
        finally:
            self._in_line.release()

    def _waited_for(
        self,
        one: _Process,
        work: Callable[..., Any],
        args: tuple[object, ...],
        said: Callable[[Any], None],
        stop_asked: Callable[[], bool],
    ) -> Any:
        one.stop.clear()
        one.pipe.send((work, args))
        end, asked_at = monotonic() + self.seconds, None
        while True:
            if one.pipe.poll(LOOKED_AT_S):
                kind, what = self._received(one)
                if kind == "done":
                    return what
                if kind == "failed":
                    raise (
                        Overrun("it takes more memory than it may")
                        if isinstance(what, MemoryError)
                        else what
                    )
                said(what)
            now = monotonic()
            if asked_at is None and stop_asked():
                one.stop.set()
                asked_at = now
            if now > end or (asked_at is not None and now > asked_at + STOPS_WITHIN_S):
                one.end()
                raise Overrun(
                    "it was stopped"
                    if asked_at is not None
                    else f"it takes more than {self.seconds:g} seconds"
                )

    @staticmethod
    def _received(one: _Process) -> tuple[str, Any]:
        try:
            kind, what = one.pipe.recv()
        except (EOFError, OSError):
            one.end()
            raise Overrun("its process ended before it was done") from None
        return str(kind), what

    def warm(self, first: Callable[[Telling], None]) -> None:
        """Starts a process before it is needed, and lets it do this first."""
        threading.Thread(target=self.run, args=(first,), daemon=True).start()

    def _taken(self) -> _Process:
        with self._lock:
            if self._idle:
                return self._idle.pop()
        ours, theirs = _SPAWN.Pipe()
        stop = _SPAWN.Event()
        process = _SPAWN.Process(
            target=_work_on, args=(theirs, stop, self.memory_bytes, self.less_urgent), daemon=True
        )
        process.start()
        theirs.close()
        one = _Process(process, ours, stop)
        with self._lock:
            self._all.append(one)
        return one

    def _give_back(self, one: _Process) -> None:
        one.done += 1
        ended = one.pipe.closed
        if not ended and (one.done >= WORK_OF_ONE or not one.process.is_alive()):
            one.end()
            ended = True
        with self._lock:
            if ended and one in self._all:
                self._all.remove(one)
            elif not ended:
                self._idle.append(one)

    def stop(self) -> None:
        """Ends all processes, with whatever they are at."""
        with self._lock:
            ended, self._all, self._idle = self._all, [], []
        for one in ended:
            if not one.pipe.closed:
                one.end()


SEARCHES = Processes()
"""Plans, compositions, and how recipes stand."""
DAYS = Processes(at_once=1, seconds=45.0)
"""Orders of work of services."""
IMPORTS = Processes(at_once=1, seconds=3600.0, memory_bytes=1_200_000_000)
"""Releases of foods: address space, of which libraries take about a third before any file is
opened."""
PAPERS = Processes(at_once=1, seconds=60.0, most_waiting=12)
"""Sheets and cards as PDF."""
