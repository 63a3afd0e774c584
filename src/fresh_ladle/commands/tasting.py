"""`tasting`: what a sheet of ballots says, and what a panel can show before it tastes."""

from __future__ import annotations

import argparse
from pathlib import Path

from fresh_ladle.commands.panel_report import foretold_report, panel_report
from fresh_ladle.commands.shared import BadUsage, Commands, NotUnderstood, bytes_of, print_json
from fresh_ladle.core.tasting.designs import MAX_TASTERS
from fresh_ladle.formats.ballot_sheet import SheetKind, read_ballots
from fresh_ladle.formats.limits import FileError


def _tasting_command(args: argparse.Namespace) -> int:
    """Statistics of ballots, or with `plan` the power of a panel."""
    *planning, kind = args.kind
    if planning not in ([], ["plan"]) or kind not in list(SheetKind):
        raise BadUsage(f"say one of {', '.join(SheetKind)}, or plan and one of them")
    try:
        if planning:
            report = foretold_report(SheetKind(kind), _tasters(args.tasters))
        else:
            if args.answers is None:
                raise BadUsage("where are the ballots? Say --answers FILE.csv")
            report = panel_report(
                SheetKind(kind), read_ballots(bytes_of(args.answers), SheetKind(kind))
            )
    except FileError as error:
        raise NotUnderstood(f"{args.answers}: {error}") from None
    except ValueError as error:
        raise (
            BadUsage(str(error)) if planning else NotUnderstood(f"{args.answers}: {error}")
        ) from None
    if args.json:
        print_json(report)
        return 0
    print(report["sentence"])
    for warning in report.get("warnings", ()):
        print(f"  {warning}")
    return 0


def _tasters(count: int | None) -> int:
    if count is None or not 1 <= count <= MAX_TASTERS:
        raise BadUsage(f"a panel has 1 to {MAX_TASTERS} tasters: say --tasters N")
    return count


def add_tasting(commands: Commands) -> None:
    command = commands.add_parser("tasting", help="what ballots say, or what a panel can show")
    command.add_argument(
        "kind", nargs="+", metavar="KIND", help=f"{', '.join(SheetKind)}; plan KIND for the power"
    )
    command.add_argument(
        "--answers", type=Path, help="a CSV with a row for each seat; - for standard input"
    )
    command.add_argument("--tasters", type=int, help="how many will taste, for plan")
    command.add_argument("--json", action="store_true")
    command.set_defaults(run=_tasting_command)
