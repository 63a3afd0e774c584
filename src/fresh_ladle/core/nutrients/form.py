"""A recipe as numbers that no longer need its lines read or weighed: figures of thousands of
recipes in one product.

What a serving and 100 g hold, with their ranges, is linear in the figures of the foods, and its
variance quadratic (see `totals`, which says the same line by line; a property test holds the two
together). So after a food's figure has changed, recipes need not be worked out again: their forms
are multiplied with the figures of now.

A form's table is a matrix of float64. Its first row is the recipe (see `_Head`); each other row is
a line, or a food that a line could also mean (see `_Row`). Lines that weigh nothing, or that could
not be weighed, have none."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import IntEnum

import numpy as np
from numpy.typing import NDArray

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.nutrient import NUTRIENT_IDS
from fresh_ladle.core.nutrients.totals import composition_cv, serving_size_grams
from fresh_ladle.core.ranges import Z90
from fresh_ladle.core.recipes.recipe import Recipe

Array = NDArray[np.float64]
Ends = tuple[Array, Array, Array]
"""Values, lows and highs."""


class _Head(IntEnum):
    """The first row: grams of the batch, servings, what "serves 2 to 4" makes of a serving at its
    ends, whether a heavier line dilutes the rest in a serving and in 100 g, whether a line could
    not be weighed, and the mark of a first row where others have what they are another reading
    of."""

    MASS, SERVINGS, FEWEST, MOST, SERVING_BY_WEIGHT, PART_BY_WEIGHT, UNKNOWN, MARK = range(8)


class _Row(IntEnum):
    """A line: the number of its food, counted grams / 100, their standard deviations as shares,
    grams in the bowl, how much the food's figures differ from one pack to the next (sodium apart),
    and the row of the line it is another reading of, counted from the first line; -1 for a line
    itself. Factors of preparation follow, by figure."""

    FOOD, HUNDREDS, DOWN, UP, BOWL, CV, CV_SODIUM, READING_OF = range(8)


WIDTH = len(_Row) + len(NUTRIENT_IDS)
"""Numbers in a row of a form."""
_FIRST_ROW, _A_LINE = -2.0, -1.0
_PLACE = {nutrient: place for place, nutrient in enumerate(NUTRIENT_IDS)}


@dataclass(frozen=True, slots=True, eq=False)
class RecipeForm:
    """A form, with the keys of its foods in the order of the numbers by which it knows them."""

    keys: tuple[str, ...]
    table: Array

    def numbered(self, number_of: Mapping[str, int]) -> Array:
        """The same with foods known by other numbers."""
        table = self.table.copy()
        if self.keys:
            numbers = np.array([number_of[key] for key in self.keys], dtype=float)
            table[1:, _Row.FOOD] = numbers[table[1:, _Row.FOOD].astype(int)]
        return table


def recipe_form(recipe: Recipe, weighed: Sequence[Portion]) -> RecipeForm:
    """The form of a weighed recipe."""
    keys: dict[str, int] = {}

    def number_of(key: str) -> int:
        return keys.setdefault(key, len(keys))

    rows: list[list[float]] = []
    for portion in weighed:
        if portion.food is not None:
            number_of(
                portion.food.key
            )  # Known even where it has no row: what it weighs may become known.
        if not portion.known or portion.counted.value <= 0:
            continue
        place = len(rows)
        rows.append(_row(portion, number_of, _A_LINE))
        rows += [_row(other, number_of, place) for other in portion.other_readings if other.known]
    mass = recipe.yield_grams or sum(p.in_bowl.value for p in weighed)
    size = serving_size_grams(recipe, weighed)
    servings = mass / size if size and mass > 0 else recipe.servings
    fewest, most = (
        (recipe.servings_range or (recipe.servings, recipe.servings))
        if size is None
        else (1.0, 1.0)
    )
    head = np.zeros(WIDTH)
    head[: len(_Head)] = [
        mass,
        servings,
        recipe.servings / most if size is None else 1.0,
        recipe.servings / fewest if size is None else 1.0,
        size is not None and mass > 0 and recipe.yield_grams is None,
        recipe.yield_grams is None,
        any(not p.known for p in weighed),
        _FIRST_ROW,
    ]
    return RecipeForm(tuple(keys), np.vstack([head, *rows]) if rows else head[None, :])


def _row(portion: Portion, number_of: Callable[[str], int], reading_of: float) -> list[float]:
    food, counted = portion.food, portion.counted
    assert food is not None
    down, up = (
        (counted.sd_down / counted.value, counted.sd_up / counted.value)
        if counted.value > 0
        else (0.0, 0.0)
    )
    return [
        number_of(food.key),
        counted.value / 100,
        down,
        up,
        portion.in_bowl.value,
        composition_cv(portion, ""),
        composition_cv(portion, "sodium_mg"),
        reading_of,
        *(portion.factors.get(nutrient, 1.0) for nutrient in NUTRIENT_IDS),
    ]


@dataclass(frozen=True, slots=True)
class FormFigures:
    """Figures of many recipes, a row for each; a column for each figure asked for. `complete` is
    False where a line has no such figure, so that the values hold at least what is known."""

    serving: Ends
    per_100_g: Ends
    complete: NDArray[np.bool_]


def form_figures(
    table: Array, nutrients: Sequence[str], food_of: Mapping[int, Food]
) -> FormFigures:
    """The figures of recipes by their forms, one below the other: values, lows and highs in a
    serving and in 100 g. `food_of` holds the foods by their numbers."""
    batch = _Batch(table)
    foods = _FoodTable(
        table[table[:, _Row.READING_OF] != _FIRST_ROW, _Row.FOOD], nutrients, food_of
    )
    found = [batch.figures(nutrient, foods) for nutrient in nutrients]
    return FormFigures(
        _beside([one[0] for one in found]),
        _beside([one[1] for one in found]),
        np.column_stack([one[2] for one in found]),
    )


def _beside(figures: Sequence[Ends]) -> Ends:
    """Figures as columns: values, lows and highs."""
    value, low, high = (np.column_stack(end) for end in zip(*figures, strict=True))
    return value, low, high


class _FoodTable:
    """Figures of foods per 100 g, and the ends of those read from labels; what is unknown is not a
    number."""

    def __init__(
        self, numbers: Array, nutrients: Sequence[str], food_of: Mapping[int, Food]
    ) -> None:
        distinct = np.unique(numbers.astype(np.int64))
        self.place = np.zeros(int(distinct[-1]) + 1 if len(distinct) else 1, dtype=np.int64)
        self.place[distinct] = np.arange(len(distinct))
        known = [food_of[int(number)] for number in distinct]
        nothing = (np.nan, np.nan)
        self.value = {
            n: np.array([food.per_100_g[n] for food in known], dtype=float) for n in nutrients
        }
        ends = {
            n: np.array([food.ranges.get(n, nothing) for food in known], dtype=float)
            for n in nutrients
        }
        self.labels = {n: end.reshape(-1, 2) for n, end in ends.items()}


class _Batch:
    """Lines of many recipes beside one another, with the foods they could also mean. One figure is
    summed at a time, so that what is worked on stays near the processor."""

    def __init__(self, table: Array) -> None:
        reading_of = table[:, _Row.READING_OF]
        is_head, is_line, is_other = (
            reading_of == _FIRST_ROW,
            reading_of == _A_LINE,
            reading_of >= 0,
        )
        owner = np.cumsum(is_head) - 1
        self._heads = table[is_head]
        self._owner = owner[is_line]
        self._lines, self._others = table[is_line], table[is_other]
        place_of_line = np.cumsum(is_line) - 1
        first_row = np.flatnonzero(is_head)[owner[is_other]] + 1
        self._parents = place_of_line[first_row + reading_of[is_other].astype(np.int64)]
        self._starts = np.flatnonzero(np.diff(self._owner, prepend=-1))
        self._food, self._other_food = (
            rows[:, _Row.FOOD].astype(np.int64) for rows in (self._lines, self._others)
        )
        self._bowl = np.ascontiguousarray(self._lines[:, _Row.BOWL])
        self._hundreds = np.ascontiguousarray(self._lines[:, _Row.HUNDREDS])
        self._down, self._up = (self._lines[:, column] ** 2 for column in (_Row.DOWN, _Row.UP))
        mass = self._heads[:, _Head.MASS]
        self._share = np.divide(1.0, mass, out=np.zeros_like(mass), where=mass > 0)

    def figures(self, nutrient: str, foods: _FoodTable) -> tuple[Ends, Ends, NDArray[np.bool_]]:
        """One figure of each recipe: in a serving and in 100 g, and whether no line misses it."""
        value, known, others_down, others_up = self._line_figures(nutrient, foods)
        total = self._sum(value)
        by_weight = self._deviations_by_weight(value, total, others_down, others_up)
        squared = value**2
        by_count = (
            self._root(squared * self._down + others_down),
            self._root(squared * self._up + others_up),
        )
        complete = (self._sum(~known) == 0) & (self._heads[:, _Head.UNKNOWN] == 0)
        serving = self._in_a_serving(
            total, *self._chosen(_Head.SERVING_BY_WEIGHT, by_weight, by_count)
        )
        down, up = self._chosen(_Head.PART_BY_WEIGHT, by_weight, by_count)
        part = 100 * self._share
        return (
            serving,
            (total * part, np.maximum(0.0, total - Z90 * down) * part, (total + Z90 * up) * part),
            complete,
        )

    def _line_figures(
        self, nutrient: str, foods: _FoodTable
    ) -> tuple[Array, NDArray[np.bool_], Array, Array]:
        """Of each line: its figure in the batch, whether its food has one, and what packs, labels
        and other readings do to it as squared deviations down and up."""
        place = foods.place[self._food]
        grams = self._hundreds * self._lines[:, len(_Row) + _PLACE[nutrient]]
        value = foods.value[nutrient][place] * grams
        known = ~np.isnan(value)
        value[~known] = 0.0
        cv = self._lines[:, _Row.CV_SODIUM if nutrient == "sodium_mg" else _Row.CV]
        down = (value * cv) ** 2
        up = down.copy()
        labels = foods.labels[nutrient]
        labelled = np.flatnonzero(~np.isnan(labels[:, 0])[place])
        if len(labelled):
            ends = labels[place[labelled]] * grams[labelled, None]
            down[labelled] += (np.maximum(0.0, value[labelled] - ends[:, 0]) / Z90) ** 2
            up[labelled] += (np.maximum(0.0, ends[:, 1] - value[labelled]) / Z90) ** 2
        if len(self._others):
            grams = self._others[:, _Row.HUNDREDS] * self._others[:, len(_Row) + _PLACE[nutrient]]
            other = foods.value[nutrient][foods.place[self._other_food]] * grams
            least, most = value.copy(), value.copy()
            np.fmin.at(least, self._parents, other)
            np.fmax.at(most, self._parents, other)
            down += ((value - least) / Z90) ** 2
            up += ((most - value) / Z90) ** 2
        return value, known, down, up

    def _deviations_by_weight(
        self, value: Array, total: Array, others_down: Array, others_up: Array
    ) -> tuple[Array, Array]:
        """Standard deviations of the batch, down and up, where a heavier line dilutes the rest."""
        sensitivity = value - (total * self._share)[self._owner] * self._bowl
        falls, squared = sensitivity < 0, sensitivity**2
        down = np.where(falls, self._up, self._down)
        up = np.where(falls, self._down, self._up)
        return self._root(squared * down + others_down), self._root(squared * up + others_up)

    def _root(self, variances: Array) -> Array:
        return np.sqrt(self._sum(variances))

    def _chosen(
        self, flag: _Head, by_weight: tuple[Array, Array], by_count: tuple[Array, Array]
    ) -> tuple[Array, Array]:
        weighed = self._heads[:, flag] > 0
        return np.where(weighed, by_weight[0], by_count[0]), np.where(
            weighed, by_weight[1], by_count[1]
        )

    def _in_a_serving(self, total: Array, down: Array, up: Array) -> Ends:
        """The batch divided; "serves 2 to 4" adds its own doubt at both ends."""
        servings = self._heads[:, _Head.SERVINGS]
        each = np.divide(total, servings, out=np.zeros_like(total), where=servings > 0)
        of_one = np.where(servings > 0, servings, 1.0)
        low, high = np.maximum(0.0, each - Z90 * down / of_one), each + Z90 * up / of_one
        fewest, most = self._heads[:, _Head.FEWEST], self._heads[:, _Head.MOST]
        ranged = (each > 0) & ((fewest != 1.0) | (most != 1.0))
        safe = np.where(each > 0, each, 1.0)
        fall = np.sqrt(((each - low) / safe) ** 2 + (1 - fewest) ** 2)
        rise = np.sqrt(((high - each) / safe) ** 2 + (most - 1) ** 2)
        return (
            each,
            np.where(ranged, each * np.maximum(0.0, 1 - fall), low),
            np.where(ranged, each * (1 + rise), high),
        )

    def _sum(self, of_lines: NDArray[np.float64] | NDArray[np.bool_]) -> Array:
        """Sums of lines by recipe."""
        sums = np.zeros(len(self._heads))
        if len(of_lines):
            sums[self._owner[self._starts]] = np.add.reduceat(
                of_lines, self._starts, dtype=np.float64
            )
        return sums
