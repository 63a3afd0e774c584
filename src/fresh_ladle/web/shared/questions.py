"""What is worth asking about a recipe."""

from __future__ import annotations

from collections.abc import Sequence

from fresh_ladle.core.foods.nutrient import BY_ID
from fresh_ladle.core.nutrients.targets import Target
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.questions import Question, questions, watched_figures
from fresh_ladle.web.state import Workbench


def lens_figure(lens: str) -> str:
    """The figure that questions are ranked by: the one under the lens, sodium under a taste."""
    return lens if lens in BY_ID else "sodium_mg"


def open_questions(
    workbench: Workbench, now: Appraisal, lens: str, targets: Sequence[Target]
) -> list[Question]:
    """What is worth asking, for the figure under the lens and for every target that is still
    open."""
    watched = watched_figures(now.totals, lens_figure(lens), targets)
    known = workbench.knowledge
    return questions(now.portions, now.totals, watched, known.pantry, known.ambiguities)
