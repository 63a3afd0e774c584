"""Routes that let through whom the table of access lets through, before anything of the request's
body is read."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Coroutine
from contextlib import suppress
from typing import Any

from fastapi import APIRouter, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.routing import APIRoute

from fresh_ladle.core.people.role import Role
from fresh_ladle.store.people.acting import Acting, acting
from fresh_ladle.store.people.people import Person
from fresh_ladle.store.people.sessions import Session, note_seen, renewed_token
from fresh_ladle.web.door.access import Access, access_to
from fresh_ladle.web.door.clean_request import CleanRequest
from fresh_ladle.web.door.identity import Identity, cookie_of, give_cookie, identity
from fresh_ladle.web.state import workbench_of

LOCAL = Person(0, "", Role.OWNER)
"""Whoever works where nobody has an account: this machine's own user."""
Handler = Callable[[Request], Coroutine[Any, Any, Response]]


class SignInFirst(Exception):
    """Nobody is signed in, and the address is not open to anyone."""


class NotYours(Exception):
    """The address, or what was asked of it, is for another role."""

    def __init__(self, least: Role) -> None:
        super().__init__(least.value)
        self.least = least


class GuardedRoute(APIRoute):
    """A route that looks at who asks. Raises LookupError when it is made without a row in the
    table."""

    first: Callable[[Request], None] | None = None
    """What else is looked at before anything of the body is read, off the event loop; it raises
    what refuses."""

    def get_route_handler(self) -> Handler:
        handler, row = (
            super().get_route_handler(),
            access_to(next(iter(self.methods or ())), self.path),
        )

        async def guarded(request: Request) -> Response:
            await run_in_threadpool(identify, request)
            person = _let_through(request, row)
            acting.set(Acting(person.initials if person else "", row.did, request.url.path))
            if self.first is not None:
                await run_in_threadpool(self.first, request)
            response = await handler(CleanRequest(request.scope, request.receive))
            if (session := request.state.identity.session) is not None and session.due:
                await run_in_threadpool(_renew, request, response, session)
            return response

        return guarded


def identify(request: Request) -> None:
    """Notes who asks in the state of the request."""
    with workbench_of(request).store() as connection:
        found = identity(connection, cookie_of(request))
    request.state.identity = found
    nobody = found.needed or request.scope.get("lane")
    unnamed = None if nobody else LOCAL
    request.state.person = found.session.person if found.session else unnamed


def _renew(request: Request, response: Response, session: Session) -> None:
    """Writes what is due of a session with an answer that went well; a full disk does not sign
    anybody out."""
    with suppress(sqlite3.OperationalError), workbench_of(request).store() as connection:
        if session.due != "token":
            note_seen(connection, session)
        elif token := renewed_token(connection, session, request.state.identity.token):
            give_cookie(request, response, connection, token)


def _let_through(request: Request, row: Access) -> Person | None:
    person = person_of(request)
    if not row.open_to(person.role if person else None):
        if person is None or row.least is None:
            raise SignInFirst
        raise NotYours(row.least)
    return person


def person_of(request: Request) -> Person | None:
    """Who asks; None for somebody who has not signed in where others have accounts."""
    found = getattr(request.state, "person", None)
    assert found is None or isinstance(found, Person)
    return found


def session_here(request: Request) -> Session:
    """The session of who asks. Raises SignInFirst where nobody has an account, so that there is
    none."""
    found = request.state.identity
    if not isinstance(found, Identity) or found.session is None:
        raise SignInFirst
    return found.session


def require(request: Request, least: Role) -> None:
    """For a part of what an address does that is for fewer than the rest of it. Raises NotYours."""
    person = person_of(request)
    if person is None or not person.role.may(least):
        raise NotYours(least)


def guarded_router(prefix: str = "", first: Callable[[Request], None] | None = None) -> APIRouter:
    """A router whose routes look at who asks and then at `first`, before they read what was
    sent."""
    routes = (
        GuardedRoute
        if first is None
        else type("KeyedRoute", (GuardedRoute,), {"first": staticmethod(first)})
    )
    return APIRouter(prefix=prefix, route_class=routes)
