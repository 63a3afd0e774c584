"""What the core found, as plain dictionaries: the shape the command line prints and the screens
agree with."""

from __future__ import annotations

from typing import Any

from fresh_ladle.core.amounts.bowl import Portion, portions
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import noticed_words
from fresh_ladle.core.flavor.parameters import BY_ID, Setting
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.method.process import Process
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.page.recipe_text import RecipeReading
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.whole.questions import questions, watched_figures


def range_values(grams: Range) -> dict[str, float]:
    return {"value": grams.value, "low": grams.low, "high": grams.high}


def figure_values(figure: Figure) -> dict[str, Any]:
    return {
        "value": figure.value,
        "low": figure.low,
        "high": figure.high,
        "complete": figure.complete,
        "missing": list(figure.missing),
    }


def line_reports(reading: RecipeReading, knowledge: Knowledge) -> list[dict[str, Any]]:
    """Each line as understood, with grams as measured, confidence and alternatives."""
    weighed = portions(reading.recipe, knowledge.pantry, knowledge.preparations)
    return [
        {
            "text": one.line.text,
            "component": one.line.component,
            "food": one.line.food,
            "food_name": portion.food.name if portion.food else None,
            "grams": range_values(portion.measured) if portion.known else None,
            "preparation": [knowledge.preparations.labels[p] for p in one.line.preparations],
            "confidence": one.line.confidence,
            "alternatives": [{"food": c.food, "food_name": c.name} for c in one.alternatives],
            "understood": one.understood and portion.known,
            "problem": one.problem or portion.problem,
        }
        for one, portion in zip(reading.readings, weighed, strict=True)
    ]


def reading_report(reading: RecipeReading, knowledge: Knowledge) -> dict[str, Any]:
    """Title, lines as understood with what is asked of each, and the page they were read from, line
    by line."""
    asked = _asked_of(appraise(reading.recipe, knowledge), knowledge)
    lines = zip(line_reports(reading, knowledge), reading.readings, strict=True)
    return {
        "title": reading.recipe.title,
        "lines": [{**line, "asked": asked.get(one.line.id, [])} for line, one in lines],
        "left_out": list(reading.left_out),
        "parts": [component for component in reading.recipe.components if component],
        "method": list(reading.recipe.method),
        "page": [
            {"kind": line.kind.value, "text": line.text, "unsure": line.unsure}
            for line in reading.page
        ],
    }


def method_report(dish: Appraisal) -> dict[str, Any]:
    """A method as it was read: its clauses by sort, its operations with what goes in, what becomes
    of each line, and the order of the work as pairs: the first is over before the second."""
    process, recipe = dish.process, dish.recipe
    named = {line.id: line.named or line.text for line in recipe.lines}
    return {
        "title": recipe.title,
        "clauses": [
            {"text": s.text, "sort": s.sort.value, "step": s.step, "operation": s.operation}
            for s in process.said
        ],
        "operations": [
            {
                "id": o.id,
                "text": o.text,
                "verb": o.verb,
                "kind": o.kind.value,
                "step": o.step,
                "inputs": [
                    {
                        "line": line,
                        "name": named[line],
                        "share": range_values(share),
                        "named": line in o.named,
                    }
                    for line, share in o.lines.items()
                ],
                "minutes": range_values(o.minutes) if o.minutes is not None else None,
                "celsius": o.celsius,
                "sign": o.sign,
                "sure": o.sure,
            }
            for o in process.operations
        ],
        "lines": [
            _outcome_report(p, process) for p in dish.portions if p.line.id in process.outcomes
        ],
        "order": [[before, o.id] for o in process.operations for before in o.after],
        "unused": list(process.unused),
    }


def _outcome_report(portion: Portion, process: Process) -> dict[str, Any]:
    outcome = process.outcomes[portion.line.id]
    return {
        "line": portion.line.id,
        "text": portion.line.text,
        "eaten": range_values(outcome.eaten),
        "fates": {fate.value: range_values(share) for fate, share in outcome.fates.items()},
        "states": [p.label for p in portion.preparations],
        "done": list(outcome.done),
        "in_bowl": range_values(portion.in_bowl) if portion.known else None,
    }


def _asked_of(now: Appraisal, knowledge: Knowledge) -> dict[str, list[dict[str, Any]]]:
    """What is asked of each line, by its id, where the answer moves calories or sodium: each with
    its answers."""
    watched = {
        n: scale
        for n in ("energy_kcal", "sodium_mg")
        for n, scale in watched_figures(now.totals, n).items()
    }
    found: dict[str, list[dict[str, Any]]] = {}
    for q in questions(now.portions, now.totals, watched, knowledge.pantry, knowledge.ambiguities):
        said = {
            "about": q.about,
            "question": q.text,
            "answers": [answer.label for answer in q.answers],
        }
        found.setdefault(q.line_id, []).append(said)
    return found


def figures_report(appraisal: Appraisal) -> dict[str, Any]:
    """Figures per serving with ranges, lines with their share of the batch, flavor and cautions."""
    totals = appraisal.totals
    return {
        "title": appraisal.recipe.title,
        "servings": totals.servings,
        "serving_grams": totals.serving_grams,
        "figures": {nutrient: figure_values(figure) for nutrient, figure in totals.serving.items()},
        "lines": [
            {
                "text": p.line.text,
                "food": p.line.food,
                "grams": range_values(p.in_bowl) if p.known else None,
                "figures": totals.per_line[p.line.id],
            }
            for p in appraisal.portions
        ],
        "flavor": {
            axis: {"stimulus": s.value, "unit": BY_ID[axis].unit, "unknown": list(s.unknown)}
            for axis, s in appraisal.flavor.items()
        },
        "allergens": [a.name for a in appraisal.allergens],
        "may_contain": [a.name for a in appraisal.may_contain],
        "allergens_unchecked": appraisal.allergens_unchecked,
        "cautions": [{"id": c.caution.id, "text": c.caution.text} for c in appraisal.cautions],
    }


def comparison_report(a: Appraisal, b: Appraisal) -> dict[str, Any]:
    """B against A: figures per serving and per 100 g, and taste in noticeable steps.

    Steps are on concentration in the finished mix, so the size of the batch does not matter; cups
    in hand."""
    change = drift_between(b, a, Setting.SIDE_BY_SIDE)
    figures = {}
    for nutrient in NUTRIENT_IDS:
        first, second = a.totals.serving[nutrient], b.totals.serving[nutrient]
        figures[nutrient] = {
            "a": figure_values(first),
            "b": figure_values(second),
            "difference": second.value - first.value,
        }
    per_100_g = {
        n: {"a": x, "b": y, "difference": y - x}
        for n in NUTRIENT_IDS
        for x, y in ((_per_100_g(a, n), _per_100_g(b, n)),)
    }
    return {
        "a": a.recipe.title,
        "b": b.recipe.title,
        "figures": figures,
        "per_100_g": per_100_g,
        "steps": dict(change.steps),
        "aroma_shift": change.aroma_shift,
        "smells": dict(change.smells),
        "total": change.total,
        "words": noticed_words(change) or ["tasters may not notice a difference"],
    }


def _per_100_g(appraisal: Appraisal, nutrient: str) -> float:
    mass = appraisal.totals.batch_grams.value
    return appraisal.totals.batch[nutrient].value / mass * 100 if mass else 0.0
