"""A lane into the workbench for phones in the room: the pages that are open to anyone, and no
others, on an address of this machine, for an hour."""

from __future__ import annotations

import socket
import threading
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

import uvicorn
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from fresh_ladle.core.errors import Refused
from fresh_ladle.store import clock

MINUTES = 60
PAGES = ("/go/", "/ballot/", "/practice-seat/", "/handout/", "/static/", "/look")
"""What phones of the room reach: tasters' ballots, seats of a class, cards, and how those look."""
INSIDE = b"127.0.0.1"
"""What the lane calls the workbench by, whatever the phone called this machine."""


LOOPBACK = ("127.0.0.1", "::1", "localhost")
"""What a machine calls itself; no other machine gets there by it."""


def addresses() -> list[str]:
    """The addresses of this machine, as far as its own name, and the way out of it, lead to
    them."""
    found: set[str] = set()
    with suppress(OSError):
        found |= {str(at[4][0]) for at in socket.getaddrinfo(socket.gethostname(), None)}
    with suppress(OSError), socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as sock:
        # Nothing is sent: connecting only chooses the address that would be sent from.
        sock.connect(("192.0.2.1", 9))
        found.add(sock.getsockname()[0])
    return sorted(found)


def _of_the_room() -> str:
    """The address of this machine that a phone beside it would use; empty where it has none."""
    own = (a for a in addresses() if ":" not in a and not a.startswith("127."))
    return next(own, "")


def _listening() -> socket.socket:
    """A free port of that address. Raises Refused where there is none that a phone could reach."""
    at = _of_the_room()
    with suppress(OSError):
        if at:
            return socket.create_server((at, 0), backlog=128)
    raise Refused(
        "this machine is in no network that a phone could be in: join one, then open it again"
    )


class OnlyForPhones:
    """The workbench as the lane shows it: `PAGES` alone, asked by nobody in particular."""

    def __init__(self, app: ASGIApp, name: str) -> None:
        self._app, self._name = app, name

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers = dict(scope.get("headers", ()))
        if headers.get(b"host", b"").decode("latin1") != self._name:
            await PlainTextResponse("This is not its address.", 400)(scope, receive, send)
        elif not scope["path"].startswith(PAGES):
            await PlainTextResponse("Nothing is here for phones.", 404)(scope, receive, send)
        else:
            await self._app(self._within(scope), receive, send)

    def _within(self, scope: Scope) -> dict[str, Any]:
        """As the workbench is asked from this machine; a word of another site stays one."""
        own = f"http://{self._name}".encode("latin1")
        headers = [
            (key, b"http://" + INSIDE if key == b"origin" and value == own else value)
            for key, value in scope["headers"]
            if key not in (b"host", b"cookie")
        ]
        return {**scope, "headers": [*headers, (b"host", INSIDE)], "lane": True}


@dataclass
class Lane:
    """The lane of one running workbench; shut at first."""

    address: str = ""
    """`http://192.0.2.7:8011`, empty while it is shut."""
    until: datetime | None = None
    _server: uvicorn.Server | None = None
    _timer: threading.Timer | None = None
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def open(self, app: ASGIApp) -> None:
        """Opens it for an hour, from now where it is open. Raises Refused where this machine is in
        no network."""
        with self._lock:
            if self._server is None:
                self._serve(app, _listening())
            if self._timer is not None:
                self._timer.cancel()
            self.until = clock.now() + timedelta(minutes=MINUTES)
            self._timer = threading.Timer(MINUTES * 60, self.shut)
            self._timer.daemon = True
            self._timer.start()

    def _serve(self, app: ASGIApp, sock: socket.socket) -> None:
        name = ":".join(map(str, sock.getsockname()))
        config = uvicorn.Config(
            OnlyForPhones(app, name),
            log_level="warning",
            access_log=False,
            server_header=False,
            proxy_headers=False,
            lifespan="off",
        )
        self._server, self.address = uvicorn.Server(config), f"http://{name}"
        threading.Thread(
            target=self._server.run, kwargs={"sockets": [sock]}, daemon=True, name="lane"
        ).start()

    def shut(self) -> None:
        with self._lock:
            if self._server is not None:
                self._server.should_exit = True
            if self._timer is not None:
                self._timer.cancel()
            self._server, self._timer, self.until, self.address = None, None, None, ""
