"""Which cautions a card shows: those for everyone, then those for whom the educator says it is for,
the gravest few."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from enum import StrEnum

from fresh_ladle.core.cautions.caution import RaisedCaution, Tier

MOST_CAUTIONS = 4


class Audience(StrEnum):
    """Whom a card is for. Nobody's diagnosis is kept: it is said of the card, not of a person."""

    GENERAL = "general"
    SMALL_CHILDREN = "small children"
    OLDER = "older people"
    PREGNANCY = "pregnancy"
    KIDNEY = "kidney diet"
    BLOOD_THINNER = "blood thinner"


_SAID_OF = {
    Audience.SMALL_CHILDREN: ("young children", "infants"),
    Audience.OLDER: ("older people",),
    Audience.PREGNANCY: ("pregnancy",),
    Audience.KIDNEY: ("kidney",),
    Audience.BLOOD_THINNER: ("warfarin",),
}
"""How cautions name them."""


def card_cautions(
    raised: Sequence[RaisedCaution], audiences: Collection[Audience]
) -> tuple[list[RaisedCaution], list[RaisedCaution]]:
    """Those that stand on the card, and the rest, of which it says only that there is more. What is
    only for the cook, or for the editor, is never on a card; where nobody in particular is named,
    any guest may read it, and what to ask of guests follows what is for all."""
    eaters = [c for c in raised if c.caution.on_card and c.caution.who != "the cook"]
    ranked = sorted(eaters, key=lambda c: _rank(c, audiences))
    fits = [c for c in ranked if _rank(c, audiences)[0] < _OTHERS]
    shown = fits[:MOST_CAUTIONS]
    return shown, [c for c in raised if c not in shown and c.caution.on_card]


_OTHERS = 3


def _rank(raised: RaisedCaution, audiences: Collection[Audience]) -> tuple[int, int]:
    """The lower the sooner: named for these readers, then for everyone, then (for readers nobody
    named) what to ask."""
    who, tier = raised.caution.who, list(Tier).index(raised.caution.tier)
    if any(word in who for audience in audiences for word in _SAID_OF.get(audience, ())):
        return 0 if tier < len(Tier) - 1 else 1, tier
    if "everyone" in who:
        return 1, tier
    open_to_all = not set(audiences) - {Audience.GENERAL}
    return (2 if open_to_all and raised.caution.tier is not Tier.BACKGROUND else _OTHERS), tier
