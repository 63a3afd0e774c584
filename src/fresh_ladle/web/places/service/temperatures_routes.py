"""Records of temperatures: opened, read by hand or by the probe, a missed limit answered, closed
for good."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Annotated
from zoneinfo import ZoneInfo

from fastapi import Form, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from fresh_ladle.core.hold.temperature import RecordKind, Remedy, checked_celsius, record_state
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.clock import moment_of, zone_named
from fresh_ladle.devices.line_thermometer import LineThermometer
from fresh_ladle.devices.port import checked_address
from fresh_ladle.devices.readout import ReadoutError
from fresh_ladle.formats.paper import paper_pdf
from fresh_ladle.formats.sheet import csv_text
from fresh_ladle.store import clock
from fresh_ladle.store.services.services import service
from fresh_ladle.store.services.temperatures import (
    TemperatureRecord,
    add_entry,
    close_record,
    open_record,
    record,
    records,
)
from fresh_ladle.store.settings import settings
from fresh_ladle.web.door.guarded import guarded_router
from fresh_ladle.web.places.service.cooling_curve import cooling_curve
from fresh_ladle.web.places.service.paper import record_table
from fresh_ladle.web.places.service.routes import loaded, service_page
from fresh_ladle.web.places.service.view import reading_rows
from fresh_ladle.web.shared.typed import number_typed
from fresh_ladle.web.state import Workbench, workbench_of
from fresh_ladle.web.work.papers import pdf_of

router = guarded_router("/services/{service_id}/record")
FOOT = "Limits of published food codes. Local food codes and licensed practice decide."


@router.get("", response_class=HTMLResponse)
def show(request: Request, service_id: int) -> HTMLResponse:
    """All records of a service: where each stands, and when the next reading is due."""
    return _page(request, service_id)


def _page(request: Request, service_id: int, error: str = "") -> HTMLResponse:
    workbench = workbench_of(request)
    kept, found = loaded(request, service_id)
    zone, now = zone_named(kept.zone), clock.now()
    with workbench.store() as connection:
        opened, probe = records(connection, service_id), settings(connection).thermometer
    shown = [
        (
            r,
            record_state(r.kind, r.entries, now),
            cooling_curve(r.entries, f"{r.dish}, {r.kind}") if r.kind is RecordKind.COOLING else "",
            [(f"{e.at.astimezone(zone):%H:%M}", e) for e in r.entries],
        )
        for r in opened
    ]
    return service_page(
        request,
        "places/service/record.html",
        kept,
        found,
        "record",
        422 if error else 200,
        records=shown,
        due=reading_rows(found),
        kinds=list(RecordKind),
        remedies=list(Remedy),
        probe=probe,
        zone=zone,
        now=now,
        error=error,
    )


@router.post("")
def begin(
    request: Request,
    service_id: int,
    dish: Annotated[str, Form(max_length=120)],
    kind: Annotated[RecordKind, Form()] = RecordKind.COOLING,
) -> Response:
    """Opens a record for a dish of the service."""
    with workbench_of(request).store() as connection:
        if dish not in [d.name for d in service(connection, service_id).dishes]:
            raise RecipeError("choose a dish of this service")
        open_record(connection, service_id, dish, kind)
    return RedirectResponse(f"/services/{service_id}/record", status_code=303)


@router.post("/{record_id}/{what}")
def write(
    request: Request,
    service_id: int,
    record_id: int,
    what: str,
    celsius: Annotated[str, Form(max_length=12)] = "",
    at: Annotated[str, Form(max_length=20)] = "",
    said: Annotated[str, Form(max_length=200)] = "",
    remedy: Annotated[str, Form(max_length=60)] = "",
) -> Response:
    """A reading typed or taken from the probe, what was done, a remark, or the end of the
    record."""
    workbench = workbench_of(request)
    try:
        with workbench.store() as connection:
            if record(connection, record_id).service_id != service_id:
                raise RecipeError("that record is of another service")
            zone = zone_named(service(connection, service_id).zone)
            moment = _moment(at, zone)
            if what == "reading":
                add_entry(
                    connection, record_id, checked_celsius(number_typed(celsius, "°C")), "", moment
                )
            elif what == "probe":
                add_entry(
                    connection, record_id, checked_celsius(_probed(workbench)), "by the probe"
                )
            elif what == "done":
                add_entry(connection, record_id, None, Remedy(remedy).value)
            elif what == "remark" and said.strip():
                add_entry(connection, record_id, None, said.strip())
            elif what == "close":
                close_record(connection, record_id)
            else:
                raise RecipeError("say what was read or done")
    except (ValueError, ReadoutError) as error:
        return _page(request, service_id, str(error))
    return RedirectResponse(f"/services/{service_id}/record", status_code=303)


def _moment(typed: str, zone: ZoneInfo) -> datetime | None:
    """The moment of a reading, today in the time of the place where only an hour is typed; None for
    now."""
    if not typed.strip():
        return None
    return moment_of(
        typed if "T" in typed else f"{clock.now().astimezone(zone):%Y-%m-%d}T{typed.strip()}", zone
    )


def _probed(workbench: Workbench) -> float:
    """What the probe shows. Raises RecipeError without one, and ReadoutError where it does not
    answer."""
    with workbench.store() as connection:
        address = settings(connection).thermometer
    if not address:
        raise RecipeError("no thermometer is set: type what it shows, or name one in Settings")
    return round(LineThermometer(checked_address(address, "thermometer")).celsius(), 1)


@router.get("/{record_id}.csv")
def as_csv(request: Request, service_id: int, record_id: int) -> Response:
    """A record as CSV, with every moment in UTC and in the time of the place."""
    with workbench_of(request).store() as connection:
        found, kept = record(connection, record_id), service(connection, service_id)
    headers = {"Content-Disposition": f'attachment; filename="record-{record_id}.csv"'}
    return Response(_csv(found, kept.zone), media_type="text/csv; charset=utf-8", headers=headers)


@router.get("/{record_id}.pdf")
def as_pdf(request: Request, service_id: int, record_id: int) -> Response:
    """A record on paper."""
    with workbench_of(request).store() as connection:
        found, kept = record(connection, record_id), service(connection, service_id)
    zone = zone_named(kept.zone)
    state = record_state(found.kind, found.entries, clock.now())
    closed = (
        f"closed {found.closed_at.astimezone(zone):%d %B %Y, %H:%M}"
        if found.closed_at
        else "still open"
    )
    table = record_table([(e.at.astimezone(zone), e) for e in found.entries])
    pdf = pdf_of(
        workbench_of(request),
        paper_pdf,
        f"{found.dish}, {found.kind.value}",
        f"{kept.name}; {state.sentence} {closed}",
        [table],
        FOOT,
    )
    headers = {"Content-Disposition": f'attachment; filename="record-{record_id}.pdf"'}
    return Response(pdf, media_type="application/pdf", headers=headers)


def _csv(found: TemperatureRecord, zone: str) -> str:
    heads = ("dish", "record", "moment (UTC)", "moment there", "celsius", "what", "after closing")
    rows = [
        [
            found.dish,
            found.kind.value,
            e.at.astimezone(UTC).isoformat(timespec="seconds"),
            e.at.astimezone(zone_named(zone)).isoformat(timespec="seconds"),
            "" if e.celsius is None else e.celsius,
            e.what,
            "yes" if e.after_closing else "",
        ]
        for e in found.entries
    ]
    return csv_text(heads, rows)
