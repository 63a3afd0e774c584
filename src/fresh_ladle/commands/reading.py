"""`read`, `figures`, `method` and `compare`: what was understood, what a serving holds, what a
method does, two recipes side by side."""

from __future__ import annotations

import argparse
from pathlib import Path

from fresh_ladle.commands.report import (
    comparison_report,
    figures_report,
    line_reports,
    method_report,
    reading_report,
)
from fresh_ladle.commands.shared import Commands, complain_of, positive, print_json, read
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge


def _read_command(args: argparse.Namespace) -> int:
    reading = read(args)
    report = reading_report(reading, load_knowledge())
    if args.json:
        print_json(report)
    else:
        print(f"{report['title']} ({reading.recipe.kind}, {reading.recipe.servings:g} servings)")
        for line in report["lines"]:
            grams = f"{line['grams']['value']:8.1f} g" if line["grams"] else "       ? g"
            print(
                f"{grams}  {line['food_name'] or 'not understood'}  [{line['text']}] "
                f" {line['confidence']:.2f}"
            )
    return complain_of(report["lines"])


def _figures_command(args: argparse.Namespace) -> int:
    reading, knowledge = read(args), load_knowledge()
    appraisal = appraise(reading.recipe, knowledge)
    if args.json:
        print_json(figures_report(appraisal))
    else:
        totals = appraisal.totals
        print(
            f"{reading.recipe.title}: {totals.servings:g} servings of {totals.serving_grams:.0f} g"
        )
        for nutrient in HEADLINE:
            figure, meta = totals.serving[nutrient], BY_ID[nutrient]
            least = "" if figure.complete else "at least "
            digits = meta.decimals
            print(
                f"  {meta.name:10} {least}{figure.value:.{digits}f} {meta.unit}"
                f" ({figure.low:.{digits}f} to {figure.high:.{digits}f})"
            )
    return complain_of(line_reports(reading, knowledge))


def _method_command(args: argparse.Namespace) -> int:
    """What a method does to food: the work with what it waits for, then what becomes of each
    line."""
    reading, knowledge = read(args), load_knowledge()
    report = method_report(appraise(reading.recipe, knowledge))
    if args.json:
        print_json(report)
        return complain_of(line_reports(reading, knowledge))
    for clause in report["clauses"]:
        number = "" if clause["operation"] is None else f"{clause['operation'] + 1}"
        print(f"{number:>3}  {clause['sort'] if not number else '':10} {clause['text']}")
    for line in report["lines"]:
        ways = [f"{share['value'] * 100:.0f}% {fate}" for fate, share in line["fates"].items()]
        grams = f"{line['in_bowl']['value']:8.1f} g" if line["in_bowl"] else "       ? g"
        print(f"{grams}  {line['text']}{': ' if ways else ''}{', '.join(ways)}")
    return complain_of(line_reports(reading, knowledge))


def _compare_command(args: argparse.Namespace) -> int:
    """Noticeable steps and differences of the second recipe against the first."""
    knowledge, worked = load_knowledge(), []
    problems = 0
    for path in (args.file, args.other):
        reading = read(argparse.Namespace(**{**vars(args), "file": path}))
        problems |= complain_of(line_reports(reading, knowledge))
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


def add_reading(commands: Commands) -> None:
    for name, run in (
        ("read", _read_command),
        ("figures", _figures_command),
        ("method", _method_command),
    ):
        command = commands.add_parser(name)
        command.add_argument(
            "file",
            type=Path,
            help="plain text: a title line, then one ingredient to a line; - for standard input",
        )
        command.add_argument("--json", action="store_true", help="print everything as JSON")
        command.add_argument(
            "--region",
            choices=[r.value for r in Region],
            default="us",
            help="whose cups and spoons",
        )
        if name == "figures":
            command.add_argument(
                "--servings", type=positive, help="how many servings the batch makes"
            )
        command.set_defaults(run=run)
    compare = commands.add_parser(
        "compare", help="two recipes: figures and noticeable steps of taste"
    )
    compare.add_argument("file", type=Path)
    compare.add_argument("other", type=Path)
    compare.add_argument("--json", action="store_true")
    compare.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)
    compare.add_argument("--servings", type=positive)
    compare.set_defaults(run=_compare_command)
