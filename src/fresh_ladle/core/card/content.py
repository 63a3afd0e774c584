"""A card as plain words, the same on screen, on paper and in a file."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.card.audience import Audience, card_cautions
from fresh_ladle.core.card.facts import MOST_FACTS, StandingFact, standing_facts
from fresh_ladle.core.card.figures import (
    DAY_WORDS,
    SMALL,
    CardFigure,
    against_usual,
    card_figures,
    name_in,
    per_100_g_words,
)
from fresh_ladle.core.card.steps import CardStep, card_steps, kept_back_words, serving_words
from fresh_ladle.core.card.variations import Variation, chosen_variations, variations
from fresh_ladle.core.catalogue.handouts import Handouts
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.cautions.caution import RaisedCaution
from fresh_ladle.core.hold.keeping import Keeping, keeping
from fresh_ladle.core.hold.stated_keeping import (
    Stated,
    longer_than,
    stated_freezing,
    stated_keeping,
)
from fresh_ladle.core.method.process import Process
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.nutrients.wording import counted, display_amount, weight_text
from fresh_ladle.core.plans.servings import helping_words
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.changes import former_names
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import capitalized, listed

MOST_NOTE = 400


@dataclass(frozen=True, slots=True)
class CardChoices:
    """What an educator chose for a card. `variations` are their keys, None for the usual ones;
    `facts` the ids of up to three; `note` words of their own; `cost` what a serving costs, in
    words, empty where no price is known."""

    audiences: frozenset[Audience] = frozenset({Audience.GENERAL})
    regime: Regime = Regime.US
    variations: tuple[str, ...] | None = None
    facts: tuple[str, ...] = ()
    note: str = ""
    practice: str = ""
    weights: str = "grams"
    cost: str = ""


@dataclass(frozen=True, slots=True)
class CardLine:
    """One line of what goes in: the cook's measure, the food with what is done to it, its weight,
    and the color that it has in the picture."""

    amount: str
    name: str
    weight: str
    color: str


@dataclass(frozen=True, slots=True)
class Card:
    """All that may stand on a card. `parts` pair a component with its lines; `layers` pair grams
    with what they are of, for the picture; `left_off` are cautions of which the card says only that
    there is more."""

    title: str
    practice: str
    under: str
    parts: tuple[tuple[str, tuple[CardLine, ...]], ...]
    layers: tuple[Portion, ...]
    kind: str
    steps: tuple[CardStep, ...]
    kept_back: str
    serve: str
    figures: tuple[CardFigure, ...]
    serving: str
    small: str
    per_100_g: str
    against: str
    contains: str
    cautions: tuple[str, ...]
    left_off: tuple[RaisedCaution, ...]
    variations: tuple[Variation, ...]
    offered: tuple[Variation, ...]
    facts: tuple[str, ...]
    offered_facts: tuple[StandingFact, ...]
    keeps: str
    cost: str
    note: str
    foot: str
    missing: tuple[str, ...] = field(default=())


def card_of(dish: Appraisal, usual: Appraisal, choices: CardChoices, knowledge: Knowledge) -> Card:
    """The card of a version; `usual` is the recipe it came from."""
    recipe, totals = dish.recipe, dish.totals
    offered = variations(dish, usual, knowledge)
    shown, rest = card_cautions(dish.cautions, choices.audiences)
    keep = keeping(dish, knowledge.work, bool(choices.audiences - {Audience.GENERAL}))
    facts = standing_facts(
        dish, usual, knowledge.pantry, knowledge.handouts, choices.audiences, choices.regime
    )
    figures = tuple(card_figures(dish, choices.regime))
    serving = f"{'at least ' if dish.problems else ''}{helping_words(dish)}"
    return Card(
        title=recipe.title,
        practice=choices.practice,
        under=(
            f"{capitalized(dishes.BY_ID[recipe.kind].name)}, {_servings_words(totals.servings)} of"
            f" {serving}"
        ),
        parts=_parts(dish, choices.weights, knowledge.handouts),
        layers=dish.portions,
        kind=recipe.kind,
        steps=tuple(card_steps(dish, former_names(usual.recipe, recipe))),
        kept_back=kept_back_words(dish),
        serve=serving_words(dish, knowledge.standings),
        figures=figures,
        serving=serving,
        small=_small_words(dish, choices.regime),
        per_100_g=per_100_g_words(dish, choices.regime),
        against=against_usual(dish, usual, choices.regime) if usual.recipe != recipe else "",
        contains=contains_words(dish),
        cautions=tuple(c.caution.text for c in shown),
        left_off=tuple(rest),
        variations=tuple(chosen_variations(offered, choices.variations)),
        offered=tuple(offered),
        facts=tuple(f.says for f in facts if f.id in choices.facts)[:MOST_FACTS],
        offered_facts=tuple(facts),
        keeps=_keeps_words(keep, dish.process),
        cost=choices.cost,
        note=choices.note,
        foot=(
            "Figures are estimates from food composition tables, rounded as"
            f" {_RULES[choices.regime]} round them; not a food label. A day:"
            f" {DAY_WORDS[choices.regime]}. Local food codes and licensed practice decide."
        ),
        missing=tuple(p.line.text for p in dish.problems),
    )


_RULES = {Regime.US: "US label rules", Regime.EU: "EU and UK label guidance"}


def _servings_words(servings: float) -> str:
    return f"{servings:.3g} serving{'' if servings == 1 else 's'}"


def _parts(
    dish: Appraisal, weights: str, handouts: Handouts
) -> tuple[tuple[str, tuple[CardLine, ...]], ...]:
    found = []
    batches = {
        line.component: display_amount(line.amount)
        for line in dish.recipe.lines
        if line.batch is not None
    }
    for component in dish.recipe.components:
        own = [p for p in dish.portions if p.line.component == component]
        heading = f"{batches[component]} of {component}" if component in batches else component
        found.append((heading, tuple(_card_line(p, weights, handouts) for p in own)))
    return tuple(found)


def _card_line(portion: Portion, weights: str, handouts: Handouts) -> CardLine:
    line = portion.line
    name = line.named or (
        portion.food.kitchen_name
        if portion.food is not None
        else line.text.removeprefix(line.amount).strip()
    )
    how = f", {', '.join(line.remarks)}" if line.remarks else ""
    asides = "" if line.amount else ", ".join(str(aside) for aside in sorted(line.asides))
    weight = (
        f"{'about ' if portion.estimated else ''}{weight_text(portion.measured, weights)}"
        if portion.known
        else ""
    )
    return CardLine(
        display_amount(line.amount) or asides,
        f"{name}{how}",
        weight,
        handouts.color_of(portion.food),
    )


def _small_words(dish: Appraisal, regime: Regime) -> str:
    """The other figures of a serving, in one line; those of which something is missing are left
    out."""
    known = tuple(n for n in SMALL if dish.totals.serving[n].complete)
    said = [
        f"{name_in(f.nutrient, regime).lower()} {f.words}"
        for f in card_figures(dish, regime, known)
    ]
    return f"Also {listed(said)}." if said else ""


def contains_words(dish: Appraisal) -> str:
    """What it contains, what packs may add, and what nobody knows."""
    unchecked = dish.allergens_unchecked
    names = [a.name for a in dish.allergens]
    none = (
        f"none of the listed allergens found in {'the rest' if unchecked else 'what was entered'}"
    )
    said = [f"Contains: {listed(names) if names else none}."]
    if dish.may_contain:
        said.append(f"May contain, read the packs: {listed([a.name for a in dish.may_contain])}.")
    if unchecked:
        said.append(f"Allergens not known, read the pack: {'; '.join(unchecked)}.")
    return " ".join(said)


def _keeps_words(keep: Keeping, process: Process) -> str:
    """How long it keeps, once: by the rule, or shorter where the recipe says so; what it says
    longer is named."""
    kept = (
        "Eat it at the same meal"
        if keep.days == 0
        else f"Keeps {counted(keep.days, 'day')} at 5 °C (41 °F) or below"
    )
    longer = longer_than(stated_keeping(process), keep.days)
    said = (
        f" The recipe says “{longer[0].words.rstrip('.')}”: the shorter counts." if longer else ""
    )
    return (
        f"{kept} ({keep.decided_by}; the day of making is day"
        f" 1).{said}{_frozen_words(keep, stated_freezing(process))}"
    )


def _frozen_words(keep: Keeping, stated: Sequence[Stated]) -> str:
    """How it takes to freezing, by the rule; what the recipe says of it is named beside a no, and
    stands alone where no rule speaks."""
    freezes = keep.parts[0].rule.freezes if keep.parts else ""
    no, _, why = freezes.partition(":")
    if no.strip() == "no":
        against = f" The recipe says “{stated[0].words.rstrip('.')}”." if stated else ""
        return f" It does not freeze well{f': {why.strip()}' if why else ''}.{against}"
    return (
        f" Frozen: {freezes}."
        if freezes
        else "".join(f" {capitalized(s.words.rstrip('.'))}." for s in stated[:1])
    )


def chosen_audiences(typed: Sequence[str]) -> frozenset[Audience]:
    """Those that are known; general where none is."""
    return frozenset(a for a in Audience if a.value in typed) or frozenset({Audience.GENERAL})


def as_values(card: Card) -> Mapping[str, object]:
    """What stands on the card, as plain values for a sheet."""
    return {
        "title": card.title,
        "practice": card.practice,
        "under": card.under,
        "parts": [
            {
                "name": name,
                "lines": [[line.amount, line.name, line.weight, line.color] for line in lines],
            }
            for name, lines in card.parts
        ],
        "steps": [[step.text, step.note] for step in card.steps],
        "kept_back": card.kept_back,
        "serve": card.serve,
        "figures": [
            [f.name, f.number, f.unit, f.share, f.spread, "at least" if f.least else ""]
            for f in card.figures
        ],
        "serving": card.serving,
        "small": card.small,
        "per_100_g": card.per_100_g,
        "against": card.against,
        "contains": card.contains,
        "cautions": list(card.cautions),
        "more": bool(card.left_off),
        "variations": [v.words for v in card.variations],
        "facts": list(card.facts),
        "keeps": card.keeps,
        "cost": card.cost,
        "note": card.note,
        "foot": card.foot,
        "missing": list(card.missing),
    }
