"""A plan of given steps, worked out whole: what they do together, exactly."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.flavor.drift import Drift, with_texture
from fresh_ladle.core.nutrients.targets import Target, target_status
from fresh_ladle.core.plans.decision import Lever, sentence
from fresh_ladle.core.plans.plan import Plan, PlanStep, with_steps
from fresh_ladle.core.plans.textured import texture_between
from fresh_ladle.core.swaps.effect import effect_of
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between


def felt_between(after: Appraisal, original: Appraisal, knowledge: Knowledge) -> Drift:
    """Steps of taste, smell and texture from the original to a version."""
    carriers = knowledge.sense.carriers.get(original.recipe.kind, ())
    return with_texture(drift_between(after, original), texture_between(after, original, carriers))


def plan_of_steps(
    name: str,
    why: str,
    steps: Sequence[PlanStep],
    now: Appraisal,
    original: Appraisal,
    targets: Collection[Target],
    knowledge: Knowledge,
    lever: Lever = Lever.LESS,
    only: Collection[str] | None = None,
) -> Plan:
    """The plan of these steps on a version, or of those of them with the named ids. Without a `why`
    it says its decisions in one sentence. Raises RecipeError where a line that a step changes is
    gone."""
    taken = tuple(step for step in steps if only is None or step.id in only)
    effect = effect_of(now, with_steps(now.recipe, taken), original, knowledge)
    return Plan(
        name,
        why or sentence([step.decision or step.text for step in taken]),
        taken,
        effect.after,
        felt_between(effect.after, original, knowledge),
        {t: target_status(effect.after.figure_for(t), t).probability for t in targets},
        effect.brings,
        effect.new_cautions,
        effect.pitfalls,
        lever,
    )
