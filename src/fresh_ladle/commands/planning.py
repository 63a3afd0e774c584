"""`plan`: plans that meet targets and keep the taste, or why there is none."""

from __future__ import annotations

import argparse
import sys
from datetime import date, timedelta
from pathlib import Path

from fresh_ladle.commands.plan_report import plan_report, plans_report
from fresh_ladle.commands.report import line_reports
from fresh_ladle.commands.shared import BadUsage, Commands, complain_of, positive, print_json, read
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.catalogue.school import SALT_BY_ID as SALT_SCHOOLS
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.plans.parsing import exclusion_of, lines_called, target_of
from fresh_ladle.core.plans.refusal import refusal_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import plans_for
from fresh_ladle.core.plans.servings import helping_words
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge


def _plan_command(args: argparse.Namespace) -> int:
    """Plans that meet targets and keep the taste, or why there is none."""
    reading, knowledge = read(args), load_knowledge()
    complaints = complain_of(line_reports(reading, knowledge))
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
            new_allergens=args.new_allergens,
        )
        plans, search = plans_for(now, now, request, knowledge)
    except Refused as error:
        raise BadUsage(str(error)) from None
    told = None if plans else refusal_for(now, now, request, knowledge)
    report = plans_report(plans, told, search.timed_out, args.first, args.days)
    if args.json:
        print_json(report)
    else:
        for plan in (*plans, *((*told.otherwise, *told.nearest) if told else ())):
            met = ", ".join(
                f"{name} {chance * 100:.0f}%" for name, chance in plan_report(plan)["meets"].items()
            )
            print(
                f"{plan.name}: {plan.changes} change{'' if plan.changes == 1 else 's'},"
                f" {plan.drift.total:.1f} steps of taste, {helping_words(plan.after)} a serving"
                f" ({met})"
            )
            print(f"  {plan.why}")
            for number, step in enumerate(plan.steps, start=1):
                print(
                    f"  {number}. {step.text}{f' ({step.when})' if step.when else ''}."
                    f" {step.reason}"
                )
    for conflict in told.conflicts if told else ():
        print(conflict.text, file=sys.stderr)
    for relaxation in told.relaxations if told else ():
        print(f"  would do: {relaxation.text}", file=sys.stderr)
    for number, stage in enumerate(told.stages if told else ()):
        on = args.first + timedelta(days=args.days * number)
        print(
            f"  on {on.isoformat()}: {'; '.join(step.text for step in stage.steps)}",
            file=sys.stderr,
        )
    return complaints if plans else 1


def _date(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise argparse.ArgumentTypeError(
            f"{text!r} is not a date: write it as 2027-03-04"
        ) from None


def _days(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= 180:
        raise argparse.ArgumentTypeError("stages are 1 to 180 days apart")
    return int(text)


def add_planning(commands: Commands) -> None:
    plan = commands.add_parser("plan", help="plans that meet targets and keep the taste")
    plan.add_argument("file", type=Path)
    plan.add_argument("--servings", type=positive)
    plan.add_argument(
        "--target",
        action="append",
        default=[],
        help="a limit per serving, such as sodium_mg<=140 or fiber_g>=3",
    )
    plan.add_argument(
        "--kind", choices=sorted(KINDS), help="the kind of dish, when it is not as read"
    )
    schools = plan.add_mutually_exclusive_group()
    schools.add_argument(
        "--school", choices=sorted(SCHOOLS), help="the dish ends as this school would have it"
    )
    schools.add_argument(
        "--towards",
        choices=sorted(SCHOOLS),
        help="takes out what it can of what this school leaves",
    )
    plan.add_argument(
        "--by-weight", action="store_true", help="amounts in grams instead of spoons and cups"
    )
    plan.add_argument(
        "--first",
        type=_date,
        default=date.today(),
        metavar="DATE",
        help="the first serving of a road in stages",
    )
    plan.add_argument("--days", type=_days, default=7, help="days from one stage to the next")
    plan.add_argument("--salt-school", choices=sorted(SALT_SCHOOLS))
    plan.add_argument("--lock", action="append", default=[], help="a line that stays, by its name")
    plan.add_argument(
        "--exclude",
        action="append",
        default=[],
        help="an allergen or a food that must not be in it",
    )
    plan.add_argument("--max-changes", type=int, default=3)
    plan.add_argument(
        "--new-allergens",
        action="store_true",
        help="what comes in may bring allergens that are new",
    )
    plan.add_argument(
        "--most-steps",
        type=float,
        default=2.0,
        help="noticeable steps that any taste may go, from memory",
    )
    plan.add_argument(
        "--chance", type=float, default=0.8, help="probability with which each target must be met"
    )
    plan.add_argument("--seconds", type=float, default=20.0, help="how long to look at most")
    plan.add_argument("--json", action="store_true")
    plan.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)
    plan.set_defaults(run=_plan_command)
