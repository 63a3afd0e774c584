"""What is bought for a service: as sold, in wholes, by part of the store, and what is left over;
what it costs."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import ceil

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.foods.food import Food, Pack
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.recipes.region import Region
from fresh_ladle.core.service.scaling import weight_words
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.costs import FREE

_SECTIONS = (
    (
        "vegetables and fruit",
        {"vegetable", "root-tuber", "leafy", "tomato", "fruit", "allium", "fungus-sea"},
    ),
    ("herbs", {"herb"}),
    ("dairy, eggs, tofu", {"dairy", "cheese", "egg", "soy"}),
    ("fish and meat", {"protein"}),
    ("cans and jars", {"pickle-olive"}),
    (
        "grain, beans, dry goods",
        {"legume", "grain-pasta", "dried-fruit", "bread-chip", "thickener", "sweetener"},
    ),
    ("nuts, seeds, pastes", {"nut-seed", "nut-seed-butter"}),
    ("oil, vinegar, condiments", {"fat-oil", "acid", "liquid"}),
    ("salt and spice", {"spice", "salt-salty"}),
)
"""Parts of a store in the order they are walked, by food group."""
_PIECES = ("each", "medium", "head", "bunch", "bulb")
_FORMS_IN_CANS = ("canned",)


@dataclass(frozen=True, slots=True)
class PackPrice:
    """What a pack of a food costs in the practice's own money, and the grams in it as bought."""

    price: float
    grams: float

    def __post_init__(self) -> None:
        if self.price < 0 or self.grams <= 0:
            raise RecipeError(
                f"a pack costs 0 or more and holds something; {self.price:g} for {self.grams:g} g"
                " was given"
            )


@dataclass(frozen=True, slots=True)
class Purchase:
    """One food to buy. `grams` are as bought, trim included, with what is in stock taken off;
    `packs` of `pack_grams` each, called `pack`, or 0 where it is bought by weight; `left_over`
    grams stay. `cost` is of the packs and `used_cost` of what is used; None without a price."""

    food: Food
    section: str
    grams: Range
    packs: int
    pack: str
    pack_grams: float
    left_over: float
    cost: float | None
    used_cost: Range | None

    @property
    def words(self) -> str:
        """`3 cans of 425 g`, `1.2 kg`."""
        if not self.packs:
            return weight_words(self.grams.value)
        if self.pack in _PIECES:
            return f"{self.packs} ({weight_words(self.packs * self.pack_grams)})"
        name = self.pack if self.packs == 1 else f"{self.pack}s"
        return f"{self.packs} {name} of {weight_words(self.pack_grams)}"


def section_of(food: Food) -> str:
    """The part of the store a food stands in."""
    if food.form.startswith(_FORMS_IN_CANS):
        return "cans and jars"
    return next((name for name, groups in _SECTIONS if food.group in groups), "the rest")


SECTIONS = (*(name for name, _ in _SECTIONS), "the rest")


def as_bought(portion: Portion) -> Range:
    """The weight of a line as it is bought: what is cut by the cup was trimmed before, so the trim
    is added."""
    food = portion.food
    share = food.edible_share if food is not None else None
    trimmed_before = any(word in portion.line.amount.lower().split() for word in _BY_VOLUME)
    if share is None or not trimmed_before or food is None:
        return portion.measured
    measured = portion.measured
    return Range(
        measured.value / (share.grams / 100),
        measured.low / (share.high / 100),
        measured.high / (share.low / 100),
    )


_BY_VOLUME = frozenset(
    ("cup", "cups", "tbsp", "tablespoon", "tablespoons", "tsp", "teaspoon", "teaspoons", "ml", "l")
)


def shopping(
    dishes: Sequence[tuple[Appraisal, float]],
    prices: Mapping[str, PackPrice],
    stock: Mapping[str, float] | None = None,
    region: Region = Region.US,
) -> list[Purchase]:
    """One list for all dishes, each with how many times its recipe is made, in the order of the
    store."""
    needed: dict[str, Range] = {}
    foods: dict[str, Food] = {}
    for appraisal, factor in dishes:
        for portion in appraisal.portions:
            food = portion.food
            if food is None or food.key in FREE or portion.measured.value <= 0:
                continue
            more = as_bought(portion).scaled(factor)
            foods[food.key] = food
            had = needed.get(food.key, Range(0.0, 0.0, 0.0))
            needed[food.key] = Range(
                had.value + more.value, had.low + more.low, had.high + more.high
            )
    bought = [
        _purchase(foods[key], grams, prices.get(key), (stock or {}).get(key, 0.0), region)
        for key, grams in needed.items()
    ]
    return sorted(bought, key=lambda p: (SECTIONS.index(p.section), p.food.name))


def _purchase(
    food: Food, used: Range, price: PackPrice | None, in_stock: float, region: Region
) -> Purchase:
    grams = Range(*(max(0.0, end - in_stock) for end in (used.value, used.low, used.high)))
    name, size = _sold_as(food, price, region)
    packs = ceil(grams.value / size - 1e-6) if size else 0
    left = packs * size - grams.value if size else 0.0
    cost = used_cost = None
    if price is not None:
        per_gram = price.price / price.grams
        cost = (packs * size if size else grams.value) * per_gram
        used_cost = used.scaled(per_gram)
    return Purchase(
        food, section_of(food), grams, packs, name, size, max(0.0, left), cost, used_cost
    )


def _sold_as(food: Food, price: PackPrice | None, region: Region) -> tuple[str, float]:
    """What a food is bought as and what that weighs of it; nothing where it is bought by weight."""
    if price is not None:
        return "pack", price.grams
    if (usual := usual_pack(food, region)) is not None:
        return usual.pack, usual.grams
    for unit in _PIECES:
        if (measure := food.measure(unit)) is not None and food.group not in ("nut-seed", "spice"):
            return unit, measure.grams
    return "", 0.0


def usual_pack(food: Food, region: Region) -> Pack | None:
    """The pack a food is usually sold in there; None for one that is not sold in packs."""
    here = [p for p in food.packs if p.region == _REGION[region] and p.usual] or [
        p for p in food.packs if p.usual
    ]
    return min(here, key=lambda p: abs(p.grams - 400)) if here else None


_REGION = {Region.US: "us", Region.METRIC: "eu", Region.IMPERIAL: "uk"}


@dataclass(frozen=True, slots=True)
class ServiceCost:
    """What a serving costs by what is used of each food, trim included; `unknown` names foods
    without a price."""

    value: float
    low: float
    high: float
    unknown: tuple[str, ...]


def cost_per_serving(purchases: Iterable[Purchase], servings: float) -> ServiceCost:
    """The foods of all purchases shared out over the servings."""
    value = low = high = 0.0
    unknown = []
    for one in purchases:
        if one.used_cost is None:
            unknown.append(one.food.kitchen_name)
        else:
            value, low, high = (
                value + one.used_cost.value,
                low + one.used_cost.low,
                high + one.used_cost.high,
            )
    return ServiceCost(value / servings, low / servings, high / servings, tuple(unknown))
