"""The command line: read a recipe, work out its figures, serve the workbench.

Exit codes: 0 fine, 1 not understood (explained on standard error), 2 bad usage.
"""

from __future__ import annotations

import argparse
import sqlite3
import sys
from contextlib import closing
from datetime import date, timedelta
from pathlib import Path

from fresh_ladle.commands.composing import add_composing
from fresh_ladle.commands.handouts import add_handouts
from fresh_ladle.commands.scale import add_scale
from fresh_ladle.commands.service import add_service
from fresh_ladle.commands.shared import BadUsage, NotUnderstood, complain_of, positive, print_json, read
from fresh_ladle.commands.tasting import add_tasting
from fresh_ladle.core.appraisal import appraise
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import SALT_BY_ID as SALT_SCHOOLS
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.plans.parsing import exclusion_of, lines_called, target_of
from fresh_ladle.core.plans.refusal import refusal_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import plans_for
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.formats.composition import Release
from fresh_ladle.formats.limits import FileError
from fresh_ladle.report import (
    comparison_report,
    figures_report,
    plan_report,
    plans_report,
    reading_report,
)
from fresh_ladle.store.backups import back_up, restore
from fresh_ladle.store.bundle import everything, restore_everything
from fresh_ladle.store.database import StoreError, open_database
from fresh_ladle.store.foods import load_shipped_foods
from fresh_ladle.store.imported_foods import import_release


def _read_command(args: argparse.Namespace) -> int:
    reading = read(args)
    report = reading_report(reading, load_knowledge())
    if args.json:
        print_json(report)
    else:
        print(f"{report['title']} ({reading.recipe.kind}, {reading.recipe.servings:g} servings)")
        for line in report["lines"]:
            grams = f"{line['grams']['value']:8.1f} g" if line["grams"] else "       ? g"
            print(f"{grams}  {line['food_name'] or 'not understood'}  [{line['text']}]  {line['confidence']:.2f}")
    return complain_of(report)


def _figures_command(args: argparse.Namespace) -> int:
    reading, knowledge = read(args), load_knowledge()
    appraisal = appraise(reading.recipe, knowledge)
    if args.json:
        print_json(figures_report(appraisal))
    else:
        totals = appraisal.totals
        print(f"{reading.recipe.title}: {totals.servings:g} servings of {totals.serving_grams:.0f} g")
        for nutrient in HEADLINE:
            figure, meta = totals.serving[nutrient], BY_ID[nutrient]
            least = "" if figure.complete else "at least "
            digits = meta.decimals
            print(
                f"  {meta.name:10} {least}{figure.value:.{digits}f} {meta.unit} ({figure.low:.{digits}f} to"
                f" {figure.high:.{digits}f})"
            )
    return complain_of(reading_report(reading, knowledge))


def _compare_command(args: argparse.Namespace) -> int:
    """Noticeable steps and differences of the second recipe against the first."""
    knowledge, worked = load_knowledge(), []
    problems = 0
    for path in (args.file, args.other):
        reading = read(argparse.Namespace(**{**vars(args), "file": path}))
        problems |= complain_of(reading_report(reading, knowledge))
        worked.append(appraise(reading.recipe, knowledge))
    report = comparison_report(*worked)
    if args.json:
        print_json(report)
    else:
        print(f"{report['b']} against {report['a']}: {', '.join(report['words'])}")
        for axis, step in report["steps"].items():
            print(f"  {axis:8} {step:+.1f}")
        print(f"  smell    {report['aroma_shift']:.1f} of something else")
        print(f"  in all   {report['total']:.1f} noticeable steps, side by side")
    return problems


def _plan_command(args: argparse.Namespace) -> int:
    """Plans that meet targets and keep the taste, or why there is none."""
    reading, knowledge = read(args), load_knowledge()
    complaints = complain_of(reading_report(reading, knowledge))
    now = appraise(reading.recipe, knowledge)
    try:
        request = PlanRequest(
            tuple(target_of(t) for t in args.target),
            SCHOOLS[args.school or args.towards] if args.school or args.towards else None,
            SALT_SCHOOLS[args.salt_school] if args.salt_school else None,
            frozenset[str]().union(*(exclusion_of(e, knowledge.pantry) for e in args.exclude)),
            frozenset[str]().union(*(lines_called(name, now) for name in args.lock)),
            args.max_changes,
            args.most_steps,
            args.chance,
            args.seconds,
            towards=args.towards is not None,
            by_weight=args.by_weight,
        )
        plans, search = plans_for(now, now, request, knowledge)
    except RecipeError as error:
        raise BadUsage(str(error)) from None
    told = None if plans else refusal_for(now, now, request, knowledge)
    report = plans_report(plans, told, search.timed_out, args.first, args.days)
    if args.json:
        print_json(report)
    else:
        for plan in (*plans, *(told.nearest if told else ())):
            met = ", ".join(f"{name} {chance * 100:.0f}%" for name, chance in plan_report(plan)["meets"].items())
            print(
                f"{plan.name}: {plan.changes} change{'' if plan.changes == 1 else 's'}, {plan.drift.total:.1f} steps of"
                f" taste ({met})"
            )
            for number, step in enumerate(plan.steps, start=1):
                print(f"  {number}. {step.text}{f' ({step.when})' if step.when else ''}. {step.reason}")
    for conflict in told.conflicts if told else ():
        print(conflict.text, file=sys.stderr)
    for relaxation in told.relaxations if told else ():
        print(f"  would do: {relaxation.text}", file=sys.stderr)
    for number, stage in enumerate(told.stages if told else ()):
        on = args.first + timedelta(days=args.days * number)
        print(f"  on {on.isoformat()}: {'; '.join(step.text for step in stage.steps)}", file=sys.stderr)
    return complaints if plans else 1


def _serve_command(args: argparse.Namespace) -> int:
    from fresh_ladle.web.serve import serve

    return serve(args.port, args.database, with_demo=args.command == "demo")


def _opened(path: Path) -> sqlite3.Connection:
    try:
        return open_database(path)
    except StoreError as error:
        raise NotUnderstood(str(error)) from None


def _import_command(args: argparse.Namespace) -> int:
    """A composition release (zip), or everything of another workbench (JSON)."""
    with closing(_opened(args.database)) as connection:
        load_shipped_foods(connection, load_knowledge().pantry)
        try:
            if args.file.suffix.lower() == ".json":
                print(
                    f"{restore_everything(connection, args.file.read_text(encoding='utf-8'))} recipes are back on the"
                    " shelf"
                )
                return 0
            release = Release(args.file.read_bytes())
            report = import_release(
                connection, release, args.file.stem, lambda what, n: print(f"{n:,} {what}", end="\r", file=sys.stderr)
            )
        except (FileError, StoreError, OSError) as error:
            raise NotUnderstood(f"{args.file}: {error}") from None
    print(
        f"{report.foods:,} foods, {report.figures:,} figures, {report.portions:,} portions; {report.left_out_count:,}"
        " rows left out"
    )
    for reason in [*report.left_out, *report.flagged]:
        print(f"  {reason}", file=sys.stderr)
    return 0


def _export_command(args: argparse.Namespace) -> int:
    """Everything of the practice's own as one JSON file."""
    if not args.database.is_file():
        raise NotUnderstood(f"{args.database} is not there: check the name")
    with closing(_opened(args.database)) as connection:
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
    """Puts a copy back in the place of the database; what was there is kept beside it under a dated name."""
    try:
        former = restore(args.file, args.database)
    except StoreError as error:
        raise NotUnderstood(f"{error}. Nothing was changed") from None
    if former is not None:
        print(f"What was there is in {former}")
    print(f"{args.database} is restored from {args.file}")
    return 0


def _date(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a date: write it as 2027-03-04") from None


def _days(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 180:
        raise argparse.ArgumentTypeError("stages are 1 to 180 days apart")
    return int(text)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="fresh-ladle", description="Adapt dressings, dips and salads to dietary targets."
    )
    commands = parser.add_subparsers(dest="command", required=True)
    for name, run in (("read", _read_command), ("figures", _figures_command)):
        command = commands.add_parser(name)
        command.add_argument(
            "file", type=Path, help="plain text: a title line, then one ingredient to a line; - for standard input"
        )
        command.add_argument("--json", action="store_true", help="print everything as JSON")
        command.add_argument("--region", choices=[r.value for r in Region], default="us", help="whose cups and spoons")
        if name == "figures":
            command.add_argument("--servings", type=positive, help="how many servings the batch makes")
        command.set_defaults(run=run)
    compare = commands.add_parser("compare", help="two recipes: figures and noticeable steps of taste")
    compare.add_argument("file", type=Path)
    compare.add_argument("other", type=Path)
    compare.add_argument("--json", action="store_true")
    compare.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)
    compare.add_argument("--servings", type=positive)
    compare.set_defaults(run=_compare_command)
    plan = commands.add_parser("plan", help="plans that meet targets and keep the taste")
    plan.add_argument("file", type=Path)
    plan.add_argument("--servings", type=positive)
    plan.add_argument(
        "--target", action="append", default=[], help="a limit per serving, such as sodium_mg<=140 or fiber_g>=3"
    )
    plan.add_argument("--kind", choices=sorted(KINDS), help="the kind of dish, when it is not as read")
    schools = plan.add_mutually_exclusive_group()
    schools.add_argument("--school", choices=sorted(SCHOOLS), help="the dish ends as this school would have it")
    schools.add_argument("--towards", choices=sorted(SCHOOLS), help="takes out what it can of what this school leaves")
    plan.add_argument("--by-weight", action="store_true", help="amounts in grams instead of spoons and cups")
    plan.add_argument(
        "--first", type=_date, default=date.today(), metavar="DATE", help="the first serving of a road in stages"
    )
    plan.add_argument("--days", type=_days, default=7, help="days from one stage to the next")
    plan.add_argument("--salt-school", choices=sorted(SALT_SCHOOLS))
    plan.add_argument("--lock", action="append", default=[], help="a line that stays, by its name")
    plan.add_argument("--exclude", action="append", default=[], help="an allergen or a food that must not be in it")
    plan.add_argument("--max-changes", type=int, default=5)
    plan.add_argument(
        "--most-steps", type=float, default=2.0, help="noticeable steps that any taste may go, from memory"
    )
    plan.add_argument("--chance", type=float, default=0.8, help="probability with which each target must be met")
    plan.add_argument("--seconds", type=float, default=20.0, help="how long to look at most")
    plan.add_argument("--json", action="store_true")
    plan.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)
    plan.set_defaults(run=_plan_command)
    add_composing(commands)
    add_tasting(commands)
    add_scale(commands)
    add_service(commands)
    add_handouts(commands)
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
    for name in ("serve", "demo"):
        command = commands.add_parser(name)
        command.add_argument("--port", type=int, default=8000)
        command.add_argument("--database", type=Path, default=Path("var/fresh-ladle.db"))
        command.set_defaults(run=_serve_command)
    return parser


def main(argv: list[str] | None = None) -> int:
    args = _parser().parse_args(argv)
    try:
        return int(args.run(args))
    except NotUnderstood as error:
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


if __name__ == "__main__":
    sys.exit(main())
