"""`card`, `claims` and `words`: what leaves the kitchen, and which words may stand on it."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from fresh_ladle.commands.report import line_reports
from fresh_ladle.commands.shared import (
    BadUsage,
    Commands,
    bytes_of,
    complain_of,
    positive,
    print_json,
    read,
)
from fresh_ladle.core.card.content import CardChoices, as_values, card_of, chosen_audiences
from fresh_ladle.core.claims.claims import Claim, claims_of
from fresh_ladle.core.claims.words import marked_words
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.recipes.dishes import BY_ID as KINDS
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.formats.card_sheet import BY_ID as FORMS
from fresh_ladle.formats.card_sheet import card_pdf
from fresh_ladle.formats.dish_picture import card_picture

_HOLDS = {True: "holds", False: "fails", None: "cannot be said"}


def _dishes(args: argparse.Namespace) -> tuple[Appraisal, Appraisal | None, int]:
    """The dish of the command, what it is compared with, and whether a line of either was not
    understood."""
    knowledge = load_knowledge()
    reading = read(args)
    complaints = complain_of(line_reports(reading, knowledge))
    usual = None
    if args.against is not None:
        args.file = args.against
        other = read(args)
        complaints = max(complaints, complain_of(line_reports(other, knowledge)))
        usual = appraise(other.recipe, knowledge)
    return appraise(reading.recipe, knowledge), usual, complaints


def _card_command(args: argparse.Namespace) -> int:
    knowledge = load_knowledge()
    dish, usual, complaints = _dishes(args)
    choices = CardChoices(chosen_audiences(args.audience), Regime(args.rules), note=args.note)
    card = card_of(dish, usual or dish, choices, knowledge)
    sheet = {**as_values(card), "picture": card_picture(card, knowledge.handouts)}
    try:
        args.pdf.write_bytes(card_pdf([sheet], FORMS[args.form]))
    except Refused as error:
        raise BadUsage(str(error)) from None
    except OSError as error:
        raise BadUsage(f"{args.pdf}: {error.strerror or error}") from None
    return complaints


def _claims_command(args: argparse.Namespace) -> int:
    dish, usual, complaints = _dishes(args)
    found = claims_of(dish, Regime(args.rules), usual)
    if args.json:
        print_json([_claim_report(claim) for claim in found])
    else:
        for claim in found:
            print(
                f"{claim.words}: {_HOLDS[claim.holds]};"
                f" {claim.why}{f'; {claim.drags}' if claim.drags else ''}"
            )
    return complaints


def _claim_report(claim: Claim) -> dict[str, Any]:
    at = claim.at
    return {
        "claim": claim.id,
        "holds": claim.holds,
        "why": claim.why,
        "rule": claim.rule,
        "at": (
            None
            if at is None
            else {
                "amount_g": round(at.amount_g, 3),
                "value": round(at.value, 6),
                "limit": round(at.limit, 6),
            }
        ),
        "beside": claim.drags,
    }


def _words_command(args: argparse.Namespace) -> int:
    text = bytes_of(args.file).decode("utf-8-sig", errors="replace")
    found = marked_words(text, load_knowledge().handouts)
    if args.json:
        print_json(
            [{"words": m.words, "at": m.at, "why": m.why, "instead": m.instead} for m in found]
        )
    else:
        for mark in found:
            print(f"{mark.at}: {mark.words!r}: {mark.why} {mark.instead}")
    return 0


def _with_recipe(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", type=Path)
    parser.add_argument("--servings", type=positive)
    parser.add_argument(
        "--kind", choices=sorted(KINDS), help="the kind of dish, else as its title and its bowl say"
    )
    parser.add_argument("--rules", choices=[r.value for r in Regime], default=Regime.US.value)
    parser.add_argument("--against", type=Path, help="the usual recipe it is compared with")
    parser.add_argument("--region", choices=[r.value for r in Region], default=Region.US.value)


def add_handouts(commands: Commands) -> None:
    card = commands.add_parser("card", help="the card of a recipe, as PDF")
    _with_recipe(card)
    card.add_argument("--pdf", type=Path, required=True)
    card.add_argument("--form", choices=list(FORMS), default="letter")
    card.add_argument(
        "--audience", action="append", default=[], help="whom it is for; may be said again"
    )
    card.add_argument("--note", default="", help="words of your own")
    card.set_defaults(run=_card_command)
    claims = commands.add_parser(
        "claims", help="which nutrition claims hold, by the rules of the US, or the EU and UK"
    )
    _with_recipe(claims)
    claims.add_argument("--json", action="store_true")
    claims.set_defaults(run=_claims_command)
    words = commands.add_parser(
        "words", help="words of any text that may not stand on a card, or not without figures"
    )
    words.add_argument("file", type=Path)
    words.add_argument("--json", action="store_true")
    words.set_defaults(run=_words_command)
