"""What ships, read and checked once and kept ready in the user's cache: reading the tables takes
longer than a command.

The copy is of these very files of data and of the code that reads them, by name, size and time; it
is taken only where it belongs to the user who runs, since whoever can write it could have code run.
Without a cache all is read anew."""

from __future__ import annotations

import contextlib
import gc
import hashlib
import os
import pickle
import tempfile
from collections.abc import Callable
from dataclasses import fields, is_dataclass
from pathlib import Path
from typing import Any, TypeVar

T = TypeVar("T")
_PACKAGE = Path(__file__).parent.parent
_READ_BY = ("data", "core")


def kept(name: str, build: Callable[[], T]) -> T:
    """What `build` comes to, from the cache where that is of these very files."""
    path = _directory() / f"{name}-{_fingerprint()}.pickle"
    found: T | None = _read(path)
    if found is not None:
        return found
    built = build()
    _write(path, name, built)
    return built


def _directory() -> Path:
    home = os.environ.get("XDG_CACHE_HOME") or os.path.join(os.path.expanduser("~"), ".cache")
    return Path(home) / "fresh-ladle"


def _fingerprint() -> str:
    """Of the name, size and time of every file that has a part in it."""
    digest = hashlib.sha256()
    for room in _READ_BY:
        for folder, folders, names in os.walk(_PACKAGE / room):
            folders.sort()
            for name in sorted(names):
                if name.endswith((".py", ".csv", ".toml")):
                    seen = os.stat(os.path.join(folder, name))
                    digest.update(f"{folder}/{name} {seen.st_size} {seen.st_mtime_ns}\n".encode())
    return digest.hexdigest()[:24]


def _read(path: Path) -> Any:
    try:
        with path.open("rb") as handle:
            seen = os.fstat(handle.fileno())
            if seen.st_uid != os.getuid() or seen.st_mode & 0o022:
                return None
            # Nothing of it is garbage: looking for some takes a third of the time.
            gc.disable()
            return pickle.load(handle)
    except Exception:
        # A copy that cannot be read, for whatever reason, is as good as none.
        return None
    finally:
        gc.enable()


class _Values(pickle.Pickler):
    """Writes frozen values as calls of their class: twenty thousand of them come back five times as
    fast so."""

    def reducer_override(self, obj: object) -> Any:
        if not is_dataclass(obj) or isinstance(obj, type) or not all(f.init for f in fields(obj)):
            return NotImplemented
        return type(obj), tuple(getattr(obj, f.name) for f in fields(obj))


def _write(path: Path, name: str, built: object) -> None:
    with contextlib.suppress(OSError, pickle.PicklingError):
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        handle, made = tempfile.mkstemp(dir=path.parent)
        with os.fdopen(handle, "wb") as out:
            _Values(out, protocol=pickle.HIGHEST_PROTOCOL).dump(built)
        os.replace(made, path)
        for old in path.parent.glob(f"{name}-*.pickle"):
            if old != path:
                old.unlink(missing_ok=True)
