"""Imports point downwards only, between the layers and between the rooms of the core; the core does
no I/O."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

import fresh_ladle

ROOT = Path(fresh_ladle.__file__).parent
ALLOWED = {
    "core": {"core"},
    "data": {"core", "data"},
    "store": {"core", "data", "formats", "store"},
    "formats": {"core", "formats"},
    "devices": {"devices"},
    "commands": {"commands", "core", "data", "devices", "formats", "store", "web"},
    "web": {"core", "data", "devices", "store", "formats", "web"},
    "cli": {"commands", "core", "store"},
    "__init__": set(),
}
IO_MODULES = {
    "sqlite3",
    "pathlib",
    "os",
    "io",
    "csv",
    "json",
    "tomllib",
    "fastapi",
    "starlette",
    "jinja2",
    "pydantic",
    "requests",
}


def _modules() -> list[Path]:
    return sorted(ROOT.rglob("*.py"))


def _imported(path: Path) -> set[str]:
    names = set()
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names.add(node.module)
    return names


@pytest.mark.parametrize("path", _modules(), ids=lambda p: str(p.relative_to(ROOT)))
def test_imports_point_downwards(path: Path) -> None:
    layer = path.relative_to(ROOT).parts[0].removesuffix(".py")
    for name in _imported(path):
        if name.startswith("fresh_ladle."):
            assert name.split(".")[1] in ALLOWED[layer], f"{path.name} must not import {name}"
        elif layer == "core":
            assert name.split(".")[0] not in IO_MODULES, (
                f"the core does no I/O, but {path.name} imports {name}"
            )


ROOMS = (
    "errors",
    "plain_text",
    "ranges",
    "words",
    "foods",
    "recipes",
    "amounts",
    "method",
    "page",
    "nutrients",
    "flavor",
    "cautions",
    "catalogue",
    "whole",
    "swaps",
    "plans",
    "compose",
    "bench",
    "tasting",
    "hold",
    "service",
    "claims",
    "card",
    "teaching",
    "practice",
    "people",
)
"""The rooms and single modules of the core, each of which may import from those before it."""


@pytest.mark.parametrize(
    "path",
    [p for p in _modules() if "core" in p.relative_to(ROOT).parts],
    ids=lambda p: str(p.relative_to(ROOT)),
)
def test_the_rooms_of_the_core_stand_on_each_other_in_order(path: Path) -> None:
    parts = path.relative_to(ROOT / "core").parts
    if parts[0] == "__init__.py":
        return
    room = parts[0].removesuffix(".py")
    for name in _imported(path):
        if name.startswith("fresh_ladle.core."):
            other = name.split(".")[2]
            assert ROOMS.index(other) <= ROOMS.index(room), (
                f"{path.name} in {room} must not import {name}"
            )


def test_the_time_is_asked_of_one_clock() -> None:
    """So that a test can say what time it is: in the store and the web nobody looks at the
    machine's own."""
    looks = {
        f"{path.relative_to(ROOT)}"
        for path in _modules()
        if path.relative_to(ROOT).parts[0] in ("store", "web")
        and re.search(
            r"datetime\.now\(|date\.today\(|time\.time\(|time_ns\(",
            path.read_text(encoding="utf-8"),
        )
    }
    assert looks == {"store/clock.py"}


WEB = ("door", "work", "shared", "places")
UNDER = {
    "door": set(),
    "work": set(),
    "shared": {"door", "work"},
    "places": {"door", "work", "shared"},
}
HANDED_OVER = {
    ("bench", "counter"), ("compose", "counter"), ("plans", "counter"), ("versions", "counter"),
    ("versions", "tasting"),
}  # fmt: skip
"""Places that may import another: a version is handed to the Counter, and Versions tells what
tasters found."""


@pytest.mark.parametrize(
    "path", sorted((ROOT / "web").glob("*/**/*.py")), ids=lambda p: str(p.relative_to(ROOT))
)
def test_the_rooms_of_the_web_stand_on_each_other_and_places_side_by_side(path: Path) -> None:
    here = path.relative_to(ROOT / "web").parts
    for name in _imported(path):
        there = name.split(".")[2:]
        if (
            not name.startswith("fresh_ladle.web.")
            or there[0] not in WEB
            or there[0] == here[0] != "places"
        ):
            continue
        if there[0] == here[0]:
            assert there[1] == here[1] or (here[1], there[1]) in HANDED_OVER, (
                f"{path.name} must not import {name}"
            )
        else:
            assert there[0] in UNDER[here[0]], f"{path.name} must not import {name}"


def test_what_is_handed_over_is_still_handed_over() -> None:
    found = {
        (path.relative_to(ROOT / "web" / "places").parts[0], name.split(".")[3])
        for path in (ROOT / "web" / "places").rglob("*.py")
        for name in _imported(path)
        if name.startswith("fresh_ladle.web.places.")
    }
    assert {(here, there) for here, there in found if here != there} == HANDED_OVER


def test_a_place_fills_its_own_templates_and_those_of_the_shared_room() -> None:
    for path in (ROOT / "web" / "places").rglob("*"):
        if path.suffix in (".py", ".html"):
            place = path.relative_to(ROOT / "web" / "places").parts[0]
            named = set(re.findall(r"places/(\w+)/[\w/]+\.html", path.read_text(encoding="utf-8")))
            assert named <= {place}, path
