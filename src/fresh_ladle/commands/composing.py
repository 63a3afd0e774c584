"""`compose` and `ratio`: a dish from what is in the house, and two lines held together."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from fresh_ladle.commands.plan_report import composition_report, ratio_report
from fresh_ladle.commands.report import line_reports
from fresh_ladle.commands.shared import (
    BadUsage,
    Commands,
    complain_of,
    positive,
    print_json,
    read,
    text_of,
)
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.compose.compose import compose
from fresh_ladle.core.compose.house import read_house
from fresh_ladle.core.compose.proposal import said_of
from fresh_ladle.core.compose.ratio import how_far, ratio, side_called
from fresh_ladle.core.compose.request import ComposeRequest
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.plans.parsing import exclusion_of, target_of, typed_target
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.whole.appraisal import appraise
from fresh_ladle.data.load import load_knowledge


def _compose_command(args: argparse.Namespace) -> int:
    """Dishes of a kind from what is in the house, each taste in its window and each target met."""
    knowledge = load_knowledge()
    reader = Reader(knowledge.pantry, knowledge.preparations)
    try:
        house = read_house(text_of(args.have), reader, Region(args.region))
        request = ComposeRequest(
            args.kind,
            args.servings,
            tuple(target_of(t) for t in args.target),
            SCHOOLS[args.school] if args.school else None,
            frozenset[str]().union(*(exclusion_of(e, knowledge.pantry) for e in args.exclude)),
            args.chance,
            args.buy,
            args.serving_grams,
            region=Region(args.region),
        )
        found = compose(request, house, knowledge)
    except Refused as error:
        raise BadUsage(str(error)) from None
    for text, guess in house.unread:
        print(f"not understood: {text!r}{f'; perhaps {guess}' if guess else ''}", file=sys.stderr)
    if args.json:
        print_json(composition_report(found, house))
        return 0 if found.proposals else 1
    if not found.proposals:
        print("Nothing was found that is all that was asked.", file=sys.stderr)
    for proposal in (
        *found.proposals,
        *found.nearest,
        *((found.would_do,) if found.would_do else ()),
    ):
        buy = f"; to buy: {', '.join(proposal.buy)}" if proposal.buy else ""
        print(
            f"{proposal.name}: {proposal.recipe.title}, {proposal.recipe.servings:g} servings{buy}"
        )
        for line, part in zip(proposal.recipe.lines, proposal.parts, strict=True):
            print(f"  {line.text}  [{part.role.id}]")
        for target, likely in proposal.meets.items():
            figure = proposal.after.figure_for(target)
            print(
                f"  {typed_target(target)}: {figure.value:.0f}, met with a chance of"
                f" {likely * 100:.0f}%"
            )
        for sentence in said_of(proposal):
            print(f"  {sentence}")
    return 0 if found.proposals else 1


def _ratio_command(args: argparse.Namespace) -> int:
    """Two lines held together, or one alone, a kitchen step at a time."""
    reading, knowledge = read(args), load_knowledge()
    complaints = complain_of(line_reports(reading, knowledge))
    now = appraise(reading.recipe, knowledge)
    reader = Reader(knowledge.pantry, knowledge.preparations)
    if len(args.lines) > 2:
        raise BadUsage("a ratio is of two lines, or one alone: put each name in quotes")
    try:
        first, *rest = (side_called(name, now, reader) for name in args.lines)
        found = ratio(
            now, first, rest[0] if rest else None, knowledge, [target_of(t) for t in args.target]
        )
    except Refused as error:
        raise BadUsage(str(error)) from None
    if args.json:
        print_json(ratio_report(found, args.chance))
        return complaints
    for point in found.points:
        figures = point.after.totals.serving
        told = ", ".join(
            f"{figures[n].value:.{BY_ID[n].decimals}f} {BY_ID[n].unit}" for n in HEADLINE
        )
        print(
            f"{'→' if point.now else ' '} {point.share * 100:3.0f}%  {told} "
            f" {point.steps.total:.1f} steps of taste"
        )
        print(f"        {'; '.join(point.said) or 'as it stands'}")
    print(how_far(found, args.chance))
    return complaints


def add_composing(commands: Commands) -> None:
    compose_command = commands.add_parser("compose", help="a dish from what is in the house")
    compose_command.add_argument("kind", choices=sorted(KINDS))
    compose_command.add_argument(
        "--have", type=Path, required=True,
        help='what there is, such as "2 leeks, 1 tin white beans, no lemon"; - for'
        " standard input"
    )  # fmt: skip
    compose_command.add_argument("--servings", type=positive, default=4.0)
    compose_command.add_argument(
        "--serving-grams", type=positive, help="what a serving should weigh"
    )
    compose_command.add_argument(
        "--target", action="append", default=[], help="such as sodium_mg<=140"
    )
    compose_command.add_argument("--school", choices=sorted(SCHOOLS))
    compose_command.add_argument("--exclude", action="append", default=[])
    compose_command.add_argument(
        "--buy", type=int, default=2, help="how many things may be asked for besides"
    )
    compose_command.set_defaults(run=_compose_command)
    walk = commands.add_parser(
        "ratio", help="two lines held together, or one alone, a kitchen step at a time"
    )
    walk.add_argument("file", type=Path)
    walk.add_argument(
        "--lines",
        nargs="+",
        required=True,
        help="one or two lines, components or foods by their names",
    )
    walk.add_argument("--servings", type=positive)
    walk.add_argument("--kind", choices=sorted(KINDS))
    walk.add_argument("--target", action="append", default=[])
    walk.set_defaults(run=_ratio_command)
    for command in (compose_command, walk):
        command.add_argument("--chance", type=float, default=0.8)
        command.add_argument("--json", action="store_true")
        command.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)
