"""The commands that work on a database: `import`, `export`, `backup`, `restore`, `person`, `serve`,
`demo`."""

from __future__ import annotations

import argparse
import sys
from contextlib import closing
from pathlib import Path

from fresh_ladle.commands.people import add_person_command, opened
from fresh_ladle.commands.shared import Commands, NotUnderstood
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.formats.composition import Release
from fresh_ladle.formats.limits import FileError
from fresh_ladle.store.database import StoreError
from fresh_ladle.store.files.backups import back_up, restore
from fresh_ladle.store.files.bundle import everything, restore_everything
from fresh_ladle.store.foods.foods import load_shipped_foods
from fresh_ladle.store.foods.imported_foods import import_release


def _serve_command(args: argparse.Namespace) -> int:
    from fresh_ladle.web.serve import Place, serve

    place = Place(args.port, args.host, tuple(args.name), args.behind_proxy)
    return serve(place, args.database, with_demo=args.command == "demo")


def _import_command(args: argparse.Namespace) -> int:
    """A composition release (zip), or everything of another workbench (JSON)."""
    with closing(opened(args.database)) as connection:
        load_shipped_foods(connection, load_knowledge().pantry)
        try:
            if args.file.suffix.lower() == ".json":
                print(
                    f"{restore_everything(connection, args.file.read_text(encoding='utf-8'))}"
                    " recipes are back on the shelf"
                )
                return 0
            release = Release(args.file)
            report = import_release(
                connection,
                release,
                args.file.stem,
                lambda what, n: print(f"{n:,} {what}", end="\r", file=sys.stderr),
            )
        except (FileError, StoreError, OSError) as error:
            raise NotUnderstood(f"{args.file}: {error}") from None
    print(
        f"{report.foods:,} foods, {report.figures:,} figures, {report.portions:,} portions;"
        f" {report.left_out_count:,} rows left out"
    )
    for reason in [*report.left_out, *report.flagged]:
        print(f"  {reason}", file=sys.stderr)
    return 0


def _export_command(args: argparse.Namespace) -> int:
    """Everything of the practice's own as one JSON file."""
    if not args.database.is_file():
        raise NotUnderstood(f"{args.database} is not there: check the name")
    with closing(opened(args.database)) as connection:
        args.file.write_text(everything(connection), encoding="utf-8")
    print(f"Everything is in {args.file}")
    return 0


def _backup_command(args: argparse.Namespace) -> int:
    """A copy of the database, under a name that is not taken."""
    try:
        back_up(args.database, args.file)
    except StoreError as error:
        raise NotUnderstood(str(error)) from None
    print(f"A copy of {args.database} is in {args.file}")
    return 0


def _restore_command(args: argparse.Namespace) -> int:
    """Puts a copy back in the place of the database; what was there is kept beside it under a dated
    name."""
    try:
        former = restore(args.file, args.database)
    except StoreError as error:
        raise NotUnderstood(f"{error}. Nothing was changed") from None
    if former is not None:
        print(f"What was there is in {former}")
    print(f"{args.database} is restored from {args.file}")
    return 0


def add_store_commands(commands: Commands) -> None:
    tools = {
        "import": _import_command,
        "export": _export_command,
        "backup": _backup_command,
        "restore": _restore_command,
    }
    for name, run in tools.items():
        command = commands.add_parser(name, help=(run.__doc__ or "").splitlines()[0])
        command.add_argument("file", type=Path)
        command.add_argument("--database", type=Path, default=Path("var/fresh-ladle.db"))
        command.set_defaults(run=run)
    add_person_command(commands)
    for name in ("serve", "demo"):
        command = commands.add_parser(name)
        command.add_argument("--port", type=int, default=8000)
        command.add_argument(
            "--host", default="127.0.0.1", help="beyond this machine everybody needs an account"
        )
        command.add_argument(
            "--name", action="append", default=[], help="a host name it answers to"
        )
        command.add_argument(
            "--behind-proxy", default="", help="address of a proxy whose headers are believed"
        )
        command.add_argument("--database", type=Path, default=Path("var/fresh-ladle.db"))
        command.set_defaults(run=_serve_command)
