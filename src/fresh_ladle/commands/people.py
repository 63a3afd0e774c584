"""The command `person`: accounts added, listed, given a new link or a password, where there is no
browser."""

from __future__ import annotations

import argparse
import sqlite3
import sys
from contextlib import closing
from getpass import getpass
from pathlib import Path

from fresh_ladle.commands.shared import BadUsage, Commands, NotUnderstood
from fresh_ladle.core.people.password import why_refused
from fresh_ladle.core.people.role import Role
from fresh_ladle.store.database import StoreError, open_database
from fresh_ladle.store.people.acting import Acting, acting
from fresh_ladle.store.people.people import (
    LINK_DAYS,
    PeopleError,
    Person,
    add_person,
    change_password,
    new_link,
    people,
)

_DID = {
    "add": "added a person",
    "link": "made a new link for a person",
    "password": "set a password",
}
"""What the log calls it."""


def opened(path: Path) -> sqlite3.Connection:
    """The database at a path. Raises NotUnderstood."""
    try:
        return open_database(path)
    except StoreError as error:
        raise NotUnderstood(str(error)) from None


def _person_command(args: argparse.Namespace) -> int:
    """An account added, a new link or a password for one; or the accounts there are."""
    with closing(opened(args.database)) as connection:
        if args.what == "list":
            for one in people(connection):
                print(
                    f"{one.initials:8} {one.role.value:10}"
                    f" {'' if one.ready else 'has not chosen a password yet'}"
                )
            return 0
        if not args.initials:
            raise BadUsage(f"person {args.what} needs initials")
        acting.set(Acting("", _DID[args.what], f"{args.initials}, on the command line"))
        try:
            if args.what == "password":
                return _set_password(connection, _known(connection, args.initials))
            key = _key_for(connection, args)
        except PeopleError as error:
            raise NotUnderstood(f"{error}. Nothing was changed") from None
    print(f"http://127.0.0.1:{args.port}/welcome/{key}")
    print(
        f"With this link {args.initials} chooses a password, once, within {LINK_DAYS} days.",
        file=sys.stderr,
    )
    return 0


def _key_for(connection: sqlite3.Connection, args: argparse.Namespace) -> str:
    """Raises PeopleError."""
    if args.what == "add":
        return add_person(connection, args.initials, Role(args.role))
    return new_link(connection, _known(connection, args.initials).id)


def _known(connection: sqlite3.Connection, initials: str) -> Person:
    """Raises PeopleError."""
    known = next((one for one in people(connection) if one.initials == initials), None)
    if known is None:
        raise PeopleError(f"nobody has the initials {initials}")
    return known


def _set_password(connection: sqlite3.Connection, whose: Person) -> int:
    """Asks for a password without showing it; takes a line where nobody sits at the keyboard.
    Raises PeopleError."""
    asked = sys.stdin.isatty()
    password = (
        getpass(f"Password of {whose.initials}: ") if asked else sys.stdin.readline().rstrip("\n")
    )
    if refused := why_refused(password, whose.initials):
        raise PeopleError(refused)
    if asked and getpass("The same once more: ") != password:
        raise PeopleError("the two are not the same")
    change_password(connection, whose.id, password)
    print(f"{whose.initials} signs in with it from now on", file=sys.stderr)
    return 0


def add_person_command(commands: Commands) -> None:
    command = commands.add_parser("person", help=(_person_command.__doc__ or "").splitlines()[0])
    command.add_argument("what", choices=("add", "list", "link", "password"))
    command.add_argument("initials", nargs="?", default="", type=str.upper)
    command.add_argument("--role", choices=[role.value for role in Role], default=Role.READER.value)
    command.add_argument(
        "--port", type=int, default=8000, help="of the workbench, for the link that is printed"
    )
    command.add_argument("--database", type=Path, default=Path("var/fresh-ladle.db"))
    command.set_defaults(run=_person_command)
