"""Adds figures up: per line, per batch, per serving, with what is unknown, how doubtful it is, and
what to weigh.

The 90% range of a total comes from independent errors of the amounts and of the composition, to
first order: the variance of a sum of lines is the sum over lines of (sensitivity × standard
deviation)². Below and above the typical value are reckoned apart, since household measures run over
more often than under."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.amounts.units import millilitres
from fresh_ladle.core.amounts.weigh import SCALE_DOUBT
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.ranges import Z90, Range
from fresh_ladle.core.recipes.recipe import Recipe

PRODUCE_CV = 0.10
GOODS_CV = 0.05
"""Default coefficients of variation of composition: what one carrot or one jar differs from the
table."""
_PRODUCE = frozenset(
    [
        "leafy",
        "vegetable",
        "root-tuber",
        "allium",
        "herb",
        "fruit",
        "tomato",
        "fungus-sea",
        "legume",
        "nut-seed",
        "dried-fruit",
        "grain-pasta",
        "protein",
        "egg",
    ]
)
_CANNED_SODIUM_CV = 0.20
"""Canned legumes differ by about a third between cans; 0.20 makes that the 90% range."""


@dataclass(frozen=True, slots=True)
class Figure:
    """A total of one nutrient. When `missing` names lines, the value holds at least what is
    known."""

    value: float
    low: float
    high: float
    missing: tuple[str, ...] = ()

    @property
    def complete(self) -> bool:
        return not self.missing


@dataclass(frozen=True, slots=True)
class UncertaintyShare:
    """How much of the variance of one figure a line causes, and the range that would be left if it
    were weighed."""

    line_id: str
    name: str
    share: float
    low_if_weighed: float
    high_if_weighed: float


@dataclass(frozen=True, slots=True)
class Totals:
    """Figures of a recipe by nutrient id. `per_line` maps line id to figures of the batch; None is
    unknown."""

    batch_grams: Range
    serving_grams: float
    servings: float
    per_line: dict[str, dict[str, float | None]]
    batch: dict[str, Figure]
    serving: dict[str, Figure]
    known_mass_share: float


def composition_cv(portion: Portion, nutrient_id: str) -> float:
    """Relative standard deviation of a figure of this food from one pack or plant to the next
    (default)."""
    food = portion.food
    if food is None:
        return 0.0
    if nutrient_id == "sodium_mg" and food.form in ("canned-drained", "canned-rinsed"):
        return _CANNED_SODIUM_CV
    if food.key in ("water", "table-salt"):
        return 0.0
    return PRODUCE_CV if food.group in _PRODUCE else GOODS_CV


def line_figures(portion: Portion) -> dict[str, float | None]:
    """Figures of one line in the batch: grams counted ÷ 100 × figure per 100 g × preparation
    factor."""
    if not portion.known or portion.food is None:
        return dict.fromkeys(NUTRIENT_IDS)
    grams = portion.counted.value
    figures: dict[str, float | None] = {}
    for nutrient in NUTRIENT_IDS:
        per_100_g = portion.food.per_100_g[nutrient]
        figures[nutrient] = (
            None
            if per_100_g is None
            else grams / 100 * per_100_g * portion.factors.get(nutrient, 1.0)
        )
    return figures


def totals(recipe: Recipe, weighed: Sequence[Portion]) -> Totals:
    """All figures of a recipe from its weighed lines."""
    per_line = {p.line.id: line_figures(p) for p in weighed}
    batch_grams = (
        Range.around(recipe.yield_grams, SCALE_DOUBT)
        if recipe.yield_grams
        else _mass_range(weighed)
    )
    mass = batch_grams.value
    size = serving_size_grams(recipe, weighed)
    # A measured yield is not changed by what the lines weigh, so nothing dilutes anything.
    by_weight = size is not None and mass > 0 and recipe.yield_grams is None
    servings = mass / size if size and mass > 0 else recipe.servings
    batch: dict[str, Figure] = {}
    serving: dict[str, Figure] = {}
    for nutrient in NUTRIENT_IDS:
        value = sum(per_line[p.line.id][nutrient] or 0.0 for p in weighed)
        missing = tuple(
            _line_name(p) for p in weighed if per_line[p.line.id][nutrient] is None and _counts(p)
        )
        down, up = _deviations(weighed, per_line, nutrient, mass, value, by_weight=False)
        batch[nutrient] = Figure(
            value, max(0.0, value - Z90 * sqrt(sum(down))), value + Z90 * sqrt(sum(up)), missing
        )
        if by_weight:
            down, up = _deviations(weighed, per_line, nutrient, mass, value, by_weight)
        each = value / servings if servings else 0.0
        spread = Range(
            each,
            max(0.0, each - Z90 * sqrt(sum(down)) / servings),
            each + Z90 * sqrt(sum(up)) / servings,
        )
        served = spread.times(_of_one_serving(recipe)) if size is None and each > 0 else spread
        serving[nutrient] = Figure(each, served.low, served.high, missing)
    known = sum(p.in_bowl.value for p in weighed if p.known)
    in_all = sum(p.in_bowl.value for p in weighed)
    return Totals(
        batch_grams,
        mass / servings if servings else 0.0,
        servings,
        per_line,
        batch,
        serving,
        known / in_all if in_all else 0.0,
    )


def figure_per_100_g(
    recipe: Recipe, weighed: Sequence[Portion], figures: Totals, nutrient: str
) -> Figure:
    """A figure in 100 g of the finished mix. A heavier line dilutes the rest, unless the batch
    itself was weighed."""
    mass, batch = figures.batch_grams.value, figures.batch[nutrient]
    if mass <= 0:
        return Figure(0.0, 0.0, 0.0, batch.missing)
    down, up = _deviations(
        weighed, figures.per_line, nutrient, mass, batch.value, by_weight=recipe.yield_grams is None
    )
    part = 100 / mass
    low, high = batch.value - Z90 * sqrt(sum(down)), batch.value + Z90 * sqrt(sum(up))
    return Figure(batch.value * part, max(0.0, low) * part, high * part, batch.missing)


def density_g_per_ml(weighed: Sequence[Portion]) -> float:
    """Density of the mix from the spoon and cup weights of its foods; a food without any counts as
    water.

    Volumes are added, which overstates a mix in which dry things sink into liquid: an estimate.
    """
    volume = mass = 0.0
    for portion in weighed:
        if portion.food is None or portion.in_bowl.value <= 0:
            continue
        found = next(
            ((m, u) for u in ("cup", "tbsp", "tsp") if (m := portion.food.measure(u))), None
        )
        density = found[0].grams / (millilitres(found[1]) or 1.0) if found else 1.0
        volume += portion.in_bowl.value / density
        mass += portion.in_bowl.value
    return mass / volume if volume else 1.0


def serving_size_grams(recipe: Recipe, weighed: Sequence[Portion]) -> float | None:
    """Grams of one serving when its size is fixed by weight or volume; None when servings are
    counted."""
    if recipe.serving_grams is not None:
        return recipe.serving_grams
    if recipe.serving_ml is not None:
        mass = recipe.yield_grams or sum(p.in_bowl.value for p in weighed)
        density = mass / recipe.yield_ml if recipe.yield_ml else density_g_per_ml(weighed)
        return recipe.serving_ml * density
    return None


def _of_one_serving(recipe: Recipe) -> Range:
    """What "serves 2 to 4" does to a serving, as factors: two eat more each than four."""
    fewest, most = recipe.servings_range or (recipe.servings, recipe.servings)
    return Range(1.0, recipe.servings / most, recipe.servings / fewest)


def _counts(portion: Portion) -> bool:
    """A line with an unknown figure matters unless it is known to weigh nothing."""
    return not portion.known or portion.counted.value > 0


def _line_name(portion: Portion) -> str:
    return portion.food.name if portion.food else portion.line.text


def _mass_range(weighed: Sequence[Portion]) -> Range:
    mass = sum(p.in_bowl.value for p in weighed)
    down = sqrt(sum(p.in_bowl.sd_down**2 for p in weighed))
    up = sqrt(sum(p.in_bowl.sd_up**2 for p in weighed))
    return Range(mass, max(0.0, mass - Z90 * down), mass + Z90 * up)


def _deviations(
    weighed: Sequence[Portion],
    per_line: dict[str, dict[str, float | None]],
    nutrient: str,
    mass: float,
    total: float,
    by_weight: bool,
) -> tuple[list[float], list[float]]:
    """Squared deviations of the total, in its own unit, that each line causes: downwards and
    upwards.

    Served by weight, a heavier line also dilutes the rest: the sensitivity of the total in a fixed
    weight to a relative error e of line i is v_i − total × m_i/mass, with v_i its figure and m_i
    its mass. Served by count it is v_i."""
    down, up = [], []
    for portion in weighed:
        value = per_line[portion.line.id][nutrient] or 0.0
        counted = portion.counted
        if counted.value <= 0:
            down.append(0.0)
            up.append(0.0)
            continue
        dilution = total * portion.in_bowl.value / mass if by_weight and mass else 0.0
        sensitivity = value - dilution
        composition = (value * composition_cv(portion, nutrient)) ** 2
        relative_down, relative_up = counted.sd_down / counted.value, counted.sd_up / counted.value
        if sensitivity < 0:
            relative_down, relative_up = relative_up, relative_down
        doubt_down, doubt_up = ambiguity_variances(portion, value, nutrient)
        down.append((sensitivity * relative_down) ** 2 + composition + doubt_down)
        up.append((sensitivity * relative_up) ** 2 + composition + doubt_up)
    return down, up


def ambiguity_variances(portion: Portion, value: float, nutrient: str) -> tuple[float, float]:
    """Squared deviations, down and up, that come from not knowing which food the line means: its
    other readings are taken as the ends of a 90% range."""
    if not portion.other_readings and (portion.food is None or nutrient not in portion.food.ranges):
        return 0.0, 0.0
    readings = [
        figure
        for other in portion.other_readings
        if (figure := line_figures(other)[nutrient]) is not None
    ]
    low, high = min([value, *readings]), max([value, *readings])
    label_low, label_high = _label_ends(portion, value, nutrient)
    return ((value - low) / Z90) ** 2 + label_low**2, ((high - value) / Z90) ** 2 + label_high**2


def _label_ends(portion: Portion, value: float, nutrient: str) -> tuple[float, float]:
    """Standard deviations, down and up, of a figure read from a rounded label."""
    if portion.food is None or nutrient not in portion.food.ranges:
        return 0.0, 0.0
    low, high = (
        end * portion.counted.value / 100 * portion.factors.get(nutrient, 1.0)
        for end in portion.food.ranges[nutrient]
    )
    return max(0.0, value - low) / Z90, max(0.0, high - value) / Z90


def what_to_weigh(
    recipe: Recipe, weighed: Sequence[Portion], figures: Totals, nutrient: str
) -> list[UncertaintyShare]:
    """Lines ranked by the share of the variance of one figure per serving that their amount causes.

    The range left if a line were weighed keeps its composition doubt and gives its grams ±1%.
    """
    mass = figures.batch_grams.value
    by_weight = serving_size_grams(recipe, weighed) is not None and recipe.yield_grams is None
    total = figures.batch[nutrient].value
    down, up = _deviations(weighed, figures.per_line, nutrient, mass, total, by_weight)
    all_down, all_up = sum(down), sum(up)
    ranked = []
    for place, portion in enumerate(weighed):
        value = figures.per_line[portion.line.id][nutrient] or 0.0
        weighed_variance = (value * composition_cv(portion, nutrient)) ** 2 + (
            value * 0.01 / Z90
        ) ** 2
        doubt_down, doubt_up = ambiguity_variances(portion, value, nutrient)
        left_down = max(0.0, all_down - down[place]) + min(
            weighed_variance + doubt_down, down[place]
        )
        left_up = max(0.0, all_up - up[place]) + min(weighed_variance + doubt_up, up[place])
        both = all_down + all_up
        gain = (all_down - left_down + all_up - left_up) / both if both else 0.0
        each = figures.serving[nutrient].value
        ranked.append(
            UncertaintyShare(
                portion.line.id,
                _line_name(portion),
                gain,
                max(0.0, each - Z90 * sqrt(left_down) / figures.servings),
                each + Z90 * sqrt(left_up) / figures.servings,
            )
        )
    return sorted((d for d in ranked if d.share > 0.001), key=lambda d: -d.share)
