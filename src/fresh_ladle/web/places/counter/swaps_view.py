"""Moves worked out for the recipe at hand: the swaps of a line, the swaps for a goal, repairs, and
the compared."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from fresh_ladle.core.catalogue.incoming import Placement
from fresh_ladle.core.catalogue.school import BY_ID as SCHOOLS
from fresh_ladle.core.cautions.allergens import may_come_in
from fresh_ladle.core.flavor.drift import drift_sentence, noticed_axes
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Target, target_status
from fresh_ladle.core.nutrients.wording import display_amount, nutrient_amount, signed, status_text
from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.swaps.apply import AppliedSwap, applied_swap, ranked, swaps_for
from fresh_ladle.core.swaps.belonging import belonging_of
from fresh_ladle.core.swaps.effect import Effect
from fresh_ladle.core.swaps.goals import MORE, Goal, belongs, swaps_to_goal
from fresh_ladle.core.swaps.repairs import AppliedRepair, repairs_for
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.store.recipes.profiles import Profile
from fresh_ladle.web.shared.drawings.tilt import strip
from fresh_ladle.web.shared.target_status import Stem, tilt_view
from fresh_ladle.web.state import Workbench

MAX_SHOWN = 12


@dataclass(frozen=True, slots=True)
class FigureChange:
    """What a move does to one figure. `tone` is better, worse or same as far as a target says."""

    name: str
    change: str
    now: str
    verdict: str
    tone: str


@dataclass(frozen=True, slots=True)
class MoveView:
    """One move as the drawer shows it. `take` is where it is made, `pick` names it for
    comparing."""

    title: str
    reason: str
    of: str
    schools: list[str]
    fits_school: bool
    steps: tuple[str, ...]
    figures: list[FigureChange]
    sentence: str
    moved: list[Stem]
    strip: Markup
    total: str
    brings: list[str]
    cautions: list[str]
    pitfalls: list[str]
    repairs: tuple[str, ...]
    limits: str
    take: str
    values: dict[str, str]
    pick: str


@dataclass(frozen=True, slots=True)
class WayView:
    """A way of working that mends something without adding food."""

    title: str
    when: str
    reason: str


SHARES = ((None, "as suggested"), (0.25, "a quarter"), (0.5, "half"), (1.0, "all of it"))


@dataclass(frozen=True, slots=True)
class SwapRow:
    """A swap in one line, to be opened or compared. `open` is where its card is, `pick` names it
    for comparing."""

    title: str
    sentence: str
    total: str
    open: str
    pick: str


@dataclass(frozen=True, slots=True)
class LineSwaps:
    """The swaps of a line in order of sense: `best` whole, `more` that stay this dish as well, and
    `others`, which turn it into another dish."""

    best: list[MoveView]
    more: list[SwapRow]
    others: list[SwapRow]


STAYS_THIS_DISH = 2.0
"""Steps on any axis within which a swap leaves the dish what it is; one that is further off already
may stay there."""
BEST_SHOWN = 3


def line_swaps(
    workbench: Workbench,
    now: Appraisal,
    original: Appraisal,
    line_id: str,
    profile: Profile | None,
    share: float | None,
    lens: str,
) -> LineSwaps:
    """Swaps for a line: those that stay this dish, of the profile's school before others and by how
    far they help the open targets; then the rest in the same order. What worsens the figure under
    the lens, or brings in what does not belong, comes last."""
    line = now.recipe.line(line_id)
    far = max((abs(s) for s in drift_between(now, original).steps.values()), default=0.0)
    most_steps = max(STAYS_THIS_DISH, far)
    made: list[AppliedSwap] = []
    for swap in swaps_for(line, now.recipe, workbench.knowledge):
        # As suggested; or half of that, where only half stays this dish.
        for part in (share,) if share is not None else (swap.share, swap.share / 2):
            try:
                one = applied_swap(now, line_id, swap, workbench.knowledge, original, part)
            except RecipeError:
                continue
            if part in (share, swap.share) or stays_this_dish(one.effect, most_steps):
                made = [m for m in made if m.swap is not swap] + [one]
            if stays_this_dish(one.effect, most_steps):
                break
    targets, belonging = profile.targets if profile else (), belonging_of(now, workbench.knowledge)
    # Salt on the surface only works while the surface stays dry, which few dishes here do: it comes
    # last.
    order = sorted(
        ranked(made, targets),
        key=lambda m: (
            not allowed_by_school(m, profile, workbench),
            not belongs(m, belonging, workbench.knowledge),
            _worsens(m.effect, lens),
            any(i.placement is Placement.ON_TOP for i in m.swap.incoming),
        ),
    )
    sensible = [m for m in order if stays_this_dish(m.effect, most_steps)]
    rest = [m for m in order if m not in sensible]
    best = [swap_view(one, original, profile, workbench) for one in sensible[:BEST_SHOWN]]
    return LineSwaps(best, [_row(m) for m in sensible[BEST_SHOWN:]], [_row(m) for m in rest])


def _worsens(effect: Effect, lens: str) -> bool:
    """Whether a change moves the figure under the lens the wrong way; never under a taste."""
    if lens not in BY_ID:
        return False
    change = effect.change[lens]
    return change < 0 if lens in MORE else change > 0


def stays_this_dish(effect: Effect, most_steps: float = STAYS_THIS_DISH) -> bool:
    """Whether every taste stays within its steps of the original."""
    return all(abs(step) <= most_steps for step in effect.drift.steps.values())


def _row(made: AppliedSwap) -> SwapRow:
    drift = made.effect.drift
    return SwapRow(
        made.swap.title,
        drift_sentence(drift),
        f"{drift.total:.1f} steps",
        f"lines/{made.line.id}/swaps/{made.swap.id}?share={made.share:g}",
        _pick_of(made),
    )


def _pick_of(made: AppliedSwap) -> str:
    return f"{made.line.id}:{made.swap.id}:{made.share:g}"


def goal_views(
    workbench: Workbench, now: Appraisal, original: Appraisal, goal: Goal, profile: Profile | None
) -> list[MoveView]:
    """Swaps of any line for a goal, those of the profile's school first."""
    found = swaps_to_goal(goal, now, original, workbench.knowledge)
    found.sort(key=lambda m: not allowed_by_school(m, profile, workbench))
    return [swap_view(one, original, profile, workbench) for one in found[:MAX_SHOWN]]


def allowed_by_school(made: AppliedSwap, profile: Profile | None, workbench: Workbench) -> bool:
    """Whether a swap is one of the moves of the profile's school and brings in nothing the profile
    leaves out."""
    food = workbench.knowledge.pantry.get(made.line.food)
    incoming = (
        [i.resolved(food, workbench.knowledge.pantry) for i in made.swap.incoming] if food else []
    )
    if profile and not all(new is None or may_come_in(new, profile.exclusions) for new in incoming):
        return False
    school = workbench.schools.get(profile.school) if profile else None
    return (
        school is None or food is None or made.swap.keeps(school, food, workbench.knowledge.pantry)
    )


def swap_view(
    made: AppliedSwap, original: Appraisal, profile: Profile | None, workbench: Workbench
) -> MoveView:
    swap = made.swap
    part = f"{swap.noticed_at * 100:.0f}%"
    return _view(
        made.effect,
        original,
        profile,
        swap.title,
        swap.reason,
        made.line.named or made.line.text,
        [SCHOOLS[s].name for s in swap.schools],
        allowed_by_school(made, profile, workbench),
        swap.repairs,
        f"Noticed from about {part} of the line, fails past {swap.fails_at * 100:.0f}% (a cook's"
        " judgement: taste it).",
        f"lines/{made.line.id}/swaps/{swap.id}",
        {"share": f"{made.share:g}"},
        _pick_of(made),
    )


def repair_views(
    workbench: Workbench, now: Appraisal, original: Appraisal, profile: Profile | None
) -> tuple[list[MoveView], list[WayView]]:
    """Repairs that add food, each computed, and ways of working."""
    school = workbench.schools.get(profile.school) if profile else None
    found = repairs_for(
        now, original, workbench.knowledge, school, profile.targets if profile else ()
    )
    moves = [
        _repair_view(one, one.effect, original, profile) for one in found if one.effect is not None
    ]
    ways = [
        WayView(r.repair.title, r.repair.when, r.repair.reason) for r in found if r.effect is None
    ]
    return moves[:MAX_SHOWN], ways


def _repair_view(
    made: AppliedRepair, effect: Effect, original: Appraisal, profile: Profile | None
) -> MoveView:
    repair = made.repair
    return _view(
        effect,
        original,
        profile,
        repair.title,
        repair.reason,
        "",
        [],
        True,
        (f"When: {repair.when}.",),
        "",
        f"repairs/{repair.id}",
        {"dose": f"{made.dose:g}"},
        "",
    )


def _view(
    effect: Effect,
    original: Appraisal,
    profile: Profile | None,
    title: str,
    reason: str,
    of: str,
    schools: list[str],
    fits_school: bool,
    repairs: Sequence[str],
    limits: str,
    take: str,
    values: dict[str, str],
    pick: str,
) -> MoveView:
    targets = profile.targets if profile else ()
    tilt = tilt_view(effect.after, original)
    stems = {stem.axis: stem for stem in tilt.stems}
    moved = [stems[axis] for axis in noticed_axes(effect.drift)[:4]]
    return MoveView(
        title=title,
        reason=reason,
        of=of,
        schools=schools,
        fits_school=fits_school,
        steps=tuple(display_amount(step) for step in effect.steps),
        figures=[_change(effect, n, targets) for n in HEADLINE],
        sentence=tilt.sentence,
        moved=moved,
        strip=strip(
            [(stem.name, stem.step) for stem in tilt.stems], f"Taste after it: {tilt.sentence}"
        ),
        total=tilt.total,
        brings=[a.said for a in effect.brings],
        cautions=[c.caution.text for c in effect.new_cautions],
        pitfalls=[t.text for t in effect.pitfalls],
        repairs=tuple(repairs),
        limits=limits,
        take=take,
        values=values,
        pick=pick,
    )


def _change(effect: Effect, nutrient: str, targets: tuple[Target, ...]) -> FigureChange:
    change, figure = effect.change[nutrient], effect.after.totals.serving[nutrient]
    after = [
        target_status(effect.after.figure_for(t), t) for t in targets if t.nutrient == nutrient
    ]
    judged = max(after, key=lambda v: v.by, default=None)
    shown = signed(nutrient, change)
    tone = "same"
    if judged and shown[0] in "+−":
        tone = "better" if (change < 0) == (judged.target.side == "at most") else "worse"
    return FigureChange(
        BY_ID[nutrient].name,
        shown,
        f"{nutrient_amount(nutrient, figure.value)} {BY_ID[nutrient].unit}",
        status_text(judged) if judged else "",
        tone,
    )
