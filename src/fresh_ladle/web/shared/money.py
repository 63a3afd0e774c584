"""What servings cost, in words."""

from __future__ import annotations

from fresh_ladle.core.service.buying import ServiceCost
from fresh_ladle.core.words.sentences import listed


def cost_words(cost: ServiceCost, currency: str = "") -> str:
    """`0.84 cr a serving (0.78 to 0.92)`, with what has no price."""
    if cost.value == 0:
        return "no prices yet"
    said = f"{money(cost.value, currency)} a serving ({cost.low:.2f} to {cost.high:.2f})"
    unknown = listed(cost.unknown) if len(cost.unknown) <= 4 else f"{len(cost.unknown)} foods"
    return f"at least {said}; no price for {unknown}" if cost.unknown else said


def money(amount: float, currency: str) -> str:
    return f"{amount:.2f} {currency}".strip()
