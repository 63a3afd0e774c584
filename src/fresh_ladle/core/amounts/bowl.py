"""From measured to eaten: what each line weighs as measured, as figures count it, and in the
bowl."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.ambiguity import Ambiguity, open_ambiguity
from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.loose import NO_WORD, unmeasured, unmeasured_grams
from fresh_ladle.core.amounts.preparation import WHOLE as NOT_LESS
from fresh_ladle.core.amounts.preparation import Preparation, PreparationTable
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.foods.food import Food, Grade, LooseBasis, LooseMeasure, Taste
from fresh_ladle.core.foods.pantry import Pantry
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.recipe import Line, Recipe

NOTHING = Range(0.0, 0.0, 0.0)
SAID_BY_LINES = frozenset(
    {
        "poured-off",
        "deep-frying",
        "tray-oil",
        "infused-kept",
        "marinade",
        "cooking-water",
        "drawn-salt",
    }
)
"""Preparations by which a line says itself what becomes of it."""
PEPPER_TO_TASTE = Range(0.05, 0.02, 0.12)
"""Grams of a spice per 100 g of mix when it is added to taste, for foods without loose measures
(estimate)."""
UNMEASURED = {Aside.GARNISH: Range(5.0, 1.0, 12.0), Aside.TO_THIN: Range(30.0, 0.0, 75.0)}
"""Grams when only "to garnish" or "to thin" is said, for foods without loose measures
(estimate)."""


@dataclass(frozen=True, slots=True)
class Portion:
    """One line weighed.

    `measured`: grams as the cook measured it. `counted`: grams that the figures per 100 g apply to
    (the edible part, before water left or entered). `in_bowl`: grams in the finished mix that are
    eaten. `factors` multiply single figures. `problem` is set, and the grams are zero, when the
    line could not be weighed."""

    line: Line
    food: Food | None
    measured: Range
    counted: Range
    in_bowl: Range
    factors: Mapping[str, float]
    preparations: tuple[Preparation, ...]
    route: str
    grade: Grade
    estimated: bool = False
    problem: str | None = None
    other_readings: tuple[Portion, ...] = ()
    """The same line read as another food, while the cook's words leave that open."""
    taste: Taste | None = None
    """Taste per 100 g in the bowl, where preparation made it another than that of the food."""
    batch_line: str | None = None
    """The id of the line that brings this one in, when it is part of a batch of another recipe."""

    @property
    def known(self) -> bool:
        return self.problem is None and self.food is not None


def portions(
    recipe: Recipe, pantry: Pantry, table: PreparationTable, doubts: Sequence[Ambiguity] = ()
) -> tuple[Portion, ...]:
    """Every line of the recipe weighed, in order. Lines "to taste" are a share of the mass of all
    the others.

    With `doubts`, a line whose words leave its food open carries the other readings along.
    """
    first = [None if line.batch else _portion(line, recipe, pantry, table) for line in recipe.lines]
    batches = {
        line.id: _batch_portions(line, pantry, table, doubts) for line in recipe.lines if line.batch
    }
    mass = sum(
        p.in_bowl.value
        for p in (*first, *(q for inside in batches.values() for q in inside))
        if p is not None
    )
    weighed: list[Portion] = []
    for line, portion in zip(recipe.lines, first, strict=True):
        if line.id in batches:
            weighed += batches[line.id]
        else:
            one = portion if portion is not None else _to_taste(line, recipe, pantry, mass)
            weighed.append(_with_other_readings(one, recipe, pantry, table, doubts, mass))
    return tuple(weighed)


def _batch_portions(
    line: Line, pantry: Pantry, table: PreparationTable, doubts: Sequence[Ambiguity]
) -> list[Portion]:
    """The lines of the other recipe, weighed there and scaled to the part of its batch that is used
    here."""
    batch = line.batch
    assert batch is not None
    return [_scaled(p, batch.share, line) for p in portions(batch.recipe, pantry, table, doubts)]


def _scaled(portion: Portion, share: float, line: Line) -> Portion:
    inner = replace(portion.line, id=f"{line.id}/{portion.line.id}", component=line.component)
    return replace(
        portion,
        line=inner,
        measured=portion.measured.scaled(share),
        counted=portion.counted.scaled(share * line.eaten),
        in_bowl=portion.in_bowl.scaled(share * line.eaten),
        other_readings=tuple(_scaled(p, share, line) for p in portion.other_readings),
        batch_line=line.id,
    )


def food_ambiguity(
    line: Line, food: Food, pantry: Pantry, doubts: Sequence[Ambiguity]
) -> Ambiguity | None:
    """What the words of a line leave open about its food, unless a person has remarks."""
    if "food" in line.settled:
        return None
    return open_ambiguity(doubts, food, line.named, (line.text, *line.remarks), pantry)


def read_as(line: Line, food: Food) -> Line:
    """The line with another food of the same family or kind; dry grain and legumes are boiled,
    others are not."""
    boiled = ("boil",) if food.form == "dry" and food.group in ("legume", "grain-pasta") else ()

    def of(preparations: tuple[str, ...]) -> tuple[str, ...]:
        return (*(p for p in preparations if p != "boil"), *boiled)

    reached = line.reached and replace(line.reached, preparations=of(line.reached.preparations))
    return replace(line, food=food.key, preparations=of(line.preparations), reached=reached)


def _with_other_readings(
    portion: Portion,
    recipe: Recipe,
    pantry: Pantry,
    table: PreparationTable,
    doubts: Sequence[Ambiguity],
    mass: float,
) -> Portion:
    if not doubts or portion.food is None or not portion.known:
        return portion
    doubt = food_ambiguity(portion.line, portion.food, pantry, doubts)
    if doubt is None:
        return portion
    others = []
    for key in doubt.options(portion.food, pantry):
        if key != portion.food.key:
            line = read_as(portion.line, pantry[key])
            other = _portion(line, recipe, pantry, table) or _to_taste(line, recipe, pantry, mass)
            if other.known:
                others.append(other)
    return replace(portion, other_readings=tuple(others))


def _unknown(line: Line, food: Food | None, problem: str) -> Portion:
    return Portion(line, food, NOTHING, NOTHING, NOTHING, {}, (), "", Grade.C, problem=problem)


def _portion(line: Line, recipe: Recipe, pantry: Pantry, table: PreparationTable) -> Portion | None:
    """The line weighed on its own; None when it is added to taste and has to wait for the
    others."""
    food = pantry.get(line.food)
    if food is None:
        return _unknown(line, None, "this line is not understood yet: choose a food")
    if not line.amount:
        return _without_amount(line, food, recipe)
    try:
        weighing = weigh(parse_amount(line.amount), food, (line.text, *line.remarks), recipe.region)
    except (UnitMisfit, BadQuantity) as error:
        return _unknown(line, food, str(error))
    if Aside.PER_SERVING in line.asides:
        route = f"{weighing.route}, for each of {recipe.servings:g} servings"
        weighing = replace(weighing, grams=weighing.grams.scaled(recipe.servings), route=route)
    gone_through = line.preparations if line.reached is None else line.reached.preparations
    prepared = tuple(table.bearing(p, food) for p in gone_through)
    counted = after = weighing.grams
    factors: dict[str, float] = {}
    for preparation in prepared:
        if preparation.id == "trim":
            if weighing.as_bought:
                counted, after = counted.times(preparation.weight), after.times(preparation.weight)
            continue
        counted, after = (
            counted.times(preparation.eaten),
            after.times(preparation.eaten).times(preparation.weight),
        )
        for nutrient, factor in preparation.factors.items():
            factors[nutrient] = factors.get(nutrient, 1.0) * factor
    more, said = _more_of(line, food, weighing.grams, recipe)
    measured, counted, after = (_sum(grams, more) for grams in (weighing.grams, counted, after))
    if Aside.OPTIONAL in line.asides:
        # It is in, or it is not.
        counted, after = (
            Range(counted.value, 0.0, counted.high),
            Range(after.value, 0.0, after.high),
        )
    counted, after = _reached(line, prepared, counted, after)
    return Portion(
        line,
        food,
        measured,
        counted.scaled(line.eaten),
        after.scaled(line.eaten),
        factors,
        prepared,
        weighing.route + said,
        weighing.grade,
        estimated=weighing.guess,
        taste=table.taste_after(
            food, prepared, {f.form: f for f in reversed(pantry.relatives(food))}
        ),
    )


def eaten_by_method(line: Line, prepared: Sequence[Preparation]) -> bool:
    """Whether the method decides how much of a line is eaten, and neither its own words nor a
    person do."""
    said = line.eaten != 1 or "eaten" in line.settled
    return (
        line.reached is not None
        and not said
        and all(p.eaten == NOT_LESS for p in prepared if p.id in SAID_BY_LINES)
    )


def _reached(
    line: Line, prepared: Sequence[Preparation], counted: Range, after: Range
) -> tuple[Range, Range]:
    """The grams counted and in the bowl once the method is done. Where the line itself says that
    part of it is not eaten ("for the tray", "use half"), or a person did, it was said once
    already."""
    reached = line.reached
    if reached is None or not eaten_by_method(line, prepared):
        return counted, after
    return counted.times(reached.eaten), after.times(reached.weight)


MORE_TO_TASTE = Range(0.15, 0.0, 0.5)
"""What "plus more to taste" or "more if needed" adds, as a share of what was measured
(estimate)."""


def _more_of(line: Line, food: Food, measured: Range, recipe: Recipe) -> tuple[Range, str]:
    """What "plus more for drizzling" adds, and how that was arrived at: by its use where that is
    said, at most as much again as was measured (though it may be more), else a share of what was
    measured."""
    if Aside.PLUS_MORE not in line.asides:
        return NOTHING, ""
    guess = (
        unmeasured(food, line.text, line.asides)
        if re.search(r"\b(?:for|on|over|to)\b", line.text)
        else None
    )
    if guess is None or guess.basis is LooseBasis.MIX or guess.word == NO_WORD:
        return measured.times(MORE_TO_TASTE), ", and some more"
    usual = unmeasured_grams(guess, recipe.servings, 0.0)
    grams = Range(min(usual.value, measured.value), min(usual.low, measured.value), usual.high)
    return (
        grams,
        f", and more {guess.word}: a usual {grams.value:g} g ({grams.low:g} to {grams.high:g})",
    )


def _sum(one: Range, other: Range) -> Range:
    return Range(one.value + other.value, one.low + other.low, one.high + other.high)


def _without_amount(line: Line, food: Food, recipe: Recipe) -> Portion | None:
    """A usual amount for what the line says, or for the food alone; None when it has to wait for
    the others."""
    guess = unmeasured(food, line.text, line.asides)
    if guess is not None and guess.basis is not LooseBasis.MIX:
        return _guessed(line, food, guess, recipe, 0.0)
    usual = next((UNMEASURED[a] for a in line.asides if a in UNMEASURED), None)
    if guess is None and usual is not None:
        return _estimated(line, food, usual, "not measured: a usual amount")
    if guess is not None or Aside.TO_TASTE in line.asides:
        return None
    return _unknown(line, food, f"how much {food.name.lower()}?")


def _estimated(line: Line, food: Food, grams: Range, route: str) -> Portion:
    eaten = grams.scaled(line.eaten)
    return Portion(line, food, grams, eaten, eaten, {}, (), route, Grade.C, estimated=True)


def _guessed(
    line: Line, food: Food, guess: LooseMeasure, recipe: Recipe, mix_grams: float
) -> Portion:
    grams = unmeasured_grams(guess, recipe.servings, mix_grams)
    basis = "" if guess.basis in (LooseBasis.PIECE, LooseBasis.DISH) else f" {guess.basis}"
    what = "no amount was given" if guess.word == NO_WORD else guess.word
    return _estimated(
        line,
        food,
        grams,
        f"{what}: a usual {guess.grams:g} g{basis} ({guess.low:g} to {guess.high:g})",
    )


def _to_taste(line: Line, recipe: Recipe, pantry: Pantry, mass: float) -> Portion:
    """A line that is a share of all the others: salt itself by the kind of dish, the rest by the
    class of food."""
    food = pantry[line.food or ""]
    kind = dishes.BY_ID.get(recipe.kind, dishes.DEFAULT)
    if food.traits.roles == {"salt"}:
        per_100_g = kind.salt_to_taste
    else:
        guess = unmeasured(food, line.text, line.asides)
        if guess is not None and guess.basis is LooseBasis.MIX:
            return _guessed(line, food, guess, recipe, mass)
        per_100_g = (
            Range(2.0, 0.0, 5.0)
            if food.group in ("acid", "sweetener", "fat-oil", "liquid")
            else PEPPER_TO_TASTE
        )
    route = (
        f"to taste: {per_100_g.value:g} g per 100 g of a {kind.name} ({per_100_g.low:g} to"
        f" {per_100_g.high:g})"
    )
    return _estimated(line, food, per_100_g.scaled(mass / 100), route)
