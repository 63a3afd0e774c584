"""Kitchen steps: the smallest change a cook can measure, nudging by it, and wording grams as
spoons, cups and pieces."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache

from fresh_ladle.core.amounts.amount import Amount, parse_amount
from fresh_ladle.core.amounts.quantity import Quantity
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.ranges import Range

STEP: dict[str, Fraction] = {
    "tsp": Fraction(1, 4),
    "tbsp": Fraction(1, 2),
    "cup": Fraction(1, 4),
    "can": Fraction(1, 4),
    "jar": Fraction(1, 4),
    "bunch": Fraction(1, 4),
    "handful": Fraction(1, 2),
    "each": Fraction(1, 2),
    "g": Fraction(5),
    "ml": Fraction(5),
    "oz": Fraction(1, 2),
    "lb": Fraction(1, 4),
    "kg": Fraction(1, 10),
    "inch piece": Fraction(1, 2),
}
_ONE = Fraction(1)
_WRITTEN = {
    Fraction(1, 4): "¼",
    Fraction(1, 2): "½",
    Fraction(3, 4): "¾",
    Fraction(1, 3): "⅓",
    Fraction(2, 3): "⅔",
    Fraction(1, 8): "⅛",
    Fraction(3, 8): "⅜",
    Fraction(5, 8): "⅝",
    Fraction(7, 8): "⅞",
}
_WITH_S = (
    "ball", "bit", "block", "bowlful", "can", "capful", "clove", "cube", "cup", "dessertspoon",
    "dollop", "drizzle",
    "drop", "dusting", "ear", "fillet", "glug", "grind", "handful", "head", "heart", "bulb", "jar",
    "knob", "ladle",
    "lump", "mug", "nest", "package", "piece", "pint", "pour", "quart", "ramekin", "scattering",
    "scoop", "shaving",
    "sheet", "slice", "spear", "spoonful", "spray", "sprig", "sprinkling", "squeeze", "squirt",
    "stalk", "turn",
    "wedge",
)  # fmt: skip
_PLURAL = {
    **{unit: f"{unit}s" for unit in _WITH_S},
    **{unit: f"{unit}es" for unit in ("bunch", "glass", "pinch", "dash", "splash", "slosh")},
    "leaf": "leaves",
    "cm piece": "cm pieces",
    "inch piece": "inch pieces",
}
_SHOWN = {"tbsp": "Tbsp"}


def written(number: Fraction) -> str:
    """A number as a cook writes it: 3/2 is `1½`; anything but common fractions in decimals."""
    whole, part = divmod(number, 1)
    if part == 0:
        return str(whole)
    near = min(_WRITTEN, key=lambda f: abs(f - part))
    if abs(near - part) < Fraction(1, 50):
        return f"{whole if whole else ''}{_WRITTEN[near]}"
    return f"{float(number):.2f}".rstrip("0").rstrip(".")


def step_of(unit: str | None) -> Fraction:
    return STEP.get(unit or "each", _ONE)


def written_amount(number: Fraction, unit: str | None, rest: str = "") -> str:
    """A number of units as a cook writes it: 3/2 of tbsp is `1½ Tbsp`."""
    if unit is None or unit == "each":
        return f"{written(number)} {rest}".strip()
    return f"{written(number)} {_shown(unit, number)} {rest}".strip()


def _shown(unit: str, number: Fraction) -> str:
    return _PLURAL[unit] if number > 1 and unit in _PLURAL else _SHOWN.get(unit, unit)


def nudged(text: str, steps: int) -> str:
    """The amount moved by whole kitchen steps, never below one step. A range or a bracketed weight
    gives way to one number.

    Raises BadQuantity when the text is not an amount.
    """
    amount = parse_amount(text)
    assert amount.count is not None
    step = step_of(amount.unit)
    now = Fraction(amount.count.count.value).limit_denominator(96)
    # The next whole step in the direction of the nudge, so that ⅓ cup goes to ½ or ¼.
    if steps > 0:
        target = (now // step + steps) * step
    else:
        target = (-(-now // step) + steps) * step
    return with_count(amount, max(target, step))


def with_count(amount: Amount, count: Fraction) -> str:
    """The amount with another count, keeping part, size and package."""
    if amount.part:
        return f"{amount.part} of {written_amount(count, None, amount.size or '')}"
    if amount.package is not None and amount.unit:
        return (
            f"{written_amount(count, amount.unit)} ({amount.package.size.value:g}"
            f" {amount.package.unit})"
        )
    if amount.unit in _UNCOUNTED:
        words = _UNCOUNTED[amount.unit]
        return words if count == 1 else f"{written(count)} × {words}"
    how = amount.fill or amount.size
    if amount.unit is None or how is None:
        return written_amount(count, amount.unit, how or "")
    how = "good" if how == "rounded" and amount.unit not in STEP else how
    return f"{written(count)} {how} {_shown(amount.unit, count)}"


_UNCOUNTED = {"little": "a little", "some": "some"}
"""Amounts that are no unit and cannot be counted by themselves."""


def scaled(text: str, factor: float) -> str:
    """The amount times a factor, to the nearest kitchen step and never below one; grams to the
    gram, to half below ten."""
    amount = parse_amount(text)
    assert amount.count is not None
    wanted = Fraction(amount.count.count.value * factor).limit_denominator(960)
    gram = Fraction(1) if wanted >= 10 else Fraction(1, 2)
    step = {"g": gram, "ml": Fraction(1), "tsp": Fraction(1, 8)}.get(
        amount.unit or "", step_of(amount.unit)
    )
    steps = max(1, round(wanted / step))
    return with_count(amount, steps * step)


@lru_cache(maxsize=8192)
def kitchen_amount(food: Food, grams: float, remarks: tuple[str, ...] = ()) -> str:
    """An amount of a food near `grams` that can be measured with spoons, cups or pieces; grams when
    it has no measure.

    The measure whose whole steps come nearest wins, the larger unit between near equals; a trace is
    a pinch."""
    best: tuple[float, str] | None = None
    for unit in _BY_PIECE if food.group in _PIECE_GROUPS else _BY_SPOON:
        one = _grams_of_one(food, unit, remarks)
        if one is None:
            continue
        step = Fraction(1, 8) if unit == "tsp" and grams < 0.3 * one else step_of(unit)
        steps = round(Fraction(grams / one).limit_denominator(960) / step)
        if steps < 1 or steps * step > _MAX_COMPARED[unit]:
            continue
        miss = abs(float(steps * step) * one / grams - 1)
        if best is None or miss < best[0] - 0.03:
            best = (miss, written_amount(steps * step, unit, ""))
    if best is not None and best[0] <= 0.35:
        return best[1]
    if grams >= 20:
        return f"{5 * round(grams / 5)} g"
    return f"{round(grams)} g" if grams >= 1 else "1 pinch"


_BY_SPOON = ("cup", "tbsp", "tsp", "pinch")
_BY_PIECE = ("clove", "cup", "tbsp", "tsp", "each", "pinch")
_PIECE_GROUPS = frozenset({"allium", "egg", "fruit", "dried-fruit"})
_MAX_COMPARED = {"tsp": 2.75, "tbsp": 8, "cup": 8, "pinch": 1, "clove": 12, "each": 12}


def _grams_of_one(food: Food, unit: str, remarks: tuple[str, ...]) -> float | None:
    """Grams of one whole unit of a food by the same route a typed amount takes; None when it has no
    such measure."""
    try:
        return weigh(
            Amount(text="", count=Quantity(Range.exact(1)), unit=unit), food, remarks
        ).grams.value
    except UnitMisfit:
        return None
