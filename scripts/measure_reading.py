"""Measures the reader on lines it was not tuned for: right food, gram range that holds the weighed
value, false certainty."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from fresh_ladle.core.amounts.bowl import Portion, portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.nutrients.totals import line_figures
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.data.load import load_knowledge

FOLDER = Path(__file__).parent.parent / "tests" / "lines"


def measure(path: Path, reader: Reader, knowledge: Knowledge) -> tuple[float, float, int]:
    """Share of right foods, share of ranges that hold the weighed value, wrong readings above 0.9;
    misses are printed."""
    total = right = weighed = inside = overconfident = 0
    for row in path.read_text(encoding="utf-8").splitlines():
        text, foods, grams = row.split("\t")
        reading = reader.read_line(text)[0]
        line = reading.line
        total += 1
        good = line.food in foods.split(";")
        right += good
        if not good:
            print(
                f"food    {text!r}: {line.food} ({line.confidence}), wanted {foods}",
                file=sys.stderr,
            )
            overconfident += line.confidence > 0.9
        if grams and line.food:
            recipe = Recipe("line", (replace(line, id="l"),), "vinaigrette", 1)
            found = portions(recipe, knowledge.pantry, knowledge.preparations)[0]
            weighed += 1
            edible = found.counted
            held = found.known and (
                found.measured.low <= float(grams) <= found.measured.high
                or edible.low <= float(grams) <= edible.high
            )
            inside += held
            if not held:
                print(
                    f"grams   {text!r}: {found.measured if found.known else found.problem}, weighed"
                    f" {grams}",
                    file=sys.stderr,
                )
    print(
        f"{path.name}: {right} of {total} foods right ({right / total:.1%}); {inside} of {weighed}"
        f" ranges hold the weighed value ({inside / weighed:.1%}); {overconfident} wrong above 0.9"
    )
    return right / total, inside / weighed, overconfident


@dataclass(frozen=True, slots=True)
class Wanted:
    """A food the bowl should get, by any of several keys, with grams as counted."""

    keys: tuple[str, ...]
    low: float
    high: float


ROOM = {"energy_kcal": 3.0, "sodium_mg": 6.0}
"""What a trace may be off by: bounds of a pinch are narrower than anybody minds."""


def wanted(text: str) -> list[Wanted]:
    """`olive-oil:2-9; salt|sea-salt:1-2` as foods with bounds."""
    found = []
    for part in text.split(";"):
        keys, grams = part.strip().rsplit(":", 1)
        low, high = grams.split("-")
        found.append(Wanted(tuple(keys.split("|")), float(low), float(high)))
    return found


def measure_bowl(path: Path, reader: Reader, knowledge: Knowledge) -> tuple[float, float, int]:
    """Share of lines with the right foods, share whose calories and sodium lie in the bounds of
    what the bowl should get, wrong readings above 0.9; misses are printed."""
    total = right = inside = overconfident = 0
    for row in path.read_text(encoding="utf-8").splitlines():
        if not row or row.startswith("#"):
            continue
        text, _, rest = row.partition(" => ")
        foods = wanted(rest)
        readings = reader.read_line(text)
        lines = tuple(replace(r.line, id=f"l{n}") for n, r in enumerate(readings))
        read = [line.food for line in lines]
        good = len(read) >= len(foods) and all(
            any(key in read for key in food.keys) for food in foods
        )
        good = good and all(any(key in food.keys for food in foods) for key in read)
        # "To coat" needs something to coat: the line stands in a bowl with 400 g of vegetables.
        bowl = Recipe(
            "line", (*lines, Line("bowl", "400 g cucumber", "400 g", "cucumber")), "grain-salad", 4
        )
        portioned = portions(bowl, knowledge.pantry, knowledge.preparations)[:-1]
        held = good and all(_holds(nutrient, foods, portioned, knowledge) for nutrient in ROOM)
        total, right, inside = total + 1, right + good, inside + held
        if not good:
            overconfident += max((line.confidence for line in lines), default=0.0) > 0.9
        if not held:
            got = [(p.line.food, round(p.counted.value, 1), p.line.confidence) for p in portioned]
            print(f"bowl    {text!r}: {got}, wanted {rest}", file=sys.stderr)
    print(
        f"{path.name}: {right} of {total} lines with the right foods ({right / total:.1%});"
        f" {inside} with calories and sodium in bounds ({inside / total:.1%}); {overconfident}"
        " wrong above 0.9"
    )
    return right / total, inside / total, overconfident


def _holds(
    nutrient: str, foods: list[Wanted], portioned: Sequence[Portion], knowledge: Knowledge
) -> bool:
    """Whether the typical figure of what was read lies within what the bounds of the wanted foods
    give."""
    low = high = 0.0
    for food in foods:
        portion = next(p for p in portioned if p.line.food in food.keys)
        per_gram = (knowledge.pantry[portion.line.food or ""].per_100_g[nutrient] or 0.0) / 100
        if (
            "boil" in portion.line.preparations
        ):  # noodles made with salt leave most of it in the water
            per_gram *= portion.factors.get(nutrient, 1.0)
        low, high = low + food.low * per_gram, high + food.high * per_gram
    value = sum(line_figures(p)[nutrient] or 0.0 for p in portioned)
    return low - ROOM[nutrient] <= value <= high + ROOM[nutrient]


def main() -> None:
    knowledge = load_knowledge()
    reader = Reader(knowledge.pantry, knowledge.preparations)
    for path in sorted(FOLDER.glob("*.tsv")):
        measure(path, reader, knowledge)
    for path in sorted(FOLDER.glob("*.txt")):
        measure_bowl(path, reader, knowledge)


if __name__ == "__main__":
    main()
