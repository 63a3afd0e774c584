"""`exercise`: a question for the eye or the judgement, with its answer and how it comes about."""

from __future__ import annotations

import argparse
from pathlib import Path

from fresh_ladle.commands.shared import Commands, NotUnderstood, print_json, text_of
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.practice.exercise import NoExercise
from fresh_ladle.core.practice.ground import Ground
from fresh_ladle.core.practice.making import KINDS, exercise
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.demo_recipes import demo_recipes
from fresh_ladle.data.load import load_knowledge, load_reader


def _exercise_command(args: argparse.Namespace) -> int:
    try:
        made = exercise(args.kind, args.seed, Ground(load_knowledge(), _dishes(args.file)))
    except NoExercise as error:
        raise NotUnderstood(str(error)) from None
    if args.json:
        answer: dict[str, object] = {
            "value": made.answer.value,
            "low": made.answer.low,
            "high": made.answer.high,
        }
        if made.choices:
            answer["choice"] = made.choices[made.right]
        print_json(
            {
                "question": made.question,
                "unit": made.unit,
                "choices": list(made.choices),
                "answer": answer,
                "working": list(made.working),
            }
        )
        return 0
    print(made.question)
    for choice in made.choices:
        print(f"  {choice}")
    right = made.choices[made.right] if made.choices else f"{made.answer.value:,.4g} {made.unit}"
    print(f"Answer: {right}")
    for line in made.working:
        print(f"  {line}")
    return 0


def _dishes(files: list[Path]) -> list[Appraisal]:
    """The recipes of the files worked out, or those of the demo."""
    knowledge, texts = load_knowledge(), [(text_of(file), None) for file in files] or demo_recipes()
    try:
        return [
            appraise(read_recipe(text, load_reader(), kind=kind).recipe, knowledge)
            for text, kind in texts
        ]
    except Refused as error:
        raise NotUnderstood(str(error)) from None


def add_practice(commands: Commands) -> None:
    command = commands.add_parser(
        "exercise", help="a question for the eye or the judgement, with its answer"
    )
    command.add_argument(
        "kind",
        choices=list(KINDS),
        help="; ".join(f"{kind}: {about}" for kind, (about, _) in KINDS.items()),
    )
    command.add_argument("--seed", type=int, default=1, help="the same for the same number")
    command.add_argument(
        "--file",
        type=Path,
        action="append",
        default=[],
        help="recipes to ask about, else the demo's",
    )
    command.add_argument("--json", action="store_true")
    command.set_defaults(run=_exercise_command)
