"""Variations of a dish, computed: what can stand in for a line, with what it does to figures,
allergens and taste."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fresh_ladle.core.catalogue.knowledge import Knowledge
from fresh_ladle.core.catalogue.swap import Swap
from fresh_ladle.core.flavor.drift import noticed_words
from fresh_ladle.core.foods.nutrient import BY_ID, HEADLINE
from fresh_ladle.core.nutrients.wording import signed
from fresh_ladle.core.recipes.recipe import Line, RecipeError
from fresh_ladle.core.service.naming import noun_of
from fresh_ladle.core.swaps.apply import AppliedSwap, applied_swap, swaps_for
from fresh_ladle.core.whole.appraisal import Appraisal
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.words.sentences import listed

WHOLE = 0.999
"""Of a line: a variation is for who has none of it."""
SAID_SHARE = {
    "energy_kcal": (25, 0.1), "sodium_mg": (20, 0.1), "fat_g": (1.5, 0.1), "fiber_g": (0.8, 0.1),
    "protein_g": (1.5, 0.1),
}  # fmt: skip
"""From how much on a change is said: in the unit of the figure, and as a share of it."""
MOST_TASTES = 2
WATER = "water"
"""Everybody has it."""
MOST_OFFERED, MOST_CHOSEN = 12, 4
USUAL_CHOICE = 2


@dataclass(frozen=True, slots=True)
class Variation:
    """One line swapped whole. `key` names line and swap; `effect` is that of the swap drawer."""

    key: str
    without: str
    instead: str
    effect: AppliedSwap
    says: str

    @property
    def words(self) -> str:
        """`No tahini? Sunflower-seed butter: +20 mg sodium; contains no sesame.`"""
        return f"No {self.without}? {self.instead}: {self.says}."


def variations(dish: Appraisal, original: Appraisal, knowledge: Knowledge) -> list[Variation]:
    """Those the catalogue knows for whole lines, that bring no allergen and cost little taste
    first, one line after the other."""
    by_line: dict[str, list[Variation]] = {}
    for line in dish.recipe.lines:
        for swap in swaps_for(line, dish.recipe, knowledge) if line.food != WATER else ():
            if swap.share < WHOLE or not swap.incoming or _is_the_same(line, swap, dish, knowledge):
                continue
            try:
                made = applied_swap(dish, line.id, swap, knowledge, original)
            except RecipeError:
                continue
            by_line.setdefault(line.id, []).append(_variation(dish, made))
    for found in by_line.values():
        found.sort(key=lambda v: _cost_of_taste(dish, v))
    ranked: list[Variation] = []
    depth = max((len(found) for found in by_line.values()), default=0)
    for place in range(depth):
        ranked += sorted(
            (found[place] for found in by_line.values() if len(found) > place),
            key=lambda v: _cost_of_taste(dish, v),
        )
    return ranked[:MOST_OFFERED]


def _is_the_same(line: Line, swap: Swap, dish: Appraisal, knowledge: Knowledge) -> bool:
    """Whether what comes in is called as what goes out: who has no mustard has no mustard of
    another kind."""
    noun, food = noun_of(line.named or line.text), dish.portion(line.id).food
    coming = [c.resolved(food, knowledge.pantry) for c in swap.incoming if food is not None]
    return any(
        new is not None and noun in [noun_of(w) for w in new.kitchen_name.split()] for new in coming
    )


def chosen_variations(offered: Sequence[Variation], keys: Sequence[str] | None) -> list[Variation]:
    """Those the educator picked, as far as the dish still has them; the first two where nobody
    picked."""
    if keys is None:
        return list(offered[:USUAL_CHOICE])
    return [v for v in offered if v.key in keys][:MOST_CHOSEN]


def _cost_of_taste(dish: Appraisal, variation: Variation) -> tuple[int, float, str]:
    effect = variation.effect.effect
    return (
        len(effect.brings) + len(effect.new_cautions),
        drift_between(effect.after, dish).total,
        variation.key,
    )


def _variation(dish: Appraisal, made: AppliedSwap) -> Variation:
    line = made.line
    had = {line.id for line in dish.recipe.lines}
    fresh = [new for new in made.effect.after.recipe.lines if new.id not in had]
    instead = listed([new.text for new in fresh])
    says = [
        *_figure_words(dish, made.effect.change),
        *_allergen_words(dish, made),
        *_taste_words(dish, made),
    ]
    return Variation(
        f"{line.id}|{made.swap.id}",
        line.named or line.text,
        instead[:1].upper() + instead[1:],
        made,
        "; ".join(says) if says else "about the same figures and taste",
    )


def _figure_words(dish: Appraisal, change: Mapping[str, float]) -> list[str]:
    """The changes of a serving that are worth saying, as in the swap drawer."""
    said = []
    for nutrient in HEADLINE:
        least, share = SAID_SHARE[nutrient]
        had = dish.totals.serving[nutrient]
        if had.complete and abs(change[nutrient]) >= max(least, share * had.value):
            name = "" if nutrient == "energy_kcal" else f" {BY_ID[nutrient].said}"
            said.append(f"{signed(nutrient, change[nutrient])}{name}")
    return [", ".join(said)] if said else []


def _allergen_words(dish: Appraisal, made: AppliedSwap) -> list[str]:
    after = made.effect.after
    has = {a.id for a in (*after.allergens, *after.may_contain)}
    gone = (
        [a.name for a in dish.allergens if a.id not in has] if not after.allergens_unchecked else []
    )
    said = (
        [f"contains {listed([a.name for a in made.effect.brings])}"] if made.effect.brings else []
    )
    return [*said, *([f"contains no {listed(gone)}"] if gone else [])]


def _taste_words(dish: Appraisal, made: AppliedSwap) -> list[str]:
    """What tasters would say against this dish, the largest change first."""
    return noticed_words(drift_between(made.effect.after, dish))[:MOST_TASTES]
