"""What the core makes of the demo, of some odd recipes and of the held-out lines, as one document.

`./ladle pin` writes it anew. A change that was meant to move nothing leaves it as it is; of any
other, the difference in `pinned.json` shows dish by dish what it moves, to be read before it is
committed."""

from __future__ import annotations

import json
import sys
from dataclasses import replace
from datetime import date
from itertools import product
from pathlib import Path
from typing import Any

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.roles import roles_of
from fresh_ladle.core.catalogue.school import SCHOOLS
from fresh_ladle.core.flavor.drift import drift_sentence
from fresh_ladle.core.flavor.parameters import Setting
from fresh_ladle.core.nutrients.declaration import Regime, declared_figures
from fresh_ladle.core.nutrients.energy import energy_disagreement
from fresh_ladle.core.nutrients.targets import Basis, Side, Target, target_status
from fresh_ladle.core.page.recipe_text import RecipeReading, read_recipe
from fresh_ladle.core.plans.moves import moves_for
from fresh_ladle.core.plans.request import PlanRequest
from fresh_ladle.core.plans.sums import Bowl
from fresh_ladle.core.recipes.recipe import Recipe
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.swaps.goals import goals_of, swaps_to_goal
from fresh_ladle.core.swaps.gradual_reduction import gradual_reduction
from fresh_ladle.core.swaps.pitfalls import pitfalls_of_recipe
from fresh_ladle.core.swaps.repairs import repairs_for
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import (
    drift_between,
    drift_ranges,
    imbalances_of,
    windows_in_steps,
)
from fresh_ladle.core.whole.questions import questions, watched_figures
from fresh_ladle.data.load import load_knowledge
from fresh_ladle.data.tables import toml_of

PINNED = Path(__file__).with_name("pinned.json")
LINES = Path(__file__).parent.parent / "lines"
ODD = (
    ("vinaigrette", "Thin oil\nServes 3\n6 Tbsp canola oil\n1 Tbsp lemon juice"),
    (
        "legume-dip",
        (
            "Cellar dip\n2 cans kidney beans, drained\n1/2-1 cup water as needed\nsalt to taste\n2"
            " Tbsp sesame oil"
        ),
    ),
    (
        "leafy-salad",
        (
            "Bowl of leaves\nServes 2\n1 head romaine\na handful of walnuts\n3 radishes, sliced\n1"
            " lemon, juiced"
        ),
    ),
    (
        "grain-salad",
        (
            "Office lunch\nServes 4\n250 g cooked freekeh\n100 g soft goat cheese\n2 Tbsp capers,"
            " rinsed\n1 tsp sea salt"
        ),
    ),
    (
        "slaw",
        (
            "Two-cabbage slaw\nServes 8\n1/2 small red cabbage, shredded\n1 kg white cabbage\n150"
            " ml cream\n2 Tbsp sugar"
        ),
    ),
    (
        "creamy-dressing",
        (
            "Cupboard dressing\nServes 6\n200 ml buttermilk\n1 tsp garlic powder\n1 tsp onion"
            " salt\n2 tsp honey"
        ),
    ),
)
LIMITS = (
    Target("sodium_mg", Side.AT_MOST, 140),
    Target("fat_g", Side.AT_MOST, 3),
    Target("sugars_g", Side.AT_MOST, 3),
)
BY_EYE = (
    *(
        "pinch",
        "dash",
        "drizzle",
        "splash",
        "squeeze",
        "dollop",
        "drop",
        "scoop",
        "spoonful",
        "handful",
        "squirt",
    ),
    *("glug", "lump", "sprinkling", "scattering", "bit", "little", "lot", "sprig", "bunch", "leaf"),
    *("dusting", "shaving", "spray", "good handful", "scant handful", "small drizzle"),
)
POURED = (
    "olive oil",
    "soy sauce",
    "honey",
    "lemon juice",
    "ground cumin",
    "salt",
    "parsley",
    "grated parmesan",
)
POURED += ("sunflower seeds", "raisins", "ricotta", "rolled oats")
GOALS_SHOWN, OPTIONS_STEP, READINGS_SHOWN = 6, 7, 6


def brief(value: float) -> float:
    """Four digits: enough to see a change, too few to see the last bits of a sum."""
    return float(f"{value:.4g}")


def recipes(reader: Reader) -> list[RecipeReading]:
    demo = toml_of("demo.toml")
    found = [read_recipe(row["text"], reader, kind=row["kind"]) for row in demo["recipe"]]
    return found + [
        read_recipe(text, reader, region=Region.METRIC, kind=kind) for kind, text in ODD
    ]


def of_recipe(reading: RecipeReading, knowledge: Knowledge) -> dict[str, Any]:
    """Everything worked out from one recipe, and how it tastes with its saltiest line halved."""
    now = appraise(reading.recipe, knowledge)
    return {**_figures(now, knowledge), **_taste(now, knowledge), **_advice(now, knowledge)}


def _figures(now: Appraisal, knowledge: Knowledge) -> dict[str, Any]:
    serving = now.totals.serving.items()
    limits = product(("sodium_mg", "fiber_g"), (0.9, 1.0, 1.2), Side, Basis)
    return {
        "lines": {p.line.text: _line(p) for p in now.portions},
        "figures": {n: [*map(brief, (f.value, f.low, f.high)), len(f.missing)] for n, f in serving},
        "per 100 g": {n: _per_100_g(now, n) for n in ("sodium_mg", "fat_g", "energy_kcal")},
        "served by weight": _served(now, knowledge, serving_grams=50.0),
        "weighed batch": _served(now, knowledge, yield_grams=now.totals.batch_grams.value * 0.9),
        "declared": [
            [f.declared for f in declared_figures(now.totals, regime)] for regime in Regime
        ],
        "weigh": [_weigh(now, n) for n in ("sodium_mg", "energy_kcal")],
        "status": [_status(now, *limit) for limit in limits],
    }


def _taste(now: Appraisal, knowledge: Knowledge) -> dict[str, Any]:
    changed = _changed(now, knowledge)
    drifts = {setting.value: drift_between(changed, now, setting) for setting in Setting}
    return {
        "taste": {
            a: [brief(s.value), brief(now.tasted[a]), len(s.unknown)] for a, s in now.flavor.items()
        },
        "steps": {s: [brief(d.total), *map(brief, d.steps.values())] for s, d in drifts.items()},
        "drift": drift_sentence(drifts["from memory"]),
        "step ranges": {a: [*map(brief, ends)] for a, ends in drift_ranges(changed, now).items()},
        "windows": {
            a: [*map(brief, ends)] for a, ends in windows_in_steps(changed, now, knowledge).items()
        },
        "imbalances": [i.text for i in imbalances_of(now, knowledge)],
        "repairs": [
            [r.repair.id, r.dose, brief(r.effect.drift.total) if r.effect else 0]
            for r in repairs_for(changed, now, knowledge)
        ],
    }


def _advice(now: Appraisal, knowledge: Knowledge) -> dict[str, Any]:
    asked = questions(
        now.portions,
        now.totals,
        watched_figures(now.totals, "sodium_mg"),
        knowledge.pantry,
        knowledge.ambiguities,
    )
    return {
        "allergens": [a.id for a in now.allergens],
        "cautions": [c.caution.id for c in now.cautions],
        "pitfalls": [
            [p.id for p in pitfalls_of_recipe(now, knowledge.pitfalls, school, limits)]
            for school, limits in product((None, *SCHOOLS), ((), LIMITS))
        ],
        "questions": [[q.text, brief(q.stake), [a.label for a in q.answers]] for q in asked],
        "goals": {str(g): _goal(g, now, knowledge) for g in goals_of(now)},
        "options": _options(now, knowledge),
    }


def _weigh(now: Appraisal, nutrient: str) -> list[Any]:
    return [
        [u.line_id, *map(brief, (u.share, u.low_if_weighed, u.high_if_weighed))]
        for u in now.doubts(nutrient)[:4]
    ]


def _line(portion: Any) -> list[Any]:
    """Food, grams as measured, counted and in the bowl, the route, the roles, and how far its
    energy is from its macronutrients."""
    food = portion.food
    weights = [
        [brief(r.value), brief(r.low), brief(r.high)]
        for r in (portion.measured, portion.counted, portion.in_bowl)
    ]
    strange = energy_disagreement(food) if food else None
    return [
        food.key if food else None,
        *weights,
        portion.route,
        brief(portion.line.confidence),
        sorted(roles_of(portion.line, food, "vinaigrette")) if food else [],
        brief(strange.reckoned_kcal) if strange else 0,
        [p.food.key for p in portion.other_readings],
    ]


def _changed(now: Appraisal, knowledge: Knowledge) -> Appraisal:
    """The recipe with its saltiest line at half of its weight, and served colder."""
    salty = max(now.portions, key=lambda p: now.totals.per_line[p.line.id]["sodium_mg"] or 0.0)
    line = replace(salty.line, amount=f"{salty.measured.value / 2:.2f} g")
    return appraise(replace(now.recipe.with_line(line), served_celsius=6.0), knowledge)


def _served(now: Appraisal, knowledge: Knowledge, **size: float) -> list[float]:
    served = appraise(replace(now.recipe, **size), knowledge)  # type: ignore[arg-type]
    figure = served.totals.serving["sodium_mg"]
    return [
        brief(x)
        for x in (
            served.totals.servings,
            figure.value,
            figure.low,
            figure.high,
            served.flavor["salt"].value,
        )
    ]


def _per_100_g(now: Appraisal, nutrient: str) -> list[float]:
    figure = now.figure_for(Target(nutrient, Side.AT_MOST, 0, Basis.HUNDRED_GRAMS))
    return [brief(figure.value), brief(figure.low), brief(figure.high)]


def _status(now: Appraisal, nutrient: str, share: float, side: Side, basis: Basis) -> list[Any]:
    bare = Target(nutrient, side, 0, basis)
    target = replace(bare, limit=now.figure_for(bare).value * share)
    status = target_status(now.figure_for(target), target)
    return [status.verdict.value, brief(status.by), brief(status.probability)]


def _goal(goal: Any, now: Appraisal, knowledge: Knowledge) -> list[Any]:
    found = []
    for made in swaps_to_goal(goal, now, now, knowledge)[:GOALS_SHOWN]:
        effect = made.effect
        moved = [brief(effect.drift.total), brief(effect.change["sodium_mg"])]
        found.append(
            [made.swap.id, made.line.id, *moved, effect.steps[:1], [p.id for p in effect.pitfalls]]
        )
    return found


def _options(now: Appraisal, knowledge: Knowledge) -> list[Any]:
    """What a plan may choose from when sodium is to come down by a third."""
    limit = now.totals.serving["sodium_mg"].value * 0.66
    target = Target("sodium_mg", Side.AT_MOST, limit)
    moves = moves_for(now, PlanRequest((target,)), knowledge, Bowl(now, now, (target,), 0.8))
    lines = [[s.id, brief(s.least), brief(s.most), s.identity] for s in moves.lines]
    told = [
        [
            " ".join(w.id for w in m.ways),
            m.left or "",
            brief(m.cost),
            *(f"{r.text} {p.food.key}" for p, r in m.added),
        ]
        for m in moves.moves
    ]
    return [lines, told[::OPTIONS_STEP]]


def of_line(text: str, reader: Reader) -> list[Any]:
    """What was read of one line: of each food its key, amount, preparations, asides, how sure, and
    what else it could be."""
    found = []
    for reading in reader.read_line(text):
        line, others = reading.line, [c.food for c in reading.alternatives[:READINGS_SHOWN]]
        words = [line.food, line.amount, list(line.preparations), sorted(line.asides)]
        found.append([*words, brief(line.confidence), others, bool(reading.problem)])
    return found


def by_eye(amount: str, reader: Reader, knowledge: Knowledge) -> list[list[float]]:
    """Grams, low and high of each of `POURED` when that is all that is said of it."""
    weighed = []
    for food in POURED:
        line = replace(reader.read_line(f"a {amount} of {food}")[0].line, id="l1")
        portion = portions(
            Recipe("One", (line,), "grain-salad", 4), knowledge.pantry, knowledge.preparations
        )[0]
        weighed.append(
            [brief(w) for w in (portion.counted.value, portion.counted.low, portion.counted.high)]
        )
    return weighed


def document() -> dict[str, Any]:
    knowledge = load_knowledge()
    reader = Reader(knowledge.pantry, knowledge.preparations)
    lines = [
        row.split("\t")[0]
        for path in sorted(LINES.glob("*.tsv"))
        for row in path.read_text(encoding="utf-8").splitlines()
    ]
    lentils = next(r for r in recipes(reader) if r.recipe.title.startswith("Lentil"))
    cut = gradual_reduction(
        appraise(lentils.recipe, knowledge), "l9", 0.4, date(2027, 1, 4), 14, "sodium_mg", knowledge
    )
    return {
        "recipes": {r.recipe.title: of_recipe(r, knowledge) for r in recipes(reader)[::2]},
        "lines": {text: of_line(text, reader) for text in lines},
        "by eye": {amount: by_eye(amount, reader, knowledge) for amount in BY_EYE},
        "cut over dates": [[str(s.on), s.amount, brief(s.figure), brief(s.step)] for s in cut],
    }


def main() -> int:
    PINNED.write_text(json.dumps(document(), ensure_ascii=False, indent=1) + "\n", encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
