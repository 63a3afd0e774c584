"""People of a practice for tests: signed in as their role, without the time a password's hash
takes."""

from __future__ import annotations

from fastapi import FastAPI
from fastapi.testclient import TestClient

from fresh_ladle.core.people.role import Role
from fresh_ladle.store.people.people import Person, add_person, people
from fresh_ladle.store.people.sessions import begin_session, signing_key
from fresh_ladle.web.door.identity import PLAIN_COOKIE, _signer

INITIALS = {Role.OWNER: "OW", Role.DIETITIAN: "DT", Role.COOK: "CK", Role.READER: "RD"}


def person_with(app: FastAPI, role: Role) -> Person:
    """An account of a role that has chosen a password nobody knows. The owner's comes first."""
    with app.state.workbench.store() as connection:
        for needed in dict.fromkeys((Role.OWNER, role)):
            if INITIALS[needed] not in {one.initials for one in people(connection)}:
                add_person(connection, INITIALS[needed], needed)
        connection.execute("UPDATE person SET password_hash = 'none' WHERE password_hash IS NULL")
        return next(one for one in people(connection) if one.initials == INITIALS[role])


def signed_in(app: FastAPI, role: Role) -> TestClient:
    """A browser in which somebody of this role has signed in."""
    person = person_with(app, role)
    client = TestClient(app, raise_server_exceptions=False, follow_redirects=False)
    with app.state.workbench.store() as connection:
        token = (
            _signer(signing_key(connection)).sign(begin_session(connection, person)).decode("ascii")
        )
    client.cookies.set(PLAIN_COOKIE, token)
    return client
