"""Every line at the size it is made: by weight, and in the cook's measures beside it; strong things
begin with less."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from math import log

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.amounts.kitchen import kitchen_amount, scaled, written_amount
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.catalogue.kitchen_work import KitchenWork
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal

MOST_SERVINGS = 5000
STRONG_FROM = 4.0
"""Times the recipe from which strong things begin with less."""
WEIGHTS_FROM = 250.0
"""Grams from which a weight leads and the spoons stand beside it, where a kitchen has not set its
own."""


@dataclass(frozen=True, slots=True)
class ServiceLine:
    """One line of the batch. `grams` is the full amount, to which all figures belong; `measure` is
    as a cook measures it, to the nearest spoon; `start_share` is how much of it goes in first where
    it is strong, 1 for all."""

    line: str
    food: str | None
    name: str
    text: str
    grams: Range
    measure: str
    start_share: float
    component: str
    known: bool

    @property
    def start_grams(self) -> float:
        return self.grams.value * self.start_share


def checked_servings(number: float) -> int:
    """A head count. Raises RecipeError for what cannot be fed."""
    if number != int(number):
        raise RecipeError(
            f"{number:g} servings cannot be portioned: make it {int(number)} or {int(number) + 1}"
        )
    if not 1 <= number <= MOST_SERVINGS:
        raise RecipeError(
            f"a service is for 1 to {MOST_SERVINGS:,} servings; {number:,.0f} were asked for"
        )
    return int(number)


def service_lines(
    appraisal: Appraisal, factor: float, work: KitchenWork, weights_from: float = WEIGHTS_FROM
) -> list[ServiceLine]:
    """Every line times `factor`. Grams are exact multiples; measures are rounded, so the grams
    decide."""
    return [_service_line(portion, factor, work, weights_from) for portion in appraisal.portions]


def _service_line(
    portion: Portion, factor: float, work: KitchenWork, weights_from: float
) -> ServiceLine:
    grams = portion.measured.scaled(factor)
    food = portion.food
    name = portion.line.named or (food.kitchen_name if food is not None else portion.line.text)
    measure = _measure(portion, factor)
    share = start_share(work, food.key, factor) if food is not None else 1.0
    weight = weight_words(grams.value)
    lead, beside = (
        (weight, measure) if grams.value >= weights_from or not measure else (measure, weight)
    )
    both = f"{lead} ({beside})" if beside and beside != lead else lead
    how = f", {', '.join(portion.line.remarks)}" if portion.line.remarks else ""
    return ServiceLine(
        portion.line.id,
        food.key if food is not None else None,
        name,
        f"{both} {name}{how}",
        grams,
        measure,
        share,
        portion.line.component,
        portion.known,
    )


def _measure(portion: Portion, factor: float) -> str:
    """The amount as a cook measures it, scaled; spoons become cups and spoons that nest."""
    food, grams = portion.food, portion.measured.value * factor
    if food is None or grams <= 0:
        return ""
    try:
        amount = parse_amount(portion.line.amount)
        parts = (amount, *amount.added)
        if all(part.unit in _IN_TSP and part.count is not None and not part.part for part in parts):
            tsp = sum(
                part.count.count.value * _IN_TSP[part.unit or ""]
                for part in parts
                if part.count is not None
            )
            return nested_spoons(tsp * factor)
        if all(part.unit in ("g", "kg") for part in parts):
            return ""
        return scaled(portion.line.amount, factor)
    except (BadQuantity, AssertionError):
        return kitchen_amount(food, grams, (portion.line.text,))


_IN_TSP = {"tsp": 1, "tbsp": 3, "cup": 48}


def nested_spoons(tsp: float) -> str:
    """`¾ cup plus 1½ Tbsp` of so many teaspoons, to half a spoon of the smaller measure (an eighth
    of a teaspoon below one)."""
    if tsp < 3:
        step = Fraction(1, 8) if tsp < 1 else Fraction(1, 4)
        return written_amount(
            max(step, round(Fraction(tsp).limit_denominator(960) / step) * step), "tsp"
        )
    large, small, per, least = (
        ("cup", "tbsp", 48.0, 0.25) if tsp >= 12 else ("tbsp", "tsp", 3.0, 1.0)
    )
    of_small = per / 16 if small == "tbsp" else 1.0
    quarters = tsp / per / least
    whole = (round(quarters) if tsp >= 48 * MOST_CUPS_AND_SPOONS else int(quarters + 1e-6)) * least
    rest = round((tsp - whole * per) / of_small * 2) / 2
    rest = max(0.0, rest)
    if rest * of_small >= per * least - 1e-6:
        whole, rest = whole + least, 0.0
    parts = [(whole, large)] if whole else []
    parts += [(rest, small)] if rest and whole < MOST_CUPS_AND_SPOONS else []
    return " plus ".join(
        written_amount(Fraction(n).limit_denominator(8), unit) for n, unit in parts
    )


MOST_CUPS_AND_SPOONS = 6
"""Cups from which a spoon more or less is left to the scale."""


def start_share(work: KitchenWork, food: str, factor: float) -> float:
    """What part of a strong food goes in before tasting; 1 below four times the recipe. Between
    four and ten times it falls with the logarithm of the size."""
    known = work.scaling.get(food)
    if known is None or factor < STRONG_FROM:
        return 1.0
    along = min(1.0, log(factor / STRONG_FROM) / log(10 / STRONG_FROM))
    return known.at_4 + (known.at_10 - known.at_4) * along


def weight_words(grams: float) -> str:
    """`1.25 kg`, `340 g`, `4.5 g`: as far as a kitchen scale tells."""
    if grams >= 1000:
        return f"{grams / 1000:.2f}".rstrip("0").rstrip(".") + " kg"
    if grams >= 20:
        return f"{grams:.0f} g"
    return f"{grams:.1f}".removesuffix(".0") + " g"
