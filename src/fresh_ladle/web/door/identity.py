"""Who asks: the session of a browser by its signed cookie, and the cookies that begin, renew and
end one."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from functools import lru_cache
from hashlib import sha256

from fastapi import Request, Response
from itsdangerous import BadSignature, Signer

from fresh_ladle.store.people.people import any_people
from fresh_ladle.store.people.sessions import LASTS, Session, session_of, signing_key

PLAIN_COOKIE, SECURE_COOKIE = "signed-in", "__Host-signed-in"
"""Over HTTPS the name itself keeps the cookie to this host, this path, and HTTPS."""


@dataclass(frozen=True, slots=True)
class Identity:
    """`needed` is False where nobody has an account. `token` is what the browser sent."""

    needed: bool
    session: Session | None = None
    token: str = ""


def identity(connection: sqlite3.Connection, cookie: str | None) -> Identity:
    """Looks a cookie up."""
    if not any_people(connection):
        return Identity(False)
    token = _signed(cookie, signing_key(connection)) if cookie else ""
    return Identity(True, session_of(connection, token) if token else None, token)


@lru_cache(maxsize=4)
def _signer(key: str) -> Signer:
    return Signer(key, salt="signed-in", key_derivation="hmac", digest_method=sha256)


def _signed(cookie: str, key: str) -> str:
    """The token in a cookie; empty for one that was not signed here."""
    try:
        return _signer(key).unsign(cookie).decode("ascii")
    except (BadSignature, UnicodeError):
        return ""


def cookie_of(request: Request) -> str | None:
    return request.cookies.get(SECURE_COOKIE if _over_https(request) else PLAIN_COOKIE)


def token_of(request: Request, connection: sqlite3.Connection) -> str:
    """The token this browser sends; empty for none, or one that was not signed here."""
    cookie = cookie_of(request)
    return _signed(cookie, signing_key(connection)) if cookie else ""


def give_cookie(
    request: Request, response: Response, connection: sqlite3.Connection, token: str
) -> None:
    """Signs a browser in with a new token."""
    secure = _over_https(request)
    response.set_cookie(
        SECURE_COOKIE if secure else PLAIN_COOKIE,
        _signer(signing_key(connection)).sign(token).decode("ascii"),
        max_age=int(LASTS.total_seconds()),
        secure=secure,
        httponly=True,
        samesite="lax",
    )


def take_cookie(request: Request, response: Response) -> None:
    secure = _over_https(request)
    response.delete_cookie(
        SECURE_COOKIE if secure else PLAIN_COOKIE, secure=secure, httponly=True, samesite="lax"
    )


def _over_https(request: Request) -> bool:
    return request.url.scheme == "https"
