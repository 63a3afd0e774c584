"""What holds on the wire for every answer, whatever made it: security headers on all of them, and
an end to a body that grows past its limit, counted as it comes in, since a chunked one says no
length."""

from __future__ import annotations

from collections.abc import Callable, MutableMapping
from typing import Any

from starlette.types import ASGIApp, Message, Receive, Scope, Send

_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self'"
    " data:; connect-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"
)
SECURITY_HEADERS = {
    # Without an origin said, a form sent over plain HTTP could not be told from one of another
    # site.
    "Content-Security-Policy": _POLICY, "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin", "X-Frame-Options": "DENY",
}  # fmt: skip
HTTPS_ONLY = {"Strict-Transport-Security": "max-age=31536000"}
TOO_LARGE = (
    b"That was too much at once. The text is larger than a recipe can be. Nothing was kept; paste"
    b" one recipe at a time."
)


class SecurityHeaders:
    """Puts the security headers on every answer, error pages of the framework included."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        async def sending(message: Message) -> None:
            if message["type"] == "http.response.start":
                _add_missing(message, scope.get("scheme") == "https")
            await send(message)

        await self._app(scope, receive, sending if scope["type"] == "http" else send)


def _add_missing(message: MutableMapping[str, Any], over_https: bool) -> None:
    wanted = SECURITY_HEADERS | (HTTPS_ONLY if over_https else {})
    headers = list(message.get("headers", []))
    there = {name.lower() for name, _ in headers}
    headers += [
        (name.lower().encode(), value.encode())
        for name, value in wanted.items()
        if name.lower().encode() not in there
    ]
    message["headers"] = headers


class _TooLarge(Exception):
    """More came in than a request may hold."""


class BodyLimit:
    """Ends a request whose body grows past what its address may take."""

    def __init__(self, app: ASGIApp, most_bytes: Callable[[str], int]) -> None:
        self._app, self._most_bytes = app, most_bytes

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        most, so_far, started, refused = self._most_bytes(scope["path"]), 0, False, False

        async def receiving() -> Message:
            nonlocal so_far
            message = await receive()
            so_far += len(message.get("body", b""))
            if so_far > most:
                raise _TooLarge
            return message

        async def sending(message: Message) -> None:
            nonlocal started, refused
            if so_far > most and not started:
                # Whoever read the body made something else of our error: this is what is said of
                # it.
                if not refused:
                    refused = True
                    await _refuse(send)
                return
            started = started or message["type"] == "http.response.start"
            await send(message)

        try:
            await self._app(scope, receiving, sending)
        except _TooLarge:
            if not (started or refused):
                await _refuse(send)


async def _refuse(send: Send) -> None:
    head = [(b"content-type", b"text/plain; charset=utf-8"), (b"connection", b"close")]
    await send({"type": "http.response.start", "status": 413, "headers": head})
    await send({"type": "http.response.body", "body": TOO_LARGE})
