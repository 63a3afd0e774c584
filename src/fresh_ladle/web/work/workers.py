"""Reads files and pages in processes of their own, so that none of them can hold up a page or eat
the memory."""

from __future__ import annotations

import multiprocessing
import resource
import threading
from collections.abc import Callable
from concurrent.futures import TimeoutError as TooLong

from pebble import ProcessExpired, ProcessPool

from fresh_ladle.formats.any_recipe import recipe_text_from_file, recipe_text_from_paste
from fresh_ladle.formats.json_ld import looks_like_json_ld
from fresh_ladle.formats.limits import FileError

AT_ONCE = 2
MAX_IN_LINE = 6
MAX_SECONDS = 10.0
MAX_MEMORY_BYTES = 1_200_000_000
"""Address space of one process; the libraries a reader loads take about a third of it before any
file is opened."""


class FileReaders:
    """The reading processes of one running workbench. They start with the first file and end with
    `stop`."""

    def __init__(self, seconds: float = MAX_SECONDS, memory_bytes: int = MAX_MEMORY_BYTES) -> None:
        self._seconds, self._memory_bytes = seconds, memory_bytes
        self._starting = threading.Lock()
        self._places = threading.BoundedSemaphore(AT_ONCE + MAX_IN_LINE)
        self._pool: ProcessPool | None = None

    def text_of_file(self, data: bytes, name: str) -> str:
        """Plain recipe text of a file. Raises FileError for a file that is none, or takes too long
        or too much memory."""
        return self._bounded(recipe_text_from_file, data, name)

    def text_of_paste(self, text: str) -> str:
        """Plain recipe text of what was pasted; what is no page and no JSON is that text already.
        Raises FileError."""
        return self._bounded(recipe_text_from_paste, text) if looks_like_json_ld(text) else text

    def _bounded(self, read: Callable[..., str], *args: object) -> str:
        if not self._places.acquire(blocking=False):
            raise FileError("several files are being read just now: try again in a moment")
        try:
            return str(
                self._running_pool().schedule(read, args=args, timeout=self._seconds).result()
            )
        except TooLong:
            raise FileError(
                f"reading this takes longer than {self._seconds:g} seconds: paste the ingredient"
                " lines themselves"
            ) from None
        except (ProcessExpired, MemoryError):
            raise FileError(
                "this takes more memory than a recipe needs: paste the ingredient lines themselves"
            ) from None
        finally:
            self._places.release()

    def _running_pool(self) -> ProcessPool:
        with self._starting:
            if self._pool is None:
                self._pool = ProcessPool(
                    max_workers=AT_ONCE,
                    max_tasks=50,
                    initializer=_limit_memory,
                    initargs=(self._memory_bytes,),
                    context=multiprocessing.get_context("spawn"),
                )
            return self._pool

    def stop(self) -> None:
        """Ends the processes, with whatever they are reading."""
        with self._starting:
            if self._pool is not None:
                self._pool.stop()  # type: ignore[no-untyped-call]
                self._pool.join()
                self._pool = None


def _limit_memory(most_bytes: int) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (most_bytes, most_bytes))
