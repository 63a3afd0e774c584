"""Starts the workbench on this machine only."""

from __future__ import annotations

import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from zoneinfo import ZoneInfo

import uvicorn

from fresh_ladle.data.zone_here import local_zone
from fresh_ladle.store.daily_backups import back_up_today
from fresh_ladle.store.database import StoreError, only_one
from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo


def serve(port: int, database: Path, with_demo: bool) -> int:
    """Serves on 127.0.0.1 until stopped. Returns 1, with the reason on standard error, when it cannot start."""
    try:
        with _listening(port) as sock, only_one(database):
            return _serve(sock, port, database, with_demo)
    except (StoreError, PortTaken) as error:
        print(error, file=sys.stderr)
        return 1


class PortTaken(Exception):
    """Another program listens there."""


@contextmanager
def _listening(port: int) -> Iterator[socket.socket]:
    """The port, ours before its address is said. Raises PortTaken."""
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as sock:
        sock.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            sock.bind(("127.0.0.1", port))
            sock.listen(128)
        except (OSError, OverflowError) as error:
            raise PortTaken(
                f"port {port} cannot be used ({error}): stop what listens there, or choose another with --port"
            ) from None
        yield sock


def _serve(sock: socket.socket, port: int, database: Path, with_demo: bool) -> int:
    app = create_app(database)
    stop = threading.Event()
    keeper = threading.Thread(target=_back_up_daily, args=(database, stop), daemon=True)
    if with_demo:
        workbench = app.state.workbench
        with workbench.store() as connection:
            loaded = load_demo(connection, workbench)
            print("Demo data loaded." if loaded else "Demo data was there already.", flush=True)
    print(f"Fresh Ladle is at http://127.0.0.1:{port}/ (Ctrl-C stops it)", flush=True)
    keeper.start()
    uvicorn.Server(uvicorn.Config(app, log_level="warning", access_log=False)).run(sockets=[sock])
    stop.set()
    keeper.join()
    app.state.workbench.close()
    return 0


HOURLY_S = 3600.0


def _back_up_daily(database: Path, stop: threading.Event) -> None:
    """A copy each day the workbench runs; one that fails is said, and tried again within the hour."""
    while True:
        try:
            back_up_today(database, datetime.now(ZoneInfo(local_zone())).date())
        except StoreError as error:
            print(error, file=sys.stderr)
        if stop.wait(HOURLY_S):
            return
