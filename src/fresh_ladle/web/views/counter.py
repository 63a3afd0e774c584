"""The Counter: the recipe at work, seen through the lens, with rungs, tilt, cautions and the one thing worth weighing."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core import dishes
from fresh_ladle.core.amounts.bowl import Portion
from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.cautions.allergens import Allergen
from fresh_ladle.core.cautions.caution import STANDING_NOTE, RaisedCaution
from fresh_ladle.core.nutrients.nutrient import BY_ID
from fresh_ladle.core.nutrients.totals import Doubt
from fresh_ladle.core.questions import questions
from fresh_ladle.core.recipe import Line, Recipe
from fresh_ladle.core.swaps.making import swaps_for
from fresh_ladle.core.swaps.traps import Trap, standing_traps
from fresh_ladle.store.profiles import Profile
from fresh_ladle.store.recipes import Draft
from fresh_ladle.web.state import Workbench
from fresh_ladle.web.views.lens import LensChoice, LensMark, lens_choices, lens_marks, lens_name, lens_unit
from fresh_ladle.web.views.standing import Rung, Tilt, rung_views, tilt_view
from fresh_ladle.web.wording import amount_of, capitalized, display_amount, grams_range_text, grams_text, sureness


@dataclass(frozen=True, slots=True)
class LineView:
    """One line as the Counter shows it."""

    id: str
    amount: str
    name: str
    read_as: str
    food: str | None
    text: str
    notes: list[str]
    grams: str
    grams_range: str
    sure: str
    problem: str | None
    mark: LensMark | None
    swaps: int
    inside: bool = False


@dataclass(frozen=True, slots=True)
class QuestionView:
    """One question worth a tap, with what is at stake."""

    line_id: str
    about: str
    text: str
    stake: str
    answers: list[str]


@dataclass(frozen=True, slots=True)
class Weighing:
    """The one amount whose weighing would narrow the figure under the lens most."""

    line_id: str
    name: str
    figure: str
    share: str
    now: str
    then: str


@dataclass(frozen=True, slots=True)
class CounterView:
    """Everything the Counter shows."""

    recipe_id: int
    title: str
    kind: str
    kind_id: str
    servings: str
    serving_grams: str
    based_on: str
    changed: bool
    revision: int
    undo: str | None
    redo: str | None
    lens: str
    lens_name: str
    lens_unit: str
    lenses: list[LensChoice]
    components: list[tuple[str, list[LineView]]]
    rungs: list[Rung]
    tilt: Tilt
    questions: list[QuestionView]
    more_questions: int
    weighing: Weighing | None
    allergens: list[Allergen]
    allergens_unchecked: list[str]
    cautions: list[RaisedCaution]
    standing_note: str
    profile: Profile | None
    school: str
    kinds: list[dishes.DishKind]
    unknown_lines: int
    serving_by: str
    serving_value: str
    yield_value: str
    celsius_value: str
    traps: list[Trap]
    plans_taken: str = ""


def counter_view(bench: Workbench, work: Draft, original: Appraisal, profile: Profile | None, lens: str) -> CounterView:
    now = bench.appraise(work.recipe)
    recipe = work.recipe
    marks = lens_marks(now, lens)
    groups: dict[str, list[LineView]] = {name: [] for name in recipe.components}
    for line in recipe.lines:
        mine = [p for p in now.portions if line.id in (p.line.id, p.batch_line)]
        if line.batch is not None:
            groups[line.component].append(_batch_view(line, sum(p.in_bowl.value for p in mine)))
        groups[line.component] += [_line_view(p, bench, now, marks[p.line.id]) for p in mine]
    targets = profile.targets if profile else ()
    school = bench.schools.get(profile.school) if profile else None
    asked = _question_views(bench, now, lens)
    return CounterView(
        recipe_id=work.recipe_id, title=recipe.title, kind=dishes.BY_ID[recipe.kind].name, kind_id=recipe.kind,
        servings=f"{now.totals.servings:.3g}", serving_grams=f"{now.totals.serving_grams:,.0f} g",
        based_on=f"version {work.based_on.number}, {work.based_on.name}" if work.based_on else "", changed=work.changed,
        revision=work.revision, undo=work.undo, redo=work.redo,
        lens=lens, lens_name=lens_name(lens), lens_unit=lens_unit(lens), lenses=lens_choices(),
        components=list(groups.items()),
        rungs=rung_views(now, original, targets), tilt=tilt_view(now, original, knowledge=bench.knowledge),
        questions=asked[:3],
        more_questions=max(0, len(asked) - 3), weighing=_weighing(now, lens), allergens=now.allergens, allergens_unchecked=now.allergens_unchecked, cautions=now.cautions, standing_note=STANDING_NOTE,
        profile=profile, school=school.name if school else "", kinds=list(dishes.KINDS),
        unknown_lines=len(now.problems), serving_by=_serving_by(recipe)[0], serving_value=_serving_by(recipe)[1],
        yield_value=f"{recipe.yield_grams:g}" if recipe.yield_grams else "",
        celsius_value="" if recipe.served_celsius is None else f"{recipe.served_celsius:g}",
        traps=standing_traps(now, bench.knowledge.traps, school, targets),
    )  # fmt: skip


def _line_view(portion: Portion, bench: Workbench, now: Appraisal, mark: LensMark) -> LineView:
    line = portion.line
    notes = [p.label for p in portion.preparations if p.changes_figures or p.id == "trim"]
    notes += [said for said in line.said if not any(said in n or n in said for n in notes)][:2]
    notes += [str(aside) for aside in sorted(line.asides)]
    return LineView(
        id=line.id,
        amount=display_amount(line.amount),
        name=capitalized(line.named or line.text),
        read_as=portion.food.name if portion.food else "",
        food=line.food,
        text=line.text,
        notes=list(dict.fromkeys(notes)),
        grams=("≈ " if portion.estimated else "") + grams_text(portion.in_bowl) if portion.known else "? g",
        grams_range=grams_range_text(portion.in_bowl) if portion.known else "",
        sure="clear" if portion.estimated else sureness(line.confidence),
        problem=portion.problem,
        mark=mark,
        swaps=len(swaps_for(line, now.recipe, bench.knowledge)) if portion.known and not portion.batch_line else 0,
        inside=portion.batch_line is not None,
    )


def _batch_view(line: Line, grams: float) -> LineView:
    """The line that brings a batch in; the lines of the batch follow it and are changed in their own recipe."""
    assert line.batch is not None
    return LineView(
        line.id, display_amount(line.amount), f"of {line.batch.recipe.title}", "", None, line.text, ["used as it was kept"],
        f"{grams:,.0f} g", "", "clear", None, None, 0,
    )  # fmt: skip


def _serving_by(recipe: Recipe) -> tuple[str, str]:
    """How a serving is fixed, and the number that fixes it."""
    if recipe.serving_grams is not None:
        return "grams", f"{recipe.serving_grams:g}"
    if recipe.serving_ml is not None:
        return "ml", f"{recipe.serving_ml:g}"
    return "count", f"{recipe.servings:g}"


def asked_figure(lens: str) -> str:
    """The figure that questions are ranked by: the one under the lens, sodium under a taste."""
    return lens if lens in BY_ID else "sodium_mg"


def _question_views(bench: Workbench, now: Appraisal, lens: str) -> list[QuestionView]:
    nutrient = asked_figure(lens)
    unit, name = BY_ID[nutrient].unit, BY_ID[nutrient].name.lower()
    found = questions(now.portions, now.totals, nutrient, bench.knowledge.pantry, bench.knowledge.doubts)
    return [
        QuestionView(
            q.line_id,
            q.about,
            q.text,
            f"± {amount_of(nutrient, q.stake)} {unit} {name} a serving",
            [a.label for a in q.answers],
        )
        for q in found
    ]


def _weighing(now: Appraisal, lens: str) -> Weighing | None:
    """Named only when one line causes a good part of the doubt and weighing it would be worth the trouble."""
    nutrient = asked_figure(lens)
    doubts: list[Doubt] = now.doubts(nutrient)
    figure = now.totals.serving[nutrient]
    if not doubts or figure.value <= 0 or (figure.high - figure.low) / figure.value < 0.08 or doubts[0].share < 0.25:
        return None
    top = doubts[0]
    if "/" in top.line_id:
        return None
    unit = BY_ID[nutrient].unit
    return Weighing(
        top.line_id, top.name, BY_ID[nutrient].name.lower(), f"{top.share * 100:.0f}%",
        f"{amount_of(nutrient, figure.low)} to {amount_of(nutrient, figure.high)} {unit}",
        f"{amount_of(nutrient, top.low_if_weighed)} to {amount_of(nutrient, top.high_if_weighed)} {unit}",
    )  # fmt: skip
