"""A workbench with the demo loaded, as a client and as a real server for the browser."""

from __future__ import annotations

import re
import socket
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from shutil import copy

import pytest
import uvicorn
from fastapi import FastAPI
from fastapi.testclient import TestClient
from playwright.sync_api import Browser, Page, expect, sync_playwright

from fresh_ladle.store.database import connect
from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo
from fresh_ladle.web.places.service import days as service_days
from fresh_ladle.web.work.processes import DAYS, IMPORTS, PAPERS, SEARCHES

CHROMIUM = "/usr/bin/chromium"
CHROMIUM_ARGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
    # a second page of one test stands for another person's screen, which nothing covers
    "--disable-background-timer-throttling", "--disable-renderer-backgrounding",
    "--disable-backgrounding-occluded-windows",
]  # fmt: skip


for at_work in (SEARCHES, DAYS, IMPORTS, PAPERS):
    at_work.less_urgent = (
        0  # all cores are busy with tests: what is less urgent would hardly come to its turn
    )


PATIENCE_MS = 30_000  # what a full machine may take; what is there at once is not waited for
expect.set_options(timeout=PATIENCE_MS)
service_days.SHORTLY_S = 60.0  # a page that tests look at waits for the day it tells


def demo_app(database: Path) -> FastAPI:
    app = create_app(database)
    with app.state.workbench.store() as connection:
        load_demo(connection, app.state.workbench)
    return app


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What drives a page in Chromium is marked so, to be left out by name."""
    for item in items:
        if "page" in getattr(item, "fixturenames", ()):
            item.add_marker(pytest.mark.browser)


@pytest.fixture(scope="session")
def demo_database(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A closed database with the demo in it, to copy from: making it takes two seconds."""
    path = tmp_path_factory.mktemp("demo") / "demo.db"
    demo_app(path)
    with closing(connect(path)) as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return path


class PageReader(TestClient):
    """A client that reads pages as a browser does: line breaks of the source between tags and text
    do not count."""

    def request(self, *args, **kwargs):  # type: ignore[no-untyped-def]
        response = super().request(*args, **kwargs)
        if response.headers.get("content-type", "").startswith("text/html"):
            text = re.sub(r"(?<=>)\s*\n\s*|\s*\n\s*(?=[<>])", "", response.text)
            response._text = re.sub(r"\s+", " ", text)
        return response


@pytest.fixture
def client(tmp_path: Path, demo_database: Path) -> Iterator[TestClient]:
    copy(demo_database, tmp_path / "demo.db")
    app = create_app(tmp_path / "demo.db")
    yield PageReader(app, raise_server_exceptions=False)
    app.state.workbench.close()


@contextmanager
def served(app: FastAPI) -> Iterator[str]:
    """The address at which an application is served."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=port, log_level="warning"))
    thread = threading.Thread(target=server.run)
    thread.start()
    while not server.started:
        thread.join(0.01)
    try:
        yield f"http://127.0.0.1:{port}"
    finally:
        server.should_exit = True
        thread.join()
        app.state.workbench.close()


@pytest.fixture(scope="session")
def address(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The address of a served demo."""
    with served(demo_app(tmp_path_factory.mktemp("served") / "demo.db")) as address:
        yield address


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
        yield browser
        browser.close()


@pytest.fixture
def page(chromium: Browser, address: str) -> Iterator[Page]:
    """A fresh page on the demo; a test fails on any script error or request that leaves the
    machine."""
    context = chromium.new_context(
        viewport={"width": 1280, "height": 800}, base_url=address, reduced_motion="reduce"
    )
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    page.set_default_navigation_timeout(40_000)  # a page waits for the day it tells
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.on(
        "request",
        lambda r: (
            errors.append(f"left the machine: {r.url}")
            if not r.url.startswith(("http://127.0.0.1:", "data:"))
            else None
        ),
    )
    yield page
    context.close()
    assert errors == []
