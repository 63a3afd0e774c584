"""`scale` and `thermometer`: stand-ins for instruments, each with its page."""

from __future__ import annotations

import argparse

from fresh_ladle.commands.shared import BadUsage, Commands


def _scale_command(args: argparse.Namespace) -> int:
    """Runs the stand-in until it is stopped."""
    from fresh_ladle.devices.stand_in_page import run_stand_in

    try:
        return run_stand_in(args.port, args.page)
    except OSError as error:
        raise BadUsage(
            f"port {args.port} is taken, or may not be used ({error.strerror})"
        ) from None


def _thermometer_command(args: argparse.Namespace) -> int:
    """Runs the stand-in until it is stopped."""
    from fresh_ladle.devices.probe_page import run_probe

    try:
        return run_probe(args.port, args.page)
    except OSError as error:
        raise BadUsage(
            f"port {args.port} is taken, or may not be used ({error.strerror})"
        ) from None


def add_scale(commands: Commands) -> None:
    for name, run, port in (
        ("scale", _scale_command, 8177),
        ("thermometer", _thermometer_command, 8187),
    ):
        command = commands.add_parser(name, help=f"a {name} for practice, where there is none")
        command.add_argument("--port", type=int, default=port, help="where its lines come from")
        command.add_argument("--page", type=int, default=port + 1, help="where its page is")
        command.set_defaults(run=run)
