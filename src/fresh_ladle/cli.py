"""The command line: a command loads what it needs and nothing else, since most of the time goes
into that.

Exit codes: 0 fine, 1 not understood (explained on standard error), 2 bad usage.
"""

from __future__ import annotations

import argparse
import contextlib
import os
import sqlite3
import sys
from importlib import import_module
from typing import NoReturn

from fresh_ladle.commands.shared import BadUsage, NotUnderstood
from fresh_ladle.core.errors import Refused
from fresh_ladle.store.database import StoreError

_ADDED_BY = {
    ("read", "figures", "method", "compare"): ("fresh_ladle.commands.reading", "add_reading"),
    ("plan",): ("fresh_ladle.commands.planning", "add_planning"),
    ("compose", "ratio"): ("fresh_ladle.commands.composing", "add_composing"),
    ("tasting",): ("fresh_ladle.commands.tasting", "add_tasting"),
    ("scale", "thermometer"): ("fresh_ladle.commands.scale", "add_scale"),
    ("service",): ("fresh_ladle.commands.service", "add_service"),
    ("exercise",): ("fresh_ladle.commands.practice", "add_practice"),
    ("card", "claims", "words"): ("fresh_ladle.commands.handouts", "add_handouts"),
    ("import", "export", "backup", "restore", "person", "serve", "demo"): (
        "fresh_ladle.commands.store",
        "add_store_commands",
    ),
}
"""Commands, and where they are added to the parser."""
_SERVING = frozenset({"serve", "demo", "scale", "thermometer"})
"""Commands that go on until they are ended, with processes and threads of their own to end."""


def _parser(asked: str) -> argparse.ArgumentParser:
    """With the command that is asked for and those that come with it; with all where none of them
    is."""
    parser = argparse.ArgumentParser(
        prog="fresh-ladle", description="Adapt dressings, dips and salads to dietary targets."
    )
    commands = parser.add_subparsers(dest="command", required=True)
    known = any(asked in names for names in _ADDED_BY)
    for names, (module, add) in _ADDED_BY.items():
        if asked in names or not known:
            getattr(import_module(module), add)(commands)
    return parser


def main(argv: list[str] | None = None) -> int:
    words = sys.argv[1:] if argv is None else argv
    args = _parser(words[0] if words else "").parse_args(words)
    try:
        return int(args.run(args))
    except (NotUnderstood, Refused) as error:
        print(error, file=sys.stderr)
        return 1
    except BadUsage as error:
        print(error, file=sys.stderr)
        return 2
    except (StoreError, sqlite3.Error) as error:
        print(f"{error}. Nothing was changed", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("stopped", file=sys.stderr)
        return 130
    except BrokenPipeError:
        # The reader of our output has gone away; there is nobody left to tell.
        sys.stderr.close()
        return 0
    except OSError as error:
        print(f"{error.filename or 'a file'}: {error.strerror or error}", file=sys.stderr)
        return 1


def run() -> NoReturn:
    """The command as the shell starts it."""
    code = main()
    if sys.argv[1:2] and sys.argv[1] in _SERVING:
        sys.exit(code)
    # All that was loaded goes with the process: taking it apart value by value takes as long as
    # loading it did.
    with contextlib.suppress(ValueError, OSError):
        sys.stdout.flush()
        sys.stderr.flush()
    os._exit(code)


if __name__ == "__main__":
    run()
