"""`./ladle attack MINUTES` and `./ladle fuzz SECONDS`: what was tried, the slowest answer, the
memory, what broke."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from tests.attack.bombs import bombed
from tests.attack.crowd import crowded
from tests.attack.forms import forms_attacked
from tests.attack.fuzz import fuzzed
from tests.attack.kills import killed_rounds
from tests.attack.restores import restored_while_served
from tests.attack.server import running

MOST_MEMORY_MB = 1600.0
"""What a server may hold under all this, with the processes it has started."""
KILLS = 5
"""Rounds at the least, however short the time; a hundred take about nine minutes (`./ladle attack
25`)."""


def attacked(folder: Path, minutes: float) -> list[str]:
    """Everything, each with its share of the time. Says what it saw; returns what broke."""
    seconds, broken = minutes * 60, []
    fuzzer = fuzzed(folder, 0.2 * seconds)
    print(f"fuzz: {sum(fuzzer.answers.values())} requests {dict(sorted(fuzzer.answers.items()))}")
    broken += fuzzer.failed
    forms, wrong = forms_attacked(folder, 0.3 * seconds)
    print(f"forms: {sum(forms.posted.values())} posted {dict(sorted(forms.answers.items()))}")
    broken += wrong
    broken += restored_while_served(folder / "restores.db")
    kept = killed_rounds(folder / "kills.db", 0.25 * seconds, KILLS)
    print(
        f"kills: {kept.rounds} rounds, {len(kept.acknowledged)} writes acknowledged,"
        f" {len(kept.lost)} lost"
    )
    broken += [f"lost: {address}" for address in kept.lost]
    with running(folder / "crowd.db", "demo") as server:
        edits, wrong = crowded(server, 0.25 * seconds)
        print(
            f"crowd: {sum(edits.made.values())} edits made, {edits.refused} refused,"
            f" {server.answers} answers"
        )
        broken += wrong + bombed(server) + server.broken
        print(
            f"slowest: {server.slowest[0]:.2f} s, {server.slowest[1]}; memory:"
            f" {server.most_memory_mb:.0f} MB at most"
        )
        if server.most_memory_mb > MOST_MEMORY_MB:
            broken.append(f"{server.most_memory_mb:.0f} MB is more than {MOST_MEMORY_MB:.0f}")
    return list(dict.fromkeys(broken))


def main() -> int:
    what, amount = sys.argv[1], float(sys.argv[2]) if len(sys.argv) > 2 else 0.0
    with tempfile.TemporaryDirectory() as name:
        if what == "fuzz":
            fuzzer = fuzzed(Path(name), amount or 60.0)
            print(
                f"{sum(fuzzer.answers.values())} requests: {dict(sorted(fuzzer.answers.items()))}"
            )
            broken = list(dict.fromkeys(fuzzer.failed))
        else:
            broken = attacked(Path(name), amount or 5.0)
    for failure in broken:
        print(failure, file=sys.stderr)
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
