"""`scale`: the stand-in for a scale, with its page."""

from __future__ import annotations

import argparse

from fresh_ladle.commands.shared import BadUsage, Commands


def _scale_command(args: argparse.Namespace) -> int:
    """Runs the stand-in until it is stopped."""
    from fresh_ladle.devices.stand_in_page import run_stand_in

    try:
        return run_stand_in(args.port, args.page)
    except OSError as error:
        raise BadUsage(f"port {args.port} is taken, or may not be used ({error.strerror})") from None


def add_scale(commands: Commands) -> None:
    command = commands.add_parser("scale", help="a scale for practice, where there is none")
    command.add_argument("--port", type=int, default=8177, help="where its lines come from")
    command.add_argument("--page", type=int, default=8178, help="where its page is")
    command.set_defaults(run=_scale_command)
