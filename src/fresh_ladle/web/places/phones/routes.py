"""Short links, and the lane for phones."""

from __future__ import annotations

from typing import Annotated

from fastapi import Form, Request, Response
from fastapi.responses import RedirectResponse

from fresh_ladle.store.short_links import path_of
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.shared.error_pages import problem
from fresh_ladle.web.state import workbench_of

router = guarded_router()


@router.get("/go/{code}")
def go(request: Request, code: str) -> Response:
    """Where a short link leads."""
    with workbench_of(request).store() as connection:
        path = path_of(connection, code)
    if not path:
        return problem(
            request,
            404,
            "This link leads nowhere",
            "Look at the letters once more, or ask whoever handed it out.",
        )
    return RedirectResponse(path, status_code=303)


@router.post("/lane")
def open_lane(
    request: Request, back: Annotated[str, Form(max_length=200)] = "/"
) -> RedirectResponse:
    """Opens the lane for an hour, and goes back to the page that asked."""
    workbench_of(request).lane.open(request.app)
    return RedirectResponse(_page_here(back), status_code=303)


@router.post("/lane/shut")
def shut_lane(
    request: Request, back: Annotated[str, Form(max_length=200)] = "/"
) -> RedirectResponse:
    workbench_of(request).lane.shut()
    return RedirectResponse(_page_here(back), status_code=303)


def _page_here(back: str) -> str:
    """A page of this workbench; the Shelf for anything else."""
    return back if back.startswith("/") and not back.startswith(("//", "/\\")) else "/"
