"""The kitchen grid of a food: whole steps of one measure, so that whatever a plan asks for can be measured."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from fresh_ladle.core.amounts.amount import Amount, parse_amount
from fresh_ladle.core.amounts.kitchen import step_of, written_amount
from fresh_ladle.core.amounts.quantity import BadQuantity, Quantity
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.recipes.region import Region

MAX_STEP_SHARE = 0.26
"""Share of an amount that one step may be before a finer measure is taken."""
SAME_WEIGHT = 0.03
EIGHTH = Fraction(1, 8)
_SPOONS = (("cup", Fraction(1, 4)), ("tbsp", Fraction(1, 2)), ("tsp", Fraction(1, 4)), ("tsp", EIGHTH))
_WEIGHTS = (Fraction(5), Fraction(1))


@dataclass(frozen=True, slots=True)
class Grid:
    """Steps of `step` `unit` of a food, each weighing `grams`."""

    unit: str | None
    step: Fraction
    grams: float
    in_cups: bool = False
    """Whether four tablespoons weigh what a quarter cup does, so that either may be said."""

    def text(self, steps: int) -> str:
        """The amount of so many steps in a cook's words: 3 steps of ½ tbsp are `1½ Tbsp`, 9 are `¼ cup plus ½ Tbsp`. No
        spoon holds three eighths, so an odd eighth is said as a spoon more."""
        count = self.step * steps
        if self.unit == "tsp" and count >= 3:
            spoons, rest = Fraction(count // 3), count % 3
            if rest == Fraction(3, 2):
                return written_amount(spoons + Fraction(1, 2), "tbsp")
            whole = written_amount(spoons, "tbsp")
            return f"{whole} plus {written_amount(rest, 'tsp')}" if rest else whole
        if self.unit == "tbsp" and self.in_cups and count >= 4:
            quarters, rest = Fraction(count // 4), count % 4
            cups = written_amount(quarters / 4, "cup")
            return f"{cups} plus {written_amount(rest, 'tbsp')}" if rest else cups
        if self.step == EIGHTH and steps % 2 and steps > 1:
            return f"{written_amount(count - EIGHTH, self.unit)} plus {written_amount(EIGHTH, self.unit)}"
        return written_amount(count, self.unit)

    def steps(self, grams: float) -> int:
        """The nearest whole number of steps."""
        return round(grams / self.grams)


def grid_of_line(line: Line, food: Food, grams: float, region: Region) -> Grid:
    """The grid on which a line is changed: its own unit when that is fine enough, else spoons, else a scale."""
    remarks = (line.text, *line.remarks)
    own = _own_unit(line)
    if own is not None:
        unit, step = own
        one = _grams_of(food, unit, step, remarks, region)
        if one is not None and one <= MAX_STEP_SHARE * grams:
            return Grid(unit, step, one, _in_cups(food, unit, remarks, region))
    return grid_near(food, grams, remarks, region)


def grid_near(food: Food, grams: float, remarks: tuple[str, ...] = (), region: Region = Region.US) -> Grid:
    """The coarsest grid whose step is at most a quarter of the wanted grams; the finest there is for less."""
    finest: Grid | None = None
    for unit, step in _SPOONS:
        one = _grams_of(food, unit, step, remarks, region)
        if one is None:
            continue
        finest = Grid(unit, step, one, _in_cups(food, unit, remarks, region))
        if one <= MAX_STEP_SHARE * grams:
            return finest
    if finest is not None and finest.grams <= grams:
        return finest
    for weight in _WEIGHTS:
        if float(weight) <= MAX_STEP_SHARE * grams or finest is None:
            return Grid("g", weight, float(weight))
    assert finest is not None
    return finest


def _in_cups(food: Food, unit: str | None, remarks: tuple[str, ...], region: Region) -> bool:
    if unit != "tbsp":
        return False
    spoons, cup = (_grams_of(food, u, n, remarks, region) for u, n in (("tbsp", Fraction(4)), ("cup", Fraction(1, 4))))
    return spoons is not None and cup is not None and abs(cup / spoons - 1) < SAME_WEIGHT


def _own_unit(line: Line) -> tuple[str | None, Fraction] | None:
    if not line.amount:
        return None
    try:
        amount = parse_amount(line.amount)
    except BadQuantity:
        return None
    if amount.part or amount.package or amount.weight or amount.size or amount.fill or amount.added:
        return None
    return amount.unit, Fraction(1) if amount.unit == "g" else step_of(amount.unit)


def _grams_of(food: Food, unit: str | None, step: Fraction, remarks: tuple[str, ...], region: Region) -> float | None:
    try:
        amount = Amount(text="", count=Quantity(Range.exact(float(step))), unit=unit)
        return weigh(amount, food, remarks, region).grams.value
    except UnitMisfit:
        return None
