"""Every GET of the demo, byte for byte: `save FOLDER` before a change of the house, `compare
FOLDER` after it.

Follows every link, request and source from the pages of the demo, as a page and as a part of one,
on one day. What a change is meant to alter is told with `--but PATTERN=REPLACEMENT`, made to both
sides before they are compared."""

from __future__ import annotations

import argparse
import hashlib
import json
import re
import sys
from collections.abc import Iterator
from html import unescape
from pathlib import Path

from fastapi.testclient import TestClient
from tests.web.seen import ALONE, HTMX, OF_A_RECIPE, demo_on_one_day

LINK = re.compile(r'(?:href|hx-get|src|action)="(/[^"#]*)')
MOST = 800
VOLATILE = ((re.compile(rb"[?&]v=[0-9a-f]+"), b""),)
"""What names the shipped files' contents: a style sheet may be joined anew."""


def answers() -> Iterator[tuple[str, int, bytes]]:
    """Each address with the status and body of its answer, as a page and as a part."""
    with demo_on_one_day() as client:
        waiting = [*ALONE, *(f"/recipes/{n}{tail}" for n in (2, 4, 9, 13) for tail in OF_A_RECIPE)]
        seen = set(waiting)
        for _ in range(MOST):
            if not waiting:
                return
            address = waiting.pop(0)
            for part in (False, True):
                body = yield_one(client, address, part)
                yield f"{address}{' (part)' if part else ''}", *body
                for found in LINK.findall(body[1].decode("utf-8", "replace")):
                    target = unescape(found)
                    if target not in seen and not target.startswith("/static/"):
                        seen.add(target)
                        waiting.append(target)


def yield_one(client: TestClient, address: str, part: bool) -> tuple[int, bytes]:
    answer = client.get(address, headers=HTMX if part else {}, follow_redirects=False)
    body = answer.content
    for pattern, other in VOLATILE:
        body = pattern.sub(other, body)
    return answer.status_code, body


def save(folder: Path) -> None:
    """Writes each body once, and a list of addresses."""
    folder.mkdir(parents=True, exist_ok=True)
    index = {}
    for address, status, body in answers():
        name = hashlib.sha256(body).hexdigest()
        (folder / name).write_bytes(body)
        index[address] = [status, name]
    (folder / "index.json").write_text(json.dumps(index, indent=0), encoding="utf-8")
    print(f"{len(index)} answers kept")


def compare(folder: Path, but: list[tuple[str, str]]) -> int:
    """Prints the addresses whose answers differ, and where first."""
    index = json.loads((folder / "index.json").read_text(encoding="utf-8"))
    found, wrong = set(), 0
    for address, status, body in answers():
        found.add(address)
        before = index.get(address)
        old = (folder / before[1]).read_bytes() if before else b""
        for pattern, other in but:
            old, body = (re.sub(pattern.encode(), other.encode(), side) for side in (old, body))
        if before is None or before[0] != status or old != body:
            wrong += 1
            at = next(
                (n for n, (a, b) in enumerate(zip(old, body, strict=False)) if a != b),
                min(len(old), len(body)),
            )
            print(f"{address}: {before and before[0]} {status}")
            print(f"  - {old[at - 40 : at + 80]!r}\n  + {body[at - 40 : at + 80]!r}")
    for address in index.keys() - found:
        wrong += 1
        print(f"{address}: gone")
    print(f"{len(found)} answers, {wrong} differ")
    return 1 if wrong else 0


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("act", choices=("save", "compare"))
    parser.add_argument("folder", type=Path)
    parser.add_argument("--but", action="append", default=[], metavar="PATTERN=REPLACEMENT")
    given = parser.parse_args()
    if given.act == "save":
        save(given.folder)
    else:
        sys.exit(compare(given.folder, [tuple(one.split("=", 1)) for one in given.but]))


if __name__ == "__main__":
    main()
