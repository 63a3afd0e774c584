"""What was not meant to change is said as it was: the pages of the demo, word by word."""

from __future__ import annotations

from difflib import unified_diff

from tests.web.seen import SEEN, document


def test_the_pages_say_what_they_said_before() -> None:
    was, now = SEEN.read_text(encoding="utf-8"), document()
    moved = [
        line[:160] for line in unified_diff(was.splitlines(), now.splitlines(), lineterm="", n=0)
    ][2:]
    assert not moved, (
        f"{len(moved)} lines differ; if they should, run ./ladle pin and read them: {moved[:16]}"
    )
