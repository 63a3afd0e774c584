"""The page of the stand-in thermometer: where its pan stands, how fast its hours pass, and how it
may fail."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import uvicorn
from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse, Response
from fastapi.staticfiles import StaticFiles
from fastapi.templating import Jinja2Templates
from starlette.middleware.trustedhost import TrustedHostMiddleware

from fresh_ladle.devices.probe import AROUND, COOLED_PER_HOUR, StandInProbe
from fresh_ladle.devices.stand_in import LineServer

ROOT = Path(__file__).parent
SPEEDS = (1, 10, 60, 300)
_templates = Jinja2Templates(directory=ROOT / "templates")


def create_probe_page(probe: StandInProbe, port: int) -> FastAPI:
    """The page of one stand-in whose lines come from `port`."""
    app = FastAPI(docs_url=None, redoc_url=None, openapi_url=None)
    app.add_middleware(
        TrustedHostMiddleware, allowed_hosts=["127.0.0.1", "localhost", "testserver"]
    )
    app.add_api_route(
        "/static/base.css", lambda: FileResponse(ROOT.parent / "web" / "shared" / "base.css")
    )
    app.mount("/static", StaticFiles(directory=ROOT.parent / "web" / "static"), name="static")

    @app.get("/", response_class=HTMLResponse)
    def show(request: Request) -> HTMLResponse:
        lists = {"vessels": COOLED_PER_HOUR, "places": AROUND, "speeds": SPEEDS}
        return _templates.TemplateResponse(
            request, "probe.html", {"probe": probe, "port": port, **lists}
        )

    @app.get("/shown", response_class=HTMLResponse)
    def shown() -> HTMLResponse:
        """What its display says just now."""
        return HTMLResponse(probe.line() if probe.plugged else "off")

    @app.post("/do/{what}")
    @app.post("/do/{what}/{value}")
    def do(what: str, value: str = "") -> Response:
        """One thing a hand does at the pan."""
        changes: dict[str, Callable[[], None]] = {
            "vessel": lambda: probe.change("vessel", value),
            "place": lambda: probe.change("place", value),
            "speed": lambda: probe.change("speed", float(value)),
            "pull": lambda: setattr(probe, "in_food", not probe.in_food),
            "unplug": lambda: setattr(probe, "plugged", not probe.plugged),
            "unit": lambda: setattr(probe, "fahrenheit", not probe.fahrenheit),
            "heat": probe.heat,
        }
        try:
            changes[what]()
        except (KeyError, ValueError):
            return Response("there is no such thing at this thermometer", 404)
        return RedirectResponse("/", status_code=303)

    return app


def run_probe(port: int, page_port: int) -> int:
    """Serves lines and page on this machine alone until stopped."""
    probe = StandInProbe()
    server = LineServer(probe, port)
    print(
        f"A thermometer prints its lines at 127.0.0.1:{server.port}: type that in Settings",
        flush=True,
    )
    print(f"Its page is http://127.0.0.1:{page_port}/ (Ctrl-C stops both)", flush=True)
    page = create_probe_page(probe, server.port)
    uvicorn.run(page, host="127.0.0.1", port=page_port, log_level="warning", access_log=False)
    server.stop()
    return 0
