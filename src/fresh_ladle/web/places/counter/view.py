"""The Counter: the recipe at work, seen through the lens, with rungs, tilt, cautions and the one
thing worth weighing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from fresh_ladle.core.amounts.bowl import Portion, eaten_by_method
from fresh_ladle.core.cautions.allergens import Allergen
from fresh_ladle.core.cautions.caution import STANDING_NOTE, RaisedCaution
from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.totals import UncertaintyShare
from fresh_ladle.core.nutrients.wording import (
    display_amount,
    grams_range_text,
    nutrient_amount,
    story,
    sureness,
    weight_text,
)
from fresh_ladle.core.ranges import Range
from fresh_ladle.core.recipes import dishes
from fresh_ladle.core.recipes.changes import former_names, name_of
from fresh_ladle.core.recipes.edits import Edit, EditKind, edit_words, edits_words
from fresh_ladle.core.recipes.recipe import Line, Recipe
from fresh_ladle.core.service.naming import changed_words, names_of_lines
from fresh_ladle.core.swaps.apply import swaps_for
from fresh_ladle.core.swaps.pitfalls import Pitfall, pitfalls_of_recipe
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.exclusions import Broken, broken_exclusions
from fresh_ladle.core.whole.questions import Question
from fresh_ladle.core.whole.school_standing import SchoolStanding, school_standing
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.recipes.drafts import Draft
from fresh_ladle.store.recipes.profiles import Profile
from fresh_ladle.web.shared.lens import (
    LensChoices,
    LensMark,
    lens_choices,
    lens_marks,
    lens_name,
    lens_unit,
)
from fresh_ladle.web.shared.method_view import WAYS
from fresh_ladle.web.shared.questions import lens_figure, open_questions
from fresh_ladle.web.shared.target_status import (
    Rung,
    Tilt,
    VersionFigures,
    other_limits,
    rung_views,
    tilt_view,
)
from fresh_ladle.web.state import Workbench

SURE_OF_NAME = 0.5
"""A guessed amount caps what a line's confidence can be at 0.6: from here on the name itself is in
no doubt."""


@dataclass(frozen=True, slots=True)
class LineView:
    """One line as the Counter shows it."""

    id: str
    amount: str
    name: str
    read_as: str
    food: str | None
    text: str
    notes: tuple[str, ...]
    grams: str
    grams_range: str
    sure: str
    problem: str | None
    mark: LensMark | None
    swaps: int
    inside: bool = False
    panel: LinePanel | None = None
    unsaid: str = ""
    """What stands where no amount was given."""
    breaks: str = ""
    """What that must not be in the dish the line brings."""


@dataclass(frozen=True, slots=True)
class LinePanel:
    """What can be changed on an opened line. `preparations` pairs id with words, `others` can be
    put on, `foods` are what the line may be counted as; `by_method` is what the method makes of it,
    each with the step that does."""

    foods: tuple[tuple[str, str], ...]
    preparations: tuple[tuple[str, str], ...]
    others: tuple[tuple[str, str], ...]
    eaten: str
    component: str
    components: tuple[str, ...]
    batch: bool
    by_method: tuple[tuple[str, str], ...] = ()


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
    lenses: LensChoices
    components: list[tuple[str, list[LineView]]]
    rungs: list[Rung]
    tilt: Tilt
    questions: list[QuestionView]
    more_questions: int
    weighing: Weighing | None
    allergens: list[Allergen]
    may_contain: list[Allergen]
    allergens_unchecked: list[str]
    cautions: list[RaisedCaution]
    standing_note: str
    profile: Profile | None
    school: str
    school_standing: str
    kinds: list[dishes.DishKind]
    unknown_lines: int
    serving_by: str
    serving_value: str
    yield_value: str
    celsius_value: str
    pitfalls: list[Pitfall]
    broken: list[Broken]
    """What must not be in it for whom it is, and is."""
    other_limits: list[tuple[str, str]]
    edits: list[str]
    plans_taken: str
    changed_steps: int
    """Steps of the method that name what is something else now, or gone."""


def counter_view(
    workbench: Workbench,
    work: Draft,
    original: Appraisal,
    profile: Profile | None,
    lens: str,
    open_line: str,
    weights: str,
    edits: Sequence[Edit],
) -> CounterView:
    """`open_line` is the id of the line whose panel is open, `weights` the unit of weights, `edits`
    what was done since the last version."""
    now = workbench.appraise(work.recipe)
    recipe = work.recipe
    marks = lens_marks(now, lens)
    broken = broken_exclusions(now, profile.exclusions) if profile else []
    breaking = {line_id: one for one in reversed(broken) for line_id in one.line_ids}
    groups: dict[str, list[LineView]] = {name: [] for name in recipe.components}
    for line in recipe.lines:
        mine = [p for p in now.portions if line.id in (p.line.id, p.batch_line)]
        if line.batch is not None:
            groups[line.component].append(
                _batch_view(line, mine, weights, _panel(line, None, workbench, now, open_line))
            )
        groups[line.component] += [
            replace(
                _line_view(
                    p,
                    workbench,
                    now,
                    marks[p.line.id],
                    weights,
                    _panel(p.line, p, workbench, now, open_line),
                ),
                breaks=_breaks_words(breaking.get(p.line.id)),
            )
            for p in mine
        ]
    targets = profile.targets if profile else ()
    school = workbench.schools.get(profile.school) if profile else None
    asked = [_question_view(q) for q in open_questions(workbench, now, lens, targets)]
    return CounterView(
        recipe_id=work.recipe_id,
        title=recipe.title,
        kind=dishes.BY_ID[recipe.kind].name,
        kind_id=recipe.kind,
        servings=f"{now.totals.servings:.3g}",
        serving_grams=f"{now.totals.serving_grams:,.0f} g",
        based_on=f"version {work.based_on.number}, {work.based_on.name}" if work.based_on else "",
        changed=work.changed,
        revision=work.revision,
        undo=None if work.undo is None else edits_words(work.undo),
        redo=None if work.redo is None else edits_words(work.redo),
        lens=lens,
        lens_name=lens_name(lens),
        lens_unit=lens_unit(lens),
        lenses=lens_choices(lens, (t.nutrient for t in targets)),
        components=list(groups.items()),
        rungs=rung_views(VersionFigures.of(now, original), targets),
        tilt=tilt_view(now, original, knowledge=workbench.knowledge),
        questions=asked[:3],
        more_questions=max(0, len(asked) - 3),
        weighing=_weighing(now, lens),
        allergens=now.allergens,
        may_contain=now.may_contain,
        allergens_unchecked=now.allergens_unchecked,
        cautions=now.cautions,
        standing_note=STANDING_NOTE,
        profile=profile,
        school=school.name if school else "",
        school_standing=_standing_words(school_standing(now, school)) if school else "",
        kinds=list(dishes.KINDS),
        unknown_lines=len(now.problems),
        serving_by=_serving_by(recipe)[0],
        serving_value=_serving_by(recipe)[1],
        yield_value=f"{recipe.yield_grams:g}" if recipe.yield_grams else "",
        celsius_value="" if recipe.served_celsius is None else f"{recipe.served_celsius:g}",
        pitfalls=pitfalls_of_recipe(now, workbench.knowledge.pitfalls, school, targets),
        broken=broken,
        other_limits=other_limits(VersionFigures.of(now, original), targets),
        edits=story(edits),
        plans_taken=_plans_taken(edits),
        changed_steps=_changed_steps(original.recipe, now),
    )


def _changed_steps(original: Recipe, now: Appraisal) -> int:
    former, names = former_names(original, now.recipe), names_of_lines(now.portions)
    return sum(1 for step in now.recipe.method if former and changed_words(step, names, former))


def _standing_words(standing: SchoolStanding) -> str:
    """`kept`, or which lines the school would not have and why."""
    said = [f"{name} ({why})" for name, why in standing.against]
    if standing.kept:
        return "kept"
    against = f"not kept by {listed(said)}" if said else "cannot be told"
    return f"{against}; not known: {listed(standing.unknown)}" if standing.unknown else against


def _breaks_words(broken: Broken | None) -> str:
    if broken is None:
        return ""
    return f"✕ {broken.name}" if broken.sure else f"? {broken.name}: read the pack"


def _plans_taken(edits: Sequence[Edit]) -> str:
    taken = [
        edit_words(edit).removeprefix("plan: ") for edit in edits if edit.kind is EditKind.PLAN
    ]
    return f"From the plan {' and '.join(taken)}." if taken else ""


def _panel(
    line: Line, portion: Portion | None, workbench: Workbench, now: Appraisal, open_line: str
) -> LinePanel | None:
    if line.id != open_line:
        return None
    recipe, labels = now.recipe, workbench.knowledge.preparations.labels
    found = (
        workbench.reader.read_line(line.text, line.component, recipe.region)
        if line.batch is None
        else []
    )
    foods = [(c.food, c.name) for r in found[:1] for c in r.alternatives if c.food != line.food]
    on = {p.id: f"{p.label}: {p.note}" for p in portion.preparations} if portion else {}
    return LinePanel(
        tuple(foods),
        tuple((p, on.get(p, labels.get(p, p))) for p in line.preparations),
        tuple((p, label) for p, label in labels.items() if p not in line.preparations),
        f"{_eaten(line, now) * 100:.3g}",
        line.component,
        tuple(recipe.components),
        line.batch is not None,
        _by_method(portion, now) if portion else (),
    )


def _eaten(line: Line, now: Appraisal) -> float:
    """The share that is eaten: as a person or the line says, else as the method makes it."""
    outcome = now.process.outcomes.get(line.id)
    said = outcome is None or line.eaten != 1 or "eaten" in line.settled
    return line.eaten if said or outcome is None else outcome.eaten.value


def _by_method(portion: Portion, now: Appraisal) -> tuple[tuple[str, str], ...]:
    """What the method does to a line that the line does not say, and where its parts go."""
    own = portion.line.preparations
    done = [
        (f"{p.label}: {p.note}", "")
        for p in portion.preparations
        if p.changes_figures and p.id not in own
    ]
    return (*done, *_fates(portion, now))


_LEAST_SHOWN = 0.03
"""The share of a line from which it is said that it goes another way."""


def _fates(portion: Portion, now: Appraisal) -> list[tuple[str, str]]:
    """What of a line is not simply eaten, in three words, each with why; none where a person has
    said what is eaten."""
    outcome, line = now.process.outcomes.get(portion.line.id), portion.line
    if outcome is None or not eaten_by_method(line, portion.preparations):
        return []
    return [
        (f"{share.value * 100:.0f}% {WAYS[fate]}", outcome.because.get(fate, ""))
        for fate, share in outcome.fates.items()
        if share.value >= _LEAST_SHOWN
    ]


def _line_view(
    portion: Portion,
    workbench: Workbench,
    now: Appraisal,
    mark: LensMark,
    weights: str,
    panel: LinePanel | None,
) -> LineView:
    line = portion.line
    notes = [p.label for p in portion.preparations if p.changes_figures or p.id == "trim"]
    notes += [said for said in line.remarks if not any(said in n or n in said for n in notes)][:2]
    notes += [str(aside) for aside in sorted(line.asides)]
    notes += (
        [f"{line.eaten * 100:.0f}% eaten" if line.eaten else "left out"] if line.eaten < 1 else []
    )
    notes += [words for words, _ in _fates(portion, now)]
    return LineView(
        id=line.id,
        amount=display_amount(line.amount),
        name=name_of(line),
        read_as=portion.food.name if portion.food else "",
        food=line.food,
        text=line.text,
        notes=tuple(dict.fromkeys(notes)),
        grams=(
            ("≈ " if portion.estimated else "") + weight_text(portion.in_bowl, weights)
            if portion.known
            else "? g"
        ),
        grams_range=grams_range_text(portion.in_bowl) if portion.known else "",
        # A guess shows itself by its ≈; only a doubtful name is left to mark.
        sure=(
            "clear"
            if portion.estimated and line.confidence >= SURE_OF_NAME
            else sureness(line.confidence)
        ),
        problem=portion.problem,
        mark=mark,
        swaps=(
            len(swaps_for(line, now.recipe, workbench.knowledge))
            if portion.known and not portion.batch_line
            else 0
        ),
        inside=portion.batch_line is not None,
        panel=panel,
        unsaid=line.said_amount,
    )


def _batch_view(
    line: Line, inside: Sequence[Portion], weights: str, panel: LinePanel | None
) -> LineView:
    """The line that brings a batch in; the lines of the batch follow it and are changed in their
    own recipe."""
    assert line.batch is not None
    grams = Range.exact(sum(p.in_bowl.value for p in inside))
    return LineView(
        line.id,
        display_amount(line.amount),
        f"of {line.batch.recipe.title}",
        "",
        None,
        line.text,
        ("used as it was kept",),
        weight_text(grams, weights),
        "",
        "clear",
        None,
        None,
        0,
        panel=panel,
        unsaid=line.said_amount,
    )


def _serving_by(recipe: Recipe) -> tuple[str, str]:
    """How a serving is fixed, and the number that fixes it."""
    if recipe.serving_grams is not None:
        return "grams", f"{recipe.serving_grams:g}"
    if recipe.serving_ml is not None:
        return "ml", f"{recipe.serving_ml:g}"
    return "count", f"{recipe.servings:g}"


def _question_view(question: Question) -> QuestionView:
    nutrient = BY_ID[question.nutrient]
    stake = (
        f"± {nutrient_amount(nutrient.id, question.stake)} {nutrient.unit} {nutrient.said} a"
        " serving"
    )
    answers = [a.label for a in question.answers]
    return QuestionView(question.line_id, question.about, question.text, stake, answers)


def _weighing(now: Appraisal, lens: str) -> Weighing | None:
    """Named only when one line causes a good part of the doubt and weighing it would be worth the
    trouble."""
    nutrient = lens_figure(lens)
    doubts: list[UncertaintyShare] = now.doubts(nutrient)
    figure = now.totals.serving[nutrient]
    if (
        not doubts
        or figure.value <= 0
        or (figure.high - figure.low) / figure.value < 0.08
        or doubts[0].share < 0.25
    ):
        return None
    top = doubts[0]
    if "/" in top.line_id:
        return None
    unit = BY_ID[nutrient].unit
    return Weighing(
        top.line_id,
        top.name,
        BY_ID[nutrient].said,
        f"{top.share * 100:.0f}%",
        f"{nutrient_amount(nutrient, figure.low)} to {nutrient_amount(nutrient, figure.high)}"
        f" {unit}",
        f"{nutrient_amount(nutrient, top.low_if_weighed)} to"
        f" {nutrient_amount(nutrient, top.high_if_weighed)} {unit}",
    )
