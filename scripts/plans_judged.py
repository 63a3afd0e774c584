"""The first plan for each of forty requests (`tests/plans/forty.toml`), beside the plan a trained
cook wrote first.

Prints a row for each: the cook's plan, the first plan, what a serving weighs and how far taste
goes."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from functools import lru_cache
from pathlib import Path

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.nutrients.targets import Side, Target
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import otherwise, plans_for
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.load import load_knowledge, load_reader

FORTY = Path(__file__).parent.parent / "tests" / "plans" / "forty.toml"
FIGURES = {
    "sodium": "sodium_mg",
    "fat": "fat_g",
    "energy": "energy_kcal",
    "sugar": "sugars_g",
    "fiber": "fiber_g",
}


def asked_for(words: str, now: Appraisal) -> Target:
    """ "fat −40%" or "fiber +2 g" of a serving, as a target."""
    name, amount = words.split(" ", 1)
    nutrient = FIGURES[name]
    value = now.totals.serving[nutrient].value
    if amount.startswith("+"):
        return Target(nutrient, Side.AT_LEAST, round(value + float(amount[1:-2]), 1))
    return Target(nutrient, Side.AT_MOST, round(value * (1 - float(amount[1:-1]) / 100), 2))


@lru_cache(maxsize=1)
def _knowledge() -> Knowledge:
    return load_knowledge()


def first_plans(number: int) -> list[str]:
    """The rows of one recipe of the file."""
    row = tomllib.loads(FORTY.read_text(encoding="utf-8"))["recipe"][number]
    knowledge = _knowledge()
    now = appraise(read_recipe(row["text"], load_reader()).recipe, knowledge)
    return [
        f"| {now.recipe.title} | {' | '.join(_cells(now, words, by_hand, knowledge))} |"
        for words, by_hand in row["requests"]
    ]


def _cells(now: Appraisal, words: str, by_hand: str, knowledge: Knowledge) -> Iterator[str]:
    yield words
    yield by_hand
    plans, search = plans_for(
        now, now, PlanRequest((asked_for(words, now),)), knowledge, only_closest=True
    )
    plans = plans or otherwise(search)
    if not plans:
        yield "none"
        return
    plan = plans[0]
    yield f"**{plan.name}**: {'; '.join(step.text for step in plan.steps)}"
    yield f"{plan.after.totals.serving_grams / now.totals.serving_grams - 1:+.0%}"
    yield f"{plan.most_steps:.1f}"


def main() -> None:
    """Prints the table."""
    recipes = tomllib.loads(FORTY.read_text(encoding="utf-8"))["recipe"]
    print("| recipe | asked | by hand | first plan | weight | steps |\n|---|---|---|---|---|---|")
    with ProcessPoolExecutor() as pool:
        for rows in pool.map(first_plans, range(len(recipes))):
            print("\n".join(rows), flush=True)


if __name__ == "__main__":
    main()
