"""The stand-in's own little page: what stands beside the scale, what is on its pan, and how it may
fail."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from random import Random

import uvicorn
from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse, Response
from fastapi.staticfiles import StaticFiles
from fastapi.templating import Jinja2Templates
from starlette.middleware.trustedhost import TrustedHostMiddleware

from fresh_ladle.devices.blend import HiddenBlend
from fresh_ladle.devices.stand_in import LineServer, StandInScale

ROOT = Path(__file__).parent
OVERLOAD_G = 6000.0
_templates = Jinja2Templates(directory=ROOT / "templates")


def create_page(scale: StandInScale, port: int, seed: int = 1) -> FastAPI:
    """The page of one stand-in whose lines come from `port`."""
    app = FastAPI(docs_url=None, redoc_url=None, openapi_url=None)
    app.add_middleware(
        TrustedHostMiddleware, allowed_hosts=["127.0.0.1", "localhost", "testserver"]
    )
    app.add_api_route(
        "/static/base.css", lambda: FileResponse(ROOT.parent / "web" / "shared" / "base.css")
    )
    app.mount("/static", StaticFiles(directory=ROOT.parent / "web" / "static"), name="static")
    blend, rng = HiddenBlend.made_up(seed), Random(seed)
    ring = {"water": 0.0, "hours": 0.0, "run": -1.0}

    @app.get("/", response_class=HTMLResponse)
    def show(request: Request) -> HTMLResponse:
        return _templates.TemplateResponse(
            request, "scale.html", {"scale": scale, "port": port, "ring": ring}
        )

    @app.get("/shown", response_class=HTMLResponse)
    def shown() -> HTMLResponse:
        """What its display says just now."""
        return HTMLResponse(scale.line() if scale.plugged else "off")

    @app.post("/do/{what}")
    @app.post("/do/{what}/{thing}")
    def do(what: str, thing: str = "") -> Response:
        """One thing a hand does at the scale."""
        changes: dict[str, Callable[[], None]] = {
            "put": lambda: scale.put(thing),
            "take": lambda: scale.take(thing),
            "use": lambda: scale.use(thing),
            "tare": scale.tare,
            "overload": lambda: scale.load(0.0 if scale.extra_g else OVERLOAD_G),
            "unplug": lambda: setattr(scale, "plugged", not scale.plugged),
            "ounces": lambda: setattr(scale, "ounces", not scale.ounces),
            "garbage": lambda: setattr(scale, "garbage", not scale.garbage),
        }
        try:
            changes[what]()
        except KeyError:
            return Response("there is no such thing at this scale", 404)
        return RedirectResponse("/", status_code=303)

    @app.post("/ring")
    async def lift(request: Request) -> Response:
        """Lifts the ring off a made-up blend with so much water to 100 g, after so many hours."""
        form = await request.form()
        try:
            water, hours = (float(str(form.get(name) or 0)) for name in ("water", "hours"))
            if not (0 <= water <= 500 and 0 <= hours <= 100):
                raise ValueError
        except ValueError:
            return Response("water is 0 to 500 g to 100 g, hours are 0 to 100", 422)
        ring.update(water=water, hours=hours, run=blend.reading_cm(water / 100, hours, rng))
        return RedirectResponse("/", status_code=303)

    return app


def run_stand_in(port: int, page_port: int) -> int:
    """Serves lines and page on this machine alone until stopped."""
    scale = StandInScale()
    server = LineServer(scale, port)
    print(f"A scale prints its lines at 127.0.0.1:{server.port}: type that in Settings", flush=True)
    print(f"Its page is http://127.0.0.1:{page_port}/ (Ctrl-C stops both)", flush=True)
    page = create_page(scale, server.port)
    uvicorn.run(page, host="127.0.0.1", port=page_port, log_level="warning", access_log=False)
    server.stop()
    return 0
