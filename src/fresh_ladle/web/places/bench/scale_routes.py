"""The scale: a settled weight for a field, or why there is none. The log never waits for it."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Query, Request
from fastapi.responses import HTMLResponse

from fresh_ladle.devices.line_scale import LineScale
from fresh_ladle.devices.pattern import USUAL_PATTERN
from fresh_ladle.devices.port import checked_address
from fresh_ladle.devices.readout import ReadoutError
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.shared.page import page
from fresh_ladle.web.state import Workbench, workbench_of

router = guarded_router()


def scale_of(workbench: Workbench) -> LineScale | None:
    """The scale that Settings name, if any."""
    with workbench.store() as connection:
        now = settings(connection)
    if not now.scale:
        return None
    return LineScale(checked_address(now.scale), now.scale_pattern or USUAL_PATTERN)


@router.get("/scale/weight", response_class=HTMLResponse)
def weight(
    request: Request,
    name: Annotated[Literal["before", "after"], Query()] = "before",
    typed: Annotated[str, Query(max_length=20)] = "",
) -> HTMLResponse:
    """The field with what is on the scale, once it has settled; with what was typed, where there is
    no weight."""
    scale, value, step = scale_of(workbench_of(request)), typed, ""
    try:
        if scale is None:
            said = "no scale is set: type the weight, or name one in Settings"
        elif (found := scale.weight()).grams < 0:
            said = f"the scale shows {found.grams:g} g: set it to zero with the vessel off"
        else:
            digits = 1 if found.step_g >= 0.1 else 2
            value, step, said = f"{found.grams:.{digits}f}", f"{found.step_g:g}", "settled"
    except ReadoutError as error:
        said = str(error)
    return page(
        request,
        "places/bench/scale_field.html",
        name=name,
        value=value,
        step=step,
        said=said,
        scale=True,
    )


@router.post("/scale/tare", response_class=HTMLResponse)
def tare(request: Request) -> HTMLResponse:
    """Sets the scale to zero."""
    scale = scale_of(workbench_of(request))
    try:
        if scale is not None:
            scale.tare()
        said = "set to zero" if scale is not None else "no scale is set"
    except ReadoutError as error:
        said = str(error)
    return page(request, "places/bench/scale_said.html", said=said)
