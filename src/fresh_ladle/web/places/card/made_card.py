"""The card of a kept version as the practice has chosen it, and its sheet with the picture."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from fresh_ladle.core.card.audience import Audience
from fresh_ladle.core.card.content import Card, CardChoices, as_values, card_of, chosen_audiences
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.claims.claims import Claim, claims_of
from fresh_ladle.core.claims.words import MarkedWords, marked_words
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.service.buying import PackPrice, cost_per_serving, shopping
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.formats.dish_picture import card_picture
from fresh_ladle.store.foods.own_foods import pack_prices
from fresh_ladle.store.recipes.cards import card_choices
from fresh_ladle.store.recipes.recipes import Version, version, versions
from fresh_ladle.store.settings import settings
from fresh_ladle.web.state import Workbench


def card_choices_of(connection: sqlite3.Connection, recipe_id: int, label: str = "") -> CardChoices:
    """As kept, with what the settings say; `label` chooses other rules for once."""
    kept, custom = card_choices(connection, recipe_id), settings(connection)
    return CardChoices(
        chosen_audiences(kept.audiences or (Audience.GENERAL.value,)),
        Regime(label if label in set(Regime) else custom.label),
        kept.variations,
        kept.facts,
        kept.note,
        custom.practice,
        custom.weights,
    )


@dataclass(frozen=True, slots=True)
class MadeCard:
    """A card with the version it is of, and what it is measured against."""

    version: Version
    dish: Appraisal
    usual: Appraisal
    choices: CardChoices
    card: Card

    @property
    def claims(self) -> list[Claim]:
        """Relative claims compare with the usual recipe, where the dish is another."""
        usual = self.usual if self.usual.recipe != self.dish.recipe else None
        return claims_of(self.dish, self.choices.regime, usual)


def made_card(
    workbench: Workbench,
    connection: sqlite3.Connection,
    recipe_id: int,
    number: int | None = None,
    label: str = "",
) -> MadeCard:
    """The card of a version, the latest where none is named. Raises RecipeMissing."""
    first = version(connection, recipe_id, 1)
    chosen = version(connection, recipe_id, number or versions(connection, recipe_id)[-1].number)
    dish, usual = workbench.appraise_version(chosen), workbench.appraise_version(first)
    cost = _cost_words(dish, pack_prices(connection), settings(connection).currency)
    choices = replace(card_choices_of(connection, recipe_id, label), cost=cost)
    return MadeCard(
        chosen, dish, usual, choices, card_of(dish, usual, choices, workbench.knowledge)
    )


def _cost_words(dish: Appraisal, prices: Mapping[str, PackPrice], currency: str) -> str:
    """`0.40 cr (0.34 to 0.46)`; empty where a price is missing."""
    cost = cost_per_serving(shopping([(dish, 1.0)], prices), dish.totals.servings)
    if cost.unknown or cost.value <= 0:
        return ""
    return f"{cost.value:.2f} {currency}".strip() + f" ({cost.low:.2f} to {cost.high:.2f})"


def marks_of(
    made: MadeCard, claims: Sequence[Claim], knowledge: Knowledge
) -> list[tuple[str, MarkedWords]]:
    """What rules mark in the words of the card, with where it stands."""
    # What may go in instead is named as it is bought, too: syrup, no sugar added.
    bowls = (made.dish, *(v.effect.effect.after for v in made.card.variations))
    foods = [p.food.kitchen_name for bowl in bowls for p in bowl.portions if p.food is not None]
    foods += [line.named for line in made.dish.recipe.lines]
    texts = (
        ("title", made.card.title),
        *((f"step {number}", step.text) for number, step in enumerate(made.card.steps, start=1)),
        *(("what may go in instead", v.instead) for v in made.card.variations),
        ("your words", made.card.note),
    )
    rules = knowledge.handouts
    return [
        (place, mark) for place, text in texts for mark in marked_words(text, rules, claims, foods)
    ]


def sheet_of(card: Card, knowledge: Knowledge) -> dict[str, Any]:
    """The card as a sheet prints it."""
    return {**as_values(card), "picture": card_picture(card, knowledge.handouts)}
