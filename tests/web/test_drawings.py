"""Drawings stay as they were looked at, and nothing in them is drawn outside its picture."""

from __future__ import annotations

from difflib import unified_diff
from xml.etree import ElementTree

import pytest
from markupsafe import Markup

from tests.web.drawn import DRAWN, document, drawings

ACROSS, DOWN = ("x", "cx", "x1", "x2"), ("y", "cy", "y1", "y2")


def test_drawings_are_those_that_were_looked_at() -> None:
    was, now = DRAWN.read_text(encoding="utf-8"), document()
    moved = list(unified_diff(was.splitlines(), now.splitlines(), lineterm="", n=0))
    assert not moved, f"if they should change, run ./ladle pin and look at them: {moved[:12]}"


@pytest.mark.parametrize(
    "drawn", [pytest.param(drawn, id=name) for name, drawn in drawings() if drawn]
)
def test_nothing_is_drawn_outside_its_picture(drawn: Markup) -> None:
    picture = ElementTree.fromstring(drawn)
    _, _, width, height = (float(end) for end in picture.get("viewBox", "").split())
    for one in list(picture.iter())[1:]:
        assert all(0 <= float(one.get(name, 0)) <= width for name in ACROSS), one.attrib
        assert all(0 <= float(one.get(name, 0)) <= height for name in DOWN), one.attrib
        assert 0 <= float(one.get("width", 0)) <= width, one.attrib
        assert 0 <= float(one.get("height", 0)) <= height, one.attrib
