"""The web application: routes, security headers, and errors that say what happened and what to do next."""

from __future__ import annotations

from collections.abc import Awaitable, Callable
from pathlib import Path
from urllib.parse import urlsplit

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse, PlainTextResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware

from fresh_ladle.core.foods.pantry import UnknownFood
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.sentences import capitalized
from fresh_ladle.store.drafts import StaleEdit
from fresh_ladle.store.recipes import RecipeMissing
from fresh_ladle.store.saved_plans import PlanMissing
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
    plans,
    plans_for_many,
    ratio,
    read_in,
    saved_plans,
    scale,
    service_files,
    service_planning,
    services,
    settings,
    shelf,
    targets,
    taste,
    tastings,
    temperatures,
    thickness,
    variants,
    versions,
)
from fresh_ladle.web.routes.common import HERE, page
from fresh_ladle.web.state import Workbench

MAX_BODY_BYTES = 10_000_000
MAX_RELEASE_BYTES = 600_000_000
"""A composition release is the one thing that may be large."""
HOSTS = ["127.0.0.1", "localhost", "[::1]", "testserver"]
_POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src"
    " 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"
)
_HEADERS = {
    "Content-Security-Policy": _POLICY, "X-Content-Type-Options": "nosniff", "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin", "X-Frame-Options": "DENY",
}  # fmt: skip


def create_app(database: Path) -> FastAPI:
    """The application over one database file, made if it is not there."""
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
    ):
        app.include_router(module.router)
    app.mount("/static", StaticFiles(directory=HERE / "static"), name="static")
    app.middleware("http")(_guard)
    app.add_middleware(GZipMiddleware, minimum_size=800)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=HOSTS)
    _add_error_pages(app)
    return app


async def _guard(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
    """Refuses writes that come from another site or are too large, and sends the security headers."""
    if request.method not in ("GET", "HEAD", "OPTIONS"):
        if not _same_origin(request):
            return PlainTextResponse("This request came from another site and was refused.", status_code=403)
        most = MAX_RELEASE_BYTES if request.url.path == "/foods/import" else MAX_BODY_BYTES
        if int(request.headers.get("content-length") or 0) > most:
            return _problem(
                request,
                413,
                "That was too much at once",
                "The text is larger than a recipe can be. Nothing was kept; paste one recipe at a time.",
            )
    response = await call_next(request)
    for name, value in _HEADERS.items():
        response.headers.setdefault(name, value)
    cached = request.url.path.startswith("/static/vendor")
    # A part of a page must never be kept as the page of the same address: going back would show it alone.
    part = "HX-Request" in request.headers
    response.headers.setdefault(
        "Cache-Control", "public, max-age=604800" if cached else "no-store" if part else "no-cache"
    )
    response.headers.setdefault("Vary", "HX-Request")
    return response


def _same_origin(request: Request) -> bool:
    if (site := request.headers.get("sec-fetch-site")) is not None:
        return site in ("same-origin", "none")
    origin = request.headers.get("origin")
    return origin is None or urlsplit(origin).netloc == request.headers.get("host")


def _problem(request: Request, status: int, title: str, text: str) -> HTMLResponse:
    """An error in words: as a notice for htmx, as a page otherwise."""
    if request.headers.get("HX-Request"):
        return page(request, "notice.html", status, title=title, text=text)
    return page(request, "problem.html", status, title=title, text=text, place="")


def _add_error_pages(app: FastAPI) -> None:
    @app.exception_handler(RecipeMissing)
    def missing(request: Request, error: RecipeMissing) -> HTMLResponse:
        return _problem(
            request,
            404,
            "That recipe is not on the shelf",
            f"{capitalized(str(error))}. Go back to the Shelf and open one from there.",
        )

    @app.exception_handler(PlanMissing)
    def no_plan(request: Request, error: PlanMissing) -> HTMLResponse:
        return _problem(request, 404, "That plan is not there", f"{capitalized(str(error))}. Nothing was changed.")

    @app.exception_handler(UnknownFood)
    def unknown_food(request: Request, error: UnknownFood) -> HTMLResponse:
        return _problem(
            request, 404, "That food is not in the stores", f"{capitalized(str(error))}. Search the stores for it."
        )

    @app.exception_handler(StaleEdit)
    def stale(request: Request, error: StaleEdit) -> HTMLResponse:
        return _problem(
            request,
            409,
            "Another tab has changed this recipe",
            f"Its last edit was “{error}”. Your edit was not made and nothing was lost: reload to see the recipe as it"
            " is now, then make your edit again.",
        )

    @app.exception_handler(RecipeError)
    def recipe_error(request: Request, error: RecipeError) -> HTMLResponse:
        return _problem(request, 422, "That could not be done", f"{capitalized(str(error))}. Nothing was changed.")

    @app.exception_handler(RequestValidationError)
    def invalid(request: Request, error: RequestValidationError) -> HTMLResponse:
        fields = ", ".join(sorted({str(e["loc"][-1]).replace("_", " ") for e in error.errors()}))
        return _problem(request, 422, "Something in the form is not right", f"Check: {fields}. Nothing was changed.")

    @app.exception_handler(HTTPException)
    def http_error(request: Request, error: HTTPException) -> HTMLResponse:
        return _problem(
            request, error.status_code, "There is nothing at this address", "Nothing was changed. Go on from the Shelf."
        )

    @app.exception_handler(OverflowError)
    def beyond(request: Request, error: OverflowError) -> HTMLResponse:
        """A number in an address or a form that no row can have."""
        return _problem(request, 404, "There is nothing of that number", "Nothing was changed. Go on from the Shelf.")

    @app.exception_handler(Exception)
    def unexpected(request: Request, error: Exception) -> HTMLResponse:
        return _problem(
            request,
            500,
            "Something went wrong on our side",
            "What you did before is kept. Go back and try once more; the details are in the terminal that runs the"
            " workbench.",
        )
