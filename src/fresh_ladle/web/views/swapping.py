"""The swaps of one line, each worked out for the recipe at hand."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.appraisal import Appraisal
from fresh_ladle.core.flavor.drift import noticed_axes
from fresh_ladle.core.nutrients.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.targets import Target, verdict
from fresh_ladle.core.recipe import RecipeError
from fresh_ladle.core.school import BY_ID as SCHOOLS
from fresh_ladle.core.swaps.effect import SwapEffect, ranked, swap_effect, swaps_for
from fresh_ladle.store.profiles import Profile
from fresh_ladle.web.state import Workbench
from fresh_ladle.web.views.standing import Stem, tilt_view
from fresh_ladle.web.wording import amount_of, signed, verdict_text


@dataclass(frozen=True, slots=True)
class FigureChange:
    """What a swap does to one figure. `tone` is better, worse or same as far as a target says."""

    name: str
    change: str
    now: str
    verdict: str
    tone: str


@dataclass(frozen=True, slots=True)
class SwapView:
    id: str
    title: str
    reason: str
    schools: list[str]
    fits_school: bool
    steps: tuple[str, ...]
    figures: list[FigureChange]
    sentence: str
    moved: list[Stem]
    total: str
    brings: list[str]
    cautions: list[str]
    repairs: tuple[str, ...]
    limits: str
    share: float


SHARES = ((None, "as suggested"), (0.25, "a quarter"), (0.5, "half"), (1.0, "all of it"))


def swap_views(
    bench: Workbench, now: Appraisal, original: Appraisal, line_id: str, profile: Profile | None, share: float | None
) -> list[SwapView]:
    """Swaps for a line, those of the profile's school first, then by how far they help the open targets."""
    line = now.recipe.line(line_id)
    targets = profile.targets if profile else ()
    effects = []
    for swap in swaps_for(line, now.recipe, bench.knowledge):
        try:
            effects.append(swap_effect(now, line_id, swap, bench.knowledge, original.flavor, share))
        except RecipeError:
            continue
    school = profile.school if profile else None
    views = [_view(effect, original, targets, school) for effect in ranked(effects, targets)]
    return sorted(views, key=lambda v: not v.fits_school)


def _view(effect: SwapEffect, original: Appraisal, targets: tuple[Target, ...], school: str | None) -> SwapView:
    swap = effect.swap
    tilt = tilt_view(effect.after, original)
    stems = {stem.axis: stem for stem in tilt.stems}
    part = f"{swap.noticed_at * 100:.0f}%"
    return SwapView(
        id=swap.id, title=swap.title, reason=swap.reason, schools=[SCHOOLS[s].name for s in swap.schools],
        fits_school=school is None or school in swap.schools, steps=effect.steps,
        figures=[_change(effect, n, targets) for n in HEADLINE], sentence=tilt.sentence,
        moved=[stems[axis] for axis in noticed_axes(effect.drift)[:4]], total=tilt.total,
        brings=[a.name for a in effect.brings], cautions=[c.caution.text for c in effect.new_cautions], repairs=swap.repairs,
        limits=f"Noticed from about {part} of the line, fails past {swap.fails_at * 100:.0f}% (a cook's judgement: taste it).",
        share=effect.share,
    )  # fmt: skip


def _change(effect: SwapEffect, nutrient: str, targets: tuple[Target, ...]) -> FigureChange:
    change, figure = effect.change[nutrient], effect.after.totals.serving[nutrient]
    target = next((t for t in targets if t.nutrient == nutrient), None)
    judged = verdict(figure, target) if target else None
    shown = signed(nutrient, change)
    tone = "same"
    if target and shown[0] in "+−":
        tone = "better" if (change < 0) == (target.side == "at most") else "worse"
    return FigureChange(
        BY_ID[nutrient].name,
        shown,
        f"{amount_of(nutrient, figure.value)} {BY_ID[nutrient].unit}",
        verdict_text(judged) if judged else "",
        tone,
    )
