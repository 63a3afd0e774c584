"""How a phone in the room reaches a page, or why it cannot."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import Request
from markupsafe import Markup

from fresh_ladle.formats.qr import qr_svg
from fresh_ladle.web.state import workbench_of
from fresh_ladle.web.work.lane import LOOPBACK


@dataclass(frozen=True, slots=True)
class PhoneLink:
    """An address with its picture for a camera. Where a phone cannot reach it, `reached` is no and
    there is no picture."""

    address: str
    reached: bool
    picture: Markup


def phone_link(request: Request, code: str) -> PhoneLink:
    """The short link of a code: by the lane while that is open, else by the
    name this workbench is called by."""
    by_lane = workbench_of(request).lane.address
    address = f"{by_lane or str(request.base_url).rstrip('/')}/go/{code}"
    reached = bool(by_lane) or request.url.hostname not in LOOPBACK
    return PhoneLink(address, reached, Markup(qr_svg(address)) if reached else Markup(""))
