"""Exercises about a recipe as it stands: its figures, what carries them, what to weigh, how it
keeps, what may be said."""

from __future__ import annotations

from collections.abc import Sequence
from random import Random

from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.claims.claims import claims_of
from fresh_ladle.core.flavor.parameters import BY_ID as AXIS
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.hold.keeping import keeping
from fresh_ladle.core.nutrients.declaration import Regime
from fresh_ladle.core.nutrients.totals import composition_cv
from fresh_ladle.core.nutrients.wording import nutrient_amount
from fresh_ladle.core.practice.exercise import Exercise, NoExercise
from fresh_ladle.core.practice.ground import Ground
from fresh_ladle.core.ranges import Z90, Range
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import steps_outside, windows_of

CARRIED = ("sodium_mg", "fat_g", "energy_kcal", "fiber_g", "protein_g")
WRONG = 3
"""Wrong choices beside the right one, at the most."""
CLEARER_SHARE, LACKS, NO_LACK = 0.15, -1.0, 0.0
REGIMES = {Regime.US: "the rules of the US", Regime.EU: "the rules of the EU and UK"}


def line_name(portion: Portion) -> str:
    return portion.line.named or (portion.food.kitchen_name if portion.food else portion.line.text)


def chosen(dice: Random, right: str, wrong: Sequence[str]) -> tuple[tuple[str, ...], int]:
    """Choices in an order of chance, and the place of the right one."""
    choices = [right, *wrong]
    dice.shuffle(choices)
    return tuple(choices), choices.index(right)


def serving(dice: Random, ground: Ground) -> Exercise:
    """What a serving holds."""
    _, dish = ground.dish(dice)
    nutrient = dice.choice(HEADLINE)
    figure = dish.totals.serving[nutrient]
    if not figure.complete or figure.value <= 0:
        raise NoExercise("not all of it is known")
    name, unit = BY_ID[nutrient].said, BY_ID[nutrient].unit
    carriers = sorted(
        dish.portions, key=lambda p: -(dish.totals.per_line[p.line.id][nutrient] or 0.0)
    )
    lines = [
        f"{line_name(p)}:"
        f" {nutrient_amount(nutrient, (dish.totals.per_line[p.line.id][nutrient] or 0.0))} {unit}"
        " in the batch"
        for p in carriers[:4]
    ]
    whole = nutrient_amount(nutrient, dish.totals.batch[nutrient].value)
    each = nutrient_amount(nutrient, figure.value)
    divided = f"{whole} {unit} in the batch ÷ {dish.totals.servings:g} servings = {each} {unit}"
    return Exercise(
        "serving",
        f"How much {name} does a serving of {dish.recipe.title} hold,"
        f" {dish.totals.serving_grams:,.0f} g?",
        unit,
        Range(figure.value, figure.low, figure.high),
        (*lines, divided),
        f"{dish.recipe.title} {nutrient}",
        name,
    )


def line_figure(portion: Portion, dish: Appraisal, nutrient: str) -> Range:
    """What a line brings to the batch, with the doubt of its amount and of its food."""
    value = dish.totals.per_line[portion.line.id][nutrient] or 0.0
    share = Z90 * composition_cv(portion, nutrient)
    return portion.counted.scaled(value / portion.counted.value).times(Range.around(1.0, share))


def carries(dice: Random, ground: Ground) -> Exercise:
    """Which line brings the most of a figure."""
    _, dish = ground.dish(dice)
    nutrient = dice.choice(CARRIED)
    known = [
        p for p in dish.portions
        if p.known and p.counted.value > 0 and not p.other_readings
        and dish.totals.per_line[p.line.id][nutrient] is not None
    ]  # fmt: skip
    figures = {p.line.id: line_figure(p, dish, nutrient) for p in known}
    known.sort(key=lambda p: -figures[p.line.id].value)
    names = [line_name(p) for p in known]
    if len(known) < 3 or figures[known[0].line.id].value <= 0:
        raise NoExercise("too few lines")
    top = figures[known[0].line.id]
    beaten = {
        name: portion
        for portion, name in zip(known[1:], names[1:], strict=True)
        if figures[portion.line.id].high < top.low and name != names[0]
    }
    if len(beaten) < 2:
        raise NoExercise("none is ahead beyond doubt")
    wrong = list(beaten)[:WRONG]
    choices, right = chosen(dice, names[0], wrong)
    name, unit = BY_ID[nutrient].said, BY_ID[nutrient].unit
    worked = [
        f"{n}: {nutrient_amount(nutrient, figures[p.line.id].value)} {unit} in the batch"
        for n, p in ((names[0], known[0]), *((w, beaten[w]) for w in wrong))
    ]
    return Exercise(
        "carries",
        f"Which of these brings the most {name} to {dish.recipe.title}?",
        unit,
        top,
        tuple(worked),
        f"{dish.recipe.title} {nutrient}",
        name,
        choices,
        right,
    )


def weigh_first(dice: Random, ground: Ground) -> Exercise:
    """Which line is worth weighing first for a figure."""
    _, dish = ground.dish(dice)
    nutrient = dice.choice(HEADLINE)
    shares = dish.doubts(nutrient)
    if not shares or not dish.totals.serving[nutrient].complete:
        raise NoExercise("nothing of it is in doubt")
    top = shares[0]
    share_of = {share.line_id: share.share for share in shares}
    known = {line_name(p): share_of.get(p.line.id, 0.0) for p in dish.portions if p.known}
    right_name = line_name(dish.portion(top.line_id))
    wrong = [
        n for n, share in known.items() if n != right_name and share < top.share - CLEARER_SHARE
    ]
    if len(wrong) < 2:
        raise NoExercise("no line stands out")
    dice.shuffle(wrong)
    choices, right = chosen(dice, right_name, wrong[:WRONG])
    name, unit = BY_ID[nutrient].said, BY_ID[nutrient].unit
    low, high = (
        nutrient_amount(nutrient, end) for end in (top.low_if_weighed, top.high_if_weighed)
    )
    return Exercise(
        "weigh-first",
        f"You may weigh one line of {dish.recipe.title} to be surer of its {name}. Which first?",
        "% of the doubt",
        Range.exact(100 * top.share),
        (
            f"{right_name}: {100 * top.share:.0f}% of the doubt comes from its amount",
            *(f"{n}: {100 * known[n]:.0f}%" for n in wrong[:WRONG]),
            f"weighed, a serving is {low} to {high} {unit}",
        ),
        f"{dish.recipe.title} {nutrient}",
        name,
        choices,
        right,
    )


def keep(dice: Random, ground: Ground) -> Exercise:
    """How many days a dish keeps."""
    _, dish = ground.dish(dice)
    found = keeping(dish, ground.knowledge.work)
    parts = [f"{part.rule.component}: {part.days} days" for part in found.parts[:4]]
    return Exercise(
        "keep",
        f"How many days does {dish.recipe.title} keep at 5 °C, the day of making counted as the"
        " first? 0 is the same meal. Local food codes decide.",
        "days",
        Range.exact(float(found.days)),
        (*parts, f"the shortest counts: {found.decided_by}, {found.days}"),
        dish.recipe.title,
        "keep times",
    )


def word(dice: Random, ground: Ground) -> Exercise:
    """Whether a claim may stand on the card."""
    _, dish = ground.dish(dice)
    regime = dice.choice(list(REGIMES))
    told = [c for c in claims_of(dish, regime) if c.holds is not None and c.at is not None]
    if not told:
        raise NoExercise("no claim can be said of it")
    holding = [c for c in told if c.holds]
    claim = dice.choice(holding if holding and dice.random() < 0.5 else told)
    assert claim.at is not None
    choices = ("it may", "it may not")
    return Exercise(
        "word",
        f"May “{claim.words}” stand on the card of {dish.recipe.title}, by {REGIMES[regime]}?",
        "",
        Range.exact(claim.at.value),
        (
            f"the rule: {claim.rule}",
            claim.why,
            *((f"beside it: {claim.drags}",) if claim.drags else ()),
        ),
        f"{dish.recipe.title} {regime.value} {claim.id}",
        "claims",
        choices,
        0 if claim.holds else 1,
    )


def missing(dice: Random, ground: Ground) -> Exercise:
    """A dish is made without one line: which taste it then lacks most."""
    _, dish = ground.dish(dice)
    known = [p for p in dish.portions if p.known and not p.batch_line and p.in_bowl.value > 0]
    if len(known) < 3:
        raise NoExercise("too few lines")
    left_out = dice.choice(known)
    without = ground.work_out(dish.recipe.without_line(left_out.line.id))
    steps = steps_outside(without, ground.knowledge)
    low = sorted((step, axis) for axis, step in steps.items())
    if not low or low[0][0] > LACKS:
        raise NoExercise("nothing is lacking")
    wrong = [axis for step, axis in low[1:] if step >= NO_LACK]
    if len(wrong) < 2 or (len(low) > 1 and low[1][0] < low[0][0] + 0.5):
        raise NoExercise("more than one taste is lacking")
    dice.shuffle(wrong)
    lacks = low[0][1]
    choices, right = chosen(dice, AXIS[lacks].name, [AXIS[axis].name for axis in wrong[:WRONG]])
    window = windows_of(without, ground.knowledge)[lacks]
    value = without.flavor[lacks].value
    return Exercise(
        "missing",
        f"{dish.recipe.title} is made without its {line_name(left_out)}. Which taste does it lack"
        " most?",
        "steps",
        Range.exact(-low[0][0]),
        (
            (
                f"{AXIS[lacks].name}: {-low[0][0]:.1f} noticeable steps below where such dishes are"
                " liked"
            ),
            f"it has {value:.2f}, liked are {window.low:.2f} to {window.high:.2f}",
            *(
                f"{AXIS[axis].name}: no less than such dishes are liked with"
                for axis in wrong[:WRONG]
            ),
        ),
        f"{dish.recipe.title} {left_out.line.id}",
        "balance",
        choices,
        right,
    )
