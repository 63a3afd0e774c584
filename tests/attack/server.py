"""A workbench in a process of its own, as a person starts it: asked over the wire, killed, its
memory read."""

from __future__ import annotations

import http.client
import re
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from time import monotonic
from urllib.parse import urlencode

START_SECONDS = 60


@dataclass(frozen=True, slots=True)
class Answer:
    status: int
    body: str
    location: str
    headers: Mapping[str, str] = field(default_factory=dict)


@dataclass
class Server:
    """`slowest` is the longest an answer took, with what was asked; `broken` what answered with
    5xx."""

    port: int
    process: subprocess.Popen[str]
    slowest: tuple[float, str] = (0.0, "")
    broken: list[str] = field(default_factory=list)
    answers: int = 0
    _noting: threading.Lock = field(default_factory=threading.Lock)

    def ask(
        self,
        method: str,
        path: str,
        form: Mapping[str, str] | None = None,
        body: bytes | Iterator[bytes] | None = None,
        kind: str = "application/x-www-form-urlencoded",
        headers: Mapping[str, str] | None = None,
    ) -> Answer:
        """Raises OSError or HTTPException where the server is gone."""
        began = monotonic()
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        try:
            sent = urlencode(form).encode() if form is not None else body
            chunked = sent is not None and not isinstance(sent, bytes)
            connection.request(
                method,
                path,
                sent,
                {"Content-Type": kind, **(headers or {})},
                encode_chunked=chunked,
            )
            got = connection.getresponse()
            sent_back = {name.lower(): value for name, value in got.getheaders()}
            text = got.read().decode("utf-8", "replace")
            answer = Answer(got.status, text, sent_back.get("location", ""), sent_back)
        finally:
            connection.close()
        with self._noting:
            self.answers += 1
            self.slowest = max(self.slowest, (monotonic() - began, f"{method} {path}"))
            if answer.status >= 500:
                self.broken.append(f"{method} {path}: {answer.status}")
        return answer

    def revision(self, recipe_id: int) -> str:
        found = re.search(r'data-revision="(\d+)"', self.ask("GET", f"/recipes/{recipe_id}").body)
        return found[1] if found else "0"

    @property
    def most_memory_mb(self) -> float:
        """The most memory the server has held, with that of each process it has started that still
        runs."""
        tasks = Path(f"/proc/{self.process.pid}/task")
        children = {
            pid
            for task in tasks.iterdir()
            for pid in (task / "children").read_text("utf-8").split()
        }
        return sum(_most_held_mb(pid) for pid in (str(self.process.pid), *children))


def _most_held_mb(pid: str) -> float:
    status = Path(f"/proc/{pid}/status").read_text(encoding="utf-8")
    found = re.search(r"VmHWM:\s+(\d+) kB", status)
    return int(found[1]) / 1024 if found else 0.0


@contextmanager
def running(database: Path, command: str = "serve", *options: str) -> Iterator[Server]:
    """A server over a database, started with these options; it is killed at the end, if it still
    runs."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    started = [
        sys.executable,
        "-m",
        "fresh_ladle.cli",
        command,
        "--port",
        str(port),
        "--database",
        str(database),
    ]
    started += options
    process = subprocess.Popen(
        started, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True
    )
    try:
        end = monotonic() + START_SECONDS
        assert process.stdout is not None
        while "is at" not in process.stdout.readline():
            if process.poll() is not None or monotonic() > end:
                raise RuntimeError(f"the server did not start (exit {process.poll()})")
        yield Server(port, process)
    finally:
        process.kill()
        process.wait()
