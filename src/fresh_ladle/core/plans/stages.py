"""A road to a target that is too far for one change: whole versions, each within a step of taste of
the one before."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from fresh_ladle.core.nutrients.targets import Target, share_past
from fresh_ladle.core.plans.plan import Plan
from fresh_ladle.core.plans.search import Search
from fresh_ladle.core.whole.appraisal import Appraisal

STAGE_STEPS, MAX_STAGES = 1.2, 6
LEAST_PROGRESS = 0.02
"""Share of a limit that a stage has to come nearer; else the road ends."""


def stages_for(search: Search) -> list[Plan]:
    """Versions to serve one after another, each the nearest to the targets that is within a step of
    the one before; the last meets them where the road goes that far. Empty when no stage comes
    nearer."""
    found: list[Plan] = []
    now = search.now
    asked = replace(search.request, most_steps=min(STAGE_STEPS, search.request.most_steps))
    while len(found) < MAX_STAGES and not search.stopped():
        stage = Search(
            now,
            now,
            replace(asked, seconds=max(0.0, search.seconds_left)),
            search.knowledge,
            search.stopped,
        ).nearest(f"Stage {len(found) + 1}", "Hardly more than a step from the version before it.")
        if (
            stage is None
            or missed(stage.after, asked.hard_targets)
            > missed(now, asked.hard_targets) - LEAST_PROGRESS
        ):
            break
        found.append(stage)
        now = stage.after
        if stage.holds(asked.chance):
            break
    return found


def missed(version: Appraisal, targets: Iterable[Target]) -> float:
    """By what shares of their limits a version misses the targets, all together."""
    return sum(max(0.0, share_past(version.figure_for(t).value, t)) for t in targets)
