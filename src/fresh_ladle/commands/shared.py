"""What commands share: reading a file, printing JSON, and the two ways in which a command is
refused."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any, TypeAlias

from fresh_ladle.core.errors import Refused
from fresh_ladle.core.page.recipe_text import RecipeReading, read_recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.data.load import load_reader
from fresh_ladle.formats.any_recipe import recipe_text_from_file
from fresh_ladle.formats.limits import MAX_FILE_BYTES, FileError

Commands: TypeAlias = "argparse._SubParsersAction[argparse.ArgumentParser]"


class BadUsage(Exception):
    """Something asked for cannot be; the message goes to standard error."""


class NotUnderstood(Exception):
    """The file cannot be read as a recipe; the message goes to standard error."""


def bytes_of(path: Path) -> bytes:
    """What a file holds, or standard input for `-`."""
    try:
        return path.read_bytes() if str(path) != "-" else sys.stdin.buffer.read(MAX_FILE_BYTES + 1)
    except OSError as error:
        raise NotUnderstood(f"{path}: {error.strerror or error}") from None


def text_of(path: Path) -> str:
    """A file of any known form as plain recipe text."""
    data = bytes_of(path)
    try:
        return recipe_text_from_file(data, path.name)
    except FileError as error:
        raise NotUnderstood(f"{path}: {error}") from None


def read(args: argparse.Namespace) -> RecipeReading:
    """The recipe of the command's file, in the region and for the servings that were said."""
    servings = getattr(args, "servings", None)
    try:
        return read_recipe(
            text_of(args.file),
            load_reader(),
            servings,
            Region(args.region),
            getattr(args, "kind", None),
        )
    except Refused as error:
        raise NotUnderstood(f"{args.file}: {error}") from None


def print_json(report: dict[str, Any] | list[dict[str, Any]]) -> None:
    """The report on standard output."""
    json.dump(report, sys.stdout, ensure_ascii=False, indent=2)
    print()


def complain_of(lines: Sequence[Mapping[str, Any]]) -> int:
    """Names the lines that were not understood; 1 when there are any, so that a script notices."""
    bad = [line for line in lines if not line["understood"]]
    for line in bad:
        print(f"not understood: {line['text']!r}: {line['problem']}", file=sys.stderr)
    return 1 if bad else 0


def positive(text: str) -> float:
    """Servings as they were typed."""
    try:
        value = float(text)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a number") from None
    if not 0 < value <= 5000:
        raise argparse.ArgumentTypeError("servings must be more than 0 and at most 5000")
    return value
