"""What time it is. Whatever keeps or compares moments asks here, so that a test can say what time
it is."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime


def _of_the_machine() -> datetime:
    return datetime.now(UTC)


_asked: Callable[[], datetime] = _of_the_machine


def now() -> datetime:
    """This moment, in UTC."""
    return _asked()


def now_text() -> str:
    """This moment as rows keep it: UTC, to the second."""
    return now().isoformat(timespec="seconds")


@contextmanager
def another_clock(clock: Callable[[], datetime]) -> Iterator[None]:
    """Another clock, of aware moments, for the whole process while this lasts."""
    global _asked
    before, _asked = _asked, clock
    try:
        yield
    finally:
        _asked = before
