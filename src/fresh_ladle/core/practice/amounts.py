"""Exercises about amounts: what a measure weighs, what a label means in 100 g, a line for more
people."""

from __future__ import annotations

from fractions import Fraction
from random import Random

from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.kitchen import written_amount
from fresh_ladle.core.amounts.loose import loose_piece
from fresh_ladle.core.foods.food import Food
from fresh_ladle.core.foods.label import LabelError, Rounding, figures_from_label
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.labels import us_label
from fresh_ladle.core.nutrients.wording import grams_range_text, grams_text
from fresh_ladle.core.practice.exercise import Exercise, NoExercise
from fresh_ladle.core.practice.ground import Ground
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes.recipe import Line, Recipe

UNITS = ("cup", "tbsp", "tsp", "each", "clove", "bunch", "handful", "slice", "stalk", "sprig")
WORDS = ("handful", "glug", "drizzle", "splash", "dollop")
"""Words that measure nothing, and yet are poured by."""
COUNTS = (Fraction(1, 4), Fraction(1, 3), Fraction(1, 2), Fraction(1), Fraction(2), Fraction(3))
WHOLE = (Fraction(1), Fraction(2), Fraction(3))
LIGHTEST_G = 1.0
"""Less than this nobody judges by eye."""
SEEN_AS = {
    "leafy": "leaves", "vegetable": "vegetables", "root-tuber": "roots",
    "allium": "onions and garlic", "herb": "herbs",
    "fruit": "fruit", "tomato": "tomatoes", "fungus-sea": "mushrooms and seaweed",
    "legume": "legumes",
    "nut-seed": "nuts and seeds", "nut-seed-butter": "nut butters", "dried-fruit": "dried fruit",
    "grain-pasta": "grains and pasta", "protein": "fish and meat", "egg": "eggs",
    "cheese": "cheese", "dairy": "dairy",
    "fat-oil": "oils and fats", "acid": "vinegars and juices",
    "salt-salty": "salt and salty sauces",
    "sweetener": "sweeteners", "spice": "spices", "pickle-olive": "pickles and olives",
    "bread-chip": "bread and chips",
    "liquid": "liquids", "soy": "soy foods", "thickener": "thickeners",
}  # fmt: skip
"""Groups of foods as an eye knows them."""
SERVINGS = (12, 15, 20, 25, 30, 40, 60)


def weigh(dice: Random, ground: Ground) -> Exercise:
    """How many grams a household measure of a food is."""
    food = dice.choice(ground.knowledge.pantry.stocked)
    units = [unit for unit in UNITS if food.measure(unit) is not None]
    units += [
        word for word in WORDS if word not in units and loose_piece(food, word, None) is not None
    ]
    if not units:
        raise NoExercise("no measure of it is known")
    unit = dice.choice(units)
    count = dice.choice(COUNTS if unit in ("cup", "tbsp", "tsp") else WHOLE)
    grams, route = weighed(food, count, unit, ground)
    if grams.value < LIGHTEST_G:
        raise NoExercise("too light to judge")
    named = written_amount(count, unit)
    asked = f"{named} {food.kitchen_name}" if unit == "each" else f"{named} of {food.kitchen_name}"
    return Exercise(
        "weigh",
        f"How many grams is {asked}?",
        "g",
        grams,
        (f"{named}: {route}", f"{grams_text(grams)}, nine in ten within {grams_range_text(grams)}"),
        f"{food.key} {named}",
        SEEN_AS[food.group],
    )


def weighed(food: Food, count: Fraction, unit: str, ground: Ground) -> tuple[Range, str]:
    """What the Counter makes of a line of that much, and how it came to it. Raises NoExercise where
    it cannot."""
    amount = written_amount(count, unit)
    line = Line("l1", f"{amount} {food.name}", amount, food.key, named=food.name)
    recipe = Recipe("One line", (line,), "vinaigrette", 1)
    (portion,) = portions(recipe, ground.knowledge.pantry, ground.knowledge.preparations)
    if not portion.known:
        raise NoExercise("it cannot be weighed")
    return portion.measured, portion.route


def label(dice: Random, ground: Ground) -> Exercise:
    """A label gives a serving, rounded as US labels are; how much is in 100 g."""
    food = dice.choice(ground.knowledge.pantry.stocked)
    nutrient = dice.choice([n for n in HEADLINE if food.per_100_g[n]] or [""])
    if not nutrient:
        raise NoExercise("it has no figures")
    serving = dice.choice((14, 15, 28, 30, 45, 55, 60))
    shown = us_label(nutrient, (food.per_100_g[nutrient] or 0.0) * serving / 100)
    printed = "".join(letter for letter in shown if letter.isdigit() or letter == ".")
    if not printed or float(printed) <= 0 or "less" in shown.lower():
        raise NoExercise("the label would print nothing of it")
    value = float(printed)
    try:
        found = figures_from_label({nutrient: value}, serving, Rounding.US)
    except LabelError as error:
        raise NoExercise(str(error)) from None
    per_100_g = found.per_100_g[nutrient] or 0.0
    low, high = found.ranges.get(nutrient, (per_100_g, per_100_g))
    name, unit = BY_ID[nutrient].said, BY_ID[nutrient].unit
    return Exercise(
        "label",
        f"A label of {food.kitchen_name} prints {value:g} {unit} {name} in a serving of {serving}"
        " g. How much is in 100 g?",
        unit,
        Range(per_100_g, low, high),
        (
            f"{value:g} {unit} × 100 ÷ {serving} = {per_100_g:,.1f} {unit}",
            (
                f"rounded as it is, the serving may hold a little less or more: {low:,.1f} to"
                f" {high:,.1f} {unit} in 100 g"
            ),
        ),
        f"{food.key} {nutrient} {serving}",
        name,
    )


def scale(dice: Random, ground: Ground) -> Exercise:
    """A weighed line of a recipe for more people."""
    _, dish = ground.dish(dice)
    known = [
        p
        for p in dish.portions
        if p.known and p.measured.value >= 1 and p.food and not p.batch_line
    ]
    before = dish.totals.servings
    if not known or before <= 0:
        raise NoExercise("nothing of it can be weighed")
    portion, after = dice.choice(known), dice.choice(SERVINGS)
    assert portion.food is not None
    start, made = round(portion.measured.value, 1), round(before, 1)
    value = start * after / made
    name = portion.food.kitchen_name
    return Exercise(
        "scale",
        f"{dish.recipe.title} takes {start:g} g of {name} for {made:g} servings. How many grams for"
        f" {after}?",
        "g",
        Range.exact(value),
        (f"{start:g} g × {after} ÷ {made:g} = {value:,.1f} g",),
        f"{dish.recipe.title} {portion.line.id} {after}",
        "scaling",
    )
