"""What the core found, as plain dictionaries: the shape the command line prints and the screens agree with."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.recipe_text import RecipeReading
from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.balance import drift_between
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.compose import Composition
from fresh_ladle.core.compose.house import House
from fresh_ladle.core.compose.proposal import Proposal, said_of
from fresh_ladle.core.compose.ratio import Ratio, how_far
from fresh_ladle.core.flavor.drift import noticed_words
from fresh_ladle.core.flavor.parameters import BY_ID, Setting
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.totals import Figure
from fresh_ladle.core.plans.parsing import typed_target
from fresh_ladle.core.plans.plan import Plan
from fresh_ladle.core.plans.refusal import Refusal
from fresh_ladle.core.ranges import Range


def _range(grams: Range) -> dict[str, float]:
    return {"value": grams.value, "low": grams.low, "high": grams.high}


def _figure(figure: Figure) -> dict[str, Any]:
    return {
        "value": figure.value,
        "low": figure.low,
        "high": figure.high,
        "complete": figure.complete,
        "missing": list(figure.missing),
    }


def reading_report(reading: RecipeReading, knowledge: Knowledge) -> dict[str, Any]:
    """Title and lines as understood, each with grams as measured, confidence and alternatives."""
    weighed = portions(reading.recipe, knowledge.pantry, knowledge.preparations)
    lines = []
    for one, portion in zip(reading.readings, weighed, strict=True):
        labels = [knowledge.preparations.labels[p] for p in one.line.preparations]
        lines.append(
            {
                "text": one.line.text,
                "component": one.line.component,
                "food": one.line.food,
                "food_name": portion.food.name if portion.food else None,
                "grams": _range(portion.measured) if portion.known else None,
                "preparation": labels,
                "confidence": one.line.confidence,
                "alternatives": [{"food": c.food, "food_name": c.name} for c in one.alternatives],
                "understood": one.understood and portion.known,
                "problem": one.problem or portion.problem,
            }
        )
    return {"title": reading.recipe.title, "lines": lines}


def figures_report(appraisal: Appraisal) -> dict[str, Any]:
    """Figures per serving with ranges, lines with their share of the batch, flavor and cautions."""
    totals = appraisal.totals
    return {
        "title": appraisal.recipe.title,
        "servings": totals.servings,
        "serving_grams": totals.serving_grams,
        "figures": {nutrient: _figure(figure) for nutrient, figure in totals.serving.items()},
        "lines": [
            {
                "text": p.line.text,
                "food": p.line.food,
                "grams": _range(p.in_bowl) if p.known else None,
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

    Steps are on concentration in the finished mix, so the size of the batch does not matter; cups in hand.
    """
    change = drift_between(b, a, Setting.SIDE_BY_SIDE)
    figures = {}
    for nutrient in NUTRIENT_IDS:
        first, second = a.totals.serving[nutrient], b.totals.serving[nutrient]
        figures[nutrient] = {"a": _figure(first), "b": _figure(second), "difference": second.value - first.value}
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


def plan_report(plan: Plan) -> dict[str, Any]:
    """One plan: what to do, what a serving then holds, and how it tastes against the original."""
    return {
        "name": plan.name,
        "why": plan.why,
        "steps": [{"text": s.text, "reason": s.reason, "when": s.when} for s in plan.steps],
        "changes": plan.changes,
        "figures": {nutrient: _figure(figure) for nutrient, figure in plan.after.totals.serving.items()},
        "meets": {typed_target(t): p for t, p in plan.meets.items()},
        "drift": {**plan.drift.steps, "aroma_shift": plan.drift.aroma_shift, "total": plan.drift.total},
        "lines": _lines_after(plan),
        "brings": [a.said for a in plan.brings],
        "cautions": [{"id": c.caution.id, "text": c.caution.text} for c in plan.cautions],
        "mind": [t.text for t in plan.pitfalls],
        "stays": list(plan.stays),
    }


def _lines_after(plan: Plan) -> list[str]:
    """The lines as they are after a plan; where only part of a component is used, under their headings, as a person
    would write it down."""
    lines = plan.after.recipe.lines
    told = [x.text if x.text.startswith(x.amount) else f"{x.amount} {x.named}" for x in lines]
    used = {s.component: s.share for s in plan.steps if s.component}
    if not used:
        return told
    found: list[str] = []
    for component in plan.after.recipe.components:
        found += [f"{component}:"] if component else []
        found += [text for text, line in zip(told, lines, strict=True) if line.component == component]
    shares = {0.75: "3/4", 0.5: "1/2"}
    return [*found, *(f"use {shares.get(share, '2/3')} of the {c.lower()}" for c, share in used.items())]


def plans_report(
    plans: Sequence[Plan], told: Refusal | None, stopped_early: bool, first: date, days: int
) -> dict[str, Any]:
    """Plans, or how near it comes, why not nearer, what would make room, and a road in stages from a date on."""
    return {
        "plans": [plan_report(plan) for plan in plans],
        "nearest": [plan_report(plan) for plan in (told.nearest if told else ())],
        "stages": [
            {"date": (first + timedelta(days=days * n)).isoformat(), **plan_report(plan)}
            for n, plan in enumerate(told.stages if told else ())
        ],
        "conflicts": [
            {
                "target": c.target.nutrient if c.target else None,
                "nearest": c.nearest,
                "text": c.text,
                "binds": c.binds,
                "proved": c.proved,
            }
            for c in (told.conflicts if told else ())
        ],
        "relaxations": [
            {"change": r.change, "value": r.value, "text": r.text, "binds": r.binds, "plan": plan_report(r.plan)}
            for r in (told.relaxations if told else ())
        ],
        "stopped_early": stopped_early,
    }


def proposal_report(proposal: Proposal, chance: float) -> dict[str, Any]:
    """One composed dish: its lines with their roles, where it stands in each window, what it asks for."""
    return {
        "name": proposal.name,
        "title": proposal.recipe.title,
        "why": proposal.why,
        "servings": proposal.recipe.servings,
        "lines": [
            {"text": line.text, "role": part.role.id, "grams": part.grams, "food": line.food}
            for line, part in zip(proposal.recipe.lines, proposal.parts, strict=True)
        ],
        "method": list(proposal.recipe.method),
        "figures": {nutrient: _figure(figure) for nutrient, figure in proposal.after.totals.serving.items()},
        "meets": {typed_target(t): p for t, p in proposal.meets.items()},
        "windows": {
            axis: {"value": s.value, "low": s.window.low, "high": s.window.high, "steps_from_middle": s.steps}
            for axis, s in proposal.standings.items()
        },
        "missing": [role.id for role in proposal.missing],
        "buy": list(proposal.buy),
        "said": said_of(proposal),
        "cost": proposal.cost,
        "holds": proposal.holds(chance),
    }


def composition_report(found: Composition, house: House) -> dict[str, Any]:
    """Proposals, or the nearest there are and what would do; and what of the house was not understood."""
    chance = found.request.chance
    return {
        "servings": found.request.servings,
        "proposals": [proposal_report(p, chance) for p in found.proposals],
        "nearest": [proposal_report(p, chance) for p in found.nearest],
        "would_do": proposal_report(found.would_do, chance) if found.would_do else None,
        "open_roles": [role.id for role in found.open_roles],
        "not_understood": [{"text": text, "perhaps": guess} for text, guess in house.unread],
        "without": list(house.without),
    }


def ratio_report(found: Ratio, chance: float) -> dict[str, Any]:
    """Every point of a ratio with its lines, figures and steps of taste from the recipe as it stands."""
    return {
        "first": found.first.name,
        "second": found.second.name if found.second else None,
        "now": found.now,
        "points": [
            {
                "share": p.share,
                "lines": [line.text for line in p.recipe.lines],
                "figures": {nutrient: _figure(figure) for nutrient, figure in p.after.totals.serving.items()},
                "steps": {**p.steps.steps, "total": p.steps.total},
                "meets": {typed_target(t): chance for t, chance in p.meets.items()},
            }
            for p in found.points
        ],
        "stretches": [list(stretch) for stretch in found.stretches(chance)],
        "text": how_far(found, chance),
    }
