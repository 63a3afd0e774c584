"""The amounts a cook would measure: rungs of spoons, cups, pieces and round weights.

A rung is one spoon or cup, or two of sizes that nest (`¼ cup plus 1 Tbsp`), and nothing a drawer of
measures cannot make. A line is changed along the ladder of its own unit, a food that comes in along
the one its kind is measured by."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

from fresh_ladle.core.amounts.amount import Amount, parse_amount
from fresh_ladle.core.amounts.kitchen import with_count, written_amount
from fresh_ladle.core.amounts.quantity import BadQuantity, Quantity
from fresh_ladle.core.amounts.units import CONTAINERS, grams_in, millilitres
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line
from fresh_ladle.core.recipes.region import Region

F = Fraction
_Measures = tuple[tuple[tuple[tuple[Fraction, str], ...], bool], ...]
_SPOONS: _Measures = tuple(
    (tuple((F(n), unit) for n, unit in parts), odd)
    for parts, odd in (
        *(
            ([(n, "tsp")], odd)
            for n, odd in (("1/8", False), ("1/4", False), ("1/2", False), ("3/4", True))
        ),
        *(([(n, "tsp")], odd) for n, odd in (("1", False), ("3/2", True), ("2", False))),
        ([("1", "tbsp")], False),
        ([("1", "tbsp"), ("1", "tsp")], True),
        ([("3/2", "tbsp")], True),
        ([("2", "tbsp")], False),
        ([("5/2", "tbsp")], True),
        ([("3", "tbsp")], False),
        ([("1/4", "cup")], False),
        ([("1/4", "cup"), ("1", "tbsp")], True),
        ([("1/3", "cup")], False),
        ([("1/4", "cup"), ("2", "tbsp")], True),
        ([("1/2", "cup")], False),
        ([("1/2", "cup"), ("2", "tbsp")], True),
        ([("2/3", "cup")], False),
        ([("3/4", "cup")], False),
        *(
            ([(n, "cup")], False)
            for n in ("1", "5/4", "4/3", "3/2", "5/3", "7/4", "2", "9/4", "5/2", "11/4", "3")
        ),
        *(
            ([(n, "cup")], False)
            for n in ("7/2", "4", "9/2", "5", "11/2", "6", "7", "8", "9", "10", "12", "14", "16")
        ),
        *(
            ([(str(n), "cup")], False)
            for n in (*range(18, 41, 2), *range(45, 101, 5), *range(110, 401, 10))
        ),
    )
)
"""Every amount by spoon and cup, smallest first, and whether it takes two measures or two fillings
of one."""
_TWO_SMALL_SPOONS = tuple((((F(n), "tsp"), (F("1/8"), "tsp")), True) for n in ("1/4", "1/2"))
"""Between the small spoons: for what is there already and counts by the pinch; nothing comes in by
them."""
_GRAMS = (
    *range(1, 10),
    *range(10, 30, 2),
    *range(30, 100, 5),
    *range(100, 300, 10),
    *range(300, 1000, 50),
    *range(1000, 3000, 100),
    *range(3000, 10_000, 250),
    *range(10_000, 50_001, 1000),
)
_FINE_GRAMS = (
    *(F(n, 10) for n in (2, 5)),
    *range(1, 60),
    *range(60, 200, 5),
    *range(200, 1000, 10),
)
"""Round weights, and those for who would rather weigh than measure."""
_OUNCES = tuple(F(n, 2) for n in (*range(1, 13), *range(14, 33, 2)))
_POUNDS = tuple(F(n, 4) for n in (*range(1, 13), *range(14, 41, 2)))
_SMALL_OUNCES = (F(1), F(2), F(3))
"""Below a quarter pound."""
_WHOLE = frozenset(
    {
        "drop",
        "pinch",
        "dash",
        "sprig",
        "leaf",
        "grind",
        "turn",
        "shaving",
        "spray",
        "slice",
        "piece",
        "cube",
        "fillet",
    }
)
"""Units that nobody halves."""
_HALVED = frozenset(
    {"clove", "inch piece", "cm piece", "stalk", "handful", "knob", "squeeze", "splash", "drizzle"}
)
"""Units that are halved, and not divided further."""
_PIECES = frozenset({"allium", "egg"})
"""Groups of foods that come in by the piece."""


@dataclass(frozen=True, slots=True)
class Rung:
    """One amount in a cook's words. `odd` when it takes two measures, or one that few drawers hold;
    then it costs."""

    text: str
    grams: float
    odd: bool = False
    unit: str = "g"
    """What it is measured by, since that says how sure its weight is."""


def rungs_of_line(line: Line, food: Food, region: Region, by_weight: bool = False) -> list[Rung]:
    """The amounts a line may be changed to, smallest first, up to about twice what it holds.

    In its own kind of measure, or `by_weight` in grams. Empty for an amount that cannot be read or
    weighed."""
    remarks = (line.text, *line.remarks)
    try:
        amount = parse_amount(line.amount)
        now = weigh(amount, food, remarks, region).grams.value
    except (BadQuantity, UnitMisfit):
        return []
    if by_weight:
        return _up_to(2 * now, _weights(_FINE_GRAMS, "g"))
    unit = amount.unit
    stated = amount.weight is not None and amount.weight.grams is not None
    if stated or unit in ("g", "kg", "mg"):
        return _up_to(2 * now, _weights(_GRAMS, "g"))
    if unit in ("oz", "lb") and amount.package is None:
        ounces, pounds = (
            _weights(_SMALL_OUNCES if unit == "lb" else _OUNCES, "oz"),
            _weights(_POUNDS, "lb"),
        )
        return _up_to(2 * now, [*ounces, *pounds] if unit == "lb" else ounces)
    if (
        unit
        and millilitres(unit, region)
        and unit not in ("tsp", "tbsp", "cup")
        and amount.fill is None
    ):
        return _up_to(2 * now, _volumes(food, remarks, region))
    if (
        unit in ("tsp", "tbsp", "cup")
        and amount.fill is None
        and amount.size is None
        and not amount.part
    ):
        return _up_to(2 * now, _spoons(food, remarks, region, (*_SPOONS, *_TWO_SMALL_SPOONS)))
    return _up_to(2 * now, _counted(amount, food, remarks, region))


def rungs_of_food(
    food: Food, how: str = "", region: Region = Region.US, by_weight: bool = False
) -> list[Rung]:
    """The amounts in which a food comes in, smallest first: pieces for what is taken by the piece,
    spoons and cups, else grams."""
    if by_weight:
        return _weights(_FINE_GRAMS, "g")
    remarks = (how,) if how else ()
    if food.group in _PIECES:
        for unit in ("clove", "each"):
            one = _grams(food, Amount(text="", count=_one(F(1)), unit=unit), remarks, region)
            if one is not None:
                return [
                    Rung(written_amount(n, unit), float(n) * one, unit=unit)
                    for n in (F(1, 2), *map(F, range(1, 13)))
                ]
    return _spoons(food, remarks, region) or _weights(_GRAMS, "g")


def nearest_rungs(rungs: list[Rung], grams: float, tolerance: float = 0.08) -> list[Rung]:
    """The rung nearest the wanted grams, and where that is off by more than the tolerance the one
    on its other side."""
    if not rungs:
        return []
    near = min(rungs, key=lambda r: abs(r.grams - grams))
    if abs(near.grams - grams) <= tolerance * grams:
        return [near]
    other = [r for r in rungs if (r.grams > grams) != (near.grams > grams)]
    across = min(other, key=lambda r: abs(r.grams - grams), default=None)
    return [r for r in (near, across) if r is not None and 0.5 * grams <= r.grams <= 1.6 * grams]


def _up_to(grams: float, rungs: Iterable[Rung]) -> list[Rung]:
    return sorted((r for r in rungs if r.grams <= grams), key=lambda r: r.grams)


def _one(count: Fraction) -> Quantity:
    return Quantity(Range.exact(float(count)))


def _grams(food: Food, amount: Amount, remarks: tuple[str, ...], region: Region) -> float | None:
    try:
        return weigh(amount, food, remarks, region).grams.value
    except UnitMisfit:
        return None


def _spoons(
    food: Food, remarks: tuple[str, ...], region: Region, measures: _Measures = _SPOONS
) -> list[Rung]:
    of_unit = {
        u: _grams(food, Amount(text="", count=_one(F(1)), unit=u), remarks, region)
        for u in ("tsp", "tbsp", "cup")
    }
    rungs = []
    for parts, odd in measures:
        weights = [of_unit[unit] for _, unit in parts]
        if any(w is None for w in weights):
            continue
        grams = sum(float(n) * (w or 0.0) for (n, _), w in zip(parts, weights, strict=True))
        rungs.append(
            Rung(
                " plus ".join(written_amount(n, unit) for n, unit in parts), grams, odd, parts[0][1]
            )
        )
    return rungs


def _volumes(food: Food, remarks: tuple[str, ...], region: Region) -> list[Rung]:
    one = _grams(food, Amount(text="", count=_one(F(1)), unit="ml"), remarks, region)
    steps = (
        5,
        10,
        15,
        20,
        25,
        30,
        40,
        50,
        60,
        75,
        *range(100, 300, 25),
        *range(300, 1001, 50),
        *range(1100, 5001, 100),
    )
    return [] if one is None else [Rung(f"{n} ml", n * one, unit="ml") for n in steps]


def _weights(numbers: Iterable[Fraction | int], unit: str) -> list[Rung]:
    one = grams_in(unit)
    assert one is not None
    return [Rung(_weight_text(F(n), unit), float(n) * one) for n in numbers]


def _weight_text(number: Fraction, unit: str) -> str:
    if unit == "g":
        return f"{float(number) / 1000:g} kg" if number >= 1000 else f"{float(number):g} g"
    return written_amount(number, unit)


def _counted(amount: Amount, food: Food, remarks: tuple[str, ...], region: Region) -> list[Rung]:
    """The line's own words with another count: half a can, two of three cloves, one and a half
    onions."""
    assert amount.count is not None
    found = []
    for count, odd in _counts(amount, amount.count.count.value, food.group == "egg"):
        text = with_count(amount, count)
        try:
            grams = weigh(parse_amount(text), food, remarks, region).grams.value
        except (BadQuantity, UnitMisfit):
            continue
        found.append(Rung(text, grams, odd))
    return found


def _counts(amount: Amount, now: float, whole_only: bool = False) -> list[tuple[Fraction, bool]]:
    """Counts a cook would take, and whether that is an odd one: no three quarters of a clove or of
    the juice of one."""
    whole = [(F(n), False) for n in range(1, int(2 * now) + 1)]
    if amount.unit in _WHOLE or whole_only:
        return whole
    if (
        amount.unit in CONTAINERS
        or amount.package is not None
        or amount.unit in _HALVED
        or amount.part
    ):
        return [(F(n, 2), n % 2 == 1 and n > 6) for n in range(1, 2 * int(2 * now) + 2)]
    quarters = [(F(1, 4), False), (F(1, 2), False), (F(3, 4), True)]
    return [*quarters, *((F(n, 2), n % 2 == 1 and n > 6) for n in range(2, 2 * int(2 * now) + 2))]
