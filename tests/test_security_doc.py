"""What the page on security calls met is held by a file or a test that is there."""

from __future__ import annotations

import ast
import re
from collections import Counter
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
ROWS = re.findall(
    r"^\| ([\d.,– ]+?) \| (.+?) \| (.+?) \| (.*?) ?\|$",
    (ROOT / "docs/security.md").read_text("utf-8"),
    re.M,
)


def test_every_row_says_how_it_stands() -> None:
    stands = Counter(row[2] for row in ROWS)
    assert set(stands) == {"met", "not met", "does not apply"}
    chapters = Counter(int(row[0].split(".")[0]) for row in ROWS)
    assert sorted(chapters) == list(range(1, 15))
    numbers = [row[0] for row in ROWS]
    assert len(numbers) == len(set(numbers))


@pytest.mark.parametrize("row", [row for row in ROWS if row[2] == "met"], ids=lambda row: row[0])
def test_what_is_met_is_held_by_something(row: tuple[str, str, str, str]) -> None:
    named = re.fullmatch(r"`([^`:]+)(?:::(\w+))?`", row[3])
    assert named, row
    path = ROOT / named[1]
    assert path.is_file(), row
    if named[2]:
        tests = {
            node.name
            for node in ast.walk(ast.parse(path.read_text("utf-8")))
            if isinstance(node, ast.FunctionDef)
        }
        assert named[2] in tests, row
