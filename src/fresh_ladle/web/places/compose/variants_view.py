"""A base and its variants side by side: what each adds, its figures with the base as it stands now,
and its taste against the base."""

from __future__ import annotations

from dataclasses import dataclass

from fresh_ladle.core.amounts.variants import added_by, batches_of, behind, with_base
from fresh_ladle.core.flavor.drift import noticed_words
from fresh_ladle.core.foods.nutrient import HEADLINE
from fresh_ladle.core.nutrients.wording import display_amount, figure_text
from fresh_ladle.core.recipes.recipe import Recipe, RecipeError
from fresh_ladle.core.whole.balance import drift_between
from fresh_ladle.core.words.sentences import listed
from fresh_ladle.store.recipes.drafts import Draft
from fresh_ladle.web.state import Workbench


@dataclass(frozen=True, slots=True)
class VariantView:
    """One row: the base itself, or a variant of it. `behind` when it holds the base as it was
    before."""

    recipe_id: int
    title: str
    part: str
    adds: list[str]
    serving: str
    figures: list[str]
    taste: str
    behind: bool


def base_view(workbench: Workbench, base: Draft) -> VariantView:
    return _view(workbench, base, base.recipe, "the base", [], "", False)


def variant_view(workbench: Workbench, variant: Draft, base: Draft) -> VariantView:
    """A variant with the base as its draft stands, whatever it holds itself."""
    recipe = with_base(variant.recipe, base.recipe_id, base.recipe, f"{base.recipe_id}@draft")
    part = listed([display_amount(x.amount) for x in batches_of(recipe, base.recipe_id)])
    adds = [display_amount(x.text) for x in added_by(recipe, base.recipe_id)]
    steps = drift_between(workbench.appraise(recipe), workbench.appraise(base.recipe))
    taste = listed(noticed_words(steps)[:3]) or "tasters may not notice"
    return _view(
        workbench,
        variant,
        recipe,
        part,
        adds,
        taste,
        behind(variant.recipe, base.recipe_id, base.recipe),
    )


def _view(
    workbench: Workbench,
    shown: Draft,
    recipe: Recipe,
    part: str,
    adds: list[str],
    taste: str,
    is_behind: bool,
) -> VariantView:
    totals = workbench.appraise(recipe).totals
    return VariantView(
        shown.recipe_id,
        recipe.title,
        part,
        adds,
        f"{totals.servings:g} of {totals.serving_grams:.0f} g",
        [figure_text(n, totals.serving[n]) for n in HEADLINE],
        taste,
        is_behind,
    )


def variant_views(workbench: Workbench, variants: list[Draft], base: Draft) -> list[VariantView]:
    """All that can hold the base as it stands; one that the base itself holds by now is left
    out."""
    found = []
    for variant in variants:
        try:
            found.append(variant_view(workbench, variant, base))
        except RecipeError:
            continue
    return found
