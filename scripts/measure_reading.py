"""Measures the reader on lines it was not tuned for: right food, gram range that holds the weighed value, false
certainty."""

from __future__ import annotations

import sys
from dataclasses import replace
from pathlib import Path

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.data.load import load_knowledge

FOLDER = Path(__file__).parent.parent / "tests" / "lines"


def measure(path: Path, reader: Reader, knowledge: Knowledge) -> tuple[float, float, int]:
    """Share of right foods, share of ranges that hold the weighed value, wrong readings above 0.9; misses are
    printed."""
    total = right = weighed = inside = overconfident = 0
    for row in path.read_text(encoding="utf-8").splitlines():
        text, foods, grams = row.split("\t")
        reading = reader.read_line(text)[0]
        line = reading.line
        total += 1
        good = line.food in foods.split(";")
        right += good
        if not good:
            print(f"food    {text!r}: {line.food} ({line.confidence}), wanted {foods}", file=sys.stderr)
            overconfident += line.confidence > 0.9
        if grams and line.food:
            recipe = Recipe("line", (replace(line, id="l"),), "vinaigrette", 1)
            found = portions(recipe, knowledge.pantry, knowledge.preparations)[0]
            weighed += 1
            edible = found.counted
            held = found.known and (
                found.measured.low <= float(grams) <= found.measured.high or edible.low <= float(grams) <= edible.high
            )
            inside += held
            if not held:
                print(
                    f"grams   {text!r}: {found.measured if found.known else found.problem}, weighed {grams}",
                    file=sys.stderr,
                )
    print(
        f"{path.name}: {right} of {total} foods right ({right / total:.1%}); {inside} of {weighed} ranges hold the"
        f" weighed value ({inside / weighed:.1%}); {overconfident} wrong above 0.9"
    )
    return right / total, inside / weighed, overconfident


def main() -> None:
    knowledge = load_knowledge()
    reader = Reader(knowledge.pantry, knowledge.preparations)
    for path in sorted(FOLDER.glob("*.tsv")):
        measure(path, reader, knowledge)


if __name__ == "__main__":
    main()
