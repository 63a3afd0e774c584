"""The method of a card: each step with what it names and is no longer so, what no step brings in,
what is kept back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from fresh_ladle.core.bench.thickness import first_guess
from fresh_ladle.core.catalogue.standing import Standing
from fresh_ladle.core.hold.stated_keeping import stated_freezing, stated_keeping, without
from fresh_ladle.core.recipes.aside import Aside
from fresh_ladle.core.recipes.dishes import SALADS
from fresh_ladle.core.service.naming import names_of_lines
from fresh_ladle.core.service.steps import MethodStep, method_steps, reach_words
from fresh_ladle.core.service.task import line_of
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.words.sentences import capitalized, listed

_LAST = frozenset({Aside.GARNISH, Aside.RESERVED})


@dataclass(frozen=True, slots=True)
class CardStep:
    """One step, and what is to be known of it beside its words; empty for nothing."""

    text: str
    note: str


def card_steps(dish: Appraisal, former: Mapping[str, str]) -> list[CardStep]:
    """The steps; what the method names in none is one more at the end. None for a recipe without a
    method."""
    read = method_steps(dish, former)
    if not read:
        return []
    spoken = {line for step in read for line in step.lines}
    # How long it keeps, cold and frozen, is said once, under the steps.
    stated = [*stated_keeping(dish.process), *stated_freezing(dish.process)]
    printed = [(without(step.text, stated), step) for step in read]
    found = [CardStep(text, "; ".join(_notes(step))) for text, step in printed if text]
    names = names_of_lines(dish.portions)
    on_top = {line.id for line in dish.recipe.lines if _LAST & line.asides}
    missing = [
        names[line_of(p)]
        for p in dish.portions
        if p.batch_line is None
        and p.known
        and p.measured.value > 0
        and line_of(p) not in spoken | on_top
        and (p.food is None or p.food.key != "water")
    ]
    # Where no step names anything ("Blend it all"), none is missing.
    if missing and spoken:
        found.append(
            CardStep(f"{capitalized('stir in')} {listed(list(dict.fromkeys(missing)))}.", "")
        )
    return found


def _notes(step: MethodStep) -> list[str]:
    return [note for note in (step.changed, *map(reach_words, step.reach)) if note]


def kept_back_words(dish: Appraisal) -> str:
    """`Keep back for the top: the parsley.`, for lines that say so; empty for none."""
    names = [line.named or line.text for line in dish.recipe.lines if _LAST & line.asides]
    return f"Keep back for the top: {listed(names)}." if names else ""


def serving_words(dish: Appraisal, standings: tuple[Standing, ...]) -> str:
    """What to do with a dip or dressing that something in it thickens as it stands; empty where
    nothing does."""
    if dish.recipe.kind in SALADS:
        return ""
    _, standing = first_guess(dish, standings)
    if standing is None or standing.water_g <= 0:
        return ""
    return (
        "It thickens as it stands: serve it thick to dip into, or stir in water by the spoon until"
        " it pours."
    )
