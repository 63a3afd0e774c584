"""Starts the workbench: on this machine only, or for others where everybody has an account."""

from __future__ import annotations

import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from zoneinfo import ZoneInfo

import uvicorn

from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.store import clock
from fresh_ladle.store.database import StoreError, only_one
from fresh_ladle.store.files.daily_backups import back_up_today, clear_unfinished
from fresh_ladle.store.people.people import any_people
from fresh_ladle.web.app import HOSTS, create_app
from fresh_ladle.web.demo import load_demo
from fresh_ladle.web.work.lane import LOOPBACK, addresses
from fresh_ladle.web.work.processes import SEARCHES
from fresh_ladle.web.work.searching import warmed

EVERYWHERE = ("0.0.0.0", "::")
"""Where to listen on all addresses; no name to call it by."""


@dataclass(frozen=True, slots=True)
class Place:
    """Where it is served. `names` are host names it answers to beside its own; `proxy` the address
    of a reverse proxy whose word on who asks, and whether over HTTPS, is taken; empty for none."""

    port: int = 8000
    host: str = "127.0.0.1"
    names: tuple[str, ...] = ()
    proxy: str = ""

    @property
    def reached_by_others(self) -> bool:
        """Whether anybody but this machine's own user can get there."""
        return self.host not in LOOPBACK or bool(self.names) or bool(self.proxy)

    @property
    def answers_to(self) -> list[str]:
        """Names and addresses a request may call it by; any other is refused, so that no foreign
        name leads here."""
        own = [] if self.host in LOOPBACK else [socket.gethostname(), *addresses(), self.host]
        own = [name for name in own if name not in EVERYWHERE]
        return list(
            dict.fromkeys(
                [*HOSTS, *(f"[{name}]" if ":" in name else name for name in own), *self.names]
            )
        )


ACCOUNTS_FIRST = (
    "nobody has an account yet, so the workbench is not served to other machines. Make the first"
    " one here:\n    ./ladle person add INITIALS --role owner\n    ./ladle person password"
    " INITIALS\nthen start it again"
)


class NoAccounts(Exception):
    """Others would get in without signing in."""


def serve(place: Place, database: Path, with_demo: bool) -> int:
    """Serves until stopped. Returns 1, with the reason on standard error, when it cannot start."""
    try:
        with _listening(place) as sock, only_one(database):
            return _serve(sock, place, database, with_demo)
    except (StoreError, PortTaken, NoAccounts) as error:
        print(error, file=sys.stderr)
        return 1


class PortTaken(Exception):
    """Another program listens there."""


@contextmanager
def _listening(place: Place) -> Iterator[socket.socket]:
    """The port, ours before its address is said. Raises PortTaken."""
    family = socket.AF_INET6 if ":" in place.host else socket.AF_INET
    with socket.socket(family, socket.SOCK_STREAM) as sock:
        sock.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            sock.bind((place.host, place.port))
            sock.listen(128)
        except (OSError, OverflowError) as error:
            where = "" if place.host in LOOPBACK else f" of {place.host}"
            raise PortTaken(
                f"port {place.port}{where} cannot be used ({error}): stop what listens there, or"
                " choose another with --port"
            ) from None
        yield sock


def _serve(sock: socket.socket, place: Place, database: Path, with_demo: bool) -> int:
    clear_unfinished(database)
    app = create_app(database, place.answers_to)
    if place.reached_by_others:
        with app.state.workbench.store() as connection:
            if not any_people(connection):
                app.state.workbench.close()
                raise NoAccounts(ACCOUNTS_FIRST)
    stop = threading.Event()
    keeper = threading.Thread(target=_back_up_daily, args=(database, stop), daemon=True)
    if with_demo:
        workbench = app.state.workbench
        with workbench.store() as connection:
            loaded = load_demo(connection, workbench)
            print("Demo data loaded." if loaded else "Demo data was there already.", flush=True)
    shown = f"[{place.host}]" if ":" in place.host else place.host
    print(f"Fresh Ladle is at http://{shown}:{place.port}/ (Ctrl-C stops it)", flush=True)
    if place.reached_by_others:
        print(
            f"It answers to {', '.join(place.answers_to)}; for another name: --name NAME",
            flush=True,
        )
    keeper.start()
    SEARCHES.warm(warmed)
    settings = uvicorn.Config(
        app,
        log_level="warning",
        access_log=False,
        server_header=False,
        proxy_headers=bool(place.proxy),
        forwarded_allow_ips=place.proxy or "127.0.0.1",
    )
    uvicorn.Server(settings).run(sockets=[sock])
    stop.set()
    keeper.join()
    app.state.workbench.close()
    return 0


HOURLY_S = 3600.0


def _back_up_daily(database: Path, stop: threading.Event) -> None:
    """A copy each day the workbench runs; one that fails is said, and tried again within the
    hour."""
    while True:
        try:
            back_up_today(database, clock.now().astimezone(ZoneInfo(local_zone())).date())
        except StoreError as error:
            print(error, file=sys.stderr)
        if stop.wait(HOURLY_S):
            return
