"""Whether the first plan is one a cook would make: changes, weight of a serving, steps that can go,
allergens, diets.

Four ordinary requests for each recipe of the demo and of ten others. Prints the table, and every
plan with `--all`."""

from __future__ import annotations

import sys
import tomllib
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.nutrients.targets import Side, Target, target_status
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.plans.decision import Lever
from fresh_ladle.core.plans.plan import Plan, with_steps
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import otherwise, plans_for
from fresh_ladle.core.plans.worked_out import felt_between
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.data.load import load_knowledge, load_reader
from fresh_ladle.data.tables import toml_of

TEN = Path(__file__).parent.parent / "tests" / "recipes" / "ten.toml"
WORSE = 0.3
"""Noticeable steps by which taste has to be worse without a change for the change to have earned
its place."""

HELPING = 0.03
"""Share of its weight by which a serving may change."""


def texts() -> list[tuple[str, str | None]]:
    """The recipes: text and kind."""
    demo = toml_of("demo.toml")["recipe"]
    ten = tomllib.loads(TEN.read_text(encoding="utf-8"))["recipe"]
    return [(row["text"], row.get("kind")) for row in (*demo, *ten)]


def requests(first: Appraisal) -> dict[str, tuple[Target, ...]]:
    """What is asked of each: the ordinary wishes of a dietitian."""
    serving = first.totals.serving

    def most(nutrient: str, share: float) -> Target:
        return Target(nutrient, Side.AT_MOST, round(share * serving[nutrient].value, 2))

    more = Target("fiber_g", Side.AT_LEAST, round(serving["fiber_g"].value + 2, 1))
    return {
        "sodium −25%": (most("sodium_mg", 0.75),),
        "fat −40%": (most("fat_g", 0.6),),
        "energy −25%": (most("energy_kcal", 0.75),),
        "fiber +2 g": (more,),
    }


@dataclass(frozen=True)
class Judged:
    """The first plan for one request; `met` False where there is none."""

    title: str
    asked: str
    met: bool
    changes: int = 0
    heavier: float = 0.0
    """Share by which a serving weighs more than before."""
    steps: int = 0
    idle: int = 0
    brings: tuple[str, ...] = ()
    drift: float = 0.0
    most: float = 0.0
    named: bool = False
    """Whether it says by its name that it is another serving, or more changes than were asked
    for."""
    told: str = ""
    keeps_diet: bool = True
    """Whether who could eat it before still can."""


@lru_cache(maxsize=1)
def _knowledge() -> Knowledge:
    return load_knowledge()


def judged(number: int) -> list[Judged]:
    """All requests of one recipe."""
    text, kind = texts()[number]
    knowledge = _knowledge()
    first = appraise(read_recipe(text, load_reader(), kind=kind).recipe, knowledge)
    return [_judged(first, asked, targets, knowledge) for asked, targets in requests(first).items()]


def _judged(
    first: Appraisal, asked: str, targets: tuple[Target, ...], knowledge: Knowledge
) -> Judged:
    request = PlanRequest(targets)
    plans, search = plans_for(first, first, request, knowledge)
    plans = plans or otherwise(search)
    if not plans:
        return Judged(first.recipe.title, asked, met=False)
    plan = plans[0]
    before, after = weight_of_serving(first), weight_of_serving(plan.after)
    return Judged(
        first.recipe.title,
        asked,
        True,
        plan.changes,
        after / before - 1,
        len(plan.steps),
        len(idle_steps(first, plan, request, knowledge)),
        tuple(a.name for a in plan.brings),
        plan.drift.total,
        plan.most_steps,
        plan.lever in (Lever.SMALLER, Lever.LARGER) or plan.name.startswith("Only"),
        " | ".join(f"{p.name}: {' / '.join(s.text for s in p.steps)}" for p in plans),
        _keeps_diet(first, plan, knowledge),
    )


def _keeps_diet(first: Appraisal, plan: Plan, knowledge: Knowledge) -> bool:
    sense = knowledge.sense
    before = sense.diet_of(p.food for p in first.portions if p.food is not None)
    return all(p.food is None or sense.keeps(before, p.food) for p in plan.after.portions)


def weight_of_serving(dish: Appraisal) -> float:
    """Grams in the bowl for each serving."""
    return dish.totals.batch_grams.value / dish.totals.servings


def idle_steps(
    first: Appraisal, plan: Plan, request: PlanRequest, knowledge: Knowledge
) -> list[str]:
    """Steps without which all still holds, the helping too, and taste is not worse by much."""
    found = []
    for step in plan.steps:
        rest = {s.id for s in plan.steps} - {step.id}
        without = appraise(with_steps(first.recipe, plan.steps, rest), knowledge)
        holds = all(
            target_status(without.figure_for(t), t).probability >= request.chance
            for t in request.targets
        )
        light = abs(weight_of_serving(without) / weight_of_serving(first) - 1) > HELPING
        if (
            holds
            and not light
            and felt_between(without, first, knowledge).total <= plan.drift.total + WORSE
        ):
            found.append(step.text)
    return found


def table(found: list[Judged]) -> Iterator[str]:
    """Rows by request and in all."""
    columns = (
        "request, met, under another name, of, over 3 changes, lighter by over 3%, heavier by over"
        " 3%, idle steps"
    )
    yield f"| {' | '.join(columns.split(', '))} | of | brings |"
    yield "|---|---|---|---|---|---|---|---|---|---|"
    for asked in (*dict.fromkeys(one.asked for one in found), "all"):
        rows = [one for one in found if asked in (one.asked, "all")]
        met = [one for one in rows if one.met]
        cells = (
            asked,
            sum(not one.named for one in met),
            sum(one.named for one in met),
            len(rows),
            sum(one.changes > 3 and not one.named for one in met),
            sum(one.heavier < -0.03 and not one.named for one in met),
            sum(one.heavier > 0.03 and not one.named for one in met),
            sum(one.idle for one in met),
            sum(one.steps for one in met),
            sum(bool(one.brings) for one in met),
        )
        yield f"| {' | '.join(map(str, cells))} |"


def main() -> None:
    """Prints the table."""
    with ProcessPoolExecutor() as pool:
        found = [one for rows in pool.map(judged, range(len(texts()))) for one in rows]
    if "--all" in sys.argv:
        for one in found:
            said = (
                f"{one.changes} changes, {one.heavier:+.0%}, {one.idle} idle, {one.drift:.2f},"
                f" brings {one.brings}"
            )
            print(
                "\n    ".join(
                    (
                        f"{one.title} · {one.asked}: {said if one.met else 'none'}",
                        *one.told.split(" | "),
                    )
                )
            )
    print("\n".join(table(found)))
    print("changes:", sorted(Counter(one.changes for one in found if one.met).items()))


if __name__ == "__main__":
    main()
