"""How many servings a batch makes, however a cook says its size: a count, half of it, two liters, 3
kg, five jars, or as far as twelve heads of lettuce go."""

from __future__ import annotations

import re
from dataclasses import replace
from math import floor

from fresh_ladle.core.amounts.bowl import Portion, portions
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.units import grams_in, millilitres
from fresh_ladle.core.bench.addition import read_addition
from fresh_ladle.core.nutrients.totals import density_g_per_ml
from fresh_ladle.core.recipes.recipe import Line, RecipeError
from fresh_ladle.core.service.scaling import checked_servings
from fresh_ladle.core.whole.appraisal import Appraisal

_NUMBER = r"(?P<number>\d+(?:[.,]\d+)?)"
_SHARE = re.compile(
    rf"(?P<word>half|double|twice|triple|{_NUMBER}\s*(?:x|×|times))(?:\s+(?:of\s+)?(?:it|everything|the"
    r" recipe))?"
)
_VESSELS = re.compile(
    rf"{_NUMBER}\s+(?:jars?|bowls?|tubs?|bottles?)\s+of\s+(?P<each>\d+(?:[.,]\d+)?)\s*(?P<unit>ml|cl|dl|l|g|kg)"
)
_OF_EACH = re.compile(
    rf"{_NUMBER}\s*(?:servings?\s+)?(?:of|x|×)\s*(?P<each>\d+(?:[.,]\d+)?)\s*(?P<unit>g|ml)"
)
LEAST_SERVING_G, MOST_SERVING_G = 1, 2000
_AMOUNT = re.compile(rf"{_NUMBER}\s*(?P<unit>ml|cl|dl|l|liters?|litres?|g|kg|lb|oz|cups?|quarts?)")
_TIMES = {"half": 0.5, "double": 2.0, "twice": 2.0, "triple": 3.0}
_UNITS = {"cl": ("ml", 10.0), "dl": ("ml", 100.0), "liter": ("l", 1.0), "litre": ("l", 1.0)}


def size_said(text: str, dish: Appraisal, reader: Reader) -> tuple[int, float | None]:
    """How many servings, and the grams of each where another size than the recipe's is said: `40 of
    60 g`. Raises RecipeError for a size that cannot be read, or makes none."""
    said = re.sub(r"\s+", " ", text.strip().lower())
    match = _OF_EACH.fullmatch(said)
    if match is None:
        return _servings(text, dish, reader), None
    each, unit = _number(match["each"]), match["unit"]
    grams = each * density_g_per_ml(dish.portions) if unit == "ml" else each
    if not LEAST_SERVING_G <= grams <= MOST_SERVING_G:
        raise RecipeError(
            f"a serving weighs {LEAST_SERVING_G} g to {MOST_SERVING_G:,} g; {each:g} {unit} was"
            " given"
        )
    return checked_servings(_number(match["number"])), grams


def _servings(text: str, dish: Appraisal, reader: Reader) -> int:
    """The whole servings that come nearest without more than was said."""
    said = re.sub(r"\s+", " ", text.strip().lower())
    if re.fullmatch(r"[+-]?\d+(?:[.,]\d+)?", said):
        return checked_servings(float(said.replace(",", ".")))
    factor = _factor(said, text, dish, reader)
    made = factor * dish.totals.servings
    if made < 1:
        raise RecipeError(f"“{text.strip()}” makes less than one serving of {dish.recipe.title}")
    return checked_servings(floor(made + 1e-6))


def _factor(said: str, text: str, dish: Appraisal, reader: Reader) -> float:
    """How many times the recipe is made."""
    if (match := _SHARE.fullmatch(said)) is not None:
        return _TIMES.get(match["word"]) or _number(match["number"])
    if (match := _VESSELS.fullmatch(said)) is not None:
        return _number(match["number"]) * _batches(_number(match["each"]), match["unit"], dish)
    if (match := _AMOUNT.fullmatch(said)) is not None:
        return _batches(_number(match["number"]), match["unit"], dish)
    return _as_far_as(text, dish, reader)


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _batches(number: float, unit: str, dish: Appraisal) -> float:
    """How many recipes an amount of the finished dish comes to, by weight or by volume."""
    name, times = _UNITS.get(unit.rstrip("s"), (unit.rstrip("s"), 1.0))
    weight = grams_in(name)
    volume = millilitres(name, dish.recipe.region)
    grams = (
        number * times * (weight if weight else (volume or 0.0) * density_g_per_ml(dish.portions))
    )
    batch = dish.totals.batch_grams.value
    if batch <= 0 or grams <= 0:
        raise RecipeError(
            f"{number:g} {unit} of {dish.recipe.title} cannot be worked out: say how many servings"
        )
    return grams / batch


def _as_far_as(text: str, dish: Appraisal, reader: Reader) -> float:
    """How far an amount of one of its foods goes."""
    try:
        added = read_addition(text, reader, dish.recipe)
    except RecipeError:
        raise RecipeError(
            f"“{text.strip()}” is no size: say 40, half, 2 l, 5 jars of 300 ml, or what there is:"
            " 12 heads of lettuce"
        ) from None
    food = reader.pantry[added.line.food or ""]
    needed = sum(
        p.measured.value
        for p in dish.portions
        if p.food is not None and _is_meant(p, added.line, food.key)
    )
    if needed <= 0:
        raise RecipeError(
            f"there is no {food.kitchen_name} in {dish.recipe.title}: name a food as its line does"
        )
    line = replace(added.line, id="l1", component="")
    (portion,) = portions(
        replace(dish.recipe, lines=(line,), method=()), reader.pantry, reader.preparations
    )
    return portion.measured.value / needed


def _is_meant(portion: Portion, said: Line, key: str) -> bool:
    """Whether a line is of the food that was said, or is called by all its words: kale for lacinato
    kale."""
    words = set(said.named.lower().split())
    same = portion.food is not None and portion.food.key == key
    return same or (bool(words) and words <= set(portion.line.named.lower().split()))
