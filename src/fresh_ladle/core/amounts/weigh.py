"""Turns an amount of a food into grams with a range, and says by which route."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.amount import Amount, Stated
from fresh_ladle.core.amounts.loose import MAX_CONFIDENCE, SIZE_OF_LOOSE, loose_piece
from fresh_ladle.core.amounts.packs import usual_pack
from fresh_ladle.core.amounts.units import CONTAINERS, FILL, VESSELS, grams_in, millilitres
from fresh_ladle.core.errors import Refused
from fresh_ladle.core.foods.food import Food, Grade, Measure, Pack
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.region import Region

SCALE_DOUBT = 0.01
STATED_DOUBT = 0.02
"""A printed net weight; a weight in brackets after a measure is as good."""
ABOUT_DOUBT = 0.08
DRAINED_SHARE = Range(0.6, 0.52, 0.68)
"""Drained over net weight of a can or jar whose drained weight is not in the measures
(estimate)."""
UNSIZED_CAN = {Region.US: 425.0, Region.METRIC: 400.0, Region.IMPERIAL: 400.0}
SIZE_OF_CAN = {"small": Range(0.53, 0.35, 0.65), "large": Range(1.9, 1.6, 2.1)}
"""A small or a large can against the usual one: 8 oz and 28 oz beside 15 oz."""
SIZE_FACTOR = {
    "small": Range(0.7, 0.55, 0.85),
    "large": Range(1.35, 1.15, 1.6),
    "packed": Range(1.3, 1.1, 1.5),
    "loose": Range(0.75, 0.6, 0.9),
}
VESSEL_DOUBT = Range(1.0, 0.75, 1.3)
"""A mug or a ramekin against its usual size (estimate)."""
MAX_GRAMS = 50_000.0
_DETAILS = {
    "chopped": ("chopped", "minced", "finely chopped", "roughly chopped", "diced"),
    "sliced": ("sliced", "shaved"),
    "diced": ("diced", "cubed", "chopped"),
    "cubed": ("cubed", "diced", "cut"),
    "shredded": ("shredded", "grated"),
    "grated": ("grated", "shredded", "microplaned"),
    "mashed": ("mashed", "pureed", "puréed"),
    "puréed": ("pureed", "puréed", "blended", "mashed"),
    "crumbled": ("crumbled", "broken"),
    "halves": ("halves", "halved"),
    "halved": ("halved", "halves"),
    "ground": ("ground",),
    "slivered": ("slivered", "flaked", "sliced"),
    "florets": ("florets",),
    "massaged": ("massaged",),
    "packed": ("packed",),
    "sections": ("segments", "sections"),
    "crumbs": ("crumbs",),
    "pieces": ("pieces", "broken"),
    "pitted": ("pitted",),
    "shaved": ("shaved",),
    "crushed": ("crushed",),
    "flaked": ("flaked",),
    "whipped": ("whipped",),
    "sprigs": ("sprigs",),
    "unpacked": ("loosely",),
    "seeds": ("seeds",),
}


class UnitMisfit(Refused):
    """The unit cannot be weighed for this food; the message says what would work."""


@dataclass(frozen=True, slots=True)
class Weighing:
    """Grams as measured, the route in words, and how sure the reading of the unit is (0 to 1)."""

    grams: Range
    route: str
    grade: Grade
    confidence: float
    as_bought: bool = False
    """True when the weight is that of the thing as bought, so that trimming still has to be taken
    off."""
    guess: bool = False
    """True when nothing was measured: a word of the class of food stands in for a weight."""


def weigh(
    amount: Amount, food: Food, remarks: tuple[str, ...] = (), region: Region = Region.US
) -> Weighing:
    """Weighs an amount that has a count. Raises UnitMisfit when the unit does not go with the
    food."""
    if amount.count is None:
        raise UnitMisfit(f"no amount given for {food.name.lower()}")
    weighing = _weigh_one(amount, food, remarks, region)
    for extra in amount.added:
        more = _weigh_one(extra, food, remarks, region).grams
        total = weighing.grams
        weighing = Weighing(
            Range(total.value + more.value, total.low + more.low, total.high + more.high),
            f"{weighing.route}, and the rest by {extra.unit}",
            weighing.grade,
            weighing.confidence,
            weighing.as_bought,
            weighing.guess,
        )
    if weighing.grams.value > MAX_GRAMS:
        raise UnitMisfit(
            f"{weighing.grams.value / 1000:,.0f} kg of {food.name.lower()} is more than a kitchen"
            " batch; check the number"
        )
    if weighing.grams.value <= 0:
        raise UnitMisfit(f"zero {food.name.lower()}: remove the line, or give an amount")
    return weighing


def _weigh_one(amount: Amount, food: Food, remarks: tuple[str, ...], region: Region) -> Weighing:
    if amount.weight is not None:
        # "2 bunches (700 g in all), stripped": the weight is of what was bought, unless it is said
        # of what was left.
        return replace(
            _by_stated_weight(amount.weight, food, region), as_bought=not amount.weight.net
        )
    if amount.part:
        return _by_fruit(amount, food)
    if amount.unit and grams_in(amount.unit):
        return _by_scale(amount)
    if amount.unit and millilitres(amount.unit, region):
        return _by_volume(amount, food, remarks, region)
    if amount.unit in CONTAINERS or amount.package:
        return _by_container(amount, food, remarks, region)
    return _by_piece(amount, food, remarks)


def _count(amount: Amount) -> Range:
    assert amount.count is not None
    count = amount.count.count
    if amount.count.approximate and count.low == count.high:
        return Range.around(count.value, ABOUT_DOUBT)
    return count


def _of(measure: Measure) -> Range:
    return Range(measure.grams, measure.low, measure.high)


def _by_stated_weight(stated: Stated, food: Food, region: Region) -> Weighing:
    grams = stated.grams
    if grams is not None:
        widened = Range(
            grams.value, grams.low * (1 - STATED_DOUBT), grams.high * (1 + STATED_DOUBT)
        )
        return Weighing(widened, "the weight given beside the measure", Grade.A, 1.0)
    return _by_volume_of(stated.size, stated.unit, food, (), region, None)


def _by_scale(amount: Amount) -> Weighing:
    factor = grams_in(amount.unit or "")
    assert factor is not None
    assert amount.count is not None
    count = amount.count.count
    doubt = ABOUT_DOUBT if amount.count.approximate else SCALE_DOUBT
    grams = Range(
        count.value * factor, count.low * factor * (1 - doubt), count.high * factor * (1 + doubt)
    )
    return Weighing(grams, "weighed", Grade.A, 1.0, as_bought=True)


def _by_volume(amount: Amount, food: Food, remarks: tuple[str, ...], region: Region) -> Weighing:
    details = remarks if amount.size not in ("packed", "loose") else (*remarks, amount.size)
    weighing = _by_volume_of(_count(amount), amount.unit or "", food, details, region, amount.fill)
    if amount.unit not in VESSELS:
        return weighing
    return replace(
        weighing,
        grams=weighing.grams.times(VESSEL_DOUBT),
        route=f"a {amount.unit} of about {millilitres(amount.unit or ''):.0f} ml; {weighing.route}",
        grade=Grade.C,
        confidence=min(MAX_CONFIDENCE, weighing.confidence),
        guess=True,
    )


def _by_volume_of(
    count: Range, unit: str, food: Food, remarks: tuple[str, ...], region: Region, fill: str | None
) -> Weighing:
    found = _volume_measure(food, unit, remarks)
    if found is None:
        raise UnitMisfit(
            f"{food.name.lower()} has no weight by the {unit} yet: give grams, or pieces"
        )
    measure, base, confidence = found
    mine, theirs = millilitres(unit, region), millilitres(base, Region.US)
    assert mine is not None
    assert theirs is not None
    grams = _of(measure).scaled(mine / theirs).times(count)
    route = f"{measure.unit} of {measure.grams:g} g"
    if fill:
        grams = grams.times(Range(*FILL[fill]))
        route += f", {fill}"
    return Weighing(grams, route, measure.grade, confidence)


def _volume_measure(
    food: Food, unit: str, remarks: tuple[str, ...]
) -> tuple[Measure, str, float] | None:
    """The measure to weigh a volume by: the same unit cut the same way first, else any other volume
    of the food."""
    by_base: dict[str, list[Measure]] = {}
    for measure in food.measures:
        base = measure.unit.partition(" ")[0]
        if base in ("tsp", "tbsp", "cup"):
            by_base.setdefault(base, []).append(measure)
    order = [unit, *sorted(by_base, key=lambda b: _distance(b, unit))]
    text = " ".join(remarks).lower()
    for base in dict.fromkeys(order):
        measures = by_base.get(base)
        if not measures:
            continue
        same = base == unit
        cut = [
            m
            for m in measures
            if (d := m.unit.partition(" ")[2]) and any(w in text for w in _DETAILS.get(d, (d,)))
        ]
        if cut:
            return cut[0], base, 1.0 if same else 0.92
        plain = [m for m in measures if " " not in m.unit]
        if plain:
            return plain[0], base, 1.0 if same else 0.95
        return measures[0], base, 0.85 if same else 0.8
    return None


def _distance(base: str, unit: str) -> float:
    mine, theirs = millilitres(base) or 1.0, millilitres(unit) or 1.0
    return abs(mine - theirs)


def _by_fruit(amount: Amount, food: Food) -> Weighing:
    unit = f"{amount.part}-of-one"
    sized = food.measure(f"{unit} {amount.size}") if amount.size else None
    measure = sized or food.measure(unit)
    if measure is None:
        raise UnitMisfit(
            f"how much {amount.part} one gives is not known for {food.name.lower()}: give spoons or"
            " grams"
        )
    return Weighing(
        _of(measure).times(_count(amount)),
        f"{amount.part} of one, {measure.grams:g} g",
        measure.grade,
        0.97,
    )


def _by_container(amount: Amount, food: Food, remarks: tuple[str, ...], region: Region) -> Weighing:
    """Cans, jars and packs: the drained weight where the food is one that is drained, else the net
    weight."""
    count = _count(amount)
    sold = [
        m
        for m in food.measures
        if m.unit.split(" ")[0]
        in (
            "can",
            "jar",
            "package",
            "block",
            "bag",
            "box",
            "container",
            "carton",
            "packet",
            "log",
            "ball",
        )
    ]
    wanted = _net_grams(amount)
    if (
        wanted is not None
        and amount.unit in ("can", "jar")
        and _UNDRAINED.search(" ".join(remarks))
    ):
        grams = wanted.times(count).times(Range.around(1.0, STATED_DOUBT))
        return Weighing(grams, "net weight on the pack, liquid and all", Grade.B, 0.85)
    if amount.package is None and (
        pack := usual_pack(food, amount.unit or "", amount.text, amount.size, region)
    ):
        return _by_usual_pack(pack, count, remarks)
    drained = [m for m in sold if "drained" in m.unit and "undrained" not in m.unit]
    if amount.unit in ("can", "jar", None) and drained:
        return _by_nearest_can(
            count, wanted.value if wanted else UNSIZED_CAN[region], wanted is None, drained
        )
    if (exact := _sold_in_this_size(amount, sold)) is not None:
        return Weighing(
            _of(exact).times(count), f"{exact.unit}, {exact.grams:g} g", exact.grade, 0.97
        )
    if wanted is not None:
        grams = wanted.times(count).times(Range.around(1.0, STATED_DOUBT))
        in_liquid = food.form in _KEPT_IN_LIQUID or re.search(r"\bdrained\b", " ".join(remarks))
        if in_liquid and amount.unit in ("can", "jar"):
            return Weighing(
                grams.times(DRAINED_SHARE), "net weight, less the liquid (estimate)", Grade.C, 0.8
            )
        return Weighing(grams, "net weight on the pack", Grade.A, 1.0)
    if amount.package is not None:
        return _by_volume_of(
            amount.package.size.times(count), amount.package.unit, food, (), region, None
        )
    same = [m for m in sold if m.unit.split(" ")[0] == amount.unit] or sold
    if same:
        return Weighing(
            _of(same[0]).times(count), f"{same[0].unit} of {same[0].grams:g} g", same[0].grade, 0.75
        )
    if amount.unit == "can":
        grams = (
            Range(UNSIZED_CAN[region], 380, 440)
            .times(count)
            .times(SIZE_OF_CAN.get(amount.size or "", Range.exact(1)))
        )
        return Weighing(grams, "a can of the usual size", Grade.C, 0.7)
    raise UnitMisfit(
        f"the size of the {amount.unit or 'pack'} is not known for {food.name.lower()}: give its"
        f" weight, as in 1 (8 oz) {amount.unit or 'pack'}"
    )


GRAMS_PER_ML_OF_CAN = 1.03
"""What a millilitre of beans in their liquid weighs; some countries sell cans by volume."""


def _net_grams(amount: Amount) -> Range | None:
    """The size of one can or pack in grams, where it was given."""
    if amount.package is None:
        return None
    volume = millilitres(amount.package.unit)
    if volume and amount.unit in ("can", "jar"):
        return amount.package.size.scaled(volume * GRAMS_PER_ML_OF_CAN)
    return amount.package.grams


_UNDRAINED = re.compile(
    r"\b(?:not|without) drain\w*|\bundrained\b|\bwith (?:its|their|the) (?:liquid|juice)", re.I
)


def _by_usual_pack(pack: Pack, count: Range, remarks: tuple[str, ...]) -> Weighing:
    """What is in one, drained where it is drained; all of it where the cook says that it is not."""
    if _UNDRAINED.search(" ".join(remarks)):
        whole = Range.around(pack.net_g, STATED_DOUBT)
        return Weighing(
            whole.times(count),
            f"the usual {pack.pack}, {pack.net_g:g} g with its liquid",
            pack.grade,
            0.75,
        )
    grams = Range(pack.grams, pack.low, pack.high)
    return Weighing(
        grams.times(count), f"the usual {pack.pack}, {pack.grams:g} g", pack.grade, 0.85
    )


_KEPT_IN_LIQUID = frozenset(
    {"brined", "canned-drained", "canned-rinsed", "canned-no-salt", "rinsed"}
)


def _sold_in_this_size(amount: Amount, sold: list[Measure]) -> Measure | None:
    """A measure for just this pack, such as the squeezed weight of a 10 oz box of frozen
    spinach."""
    if amount.package is None or amount.unit in ("can", "jar"):
        return None
    size = f"{amount.package.size.value:g} {amount.package.unit}"
    return next((m for m in sold if m.unit.startswith(f"{amount.unit} {size} ")), None)


def _by_nearest_can(count: Range, net: float, unsized: bool, drained: list[Measure]) -> Weighing:
    def net_of(measure: Measure) -> float:
        number, unit = measure.unit.split(" ")[1:3]
        return float(number) * (grams_in(unit) or 1.0)

    nearest = min(drained, key=lambda m: abs(net_of(m) - net))
    grams = _of(nearest).scaled(net / net_of(nearest)).times(count)
    if unsized:
        grams = grams.times(Range(1.0, 0.92, 1.06))
    return Weighing(
        grams, f"{nearest.unit}, {nearest.grams:g} g", nearest.grade, 0.85 if unsized else 1.0
    )


_PIECE_FALLBACKS = {
    "stalk": ("stalk", "spear", "stick", "medium", "each"),
    "slice": ("slice", "slice thick", "piece"),
    "knob": ("inch piece",),
    "leaf": ("leaf", "leaf small", "each"),
    "cm piece": ("inch piece",),
    "drizzle": ("drizzle", "splash"),
    "splash": ("splash", "drizzle"),
    "wedge": ("wedge", "slice"),
    "ball": ("ball", "each"),
    "heart": ("heart", "each"),
    "bulb": ("bulb", "head", "each"),
    "head": ("head", "bulb", "heart", "each"),
    "ear": ("ear", "each"),
    "piece": ("piece", "each", "slice"),
    "cube": ("cube", "each"),
    "fillet": ("fillet", "each"),
    "dash": ("dash", "pinch"),
    "drop": ("drop",),
    "dollop": ("dollop",),
    "squeeze": ("squeeze", "splash"),
    "handful": ("handful",),
}
_IN_TEASPOONS = {
    "pinch": Range(1 / 16, 1 / 32, 1 / 9),
    "dash": Range(1 / 8, 1 / 16, 1 / 4),
    "drizzle": Range(1.5, 0.7, 3.0),
    "splash": Range(1.3, 0.5, 3.0),
    "squeeze": Range(1.0, 0.4, 2.0),
    "dollop": Range(4.5, 2.5, 7.0),
    "drop": Range(1 / 90, 1 / 120, 1 / 60),
    "scoop": Range(11, 7, 16),
    "spoonful": Range(2.5, 1.5, 4.0),
    "handful": Range(16, 10, 24),
    "squirt": Range(1.0, 0.4, 2.0),
    "glug": Range(3.0, 1.7, 5.0),
    "lump": Range(3.0, 1.5, 5.0),
    "sprinkling": Range(0.75, 0.3, 1.5),
    "scattering": Range(1.5, 0.6, 3.0),
    "bit": Range(0.5, 0.15, 1.2),
    "little": Range(1.0, 0.3, 2.5),
    "some": Range(3.0, 1.0, 8.0),
    "lot": Range(12.0, 5.0, 24.0),
}
"""Loose measures in teaspoons, for foods without a measure of their own (kitchen estimate)."""
_SHARE_OF_ONE = {
    "wedge": Range(0.17, 0.1, 0.28),
    "slice": Range(0.1, 0.04, 0.18),
    "inch piece": Range(0.14, 0.08, 0.25),
    "cm piece": Range(0.055, 0.03, 0.1),
    "piece": Range(0.25, 0.1, 0.5),
    "knob": Range(0.1, 0.04, 0.2),
}
"""What part of a whole vegetable or fruit a piece is, for foods without a measure of it (kitchen
estimate)."""
_PIECE_SCALE = {"knob": 1.5, "cm piece": 0.394}


def _by_kind_of_food(amount: Amount, unit: str, food: Food, count: Range) -> Weighing:
    """A unit the food has no measure of: by its class, by the teaspoon, or as a part of a whole
    one.

    Raises UnitMisfit when none of them goes with it.
    """
    if one := loose_piece(food, unit, amount.size or amount.fill):
        return Weighing(
            one.times(count), f"a {unit}, by the kind of food", Grade.C, MAX_CONFIDENCE, guess=True
        )
    whole = next((m for name in _EACH_ORDER[:7] if (m := food.measure(name))), None)
    if unit in _SHARE_OF_ONE and whole is not None:
        grams = _of(whole).times(_SHARE_OF_ONE[unit]).times(count)
        return Weighing(
            grams, f"part of one of {whole.grams:g} g", Grade.C, MAX_CONFIDENCE, guess=True
        )
    if unit in _IN_TEASPOONS and (spooned := _volume_measure(food, "tsp", ())):
        spoon = _of(spooned[0]).scaled(
            (millilitres("tsp") or 1.0) / (millilitres(spooned[1]) or 1.0)
        )
        grams = spoon.times(_IN_TEASPOONS[unit]).times(count)
        if amount.size in SIZE_OF_LOOSE:
            grams = grams.times(SIZE_OF_LOOSE[amount.size])
        guess = unit not in ("pinch", "dash", "drop")
        return Weighing(
            grams,
            f"a {unit}, by the teaspoon",
            Grade.C,
            MAX_CONFIDENCE if guess else 0.85,
            guess=guess,
        )
    raise UnitMisfit(
        f"{food.name.lower()} is not measured by the {unit}: give grams, cups or spoons"
    )


_FEW = re.compile(r"\b(?:few|couple|several)\b", re.I)
_EACH_ORDER = (
    "each",
    "medium",
    "large",
    "small",
    "clove",
    "bulb",
    "head",
    "stalk",
    "fillet",
    "ear",
    "leaf",
    "slice",
)


BABY = Range(0.35, 0.2, 0.55)
"""A baby cucumber or bok choy against a full-grown one (estimate)."""


def _is_baby(food: Food, remarks: tuple[str, ...]) -> bool:
    small = r"\b(?:baby|mini|snack(?:ing)?|persian|lebanese)\b"
    return bool(re.search(small, " ".join(remarks), re.I)) and "baby" not in food.name.lower()


def _by_piece(amount: Amount, food: Food, remarks: tuple[str, ...]) -> Weighing:
    count = _count(amount)
    unit = amount.unit
    if unit in (None, "each"):
        measure = food.measure(amount.size) if amount.size in ("small", "medium", "large") else None
        if measure is None:
            measure = next((m for name in _EACH_ORDER if (m := food.measure(name))), None)
            sized = amount.size not in (None, "medium")
        else:
            sized = False
        if measure is None and (half := food.measure("each half")):
            halves = 1.0 if "halves" in " ".join(remarks) else 2.0
            grams = _of(half).times(count).scaled(halves)
            return Weighing(grams, f"halves of {half.grams:g} g", half.grade, 0.9)
        if (
            measure is None
            and _FEW.search(amount.text)
            and (few := loose_piece(food, "little", None))
        ):
            return Weighing(few, "a few, by the kind of food", Grade.C, MAX_CONFIDENCE, guess=True)
        if measure is None:
            raise UnitMisfit(
                f"the weight of one is not known for {food.name.lower()}: give grams, cups or"
                " spoons"
            )
        confidence = 0.97 if measure.unit in ("each", "medium", amount.size) else 0.85
    else:
        measure = food.measure(f"{unit} {amount.size}") if amount.size else None
        sized = measure is None and amount.size is not None
        measure = measure or next(
            (m for name in _PIECE_FALLBACKS.get(unit, (unit,)) if (m := food.measure(name))), None
        )
        if measure is None:
            return _by_kind_of_food(amount, unit, food, count)
        confidence = 0.97 if measure.unit.startswith(unit) else 0.85
    grams = _of(measure).times(count).scaled(_PIECE_SCALE.get(unit or "", 1.0))
    if unit in (None, "each", "head") and _is_baby(food, remarks):
        grams, confidence = grams.times(BABY), min(confidence, MAX_CONFIDENCE)
    if sized and amount.size in SIZE_FACTOR:
        grams = grams.times(SIZE_FACTOR[amount.size])
    elif amount.fill in SIZE_OF_LOOSE:
        grams = grams.times(SIZE_OF_LOOSE[amount.fill])
    return Weighing(
        grams,
        f"{measure.unit} of {measure.grams:g} g",
        measure.grade,
        confidence,
        as_bought=measure.unit in ("bunch", "head", "leaf"),
    )
