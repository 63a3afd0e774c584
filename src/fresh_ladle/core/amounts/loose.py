"""Amounts that nobody measured: a glug, a good handful, "to coat", or no word at all. Guesses with
a range, by class of food (`data/amounts/loose.csv`, `data/amounts/loose_classes.csv`)."""

from __future__ import annotations

import re

from fresh_ladle.core.foods.food import Food, LooseBasis, LooseMeasure
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.aside import Aside

MAX_CONFIDENCE = 0.6
"""A guess is never surer than this."""
NO_WORD = "no amount at all"
SIZE_OF_LOOSE = {
    "small": Range(0.65, 0.45, 0.85),
    "large": Range(1.4, 1.15, 1.8),
    "rounded": Range(1.35, 1.1, 1.7),
    "heaping": Range(1.35, 1.1, 1.7),
    "scant": Range(0.75, 0.55, 0.95),
}
"""How a small, big, good, heaped or scant handful compares with one (estimate)."""
LOT = Range(1.8, 1.2, 2.8)
"""A lot against some (estimate)."""
LITTLES = {"some": Range(2.2, 1.3, 4.0), "lot": Range(4.0, 2.0, 8.0)}
"""Some and a lot against a little, for classes that have no row of "some" (estimate)."""
_NAMED_SIZES = {
    "small": ("small",),
    "large": ("big", "generous", "good"),
    "rounded": ("good", "generous"),
}
_WORDS: tuple[tuple[str, re.Pattern[str]], ...] = tuple(
    (word, re.compile(rf"\b(?:{pattern})\b", re.I))
    for word, pattern in (
        ("for the pan", r"to (?:cover|film|coat) the (?:base|bottom) of (?:the|a) (?:pan|skillet)"),
        ("to coat", r"(?:to|for) coat(?:ing)?"),
        ("to cover", r"to cover|to submerge"),
        ("to thin", r"to thin|for thinning|to loosen"),
        ("for the tray", r"for (?:the )?(?:tray|sheet|roasting)|for baking"),
        (
            "for the pan",
            (
                r"for (?:the )?(?:pan|skillet|wok|frying|saut\w+|cooking|greasing)|to"
                r" (?:fry|saut\w+|grease)"
            ),
        ),
        (
            "for the top",
            (
                r"(?:for|on|over) (?:the )?top(?:ping)?|for (?:sprinkling|scattering)|to"
                r" (?:top|sprinkle)"
            ),
        ),
        ("to garnish", r"(?:to|for|as)(?: the| a)? (?:garnish\w*|decorat\w+)"),
        ("to finish", r"(?:to|for) (?:finish|drizzl)\w*"),
        ("to serve", r"(?:to|for) (?:serve|serving)"),
        ("as needed", r"as (?:needed|required)|if needed"),
        ("to taste", r"to (?:your )?taste|to season"),
    )
)
_TOPPING = frozenset({"for the top", "to garnish", "to finish", "to serve"})


def loose_piece(food: Food, unit: str, size: str | None) -> Range | None:
    """Grams of one glug, handful or sprinkling of a food, moved by a word of size; None where the
    class has none."""
    measures = {m.word: m for m in food.loose if m.basis in (LooseBasis.PIECE, LooseBasis.DISH)}
    for named in _NAMED_SIZES.get(size or "", ()):
        if found := measures.get(f"{named} {unit}"):
            return _grams(found)
    if unit == "lot" and (some := measures.get("some")):
        return _grams(some).times(LOT)
    if unit in LITTLES and unit not in measures and (little := measures.get("little")):
        return _grams(little).times(LITTLES[unit])
    plain = measures.get(unit)
    if plain is None:
        return None
    return _grams(plain).times(SIZE_OF_LOOSE[size]) if size in SIZE_OF_LOOSE else _grams(plain)


def unmeasured(food: Food, text: str, asides: frozenset[Aside]) -> LooseMeasure | None:
    """What a line without an amount comes to: by what it says ("to coat", "for the pan"), else by
    the food alone."""
    said = next((word for word, pattern in _WORDS if pattern.search(text)), None)
    if said is None and Aside.GARNISH in asides:
        said = "to garnish"
    own = next((m for m in food.loose if m.word == said), None)
    if own is not None:
        return own
    bare = [m for m in food.loose if m.word == NO_WORD]
    on_top = said in _TOPPING
    return min(bare, key=lambda m: (m.role == "topping") is not on_top, default=None)


def unmeasured_grams(measure: LooseMeasure, servings: float, mix_grams: float) -> Range:
    """Grams in the dish: of what is counted by the serving or by 100 g of all the other lines, as
    much as they ask."""
    factor = {
        LooseBasis.PIECE: 1.0,
        LooseBasis.DISH: 1.0,
        LooseBasis.SERVING: servings,
        LooseBasis.MIX: mix_grams / 100,
    }[measure.basis]
    return _grams(measure).scaled(factor)


def _grams(measure: LooseMeasure) -> Range:
    return Range(measure.grams, measure.low, measure.high)
