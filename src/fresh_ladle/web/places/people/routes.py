"""What an owner looks after: people and their roles, the log of who did what, copies of the
database."""

from __future__ import annotations

from typing import Annotated

from fastapi import Form, Query, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.people.role import WORDS, Role
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.store.database import StoreError, writing
from fresh_ladle.store.files.daily_backups import copies, copy_by_hand, copy_named
from fresh_ladle.store.people.acting import say_about
from fresh_ladle.store.people.activity import activities
from fresh_ladle.store.people.people import (
    LINK_DAYS,
    PeopleError,
    add_person,
    any_people,
    change_role,
    end_account,
    new_link,
    people,
    person,
)
from fresh_ladle.store.recipes.recipes import titles
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.people.log_view import log_rows, recipe_ids_of
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import workbench_of

router = guarded_router()
ROWS = 100
"""Rows of the log on one page."""


@router.get("/people", response_class=HTMLResponse)
def show(request: Request) -> HTMLResponse:
    return _people_page(request)


def _people_page(
    request: Request, error: str = "", link_for: str = "", key: str = "", initials: str = ""
) -> HTMLResponse:
    with workbench_of(request).store() as connection:
        everybody, needed = people(connection), any_people(connection)
    return page(
        request,
        "places/people/page.html",
        422 if error else 200,
        people=everybody,
        needed=needed,
        roles=[(role, WORDS[role]) for role in Role],
        link=f"{request.base_url}welcome/{key}" if key else "",
        link_for=link_for,
        link_days=LINK_DAYS,
        initials=initials,
        error=error,
        place="people",
    )


@router.post("/people", response_class=HTMLResponse)
def add(
    request: Request, initials: Annotated[str, Form(max_length=20)], role: Annotated[Role, Form()]
) -> HTMLResponse:
    """A new account; the answer alone shows the link with which its password is chosen."""
    initials = initials.strip().upper()
    try:
        with workbench_of(request).store() as connection:
            say_about(f"{initials}, {role.value}")
            key = add_person(connection, initials, role)
    except PeopleError as error:
        return _people_page(
            request, f"{capitalized(str(error))}. Nothing was changed.", initials=initials
        )
    return _people_page(request, link_for=initials, key=key)


@router.post("/people/{person_id}/invite", response_class=HTMLResponse)
def invite(request: Request, person_id: int) -> HTMLResponse:
    """A new link, as when a password is forgotten."""
    try:
        with workbench_of(request).store() as connection:
            whose = person(connection, person_id)
            say_about(whose.initials)
            key = new_link(connection, person_id)
    except PeopleError as error:
        return _people_page(request, f"{capitalized(str(error))}. Nothing was changed.")
    return _people_page(request, link_for=whose.initials, key=key)


@router.post("/people/{person_id}/role")
def give_role(request: Request, person_id: int, role: Annotated[Role, Form()]) -> Response:
    try:
        with workbench_of(request).store() as connection:
            say_about(f"{person(connection, person_id).initials}, {role.value}")
            change_role(connection, person_id, role)
    except PeopleError as error:
        return _people_page(request, f"{capitalized(str(error))}. Nothing was changed.")
    return RedirectResponse("/people", status_code=303)


@router.post("/people/{person_id}/leave")
def leave(request: Request, person_id: int) -> Response:
    """Ends an account and signs it out everywhere."""
    try:
        with workbench_of(request).store() as connection:
            say_about(person(connection, person_id).initials)
            end_account(connection, person_id)
    except PeopleError as error:
        return _people_page(request, f"{capitalized(str(error))}. Nothing was changed.")
    return RedirectResponse("/people", status_code=303)


@router.get("/log", response_class=HTMLResponse)
def log(
    request: Request,
    before: Annotated[int | None, Query(ge=1)] = None,
    who: Annotated[str, Query(max_length=20)] = "",
) -> HTMLResponse:
    """Who did what, the newest first."""
    with workbench_of(request).store() as connection:
        found = activities(connection, before, who.strip(), ROWS + 1)
        called = titles(connection, recipe_ids_of(found))
        everybody = people(connection)
    shown = found[:ROWS]
    older = shown[-1].id if len(found) > ROWS else None
    return page(
        request,
        "places/people/log.html",
        rows=log_rows(shown, called),
        older=older,
        who=who,
        people=everybody,
        place="log",
    )


@router.get("/copies", response_class=HTMLResponse)
def show_copies(request: Request) -> HTMLResponse:
    """The copies of the database there are, each to be taken away."""
    return _copies_page(request)


def _copies_page(request: Request, error: str = "") -> HTMLResponse:
    found = copies(workbench_of(request).database)
    return page(
        request,
        "places/people/copies.html",
        422 if error else 200,
        copies=found,
        error=error,
        place="copies",
    )


@router.post("/copies")
def make_copy(request: Request) -> Response:
    """A copy made now, checked by opening it."""
    workbench = workbench_of(request)
    try:
        copy_by_hand(workbench.database)
    except StoreError as error:
        return _copies_page(request, f"{capitalized(str(error))}.")
    with workbench.store() as connection, writing(connection):
        pass  # Nothing but the note in the log of who made it.
    return RedirectResponse("/copies", status_code=303)


@router.get("/copies/{name}")
def take_copy(request: Request, name: str) -> Response:
    """One copy as a file. Raises CopyMissing."""
    return FileResponse(copy_named(workbench_of(request).database, name), filename=name)
