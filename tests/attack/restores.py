"""A copy is put back under a workbench that runs, and after it was killed: refused, then done, and
nothing is lost."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from fresh_ladle.store.files.backups import back_up
from tests.attack.server import running

COMMAND = (sys.executable, "-m", "fresh_ladle.cli")


def restored_while_served(database: Path) -> list[str]:
    """What went otherwise than it should."""
    wrong, copy = [], database.with_name("copy.db")
    with running(database, "demo") as server:
        back_up(database, copy)
        server.ask(
            "POST", "/recipes/1/lines/l1/amount", {"revision": server.revision(1), "amount": "77 g"}
        )
        refused = subprocess.run(
            [*COMMAND, "restore", str(copy), "--database", str(database)],
            capture_output=True,
            text=True,
        )
        if refused.returncode != 1 or "another workbench is running" not in refused.stderr:
            wrong.append(
                f"put back under a workbench that runs: {refused.returncode} {refused.stderr[:200]}"
            )
        if "77 g" not in server.ask("GET", "/recipes/1").body:
            wrong.append("an edit is gone after a copy was refused")
        old = server.revision(1)
        server.process.kill()
    again = subprocess.run(
        [*COMMAND, "restore", str(copy), "--database", str(database)],
        capture_output=True,
        text=True,
    )
    if again.returncode != 0:
        wrong.append(f"not put back after the workbench was killed: {again.stderr[:200]}")
    with running(database) as server:
        if "77 g" in server.ask("GET", "/recipes/1").body:
            wrong.append("the copy was not put back")
        late = server.ask("POST", "/recipes/1/lines/l1/amount", {"revision": old, "amount": "78 g"})
        if late.status == 303 or "78 g" in server.ask("GET", "/recipes/1").body:
            wrong.append("a page from before the copy was put back changed what came after")
        return wrong + server.broken
