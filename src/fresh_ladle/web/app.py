"""The web application: routes, security headers, and errors that say what happened and what to do
next."""

from __future__ import annotations

import re
from collections.abc import Awaitable, Callable, Iterator, Sequence
from importlib import import_module
from math import inf
from pathlib import Path
from pkgutil import walk_packages
from urllib.parse import urlsplit

from fastapi import FastAPI, Request, Response
from fastapi.responses import PlainTextResponse
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.routing import BaseRoute

from fresh_ladle.web import places
from fresh_ladle.web.door.wire import BodyLimit, SecurityHeaders
from fresh_ladle.web.shared.error_pages import add_error_pages, problem
from fresh_ladle.web.shared.page import HERE
from fresh_ladle.web.state import Workbench
from fresh_ladle.web.styles import joined_styles, styles_address

MAX_BODY_BYTES = 10_000_000
MAX_RELEASE_BYTES = 600_000_000
"""A composition release is the one thing that may be large."""
MAX_OPEN_BYTES = 64_000
OPEN_TO_ANYONE = (
    "/ballot/",
    "/practice-seat/",
    "/go/",
    "/handout/",
    "/welcome/",
    "/sign-in",
    "/look",
)
"""What is reached without an account takes a short form and no more."""
HOSTS = ("127.0.0.1", "localhost", "[::1]")
"""What this machine calls itself."""
IN_TESTS = (*HOSTS, "testserver")


def create_app(database: Path, answers_to: Sequence[str] = IN_TESTS) -> FastAPI:
    """The application over one database file, made if it is not there, for requests that call it by
    these names."""
    app = FastAPI(title="Fresh Ladle", docs_url=None, redoc_url=None, openapi_url=None)
    app.state.workbench = Workbench(database)
    app.router.routes.extend(sorted(_routes_of_places(), key=_open_places))
    app.add_api_route(styles_address(), _styles)
    app.mount("/static", StaticFiles(directory=HERE / "static"), name="static")
    app.middleware("http")(_guard)
    app.add_middleware(GZipMiddleware, minimum_size=800)
    app.add_middleware(BodyLimit, most_bytes=_most_bytes)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=list(answers_to))
    app.add_middleware(SecurityHeaders)
    add_error_pages(app)
    return app


def _routes_of_places() -> Iterator[BaseRoute]:
    """The routes of every module of a place that ends in routes: `places/bench/routes.py`,
    `scale_routes.py`."""
    for module in walk_packages(places.__path__, f"{places.__name__}."):
        if module.name.endswith("routes"):
            yield from import_module(module.name).router.routes


def _open_places(route: BaseRoute) -> list[bool]:
    """Which parts of an address are open: `/foods/new` is asked before `/foods/{key}`, wherever
    either is written."""
    return ["{" in part for part in getattr(route, "path", "").split("/")]


def _styles() -> Response:
    return Response(joined_styles(), media_type="text/css")


def _most_bytes(path: str) -> int:
    """The bytes a request to an address may hold."""
    if path.startswith(OPEN_TO_ANYONE):
        return MAX_OPEN_BYTES
    return MAX_RELEASE_BYTES if path == "/foods/import" else MAX_BODY_BYTES


async def _guard(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
    """Refuses writes that come from another site or say they are too large."""
    if request.method not in ("GET", "HEAD", "OPTIONS"):
        if not _same_origin(request):
            return PlainTextResponse(
                "This request came from another site and was refused.", status_code=403
            )
        if _said_bytes(request) > _most_bytes(request.url.path):
            return problem(
                request,
                413,
                "That was too much at once",
                "The text is larger than a recipe can be. Nothing was kept; paste one recipe at a"
                " time.",
            )
    response = await call_next(request)
    response.headers.setdefault("Cache-Control", _kept_by_browsers(request))
    response.headers.setdefault("Vary", "HX-Request")
    return response


def _said_bytes(request: Request) -> float:
    """The bytes a request says it holds; without end where it says what no number is."""
    said = request.headers.get("content-length") or "0"
    return int(said) if re.fullmatch(r"[0-9]{1,18}", said) else inf


OF_PEOPLE = ("/people", "/account", "/welcome", "/log", "/copies", "/sign-in")
"""Pages that nobody else may find by going back."""


def _kept_by_browsers(request: Request) -> str:
    if request.url.path.startswith(("/static/vendor", styles_address())):
        return "public, max-age=604800"
    # A part of a page must never be kept as the page of the same address: going back would show it
    # alone.
    part = "HX-Request" in request.headers
    return "no-store" if part or request.url.path.startswith(OF_PEOPLE) else "private, no-cache"


def _same_origin(request: Request) -> bool:
    if (site := request.headers.get("sec-fetch-site")) is not None:
        return site in ("same-origin", "none")
    origin = request.headers.get("origin")
    return origin is None or urlsplit(origin).netloc == request.headers.get("host")
