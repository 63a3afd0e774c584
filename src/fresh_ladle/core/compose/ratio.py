"""How far one thing can stand for another: two lines or components held together, one step of the
kitchen at a time.

Each point is the recipe with amounts a cook would measure, worked out like any other; together the
two sides weigh what they weigh now, as near as measures allow. One line alone is walked through its
own amounts: how strong it may be."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from fresh_ladle.core.amounts.amount import parse_amount
from fresh_ladle.core.amounts.bowl import portions
from fresh_ladle.core.amounts.kitchen import scaled
from fresh_ladle.core.amounts.quantity import BadQuantity
from fresh_ladle.core.amounts.reading import Reader
from fresh_ladle.core.amounts.units import CONTAINERS
from fresh_ladle.core.amounts.weigh import UnitMisfit, weigh
from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import Drift
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Target, share_past, target_status
from fresh_ladle.core.plans.ladder import Rung, rungs_of_food, rungs_of_line
from fresh_ladle.core.plans.parsing import lines_called
from fresh_ladle.core.recipes.recipe import MAX_LINES, Line, Recipe, RecipeError
from fresh_ladle.core.whole.appraisal import Appraisal, appraise
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.whole.costs import Cost, cost_of_serving

MAX_POINTS = 15
"""Points of a drawing, the recipe as it stands among them."""
TOGETHER = 0.12
"""Share by which the two sides together may weigh more or less than they do now."""
CLOSE = 0.02
"""Shares nearer than this are one point."""
STRONGER = 3.0
"""How many times its amount a line is walked up to when nobody says how far."""
PARTS = tuple(Fraction(n, 8) for n in range(17))
"""Shares of a component that can be measured by scaling each of its lines."""


@dataclass(frozen=True, slots=True)
class RatioSide:
    """One of the two: lines of the recipe, or a line that is not in it yet (`fresh`). `amounts`
    limits a line that is walked alone, in grams."""

    name: str
    line_ids: tuple[str, ...] = ()
    fresh: Line | None = None
    amounts: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class RatioPoint:
    """The recipe at one point. `share` is that of the second side in both by weight, 0 to 1; for a
    line alone its grams against the most that is drawn. `changed` are the lines that differ from
    the recipe as it stands."""

    share: float
    recipe: Recipe
    after: Appraisal
    steps: Drift
    meets: Mapping[Target, float]
    cost: Cost | None
    said: tuple[str, ...]
    now: bool

    def holds(self, chance: float) -> bool:
        return all(p >= chance for p in self.meets.values())


@dataclass(frozen=True, slots=True)
class Ratio:
    """All points, from none of the second side to none of the first; `now` is where the recipe
    stands among them."""

    first: RatioSide
    second: RatioSide | None
    points: tuple[RatioPoint, ...]
    now: int

    def never_met(self, chance: float) -> list[Target]:
        """The targets that are met at no point: this ratio does not decide on them."""
        return [t for t in self.points[0].meets if all(p.meets[t] < chance for p in self.points)]

    def stretches(self, chance: float, besides: Collection[Target] = ()) -> list[tuple[int, int]]:
        """Runs of neighboring points that meet every target, but for those named, as first and last
        place."""
        found: list[tuple[int, int]] = []
        for place, point in enumerate(self.points):
            if any(p < chance for t, p in point.meets.items() if t not in besides):
                continue
            if found and found[-1][1] == place - 1:
                found[-1] = (found[-1][0], place)
            else:
                found.append((place, place))
        return found


def side_called(text: str, now: Appraisal, reader: Reader) -> RatioSide:
    """The lines, the component or the food that words name; an amount in front limits a line that
    is walked alone.

    Raises RecipeError when they name nothing, or more lines than one that are no component.
    """
    recipe, words = now.recipe, text.strip()
    component = next((c for c in recipe.components if c and c.lower() == words.lower()), None)
    if component is not None:
        return RatioSide(component, tuple(x.id for x in recipe.lines if x.component == component))
    reading = next(iter(reader.read_line(words, "", recipe.region)), None)
    limits = (
        _limits(reading.line, reader, recipe)
        if reading is not None and reading.line.amount
        else None
    )
    plain = reading.line.named if limits is not None and reading is not None else words
    ids = frozenset(x.id for x in recipe.lines if plain.lower() in (x.id, x.named.lower()))
    try:
        ids = ids or lines_called(plain, now)
    except RecipeError:
        if reading is not None:
            meant = {reading.line.food, *(c.food for c in reading.alternatives)} - {None}
            families = {reader.pantry[key].family or key for key in meant if key is not None}
            ids = frozenset(
                p.line.id
                for p in now.portions
                if p.food is not None and (p.food.family or p.food.key) in families
            )
    if len(ids) > 1:
        names = ", ".join(x.text for x in recipe.lines if x.id in ids)
        raise RecipeError(f"{text!r} could be any of these lines: {names}. Use more of its words")
    if ids:
        (line_id,) = ids
        line = recipe.line(line_id)
        return RatioSide(line.named or line.text, (line_id,), amounts=limits)
    food = reader.pantry.get(reading.line.food) if reading is not None else None
    if food is None or reading is None or reading.line.confidence < 0.45:
        raise RecipeError(
            f"no line or part of {recipe.title} is called {text!r}, and no food either"
        )
    (fresh_id,) = recipe.fresh_ids(1)
    return RatioSide(
        food.kitchen_name,
        fresh=replace(reading.line, id=fresh_id, amount="", named=food.kitchen_name),
    )


def _limits(line: Line, reader: Reader, recipe: Recipe) -> tuple[float, float] | None:
    """The least and most grams that "1 to 3 tsp horseradish" speaks of; None for a single
    amount."""
    food = reader.pantry.get(line.food)
    try:
        amount = parse_amount(line.amount)
        if (
            food is None
            or amount.count is None
            or amount.count.count.high <= amount.count.count.low
        ):
            return None
        one = (
            weigh(amount, food, line.remarks, recipe.region).grams.value / amount.count.count.value
        )
    except (BadQuantity, UnitMisfit):
        return None
    return one * amount.count.count.low * 0.999, one * amount.count.count.high * 1.001


def ratio(
    now: Appraisal,
    first: RatioSide,
    second: RatioSide | None,
    knowledge: Knowledge,
    targets: Iterable[Target] = (),
    prices: Mapping[str, float] | None = None,
) -> Ratio:
    """Every point from none of the second to none of the first, or of one line from little to much.

    Raises RecipeError where a side has no weight, both are the same, or an amount cannot be
    stepped."""
    if second is not None and set(first.line_ids) & set(second.line_ids):
        raise RecipeError("the two sides are the same line: name two that differ")
    if first.fresh is not None:
        raise RecipeError(
            f"{first.name!r} is not in {now.recipe.title}: name a line that is there first"
        )
    mine = _grams(now, first)
    if mine <= 0:
        raise RecipeError(f"{first.name} weighs nothing here: give it an amount first")
    wanted = (
        _walked_alone(now, first, mine, knowledge)
        if second is None
        else _held(now, first, second, knowledge)
    )
    whole = max(w[1] for w in wanted) if second is None else 1.0
    points = []
    for amounts, weight in wanted:
        recipe = _with(now.recipe, amounts, (first, second))
        share = weight / whole if second is None else weight
        points.append(_point(now, recipe, share, amounts, knowledge, tuple(targets), prices or {}))
    at = next(n for n, p in enumerate(points) if p.now)
    return Ratio(first, second, tuple(points), at)


Amounts = Mapping[str, str | None]
"""By line id the amount it is given, in a cook's words; None takes it out. Empty for the recipe as
it stands."""


def _walked_alone(
    now: Appraisal, side: RatioSide, mine: float, knowledge: Knowledge
) -> list[tuple[Amounts, float]]:
    low, high = side.amounts or (0.0, STRONGER * mine)
    steps = [s for s in _steps(now, side, max(high, mine), knowledge) if low <= s[1] <= high]
    if side.amounts is None:
        steps = [(dict.fromkeys(side.line_ids), 0.0), *steps]
    return _thinned([*(s for s in steps if abs(s[1] - mine) > 0.02 * mine), ({}, mine)])


def _held(
    now: Appraisal, first: RatioSide, second: RatioSide, knowledge: Knowledge
) -> list[tuple[Amounts, float]]:
    """Pairs of amounts that together weigh what both weigh now."""
    mine, other = _grams(now, first), _grams(now, second)
    both = mine + other
    gone = (dict.fromkeys(first.line_ids), 0.0)
    none = (dict.fromkeys(second.line_ids), 0.0)
    firsts = [gone, *_steps(now, first, both, knowledge)]
    found: dict[float, tuple[Amounts, float]] = {}
    for amounts, grams in [none, *_steps(now, second, both, knowledge)]:
        left, left_grams = min(firsts, key=lambda s: (abs(s[1] + grams - both), s[1]))
        whole = left_grams + grams
        if whole > 0 and abs(whole - both) <= TOGETHER * both:
            share = grams / whole
            if abs(share - other / both) > CLOSE and all(abs(share - s) > CLOSE for s in found):
                found[share] = ({**left, **amounts}, share)
    return _thinned([*found.values(), ({}, other / both)])


def _thinned(points: Sequence[tuple[Amounts, float]]) -> list[tuple[Amounts, float]]:
    """At most so many, evenly over the whole, the ends and the recipe as it stands among them."""
    ordered = sorted(points, key=lambda p: p[1])
    low, high = ordered[0][1], ordered[-1][1]
    kept = {0, len(ordered) - 1, next(n for n, p in enumerate(ordered) if not p[0])}
    if len(ordered) <= MAX_POINTS:
        return ordered
    for n in range(1, MAX_POINTS - 1):
        if len(kept) == MAX_POINTS:
            break
        goal = low + (high - low) * n / (MAX_POINTS - 1)
        kept.add(min(range(len(ordered)), key=lambda place: (abs(ordered[place][1] - goal), place)))
    return [ordered[n] for n in sorted(kept)]


def _grams(now: Appraisal, side: RatioSide) -> float:
    return sum(p.in_bowl.value for p in now.portions if p.line.id in side.line_ids)


def _steps(
    now: Appraisal, side: RatioSide, most: float, knowledge: Knowledge
) -> list[tuple[Amounts, float]]:
    """Amounts of a side, each with its grams in the bowl, smallest first, up to the most."""
    if side.fresh is not None:
        return _line_steps(
            now, side.fresh, rungs_of_food(knowledge.pantry[side.fresh.food or ""]), most, knowledge
        )
    if len(side.line_ids) == 1:
        line = now.recipe.line(side.line_ids[0])
        food = knowledge.pantry.get(line.food)
        if food is None:
            raise RecipeError(f"{line.text!r} is not understood, so that it cannot be stepped")
        return _line_steps(now, line, _rungs_up_to(now, line, most), most, knowledge)
    found = []
    for part in PARTS[1:]:
        amounts = _component_amounts(now, side, float(part))
        recipe = _with(now.recipe, amounts, (side,))
        grams = sum(
            p.in_bowl.value
            for p in appraise(recipe, knowledge).portions
            if p.line.id in side.line_ids
        )
        if 0 < grams <= most * (1 + TOGETHER):
            found.append((amounts, grams))
    return found


def _component_amounts(now: Appraisal, side: RatioSide, part: float) -> Amounts:
    amounts: dict[str, str | None] = {}
    for line_id in side.line_ids:
        line = now.recipe.line(line_id)
        try:
            amounts[line_id] = scaled(line.amount, part)
        except (BadQuantity, AssertionError):
            raise RecipeError(
                f"{line.text!r} has no amount that can be stepped: give it one first"
            ) from None
    return amounts


def _rungs_up_to(now: Appraisal, line: Line, most: float) -> list[Rung]:
    """The amounts of a line's own measure, up to grams that may be more than twice what it
    holds."""
    portion = now.portion(line.id)
    assert portion.food is not None
    mine = portion.in_bowl.value
    amount = line.amount
    if mine > 0 and most > 2 * mine:
        try:
            amount = scaled(line.amount, most / mine)
        except (BadQuantity, AssertionError):
            amount = line.amount
    own = rungs_of_line(replace(line, amount=amount), portion.food, now.recipe.region)
    if parse_amount(line.amount).unit in CONTAINERS:
        # Between whole and half cans a cook goes by the cup.
        own = [
            *own,
            *(r for r in rungs_of_food(portion.food, region=now.recipe.region) if r.unit == "cup"),
        ]
    return sorted(own, key=lambda r: r.grams)


def _line_steps(
    now: Appraisal, line: Line, rungs: Sequence[Rung], most: float, knowledge: Knowledge
) -> list[tuple[Amounts, float]]:
    """A line in each of its amounts, weighed as it is prepared."""
    if not rungs:
        raise RecipeError(f"{line.text!r} has no amount that can be stepped: give it one first")
    tried = [replace(line, id=f"l{n}", amount=r.text) for n, r in enumerate(rungs[:MAX_LINES])]
    weighed = portions(
        replace(now.recipe, lines=tuple(tried), method=()),
        knowledge.pantry,
        knowledge.preparations,
        knowledge.ambiguities,
    )
    found = [({line.id: p.line.amount}, p.in_bowl.value) for p in weighed if p.known]
    return [step for step in found if 0 < step[1] <= most * 1.05]


def _with(recipe: Recipe, amounts: Amounts, sides: Iterable[RatioSide | None]) -> Recipe:
    """The recipe with the amounts given; a line that is not in it yet comes in after the first
    side's last."""
    there = [side for side in sides if side is not None]
    for side in there:
        if side.fresh is not None and (amount := amounts.get(side.fresh.id)) is not None:
            fresh = replace(side.fresh, amount=amount, text=f"{amount} {side.fresh.named}")
            recipe = recipe.with_added([fresh], after=there[0].line_ids[-1])
    for line_id, amount in amounts.items():
        if any(side.fresh is not None and side.fresh.id == line_id for side in there):
            continue
        if amount is None:
            recipe = recipe.without_line(line_id)
        else:
            recipe = recipe.with_line(recipe.line(line_id).with_amount(amount))
    return recipe


def _point(
    now: Appraisal,
    recipe: Recipe,
    share: float,
    amounts: Amounts,
    knowledge: Knowledge,
    targets: tuple[Target, ...],
    prices: Mapping[str, float],
) -> RatioPoint:
    after = appraise(recipe, knowledge) if amounts else now
    said = tuple(
        (
            f"no {now.recipe.line(i).named or now.recipe.line(i).text}"
            if a is None
            else recipe.line(i).text
        )
        for i, a in amounts.items()
        if a is not None or any(x.id == i for x in now.recipe.lines)
    )
    return RatioPoint(
        share,
        recipe,
        after,
        drift_between(after, now),
        {t: target_status(after.figure_for(t), t).probability for t in targets},
        cost_of_serving(after, prices) if prices else None,
        said,
        not amounts,
    )


def how_far(found: Ratio, chance: float) -> str:
    """What the drawing answers, in a sentence; it speaks of the steps that were worked out, and of
    nothing between."""
    points, stretches = found.points, found.stretches(chance)
    count = f"of the {len(points)} steps worked out"
    if not points[0].meets:
        noticed = [
            p for p in points if max((abs(s) for s in p.steps.steps.values()), default=0.0) < 1.0
        ]
        return (
            f"{len(noticed)} {count} taste the same to most: from {_amounts(found, noticed[0])} to"
            f" {_amounts(found, noticed[-1])}. Set targets to see how far they allow it to go."
        )
    if stretches:
        return f"Every target is met {_told(found, stretches)}."
    never = found.never_met(chance)
    if not never:
        return (
            f"None {count} meets every target. Nearest:"
            f" {_amounts(found, min(points, key=_missed))}."
        )
    words = " or ".join(_limit_words(t) for t in never)
    rest = found.stretches(chance, never) if len(never) < len(points[0].meets) else []
    others = f" The other targets are met {_told(found, rest)}." if rest else ""
    return f"None {count} meets {words}.{others}"


def _told(found: Ratio, stretches: Sequence[tuple[int, int]]) -> str:
    told = [
        (
            f"at {_amounts(found, found.points[low])}"
            if low == high
            else (
                f"from {_amounts(found, found.points[low])} to"
                f" {_amounts(found, found.points[high])}"
            )
        )
        for low, high in stretches
    ]
    return ", and ".join(told)


def _missed(point: RatioPoint) -> float:
    return sum(max(0.0, share_past(point.after.figure_for(t).value, t)) for t in point.meets)


def _limit_words(target: Target) -> str:
    meta = BY_ID[target.nutrient]
    return f"{meta.said} {target.side.value} {target.limit:g} {meta.unit}"


def _amounts(found: Ratio, point: RatioPoint) -> str:
    """`¾ cup white beans with 1 cup artichoke`."""
    told = []
    for side in (found.first, found.second):
        if side is None:
            continue
        told.append(side_words(side, point))
    return " with ".join(told)


def side_words(side: RatioSide, point: RatioPoint) -> str:
    """How much of one side there is at a point, in a cook's words."""
    ids = (*side.line_ids, *((side.fresh.id,) if side.fresh is not None else ()))
    lines = [x for x in point.recipe.lines if x.id in ids]
    if not lines:
        return f"no {side.name}"
    if len(lines) == 1:
        return f"{lines[0].said_amount} {side.name}"
    grams = sum(p.in_bowl.value for p in point.after.portions if p.line.id in ids)
    return f"{grams:.0f} g {side.name}"
