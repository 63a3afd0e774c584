"""Proposed dishes as the screen shows them: a bar of roles, lines with what each is there for,
figures and tastes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.catalogue.formula import Formula, Role
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.compose.proposal import Part, Proposal, Standing, said_of
from fresh_ladle.core.flavor.parameters import BY_ID as AXES
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Target, target_status
from fresh_ladle.core.nutrients.wording import nutrient_amount, range_text, status_text
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.recipes.document import to_document
from fresh_ladle.web.places.compose.role_bar import Piece, role_bar
from fresh_ladle.web.shared.drawings.tilt import gauges
from fresh_ladle.web.shared.figure_view import FigureView
from fresh_ladle.web.shared.target_status import TONES

_COLORS = {
    "base": "leek", "leaf": "leek", "herb": "leek", "fresh": "leek", "vegetable": "leek",
    "crisp": "leek",
    "stretch": "leek", "fat": "lemon", "rich": "lemon", "nut": "lemon", "cheese": "lemon",
    "binder": "lemon",
    "crunch": "lemon", "acid": "beet", "hot": "beet", "salt": "beet", "accent": "beet",
    "juicy": "beet",
    "aromatic": "clay", "spice": "clay", "sweet": "clay", "zest": "clay", "emulsifier": "clay",
    "dried-fruit": "clay",
    "protein": "clay", "savory": "clay",
}  # fmt: skip
"""Which color of the kitchen a role wears; the rest is rim."""


@dataclass(frozen=True, slots=True)
class PartView:
    """One line of a proposal."""

    text: str
    role: str
    color: str
    share: str
    bought: bool
    today: bool


@dataclass(frozen=True, slots=True)
class ProposalView:
    """One proposal whole. `document` is the recipe as it is kept, so that it can be taken after a
    restart as well."""

    number: int
    name: str
    title: str
    why: str
    summary: str
    bar: Markup
    parts: list[PartView]
    figures: list[FigureView]
    tones: list[str]
    tastes: Markup
    said: list[str]
    missed: list[str]
    buy: tuple[str, ...]
    cost: str
    method: tuple[str, ...]
    holds: bool
    cautions: list[str]
    contains: str
    document: str


@dataclass(frozen=True, slots=True)
class RoleField:
    """A role of the kind as a field to put foods on."""

    id: str
    name: str
    needed: bool
    share: str
    usual: str
    typed: str


def proposal_view(proposal: Proposal, number: int, chance: float) -> ProposalView:
    totals = proposal.after.totals
    whole = sum(p.grams for p in proposal.parts) or 1.0
    served = proposal.recipe.servings
    return ProposalView(
        number,
        proposal.name,
        proposal.recipe.title,
        proposal.why,
        f"{served:g} {'serving' if served == 1 else 'servings'} of {totals.serving_grams:.0f} g",
        _bar(proposal, whole),
        [
            _part(p, text, whole)
            for p, text in zip(proposal.parts, (x.text for x in proposal.recipe.lines), strict=True)
        ],
        [_figure(proposal, nutrient) for nutrient in HEADLINE],
        [_tone(proposal, nutrient) for nutrient in HEADLINE],
        _tastes(proposal),
        said_of(proposal),
        _missed(proposal, chance),
        proposal.buy,
        f"{proposal.cost:.2f} a serving" if proposal.cost is not None else "",
        proposal.recipe.method,
        proposal.holds(chance),
        [c.caution.text for c in proposal.after.cautions],
        listed([a.name for a in proposal.after.allergens]),
        to_document(proposal.recipe),
    )


def _bar(proposal: Proposal, whole: float) -> Markup:
    pieces = []
    for role, grams in sorted(proposal.role_grams(), key=lambda pair: -pair[1]):
        foods = listed([p.option.stock.named for p in proposal.parts if p.role.id == role.id])
        pieces.append(
            Piece(
                role_name(role),
                grams / whole,
                color_of(role),
                f"{role_name(role)}: {foods}, {100 * grams / whole:.0f}%",
            )
        )
    told = ", ".join(p.title for p in pieces)
    return role_bar(pieces, f"What it is made of, by weight. {told}")


def _part(part: Part, text: str, whole: float) -> PartView:
    share = 100 * part.grams / whole
    return PartView(
        text,
        role_name(part.role),
        color_of(part.role),
        f"{share:.0f}%" if share >= 1 else f"{share:.1f}%",
        part.bought,
        part.option.stock.today,
    )


def _figure(proposal: Proposal, nutrient: str) -> FigureView:
    figure = proposal.after.totals.serving[nutrient]
    status = _status_words(proposal, nutrient)
    value = f"{nutrient_amount(nutrient, figure.value)} {BY_ID[nutrient].unit}"
    return FigureView(BY_ID[nutrient].name, value, range_text(nutrient, figure), status)


def _status_words(proposal: Proposal, nutrient: str) -> str:
    said = [
        status_text(target_status(proposal.after.figure_for(t), t))
        for t in proposal.meets
        if t.nutrient == nutrient
    ]
    return ", ".join(said)


def _tone(proposal: Proposal, nutrient: str) -> str:
    verdicts = [
        target_status(proposal.after.figure_for(t), t).verdict
        for t in proposal.meets
        if t.nutrient == nutrient
    ]
    return TONES[verdicts[0]] if verdicts else "free"


def _missed(proposal: Proposal, chance: float) -> list[str]:
    """Targets of other figures than the five, and per 100 g, that are not met, in words."""
    return [
        f"{BY_ID[t.nutrient].name}: {status_text(target_status(proposal.after.figure_for(t), t))}"
        for t, p in proposal.meets.items()
        if p < chance and t.nutrient not in HEADLINE
    ]


def _tastes(proposal: Proposal) -> Markup:
    marks, told = [], []
    for axis, standing in proposal.standings.items():
        name = AXES[axis].name
        marks.append((name, _place(standing), standing.inside))
        where = standing.window.side_of(standing.value)
        told.append(f"{name} {'inside' if where == 'inside' else 'too ' + where}")
    return gauges(
        marks, f"Where each taste lies in what such dishes are liked for: {', '.join(told)}"
    )


def _place(standing: Standing) -> float:
    """-1 at the low end of the window, 1 at the high end, 0 half as many steps from both."""
    low, high = standing.ends
    return 2 * (standing.steps - low) / (high - low) - 1 if high > low else 0.0


def color_of(role: Role) -> str:
    return _COLORS.get(role.id, "rim")


def role_name(role: Role) -> str:
    return role.id.replace("-", " ")


def role_fields(formula: Formula, typed: dict[str, str], knowledge: Knowledge) -> list[RoleField]:
    """The roles of a kind, those that are needed first in their order."""
    found = []
    for role in formula.roles:
        usual = [knowledge.pantry[key].kitchen_name for key in (role.usual or role.fits)[:3]]
        share = f"{role.low:g} to {role.high:g}%"
        found.append(
            RoleField(
                role.id,
                role_name(role),
                role.needed,
                share,
                ", ".join(usual),
                typed.get(role.id, ""),
            )
        )
    return sorted(found, key=lambda f: not f.needed)


def unmet_words(proposals: Sequence[Proposal], targets: Sequence[Target]) -> str:
    """Said where nothing holds: which of windows and targets pull apart."""
    out = any(not p.in_window() for p in proposals)
    missed = any(not p.meets_all(0.8) for p in proposals) if targets else False
    if out and missed:
        return (
            "No dish was found that keeps every taste in its window and meets every target; these"
            " come nearest."
        )
    if missed:
        return "No dish was found that meets every target; this comes nearest."
    return "No dish was found with every taste in its window; this comes nearest."
