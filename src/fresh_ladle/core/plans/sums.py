"""A bowl as a row of sums, so that thousands of versions of one recipe can be tasted and counted at
once.

Everything the workbench says of a version (figures and their doubt, the nine tastes, the size of
the batch) follows from sums over its lines: grams, water, nutrients, what each line brings to a
taste, variances. A change of a line is a difference of such rows; a version is the recipe's row and
its differences added. What is worked out here for many rows agrees with `appraise` for one; a test
holds the two together."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import log
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.flavor.drift import saturated
from fresh_ladle.core.flavor.parameters import (
    AXES,
    AXIS_IDS,
    SAVORY_CEILING_MG,
    SURFACE_SALT,
    SYNERGY,
    Setting,
    weber,
)
from fresh_ladle.core.flavor.perception import perceived
from fresh_ladle.core.flavor.smell import (
    FAMILY_IDS,
    aroma_shifts,
    families_of,
    family_steps,
    shared_between,
)
from fresh_ladle.core.flavor.stimuli import brought, nucleotides_mg, on_the_surface, water_share
from fresh_ladle.core.flavor.texture import MOST_TEXTURE_STEPS, TEXTURES, Carrier
from fresh_ladle.core.nutrients.targets import Basis, Side, Target
from fresh_ladle.core.nutrients.totals import (
    ambiguity_variances,
    composition_cv,
    density_g_per_ml,
    line_figures,
    serving_size_grams,
)
from fresh_ladle.core.plans.textured import TextureOf
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.whole.appraisal import Appraisal

Rows = NDArray[np.float64]
MASS, WATER, VOLUME, NUCLEOTIDE, COST = range(5)
TASTES = slice(5, 5 + len(AXES))
SMELLS = slice(TASTES.stop, TASTES.stop + len(FAMILY_IDS))
TEXTURE = slice(SMELLS.stop, SMELLS.stop + len(TEXTURES))
"""Steps of texture from the original, by axis: what each move alone does to them adds up."""
FIRST = TEXTURE.stop
VALUE, MISSING, OWN, ACROSS, BOTH = range(5)
"""Of each target: its figure, lines that do not have it, and the variances of what each line brings
(OWN), of that with its weight (ACROSS), and of its weight alone (BOTH)."""
PER_TARGET = 5
_SAVORY, _BODY, _AROMA = (AXIS_IDS.index(a) for a in ("savory", "body", "aroma"))
FLOORS = np.array([a.floor for a in AXES])
STEP_UNITS = np.array([log(1 + weber(a, Setting.FROM_MEMORY)) for a in AXES])
_WEIGHTS = np.array([a.weight for a in AXES]) / (sum(a.weight for a in AXES) / len(AXES))


@dataclass(frozen=True)
class Tasted:
    """Many versions worked out. `misses` are shares of each limit by which it is missed at the
    chance asked for, below 0 where it is met with room (versions, targets); `steps` signed steps
    from the original (versions, axes); `others` the shift of smell and the steps of texture
    (versions, 1 + textures); `drift` the weighted root sum of squares of all these; `mass` grams in
    the bowl; `tasted` what each axis is perceived as."""

    misses: Rows
    values: Rows
    steps: Rows
    others: Rows
    drift: Rows
    mass: Rows
    tasted: Rows


class Bowl:
    """What turns rows of sums into figures and tastes, for one recipe, one original and one set of
    targets."""

    def __init__(
        self,
        now: Appraisal,
        original: Appraisal,
        targets: Sequence[Target],
        chance: float,
        prices: Mapping[str, float] | None = None,
        carriers: Sequence[Carrier] = (),
    ) -> None:
        self.targets = tuple(targets)
        self._now, self._prices = now, prices or {}
        self._need = NormalDist().inv_cdf(chance)
        self._smell = original.smell
        self.known = np.array([original.tasted[a] for a in AXIS_IDS])
        recipe = now.recipe
        self._yield_grams = recipe.yield_grams
        self._by_weight = (
            serving_size_grams(recipe, now.portions) is not None and recipe.yield_grams is None
        )
        self._serving_grams = serving_size_grams(recipe, now.portions)
        by_volume = (
            recipe.serving_grams is None
            and recipe.yield_grams is None
            and recipe.serving_ml is not None
        )
        self._serving_ml = recipe.serving_ml if by_volume and recipe.yield_ml is None else None
        """Set where the servings follow from the volume of the lines."""
        self._servings_stay = recipe.yield_grams is not None or (
            by_volume and recipe.yield_ml is not None
        )
        fewest, most = recipe.servings_range or (recipe.servings, recipe.servings)
        self._fewer, self._more = 1 - recipe.servings / most, recipe.servings / fewest - 1
        self.texture = TextureOf(original, now, carriers)
        self.start = self.sums(now.portions)
        self.start[TEXTURE] = self.texture.start
        self.keeps_weight = not (self._by_weight or by_volume)
        """Whether a serving weighs what the bowl over the servings does, so that a smaller bowl is
        less to eat."""

    def sums(self, portions: Iterable[Portion]) -> Rows:
        """The row of a set of lines."""
        row = np.zeros(FIRST + PER_TARGET * len(self.targets))
        for portion in portions:
            row += self._row_of(portion)
        return row

    def _row_of(self, portion: Portion) -> Rows:
        row = np.zeros(FIRST + PER_TARGET * len(self.targets))
        food, counted, mass = portion.food, portion.counted.value, portion.in_bowl.value
        row[MASS] = mass
        if not portion.known or food is None:
            row[FIRST + MISSING :: PER_TARGET] = 1.0
            return row
        row[WATER] = water_share(food) * counted + (mass - counted)
        row[VOLUME] = mass / density_g_per_ml([portion]) if mass > 0 else 0.0
        row[NUCLEOTIDE] = nucleotides_mg(portion) if counted > 0 else 0.0
        row[COST] = self._prices.get(food.key, 0.0) * portion.measured.value / 100
        if counted > 0:
            salt = portion.factors.get("sodium_mg", 1.0) * (
                SURFACE_SALT if on_the_surface(portion) else 1.0
            )
            aroma = brought(portion, "aroma") or 0.0
            row[SMELLS] = shared_between(families_of(portion), aroma)
            row[TASTES] = [
                (brought(portion, a) or 0.0) * (salt if a == "salt" else 1.0) for a in AXIS_IDS
            ]
        figures = line_figures(portion)
        for place, target in enumerate(self.targets):
            at = FIRST + PER_TARGET * place
            value = figures[target.nutrient]
            if value is None:
                row[at + MISSING] = 1.0 if counted > 0 else 0.0
                continue
            row[at + VALUE] = value
            if counted > 0:
                row[at + OWN : at + BOTH + 1] = self._variances(portion, target, value)
        return row

    def _variances(
        self, portion: Portion, target: Target, value: float
    ) -> tuple[float, float, float]:
        """On the side on which the target may be missed. A line that dilutes the figure errs the
        other way round."""
        counted, mass = portion.counted, portion.in_bowl.value
        by_weight = target.basis is Basis.HUNDRED_GRAMS and self._yield_grams is None
        by_weight = by_weight or (target.basis is Basis.SERVING and self._by_weight)
        dilution = 0.0
        if by_weight and self._now.totals.batch_grams.value > 0:
            dilution = (
                self._now.totals.batch[target.nutrient].value
                * mass
                / self._now.totals.batch_grams.value
            )
        upper = (target.side is Side.AT_MOST) == (value >= dilution)
        amount = (counted.sd_up if upper else counted.sd_down) / counted.value
        doubt = ambiguity_variances(portion, value, target.nutrient)[target.side is Side.AT_MOST]
        own = (
            (value * composition_cv(portion, target.nutrient)) ** 2 + doubt + (value * amount) ** 2
        )
        return (
            own,
            value * mass * amount**2 if by_weight else 0.0,
            (mass * amount) ** 2 if by_weight else 0.0,
        )

    def scaled(self, row: Rows, factor: float) -> Rows:
        """The row of so many times the same: variances go with the square, what is unknown stays
        so."""
        found = np.array(row * factor)
        for at in range(FIRST, len(row), PER_TARGET):
            found[at + MISSING] = row[at + MISSING]
            found[at + OWN : at + BOTH + 1] *= factor
        return found

    def tasted(self, rows: Rows) -> Tasted:
        """Works out versions given as rows, shape (versions, sums)."""
        mass, whole = np.maximum(rows[:, MASS], 1e-6), self._whole(rows)
        tasted = perceived(self._stimuli(rows, whole), self._now.celsius)
        plain_steps: Rows = np.log((tasted + FLOORS) / (self.known + FLOORS)) / STEP_UNITS
        steps = saturated(plain_steps)
        smells = np.maximum(rows[:, SMELLS], 0.0) / whole[:, None]
        families = family_steps(smells, self._smell.by_family, Setting.FROM_MEMORY)
        shifts = aroma_shifts(families, self._smell.likeness)
        misses, values = self._misses(rows, whole)
        textures = np.clip(rows[:, TEXTURE], 0.0, MOST_TEXTURE_STEPS)
        drift = np.sqrt(
            (steps**2) @ _WEIGHTS + _WEIGHTS[_AROMA] * shifts**2 + (textures**2).sum(axis=1)
        )
        return Tasted(
            misses, values, steps, np.column_stack([shifts, textures]), drift, mass, tasted
        )

    def misses(self, rows: Rows) -> Rows:
        """By what share of each limit it is missed at the chance asked for, below 0 where it is met
        with room."""
        return self._misses(rows, self._whole(rows))[0]

    def allowance(self, target: Target, limit: float) -> tuple[Rows, float]:
        """What a limit on a target allows the batch: so much for each unit of the sums, and so much
        besides."""
        allowed = np.zeros_like(self.start)
        if target.basis is Basis.HUNDRED_GRAMS:
            if self._yield_grams is not None:
                return allowed, limit * self._yield_grams / 100
            allowed[MASS] = limit / 100
        elif self._serving_ml is not None:
            allowed[VOLUME] = limit / self._serving_ml
        elif self._serving_grams is not None and not self._servings_stay:
            allowed[MASS] = limit / self._serving_grams
        else:
            return allowed, limit * self._now.totals.servings
        return allowed, 0.0

    def stimuli(self, rows: Rows) -> Rows:
        """The nine stimuli per 100 g of each version, before they change each other: what windows
        speak of."""
        return self._stimuli(rows, self._whole(rows))

    def _whole(self, rows: Rows) -> Rows:
        mass = np.maximum(rows[:, MASS], 1e-6)
        return np.full_like(mass, self._yield_grams) if self._yield_grams else mass

    def _stimuli(self, rows: Rows, whole: Rows) -> Rows:
        plain = np.maximum(rows[:, TASTES], 0.0) / whole[:, None]
        lift = 1.0 + SYNERGY * rows[:, NUCLEOTIDE] / whole / 1000
        plain[:, _SAVORY] = np.minimum(plain[:, _SAVORY] * lift, SAVORY_CEILING_MG)
        solids = np.maximum(0.01, 1.0 - np.maximum(0.0, rows[:, WATER]) / whole)
        plain[:, _BODY] *= solids**0.8
        return plain

    def _misses(self, rows: Rows, whole: Rows) -> tuple[Rows, Rows]:
        misses = np.empty((len(rows), len(self.targets)))
        values = np.empty_like(misses)
        for place, target in enumerate(self.targets):
            at = FIRST + PER_TARGET * place
            total = rows[:, at + VALUE]
            parts = (
                whole / 100 if target.basis is Basis.HUNDRED_GRAMS else self._servings(rows, whole)
            )
            share = total / whole
            variance = (
                rows[:, at + OWN] - 2 * share * rows[:, at + ACROSS] + share**2 * rows[:, at + BOTH]
            )
            value, spread = total / parts, np.sqrt(np.maximum(variance, 0.0)) / parts
            if target.basis is Basis.SERVING and self._serving_grams is None:
                servings = (self._more if target.side is Side.AT_MOST else self._fewer) / Z90
                spread = np.sqrt(spread**2 + (value * servings) ** 2)
            scale = max(target.limit, 1e-6)
            if target.side is Side.AT_MOST:
                misses[:, place] = (value + self._need * spread - target.limit) / scale
                misses[:, place] += np.where(rows[:, at + MISSING] > 0.5, 10.0, 0.0)
            else:
                misses[:, place] = (target.limit - value + self._need * spread) / scale
            values[:, place] = value
        return misses, values

    def _servings(self, rows: Rows, whole: Rows) -> Rows:
        if self._serving_ml is not None:
            return np.maximum(rows[:, VOLUME], 1e-6) / self._serving_ml
        if self._serving_grams is not None and not self._servings_stay:
            return np.asarray(whole / self._serving_grams)
        return np.full(len(rows), self._now.totals.servings)
