"""What is refused to guests at risk: pregnant, very young, old or immune-weakened ones (US Food
Code 3-801.11)."""

from __future__ import annotations

from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import listed


def refused_at_risk(dish: Appraisal) -> str:
    """Why a dish is not served to guests at risk, and what would make it possible; empty where it
    may be."""
    found = [c for c in dish.cautions if c.caution.at_risk]
    if not found:
        return ""
    said = "; ".join(f"{listed(list(c.foods)).lower()}: {c.caution.at_risk}" for c in found)
    return (
        f"{dish.recipe.title} is not served to guests at risk as it is ({said}). The local food"
        " code decides; this is by US Food Code 3-801.11"
    )
