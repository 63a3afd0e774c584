"""Plans, proposals and ratios as plain dictionaries: the shape the command line prints and the
screens agree with."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from fresh_ladle.commands.report import figure_values
from fresh_ladle.core.compose.compose import Composition
from fresh_ladle.core.compose.house import House
from fresh_ladle.core.compose.proposal import Proposal, said_of
from fresh_ladle.core.compose.ratio import Ratio, how_far
from fresh_ladle.core.plans.parsing import typed_target
from fresh_ladle.core.plans.plan import Plan
from fresh_ladle.core.plans.refusal import Refusal


def plan_report(plan: Plan) -> dict[str, Any]:
    """One plan: what to do, what a serving then holds, and how it tastes against the original."""
    return {
        "name": plan.name,
        "why": plan.why,
        "steps": [{"text": s.text, "reason": s.reason, "when": s.when} for s in plan.steps],
        "changes": plan.changes,
        "serving_grams": plan.after.totals.serving_grams,
        "figures": {
            nutrient: figure_values(figure)
            for nutrient, figure in plan.after.totals.serving.items()
        },
        "meets": {typed_target(t): p for t, p in plan.meets.items()},
        "drift": {
            **plan.drift.steps,
            "aroma_shift": plan.drift.aroma_shift,
            "total": plan.drift.total,
        },
        "texture": dict(plan.drift.texture),
        "lines": _lines_after(plan),
        "brings": [a.said for a in plan.brings],
        "cautions": [{"id": c.caution.id, "text": c.caution.text} for c in plan.cautions],
        "mind": [t.text for t in plan.pitfalls],
        "stays": list(plan.stays),
    }


def _lines_after(plan: Plan) -> list[str]:
    """The lines as they are after a plan; where only part of a component is used, under their
    headings, as a person would write it down."""
    lines = plan.after.recipe.lines
    told = [x.text if x.text.startswith(x.amount) else f"{x.amount} {x.named}" for x in lines]
    used = {s.component: s.share for s in plan.steps if s.component}
    if not used:
        return told
    found: list[str] = []
    for component in plan.after.recipe.components:
        found += [f"{component}:"] if component else []
        found += [
            text for text, line in zip(told, lines, strict=True) if line.component == component
        ]
    shares = {0.75: "3/4", 0.5: "1/2"}
    return [
        *found,
        *(f"use {shares.get(share, '2/3')} of the {c.lower()}" for c, share in used.items()),
    ]


def plans_report(
    plans: Sequence[Plan], told: Refusal | None, stopped_early: bool, first: date, days: int
) -> dict[str, Any]:
    """Plans, or how near it comes, why not nearer, what would make room, and a road in stages from
    a date on."""
    return {
        "plans": [plan_report(plan) for plan in plans],
        "otherwise": [plan_report(plan) for plan in (told.otherwise if told else ())],
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
            {
                "change": r.change,
                "value": r.value,
                "text": r.text,
                "binds": r.binds,
                "plan": plan_report(r.plan),
            }
            for r in (told.relaxations if told else ())
        ],
        "stopped_early": stopped_early,
    }


def proposal_report(proposal: Proposal, chance: float) -> dict[str, Any]:
    """One composed dish: its lines with their roles, where it stands in each window, what it asks
    for."""
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
        "figures": {
            nutrient: figure_values(figure)
            for nutrient, figure in proposal.after.totals.serving.items()
        },
        "meets": {typed_target(t): p for t, p in proposal.meets.items()},
        "windows": {
            axis: {
                "value": s.value,
                "low": s.window.low,
                "high": s.window.high,
                "steps_from_middle": s.steps,
            }
            for axis, s in proposal.standings.items()
        },
        "missing": [role.id for role in proposal.missing],
        "buy": list(proposal.buy),
        "said": said_of(proposal),
        "cost": proposal.cost,
        "holds": proposal.holds(chance),
    }


def composition_report(found: Composition, house: House) -> dict[str, Any]:
    """Proposals, or the nearest there are and what would do; and what of the house was not
    understood."""
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
    """Every point of a ratio with its lines, figures and steps of taste from the recipe as it
    stands."""
    return {
        "first": found.first.name,
        "second": found.second.name if found.second else None,
        "now": found.now,
        "points": [
            {
                "share": p.share,
                "lines": [line.text for line in p.recipe.lines],
                "figures": {
                    nutrient: figure_values(figure)
                    for nutrient, figure in p.after.totals.serving.items()
                },
                "steps": {**p.steps.steps, "total": p.steps.total},
                "meets": {typed_target(t): chance for t, chance in p.meets.items()},
            }
            for p in found.points
        ],
        "stretches": [list(stretch) for stretch in found.stretches(chance)],
        "text": how_far(found, chance),
    }
