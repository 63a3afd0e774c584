"""`service`: a dish for many at a time: amounts, batches, what is bought, the order of work, how
long it keeps."""

from __future__ import annotations

import argparse
import csv
import sys
from datetime import datetime
from pathlib import Path

from fresh_ladle.commands.report import line_reports
from fresh_ladle.commands.service_report import service_report
from fresh_ladle.commands.shared import (
    BadUsage,
    Commands,
    NotUnderstood,
    bytes_of,
    complain_of,
    print_json,
    read,
)
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.buying import PackPrice
from fresh_ladle.core.service.clock import moment_of, zone_named
from fresh_ladle.core.service.day import Ask, ServiceDish, check_at_risk, planned_service
from fresh_ladle.core.service.schedule import Impossible
from fresh_ladle.core.service.task import Kitchen
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.data.zone_here import local_zone


def _service_command(args: argparse.Namespace) -> int:
    knowledge = load_knowledge()
    servings, args.servings = args.servings, None
    asked, complaints = [(args.file, servings), *args.also], 0
    readings = []
    for args.file, _ in asked:
        readings.append(read(args))
        complaints = max(complaints, complain_of(line_reports(readings[-1], knowledge)))
    try:
        zone = zone_named(args.zone or local_zone())
        ask = Ask(
            tuple(
                ServiceDish(appraise(reading.recipe, knowledge), count)
                for reading, (_, count) in zip(readings, asked, strict=True)
            ),
            moment_of(args.at, zone),
            Kitchen(args.cooks, args.ovens, args.trays, args.burners, args.blender_ml),
            args.at_risk,
            region=Region(args.region),
        )
        prices = _prices(args.prices, knowledge.pantry) if args.prices else {}
        found = check_at_risk(planned_service(ask, knowledge.work, datetime.now(zone), prices))
    except Refused as error:
        raise BadUsage(str(error)) from None
    report = service_report(found)
    if args.json:
        print_json(report)
    else:
        _print(report)
    if isinstance(found.order, Impossible):
        print(f"no order of work: {report['problem']}", file=sys.stderr)
        return 1
    return complaints


def _print(report: dict[str, object]) -> None:
    for name in ("lines", "shopping", "steps"):
        rows = report[name]
        assert isinstance(rows, list)
        print(name.capitalize())
        for row in rows:
            if name == "steps":
                print(
                    f"  {_moment(row['start'])} to {_moment(row['end'])}  cook {row['cook']} "
                    f" {row['text']}"
                )
            elif name == "lines":
                print(f"  {row['text']}")
            else:
                print(f"  {row['buy']} {row['food']}")
    print(f"Keep by {report['keep_by']}: {report['keep_why']}")


def _prices(path: Path, pantry: Pantry) -> dict[str, PackPrice]:
    """Prices from a CSV of food, price, pack_grams. Raises NotUnderstood naming the row."""
    found = {}
    rows = csv.DictReader(bytes_of(path).decode("utf-8-sig", errors="replace").splitlines())
    for number, row in enumerate(rows, start=2):
        try:
            if row["food"] not in pantry:
                raise RecipeError(f"no food has the key {row['food']!r}")
            found[row["food"]] = PackPrice(float(row["price"]), float(row["pack_grams"]))
        except (KeyError, TypeError, ValueError) as error:
            raise NotUnderstood(f"{path} row {number}: {error}") from None
    return found


def _number(text: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a number") from None


def _dish_and_servings(text: str) -> tuple[Path, float]:
    name, _, count = text.rpartition("=")
    if not name:
        raise argparse.ArgumentTypeError(f"{text!r} is written as FILE=SERVINGS")
    return Path(name), _number(count)


def add_service(commands: Commands) -> None:
    parser = commands.add_parser(
        "service", help="a dish for many: amounts, batches, shopping, the order of work"
    )
    parser.add_argument("file", type=Path)
    parser.add_argument("--servings", type=_number, required=True)
    parser.add_argument(
        "--also",
        type=_dish_and_servings,
        action="append",
        default=[],
        metavar="FILE=SERVINGS",
        help="one more dish of the same meal; may be said again",
    )
    parser.add_argument("--at", required=True, help="when it is eaten, such as 2027-03-04T12:00")
    parser.add_argument("--zone", default="", help="time zone of the place, else of this machine")
    parser.add_argument("--cooks", type=int, default=1)
    parser.add_argument(
        "--blender-ml",
        type=_number,
        default=1500.0,
        help="what the blender holds, in ml; 0 for none",
    )
    parser.add_argument("--ovens", type=int, default=1)
    parser.add_argument("--trays", type=int, default=2, help="trays in an oven")
    parser.add_argument("--burners", type=int, default=4)
    parser.add_argument("--at-risk", action="store_true", help="guests who are at risk eat of it")
    parser.add_argument("--prices", type=Path, help="a CSV of food, price, pack_grams")
    parser.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)
    parser.add_argument("--json", action="store_true")
    parser.set_defaults(run=_service_command)


def _moment(iso: str) -> str:
    """`Mon 01 Mar 19:58` of a moment by ISO 8601."""
    return f"{datetime.fromisoformat(iso):%a %d %b %H:%M}"
