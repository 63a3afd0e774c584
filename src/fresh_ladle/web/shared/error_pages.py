"""Errors that say what happened and what to do next."""

from __future__ import annotations

import sqlite3
import sys
from contextlib import suppress
from secrets import token_hex
from typing import Any
from urllib.parse import urlencode

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse, RedirectResponse
from starlette.exceptions import HTTPException

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.pantry import UnknownFood
from fresh_ladle.core.people.role import Role
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.store.database import writing
from fresh_ladle.store.files.daily_backups import CopyMissing
from fresh_ladle.store.people.acting import add_activity
from fresh_ladle.store.people.people import LinkGone
from fresh_ladle.store.practice.rounds import RoundMissing
from fresh_ladle.store.recipes.drafts import StaleEdit
from fresh_ladle.store.recipes.recipes import RecipeMissing
from fresh_ladle.store.recipes.saved_plans import PlanMissing
from fresh_ladle.store.trouble import WORDS, Trouble, trouble_of
from fresh_ladle.web.door.guarded import NotYours, SignInFirst, identify, person_of
from fresh_ladle.web.door.wire import SECURITY_HEADERS
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.work.jobs import TooMuchWaiting
from fresh_ladle.web.work.processes import Overrun

REFUSED = "was refused"
WORDS_OF_ROLE = {
    Role.OWNER: "an owner",
    Role.DIETITIAN: "a dietitian",
    Role.COOK: "a cook",
    Role.READER: "a reader",
}


def problem(
    request: Request, status: int, title: str, text: str, sign_in: bool = False
) -> HTMLResponse:
    """An error in words: as a notice for htmx, as a page otherwise. An address that is no route has
    not looked yet who asks."""
    if not hasattr(request.state, "person"):
        with suppress(sqlite3.Error):
            identify(request)
    if request.headers.get("HX-Request"):
        return page(request, "shared/notice.html", status, title=title, text=text, sign_in=sign_in)
    return page(request, "shared/problem.html", status, title=title, text=text, place="")


def missing(request: Request, error: RecipeMissing) -> HTMLResponse:
    return problem(
        request,
        404,
        "That recipe is not on the shelf",
        f"{capitalized(str(error))}. Go back to the Shelf and open one from there.",
    )


def no_plan(request: Request, error: PlanMissing) -> HTMLResponse:
    return problem(
        request, 404, "That plan is not there", f"{capitalized(str(error))}. Nothing was changed."
    )


def unknown_food(request: Request, error: UnknownFood) -> HTMLResponse:
    return problem(
        request,
        404,
        "That food is not in the stores",
        f"{capitalized(str(error))}. Search the stores for it.",
    )


def stale(request: Request, error: StaleEdit) -> HTMLResponse:
    return problem(
        request,
        409,
        "Another tab has changed this recipe",
        f"Its last edit was “{error}”. Your edit was not made and nothing was lost: reload to see"
        " the recipe as it is now, then make your edit again.",
    )


def refused(request: Request, error: Refused) -> HTMLResponse:
    return problem(
        request, 422, "That could not be done", f"{capitalized(str(error))}. Nothing was changed."
    )


def invalid(request: Request, error: RequestValidationError) -> HTMLResponse:
    fields = ", ".join(sorted({str(e["loc"][-1]).replace("_", " ") for e in error.errors()}))
    return problem(
        request, 422, "Something in the form is not right", f"Check: {fields}. Nothing was changed."
    )


def http_error(request: Request, error: HTTPException) -> HTMLResponse:
    if error.status_code == 400:
        return problem(
            request,
            400,
            "That form could not be read",
            "It is damaged, or a field of it holds more than a recipe can. Nothing was kept; paste"
            " one recipe at a time.",
        )
    return problem(
        request,
        error.status_code,
        "There is nothing at this address",
        "Nothing was changed. Go on from the Shelf.",
    )


def beyond(request: Request, error: OverflowError) -> HTMLResponse:
    """A number in an address or a form that no row can have."""
    return problem(
        request,
        404,
        "There is nothing of that number",
        "Nothing was changed. Go on from the Shelf.",
    )


def trouble_with_the_file(request: Request, error: sqlite3.Error) -> HTMLResponse:
    trouble = trouble_of(error)
    if trouble is None:
        raise error
    title, text = WORDS[trouble]
    return problem(request, 507 if trouble is Trouble.FULL else 503, title, text)


def unexpected(request: Request, error: Exception) -> HTMLResponse:
    """The number on the page stands in the terminal too, before what went wrong."""
    number = token_hex(4)
    print(f"error {number}: {request.method} {request.url.path}", file=sys.stderr)
    answer = problem(
        request,
        500,
        "Something went wrong on our side",
        "What you did before is kept. Go back and try once more; the details are in the terminal"
        f" that runs the workbench, under {number}.",
    )
    # This one is made outside of all that puts the headers on.
    answer.headers.update(SECURITY_HEADERS)
    return answer


def sign_in_first(request: Request, error: SignInFirst) -> Response:
    """A page goes on to the sign-in and comes back; what was being typed stays where it is."""
    if request.method == "GET" and not request.headers.get("HX-Request"):
        then = request.url.path + (f"?{request.url.query}" if request.url.query else "")
        return RedirectResponse(f"/sign-in?{urlencode({'then': then})}", status_code=303)
    return problem(
        request,
        401,
        "You are not signed in any more",
        "Nothing was changed, and this page stays as it is. Sign in, in another tab, then do it"
        " once more here.",
        sign_in=True,
    )


def not_yours(request: Request, error: NotYours) -> HTMLResponse:
    person = person_of(request)
    if person is not None:
        # A full disk does not turn a refusal into something else.
        with (
            suppress(sqlite3.Error),
            workbench_of(request).store() as connection,
            writing(connection),
        ):
            add_activity(connection, person.initials, REFUSED, request.url.path)
    is_now = (
        f"You are signed in as {WORDS_OF_ROLE[person.role]}. " if person and person.initials else ""
    )
    return problem(
        request,
        403,
        f"This is for {WORDS_OF_ROLE[error.least]}",
        f"{is_now}Nothing was changed. An owner of this practice gives roles, under People.",
    )


def too_much(request: Request, error: TooMuchWaiting) -> HTMLResponse:
    return problem(
        request,
        429,
        "Enough is waiting",
        "Several searches of yours are under way or waiting: stop one, or come back when they are"
        " done. Nothing was changed.",
    )


def overrun(request: Request, error: Overrun) -> HTMLResponse:
    return problem(
        request,
        503,
        "That could not be made just now",
        f"{capitalized(str(error))}. Nothing was changed.",
    )


def round_missing(request: Request, error: RoundMissing) -> HTMLResponse:
    return problem(request, 404, "That class is not there", f"{capitalized(str(error))}.")


def link_gone(request: Request, error: LinkGone) -> HTMLResponse:
    return problem(request, 404, "This link is no use any more", f"{capitalized(str(error))}.")


def copy_missing(request: Request, error: CopyMissing) -> HTMLResponse:
    return problem(request, 404, "There is no such copy", f"{capitalized(str(error))}.")


def add_error_pages(app: FastAPI) -> None:
    """Gives each error its page."""
    handlers: dict[type[Exception], Any] = {
        SignInFirst: sign_in_first,
        NotYours: not_yours,
        TooMuchWaiting: too_much,
        Overrun: overrun,
        LinkGone: link_gone,
        RoundMissing: round_missing,
        CopyMissing: copy_missing,
        RecipeMissing: missing,
        PlanMissing: no_plan,
        UnknownFood: unknown_food,
        StaleEdit: stale,
        Refused: refused,
        RequestValidationError: invalid,
        HTTPException: http_error,
        OverflowError: beyond,
        sqlite3.Error: trouble_with_the_file,
        Exception: unexpected,
    }
    for error, handler in handlers.items():
        app.add_exception_handler(error, handler)
