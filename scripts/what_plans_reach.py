"""For each demo recipe and school: ordinary requests, met by a plan, or refused with the nearest
and what binds.

Writes docs/what-plans-reach.md. Every plan is worked out again from its steps before it is counted.
"""

from __future__ import annotations

import sys
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.school import SCHOOLS
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Side, Target, target_status
from fresh_ladle.core.page.recipe_text import read_recipe
from fresh_ladle.core.plans.plan import Plan, with_steps
from fresh_ladle.core.plans.refusal import Refusal, refusal_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.search import plans_for
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.whole.school_standing import school_standing
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.data.tables import toml_of

TARGET = Path(__file__).parent.parent / "docs" / "what-plans-reach.md"
HEAD = """# What plans reach

For each recipe of the demo, under any school and under each: sodium down 25% and 40%, fat down 40%, 3 g more fiber,
sodium and fat down 25%; met with a chance of at least 80 in 100, in at most three changes a cook would say, with no
taste, smell or texture beyond two noticeable steps from memory and no serving lighter or heavier by 3%. Where no plan
was found: what would hold in another serving or with more changes, and what binds. Every version is worked out again
from its steps. Made by `python scripts/what_plans_reach.py`; whether the first plan is one that a cook would make is
counted, on these and ten other recipes, by `python scripts/plans_sense.py`.

| school | met | of |
|---|---|---|
"""


def targets(first: Appraisal) -> dict[str, tuple[Target, ...]]:
    serving = first.totals.serving

    def most(nutrient: str, share: float) -> Target:
        return Target(nutrient, Side.AT_MOST, round(share * serving[nutrient].value, 2))

    return {
        "sodium −25%": (most("sodium_mg", 0.75),),
        "sodium −40%": (most("sodium_mg", 0.6),),
        "fat −40%": (most("fat_g", 0.6),),
        "fiber +3 g": (Target("fiber_g", Side.AT_LEAST, round(serving["fiber_g"].value + 3, 1)),),
        "sodium and fat −25%": (most("sodium_mg", 0.75), most("fat_g", 0.75)),
    }


def work(number: int) -> list[tuple[str, bool, str]]:
    """Rows of one recipe: the school, whether it was met, and the row."""
    knowledge = load_knowledge()
    row = toml_of("demo.toml")["recipe"][number]
    recipe = read_recipe(
        row["text"], Reader(knowledge.pantry, knowledge.preparations), kind=row["kind"]
    ).recipe
    first = appraise(recipe, knowledge)
    told = []
    for name, asked in targets(first).items():
        for school in (None, *SCHOOLS):
            under = school.name if school else "any"
            request = PlanRequest(asked, school=school)
            plans, _ = plans_for(first, first, request, knowledge, only_closest=True)
            how = (
                _told(plans[0], first, request)
                if plans
                else _refused(refusal_for(first, first, request, knowledge))
            )
            met = "yes" if plans else "no"
            told.append(
                (under, bool(plans), f"| {recipe.title} | {name} | {under} | {met} | {how} |")
            )
    return told


def _told(plan: Plan, first: Appraisal, request: PlanRequest) -> str:
    after = appraise(with_steps(first.recipe, plan.steps), load_knowledge())
    chance = min(target_status(after.figure_for(t), t).probability for t in request.targets)
    worst = max(map(abs, drift_between(after, first).steps.values()))
    assert abs(after.totals.serving_grams / first.totals.serving_grams - 1) <= 0.031, plan.name
    assert chance >= request.chance, (plan.name, chance)
    assert worst <= request.most_steps + 0.021, (plan.name, worst)
    assert plan.changes <= request.max_changes
    assert request.school is None or not school_standing(after, request.school).against
    return (
        f"{plan.changes} changes, largest step {worst:.1f}, met {chance * 100:.0f} in 100:"
        f" {plan.why} {' / '.join(s.text for s in plan.steps)}"
    )


def _refused(told: Refusal) -> str:
    instead = "".join(f" {plan.name}: {plan.why}" for plan in told.otherwise)
    said = " ".join(c.text for c in told.conflicts) + instead
    if not told.nearest:
        return said
    near = told.nearest[0]
    figures = ", ".join(
        f"{BY_ID[t.nutrient].name.lower()} {near.after.figure_for(t).value:.3g}"
        f" {BY_ID[t.nutrient].unit}"
        for t in near.meets
    )
    return f"{said} Nearest ({figures}): {' / '.join(s.text for s in near.steps)}"


def main() -> int:
    count = len(toml_of("demo.toml")["recipe"])
    with ProcessPoolExecutor() as pool:
        told = [row for rows in pool.map(work, range(count)) for row in rows]
    under = ("any", *(s.name for s in SCHOOLS))
    sums = [
        f"| {s} | {sum(m for u, m, _ in told if u == s)} | {sum(u == s for u, _, _ in told)} |"
        for s in under
    ]
    rows = [
        "",
        "| recipe | target | school | met | how, or why not |",
        "|---|---|---|---|---|",
        *(r for _, _, r in told),
    ]
    TARGET.write_text(HEAD + "\n".join([*sums, *rows]) + "\n", encoding="utf-8")
    print(f"{sum(met for _, met, _ in told)} of {len(told)} met; see {TARGET}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
