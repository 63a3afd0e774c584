"""The web application: routes, security headers, and errors that say what happened and what to do next."""

from __future__ import annotations

import re
from collections.abc import Awaitable, Callable, Sequence
from math import inf
from pathlib import Path
from urllib.parse import urlsplit

from fastapi import FastAPI, Request, Response
from fastapi.responses import PlainTextResponse
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware

from fresh_ladle.web.error_pages import add_error_pages, problem
from fresh_ladle.web.routes import (
    ballots,
    bench,
    card,
    compare,
    compose,
    counter,
    eaters,
    foods,
    lesson,
    method,
    moves,
    people,
    plans,
    plans_for_many,
    practice,
    practice_class,
    practice_pours,
    ratio,
    read_in,
    saved_plans,
    scale,
    service_files,
    service_planning,
    services,
    settings,
    shelf,
    sign_in,
    targets,
    taste,
    tastings,
    temperatures,
    thickness,
    variants,
    versions,
)
from fresh_ladle.web.routes.common import HERE
from fresh_ladle.web.state import Workbench
from fresh_ladle.web.wire import BodyLimit, SecurityHeaders

MAX_BODY_BYTES = 10_000_000
MAX_RELEASE_BYTES = 600_000_000
"""A composition release is the one thing that may be large."""
MAX_OPEN_BYTES = 64_000
OPEN_TO_ANYONE = ("/ballot/", "/practice-seat/", "/welcome/", "/sign-in", "/look")
"""What is reached without an account takes a short form and no more."""
HOSTS = ("127.0.0.1", "localhost", "[::1]")
"""What this machine calls itself."""
IN_TESTS = (*HOSTS, "testserver")


def create_app(database: Path, answers_to: Sequence[str] = IN_TESTS) -> FastAPI:
    """The application over one database file, made if it is not there, for requests that call it by these names."""
    app = FastAPI(title="Fresh Ladle", docs_url=None, redoc_url=None, openapi_url=None)
    app.state.workbench = Workbench(database)
    for module in (
        shelf,
        read_in,
        moves,
        bench,
        thickness,
        scale,
        tastings,
        ballots,
        eaters,
        service_planning,
        services,
        service_files,
        temperatures,
        plans,
        saved_plans,
        plans_for_many,
        ratio,
        variants,
        versions,
        counter,
        method,
        compare,
        compose,
        card,
        lesson,
        foods,
        targets,
        settings,
        taste,
        practice,
        practice_class,
        practice_pours,
        people,
        sign_in,
    ):
        app.include_router(module.router)
    app.mount("/static", StaticFiles(directory=HERE / "static"), name="static")
    app.middleware("http")(_guard)
    app.add_middleware(GZipMiddleware, minimum_size=800)
    app.add_middleware(BodyLimit, most_bytes=_most_bytes)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=list(answers_to))
    app.add_middleware(SecurityHeaders)
    add_error_pages(app)
    return app


def _most_bytes(path: str) -> int:
    """The bytes a request to an address may hold."""
    if path.startswith(OPEN_TO_ANYONE):
        return MAX_OPEN_BYTES
    return MAX_RELEASE_BYTES if path == "/foods/import" else MAX_BODY_BYTES


async def _guard(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
    """Refuses writes that come from another site or say they are too large."""
    if request.method not in ("GET", "HEAD", "OPTIONS"):
        if not _same_origin(request):
            return PlainTextResponse("This request came from another site and was refused.", status_code=403)
        if _said_bytes(request) > _most_bytes(request.url.path):
            return problem(
                request,
                413,
                "That was too much at once",
                "The text is larger than a recipe can be. Nothing was kept; paste one recipe at a time.",
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
    if request.url.path.startswith("/static/vendor"):
        return "public, max-age=604800"
    # A part of a page must never be kept as the page of the same address: going back would show it alone.
    part = "HX-Request" in request.headers
    return "no-store" if part or request.url.path.startswith(OF_PEOPLE) else "private, no-cache"


def _same_origin(request: Request) -> bool:
    if (site := request.headers.get("sec-fetch-site")) is not None:
        return site in ("same-origin", "none")
    origin = request.headers.get("origin")
    return origin is None or urlsplit(origin).netloc == request.headers.get("host")
