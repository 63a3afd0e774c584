"""Signing in and out, choosing a password by a link, and one's own account."""

from __future__ import annotations

from math import ceil
from typing import Annotated

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.people.password import LONGEST, SHORTEST, why_refused
from fresh_ladle.core.people.role import WORDS
from fresh_ladle.core.words.sentences import capitalized
from fresh_ladle.store.database import writing
from fresh_ladle.store.people.people import (
    Person,
    any_people,
    change_password,
    choose_password_by_link,
    person_of_link,
    person_with_password,
)
from fresh_ladle.store.people.sessions import (
    begin_session,
    end_other_sessions,
    end_session,
    forget_tries,
    note_failure,
    session_of,
    sessions_of,
    try_sign_in,
)
from fresh_ladle.web.door.guarded import guarded_router, session_here
from fresh_ladle.web.door.identity import give_cookie, take_cookie, token_of
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import workbench_of

router = guarded_router()
Password = Annotated[str, Form(max_length=500)]
Then = Annotated[str, Form(max_length=500)]
NO_MATCH = "These initials and this password do not go together."


def local_address(then: str) -> str:
    """An address of this workbench to go on to; the Shelf for any other."""
    plain = then.startswith("/") and not then.startswith(("//", "/\\")) and then.isprintable()
    return then if plain else "/"


@router.get("/sign-in", response_class=HTMLResponse)
def ask(request: Request, then: str = "/") -> Response:
    with workbench_of(request).store() as connection:
        if not any_people(connection):
            return RedirectResponse("/", status_code=303)
    return _sign_in_page(request, local_address(then))


def _sign_in_page(
    request: Request, then: str, status: int = 200, error: str = "", initials: str = ""
) -> HTMLResponse:
    return page(
        request,
        "places/people/sign_in.html",
        status,
        then=then,
        error=error,
        initials=initials,
        place="",
    )


@router.post("/sign-in")
def sign_in(
    request: Request,
    password: Password,
    initials: Annotated[str, Form(max_length=20)] = "",
    then: Then = "/",
) -> Response:
    """Lets a person in. Tries are counted before the password is looked at, and the next one
    waits."""
    then, initials = local_address(then), initials.strip()
    place = request.client.host if request.client else ""
    with workbench_of(request).store() as connection:
        wait = try_sign_in(connection, initials, place)
        if wait > 0:
            said = f"Too many tries: the next one is taken in {ceil(wait)} seconds."
            return _sign_in_page(request, then, 429, said, initials)
        person = person_with_password(connection, initials, password)
        if person is None:
            note_failure(connection, initials)
            return _sign_in_page(request, then, 401, NO_MATCH, initials)
        forget_tries(connection, initials, place)
        answer = RedirectResponse(then, status_code=303)
        give_cookie(
            request,
            answer,
            connection,
            begin_session(connection, person, token_of(request, connection)),
        )
    return answer


@router.post("/sign-out")
def sign_out(request: Request) -> Response:
    """Ends the session here; the browser is asked to forget the pages it kept."""
    with workbench_of(request).store() as connection:
        found = session_of(connection, token_of(request, connection))
        if found is not None:
            end_session(connection, found)
    answer = RedirectResponse("/sign-in", status_code=303)
    take_cookie(request, answer)
    answer.headers["Clear-Site-Data"] = '"cache"'
    return answer


# ---------------------------------------------------------------- by a link


@router.get("/welcome/{key}", response_class=HTMLResponse)
def welcome(request: Request, key: str) -> HTMLResponse:
    """Where a person chooses a password, once."""
    with workbench_of(request).store() as connection:
        person = person_of_link(connection, key)
    return _welcome_page(request, key, person)


def _welcome_page(request: Request, key: str, person: Person, error: str = "") -> HTMLResponse:
    return page(
        request,
        "places/people/welcome.html",
        422 if error else 200,
        key=key,
        newcomer=person,
        does=WORDS[person.role],
        shortest=SHORTEST,
        longest=LONGEST,
        error=error,
        place="",
    )


@router.post("/welcome/{key}")
def choose(request: Request, key: str, password: Password, again: Password = "") -> Response:
    with workbench_of(request).store() as connection:
        person = person_of_link(connection, key)
        if refused := _refused(password, again, person):
            return _welcome_page(request, key, person, refused)
        with writing(connection):
            choose_password_by_link(connection, key, password)
            token = begin_session(connection, person, token_of(request, connection))
        answer = RedirectResponse("/", status_code=303)
        give_cookie(request, answer, connection, token)
    return answer


def _refused(password: str, again: str, person: Person) -> str:
    """Why a new password is not taken, as a sentence; empty when it is."""
    refused = why_refused(password, person.initials)
    if not refused and again != password:
        refused = "the two are not the same: type it once more"
    return f"{capitalized(refused)}." if refused else ""


# ---------------------------------------------------------------- one's own account


@router.get("/account", response_class=HTMLResponse)
def account(request: Request, saved: bool = False) -> HTMLResponse:
    return _account_page(
        request, saved="Your password is changed; you were signed out elsewhere." if saved else ""
    )


def _account_page(
    request: Request, status: int = 200, error: str = "", saved: str = ""
) -> HTMLResponse:
    here = session_here(request)
    with workbench_of(request).store() as connection:
        sessions = sessions_of(connection, here.person)
    return page(
        request,
        "places/people/account.html",
        status,
        sessions=sessions,
        here=here.id,
        does=WORDS[here.person.role],
        shortest=SHORTEST,
        longest=LONGEST,
        error=error,
        saved=saved,
        place="account",
    )


@router.post("/account/password")
def change_own_password(
    request: Request, now: Password, password: Password, again: Password = ""
) -> Response:
    """Takes another password from who knows the one of now; all other sessions end, and this one
    gets a new token."""
    person = session_here(request).person
    place = request.client.host if request.client else ""
    with workbench_of(request).store() as connection:
        if try_sign_in(connection, person.initials, place) > 0:
            return _account_page(request, 429, "Too many tries: wait a minute, then try once more.")
        if person_with_password(connection, person.initials, now) is None:
            note_failure(connection, person.initials)
            return _account_page(
                request, 422, "The password of now is another. Nothing was changed."
            )
        forget_tries(connection, person.initials, place)
        if refused := _refused(password, again, person):
            return _account_page(request, 422, f"{refused} Nothing was changed.")
        with writing(connection):
            change_password(connection, person.id, password)
            token = begin_session(connection, person)
        answer = RedirectResponse("/account?saved=1", status_code=303)
        give_cookie(request, answer, connection, token)
    return answer


@router.post("/account/sessions")
def sign_out_elsewhere(request: Request) -> Response:
    """Ends all sessions of this person but the one here."""
    with workbench_of(request).store() as connection:
        end_other_sessions(connection, session_here(request))
    return RedirectResponse("/account", status_code=303)
