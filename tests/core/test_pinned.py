"""What was not meant to move has not moved: the demo, odd recipes and held-out lines come out as
they were pinned."""

from __future__ import annotations

import json
from typing import Any

from tests.core.pinned import PINNED, document


def differences(was: Any, now: Any, place: str = "") -> list[str]:
    """Where two documents differ, by the path to each place."""
    if isinstance(was, dict) and isinstance(now, dict):
        return [
            d
            for key in was.keys() | now.keys()
            for d in differences(was.get(key), now.get(key), f"{place} / {key}")
        ]
    if isinstance(was, list) and isinstance(now, list) and len(was) == len(now):
        return [
            d
            for n, (a, b) in enumerate(zip(was, now, strict=True))
            for d in differences(a, b, f"{place} / {n}")
        ]
    return [] if was == now else [f"{place}: {str(was)[:80]} is now {str(now)[:80]}"]


def test_the_core_makes_of_these_dishes_what_it_made_before() -> None:
    was, now = json.loads(PINNED.read_text(encoding="utf-8")), json.loads(json.dumps(document()))
    changed = sorted(differences(was, now))
    assert not changed, (
        f"{len(changed)} places differ; if they should, run ./ladle pin and read the difference:"
        f" {changed[:12]}"
    )
