"""Imports point downwards only: web over formats over store over core; data beside the store, core knows nobody."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

import fresh_ladle

ROOT = Path(fresh_ladle.__file__).parent
ALLOWED = {
    "core": {"core"},
    "data": {"core", "data"},
    "store": {"core", "data", "formats", "store"},
    "formats": {"core", "formats"},
    "report": {"core"},
    "web": {"core", "data", "store", "formats", "web"},
    "cli": {"core", "data", "formats", "report", "store", "web"},
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
            assert name.split(".")[0] not in IO_MODULES, f"the core does no I/O, but {path.name} imports {name}"
